package judge

import (
	"fmt"
	"slices"

	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/surface"
	"yatai/core/trade"
)

// Offer is a repair of a finding and whether it is allowed here, and why or why not.
type Offer struct {
	*trade.Repair
	trade.Ruling
}

// Offers lists what can be done about a finding: what is allowed first, cheapest first, then
// what is forbidden with its reason.
func (j Judgement) Offers(f Feature) []Offer {
	var allowed, forbidden []Offer
	for _, r := range Answers(j.head, f) {
		o := Offer{r, r.Rule(findingCase{j, f})}
		if o.OK {
			allowed = append(allowed, o)
		} else {
			forbidden = append(forbidden, o)
		}
	}
	return append(allowed, forbidden...)
}

// Answers are the repairs that answer a finding on a head, cheapest first, forbidden ones too:
// those of the trade and the shop's own, or those the shop has named for a characteristic of its own.
func Answers(h *head.Head, f Feature) []*trade.Repair {
	kind := h.Model.Kind
	for _, c := range h.Sheet.Own {
		if c.Code != f.Code {
			continue
		}
		var out []*trade.Repair
		for _, code := range c.Answers {
			if r := trade.RepairNamed(code); r != nil && r.Does.Exists(kind) {
				out = append(out, r)
			}
		}
		return out
	}
	return h.Sheet.RepairsFor(f.Code, f.Side, kind)
}

// Usual is the cheapest repair of a finding that is allowed, nil when none is.
func (j Judgement) Usual(f Feature) *trade.Repair {
	for _, o := range j.Offers(f) {
		if o.OK {
			return o.Repair
		}
	}
	return nil
}

// Allows tells whether a repair may be done about a finding, and why or why not.
func (j Judgement) Allows(f Feature, code string) trade.Ruling {
	for _, o := range j.Offers(f) {
		if o.Code == code {
			return o.Ruling
		}
	}
	return trade.No("it is no answer to this")
}

// Permits tells whether a repair may be done about a finding by what the parts are and how
// they look, whatever their sizes: those a plan of the whole head works out. The finding may
// be a position alone.
func (j Judgement) Permits(f Feature, r *trade.Repair) trade.Ruling {
	if !r.Does.Exists(j.head.Model.Kind) {
		return trade.No("this head has nothing of the kind")
	}
	return r.Permits(findingCase{j, f})
}

// CaseAt is a position of the head as a repair's rule sees it, whatever was found there.
func (j Judgement) CaseAt(position string) trade.Case {
	return findingCase{j, Feature{Position: position}}
}

// NoAnswer says why nothing can be done about a finding, "" when something can.
func NoAnswer(f Feature) string {
	c, _ := trade.ByCode(f.Code)
	return c.NoAnswer
}

// findingCase is a finding with its head, as a repair's rule sees it.
type findingCase struct {
	j Judgement
	f Feature
}

func (c findingCase) Finding() string { return c.f.Code }

// Text writes a length in the unit of the head's sheet.
func (c findingCase) Text(a quantity.Amount) string { return c.j.head.Unit.Text(a.Length()) }

// Ring is the main cut that the seat needs for a full ring, where its width or its place is out and not left
// so; 0 where neither is, or nothing can be worked out.
func (c findingCase) Ring() quantity.Amount {
	out := slices.ContainsFunc([]string{trade.SeatWidth.Code, trade.SeatPosition.Code}, func(code string) bool {
		f, there := c.j.Feature(Feature{Code: code, Position: c.f.Position}.Key())
		if !there || f.Verdict < gauge.Out {
			return false
		}
		d, decided := c.j.head.Decided(f.Key())
		return !decided || d.Choice != trade.Leave
	})
	lv, ok := c.j.head.Model.Layout.Valve(c.f.Position)
	if !out || !ok {
		return 0
	}
	if r := Ring(c.j.head, lv, nil, nil); r.Out != nil {
		return quantity.OfLength(r.Out.Sink)
	}
	return 0
}

