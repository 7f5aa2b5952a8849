// Package judge turns what was read and seen of a head into verdicts: every characteristic of
// every place against the limits of the head's sheet, with the reason and the doubt, up to
// the worst of a position and of the head. Head is its door; Judgement.Offers says what can
// be done about a finding, and what forbids the rest.
//
// It judges what stands: at every spot the latest reading of any stage. What was received is
// Head of head.Until(head.AsReceived).
package judge

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/seating"
	"yatai/core/trade"
	"yatai/core/words"
)

// Held is a feature held against another set of limits than the one that judges it.
type Held struct {
	Limit   head.Limit
	Verdict gauge.Verdict
}

// Feature is one characteristic judged at one place, or of the head as a whole; or a part
// that was looked at.
type Feature struct {
	Code     string
	Label    string
	Name     words.Text // of a mark: its label, for any language
	Position string     // "" for the head's own
	Role     string
	Verdict  gauge.Verdict
	Low      quantity.Amount // least and most of what was read or derived
	High     quantity.Amount
	Bracket  bool             // Low and High are the two leaves
	Mean     *quantity.Amount // of the readings, rounded once; nil for a bracket or a single one
	U        quantity.Amount
	PInside  float64 // how likely the true value is inside; meaningless without a limit
	Limit    *head.Limit
	By       quantity.Amount // how far past the limit, when out
	Side     string
	Settle   string // tool that would tell, when in doubt
	Note     string // shape of a guide and the like
	From     []uint // readings behind it
	At       string // where the worst was read: "L2", "bottom A"
	Unit     quantity.Unit
	Words    []string
	Held     []Held // the sheet's other sets
	Finding  uint   // the finding it speaks of, when eyes saw it
	Grade    string // of that
	Suspect  string // what a failed vacuum test points to: see seating
	Fallback bool   // the limit is the trade's, not the sheet's
}

// in is the unit f is shown in, u being the person's for lengths.
func (f Feature) in(u length.Unit) quantity.Unit { return f.Unit.Or(u) }

// Against returns what f says against another of the sheet's sets.
func (f Feature) Against(set string) (Held, bool) {
	i := slices.IndexFunc(f.Held, func(h Held) bool { return h.Limit.Set == set })
	if i < 0 {
		return Held{}, false
	}
	return f.Held[i], true
}

// Key names the feature on its head: "guide.clearance@2E1", "face.line/long".
func (f Feature) Key() string {
	k := f.Code
	if f.Position == "" && f.Role != "" {
		k += "/" + f.Role
	}
	if f.Position != "" {
		k += "@" + f.Position
	}
	return k
}

// Position is a valve position judged.
type Position struct {
	ID       string
	Role     layout.Role
	Worst    gauge.Verdict
	Features []Feature
}

// Feature returns the position's feature with that code.
func (p Position) Feature(code string) (Feature, bool) {
	i := slices.IndexFunc(p.Features, func(f Feature) bool { return f.Code == code })
	if i < 0 {
		return Feature{}, false
	}
	return p.Features[i], true
}

// Speaks returns the position's features that say something about a reading of code: its
// own, and what is derived from it.
func (p Position) Speaks(code string) []Feature {
	var out []Feature
	for _, f := range p.Features {
		c, _ := trade.ByCode(f.Code)
		if f.Code == code || slices.ContainsFunc(c.From,
			func(from *trade.Characteristic) bool { return from.Code == code }) {
			out = append(out, f)
		}
	}
	return out
}

// Judgement is a whole head judged.
type Judgement struct {
	Positions []Position
	Own       []Feature // of the head itself
	Worst     gauge.Verdict

	head  *head.Head
	byKey map[string]*Feature
}

// All returns every feature, the head's own last.
func (j Judgement) All() []Feature {
	var out []Feature
	for _, p := range j.Positions {
		out = append(out, p.Features...)
	}
	return append(out, j.Own...)
}

// Findings returns the features that need a decision: out, in doubt or to be renewed.
func (j Judgement) Findings() []Feature {
	return slices.DeleteFunc(j.All(), func(f Feature) bool { return f.Verdict < gauge.Doubt })
}

