// Package price prices work: minutes at the shop's rate, parts from the stock. Operations is
// its door; Quote makes lines of them that add up. An unknown price stays unknown: it is
// named and never charged.
package price

import (
	"fmt"
	"slices"
	"strings"

	"yatai/core/head"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/money"
	"yatai/core/quantity"
	"yatai/core/route"
	"yatai/core/trade"
)

// Use is a part an operation needs.
type Use struct {
	Kind   *trade.PartKind
	Item   *head.Stock // nil when the stock has none
	Role   string      // where the part is of a role
	Size   length.Length
	Count  int
	Cents  int64 // of all of them, as far as their prices are known
	Known  bool  // whether their price is
	Theirs bool  // the customer brings them: they cost nothing, and none is short
	Short  int   // how many are not there
	Lead   int   // days until they would be
}

// Name is what the part is called.
func (u Use) Name() string {
	name := u.Kind.Name
	if u.Item != nil && u.Item.Name != "" {
		name = u.Item.Name
	}
	return name
}

// From says where it comes from: stock, or order.
func (u Use) From() string {
	if u.Short > 0 {
		return "order"
	}
	return "stock"
}

// Priced is an operation with what it costs.
type Priced struct {
	route.Operation
	Labour int64
	Parts  []Use
}

// PartsCents is what its parts cost, as far as their prices are known.
func (p Priced) PartsCents() int64 {
	var c int64
	for _, u := range p.Parts {
		c += u.Cents
	}
	return c
}

// Cents is what the operation costs.
func (p Priced) Cents() int64 { return p.Labour + p.PartsCents() }

// PartsText names the parts with their counts: "2 valve, 1 gasket".
func (p Priced) PartsText() string {
	var out []string
	for _, u := range p.Parts {
		out = append(out, fmt.Sprint(u.Count, " ", u.Name()))
	}
	return strings.Join(out, ", ")
}

// Rate is the shop's price of an hour, cents.
func Rate(h *head.Head) int64 {
	c, _ := money.Parse(h.Setting("rate"))
	return c
}

// Labour is what minutes cost.
func Labour(h *head.Head, minutes quantity.Minutes) int64 {
	return money.Div(int64(minutes)*Rate(h), 60)
}

// labourOf is what an operation's labour costs at n positions, by the shop's fixed price or
// by its minutes. Of one that is set up anyway only the positions count.
func labourOf(h *head.Head, o *trade.Operation, n int, setUp bool) int64 {
	w := h.Labour(o)
	if !w.Fixed {
		if setUp {
			w.Setup = 0
		}
		return Labour(h, w.Minutes(n))
	}
	if setUp {
		w.Once = 0
	}
	return w.Once + int64(n)*w.EachCents
}

// Once is what an operation's labour costs before the first position, and Each at one more.
func Once(h *head.Head, o *trade.Operation) int64 { return labourOf(h, o, 0, false) }

// Each is what an operation's labour costs at one more position.
func Each(h *head.Head, o *trade.Operation) int64 { return labourOf(h, o, 1, true) }

// UsualLead is how many days a part takes when nobody says.
const UsualLead = 4

// Sizes says which size of a part goes to a position, where it has one: the plan's.
type Sizes func(kind *trade.PartKind, position string) (length.Length, bool)

// Operations prices operations. sizes may be nil.
func Operations(h *head.Head, ops []route.Operation, sizes Sizes) []Priced {
	var out []Priced
	for _, o := range ops {
		p := Priced{Operation: o, Labour: Labour(h, o.Minutes)}
		if o.Operation != nil && h.Labour(o.Operation).Fixed {
			p.Labour = labourOf(h, o.Operation, len(o.Positions), o.SetUp)
		}
		if o.Uses != nil {
			for _, id := range places(h, o, sizes) {
				p.use(h, o.Uses, id, max(1, o.PerEach, marked(h, o.Operation)), sizes)
			}
		}
		if o.Code == trade.SetLash.Code {
			for _, id := range o.Positions { // shims that are taken from the box or bought
				if sizes == nil {
					break
				}
				if _, ok := sizes(trade.LashShimPart, id); ok {
					p.use(h, trade.LashShimPart, id, 1, sizes)
				}
			}
		}
		for i := range p.Parts {
			p.Parts[i].settle()
		}
		out = append(out, p)
	}
	return out
}

