package bench

import (
	"context"
	"encoding/json"
	"fmt"
	"strings"

	"yatai/core/field"
	"yatai/core/gauge"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/shop"
	"yatai/store"
)

// StudyForm is a crossed study as typed: two or three people, five to ten parts, two or
// three trials. Cells are keyed "person.part.trial", counted from 0; bare numbers are in the
// unit the tool reads in.
type StudyForm struct {
	WriteID, What string
	People        []string
	Parts, Trials int
	Cells         map[string]string
}

// StudyData is a study with the names of who read what.
type StudyData struct {
	People []string `json:"people"`
	Parts  []string `json:"parts"`
	gauge.StudyInput
}

// StudyResult is what a study says of a tool, with its range chart; nil for more than ten trials.
type StudyResult struct {
	gauge.StudyOutput
	Tool   store.Tool
	People []string
	Parts  []string
	Ranges *gauge.Ranges
}

// resultOf works a study out.
func resultOf(tool store.Tool, in StudyData) (StudyResult, error) {
	out, err := gauge.Study(in.StudyInput)
	if err != nil {
		return StudyResult{}, err
	}
	r := StudyResult{StudyOutput: out, Tool: tool, People: in.People, Parts: in.Parts}
	ranges, ok, err := in.Ranges()
	if ok {
		r.Ranges = &ranges
	}
	return r, err
}

// Apart says whose readings of which parts lie further apart than chance keeps them: "Odo at 3".
func (r StudyResult) Apart() []string {
	var out []string
	if r.Ranges == nil {
		return nil
	}
	for _, c := range r.Ranges.Out {
		out = append(out, r.People[c.Person]+" at "+r.Parts[c.Part])
	}
	return out
}

// Text writes a figure of the study, a doubt as all of them, to two figures in the unit the tool reads in.
func (r StudyResult) Text(a quantity.Amount) string { return r.Tool.Roughly(a, length.MM) }

// StudyOf reads a study's form and works it out. Errors are keyed by cell, "person/0",
// "what", "parts" or "trials".
func StudyOf(tool store.Tool, f StudyForm) (StudyData, StudyResult, error) {
	errs := field.Errors{}
	shop.Required(errs, "what", f.What, "what was read, and how?", 100)
	var in StudyData
	var rows []int // of the form, one may be left empty
	for i, p := range f.People {
		if p = shop.Optional(errs, fmt.Sprintf("person/%d", i), p, 60); p != "" {
			in.People, rows = append(in.People, p), append(rows, i)
		}
	}
	if len(in.People) < 2 {
		errs.Addf("person/1", "two people at least")
	}
	if f.Parts < 2 || f.Trials < 2 {
		errs.Addf("parts", "two parts and two readings of each at least")
	}
	for k := range f.Parts {
		in.Parts = append(in.Parts, fmt.Sprint(k+1))
	}
	for _, i := range rows {
		var parts [][]quantity.Amount
		for k := range f.Parts {
			var trials []quantity.Amount
			for r := range f.Trials {
				key := fmt.Sprintf("%d.%d.%d", i, k, r)
				a, err := tool.Parse(f.Cells[key], length.MM)
				errs.Add(key, err)
				trials = append(trials, a)
			}
			parts = append(parts, trials)
		}
		in.Readings = append(in.Readings, parts)
	}
	if err := errs.Err(); err != nil {
		return in, StudyResult{}, err
	}
	out, err := resultOf(tool, in)
	return in, out, err
}

// KeepStudy keeps a study of a tool, worked out by analysis of variance.
func KeepStudy(ctx context.Context, s *shop.Shop, a shop.Actor, tool uint, f StudyForm) error {
	if err := a.Must("check a tool"); err != nil {
		return err
	}
	t, err := s.Store.Read(ctx).Tool(tool)
	if err != nil {
		return err
	}
	in, out, err := StudyOf(t, f)
	if err != nil {
		return err
	}
	data, err := json.Marshal(in)
	if err != nil {
		return err
	}
	_, err = s.Once(ctx, f.WriteID, func(tx store.DB) (string, error) {
		st := store.Study{
			ToolID: tool, What: strings.TrimSpace(f.What), Data: string(data), UNM: out.U(), PersonID: a.ID,
			At: s.Now(),
		}
		if err := tx.Add(&st); err != nil {
			return "", err
		}
		return "", s.NoteAbout(tx, a, shop.About(shop.OfTool, t.ID), "study kept",
			fmt.Sprintf("%s: U %s", t.Name, t.Text(out.U())))
	})
	return err
}

// TakeU puts a study's U into the register: verdicts use it from then on.
func TakeU(ctx context.Context, s *shop.Shop, a shop.Actor, writeID string, tool, study uint) error {
	if err := a.Must("add a tool"); err != nil {
		return err
	}
	_, err := s.Once(ctx, writeID, func(tx store.DB) (string, error) {
		all, err := tx.Studies(tool)
		if err != nil {
			return "", err
		}
		for _, st := range all {
			if st.ID != study {
				continue
			}
			t, err := tx.Tool(tool)
			if err != nil {
				return "", err
			}
			t.StudyU = st.UNM
			t.U = gauge.ToolU(t.CalU, t.StudyU, t.Resolution)
			if err := tx.ChangeTool(t); err != nil {
				return "", err
			}
			if err := tx.TakeStudy(study, s.Now()); err != nil {
				return "", err
			}
			detail := fmt.Sprintf("%s: study %s, U %s", t.Name, t.Text(st.UNM), t.Text(t.U))
			return "", s.NoteAbout(tx, a, shop.About(shop.OfTool, t.ID), "doubt taken from a study", detail)
		}
		return "", shop.ErrNotFound
	})
	return err
}

// Studied is a kept study with what it comes to.
type Studied struct {
	store.Study
	In  StudyData
	Out StudyResult
}

func studied(tool store.Tool, all []store.Study) ([]Studied, error) {
	var out []Studied
	for _, st := range all {
		x := Studied{Study: st}
		if err := json.Unmarshal([]byte(st.Data), &x.In); err != nil {
			return nil, err
		}
		var err error
		if x.Out, err = resultOf(tool, x.In); err != nil {
			return nil, err
		}
		out = append(out, x)
	}
	return out, nil
}
