package trade

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"yatai/core/field"
	"yatai/core/quantity"
	"yatai/core/seating"
	"yatai/core/words"
)

// Field is a field of an operation's record. Kind is a quantity ("pressure", "temperature"),
// "pressures" (several), "count", "yes" or "text". Reads is what it is as a reading: what was
// read of it in a sweep is the record's too, and the other way round.
type Field struct {
	Name, Label, Kind, Hint string

	Reads *Characteristic

	Step     *Step       // of a tightening: what is done
	Tightens *Tightening // and of what
}

// Words are what the field asks, in words.
func (f Field) Words() words.Text {
	if f.Step != nil {
		return words.Of("%s: %s", words.Of(FastenerNamed(f.Tightens.Of).Label), f.Step.Words(false))
	}
	return words.Of(f.Label)
}

// Record is what is written down while an operation is done, once or at each position. Judge
// says whether it passes.
type Record struct {
	Each   bool
	Fields []Field
	Judge  func(v Values, c RecordCase) (Judged, error)
}

// Ticked tells whether all that is written down is said yes to, one by one: what is not is still to be done,
// and nothing has failed.
func (r Record) Ticked() bool {
	return !r.Each && !slices.ContainsFunc(r.Fields,
		func(f Field) bool { return f.Kind != "yes" || f.Reads != nil })
}

// Values are a record's fields as typed.
type Values map[string]string

// RecordCase is what judging a record may hang on.
type RecordCase interface {
	Kind() Kind
	Valve() Valve
	Setting(name string) string
	Limit(c *Characteristic) (low, high *quantity.Amount) // the sheet's, for the position
	ToolU(kind string) quantity.Amount                    // doubt of the shop's tool of that kind
}

// Judged is what a record comes to.
type Judged struct {
	OK   bool
	Says words.Text
	Warn words.Text // something to think about although it passes
}

// All is what it says and what it warns of.
func (j Judged) All() words.Text { return words.Join(" ", j.Says, j.Warn) }

// Check reads the fields of a record: each as its kind wants, none blank but where a record
// at each position has tests to choose from. Errors name the field.
func (r Record) Check(v Values) error {
	for _, f := range r.Fields {
		v[f.Name] = strings.TrimSpace(v[f.Name])
		if err := f.check(v[f.Name], r.Each && f.Reads != nil); err != nil {
			return field.Under(f.Name, err)
		}
	}
	return nil
}

// maxCount bounds a count in a record.
const maxCount = 10_000

func (f Field) check(text string, optional bool) error {
	if text == "" && optional {
		return nil
	}
	switch f.Kind {
	case "pressure":
		_, err := quantity.Parse(text, quantity.Pressure)
		return err
	case "pressures":
		_, err := Pressures(text)
		return err
	case "temperature":
		_, err := quantity.Parse(text, quantity.Temperature)
		return err
	case "count":
		if n, err := strconv.Atoi(text); err != nil || n < 0 || n > maxCount {
			return field.Errorf("", "a whole number")
		}
	case "yes":
		if !slices.Contains([]string{"yes", "no", ""}, text) {
			return field.Errorf("", "yes or no")
		}
	case "text":
		if text == "" || len(text) > 200 {
			return field.Errorf("", "write it down")
		}
	}
	return nil
}

// Pressures reads several pressures apart by spaces; a unit at the end is for all.
func Pressures(text string) ([]quantity.KPa, error) {
	words := strings.Fields(text)
	unit := "kPa"
	if n := len(words); n > 1 && strings.TrimLeft(words[n-1], "0123456789.,-") == words[n-1] {
		unit, words = words[n-1], words[:n-1]
	} else if n > 0 {
		if u := strings.TrimLeft(words[n-1], "0123456789.,-"); u != "" {
			unit = u
		}
	}
	var out []quantity.KPa
	for _, w := range words {
		if strings.TrimLeft(w, "0123456789.,-") == "" {
			w += unit
		}
		var p quantity.KPa
		if err := p.Parse(w); err != nil {
			return nil, err
		}
		out = append(out, p)
	}
	if len(out) == 0 || len(out) > 16 {
		return nil, field.Errorf("", "one to sixteen pressures, apart by spaces")
	}
	return out, nil
}