// Feature returns the feature with that key.
func (j Judgement) Feature(key string) (Feature, bool) {
	f, ok := j.byKey[key]
	if !ok {
		return Feature{}, false
	}
	return *f, true
}

// Position returns the judgement of the position with that id.
func (j Judgement) Position(id string) (Position, bool) {
	i := slices.IndexFunc(j.Positions, func(p Position) bool { return p.ID == id })
	if i < 0 {
		return Position{}, false
	}
	return j.Positions[i], true
}

// judging is a head being judged.
type judging struct {
	h     *head.Head
	sheet head.Sheet
	tools map[string][]head.Tool // by kind
}

// Head judges a head by what stands. A guide's clearance is derived: its largest value is
// held against the upper limit, its smallest against the lower, both with the doubt of both
// tools. What was not read is Unread; what has no limit on the sheet is Unread with a note
// that says so.
func Head(h *head.Head) Judgement {
	s := judging{h, h.Sheet.Indexed(), map[string][]head.Tool{}}
	for _, t := range h.Tools {
		s.tools[t.Kind] = append(s.tools[t.Kind], t)
	}
	lines := map[layout.Role][]line{}
	seen := h.Seen()
	j := Judgement{head: h}
	for _, v := range h.Model.Layout.Valves {
		if lines[v.Role] == nil {
			lines[v.Role] = s.lines(v.Role)
		}
		p := Position{ID: v.ID, Role: v.Role}
		for _, l := range lines[v.Role] {
			if !l.c.Here(s.h.Model.Layout, v.ID) {
				continue
			}
			f := l.blank
			f.Position = v.ID
			s.work(l.c, &f)
			if f.Limit != nil && (l.c.LimitOf == nil || len(f.From) > 0) || len(f.From) > 0 {
				p.Features = append(p.Features, f)
			}
		}
		for _, x := range seen {
			if x.Position == v.ID && x.Part != trade.MarkCode {
				p.Features = append(p.Features, s.seen(x, v.Role))
			}
		}
		for _, f := range p.Features {
			p.Worst = max(p.Worst, f.Verdict)
		}
		j.Positions = append(j.Positions, p)
	}
	j.Own = s.own()
	for _, x := range seen {
		if x.Part == trade.MarkCode || h.Role(x.Position) == "" {
			j.Own = append(j.Own, s.seen(x, ""))
		}
	}
	j.index()
	j.conclude()
	return j
}

// conclude says what a dropped valve and its vacuum say together, where both were read: either alone leaves
// open whether the seat or the valve is to blame.
func (j *Judgement) conclude() {
	for _, p := range j.Positions {
		drop, vacuum := j.byKey[trade.Drop.Code+"@"+p.ID], j.byKey[trade.VacuumLost.Code+"@"+p.ID]
		if drop == nil || vacuum == nil || len(drop.From) == 0 || len(vacuum.From) == 0 {
			continue
		}
		bounces, holds := drop.Low > 0, vacuum.Verdict == gauge.Sound || vacuum.Verdict == gauge.Near
		switch {
		case holds && !bounces:
			drop.Note = trade.ThudSays
		case vacuum.Verdict == gauge.Out && bounces && vacuum.Suspect != seating.SuspectValve:
			vacuum.Note = trade.BounceSays
		}
	}
}

// index finds the worst verdict and makes the features to be had by their keys.
func (j *Judgement) index() {
	j.byKey = map[string]*Feature{}
	add := func(fs []Feature) {
		for i := range fs {
			j.Worst = max(j.Worst, fs[i].Verdict)
			j.byKey[fs[i].Key()] = &fs[i]
		}
	}
	for _, p := range j.Positions {
		add(p.Features)
	}
	add(j.Own)
}