func (c findingCase) Kind() trade.Kind               { return c.j.head.Model.Kind }
func (c findingCase) Valve() trade.Valve             { return c.j.head.Valve(c.f.Position) }
func (c findingCase) Out() (string, quantity.Amount) { return c.f.Side, c.f.By }
func (c findingCase) Grade(p *trade.Part) string     { return c.j.head.Grade(p.Code, c.f.Position) }
func (c findingCase) NewStem() (at, u quantity.Amount, ok bool) {
	fresh, ok := c.j.head.NewStem(c.f.Position)
	return fresh.At, fresh.U, ok
}

func (c findingCase) Read(x *trade.Characteristic) (lo, hi, u quantity.Amount, ok bool) {
	if f, there := c.j.byKey[Feature{Code: x.Code, Position: c.f.Position}.Key()]; there && len(f.From) > 0 &&
		f.Finding == 0 {
		return f.Low, f.High, f.U, true
	}
	if f, there := c.j.byKey[x.Code]; there && len(f.From) > 0 { // of the head as a whole
		return f.Low, f.High, f.U, true
	}
	rs := c.j.head.Reads(x.Code, c.f.Position)
	for i, r := range rs {
		a, b := r.Value.At, r.Value.At
		if r.Value.Bracket {
			a, b = r.Value.Go, r.Value.NoGo
		}
		if i == 0 {
			lo, hi = a, b
		}
		lo, hi, u = min(lo, a), max(hi, b), max(u, r.U)
	}
	return lo, hi, u, len(rs) > 0
}

func (c findingCase) Limit(x *trade.Characteristic) (low, high *quantity.Amount) {
	role := string(c.j.head.Role(c.f.Position))
	l := c.j.head.Limit(x.Code, role)
	if f, there := c.j.byKey[Feature{Code: x.Code, Position: c.f.Position}.Key()]; l == nil && there {
		l = f.Limit // the general table's
	}
	if l == nil {
		return nil, nil
	}
	return l.Low, l.High
}

func (c findingCase) Figure(f *trade.Figure) (quantity.Amount, bool) {
	v, _, ok := c.j.head.Figure(f, c.j.head.Role(c.f.Position))
	return v, ok
}

// Listed tells whether the shop's list of parts has such a part, for this head or any; a head
// without a list has none to go by.
func (c findingCase) Listed(k *trade.PartKind) bool {
	stock := c.j.head.Stock
	return len(stock) == 0 || slices.ContainsFunc(stock, func(s head.Stock) bool { return s.Kind == k.Code })
}

func (c findingCase) FaceCut() quantity.Amount {
	need := c.j.FaceNeed()
	if need.Tilted != nil {
		return quantity.OfLength(need.Tilted.Cut)
	}
	return quantity.OfLength(need.Cut)
}

// Suspect is what a failed vacuum test points to here.
func (c findingCase) Suspect() string {
	if f, there := c.j.byKey[Feature{Code: trade.VacuumLost.Code, Position: c.f.Position}.Key()]; there {
		return f.Suspect
	}
	return ""
}

// Passed is what was recorded of lapping here.
func (c findingCase) Passed() (passes int, full, known bool) {
	rings := c.j.head.Reads(trade.LapRing.Code, c.f.Position)
	if len(rings) == 0 {
		return 0, false, false
	}
	for _, r := range c.j.head.Reads(trade.LapLog.Code, c.f.Position) {
		passes += r.Value.At.Whole()
	}
	return passes, rings[0].Value.At > 0, true
}

// FaceNeed is what the face needs: how much has to come off at least so that it is clean and
// flat, which finding asks for it, and what contradicts.
type FaceNeed struct {
	Cut  length.Length
	For  string // the finding's key, "" when nothing has to come off
	Says string
	Odd  string // feelers and plate tell different stories
	Grid bool   // it was reckoned from the plate

	Tilted *Tilt // the head tilted to the plane of the plate's heights; nil where that saves nothing
}

// Tilt is a face cut with the head tilted to the best plane of the plate's heights: what has to come
// off at least, and how that plane rises along and across, in micrometres a metre.
type Tilt struct {
	Cut           length.Length
	Along, Across quantity.Decimal
	Says          string
}