// The records of tests and of what is done at every head.
var (
	pressureRecord = &Record{Judge: judgePressure, Fields: []Field{
		{Name: "pressure", Label: "Pressure", Kind: "pressure", Hint: "2bar"},
		{Name: "water", Label: "Water", Kind: "temperature", Hint: "60C"},
		{Name: "minutes", Label: "Minutes", Kind: "count"},
		{Name: "leaks", Label: "Leaks seen", Kind: "count", Hint: "place each on the map"}}}
	lapRecord = &Record{Each: true, Judge: judgeLap, Fields: []Field{
		{Name: "paste", Label: "Paste", Kind: "text", Hint: "coarse, then fine"},
		{Name: "passes", Label: "Passes", Kind: "count"},
		{Name: "ring", Label: "Ring full and matte all round", Kind: "yes", Reads: LapRing}}}
	rotatorRecord = &Record{Each: true, Judge: judgeRotator, Fields: []Field{
		{Name: "turns", Label: "Turns smoothly by hand", Kind: "yes"},
		{Name: "mark", Label: "Its paint mark", Kind: "text", Hint: "towards the exhaust"}}}
	sealRecord = &Record{Each: true, Judge: judgeSeal, Fields: []Field{
		{Name: "baseline", Label: "Cup blanked, today", Kind: "pressure", Hint: "84kPa", Reads: VacuumBlanked}, {
			Name:  "vacuum",
			Label: "Vacuum, turned between",
			Kind:  "pressures",
			Hint:  "82 82 81 82 kPa",
			Reads: VacuumTurned,
		},
		{Name: "liquid", Label: "Liquid held, minutes", Kind: "count", Reads: Liquid}, {
			Name:  "drop",
			Label: "Dropped valve bounces",
			Kind:  "yes",
			Hint:  "no: it thuds",
			Reads: Drop,
		}}}
)

// MostPressure is the highest pressure a head is tested at, kPa: trade practice, for safety.
const MostPressure = 300

// judgePressure passes a test at or above the shop's target for the material, for its
// minutes, without a leak.
func judgePressure(v Values, c RecordCase) (Judged, error) {
	var p, target quantity.KPa
	if err := p.Parse(v["pressure"]); err != nil {
		return Judged{}, field.Under("pressure", err)
	}
	if p.Float() > MostPressure {
		return Judged{}, field.Errorf("pressure",
			"more than %d kPa: stored energy kills; low pressure finds every leak", MostPressure)
	}
	if err := target.Parse(c.Setting("test_pressure." + c.Kind().Material)); err != nil {
		return Judged{}, field.Errorf("pressure", "the shop has no target pressure for %s: see Settings",
			words.Of(c.Kind().Material))
	}
	held, _ := minutes(v["minutes"])
	least, _ := minutes(c.Setting("test_minutes"))
	leaks, _ := strconv.Atoi(v["leaks"])
	switch {
	case p.Cmp(target) < 0:
		return Judged{Says: words.Of("%s is less than the %s this shop tests at", v["pressure"],
			c.Setting("test_pressure."+c.Kind().Material))}, nil
	case held < least:
		return Judged{Says: words.Of("%d minutes, and %d are wanted", int(held), int(least))}, nil
	case leaks > 0:
		return Judged{Says: words.Of("%d leaks: place them on the map", leaks)}, nil
	}
	return Judged{
		OK: true, Says: words.Of("tight at %s, water %s, %d min", v["pressure"], v["water"], int(held)),
	}, nil
}

// given is a record of texts: it passes when all of them are there.
func given(fields ...Field) *Record {
	return &Record{Fields: fields, Judge: func(v Values, _ RecordCase) (Judged, error) {
		var said []string
		for _, f := range fields {
			if v[f.Name] != "" {
				said = append(said, v[f.Name])
			}
		}
		return Judged{OK: true, Says: words.Of("%s", strings.Join(said, ", "))}, nil
	}}
}

// done is a record of what has to be said yes to, all of it.
func done(fields ...Field) *Record {
	return &Record{Fields: fields, Judge: func(v Values, _ RecordCase) (Judged, error) {
		var left []words.Text
		for _, f := range fields {
			if v[f.Name] != "yes" {
				left = append(left, f.Words())
			}
		}
		if left != nil {
			return Judged{Says: words.Of("still to be done: %s", words.Join("; ", left...))}, nil
		}
		return Judged{OK: true, Says: words.Of("all done")}, nil
	}}
}

// judgeRotator: one that was taken apart turns by hand when it is together, and where its mark is is known.
func judgeRotator(v Values, _ RecordCase) (Judged, error) {
	if v["turns"] != "yes" {
		return Judged{Says: words.Of("it does not turn smoothly: renew it")}, nil
	}
	return Judged{OK: true, Says: words.Of("it turns; its mark: %s", v["mark"])}, nil
}

