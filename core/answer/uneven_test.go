package answer_test

import (
	"encoding/json"
	"maps"
	"math/rand/v2"
	"slices"
	"strconv"

	"yatai/core/head"
	"yatai/core/trade"
)

// uneven is a head as shops have them: a sheet with gaps, a stock with some of each, figures nobody noted,
// other schools and settings, parts laid beside it, readings without a tool, read again or by leaves, marks
// that were placed anew. What a head file cannot say is not tried again.
func uneven(r *rand.Rand) *kit {
	k := []func(*rand.Rand) *kit{ill, worked, worked}[r.IntN(3)](r)
	k.sorted()
	for range 12 + r.IntN(16) {
		k.try(r, []func(*kit, *rand.Rand){
			gaps, gaps, noted, stocked, stocked, chosen, marked, taken, byLeaves, laid, renewed, wanted,
		}[r.IntN(12)])
	}
	return k
}

// try changes a head, and takes the change back where the file can then not be read.
func (k *kit) try(r *rand.Rand, change func(*kit, *rand.Rand)) {
	was, err := json.Marshal(k.File)
	if err != nil {
		panic(err)
	}
	change(k, r)
	if _, err := head.Decode(k.sorted()); err != nil {
		k.File = head.File{}
		if err := json.Unmarshal(was, &k.File); err != nil {
			panic(err)
		}
	}
}

// oneOf is one of some things, the same for the same draw.
func oneOf[T any](r *rand.Rand, of []T) T { return of[r.IntN(len(of))] }

func gaps(k *kit, r *rand.Rand) {
	l := &k.Sheet.Limits[r.IntN(len(k.Sheet.Limits))]
	switch r.IntN(5) {
	case 0:
		l.Low = ""
	case 1:
		l.High = ""
	case 2:
		l.Near = ""
	case 3:
		l.Set = oneOf(r, []string{"target", "new", "service"})
	case 4:
		i := r.IntN(len(k.Sheet.Limits))
		k.Sheet.Limits = slices.Delete(k.Sheet.Limits, i, i+1)
	}
}

func noted(k *kit, r *rand.Rand) {
	names := slices.Sorted(maps.Keys(k.Sheet.Figures))
	switch name := oneOf(r, names); r.IntN(3) {
	case 0:
		delete(k.Sheet.Figures, name)
	case 1:
		f := oneOf(r, trade.Figures())
		role := ""
		if r.IntN(2) == 0 {
			role = "/" + oneOf(r, []string{"intake", "exhaust"})
		}
		k.Sheet.Figures[f.Code+role] = oneOf(r,
			[]string{"0.20mm", "0.5mm", "8.50mm", "13.1mm", "40mm", "2", "1.45", "45deg", "120N", "30cc"})
	case 2:
		for role, most := range map[string]string{"intake": "8.36mm", "exhaust": "8.346mm"} {
			k.Sheet.Figures["oversize_stem/"+role] = most
		}
	}
}

func stocked(k *kit, r *rand.Rand) {
	if r.IntN(3) == 0 && len(k.Stock) > 0 {
		s := &k.Stock[r.IntN(len(k.Stock))]
		switch r.IntN(3) {
		case 0:
			s.Count = 0
		case 1:
			s.Price = ""
		case 2:
			s.Role = oneOf(r, []string{"", "intake", "exhaust"})
		}
		return
	}
	kind := oneOf(r, trade.PartKinds())
	k.Stock = append(k.Stock, head.FileStock{
		Kind: kind.Code, Name: kind.Name + " " + strconv.Itoa(len(k.Stock)),
		Role: oneOf(r, []string{"", "", "intake", "exhaust"}), Count: r.IntN(5),
		Size:  oneOf(r, []string{"", "0.5mm", "1mm", "2.45mm", "2.60mm", "7.95mm", "8.5mm", "13.1mm", "46mm"}),
		Price: oneOf(r, []string{"", "4.20", "19.90"}), Days: r.IntN(6),
	})
}