// worthTilting is how much less has to come off before a head is worth tilting: what it can be set
// up to is no better.
const worthTilting = length.Hundredth

// FaceNeed works out what has to come off the face, where a finding of it stands that nobody
// has left. The plate's heights reckon where they were read: they are finer than feelers.
func (j Judgement) FaceNeed() FaceNeed {
	h := j.head
	var need FaceNeed
	for _, key := range []string{
		"face.line/long", "face.line/cross", "face.line/diagonal", "face.flatness", "face.finish",
		"head.taper",
	} {
		f, ok := j.byKey[key]
		if !ok || f.Verdict < gauge.Out || j.left(key) {
			continue
		}
		if need.For == "" {
			need.For = key
		}
		if f.Code == trade.Taper.Code {
			need.Cut = max(need.Cut, f.High.Length())
		}
	}
	if need.For == "" {
		return need
	}
	allow, _, _ := h.Size(trade.FaceAllow, "")
	clean, _, _ := h.Size(trade.FaceClean, "")
	var worst length.Length
	for _, l := range h.Model.Layout.Lines {
		for _, r := range h.Reads(trade.FaceLine.Code, l.Name) {
			worst = max(worst, r.Value.NoGo.Length())
		}
	}
	need.Says = fmt.Sprintf("largest gap %s and %s for the cut", h.Unit.Text(worst), h.Unit.Text(allow))
	if in, _, _ := Grid(h); len(in.Points) > 0 {
		if out, err := surface.Flatness(in); err == nil {
			need.Grid, need.Says = true, fmt.Sprintf("%s on the plate and %s for the cut", h.Unit.Text(out.Range),
				h.Unit.Text(allow))
			if worst > 0 && (worst-out.Range).Abs() > max(2*length.Hundredth, worst/2) {
				need.Odd = fmt.Sprintf("the feelers say %s, the plate %s: the plate reckons, read both again",
					h.Unit.Text(worst), h.Unit.Text(out.Range))
			}
			if need.Cut == 0 { // not for a taper: tilting would keep it
				need.Tilted = &Tilt{
					Cut: max(out.Zone+allow, clean), Along: out.TiltX, Across: out.TiltY,
					Says: fmt.Sprintf("%s tilted to the plane of the plate's heights and %s for the cut",
						h.Unit.Text(out.Zone), h.Unit.Text(allow)),
				}
			}
			worst = out.Range
		}
	}
	if need.Cut = max(need.Cut, worst); need.Cut > 0 {
		need.Cut += allow
	}
	need.Cut = max(need.Cut, clean)
	if need.Tilted != nil && need.Tilted.Cut+worthTilting > need.Cut {
		need.Tilted = nil
	}
	return need
}

// left tells whether the lead has left a finding as it is.
func (j Judgement) left(key string) bool {
	d, ok := j.head.Decided(key)
	return ok && d.Choice == trade.Leave
}

// Case returns a finding with its head as a rule sees it, for what is asked of a record.
func (j Judgement) Case(position string) trade.RecordCase { return RecordCase{j.head, position} }

// RecordCase is a position of a head as a record's judgement sees it.
type RecordCase struct {
	Head     *head.Head
	Position string
}

// Kind is the head's.
func (c RecordCase) Kind() trade.Kind { return c.Head.Model.Kind }

// Valve is what the valve here is made of.
func (c RecordCase) Valve() trade.Valve { return c.Head.Valve(c.Position) }

// Setting is a choice of the shop.
func (c RecordCase) Setting(name string) string { return c.Head.Setting(name) }

// Limit is the sheet's for the position's role.
func (c RecordCase) Limit(x *trade.Characteristic) (low, high *quantity.Amount) {
	return c.Head.RoleLimit(x, c.Head.Role(c.Position))
}

// ToolU is the doubt of the shop's tool of a kind.
func (c RecordCase) ToolU(kind string) quantity.Amount { return c.Head.ToolU(kind) }
