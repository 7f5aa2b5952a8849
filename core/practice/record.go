package practice

import (
	"slices"

	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/trade"
)

// Kinds of steps.
const (
	StepRead = "read" // a reading was taken
	StepLook = "look" // a part was looked at and graded
	StepZero = "zero" // a tool was held against its standard, and set right when Set
	StepFace = "face" // the face was looked over with dye: what is on it is seen
)

// Step is one thing a learner did.
type Step struct {
	Kind  string      `json:"kind"`
	ID    string      `json:"id,omitempty"` // of a reading, made where it was typed
	Tool  int         `json:"tool"`         // its place in Told.Tools
	Of    string      `json:"of,omitempty"`
	At    string      `json:"at,omitempty"` // a spot's key
	New   bool        `json:"new,omitempty"`
	Set   bool        `json:"set,omitempty"`
	Hand  int         `json:"hand,omitempty"`
	Grade string      `json:"grade,omitempty"`
	Value gauge.Value `json:"value"` // as it was typed
}

// Take is the reading that a step takes.
func (s Step) Take() Take {
	return Take{Tool: s.Tool, Of: s.Of, At: trade.SpotOf(s.At), Hand: s.Hand, New: s.New}
}

// Verdicts a learner can give.
const (
	SaysIn    = "in"
	SaysOut   = "out"
	SaysDoubt = "doubt" // this reading does not tell
)

// Answers are what a learner said of the head.
type Answers struct {
	Verdicts map[string]string            `json:"verdicts,omitempty"` // by the feature's key
	Hold     map[string]map[string]string `json:"hold,omitempty"`     // what is to be done: by position and metal
	FaceCut  length.Length                `json:"face_cut,omitempty"`
	GiveUp   bool                         `json:"give_up,omitempty"` // it cannot be mended within its limits
	Cause    string                       `json:"cause,omitempty"`
}

// Record is all a learner did with a head and said of it.
type Record struct {
	Steps   []Step  `json:"steps"`
	Answers Answers `json:"answers"`
}

// Seconds is how long what was done takes in a shop.
func (p *Head) Seconds(rec Record) int {
	sum := 0
	for _, s := range rec.Steps {
		switch {
		case s.Kind == StepLook || s.Kind == StepFace:
			sum += LookSeconds
		case s.Kind == StepZero:
			sum += ZeroSeconds
		case s.Tool >= 0 && s.Tool < len(p.tools):
			sum += p.tools[s.Tool].seconds
		}
	}
	return sum
}

// Minutes are Seconds in whole minutes, begun ones counted.
func (p *Head) Minutes(rec Record) quantity.Minutes {
	return quantity.Minutes((p.Seconds(rec) + 59) / 60)
}

// Known is the head as far as its learner has read and seen it, with the doubts the tools' labels say. The
// last reading at a place stands.
func (p *Head) Known(rec Record) *head.Head {
	h := *p.Told
	h.Readings, h.Findings, h.Parts = nil, nil, nil
	for i, s := range rec.Steps {
		switch {
		case s.Kind == StepLook:
			h.Findings = append(h.Findings, head.Finding{
				ID: uint(len(h.Findings) + 1), Part: s.Of, Grade: s.Grade, Position: s.At, Stage: head.AsReceived,
			})
		case s.Kind == StepFace:
			for _, m := range p.Marks() {
				m.ID = uint(len(h.Findings) + 1)
				h.Findings = append(h.Findings, m)
			}
		case s.Kind == StepRead && s.New:
			at := trade.SpotOf(s.At).Position
			h.Parts = slices.DeleteFunc(h.Parts, func(x head.Part) bool { return x.Position == at })
			h.Parts = append(h.Parts, newValve(at, s.Value.At))
		case s.Kind == StepRead:
			tool := p.Told.Tools[s.Tool]
			r := head.Reading{
				ID: uint(i + 1), Of: s.Of, Spot: trade.SpotOf(s.At), Value: s.Value, Tool: tool.Name,
				Stage: head.AsReceived,
			}
			if !s.Value.Bracket {
				r.U = tool.Doubt(s.Value.At)
			}
			h.Readings = append(h.Readings, r)
		}
	}
	return h.Until(head.Stages...)
}

// Marks are what is on the face for who looks it over.
func (p *Head) Marks() []head.Finding {
	return slices.DeleteFunc(slices.Clone(p.Truth.Findings), func(f head.Finding) bool {
		return f.Part != trade.MarkCode
	})
}

// Grade is what a part at a position really is.
func (p *Head) Grade(part, at string) (trade.Grade, bool) {
	x, ok := trade.PartNamed(part)
	i := slices.IndexFunc(p.Truth.Findings, func(f head.Finding) bool {
		return f.Part == part && f.Position == at
	})
	if !ok || i < 0 {
		return trade.Grade{}, false
	}
	return x.Grade(p.Truth.Findings[i].Grade)
}

// Holds are what a learner can plan at each valve: the metals of the seat, the valve and the guide.
func (p *Head) Holds() []head.Hold {
	asked := []trade.Metal{trade.SeatMetal, trade.ValveMetal, trade.GuideMetal}
	return slices.DeleteFunc(p.Told.Holds(), func(h head.Hold) bool { return !slices.Contains(asked, h.Of) })
}