// seen is a finding as something judged.
func (s *judging) seen(x head.Finding, role layout.Role) Feature {
	p, _ := trade.PartNamed(x.Part)
	g, _ := p.Grade(x.Grade)
	f := Feature{
		Code:     x.Part,
		Label:    p.Label + ": " + g.Label,
		Position: x.Position,
		Role:     string(role),
		Verdict:  g.Verdict,
		Note:     g.Line,
		Finding:  x.ID,
		Grade:    x.Grade,
	}
	if x.Note != "" {
		f.Note = x.Note + " (" + g.Line + ")"
	}
	if x.Part == trade.MarkCode { // a role of its own tells one mark's key from another's
		f.Code, f.Position, f.Role = trade.MarkCode+"."+x.Grade, "", "m"+strconv.FormatUint(uint64(x.ID), 10)
		f.Name = x.Mark(g, s.h.Model.Layout)
		f.Label = f.Name.String()
	}
	return f
}

// line is one line of the form that every position of a role is judged on: a
// characteristic and its feature with nothing read yet.
type line struct {
	c     *trade.Characteristic
	blank Feature
}

// lines returns the form of a role: what the sheet has a limit for, what was read on this
// head, and what is always derived.
func (s *judging) lines(role layout.Role) []line {
	var out []line
	all := s.sheet.Characteristics()
	for i := range all {
		c := &all[i]
		if c.Where != trade.AtPosition || c.Of != nil || !c.Exists(s.h.Model.Kind) {
			continue
		}
		f := s.blank(c, "", string(role))
		if f.Limit == nil && (c.NoLimit || c.Derived() && !c.Always || !c.Derived() && !s.h.Read(c.Code)) {
			continue
		}
		out = append(out, line{c, f})
	}
	return out
}

// blank returns the feature of a characteristic, not judged yet.
func (s *judging) blank(c *trade.Characteristic, position, role string) Feature {
	code := c.Code
	if c.LimitOf != nil {
		code = c.LimitOf.Code
	}
	f := Feature{
		Code: c.Code, Label: c.Label, Position: position, Role: role, Unit: c.Unit, Words: c.Words,
		Limit: s.limit(code, role),
	}
	if f.Limit != nil && c.Unit.Size != 0 {
		l := *f.Limit
		l.Unit, f.Limit = c.Unit, &l
	}
	return f
}

// limit is the limit that judges a characteristic and role, or nil.
func (s *judging) limit(code, role string) *head.Limit {
	if set := s.h.Governing(); set != "" {
		if l := s.sheet.LimitOf(set, code, role); l != nil {
			return l
		}
	}
	return s.sheet.LimitOf(head.Service, code, role)
}

// work judges a feature of one place: by its readings, or by what follows from others.
func (s *judging) work(c *trade.Characteristic, f *Feature) {
	rs := s.h.Reads(c.Code, f.Position)
	switch {
	case len(rs) > 0 || c.Work == nil:
		s.judge(f, rs)
	default:
		s.derive(c, f)
	}
	s.hold(f)
}

// place is a place of the head as a derivation sees it.
type place struct {
	s        *judging
	position string
	role     layout.Role
}

func (p place) Position() string { return p.position }
func (p place) At(position string) trade.Place {
	return place{p.s, position, p.s.h.Role(position)}
}
func (p place) Role() layout.Role             { return p.role }
func (p place) Text(a quantity.Amount) string { return p.s.h.Unit.Text(a.Length()) }
func (p place) Layout() layout.Layout         { return p.s.h.Model.Layout }
func (p place) Setting(name string) string    { return p.s.h.Setting(name) }

func (p place) Figure(f *trade.Figure) (quantity.Amount, bool) {
	v, _, ok := p.s.h.Figure(f, p.role)
	return v, ok
}

// Reads returns what stands here; of what is read on the head, everything ever read: the
// day's own baseline belongs to the readings made after it.
func (p place) Reads(c *trade.Characteristic) []trade.Read {
	rs := p.s.h.Reads(c.Code, p.position)
	if c.Where == trade.AtHead {
		rs = p.s.h.Ever(c.Code)
	}
	if len(rs) == 0 {
		return nil
	}
	return head.ReadsOf(rs)
}

