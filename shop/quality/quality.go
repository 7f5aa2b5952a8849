// Package quality is what a year's mistakes have cost: heads that came back, what the shop gave, and what
// suppliers sent late or wrong. YearOf is its door.
package quality

import (
	"cmp"
	"context"
	"slices"
	"strings"
	"time"

	"yatai/core/bill"
	"yatai/core/money"
	"yatai/shop"
	"yatai/store"
)

// Year is what quality cost in a year. Sums are cents before tax.
type Year struct {
	Begins    time.Time
	Currency  string
	Heads     int        // that came in
	Comebacks []Comeback // the newest first
	By        []Share    // what they were charged to, the dearest first
	Given     int64      // under warranty and as goodwill, on bills of the year
	Suppliers []Supplier // that with the most troubles first
}

// Cost is what comebacks cost in work and parts; what was given on their bills is in it: it is the same work.
func (y Year) Cost() (cents int64) {
	for _, c := range y.Comebacks {
		cents += c.Cost()
	}
	return cents
}

// Comeback is a head that came back because earlier work did not hold.
type Comeback struct {
	store.Head
	To     string        // the operation, part, reading or limit it is charged to; empty while nobody said
	Why    string        // goodwill was given
	Worked time.Duration // on it
	Work   int64         // that, at the shop's hourly rate
	Parts  int64         // used on it, at what they cost the shop
}

// Cost is its work and its parts.
func (c Comeback) Cost() int64 { return c.Work + c.Parts }

// Share is what is charged to one thing.
type Share struct {
	To     string // empty: nobody said
	Times  int
	Worked time.Duration
	Cost   int64
}

// Supplier is how one kept to what was ordered; of Came orders.
type Supplier struct {
	Name     string // empty: not known
	Came     int
	Late     int           // on a later day than was said
	Days     time.Duration // late, all together
	Wrong    int           // measured, and not what was ordered
	Returned int           // pieces that went back
}

// Troubles are the orders that were late or wrong.
func (s Supplier) Troubles() int { return s.Late + s.Wrong }

// YearOf returns what quality cost in the year that t is in.
func YearOf(ctx context.Context, s *shop.Shop, a shop.Actor, t time.Time) (Year, error) {
	t = t.Local()
	y := Year{Begins: time.Date(t.Year(), 1, 1, 0, 0, 0, 0, time.Local)}
	if err := a.Must("see what quality costs"); err != nil {
		return y, err
	}
	db, ends := s.Store.Read(ctx), y.Begins.AddDate(1, 0, 0)
	saved, err := db.Settings()
	if err != nil {
		return y, err
	}
	set := shop.SettingsFor(saved, "")
	y.Currency = set.Get("currency")
	heads, err := db.CountCame(y.Begins, ends)
	if err != nil {
		return y, err
	}
	y.Heads = int(heads)
	back, err := db.ComebacksBetween(y.Begins, ends)
	if err != nil {
		return y, err
	}
	for _, h := range back {
		y.Comebacks = append(y.Comebacks, Comeback{Head: h})
	}
	items, err := db.StockItems()
	if err != nil {
		return y, err
	}
	if err := y.charge(db, set.Cents("rate"), items); err != nil {
		return y, err
	}
	if err := y.given(db, ends); err != nil {
		return y, err
	}
	orders, err := db.OrdersCame(y.Begins, ends)
	y.Suppliers = suppliers(orders, items)
	return y, err
}

// charge works out what each comeback cost, and to what it is charged.
func (y *Year) charge(db store.DB, rate int64, items []store.StockItem) error {
	var ids []uint
	at := map[uint]*Comeback{}
	for i := range y.Comebacks {
		c := &y.Comebacks[i]
		ids, at[c.ID] = append(ids, c.ID), c
	}
	quotes, err := db.Quotes(ids...)
	if err != nil {
		return err
	}
	for _, q := range quotes { // the newest says
		if c := at[q.HeadID]; q.ChargedTo != "" {
			c.To, c.Why = q.ChargedTo, q.GoodwillWhy
		}
	}
	ops, err := db.Operations(ids...)
	if err != nil {
		return err
	}
	var opIDs []uint
	of := map[uint]uint{}
	for _, o := range ops {
		opIDs, of[o.ID] = append(opIDs, o.ID), o.HeadID
	}
	stints, err := db.Stints(opIDs...)
	if err != nil {
		return err
	}
	for _, st := range stints {
		at[of[st.OperationID]].Worked += st.Worked()
	}
	used, err := db.UsedOn(ids...)
	if err != nil {
		return err
	}
	cost := map[uint]int64{}
	for _, it := range items {
		cost[it.ID] = cmp.Or(it.CostCents, it.PriceCents)
	}
	for _, m := range used {
		at[m.HeadID].Parts -= int64(m.Count) * cost[m.ItemID] // what is used leaves the stock
	}
	for i := range y.Comebacks {
		c := &y.Comebacks[i]
		c.Work = money.Div(rate*int64(c.Worked/time.Second), 3600)
		y.share(*c)
	}
	slices.SortStableFunc(y.By, func(a, b Share) int { return cmp.Compare(b.Cost, a.Cost) })
	return nil
}

// share adds a comeback to what it is charged to.
func (y *Year) share(c Comeback) {
	i := slices.IndexFunc(y.By, func(s Share) bool { return strings.EqualFold(s.To, c.To) })
	if i < 0 {
		i = len(y.By)
		y.By = append(y.By, Share{To: c.To})
	}
	s := &y.By[i]
	s.Times, s.Worked, s.Cost = s.Times+1, s.Worked+c.Worked, s.Cost+c.Cost()
}

// given adds up what bills gave; what was credited is taken off.
func (y *Year) given(db store.DB, ends time.Time) error {
	bills, err := db.BillsBetween(y.Begins, ends)
	for _, b := range bills {
		y.Given += b.Given(bill.Given()...)
	}
	return err
}

// suppliers holds what came against what was ordered, by supplier.
func suppliers(orders []store.PartOrder, items []store.StockItem) (out []Supplier) {
	name := map[uint]string{}
	for _, it := range items {
		name[it.ID] = it.Supplier
	}
	for _, o := range orders {
		i := slices.IndexFunc(out, func(s Supplier) bool { return strings.EqualFold(s.Name, name[o.ItemID]) })
		if i < 0 {
			i = len(out)
			out = append(out, Supplier{Name: name[o.ItemID]})
		}
		s := &out[i]
		s.Came++
		s.Returned += o.Returned
		if due, came := shop.Date(o.Due.Local()), shop.Date(o.ReceivedAt.Local()); came.After(due) {
			s.Late, s.Days = s.Late+1, s.Days+came.Sub(due)
		}
		if !o.OK {
			s.Wrong++
		}
	}
	slices.SortStableFunc(out, func(a, b Supplier) int { return cmp.Compare(b.Troubles(), a.Troubles()) })
	return out
}