// judgeLap: a ring that is full passes whatever the count; many passes are worth a warning.
// Valves that are never lapped are refused.
func judgeLap(v Values, c RecordCase) (Judged, error) {
	switch valve := c.Valve(); {
	case valve.Titanium():
		return Judged{}, field.Errorf("paste", "titanium valves are never lapped")
	case valve.Coated:
		return Judged{}, field.Errorf("paste", "coated valves are never lapped")
	case valve.Hollow:
		return Judged{}, field.Errorf("paste", "hollow valves are never lapped")
	}
	n, most := passes(v["passes"]), passes(c.Setting("lap_limit"))
	if v["ring"] != "yes" {
		if n > most {
			return Judged{Says: words.Of("not full after %s: cut the seat", saidPasses(n))}, nil
		}
		return Judged{Says: words.Of("the ring has gaps: a shiny arc is a low place")}, nil
	}
	j := Judged{OK: true, Says: words.Of("full ring after %s, %s", saidPasses(n), v["paste"])}
	if n > most {
		j.Warn = words.Of("more than %s: look at the seat's depth", saidPasses(most))
	}
	return j, nil
}

// judgeSeal judges a position by the tests the shop's school asks for. The sheet's limits
// count; the shop's settings only where it has none.
func judgeSeal(v Values, c RecordCase) (Judged, error) {
	out := Judged{OK: true}
	var said []words.Text
	school := c.Setting("school.seal")
	did := map[string]bool{}
	if v["vacuum"] != "" {
		ok, says, err := sealVacuum(v, c)
		if err != nil {
			return Judged{}, err
		}
		did["vacuum"], out.OK, said = true, out.OK && ok, append(said, says)
	}
	if v["liquid"] != "" {
		n, err := minutes(v["liquid"])
		if err != nil {
			return Judged{}, field.Errorf("liquid", "a whole number")
		}
		least, _ := minutes(c.Setting("seal_liquid"))
		if low, _ := c.Limit(Liquid); low != nil {
			least = quantity.Minutes(low.Whole())
		}
		did["liquid"], out.OK = true, out.OK && n >= least
		said = append(said, words.Of("liquid held %d min of %d", int(n), int(least)))
	}
	switch v["drop"] {
	case "yes":
		did["drop"], said = true, append(said, words.Of("bounces"))
	case "no":
		did["drop"], out.OK, said = true, false, append(said, words.Of("thuds"))
	}
	wants := map[string][]string{
		"vacuum": {"vacuum"}, "liquid": {"liquid"}, "both": {"vacuum", "liquid"}, "drop": {"drop"},
	}[school]
	for _, w := range wants {
		if !did[w] {
			return Judged{}, field.Errorf(w, "this shop tests by %s: %s is wanted", words.Of(school), words.Of(w))
		}
	}
	out.Says = words.Join("; ", said...)
	return out, nil
}

// leastTurns is how often a valve is turned at least: one reading does not tell a bent valve
// from a bad seat.
const leastTurns = 2

// sealVacuum judges the vacuum of a record.
func sealVacuum(v Values, c RecordCase) (ok bool, says words.Text, err error) {
	if v["baseline"] == "" {
		return false, words.Text{}, field.Errorf("baseline",
			"blank the cup and write down what the tester shows today")
	}
	var base, drop quantity.KPa
	if err := base.Parse(v["baseline"]); err != nil {
		return false, words.Text{}, field.Under("baseline", err)
	}
	turns, err := Pressures(v["vacuum"])
	if err != nil {
		return false, words.Text{}, field.Under("vacuum", err)
	}
	if len(turns) < leastTurns {
		return false, words.Text{}, field.Errorf("vacuum", "turn the valve and read again: two readings at least")
	}
	if err := drop.Parse(c.Setting("seal_drop")); err != nil {
		drop = GeneralDrop.KPa()
	}
	if _, high := c.Limit(VacuumLost); high != nil {
		drop = high.KPa()
	}
	res, err := seating.Vacuum(
		seating.VacuumInput{Baseline: base, Drop: drop, U: c.ToolU("vacuum tester").KPa(), Readings: turns},
	)
	if err != nil {
		return false, words.Text{}, err
	}
	says = words.Of("vacuum %s of %s", v["vacuum"], v["baseline"])
	switch {
	case res.Pass == nil:
		says = words.Of("%s: %s", says, words.Of("too close to the limit to tell"))
	case !*res.Pass:
		says = words.Of("%s: %s", says, words.Of(SuspectSays[res.Suspect]))
	}
	return res.Pass != nil && *res.Pass, says, nil
}

// passes reads how often a valve was turned.
func passes(text string) quantity.Passes {
	n, _ := strconv.Atoi(text) // Check has looked at it
	return quantity.Passes(n)
}

func saidPasses(n quantity.Passes) words.Text { return words.Of("%d passes", int(n)) }

// Show writes a reading of the field as the record has it.
func (f Field) Show(at quantity.Amount) string {
	switch f.Kind {
	case "yes":
		if at > 0 {
			return "yes"
		}
		return "no"
	case "count":
		return fmt.Sprint(at.Whole())
	}
	return strings.TrimSpace(f.Reads.Unit.In(at, 3)) + f.Reads.Unit.Name
}