// derive judges what follows from other readings: its least against the lower limit, its
// most against the upper.
func (s *judging) derive(c *trade.Characteristic, f *Feature) {
	at := place{s, f.Position, layout.Role(f.Role)}
	d, ok := c.Work(at)
	if !ok {
		return
	}
	f.From = d.From
	if d.Unknown != "" {
		f.Note, f.Limit = d.Unknown, nil
		return
	}
	f.Low, f.High, f.Bracket, f.Mean, f.U, f.Note = d.Low, d.High, d.Bracket, d.Mean, d.U, d.Note
	if f.Limit == nil && d.Instead != nil {
		f.Fallback = true
		f.Limit = &head.Limit{
			Characteristic: c.Code,
			Role:           f.Role,
			Set:            head.Service,
			Low:            d.Instead.Low,
			High:           d.Instead.High,
			Near:           d.Instead.Near,
			Source:         d.Instead.Source,
			Unit:           c.Unit,
		}
	}
	if f.Limit == nil {
		f.Note = strings.TrimPrefix(f.Note+"; the sheet has no limit for it", "; ")
		return
	}
	f.PInside = 1
	ends := []struct {
		value gauge.Value
		limit gauge.Limit
	}{{
		gauge.Exact(d.Low), gauge.Limit{Low: f.Limit.Low, Near: f.Limit.Near},
	}, {gauge.Exact(d.High), gauge.Limit{High: f.Limit.High, Near: f.Limit.Near}}}
	if d.Bracket {
		ends = ends[:1]
		ends[0].value, ends[0].limit = gauge.Between(d.Low, d.High), f.Limit.Gauge()
	}
	for _, end := range ends {
		r := gauge.Judge(end.value, f.U, end.limit)
		if r.Side != "" {
			f.PInside = min(f.PInside, gauge.PInside(end.value, f.U, end.limit))
		}
		if r.Verdict > f.Verdict || f.Side == "" && r.Side != "" {
			f.Verdict = max(f.Verdict, r.Verdict)
			s.settle(f, c.From[0], d.Rest, end.value, r, end.limit)
		}
	}
	if f.Fallback && d.Instead.Asks && f.Verdict > gauge.Doubt { // a general figure asks; the maker's decides
		f.Verdict = gauge.Doubt
	}
	if c.Code == trade.VacuumLost.Code && f.Limit.High != nil && f.Verdict == gauge.Out {
		f.Suspect = trade.SuspectOf(at.Reads(trade.VacuumTurned), at.Reads(trade.VacuumBlanked), *f.Limit.High)
		f.Note = trade.SuspectSays[f.Suspect]
	}
}

// hold holds a feature that was read against the sheet's other sets.
func (s *judging) hold(f *Feature) {
	if len(f.From) == 0 {
		return
	}
	for _, set := range head.Sets {
		l := s.sheet.LimitOf(set.Code, f.Code, f.Role)
		if l == nil || f.Limit != nil && f.Limit.Set == set.Code {
			continue
		}
		h := Held{Limit: *l}
		h.Limit.Unit = f.Unit
		if f.Bracket {
			h.Verdict = gauge.Judge(gauge.Between(f.Low, f.High), 0, l.Gauge()).Verdict
		} else {
			h.Verdict = max(gauge.Judge(gauge.Exact(f.Low), f.U, l.Gauge()).Verdict,
				gauge.Judge(gauge.Exact(f.High), f.U, l.Gauge()).Verdict)
		}
		f.Held = append(f.Held, h)
	}
}

