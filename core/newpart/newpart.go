// Package newpart holds new parts against the old ones, against the maker's figures and
// against the rest of their box, before they are trusted. Compare is its door: a head with its
// new parts goes in, what each measures beside the part it replaces comes out, with what is
// wrong with it.
package newpart

import (
	"slices"

	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/trade"
	"yatai/core/words"
)

// Part is a new part for a position.
type Part struct {
	Kind     *trade.PartKind
	Position string
	Sizes    []Size
}

// Size is one characteristic of a new part beside the old one's. Limit is the maker's for a new
// part, else the one the head is judged by; nil without either.
type Size struct {
	Of             *trade.Characteristic
	Old, New       quantity.Amount
	HadOld, HasNew bool
	U              quantity.Amount // doubt of New, k = 2
	Limit          *head.Limit
	Verdict        gauge.Verdict
	Says           words.Text // what is wrong with it, "" when nothing is

	unit length.Unit
}

// Lacks lists the labels of what has to be measured before the part is trusted and was not.
func (p Part) Lacks() []words.Text {
	var out []words.Text
	for _, s := range p.Sizes {
		if !s.HasNew && slices.Contains(p.Kind.First, s.Of) {
			out = append(out, words.Mid(s.Of.Label))
		}
	}
	return out
}

// Measured tells whether anything of the part was measured.
func (p Part) Measured() bool {
	return slices.ContainsFunc(p.Sizes, func(s Size) bool { return s.HasNew })
}

// Wrong says what is wrong with the part, nothing when it is right.
func (p Part) Wrong() words.Text {
	for _, s := range p.Sizes {
		if s.Says.Sentence != "" {
			return s.Says
		}
	}
	return words.Text{}
}

// Change is the new size less the old one; ok is false where one of them was not read.
func (s Size) Change() (by quantity.Amount, ok bool) { return s.New - s.Old, s.HadOld && s.HasNew }

// Changed writes the change with its sign, without its unit, lengths in u; "" where there is
// none to tell.
func (s Size) Changed(u length.Unit) string {
	by, ok := s.Change()
	switch {
	case !ok || s.Of.Kinds:
		return ""
	case by > 0:
		return "+" + s.Show(by, u)
	}
	return s.Show(by, u)
}

// Show writes an amount of the size without its unit, lengths in u.
func (s Size) Show(a quantity.Amount, u length.Unit) string { return s.Of.Show(a, u) }

// text writes an amount of the size with its unit.
func (s Size) text(a quantity.Amount) string { return s.Of.UnitFor(s.unit).Text(a) }

// Of returns the comparison of one part, one with no sizes when there is no such new part.
func Of(h *head.Head, kind *trade.PartKind, position string) Part {
	parts := Compare(h)
	i := slices.IndexFunc(parts, func(p Part) bool { return p.Kind == kind && p.Position == position })
	if i < 0 {
		return Part{Kind: kind, Position: position}
	}
	return parts[i]
}

// Compare holds every new part of the head, in the order of the head, against what it
// replaces, the sheet and the others of its row. It reads each part's own figures, or else what
// was read in its place since it was fitted. A size that nobody asks for and nobody read is left
// out. Nothing of the head is changed.
func Compare(h *head.Head) []Part {
	var out []Part
	for _, kind := range trade.PartKinds() {
		for _, id := range h.Positions() {
			p, there := h.NewPart(kind.Code, id)
			if len(kind.Dims) == 0 || !there && !fitted(h, kind, id) {
				continue
			}
			x := Part{Kind: kind, Position: id}
			for _, c := range kind.Dims {
				if !c.Exists(h.Model.Kind) {
					continue
				}
				if s := size(h, p, c, id); s.HasNew || s.HadOld || s.Limit != nil || slices.Contains(kind.First, c) {
					x.Sizes = append(x.Sizes, s)
				}
			}
			if x.Sizes != nil {
				out = append(out, x)
			}
		}
	}
	boxes(h, out)
	return out
}

// fitted tells whether work has put a new part of the kind in at a position.
func fitted(h *head.Head, kind *trade.PartKind, id string) bool {
	return slices.ContainsFunc(h.Operations, func(o head.Operation) bool {
		k := trade.OperationNamed(o.Code)
		return k != nil && k.Uses == kind && o.Started() && slices.Contains(o.At, id)
	})
}

