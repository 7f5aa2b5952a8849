package trade

import (
	"cmp"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"yatai/core/engine"
	"yatai/core/field"
	"yatai/core/quantity"
	"yatai/core/words"
)

// Fastener is what a head is held together or down by. Those at refit are pulled down by who puts the head
// back; the others where it is assembled.
type Fastener struct {
	Code  string
	Label string
	Refit bool
	On    func(Kind) bool
}

// Fasteners are those whose tightening a model can give, in the order of the work.
var Fasteners = []*Fastener{
	{Code: "cam_caps", Label: "Cam caps", On: Kind.CamInHead},
	{Code: "rocker_pedestals", Label: "Rocker pedestals", On: Kind.Rockers},
	{Code: "injector_clamps", Label: "Injector clamps", On: Kind.Injectors},
	HeadBolts,
}

// HeadBolts hold the head on its engine: their order is drawn.
var HeadBolts = &Fastener{Code: "head_bolts", Label: "Head bolts", Refit: true}

// Exists tells whether heads of kind k have it.
func (f *Fastener) Exists(k Kind) bool { return f.On == nil || f.On(k) }

// FastenerNamed returns the fastener with that code, nil when there is none.
func FastenerNamed(code string) *Fastener {
	i := slices.IndexFunc(Fasteners, func(f *Fastener) bool { return f.Code == code })
	if i < 0 {
		return nil
	}
	return Fasteners[i]
}

// TightenedHow is how a thread is when it is pulled down: figures of a book hold for one of these alone.
var TightenedHow = []string{"as the book says", "dry", "oiled", "with paste"}

// Tightening is how a model's fasteners of one kind are pulled down, by its maker's book.
type Tightening struct {
	Of    string   `json:"of"`
	Count int      `json:"count,omitempty"` // 0: not said
	Steps []string `json:"steps"`           // in turn: "30 Nm", "90 deg", "400 bar", "wait 10 min", "slacken"
	How   string   `json:"how,omitempty"`   // one of TightenedHow
	New   bool     `json:"new,omitempty"`   // bolts are used once
	// the book's own, by the names of the bolts; empty: from the middle outwards
	Order  []string `json:"order,omitempty"`
	Source string   `json:"source"`
}

// Step is one go round the fasteners.
type Step struct {
	Kind  StepKind
	Typed string // as the book has it: "30 Nm"
}

// StepKind is what is done in a step.
type StepKind int

// The kinds of steps: a torque, an angle further, the pressure of a hydraulic tensioner, a wait, all
// slackened again.
const (
	ByTorque StepKind = iota
	ByAngle
	ByPressure
	Waiting
	Slackened
)

const (
	maxSteps     = 20
	maxFasteners = 500
)

// between are the signs between the steps of a tightening as it is typed: a comma before a space, so that
// 8,5 Nm is one figure.
var between = regexp.MustCompile(`\s*(?:;|,\s|\n)\s*`)

// SplitSteps divides the steps of a tightening as they were typed in one field.
func SplitSteps(text string) (out []string) {
	for _, s := range between.Split(strings.TrimSpace(text), -1) {
		if s = strings.TrimSpace(strings.TrimSuffix(s, ",")); s != "" {
			out = append(out, s)
		}
	}
	return out
}

// ParseStep reads a step: a torque, an angle or a pressure with its unit, "wait" with minutes, or "slacken".
func ParseStep(text string) (Step, error) {
	s := Step{Typed: strings.Join(strings.Fields(text), " ")}
	if strings.EqualFold(s.Typed, "slacken") {
		s.Kind = Slackened
		return s, nil
	}
	if wait, is := strings.CutPrefix(strings.ToLower(s.Typed), "wait "); is {
		minutes := strings.TrimSpace(strings.TrimSuffix(wait, "min"))
		if n, err := strconv.Atoi(minutes); err != nil || n < 1 || n > mostMinutes {
			return s, field.Errorf("", "wait, and how many minutes: wait 10 min")
		}
		s.Kind, s.Typed = Waiting, minutes
		return s, nil
	}
	for kind, of := range map[StepKind]quantity.Kind{
		ByTorque: quantity.Torque, ByAngle: quantity.Angle, ByPressure: quantity.Pressure,
	} {
		if n, err := quantity.Parse(s.Typed, of); err == nil && n.Sign() > 0 {
			s.Kind = kind
			return s, nil
		}
	}
	return s, field.Errorf(
		"", "a torque, an angle or a pressure with its unit, wait 10 min, or slacken: %q is none", s.Typed,
	)
}

