package shop

import (
	"context"
	"encoding/json"
	"fmt"
	"math/big"
	"slices"
	"strconv"
	"strings"

	"yatai/core/field"
	"yatai/core/quantity"
	"yatai/core/seating"
	"yatai/store"
)

// RecordField is a field of an operation's record. Kind is a quantity, "count", "yes" or text.
type RecordField struct{ Name, Label, Kind, Hint string }

// RecordForm is what is written down while an operation is done, once or at each position.
type RecordForm struct {
	Each   bool
	Fields []RecordField
	judge  func(f *File, set Settings, position string, v map[string]string) (ok bool, say string, err error)
}

// recordForms are the records by operation.
var recordForms = map[string]RecordForm{
	"pressure_test":   {Fields: pressureFields, judge: judgePressure},
	"pressure_retest": {Fields: pressureFields, judge: judgePressure},
	"weld":            {Fields: []RecordField{{"how", "How it was mended", "text", "stitched with 6 mm pins"}, {"by", "Who welded, qualified as", "text", ""}}, judge: allGiven},
	"lap":             {Each: true, Fields: []RecordField{{"paste", "Paste", "text", "coarse, then fine"}, {"passes", "Passes", "count", ""}, {"ring", "Ring full and matte all round", "yes", ""}}, judge: judgeLap},
	"seal_test":       {Each: true, Fields: []RecordField{{"baseline", "Cup blanked, today", "pressure", "84kPa"}, {"vacuum", "Vacuum, turned between", "pressures", "82 82 81 82 kPa"}, {"liquid", "Liquid held, minutes", "count", ""}, {"drop", "Dropped valve bounces", "yes", ""}}, judge: judgeSeal},
	"wash_final":      {Fields: cleanFields, judge: allYes},
	"assemble":        {Fields: []RecordField{{"seals", "New seals on every stem", "yes", ""}, {"order", "Every part in its own place", "yes", ""}, {"keepers", "Keepers seated, springs tapped", "yes", ""}}, judge: allYes},
	"final_check":     {Fields: append(slices.Clone(cleanFields), RecordField{"places", "Parts in their places, nothing left over", "yes", ""}), judge: allYes},
}

var pressureFields = []RecordField{{"pressure", "Pressure", "pressure", "2bar"}, {"water", "Water", "temperature", "60C"}, {"minutes", "Minutes", "count", ""}, {"leaks", "Leaks seen", "count", "place each on the map"}}

var cleanFields = []RecordField{{"guides", "Guides wiped until clean", "yes", ""}, {"threads", "Threads run free", "yes", ""}, {"ways", "Oil and water ways blown through", "yes", ""}}

func judgePressure(_ *File, _ Settings, _ string, v map[string]string) (bool, string, error) {
	n, _ := strconv.Atoi(v["leaks"])
	if n > 0 {
		return false, plural(n, "leak") + ": place them on the map", nil
	}
	return true, "tight at " + v["pressure"] + ", " + v["water"] + ", " + v["minutes"] + " min", nil
}

func allGiven(_ *File, _ Settings, _ string, v map[string]string) (bool, string, error) {
	return true, strings.TrimSpace(v["how"] + ", " + v["by"]), nil
}

func allYes(_ *File, _ Settings, _ string, v map[string]string) (bool, string, error) {
	for name, x := range v {
		if x != "yes" {
			return false, name + " is not done", nil
		}
	}
	return true, "all done", nil
}

// judgeLap: a ring that is not full after the shop's limit of passes means that the seat has
// to be cut; a coated valve is never lapped.
func judgeLap(f *File, set Settings, position string, v map[string]string) (bool, string, error) {
	if strings.Contains(strings.ToLower(f.Model.About), "coated") {
		return false, "", field.Errorf("paste", "coated valves are never lapped")
	}
	n, _ := strconv.Atoi(v["passes"])
	if most := set.Int("lap_limit"); n > most {
		return false, fmt.Sprintf("%d passes, more than %d: cut the seat", n, most), nil
	}
	if v["ring"] != "yes" {
		return false, "the ring has gaps: a shiny arc is a low place", nil
	}
	return true, fmt.Sprintf("full ring after %d passes, %s", n, v["paste"]), nil
}

// sealDrop is how much vacuum a port may lose when the sheet has no limit.
var sealDrop = big.NewRat(5, 1)

