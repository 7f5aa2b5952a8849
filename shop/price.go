package shop

import (
	"strings"
	"time"

	"yatai/core/length"
	"yatai/core/route"
	"yatai/store"
)

// Stock is the stock list with what is there.
type Stock struct {
	Items    []store.StockItem
	Count    map[uint]int
	Reserved map[uint]int
}

func loadStock(db store.DB) (Stock, error) {
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

// find returns the item of a kind for a model and role; one for every model will do.
func (s Stock) find(kind string, model uint, role string) (store.StockItem, bool) {
	var any *store.StockItem
	for i := range s.Items {
		it := &s.Items[i]
		if it.Kind != kind || it.Role != "" && it.Role != role {
			continue
		}
		if it.ModelID == model {
			return *it, true
		}
		if it.ModelID == 0 && any == nil {
			any = it
		}
	}
	if any == nil {
		return store.StockItem{}, false
	}
	return *any, true
}

// sizes lists the items of a kind that have a size, for a model or for all.
func (s Stock) sizes(kind string, model uint) []store.StockItem {
	var out []store.StockItem
	for _, it := range s.Items {
		if it.Kind == kind && it.SizeNM != 0 && (it.ModelID == 0 || it.ModelID == model) {
			out = append(out, it)
		}
	}
	return out
}

// partOf is the part an operation uses at each of its positions, or once when it has none.
var partOf = map[string]string{
	"valve_new": "valve", "guide_new": "guide", "guide_liner": "liner", "seat_insert": "insert", "spring_new": "spring", "spring_shim": "spring shim",
	"keeper_new": "keepers", "rotator_new": "rotator", "bucket_new": "bucket", "rocker_new": "rocker", "assemble": "seal", "gasket_thick": "gasket", "thread_insert": "thread insert", "plug_new": "core plug",
}

// guessed are prices of parts the stock list does not have, in cents, before the markup.
var guessed = map[string]int64{
	"valve": 2800, "guide": 1400, "liner": 900, "insert": 1900, "spring": 950, "spring shim": 60, "keepers": 180, "rotator": 2600, "bucket": 3100, "rocker": 5200, "seal": 140, "gasket": 6500, "thread insert": 450, "core plug": 320,
}

// PartUse is a part an operation needs.
type PartUse struct {
	Kind   string
	Item   *store.StockItem // nil when the list has none
	Count  int
	Cents  int64 // of all of them
	Short  int   // how many are not there
	Supply int   // days until they would be
}

// Priced is an operation with what it costs.
type Priced struct {
	route.Operation
	Labour int64
	Parts  []PartUse
}

// Cents is what the operation costs.
func (p Priced) Cents() int64 {
	c := p.Labour
	for _, u := range p.Parts {
		c += u.Cents
	}
	return c
}

// PartsText names the parts with their counts: "2 valve, 1 gasket".
func (p Priced) PartsText() string {
	var out []string
	for _, u := range p.Parts {
		name := u.Kind
		if u.Item != nil {
			name = u.Item.Name
		}
		out = append(out, times(u.Count, name))
	}
	return strings.Join(out, ", ")
}

// leadDays is how long an item takes when nobody says.
const leadDays = 4

// price prices operations: minutes at the hourly rate, parts from the stock list or at the
// usual price with the shop's markup.
func (f *File) price(ops []route.Operation, set Settings, stock Stock, lead func(store.StockItem) int) []Priced {
	rate, markup := set.Cents("rate"), set.PPM("markup")
	var out []Priced
	for _, o := range ops {
		p := Priced{Operation: o, Labour: rounded(int64(o.Minutes)*rate, 60)}
		if kind, uses := partOf[o.Code]; uses {
			byItem := map[string]*PartUse{}
			var order []string
			add := func(role string) {
				u := PartUse{Kind: kind, Supply: leadDays, Cents: rounded(guessed[kind]*(1_000_000+markup), 1_000_000)}
				name := kind
				if it, ok := stock.find(kind, f.ModelID, role); ok {
					u.Item, u.Cents, u.Supply, name = &it, it.PriceCents, lead(it), it.Name
				}
				if byItem[name] == nil {
					byItem[name] = &u
					order = append(order, name)
					u.Count = 1
					return
				}
				byItem[name].Count++
			}
			for _, at := range o.Positions {
				v, _ := f.Layout.Valve(at)
				add(string(v.Role))
			}
			if len(o.Positions) == 0 {
				add("")
			}
			for _, name := range order {
				u := byItem[name]
				u.Cents *= int64(u.Count)
				if u.Item != nil {
					u.Short = max(0, u.Count-stock.Free(u.Item.ID))
				} else {
					u.Short = u.Count
				}
				p.Parts = append(p.Parts, *u)
			}
		}
		out = append(out, p)
	}
	return out
}

// rounded divides, halves up.
func rounded(n, by int64) int64 { return (n + by/2) / by }

// dayMinutes is how much of a day goes into one head's work.
const dayMinutes = 300

// ready is when operations priced now could be done: the parts that are short come first,
// then the work, on working days.
func ready(now time.Time, ops []Priced) time.Time {
	wait, minutes := 0, 0
	for _, o := range ops {
		minutes += o.Minutes
		for _, u := range o.Parts {
			if u.Short > 0 {
				wait = max(wait, u.Supply)
			}
		}
	}
	return workdays(now.AddDate(0, 0, wait), (minutes+dayMinutes-1)/dayMinutes)
}

// workdays adds working days.
func workdays(t time.Time, n int) time.Time {
	for n > 0 || t.Weekday() == time.Saturday || t.Weekday() == time.Sunday {
		t = t.AddDate(0, 0, 1)
		if t.Weekday() != time.Saturday && t.Weekday() != time.Sunday {
			n--
		}
	}
	return t
}

func sum(ops []Priced) (cents int64, minutes int) {
	for _, o := range ops {
		cents, minutes = cents+o.Cents(), minutes+o.Minutes
	}
	return cents, minutes
}

// lengths lists the sizes of items.
func lengths(items []store.StockItem) []length.Length {
	var out []length.Length
	for _, it := range items {
		out = append(out, it.SizeNM)
	}
	return out
}