// judge holds each reading against the limit; the worst decides.
func (s *judging) judge(f *Feature, rs []head.Reading) {
	if f.Words != nil && f.Limit == nil && len(rs) > 0 { // whoever made the test knows whether it passed
		passes := quantity.One
		f.Fallback = true
		f.Limit = &head.Limit{
			Characteristic: f.Code, Role: f.Role, Set: head.Service, Low: &passes, Source: "trade practice",
			Unit: trade.PassFail,
		}
	}
	f.PInside = 1
	for i, r := range rs {
		lo, hi := r.Value.At, r.Value.At
		if r.Value.Bracket {
			lo, hi, f.Bracket = r.Value.Go, r.Value.NoGo, true
		}
		f.From = append(f.From, r.ID)
		if f.Words != nil {
			r.U = 0 // it passes or it does not
		}
		f.U = max(f.U, r.U)
		var res gauge.Result
		if f.Limit != nil {
			res = gauge.Judge(r.Value, r.U, f.Limit.Gauge())
			f.PInside = min(f.PInside, gauge.PInside(r.Value, r.U, f.Limit.Gauge()))
		}
		if i == 0 || res.Verdict > f.Verdict || f.Bracket && hi > f.High {
			f.At = r.Spot.At()
			lim := gauge.Limit{}
			if f.Limit != nil {
				lim = f.Limit.Gauge()
			}
			c, _ := s.sheet.Characteristic(f.Code)
			s.settle(f, &c, 0, r.Value, res, lim)
		}
		if i == 0 || f.Bracket && hi > f.High {
			f.Low, f.High = lo, hi
		} else if !f.Bracket {
			f.Low, f.High = min(f.Low, lo), max(f.High, hi)
		}
		f.Verdict = max(f.Verdict, res.Verdict)
	}
	if len(rs) > 1 && !f.Bracket {
		var all []quantity.Amount
		for _, r := range rs {
			all = append(all, r.Value.At)
		}
		m := length.Mean(all)
		f.Mean = &m
	}
	if f.Limit == nil && len(rs) > 0 {
		f.Note = "the sheet has no limit for it"
	}
}

// toolsFor returns the shop's tools that can read a characteristic: its usual ones, and whatever else
// reads the same kind of quantity.
func (s *judging) toolsFor(c *trade.Characteristic) (usual, other []head.Tool) {
	for _, kind := range c.Tools {
		usual = append(usual, s.tools[kind]...)
	}
	for _, k := range trade.ToolKinds {
		if !k.Eye && k.Unit.Name == c.Unit.Name && !slices.Contains(c.Tools, k.Name) {
			other = append(other, s.tools[k.Name]...)
		}
	}
	return usual, other
}

// settle notes how far past a limit a value is and which of the shop's tools would end a doubt: c is
// what would be read again, rest the doubt of what else goes into the figure.
func (s *judging) settle(
	f *Feature, c *trade.Characteristic, rest quantity.Amount, v gauge.Value, r gauge.Result,
	l gauge.Limit,
) {
	f.By, f.Side, f.Settle = max(0, -r.Distance), r.Side, ""
	if r.Verdict != gauge.Doubt || v.Bracket {
		return
	}
	usual, other := s.toolsFor(c)
	for _, tools := range [][]head.Tool{usual, other} {
		us := make([]quantity.Amount, len(tools))
		for i, t := range tools {
			us[i] = length.RSS(t.Doubt(v.At), rest)
		}
		if i := gauge.Settle(v.At, l, us); i >= 0 {
			f.Settle = tools[i].Name
			return
		}
	}
}

// Figure writes what was read, without its unit: "0.038 to 0.127", "1.60".
func (f Feature) Figure(u length.Unit) string { return f.Figured(u).String() }

// Figured is what Figure writes, for any language.
func (f Feature) Figured(u length.Unit) words.Text {
	if len(f.From) == 0 || f.Finding != 0 {
		return words.Text{}
	}
	if f.Words != nil {
		return words.Of(trade.Characteristic{Words: f.Words}.Show(f.Low, u))
	}
	in := f.in(u)
	if f.Low == f.High {
		return words.Of(in.In(f.Low, in.Places()))
	}
	return words.Of("%s to %s", in.In(f.Low, in.Places()), in.In(f.High, in.Places()))
}

// MeanText writes the mean of the readings with its unit, empty without one.
func (f Feature) MeanText(u length.Unit) string {
	if f.Mean == nil {
		return ""
	}
	in := f.in(u)
	return strings.TrimSpace(in.In(*f.Mean, in.Places()) + " " + in.Name)
}

