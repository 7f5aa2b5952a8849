// Package head holds a cylinder head as plain data: its model and limit sheet, everything
// that was read and seen of it, what was decided, worked and recorded. It is what the
// judgement, the planner, the gate, the causes and the price are functions of; a shop builds
// one from its file, anybody from a head file (Decode) and back (Encode).
//
// Readings, findings, operations and records stand in the order in which they were written.
// Order decides what stands, never a clock.
package head

import (
	"slices"
	"strings"
	"time"

	"yatai/core/gauge"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/trade"
	"yatai/core/words"
)

// Kinds of intake.
const (
	Rebuild  = "rebuild"
	Failed   = "failed"
	Comeback = "comeback"
	BoughtIn = "bought-in"
	Rules    = "rules"
	Core     = "core"
)

// Kinds lists the kinds of intake.
var Kinds = []string{Rebuild, Failed, Comeback, BoughtIn, Rules, Core}

// Stages of a head's readings, in order.
const (
	AsReceived  = "as received"
	AfterRepair = "after repair"
	Final       = "final"
)

// Stages lists the stages in order.
var Stages = []string{AsReceived, AfterRepair, Final}

// Head is one cylinder head with all it was judged by.
type Head struct {
	Tag, Kind   string
	Unit        length.Unit // what a bare number means
	Story       string
	Symptoms    []string // codes of trade.Symptoms
	Theirs      []string // codes of the kinds of parts the customer brings: they cost nothing
	Hours, Bank string
	Marks       string
	Regulated   string // why a licensed person has to release it
	Released    string // that person, and the licence; empty while nobody has released it

	Model      Model
	Sheet      Sheet
	Tools      []Tool
	Readings   []Reading // in the order of writing
	Findings   []Finding // in the order of writing
	Parts      []Part
	Stock      []Stock
	Settings   map[string]string
	Decisions  []Decision // those in force
	Operations []Operation
	Records    []Record // in the order of writing
	Signoffs   []Signoff
	Approved   []Line // lines the customer said yes to
	Ask        Ask

	reads *reads // the readings by what and where, made when first asked for
}

// Model is a kind of head.
type Model struct {
	Name, About string
	Kind        trade.Kind
	Layout      layout.Layout
	Valves      map[layout.Role]trade.Valve
}

// Limit is one line of a limit sheet. Role is intake, exhaust, long, cross, diagonal, or
// empty for any. Set is service, target, new or class.
type Limit struct {
	Characteristic string
	Role           string
	Set            string
	Low, High      *quantity.Amount
	Near           quantity.Amount
	Source         string
	Unit           quantity.Unit // of what is not a length
}

// The limit sets a sheet can have.
const (
	Service = "service"
	Target  = "target"
	New     = "new"
	Class   = "class"
)

// Sets are the limit sets beside the service limits everything is judged by: work done here
// is held against the target too, a rules check against the class rule, and a part bought in
// against the maker's figures for a new one.
var Sets = []struct{ Code, Label string }{
	{Service, "Service limits"}, {Target, "Shop targets"}, {New, "New parts"}, {Class, "Class rule"},
}

// Gauge is the limit as a verdict takes it.
func (l Limit) Gauge() gauge.Limit { return gauge.Limit{Low: l.Low, High: l.High, Near: l.Near} }

// Lengths are the ends of a limit on a length; nil is open.
func (l Limit) Lengths() (low, high *length.Length) {
	return quantity.AsLength(l.Low), quantity.AsLength(l.High)
}

// Text writes the limit in a unit: "0.020 to 0.060 mm", "0.08 mm max".
func (l Limit) Text(u length.Unit) string { return l.Said(u).String() }

// Said is what Text writes, for any language.
func (l Limit) Said(u length.Unit) words.Text {
	unit := l.Unit.Or(u)
	switch {
	case l.Low == nil && l.High == nil:
		return words.Of("no limit")
	case l.Unit == trade.PassFail:
		return words.Of("passed")
	case l.Low == nil:
		return words.Of("%s max", unit.Usual(*l.High))
	case l.High == nil:
		return words.Of("%s min", unit.Usual(*l.Low))
	}
	return words.Of("%s to %s", strings.TrimSuffix(unit.Usual(*l.Low), " "+unit.Name), unit.Usual(*l.High))
}

