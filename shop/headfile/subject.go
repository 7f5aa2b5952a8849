package headfile

import (
	"encoding/json"
	"slices"
	"strings"
	"time"

	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/layout"
	"yatai/core/quantity"
	"yatai/core/trade"
	"yatai/store"
)

// KindOf is what sort of head a model is.
func KindOf(m store.HeadModel) trade.Kind {
	return trade.Kind{
		Drive: m.Drive, Lifter: m.Lifter, Cooling: m.Cooling, Material: m.Material, Ignition: m.Ignition,
	}
}

// ValveOf reads what the valves of a role are: "titanium", "steel coated hollow".
func ValveOf(text string) trade.Valve {
	words := strings.Fields(text)
	v := trade.Valve{
		Material: "steel", Coated: slices.Contains(words, "coated"),
		Hollow: slices.Contains(words, "hollow"), Plain: slices.Contains(words, "plain"),
	}
	if len(words) > 0 && slices.Contains(trade.ValveMaterials, words[0]) {
		v.Material = words[0]
	}
	return v
}

// ValveAt is what the model's valves are at a position; of no position nothing is known.
func ValveAt(f *File, position string) trade.Valve {
	v, ok := f.Layout.Valve(position)
	switch {
	case !ok:
		return trade.Valve{}
	case v.Role == layout.Intake:
		return ValveOf(f.Model.IntakeValve)
	}
	return ValveOf(f.Model.ExhaustValve)
}

// PositionsOf are where a part is on a head: at the valves that have it, its journals or its camshafts.
func PositionsOf(f *File, p trade.Part) []string {
	return slices.DeleteFunc(p.Positions(f.Layout), func(at string) bool {
		_, valve := f.Layout.Valve(at)
		return valve && p.With != nil && !p.With(ValveAt(f, at))
	})
}

// ValveText writes what valveOf reads.
func ValveText(v trade.Valve) string {
	text := v.Material
	if v.Coated {
		text += " coated"
	}
	if v.Hollow {
		text += " hollow"
	}
	if v.Plain {
		text += " plain"
	}
	return text
}

// subject is the head as the core works on it: everything the file knows.
func (f *File) subject() *head.Head {
	h := &head.Head{
		Tag:       f.Tag,
		Kind:      f.Job.Kind,
		Unit:      f.In(),
		Stock:     f.stock,
		Story:     f.Job.Story,
		Symptoms:  strings.Fields(f.Job.Symptoms),
		Theirs:    TheirsOf(f.Head),
		Hours:     f.Job.Hours,
		Bank:      f.Bank,
		Marks:     f.Marks,
		Regulated: f.Job.Regulated,
		Released:  released(f.Releaser, f.Licence),
		Model: head.Model{
			Name: f.Model.Name, About: f.Model.About, Kind: KindOf(f.Model), Layout: f.Layout,
			Valves: map[layout.Role]trade.Valve{
				layout.Intake: ValveOf(f.Model.IntakeValve), layout.Exhaust: ValveOf(f.Model.ExhaustValve),
			},
		},
		Sheet:    f.sheet(),
		Settings: f.settings,
	}
	for _, t := range f.Tools {
		h.Tools = append(h.Tools, head.Tool{Name: t.Name, Kind: t.Kind, U: t.U, PPM: t.UPPM})
	}
	h.Readings = make([]head.Reading, 0, len(f.Readings))
	for _, r := range f.Readings {
		h.Readings = append(h.Readings, f.reading(r))
	}
	h.Findings = make([]head.Finding, 0, len(f.Findings))
	for _, x := range f.Findings {
		out := Seen(x)
		if x.Supersedes != nil {
			out.Replaces = *x.Supersedes
		}
		h.Findings = append(h.Findings, out)
	}
	for _, d := range f.Decisions {
		finding := d.Feature
		if strings.HasPrefix(finding, PlanKey) { // done by the plan, for no finding of its own
			finding = head.ByPlan + "@" + d.Position
		}
		h.Decisions = append(h.Decisions, head.Decision{
			Finding: finding, Choice: d.Choice, Reason: d.Reason, By: d.Person.Name,
		})
	}
	h.Operations = f.operations()
	for _, r := range f.Records {
		var v trade.Values
		if json.Unmarshal([]byte(r.Data), &v) == nil {
			delete(v, "says")
			h.Records = append(h.Records, head.Record{
				Operation: r.Kind, Position: r.Position, Values: v, After: -1, Turn: r.Turn,
			})
		}
	}
	for _, s := range f.Signoffs {
		h.Signoffs = append(h.Signoffs, head.Signoff{
			Finding: s.Feature, Figure: s.Figure, Reason: s.Reason, By: s.Person.Name,
		})
	}
	for _, q := range f.Approved.Quotes {
		for _, l := range q.Lines {
			if q.Answers[l.Seq] {
				h.Approved = append(h.Approved, head.Line{Code: l.Code, At: strings.Fields(l.Positions)})
			}
		}
	}
	return h
}