func chosen(k *kit, r *rand.Rand) {
	s := oneOf(r, trade.Settings)
	k.Settings[s.Name] = map[string]string{
		"money": oneOf(r, []string{"0", "48.50", "300.00"}), "percent": oneOf(r, []string{"0", "7.5", "50"}),
		"count":    oneOf(r, []string{"1", "3", "9"}),
		"pressure": oneOf(r, []string{"1bar", "2.5bar", "9kPa"}), "length": oneOf(r, []string{"0.002mm", "0.03mm"}),
		"choice": oneOf(r, append(s.Choices, s.Usual)),
		"share":  oneOf(r, []string{"10", "60"}),
	}[s.Kind]
}

func marked(k *kit, r *rand.Rand) {
	m := head.FileFinding{
		Part: "mark", Grade: oneOf(r, []string{"crack", "leak", "thread", "pit"}), X: strconv.Itoa(10+r.IntN(80)) + "mm",
		Y: strconv.Itoa(10+r.IntN(80)) + "mm",
	}
	if len(k.Findings) > 0 && r.IntN(2) == 0 {
		m.Replaces, m.Stage = 1+r.IntN(len(k.Findings)), oneOf(r, []string{"", "after repair", "final"})
	}
	k.Findings = append(k.Findings, m)
}

func taken(k *kit, r *rand.Rand) {
	x := &k.Readings[r.IntN(len(k.Readings))]
	switch r.IntN(6) {
	case 0:
		x.Tool = ""
	case 1:
		x.U = oneOf(r, []string{"0.001mm", "0.02mm", "0.1mm"})
	case 2:
		x.Suspect = true
	case 3:
		more := *x
		more.Why, more.U = "read twice", ""
		k.Readings = append(k.Readings, more)
	case 4:
		x.Stage = oneOf(r, []string{"after repair", "final"})
	case 5:
		x.By = "Ilka"
	}
}

func byLeaves(k *kit, r *rand.Rand) {
	x := &k.Readings[r.IntN(len(k.Readings))]
	n := 40 + 10*r.IntN(30)
	x.Is, x.Go, x.NoGo = "", um(n), um(n+50)
	if r.IntN(8) == 0 {
		x.Is = um(n)
	}
}

func laid(k *kit, r *rand.Rand) {
	kind := oneOf(r, trade.PartKinds())
	p := head.FilePart{
		Part: kind.Code, At: oneOf(r, append([]string{""}, k.ids...)), New: r.IntN(3) > 0, Missing: r.IntN(5) == 0,
	}
	for range r.IntN(3) {
		c := oneOf(r, trade.Characteristics)
		if p.Is == nil {
			p.Is = map[string]string{}
		}
		p.Is[c.Code] = oneOf(r, []string{"1.75mm", "7.95mm", "8.36mm", "46.1mm", "0.6mm", "210N"})
	}
	k.Parts = append(k.Parts, p)
}

func renewed(k *kit, r *rand.Rand) {
	if r.IntN(2) == 0 {
		k.Head.Theirs = append(k.Head.Theirs, oneOf(r, trade.PartKinds()).Code)
		return
	}
	k.Sheet.Renew = append(k.Sheet.Renew, oneOf(r, trade.PartKinds()).Code)
}

func wanted(k *kit, r *rand.Rand) {
	switch r.IntN(4) {
	case 0:
		k.Ask.Alternative = oneOf(r, []string{"", "keep", "renew", "robust", "cheap"})
	case 1:
		at, part := oneOf(r, k.ids), oneOf(r, []string{"seat", "valve", "guide"})
		k.Ask.Hold = map[string]map[string]string{at: {part: oneOf(r, []string{"keep", "cut", "insert", "new", "hone"})}}
	case 2:
		k.Head.Unit = "in"
	case 3:
		k.Head.Kind = oneOf(r, []string{"failed", "comeback", "bought-in", "rules", "core"})
	}
}