// Sheet is what a head is judged by. Figures are keyed by code, or code and role:
// "new_margin/intake". Renew are the codes of trade.Renewals.
type Sheet struct {
	Limits  []Limit
	Figures map[string]quantity.Amount
	Renew   []string
	Own     []trade.Characteristic // the shop's own
	Repairs []*trade.Repair        // the shop's own

	Tightening []trade.Tightening // how the model's fasteners are pulled down

	index map[limitKey]*Limit
}

type limitKey struct{ set, code, role string }

// Indexed returns the sheet with its limits indexed: a head is judged by thousands of
// look-ups. The first of equal lines counts.
func (s Sheet) Indexed() Sheet {
	s.index = make(map[limitKey]*Limit, len(s.Limits))
	for i := range s.Limits {
		l := &s.Limits[i]
		if k := (limitKey{l.Set, l.Characteristic, l.Role}); s.index[k] == nil {
			s.index[k] = l
		}
	}
	return s
}

// LimitOf returns the limit of one set for a characteristic and role, or nil.
func (s Sheet) LimitOf(set, code, role string) *Limit {
	if s.index != nil {
		if l := s.index[limitKey{set, code, role}]; l != nil || role == "" {
			return l
		}
		return s.index[limitKey{set, code, ""}]
	}
	var any *Limit
	for i := range s.Limits {
		l := &s.Limits[i]
		if l.Characteristic != code || l.Set != set {
			continue
		}
		if l.Role == role {
			return l
		}
		if l.Role == "" && any == nil {
			any = l
		}
	}
	return any
}

// Figure returns a figure the sheet gives, for a role where it is given by role.
func (s Sheet) Figure(code, role string) (quantity.Amount, bool) {
	if v, ok := s.Figures[code+"/"+role]; ok {
		return v, true
	}
	v, ok := s.Figures[code]
	return v, ok
}

// Record is an operation's record on heads of the sheet, nil where it has none.
func (s Sheet) Record(o *trade.Operation) *trade.Record { return o.RecordWith(s.Tightening) }

// AllRepairs are the trade's and the shop's own.
func (s Sheet) AllRepairs() []*trade.Repair { return append(trade.Repairs(), s.Repairs...) }

// RepairsFor lists the repairs, the trade's and the shop's own, that answer a finding by its code and
// side on heads of kind k, cheapest first. They may be forbidden.
func (s Sheet) RepairsFor(code, side string, k trade.Kind) []*trade.Repair {
	return trade.RepairsFor(code, side, k, s.Repairs...)
}

// Characteristics are the trade's and the shop's own, in the order they are read.
func (s Sheet) Characteristics() []trade.Characteristic {
	if len(s.Own) == 0 {
		return trade.Characteristics
	}
	return slices.Concat(trade.Characteristics, s.Own)
}

// Characteristic returns the one with that code, the trade's or the shop's own.
func (s Sheet) Characteristic(code string) (trade.Characteristic, bool) {
	if c, ok := trade.ByCode(code); ok {
		return c, true
	}
	i := slices.IndexFunc(s.Own, func(c trade.Characteristic) bool { return c.Code == code })
	if i < 0 {
		return trade.Characteristic{}, false
	}
	return s.Own[i], true
}

// Tool is a measuring tool with its expanded uncertainty (k = 2): U, and PPM millionths of
// the reading, in the unit of what it reads.
type Tool struct {
	Name, Kind string
	U          quantity.Amount
	PPM        int64
}

// Doubt is the expanded uncertainty of a reading with the tool.
func (t Tool) Doubt(at quantity.Amount) quantity.Amount {
	return t.U + length.Div(at.Abs()*quantity.Amount(t.PPM), 1_000_000)
}

// Reading is one reading as it was taken, with the doubt its tool had then.
type Reading struct {
	ID      uint
	Of      string // the characteristic's code
	Spot    trade.Spot
	Value   gauge.Value
	U       quantity.Amount
	Tool    string
	Stage   string
	Typed   string
	At      time.Time // zero where nobody says
	Suspect bool      // made with a tool that failed its zero check since
	Untold  bool      // with no tool named: U is what such tools usually have, and not known
}