// TheirsOf are the codes of the kinds of parts a head's customer brings.
func TheirsOf(h store.Head) []string {
	if h.Theirs == "" {
		return nil
	}
	return strings.Split(h.Theirs, ",")
}

// Brings tells whether the head's customer brings the parts of a kind.
func (f *File) Brings(code string) bool { return slices.Contains(TheirsOf(f.Head), code) }

// released is who released regulated work, and with which licence; empty while nobody has.
func released(who, licence string) string {
	if who == "" || licence == "" {
		return ""
	}
	return who + ", licence " + licence
}

// reading is a reading of the file as the core takes it.
func (f *File) reading(r store.Reading) head.Reading {
	v := gauge.Exact(r.NM)
	if r.Bracket {
		v = gauge.Between(r.GoNM, r.NoGoNM)
	}
	out := head.Reading{
		ID: r.ID, Of: r.Characteristic, Spot: spotOf(r), Value: v, U: r.U, Stage: r.Stage, Typed: r.Typed,
		At: r.At.UTC().Truncate(time.Second), Suspect: f.IsSuspect(r.ID),
	}
	if r.Tool != nil {
		out.Tool = r.Tool.Name
	}
	return out
}

// Seen is a finding as the core takes it.
func Seen(x store.Finding) head.Finding {
	return head.Finding{
		ID: x.ID, Part: x.Part, Grade: x.Grade, Position: x.Position, X: x.X, Y: x.Y, Note: x.Note,
		Thread: x.Thread, Stage: x.Stage, Turn: x.Turn,
	}
}

// sheet is the limit sheet as the core takes it; of a sweep, what it judges alone.
func (f *File) sheet() head.Sheet {
	s := head.Sheet{
		Own: f.Own, Repairs: OwnRepairs(f.Model), Tightening: TighteningOf(f.Model),
		Figures: map[string]quantity.Amount{},
	}
	for _, l := range f.Sheet.Limits {
		switch {
		case l.Kind == SetGiven:
			if l.Low != nil {
				s.Figures[strings.TrimSuffix(strings.TrimPrefix(l.Characteristic, GivenPrefix)+"/"+l.Role, "/")] = *l.Low
			}
		case l.Kind == SetRenew:
			s.Renew = append(s.Renew, strings.TrimPrefix(l.Characteristic, RenewPrefix))
		case f.only == nil || f.judgesHere(l.Characteristic):
			s.Limits = append(s.Limits, head.Limit{
				Characteristic: l.Characteristic, Role: l.Role, Set: l.Kind, Low: l.Low, High: l.High, Near: l.Near,
				Source: l.Source,
			})
		}
	}
	return s.Indexed()
}

// Codes of figures and renewals stand in the shop's file with these in front.
const (
	GivenPrefix = "given."
	RenewPrefix = "renew."
)

// judgesHere tells whether a limit is for what this sweep reads, or for what is made of it.
func (f *File) judgesHere(code string) bool {
	if slices.Contains(f.only, code) {
		return true
	}
	for i := range trade.Characteristics {
		d := &trade.Characteristics[i]
		if d.Code != code && (d.LimitOf == nil || d.LimitOf.Code != code) {
			continue
		}
		if d.Of != nil && slices.Contains(f.only, d.Of.Code) || slices.ContainsFunc(
			d.From, func(c *trade.Characteristic) bool { return slices.Contains(f.only, c.Code) },
		) {
			return true
		}
	}
	return slices.Contains(f.only, strings.TrimSuffix(code, ".spread")) // of the shop's own
}

// parts are the parts of the tray that are missing or new, as the core takes them.
func (f *File) parts() []head.Part {
	var out []head.Part
	kinds := trade.TrayParts(f.Model.Drive)
	for _, v := range f.Layout.Valves {
		for i, place := range f.tray(v.ID) {
			switch kind := kinds[i].Kind; {
			case place.State == "missing":
				out = append(out, head.Part{Part: place.Part, Position: v.ID, Missing: true})
			case place.State == "new" && kind != nil && kind.Dims != nil:
				out = append(out, head.Part{Part: kind.Code, Position: v.ID, New: true, Is: f.measuredNew(kind, v.ID)})
			}
		}
	}
	return out
}

// measuredNew is what a new part measures: what was read of it since the head came in.
func (f *File) measuredNew(kind *trade.PartKind, position string) map[string]quantity.Amount {
	is := map[string]quantity.Amount{}
	for _, c := range kind.Dims {
		for _, r := range f.Subject.Reads(c.Code, position) {
			if r.Stage != AsReceived && !r.Value.Bracket {
				is[c.Code] = r.Value.At
			}
		}
	}
	return is
}

// Sets of a sheet's lines that are not limits: figures of the engine, and parts renewed
// whatever they measure.
const (
	SetGiven = "given"
	SetRenew = "renew"
)