// places are where an operation uses its part: at its positions or camshafts, at the cylinders where one of a
// size is wanted, or once.
func places(h *head.Head, o route.Operation, sizes Sizes) []string {
	switch {
	case len(o.Shafts) > 0:
		return o.Shafts
	case len(o.Positions) > 0:
		return o.Positions
	case !o.PerHole || sizes == nil && o.Uses.Sized:
		return []string{""}
	}
	var out []string
	for _, c := range h.Model.Layout.Chambers {
		at := "C" + c.Name
		if o.Uses.Sized {
			if _, wanted := sizes(o.Uses, at); !wanted {
				continue
			}
		}
		out = append(out, at)
	}
	return out
}

// marked is at how many marks of the map an operation was decided: two holes are two inserts.
func marked(h *head.Head, o *trade.Operation) int {
	n := 0
	for _, d := range h.Decisions {
		if o.Marks && d.Choice == o.Code {
			n++
		}
	}
	return n
}

// use adds a part for a position.
func (p *Priced) use(h *head.Head, kind *trade.PartKind, position string, count int, sizes Sizes) {
	u := Use{Kind: kind, Count: count, Lead: UsualLead}
	var size length.Length
	sized := false
	if sizes != nil && kind.Sized {
		size, sized = sizes(kind, position)
		u.Size = size
	}
	role := h.Role(position)
	u.Theirs = slices.Contains(h.Theirs, kind.Code)
	if it := Find(h, kind, position, size, sized); it != nil && !u.Theirs {
		u.Item = it
	} else {
		u.Role = string(role)
	}
	i := slices.IndexFunc(p.Parts, func(x Use) bool {
		return x.Kind == u.Kind && x.Size == u.Size && (x.Item != nil) == (u.Item != nil) &&
			(u.Item == nil && x.Role == u.Role ||
				u.Item != nil && x.Item != nil && x.Item.ID == u.Item.ID)
	})
	if i >= 0 {
		p.Parts[i].Count += count
		return
	}
	p.Parts = append(p.Parts, u)
}

// settle works out what a use costs and how much of it is short.
func (u *Use) settle() {
	if u.Theirs {
		u.Known, u.Lead = true, 0
		return
	}
	u.Short = u.Count
	if u.Item == nil {
		return
	}
	u.Short = max(0, u.Count-u.Item.Count)
	if u.Item.Lead > 0 {
		u.Lead = u.Item.Lead
	}
	if u.Item.Price != nil {
		u.Known, u.Cents = true, *u.Item.Price*int64(u.Count)
	}
}

// sealSlack is how much smaller or larger than the stem a stem seal's size may be and still
// grip: trade practice.
const sealSlack = 350 * length.Micrometre

// Find returns the stock's part of a kind for a position, nil when there is none: of the
// position's role before one for any, of the size wanted, and a stem seal only where it fits
// the stem.
func Find(h *head.Head, kind *trade.PartKind, position string, size length.Length, sized bool) *head.Stock {
	role := string(h.Role(position))
	var any *head.Stock
	for i := range h.Stock {
		it := &h.Stock[i]
		if it.Kind != kind.Code || it.Role != "" && it.Role != role && role != "" || sized && it.Size != size {
			continue
		}
		if kind == trade.SealPart && it.Size != 0 {
			if stem, ok := stemAt(h, position); ok && (stem-it.Size).Abs() > sealSlack {
				continue
			}
		}
		if it.Role == role && role != "" {
			return it
		}
		if any == nil || any.Count == 0 && it.Count > 0 {
			any = it
		}
	}
	return any
}

// stemAt is the stem at a position, or of any that was read.
func stemAt(h *head.Head, position string) (length.Length, bool) {
	if rs := h.Reads(trade.Stem.Code, position); len(rs) > 0 {
		return rs[0].Value.At.Length(), true
	}
	if all := h.Ever(trade.Stem.Code); len(all) > 0 {
		return all[0].Value.At.Length(), true
	}
	return 0, false
}