// Finding is something seen: a grade of a part at a position, or a mark on the map at X, Y
// of the layout. A later one of the same part and position replaces it; marks stand side by
// side, each until one names it in Replaces.
type Finding struct {
	ID       uint
	Part     string
	Grade    string
	Position string
	X, Y     length.Length
	Note     string
	Thread   string // of the hole a mark is at
	Stage    string
	Replaces uint // of a mark: the one it replaces
	Turn     uint // as Operation.Turn
}

// Mark names a mark of a grade on the map: "thread damaged M10x1.25 near bolt 3".
func (f Finding) Mark(g trade.Grade, l layout.Layout) words.Text {
	name := words.Of(g.Label)
	if f.Thread != "" {
		name = words.Join(" ", name, words.Of("%s", f.Thread))
	}
	return words.Join(" ", name, l.Near(f.X, f.Y))
}

// Part is a part in a place, or one that is to go there, with what it measures.
type Part struct {
	Part     string // a trade.PartKind's code
	Position string
	New      bool
	Is       map[string]quantity.Amount // by characteristic
	Missing  bool
	Valve    *trade.Valve // what it is made of, where it differs from the model's
}

// Stock is a part that is there or can be had. One of count 0 can be ordered.
type Stock struct {
	ID    uint
	Kind  string
	Name  string
	Size  length.Length
	UpTo  length.Length // of a gasket: how far pistons may stand out under it; 0: nobody says
	Role  string
	Count int    // free
	Price *int64 // cents each; nil when not known
	Lead  int    // days until one comes
}

// ByPlan stands in the place of a characteristic in the key of what a plan does that no finding asks
// for: "plan@2E1".
const ByPlan = "plan"

// Decision is what was decided about a finding, by the feature's key.
type Decision struct{ Finding, Choice, Reason, By string }

// States of an operation.
const (
	Waiting = "waiting"
	Running = "running"
	Held    = "held"
	Done    = "done"
	Skipped = "skipped"
)

// Operation is a step of the head's route. Begun is the id of the newest reading that was
// there when it was started: later ones were read after; -1 when that is not known, then the
// stage of a reading says.
type Operation struct {
	Code  string
	At    []string // positions; empty: the whole head
	State string
	Begun int
	Why   string // why it was left out
	Turn  uint   // its place in the order in which all was written; 0 where only the lists' order is known
}

// Started tells whether metal may have moved.
func (o Operation) Started() bool { return o.State == Running || o.State == Held || o.State == Done }

// Record is what was written down while an operation was done.
type Record struct {
	Operation, Position string
	Values              trade.Values
	After               int  // as Operation.Begun
	Turn                uint // as Operation.Turn
}

// Signoff is a deviation signed by the lead; Figure is what stood then, "" for whatever
// stands.
type Signoff struct{ Finding, By, Reason, Figure string }

// Signed returns the signature on a deviation that was given as the figures stand: one has a name and
// a reason. Nil when there is none.
func (h *Head) Signed(finding, figure string) *Signoff {
	for i := range h.Signoffs {
		s := &h.Signoffs[i]
		named := strings.TrimSpace(s.By) != "" && strings.TrimSpace(s.Reason) != ""
		if s.Finding == finding && named && (s.Figure == "" || s.Figure == figure) {
			return s
		}
	}
	return nil
}

// LeftOut stands in the place of a characteristic in the key of an operation that was left out.
const LeftOut = "left:"

// Line is work the customer said yes to.
type Line struct {
	Code string
	At   []string
}

// How a head is held while it is faced.
const (
	Level  = "level"  // on its datum
	Tilted = "tilted" // to the best plane of what was read of its face
)

// Ask is a question to the planner.
type Ask struct {
	Alternative string                       // keep, balanced, renew or robust; balanced when empty
	FaceCut     *length.Length               // held fast
	Tilt        string                       // level or tilted: how the head is faced; "" for what is cheaper
	Hold        map[string]map[string]string // by position and metal: one of its Choices, see Holds
	Free        bool                         // what was decided to be done does not bind it
}

// Keep holds that nothing is done to a metal of a valve.
const Keep = "keep"

// Hold is a metal of a valve whose treatment can be held when a plan is asked for, with what it can be held
// to: nothing (Keep), or the choice of a repair that works it.
type Hold struct {
	Of      trade.Metal
	Choices []string
}