// Words are the step; a torque in the unit read, and as the book has it where that is another.
func (s Step) Words(inches bool) words.Text {
	switch s.Kind {
	case Slackened:
		return words.Of("slacken all")
	case Waiting:
		return words.Of("wait %s min", s.Typed)
	case ByAngle:
		return words.Of("%s further", s.Typed)
	case ByTorque:
		unit := map[bool]string{true: "lbft", false: "Nm"}[inches]
		out, err := engine.Torque(engine.TorqueInput{Unit: unit, Stages: []engine.TorqueStage{{Torque: s.Typed}}})
		if err == nil && !strings.HasSuffix(s.Typed, unit) {
			is := cmp.Or(out.Stages[0].NewtonMetres, out.Stages[0].PoundFeet)
			return words.Of("%s (%s)", is.String()+" "+unit, s.Typed)
		}
	}
	return words.Of("%s", s.Typed)
}

// Parsed are the steps; those that cannot be read, which Check finds, are left out.
func (t Tightening) Parsed() (out []Step) {
	for _, text := range t.Steps {
		if s, err := ParseStep(text); err == nil {
			out = append(out, s)
		}
	}
	return out
}

// Check says what is wrong with it, by its field.
func (t Tightening) Check() field.Errors {
	errs := field.Errors{}
	if FastenerNamed(t.Of) == nil {
		errs.Addf("of", "there is no such fastener")
	}
	if t.Count < 0 || t.Count > maxFasteners {
		errs.Addf("count", "how many of them? %d at most", maxFasteners)
	}
	if !slices.Contains(TightenedHow, t.How) && t.How != "" {
		errs.Addf("how", "choose one")
	}
	if len(t.Steps) == 0 || len(t.Steps) > maxSteps {
		errs.Addf("steps", "one to %d steps, such as 30 Nm; 60 Nm; 90 deg", maxSteps)
	}
	var torques engine.TorqueInput
	for _, text := range t.Steps {
		switch s, err := ParseStep(text); {
		case err != nil:
			errs.Add("steps", err)
		case s.Kind == ByTorque || s.Kind == Slackened:
			stage := engine.TorqueStage{Slacken: s.Kind == Slackened}
			if !stage.Slacken {
				stage.Torque = s.Typed
			}
			torques.Stages = append(torques.Stages, stage)
		}
	}
	_, err := engine.Torque(torques)
	errs.Add("steps", err)
	if len(t.Order) > maxFasteners {
		errs.Addf("order", "more than %d", maxFasteners)
	}
	if twice := slices.Sorted(slices.Values(t.Order)); len(slices.Compact(twice)) < len(t.Order) {
		errs.Addf("order", "one of them is there twice")
	}
	if strings.TrimSpace(t.Source) == "" || len(t.Source) > 200 {
		errs.Addf("source", "where is it from: document and page, or shop practice")
	}
	return errs
}

// Head is what is pulled down, in words: "Head bolts, 10, oiled, new ones".
func (t Tightening) Head() words.Text {
	out := words.Of(FastenerNamed(t.Of).Label)
	if t.Count > 0 {
		out = words.Of("%s, %d", out, t.Count)
	}
	if t.How != "" && t.How != TightenedHow[0] {
		out = words.Of("%s, %s", out, words.Of(t.How))
	}
	if t.New {
		out = words.Of("%s, new ones", out)
	}
	return out
}

// Text is the whole of it in English: "Head bolts, 10, oiled: 30 Nm, 60 Nm, 90 deg further (sheet 5)".
func (t Tightening) Text(inches bool) string {
	var steps []string
	for _, s := range t.Parsed() {
		steps = append(steps, s.Words(inches).String())
	}
	text := t.Head().String() + ": " + strings.Join(steps, ", ")
	if len(t.Order) > 0 {
		text += "; in the order " + strings.Join(t.Order, " ")
	}
	return text + " (" + t.Source + ")"
}

// fields are what of it is ticked where the head is assembled, a step each; none of what is pulled
// down at refit.
func (t Tightening) fields() (out []Field) {
	of := FastenerNamed(t.Of)
	if of == nil || of.Refit {
		return nil
	}
	steps := t.Parsed()
	for i := range steps {
		out = append(out, Field{
			Name:     t.Of + "." + strconv.Itoa(i+1),
			Kind:     "yes",
			Step:     &steps[i],
			Tightens: &t,
		})
	}
	return out
}

// RecordWith is the operation's record where a model is tightened so: where it is assembled each step of
// what is pulled down there is written down too. Nil where the operation has no record.
func (o *Operation) RecordWith(all []Tightening) *Record {
	if o.Record == nil || o != Assemble {
		return o.Record
	}
	var steps []Field
	for _, t := range all {
		steps = append(steps, t.fields()...)
	}
	if steps == nil {
		return o.Record
	}
	return done(slices.Concat(o.Record.Fields, steps)...)
}