// size is one characteristic of a new part, held against the maker's figure and the old part.
func size(h *head.Head, p head.Part, c *trade.Characteristic, id string) Size {
	s := Size{Of: c, U: h.UsualU(c), unit: h.Unit}
	s.Old, s.HadOld = was(h, c, id)
	role := string(h.Role(id))
	if s.Limit = h.Sheet.LimitOf(head.New, c.Code, role); s.Limit == nil {
		s.Limit = h.Limit(c.Code, role)
	}
	now := sizes(h, p, c, id)
	if len(now) == 0 {
		return s
	}
	s.New, s.HasNew = now[0], true
	for _, at := range now {
		if s.Limit == nil {
			continue
		}
		v := gauge.Judge(gauge.Exact(at), 0, s.Limit.Gauge()).Verdict
		if s.Verdict = max(s.Verdict, v); v == gauge.Out && s.Says.Sentence == "" {
			s.New = at
			s.Says = words.Of("not what was ordered: its %s is %s, %s allowed (%s)", words.Mid(c.Label), s.text(at),
				s.Limit.Said(h.Unit), s.Limit.Source)
		}
	}
	switch {
	case s.Says.Sentence != "":
	case c.Kinds && s.HadOld && s.New != s.Old:
		s.Says = words.Of("wrong part: of kind %s, the old one is of kind %s", c.Show(s.New, h.Unit),
			c.Show(s.Old, h.Unit))
	case c == trade.ValveHead:
		s.Says = otherRole(h, s, id)
	case c == trade.SealStem:
		s.Says = loose(h, s, trade.Stem, id)
	case c == trade.SealGuide:
		s.Says = loose(h, s, trade.GuideOuter, id)
	}
	return s
}

// otherRole says that a valve measures like one of the other role: its head lies within a
// quarter of the difference from that.
func otherRole(h *head.Head, s Size, id string) words.Text {
	own, _ := h.Model.Layout.Valve(id)
	for _, v := range h.Model.Layout.Valves {
		if v.Role == own.Role || v.Head == own.Head {
			continue
		}
		if at := s.New.Length(); (at - v.Head).Abs() <= (v.Head-own.Head).Abs()/4 {
			return words.Of("wrong part: its head of %s is an %s valve's", s.text(s.New), words.Of(string(v.Role)))
		}
	}
	return words.Text{}
}

// loose says that a stem seal does not grip what it sits on.
func loose(h *head.Head, s Size, on *trade.Characteristic, id string) words.Text {
	rs := h.Reads(on.Code, id)
	if len(rs) == 0 {
		return words.Text{}
	}
	if least := rs[0].Value.At; s.New >= least {
		return words.Of("wrong part: its bore of %s does not grip the %s of %s", s.text(s.New), words.Mid(on.Label),
			s.text(least))
	}
	return words.Text{}
}

// was is what the part that comes out measured: the mean of its readings as received.
func was(h *head.Head, c *trade.Characteristic, id string) (quantity.Amount, bool) {
	var all []quantity.Amount
	for _, r := range h.Ever(c.Code) {
		if r.Spot.Position == id && r.Stage == head.AsReceived && !r.Value.Bracket {
			all = append(all, r.Value.At)
		}
	}
	if len(all) == 0 {
		return 0, false
	}
	return length.Mean(all), true
}

// sizes are what a new part was measured at: on the bench, or in its place since it was fitted.
func sizes(h *head.Head, p head.Part, c *trade.Characteristic, id string) (out []quantity.Amount) {
	if at, measured := p.Is[c.Code]; measured {
		return []quantity.Amount{at}
	}
	if h.Voider(c.Code, id) == nil || !h.Proven(c, id) {
		return nil
	}
	for _, r := range h.Reads(c.Code, id) {
		out = append(out, r.Value.At)
	}
	return out
}

// How far a new part may differ from the middle of its row before somebody is told: so many
// times the doubt of its reading. Fewer parts than leastRow say nothing of a box.
const (
	rowDoubts = 5
	leastRow  = 3
)

// boxes finds what differs from the rest of its box: the row of the same kind and role.
func boxes(h *head.Head, parts []Part) {
	type row struct {
		kind *trade.PartKind
		role layout.Role
		of   *trade.Characteristic
	}
	rows := map[row][]*Size{}
	for i := range parts {
		for k := range parts[i].Sizes {
			if s := &parts[i].Sizes[k]; s.HasNew && !s.Of.Kinds {
				at := row{parts[i].Kind, h.Role(parts[i].Position), s.Of}
				rows[at] = append(rows[at], s)
			}
		}
	}
	for at, sizes := range rows {
		if len(sizes) < leastRow {
			continue
		}
		all := make([]quantity.Amount, len(sizes))
		for i, s := range sizes {
			all[i] = s.New
		}
		slices.Sort(all)
		middle := all[len(all)/2]
		for _, s := range sizes {
			if by := s.New - middle; s.Says.Sentence == "" && by.Abs() > rowDoubts*s.U {
				s.Says = words.Of("differs from the others of its box: its %s is %s, theirs %s", words.Mid(at.of.Label),
					s.text(s.New), s.text(middle))
			}
		}
	}
}