// Holds are what can be held at valves of the head, by the repairs that the trade and the shop have for it.
func (h *Head) Holds() []Hold {
	var out []Hold
	for _, r := range h.Sheet.AllRepairs() {
		// a seat that is kept may be lapped
		if r.Choice == "" || r.Does == trade.Lap || r.Does.Each == 0 || !r.Does.Exists(h.Model.Kind) {
			continue
		}
		i := slices.IndexFunc(out, func(x Hold) bool { return x.Of == r.Works })
		if i < 0 {
			i, out = len(out), append(out, Hold{r.Works, []string{Keep}})
		}
		out[i].Choices = append(out[i].Choices, r.Choice)
	}
	return out
}

// Role is the role of a position, "" for what is no valve.
func (h *Head) Role(position string) layout.Role {
	v, _ := h.Model.Layout.Valve(position)
	return v.Role
}

// Valve is what the valve at a position is made of: the part in its place, else the model's.
func (h *Head) Valve(position string) trade.Valve {
	for _, p := range slices.Backward(h.Parts) {
		if p.Part == trade.ValvePart.Code && p.Position == position && p.Valve != nil && !p.New {
			return *p.Valve
		}
	}
	return h.Model.Valves[h.Role(position)]
}

// NewPart returns what a new part for a position measures, if it was measured.
func (h *Head) NewPart(kind, position string) (Part, bool) {
	for _, p := range slices.Backward(h.Parts) {
		if p.Part == kind && p.Position == position && p.New {
			return p, true
		}
	}
	return Part{}, false
}

// Setting is a choice of the shop, as usual where it made none.
func (h *Head) Setting(name string) string {
	if v, ok := h.Settings[name]; ok {
		return v
	}
	s, _ := trade.SettingNamed(name)
	return s.Usual
}

// Labour is what an operation takes and costs in this shop.
func (h *Head) Labour(o *trade.Operation) trade.Labour { return o.LabourBy(h.Setting) }

// School is what of the schools changes the order of work.
func (h *Head) School() trade.School {
	return trade.School{
		FaceFirst: h.Setting("school.face") == "first", Lap: h.Setting("school.lapping") == "always",
		Assembled: h.Setting("school.seal_when") == "assembled valves",
	}
}

// Inspection tells whether the head is only looked at: nothing is dismantled or mended.
func (h *Head) Inspection() bool { return h.Kind == Rules || h.Kind == BoughtIn || h.Kind == Core }

// Governing is the set that judges by the kind of intake, where the sheet has a limit in it.
func (h *Head) Governing() string {
	return map[string]string{Rules: Class, BoughtIn: New}[h.Kind]
}

// Limit returns the limit that judges a characteristic and role, or nil.
func (h *Head) Limit(code, role string) *Limit {
	if set := h.Governing(); set != "" {
		if l := h.Sheet.LimitOf(set, code, role); l != nil {
			return l
		}
	}
	return h.Sheet.LimitOf(Service, code, role)
}

// Figure is a figure of the sheet for a role, or its usual value where the sheet gives none;
// given tells whether the sheet does. ok is false when there is neither.
func (h *Head) Figure(f *trade.Figure, role layout.Role) (v quantity.Amount, given, ok bool) {
	if v, ok := h.Sheet.Figure(f.Code, string(role)); ok {
		return v, true, true
	}
	if f.Usual != nil {
		return *f.Usual, false, true
	}
	return 0, false, false
}

// Size is Figure of one that is a length.
func (h *Head) Size(f *trade.Figure, role layout.Role) (l length.Length, given, ok bool) {
	a, given, ok := h.Figure(f, role)
	return a.Length(), given, ok
}

// Decided returns the decision in force on a finding.
func (h *Head) Decided(finding string) (Decision, bool) {
	i := slices.IndexFunc(h.Decisions, func(d Decision) bool { return d.Finding == finding })
	if i < 0 {
		return Decision{}, false
	}
	return h.Decisions[i], true
}

// Renews tells whether the sheet has a part renewed whatever it measures.
func (h *Head) Renews(code string) bool { return slices.Contains(h.Sheet.Renew, code) }

// Positions are the valves' positions in the head's order.
func (h *Head) Positions() []string {
	var out []string
	for _, v := range h.Model.Layout.Valves {
		out = append(out, v.ID)
	}
	return out
}
