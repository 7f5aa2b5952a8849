package headfile

import (
	"cmp"
	"slices"
	"strings"
	"time"

	"yatai/core/head"
	"yatai/core/layout"
	"yatai/core/money"
	"yatai/core/price"
	"yatai/core/route"
	"yatai/core/trade"
	"yatai/shop"
	"yatai/store"
)

// Stock is the stock list with what is there.
type Stock struct {
	Items    []store.StockItem
	Count    map[uint]int
	Reserved map[uint]int
}

// LoadStock reads what the shop has and what of it is set aside.
func LoadStock(db store.DB) (Stock, error) {
	var s Stock
	var err error
	if s.Items, err = db.StockItems(); err != nil {
		return s, err
	}
	s.Count, s.Reserved, err = db.StockCounts()
	return s, err
}

// Free is how many of an item are there and not reserved.
func (s Stock) Free(item uint) int { return s.Count[item] - s.Reserved[item] }

// of is the stock that a model can use, as the core takes it: what is free of it, at its
// price or at its cost with the markup, and how long the supplier takes.
func (s Stock) of(model uint, markup int64) []head.Stock {
	var out []head.Stock
	for _, it := range s.Items {
		if it.ModelID != 0 && it.ModelID != model {
			continue
		}
		x := head.Stock{
			ID: it.ID, Kind: it.Kind, Name: it.Name, Size: it.SizeNM, UpTo: it.UpToNM, Role: it.Role,
			Count: max(0, s.Free(it.ID)),
		}
		cents := it.PriceCents
		if cents == 0 {
			cents = money.Div(cmp.Or(it.CostCents, it.OfferCents)*(1_000_000+markup), 1_000_000)
		}
		if cents > 0 {
			x.Price = &cents
		}
		if days, known := Supply(it); known {
			x.Lead = days
		}
		if it.ModelID == model { // the model's own before one for all
			out = append([]head.Stock{x}, out...)
		} else {
			out = append(out, x)
		}
	}
	return out
}

// Supply is how many days an item takes to come, and whether anybody knows.
func Supply(it store.StockItem) (days int, known bool) {
	if it.LeadDays > 0 { // typed here, it goes before what the supplier's list says
		return it.LeadDays, true
	}
	if it.OfferDays > 0 {
		return it.OfferDays, true
	}
	return price.UsualLead, false
}

// stocked puts the shop's stock into a file, for plans and prices.
func stocked(s *shop.Shop, db store.DB, f *File) error {
	st, err := LoadStock(db)
	if err != nil {
		return err
	}
	own, err := db.ReservedBy(f.ID)
	if err != nil {
		return err
	}
	for item, n := range own { // what is set aside for this head is there for it
		st.Reserved[item] -= n
	}
	f.stock = st.of(f.ModelID, shop.SettingsFor(f.settings, "").PPM("markup"))
	return nil
}

// operations are the head's route as priced operations take it.
func OperationsOf(ops []store.Operation) []route.Operation {
	var out []route.Operation
	for _, o := range ops {
		if k := trade.OperationNamed(o.Code); k != nil && o.State != "skipped" {
			out = append(out, route.Operation{Operation: k, Positions: o.At(), Minutes: o.Minutes})
		}
	}
	return out
}

// Ready is when operations priced now could be done: the parts that are short come first, then
// the work, on working days.
func (f *File) Ready(now time.Time, ops []price.Priced) time.Time {
	return f.Workdays(now, price.Days(ops))
}

// Workdays adds working days: neither weekends nor the days the shop is closed.
func (f *File) Workdays(t time.Time, n int) time.Time {
	idle := func() bool {
		return t.Weekday() == time.Saturday || t.Weekday() == time.Sunday ||
			slices.Contains(f.days.Closed, t.Local().Format(time.DateOnly))
	}
	for n > 0 || idle() {
		if t = t.AddDate(0, 0, 1); !idle() {
			n--
		}
	}
	return t
}

// Needs counts the items an operation uses on a head of a model, sizes apart.
func Needs(st Stock, model uint, l layout.Layout, code string, at []string) map[uint]int {
	k := trade.OperationNamed(code)
	if k == nil || k.Uses == nil {
		return nil
	}
	h := &head.Head{Model: head.Model{Layout: l}, Stock: st.of(model, 0)}
	return Counted(price.Operations(h, []route.Operation{{Operation: k, Positions: at}}, nil))
}

// Counted counts the items of priced operations.
func Counted(ops []price.Priced) map[uint]int {
	counts := map[uint]int{}
	for _, p := range ops {
		for _, u := range p.Parts {
			if u.Item != nil {
				counts[u.Item.ID] += u.Count
			}
		}
	}
	return counts
}

// PartsText names parts with their counts for a person: "2 x valve, gasket".
func PartsText(p price.Priced) string {
	var out []string
	for _, u := range p.Parts {
		name := u.Name()
		if u.Theirs {
			name += " (the customer's own)"
		}
		out = append(out, shop.Times(u.Count, name))
	}
	return strings.Join(out, ", ")
}

// Unpriced counts the parts of priced operations whose price is not known.
func Unpriced(ops ...price.Priced) int {
	n := 0
	for _, p := range ops {
		for _, u := range p.Parts {
			if !u.Known {
				n += u.Count
			}
		}
	}
	return n
}