// judgeSeal judges a position by the test the shop's school asks for; one at least.
func judgeSeal(f *File, set Settings, position string, v map[string]string) (bool, string, error) {
	var said []string
	ok, any := true, false
	school := set.Get("school.seal")
	if v["vacuum"] != "" {
		base, err := quantity.Parse(v["baseline"], quantity.Pressure)
		if err != nil {
			return false, "", field.Under("baseline", err)
		}
		in := seating.VacuumInput{Baseline: base, Drop: sealDrop}
		unit := strings.TrimLeft(v["vacuum"], "0123456789., ")
		for _, t := range strings.Fields(strings.TrimSuffix(v["vacuum"], unit)) {
			if unit == "" {
				unit = "kPa"
			}
			r, err := quantity.Parse(t+unit, quantity.Pressure)
			if err != nil {
				return false, "", field.Under("vacuum", err)
			}
			in.Readings = append(in.Readings, r)
		}
		if len(in.Readings) < 2 {
			return false, "", field.Errorf("vacuum", "turn the valve and read again: two readings at least")
		}
		out, err := seating.Vacuum(in)
		if err != nil {
			return false, "", err
		}
		any, ok = true, ok && out.Pass != nil && *out.Pass
		said = append(said, "vacuum "+v["vacuum"]+map[string]string{"valve": ": the leak turns with the valve", "seat": ": leaks at every turn, the seat", "": ""}[out.Suspect])
	}
	if v["liquid"] != "" {
		n, _ := strconv.Atoi(v["liquid"])
		any, ok = true, ok && n >= 2
		said = append(said, plural(n, "minute")+" of liquid")
	}
	if v["drop"] == "yes" && school == "drop" {
		any = true
		said = append(said, "bounces")
	}
	if !any || school == "both" && (v["vacuum"] == "" || v["liquid"] == "") {
		return false, "", field.Errorf("vacuum", "this shop tests by %s: at least that is needed", school)
	}
	return ok, strings.Join(said, "; "), nil
}

// check reads the fields of a record.
func (r RecordForm) check(v map[string]string) error {
	for _, fd := range r.Fields {
		text := strings.TrimSpace(v[fd.Name])
		v[fd.Name] = text
		var err error
		switch fd.Kind {
		case "pressure":
			if text != "" || !r.Each {
				_, err = quantity.Parse(text, quantity.Pressure)
			}
		case "temperature":
			_, err = quantity.Parse(text, quantity.Temperature)
		case "count":
			if n, e := strconv.Atoi(text); (text != "" || !r.Each) && (e != nil || n < 0 || n > 10_000) {
				err = field.Errorf("", "a whole number")
			}
		case "text":
			if text == "" || len(text) > 200 {
				err = field.Errorf("", "write it down")
			}
		}
		if err != nil {
			return field.Under(fd.Name, err)
		}
	}
	return nil
}

// RecordWork writes an operation's record, once or for a position, and judges it. What
// fails stops the operation and asks the lead. Errors are keyed "rec/POSITION/FIELD".
func (s *Shop) RecordWork(ctx context.Context, a Actor, writeID, tag string, seq int, rows map[string]map[string]string) error {
	if err := a.must("work an operation"); err != nil {
		return err
	}
	return s.onHead(ctx, writeID, tag, func(tx store.DB, f *File) error {
		o, err := f.operation(seq)
		if err != nil {
			return err
		}
		form, ok := recordForms[o.Code]
		if !ok {
			return ErrNotFound
		}
		if o.State != "running" && o.State != "held" {
			return field.Errors{at(seq): "start it first"}
		}
		values, err := tx.Settings()
		if err != nil {
			return err
		}
		errs := field.Errors{}
		var bad []string
		for position, v := range rows {
			if form.Each && !slices.Contains(o.At(), position) || !form.Each && position != "" {
				return ErrNotFound
			}
			err := form.check(v)
			var okay bool
			var say string
			if err == nil {
				okay, say, err = form.judge(f, Settings{values, tag}, position, v)
			}
			if err != nil {
				errs.Add("rec/"+position+"/"+fieldOf(err), err)
				continue
			}
			v["says"] = say
			data, err := json.Marshal(v)
			if err != nil {
				return err
			}
			if !okay {
				bad = append(bad, strings.TrimSpace(position+" "+say))
			}
			if err := tx.Add(&store.OpRecord{OperationID: o.ID, Kind: o.Code, Position: position, Data: string(data), OK: okay, PersonID: a.ID, At: s.now()}); err != nil {
				return err
			}
		}
		if len(rows) == 0 {
			errs.Addf(at(seq), "nothing was written down")
		}
		if err := errs.Err(); err != nil {
			return err
		}
		if bad != nil && o.State == "running" {
			slices.Sort(bad)
			if _, err := tx.SetOperation(o.ID, "running", map[string]any{"state": "held", "held": strings.Join(bad, "; ")}); err != nil {
				return err
			}
		}
		return s.note(tx, a, f.ID, "recorded", o.Code)
	})
}

// fieldOf is the field an error names.
func fieldOf(err error) string {
	name, _, _ := strings.Cut(err.Error(), ":")
	return name
}

// Asks tells whether finishing an operation asks for a proof or a record.
func Asks(code string) bool {
	_, proof := proofs[code]
	_, record := recordForms[code]
	return proof || record
}

// Recorded returns the last record of an operation's kind at a position, and whether there
// is one.
func (f *File) Recorded(code, position string) (store.OpRecord, bool) {
	for _, r := range slices.Backward(f.Records) {
		if r.Kind == code && r.Position == position {
			return r, true
		}
	}
	return store.OpRecord{}, false
}

// RecordSays is what a record comes to in words.
func RecordSays(r store.OpRecord) string {
	var v map[string]string
	if json.Unmarshal([]byte(r.Data), &v) != nil {
		return ""
	}
	return v["says"]
}