// Weigh is what a part of a kind is weighed with in a plan: its price, or as usual for its
// kind where none is known; known tells which.
func Weigh(h *head.Head, kind *trade.PartKind, role layout.Role) (cents int64, known bool) {
	if slices.Contains(h.Theirs, kind.Code) {
		return 0, true
	}
	for _, v := range h.Model.Layout.Valves {
		if v.Role == role || role == "" {
			if it := Find(h, kind, v.ID, 0, false); it != nil && it.Price != nil {
				return *it.Price, true
			}
			break
		}
	}
	return kind.Usual, false
}

// Sum adds up what priced operations come to; unknown names the parts without a price.
func Sum(ops []Priced) (cents int64, minutes quantity.Minutes, unknown []string) {
	for _, o := range ops {
		cents, minutes = cents+o.Cents(), minutes+o.Minutes
		for _, u := range o.Parts {
			if !u.Known && !slices.Contains(unknown, u.Name()) {
				unknown = append(unknown, u.Name())
			}
		}
	}
	return cents, minutes, unknown
}

// dayMinutes is how much of a day goes into one head's work.
const dayMinutes quantity.Minutes = 300

// Days is how many working days it takes until priced operations are done, started now: the
// parts that are short come first, then the work.
func Days(ops []Priced) int {
	wait, minutes := 0, quantity.Minutes(0)
	for _, o := range ops {
		minutes += o.Minutes
		for _, u := range o.Parts {
			if u.Short > 0 {
				wait = max(wait, u.Lead)
			}
		}
	}
	return wait + int((minutes+dayMinutes-1)/dayMinutes)
}

// Totals are what lines come to, in cents: Net less Discount, plus what is missing to the
// least charge, plus Tax, is Gross.
type Totals struct {
	Net, Discount, Minimum, Tax, Gross int64
	Minutes                            quantity.Minutes
}

// Plus adds other totals.
func (t Totals) Plus(o Totals) Totals {
	return Totals{
		t.Net + o.Net, t.Discount + o.Discount, t.Minimum + o.Minimum, t.Tax + o.Tax, t.Gross + o.Gross,
		t.Minutes + o.Minutes,
	}
}

// Terms are the shop's terms of money: shares in millionths, the least charge in cents.
type Terms struct {
	DiscountPPM int64 // of the labour
	Tax         money.Tax
	Minimum     int64
}

// TermsOf are the terms of a head's shop.
func TermsOf(h *head.Head) Terms {
	ppm := func(name string) int64 { c, _ := money.Parse(h.Setting(name)); return c * 100 }
	least, _ := money.Parse(h.Setting("minimum"))
	tax := money.Tax{LabourPPM: ppm("tax"), PartsPPM: ppm("tax")}
	if h.Setting("tax_parts") != "" {
		tax.PartsPPM = ppm("tax_parts")
	}
	return Terms{ppm("discount"), tax, least}
}

// Total adds up what is charged for by the terms: the discount is on the labour, the least charge is what a
// job costs at least before tax, and nothing costs nothing.
func (t Terms) Total(c money.Charge, minutes quantity.Minutes) Totals {
	out := Totals{Net: c.Cents(), Minutes: minutes}
	if out.Net == 0 {
		return out
	}
	out.Discount = money.Share(c.Labour, t.DiscountPPM)
	if after := out.Net - out.Discount; after < t.Minimum {
		out.Minimum = t.Minimum - after
	}
	for _, x := range t.Taxed(out, c.Parts) {
		out.Tax += x.Tax
	}
	out.Gross = out.Net - out.Discount + out.Minimum + out.Tax
	return out
}

// Taxed is what totals with so many cents of parts are taxed, by rate: all else, the discount and what is
// missing to the least charge are taxed as labour.
func (t Terms) Taxed(sum Totals, parts int64) []money.Taxed {
	return t.Tax.On(sum.Net-parts-sum.Discount+sum.Minimum, parts)
}
