package judge

import (
	"fmt"
	"slices"
	"strings"

	"yatai/core/gauge"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/valvetrain"
)

// Reading is one current reading of a head.
type Reading struct {
	ID             uint
	Characteristic string
	Spot           Spot
	Value          gauge.Value
	U              length.Length // expanded uncertainty of its tool
	Tool           string
}

// Limit is one line of a limit sheet. Role is intake, exhaust, long, cross, diagonal,
// or empty for any. Set is service, target, new or class.
type Limit struct {
	Characteristic string
	Role           string
	Set            string
	Low, High      *length.Length
	Near           length.Length
	Source         string
	Unit           length.Unit // of what is not a length
}

// Sets are the limit sets a sheet can have besides the service limits everything is
// judged by: work done here is held against the target too, a rules check against the
// class rule, and a part bought in against the maker's figures for a new one.
var Sets = []struct{ Code, Label string }{{"service", "Service limits"}, {"target", "Shop targets"}, {"new", "New parts"}, {"class", "Class rule"}}

func (l Limit) gauge() gauge.Limit { return gauge.Limit{Low: l.Low, High: l.High, Near: l.Near} }

// Text writes the limit in a unit: "0.020 to 0.060 mm", "0.08 mm max".
func (l Limit) Text(u length.Unit) string {
	if l.Unit.Size != 0 {
		u = l.Unit
	}
	show := func(x *length.Length) string { return strings.TrimSuffix(u.Text(*x), " "+u.Name) }
	switch {
	case l.Low == nil && l.High == nil:
		return "no limit"
	case l.Low == nil:
		return show(l.High) + " " + u.Name + " max"
	case l.High == nil:
		return show(l.Low) + " " + u.Name + " min"
	}
	return show(l.Low) + " to " + show(l.High) + " " + u.Name
}

// Held is a feature held against another set of limits than the one that judges it.
type Held struct {
	Limit   Limit
	Verdict gauge.Verdict
}

// Feature is one characteristic judged at one position, or of the head as a whole.
type Feature struct {
	Code     string
	Label    string
	Position string // "" for the head's own
	Role     string
	Verdict  gauge.Verdict
	Low      length.Length // least and most of what was read or derived
	High     length.Length
	Bracket  bool           // Low and High are the two leaves
	Mean     *length.Length // of the readings, rounded once; nil for a bracket or a single one
	U        length.Length
	Limit    *Limit
	By       length.Length // how far past the limit, when out
	Side     string
	Settle   string // tool that would tell, when in doubt
	Note     string // shape of a guide and the like
	From     []uint // readings behind it
	At       string // where the worst was read: "L2", "bottom A"
	Unit     length.Unit
	Words    []string
	Held     []Held // the sheet's other sets
	Finding  uint   // the finding it speaks of, when eyes saw it
}

// in is the unit f is shown in, u being the person's for lengths.
func (f Feature) in(u length.Unit) length.Unit {
	if f.Unit.Size != 0 {
		return f.Unit
	}
	return u
}

// Against returns what f says against another of the sheet's sets.
func (f Feature) Against(set string) (Held, bool) {
	i := slices.IndexFunc(f.Held, func(h Held) bool { return h.Limit.Set == set })
	if i < 0 {
		return Held{}, false
	}
	return f.Held[i], true
}

// Key names the feature on its head: "guide.clearance@2E1".
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
func (p Position) Feature(code string) (Feature, bool) { return featureOf(p.Features, code) }

func featureOf(fs []Feature, code string) (Feature, bool) {
	i := slices.IndexFunc(fs, func(f Feature) bool { return f.Code == code })
	if i < 0 {
		return Feature{}, false
	}
	return fs[i], true
}