// Says puts the verdict in a colleague's words: "0.012 mm over at L2."
func (f Feature) Says(u length.Unit) string { return f.Said(u).String() }

// Said is what Says says, for any language; nothing of what is sound.
func (f Feature) Said(u length.Unit) words.Text {
	if f.Finding != 0 {
		return words.Of(f.Note)
	}
	if f.Words != nil && len(f.From) > 0 {
		return words.Of("%s.", words.Of(f.Words[min(1, f.Low.Whole())]))
	}
	in := f.in(u)
	switch f.Verdict {
	case gauge.Out:
		by, at := strings.TrimSpace(in.In(f.By, in.Places())+" "+in.Name), f.At != "" && f.At != f.Position
		switch {
		case f.Side == trade.Low && at:
			return words.Of("%s under at %s.", by, f.At)
		case f.Side == trade.Low:
			return words.Of("%s under.", by)
		case at:
			return words.Of("%s over at %s.", by, f.At)
		}
		return words.Of("%s over.", by)
	case gauge.Doubt:
		if f.Fallback && f.By > 0 {
			return words.Of("The sheet has no limit; the general table allows %s. The lead decides.", f.Limit.Said(u))
		}
		if f.Settle != "" {
			return words.Of("Too close to tell. Read it again: %s.", words.Of(f.Settle))
		}
		if f.Bracket {
			return words.Of("The limit lies between the two leaves. Try a leaf in between.")
		}
		return words.Of("Too close to tell with any tool of the shop. The lead decides.")
	case gauge.Near:
		return words.Of("Inside, but close to the limit.")
	case gauge.Unread:
		if len(f.From) > 0 {
			return words.Of("The sheet has no limit for it.")
		}
		return words.Of("Not read.")
	}
	return words.Text{}
}

// Named is the feature's label, for any language.
func (f Feature) Named() words.Text {
	p, ok := trade.PartNamed(f.Code)
	if g, graded := p.Grade(f.Grade); ok && graded && f.Finding != 0 {
		return words.Of("%s: %s", words.Of(p.Label), words.Of(g.Label))
	}
	if f.Name.Sentence != "" {
		return f.Name
	}
	return words.Of(f.Label)
}

// Why explains the verdict: what was held against what, and whose limit it is.
func (f Feature) Why(u length.Unit) string {
	if f.Finding != 0 {
		return f.Label + ": " + f.Note
	}
	in := f.in(u)
	if len(f.From) == 0 || f.Limit == nil {
		return f.Says(u)
	}
	doubt := "doubt ±" + in.Doubt(f.U)
	if f.Bracket {
		doubt = "known only between the two leaves"
	}
	behind := fmt.Sprint(len(f.From), " readings")
	if len(f.From) == 1 {
		behind = "1 reading"
	}
	if f.Words != nil { // what it reads is the verdict
		return behind + " behind it."
	}
	return fmt.Sprintf(
		"Read %s %s, %s; %s. %s behind it.", f.Figure(u), in.Name, doubt, named(f.Limit, u), behind,
	) + f.Compares(u)
}

// named is a limit in a sentence, with its source where it has one.
func named(l *head.Limit, u length.Unit) string {
	says := setWord(l.Set) + " " + l.Text(u)
	if l.Source != "" {
		says += " (" + l.Source + ")"
	}
	return says
}

// setWord is what a limit of a set is called in a sentence.
func setWord(set string) string {
	switch set {
	case head.Target:
		return "shop target"
	case head.Class:
		return "class rule"
	case head.New:
		return "new part"
	}
	return "limit"
}

// Compares says what f is against the sheet's other sets, each as a sentence.
func (f Feature) Compares(u length.Unit) string {
	var b strings.Builder
	for _, h := range f.Held {
		if h.Limit.Set == head.New {
			continue // a worn part is no new one
		}
		fmt.Fprintf(&b, " Against the %s: %s.", named(&h.Limit, u), h.Verdict.Label())
	}
	return b.String()
}

// UnitName is the name of the unit f is shown in.
func (f Feature) UnitName(u length.Unit) string { return f.in(u).Name }