// Judgement is a whole head judged.
type Judgement struct {
	Positions []Position
	Own       []Feature // of the head itself
	Worst     gauge.Verdict

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

// Sheet is what a head is judged by.
type Sheet struct {
	Layout layout.Layout
	Limits []Limit
	Tools  map[string][]gauge.Tool // the shop's tools by kind, to name one that would settle a doubt
	Own    []Characteristic        // the shop's own
	Set    string                  // the set that judges, where it has a limit; else the service limits do
	Given  map[string]length.Length

	index map[limitKey]*Limit // of Limits, made by Head
}

type limitKey struct{ set, code, role string }

// indexed returns the sheet with its limits indexed: a head is judged by thousands of
// look-ups. The first of equal lines counts.
func (s Sheet) indexed() Sheet {
	s.index = make(map[limitKey]*Limit, len(s.Limits))
	for i := range s.Limits {
		l := &s.Limits[i]
		if k := (limitKey{l.Set, l.Characteristic, l.Role}); s.index[k] == nil {
			s.index[k] = l
		}
	}
	return s
}

// limit returns the limit that judges a characteristic and role, or nil.
func (s Sheet) limit(code, role string) *Limit {
	if l := s.limitOf(s.Set, code, role); l != nil {
		return l
	}
	return s.limitOf("service", code, role)
}

// Limit returns the limit that judges a characteristic and role, or nil.
func (s Sheet) Limit(code, role string) *Limit { return s.limit(code, role) }

// LimitOf returns the limit of one set for a characteristic and role, or nil.
func (s Sheet) LimitOf(set, code, role string) *Limit { return s.limitOf(set, code, role) }

func (s Sheet) limitOf(set, code, role string) *Limit {
	if s.index != nil {
		if l := s.index[limitKey{set, code, role}]; l != nil || role == "" {
			return l
		}
		return s.index[limitKey{set, code, ""}]
	}
	for i := range s.Limits {
		l := &s.Limits[i]
		if l.Characteristic == code && l.Set == set && (l.Role == role || l.Role == "") {
			return l
		}
	}
	return nil
}

// characteristics are the product's and the shop's own.
func (s Sheet) characteristics() []Characteristic {
	if len(s.Own) == 0 {
		return Characteristics
	}
	return slices.Concat(Characteristics, s.Own)
}

// byCode returns the characteristic with that code, the product's or the shop's own.
func (s Sheet) byCode(code string) (Characteristic, bool) {
	if c, ok := ByCode(code); ok {
		return c, true
	}
	for _, c := range s.Own {
		if c.Code == code {
			return c, true
		}
	}
	return Characteristic{}, false
}

// line is one line of the form that every position of a role is judged on: a
// characteristic and its feature with nothing read yet.
type line struct {
	c     Characteristic
	blank Feature
}

// lines returns the form of a role: what the sheet has a limit for, what was read on this
// head, and what is always derived.
func (s Sheet) lines(role layout.Role, by map[string]map[string][]Reading) []line {
	var out []line
	all := s.characteristics()
	for i := range all {
		c := &all[i]
		if c.Where != AtPosition || c.Of != "" {
			continue
		}
		f := s.with(*c, "", string(role))
		if f.Limit == nil && (c.Feeds != "" || c.Derived && !derived[c.Code].always || !c.Derived && by[c.Code] == nil) {
			continue
		}
		out = append(out, line{*c, f})
	}
	return out
}

// with returns the feature of a characteristic, not judged yet.
func (s Sheet) with(c Characteristic, position, role string) Feature {
	code := c.Code
	if c.LimitOf != "" {
		code = c.LimitOf
	}
	f := Feature{Code: c.Code, Label: c.Label, Position: position, Role: role, Unit: c.Unit, Words: c.Words, Limit: s.limit(code, role)}
	if f.Limit != nil && c.Unit.Size != 0 {
		l := *f.Limit
		l.Unit, f.Limit = c.Unit, &l
	}
	return f
}

// hold holds a feature that was read against the sheet's other sets.
func (s Sheet) hold(f *Feature) {
	if len(f.From) == 0 {
		return
	}
	for _, set := range Sets {
		l := s.limitOf(set.Code, f.Code, f.Role)
		if l == nil || f.Limit != nil && f.Limit.Set == set.Code {
			continue
		}
		h := Held{Limit: *l}
		h.Limit.Unit = f.Unit
		if f.Bracket {
			h.Verdict = gauge.Judge(gauge.Between(f.Low, f.High), 0, l.gauge()).Verdict
		} else {
			h.Verdict = max(gauge.Judge(gauge.Exact(f.Low), f.U, l.gauge()).Verdict, gauge.Judge(gauge.Exact(f.High), f.U, l.gauge()).Verdict)
		}
		f.Held = append(f.Held, h)
	}
}

// Head judges a whole head: readings must be current ones, one per spot, and findings
// those that stand. A guide's clearance is derived: its largest value is held against the
// upper limit, its smallest against the lower, both with the doubt of both tools. What was
// not read is Unread; what has no limit on the sheet is Unread with a note that says so.
func Head(s Sheet, readings []Reading, findings ...Finding) Judgement {
	s = s.indexed()
	by := map[string]map[string][]Reading{}
	for _, r := range readings {
		if by[r.Characteristic] == nil {
			by[r.Characteristic] = map[string][]Reading{}
		}
		by[r.Characteristic][r.Spot.Position] = append(by[r.Characteristic][r.Spot.Position], r)
	}
	lines := map[layout.Role][]line{}
	base := by["test.baseline"]["H"]
	var j Judgement
	for _, v := range s.Layout.Valves {
		if lines[v.Role] == nil {
			lines[v.Role] = s.lines(v.Role, by)
		}
		p := Position{ID: v.ID, Role: v.Role}
		at := func(code string) []Reading {
			if code == "test.baseline" {
				return base
			}
			return by[code][v.ID]
		}
		for _, l := range lines[v.Role] {
			c, f := l.c, l.blank
			f.Position = v.ID
			if c.Derived {
				derived[c.Code].judge(s, &f, at)
			} else {
				s.judge(&f, at(c.Code))
			}
			s.hold(&f)
			if f.Limit != nil && (!c.Derived || c.LimitOf == "" || len(f.From) > 0) || len(f.From) > 0 {
				p.Features = append(p.Features, f)
			}
		}
		for _, x := range findings {
			if x.Position == v.ID && x.Part != Mark {
				p.Features = append(p.Features, x.feature(v.Role))
			}
		}
		for _, f := range p.Features {
			p.Worst = max(p.Worst, f.Verdict)
		}
		j.Positions = append(j.Positions, p)
	}
	j.Own = s.own(by)
	for _, x := range findings {
		if x.Part == Mark || x.Position == "" {
			j.Own = append(j.Own, x.feature(""))
		}
	}
	j.index()
	return j
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

// own judges what belongs to the head itself: face lines by direction, thickness, what is
// read per cylinder, journal or once, and the spreads.
func (s Sheet) own(by map[string]map[string][]Reading) []Feature {
	var out []Feature
	words := map[string]string{"long": "lengthwise", "cross": "crosswise", "diagonal": "diagonal"}
	for _, kind := range []string{"long", "cross", "diagonal"} {
		c, _ := ByCode("face.line")
		f := s.with(c, "", kind)
		f.Label = "Face, " + words[kind]
		var rs []Reading
		for _, l := range s.Layout.Lines {
			if l.Kind == kind {
				rs = append(rs, by["face.line"][l.Name]...)
			}
		}
		s.judge(&f, rs)
		s.hold(&f)
		out = append(out, f)
	}
	for _, c := range s.characteristics() {
		roles := []string{""}
		if c.Where == AtPosition {
			if c.Of == "" {
				continue
			}
			roles = []string{string(layout.Intake), string(layout.Exhaust)}
		}
		if c.Where == AtLine {
			continue
		}
		for _, role := range roles {
			f := s.with(c, "", role)
			if f.Limit == nil && (c.Derived || c.Feeds != "" || by[c.Code] == nil && c.Code != "head.thickness") {
				continue
			}
			rs := s.row(by, c, role)
			switch {
			case c.Of != "":
				s.spread(&f, rs)
			case c.Code == "face.flatness":
				s.flatness(&f, by["face.grid"])
			default:
				s.judge(&f, rs)
			}
			if c.Code == "head.thickness" {
				f.Label = "Thickness, least"
				if len(rs) > 1 {
					f.Note = fmt.Sprintf("largest less smallest %s", f.High-f.Low)
				}
			}
			s.hold(&f)
			if f.Limit != nil || len(f.From) > 0 || c.Code == "head.thickness" {
				out = append(out, f)
			}
		}
	}
	return out
}

// row collects the readings of c, or of what it is derived of, in the head's order; of one
// role where there is one.
func (s Sheet) row(by map[string]map[string][]Reading, c Characteristic, role string) []Reading {
	if c.Of != "" {
		c, _ = s.byCode(c.Of)
	}
	var rs []Reading
	seen := map[string]bool{}
	for _, sp := range c.Spots(s.Layout) {
		if v, valve := s.Layout.Valve(sp.Position); seen[sp.Position] || valve && role != "" && string(v.Role) != role {
			continue
		}
		seen[sp.Position] = true
		rs = append(rs, by[c.Code][sp.Position]...)
	}
	return rs
}

// judge holds each reading against the limit; the worst decides.
func (s Sheet) judge(f *Feature, rs []Reading) {
	for i, r := range rs {
		lo, hi := r.Value.At, r.Value.At
		if r.Value.Bracket {
			lo, hi, f.Bracket = r.Value.Go, r.Value.NoGo, true
		}
		f.From = append(f.From, r.ID)
		f.U = max(f.U, r.U)
		var res gauge.Result
		if f.Limit != nil {
			res = gauge.Judge(r.Value, r.U, f.Limit.gauge())
		}
		if i == 0 || res.Verdict > f.Verdict || f.Bracket && hi > f.High {
			f.At = r.Spot.At()
			f.settle(func() []gauge.Tool { return s.toolsFor(f.Code, 0) }, r.Value, res, f.Limit)
		}
		if i == 0 || f.Bracket && hi > f.High {
			f.Low, f.High = lo, hi
		} else if !f.Bracket {
			f.Low, f.High = min(f.Low, lo), max(f.High, hi)
		}
		f.Verdict = max(f.Verdict, res.Verdict)
	}
	if len(rs) > 1 && !f.Bracket {
		var all []length.Length
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

// At writes where within its position, or which line, a spot is.
func (s Spot) At() string {
	if s.Place == "" {
		return s.Position
	}
	return strings.TrimSpace(s.Place + " " + s.Dir)
}

// toolsFor returns the tools a characteristic is read with, each with the doubt the
// figure would have: other is the doubt of what else goes into it.
func (s Sheet) toolsFor(code string, other length.Length) []gauge.Tool {
	c, _ := ByCode(code)
	var out []gauge.Tool
	for _, t := range s.Tools[c.ToolKind] {
		out = append(out, gauge.Tool{Name: t.Name, U: length.RSS(t.U, other)})
	}
	return out
}

// settle notes how far past a limit a value is and which of the tools would end a doubt.
func (f *Feature) settle(tools func() []gauge.Tool, v gauge.Value, r gauge.Result, l *Limit) {
	f.By, f.Side, f.Settle = max(0, -r.Distance), r.Side, ""
	if r.Verdict == gauge.Doubt && !v.Bracket {
		ts := tools()
		if i := gauge.Settle(v.At, l.gauge(), ts); i >= 0 {
			f.Settle = ts[i].Name
		}
	}
}

func places(rs []Reading) valvetrain.Places {
	var p valvetrain.Places
	at := map[string]*[]length.Length{"top": &p.Top, "middle": &p.Middle, "bottom": &p.Bottom}
	for _, r := range rs {
		if place := at[r.Spot.Place]; place != nil {
			*place = append(*place, r.Value.At)
		}
	}
	return p
}

func maxU(rs []Reading) length.Length {
	var u length.Length
	for _, r := range rs {
		u = max(u, r.U)
	}
	return u
}

// generalClearance is the general table: guide clearance by stem diameter, micrometres,
// general trade values.
var generalClearance = []struct {
	upTo                         length.Length
	inLow, inHigh, exLow, exHigh length.Length
}{
	{7 * mm, 15, 45, 25, 60}, {9 * mm, 20, 55, 35, 70}, {12 * mm, 30, 70, 50, 90}, {16 * mm, 45, 90, 70, 120},
}

// General returns the general table's clearance limit for a stem of 5 to 16 mm, nil
// outside that.
func General(role string, stem length.Length) *Limit {
	if stem < 5*mm {
		return nil
	}
	for _, g := range generalClearance {
		if stem > g.upTo {
			continue
		}
		lo, hi := g.inLow*length.Micrometre, g.inHigh*length.Micrometre
		if role == string(layout.Exhaust) {
			lo, hi = g.exLow*length.Micrometre, g.exHigh*length.Micrometre
		}
		return &Limit{Characteristic: "guide.clearance", Role: role, Set: "service", Low: &lo, High: &hi, Near: 5 * length.Micrometre, Source: "general table"}
	}
	return nil
}

// Figure writes what was read, without its unit: "0.038 to 0.127", "1.60".
func (f Feature) Figure(u length.Unit) string {
	if len(f.From) == 0 || f.Finding != 0 {
		return ""
	}
	if f.Words != nil {
		return Characteristic{Words: f.Words}.Show(f.Low, u)
	}
	u = f.in(u)
	if f.Low == f.High {
		return u.In(f.Low, u.Places())
	}
	return u.In(f.Low, u.Places()) + " to " + u.In(f.High, u.Places())
}

// Says puts the verdict in a colleague's words: "0.012 mm over. Ream ... or new guide."
func (f Feature) Says(u length.Unit) string {
	if f.Finding != 0 {
		return f.Note
	}
	if f.Words != nil && len(f.From) > 0 {
		return f.Words[min(1, int(f.Low/mm))] + "."
	}
	u = f.in(u)
	switch f.Verdict {
	case gauge.Out:
		word := map[string]string{"high": "over", "low": "under"}[f.Side]
		s := fmt.Sprintf("%s %s", strings.TrimSpace(u.In(f.By, u.Places())+" "+u.Name), word)
		if f.At != "" && f.At != f.Position {
			s += " at " + f.At
		}
		return s + "."
	case gauge.Doubt:
		if f.Settle != "" {
			return "Too close to tell. Read it again: " + f.Settle + "."
		}
		if f.Bracket {
			return "The limit lies between the two leaves. Try a leaf in between."
		}
		return "Too close to tell with any tool of the shop. The lead decides."
	case gauge.Near:
		return "Inside, but close to the limit."
	case gauge.Unread:
		if len(f.From) > 0 {
			return "The sheet has no limit for it."
		}
		return "Not read."
	}
	return ""
}

// Why explains the verdict: what was held against what, and whose limit it is.
func (f Feature) Why(u length.Unit) string {
	if f.Finding != 0 {
		return f.Label + ": " + f.Note
	}
	u = f.in(u)
	if len(f.From) == 0 || f.Limit == nil {
		return f.Says(u)
	}
	doubt := fmt.Sprintf("doubt ±%s", u.Text(f.U))
	if f.Bracket {
		doubt = "known only between the two leaves"
	}
	return fmt.Sprintf("Read %s %s, %s; %s %s (%s). %s behind it.", f.Figure(u), u.Name, doubt, setWord(f.Limit.Set), f.Limit.Text(u), f.Limit.Source, map[bool]string{true: "1 reading", false: fmt.Sprint(len(f.From), " readings")}[len(f.From) == 1]) + f.Compares(u)
}

// setWord is what a limit of a set is called in a sentence.
func setWord(set string) string {
	return map[string]string{"target": "shop target", "class": "class rule", "new": "new part"}[set] + map[bool]string{true: "limit"}[set == "service" || set == ""]
}

// Compares says what f is against the sheet's other sets, each as a sentence.
func (f Feature) Compares(u length.Unit) string {
	var b strings.Builder
	for _, h := range f.Held {
		if h.Limit.Set == "new" {
			continue // a worn part is no new one
		}
		fmt.Fprintf(&b, " Against the %s %s (%s): %s.", setWord(h.Limit.Set), h.Limit.Text(u), h.Limit.Source, h.Verdict.Label())
	}
	return b.String()
}

// UnitName is the name of the unit f is shown in.
func (f Feature) UnitName(u length.Unit) string { return f.in(u).Name }
