// Package parts keeps the stock: what there is, what is set aside for which head, what is
// ordered, received and used.
package parts

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"yatai/core/field"
	"yatai/core/length"
	"yatai/core/trade"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

// Kinds of stock that are whole heads.
var wholeHeads = []string{"exchange head", "used head"}

// StockKinds are the kinds of parts the shop keeps or buys: the trade's, and those that its own repairs fit
// on heads of its models.
func StockKinds(models []store.HeadModel) []string {
	kinds := slices.Clone(wholeHeads)
	for _, k := range trade.PartKinds() {
		kinds = append(kinds, k.Code)
	}
	for _, m := range models {
		for _, r := range headfile.OwnRepairs(m) {
			if k := r.Does.Uses; k != nil {
				kinds = append(kinds, k.Code)
			}
		}
	}
	slices.Sort(kinds)
	return slices.Compact(kinds)
}

// isStock tells whether a kind is one of stock.
func isStock(kind string) bool {
	return slices.Contains(wholeHeads, kind) || trade.PartKindNamed(kind) != nil
}

// StockForm is an item of the stock list, as typed.
type StockForm struct {
	// of bare lengths; millimetres where it is empty
	Unit                                                                                          string
	WriteID, Kind, Name, Size, UpTo, Model, Role, Price, Cost, Least, Count, Dims, Supplier, Lead string
}

// StockRow is an item with what is there, reserved and on order.
type StockRow struct {
	store.StockItem
	Count, Reserved, Ordered int
	Short                    bool // below its least, orders counted
	For                      []Reservation
	Lead                     int // days, as the supplier says
	LeadKnown                bool
}

// Need is how many to order to be at the least again.
func (r StockRow) Need() int { return max(0, r.Least-(r.Count-r.Reserved+r.Ordered)) }

// SizeText is its size as somebody who reads in u types it, empty for none.
func (r StockRow) SizeText(u length.Unit) string { return typedOr(r.SizeNM, u) }

// UpToText is how far pistons may stand out under it, as it is typed; empty where nobody says.
func (r StockRow) UpToText(u length.Unit) string { return typedOr(r.UpToNM, u) }

func typedOr(l length.Length, u length.Unit) string {
	if l == 0 {
		return ""
	}
	return u.Typed(l)
}

// PriceText is its price as it is typed, empty for none.
func (r StockRow) PriceText() string { return cashOr(r.PriceCents) }

// CostText is what it costs the shop as it is typed, empty for none.
func (r StockRow) CostText() string { return cashOr(r.CostCents) }

func cashOr(cents int64) string {
	if cents == 0 {
		return ""
	}
	return shop.Cash(cents)
}

// Reservation is how many of an item are set aside for a head.
type Reservation struct {
	Tag   string
	Count int
}

// StockPage is the stock list with the open orders.
type StockPage struct {
	Rows   []StockRow
	Orders []OrderRow
}

// OrderRow is an order with its item and the tag it is for.
type OrderRow struct {
	store.PartOrder
	Item store.StockItem
	Tag  string
	By   string // who ordered it
	Late bool
}

// Stock returns the stock list.
func Stock(ctx context.Context, s *shop.Shop) (StockPage, error) {
	db := s.Store.Read(ctx)
	st, err := headfile.LoadStock(db)
	if err != nil {
		return StockPage{}, err
	}
	orders, err := db.PartOrders()
	if err != nil {
		return StockPage{}, err
	}
	reserved, err := db.ReservedFor()
	if err != nil {
		return StockPage{}, err
	}
	var ids []uint
	for _, o := range orders {
		ids = append(ids, o.HeadID)
	}
	for _, r := range reserved {
		ids = append(ids, r.HeadID)
	}
	tags, err := db.TagsOf(ids)
	if err != nil {
		return StockPage{}, err
	}
	sides := map[uint][]Reservation{}
	for _, r := range reserved {
		sides[r.ItemID] = append(sides[r.ItemID], Reservation{tags[r.HeadID], r.N})
	}
	people, err := db.Users()
	if err != nil {
		return StockPage{}, err
	}
	who := map[uint]string{}
	for _, u := range people {
		who[u.ID] = u.Name
	}
	var p StockPage
	onOrder, items := map[uint]int{}, map[uint]store.StockItem{}
	for _, it := range st.Items {
		items[it.ID] = it
	}
	for _, o := range orders {
		if o.ReceivedAt == nil {
			onOrder[o.ItemID] += o.Count
		}
		p.Orders = append(p.Orders, OrderRow{
			PartOrder: o, Item: items[o.ItemID], Tag: tags[o.HeadID], By: who[o.PersonID],
			Late: o.ReceivedAt == nil && s.Now().After(o.Due),
		})
	}
	for _, it := range st.Items {
		r := StockRow{
			StockItem: it, Count: st.Count[it.ID], Reserved: st.Reserved[it.ID], Ordered: onOrder[it.ID],
			For: sides[it.ID],
		}
		r.Lead, r.LeadKnown = headfile.Supply(it)
		r.Short = r.Count-r.Reserved+r.Ordered < it.Least
		p.Rows = append(p.Rows, r)
	}
	return p, nil
}

// Read turns what was typed into an item, and how many are there. An empty price is one nobody
// knows yet.
func (f StockForm) Read(it *store.StockItem) (count int, err error) {
	errs := field.Errors{}
	it.Kind, it.Role = f.Kind, f.Role
	it.Name = shop.Required(errs, "name", f.Name, "a part needs a name", 80)
	it.Dims, it.Supplier = shop.Optional(errs, "dims", f.Dims, 200), shop.Optional(errs, "supplier", f.Supplier, 100)
	if !isStock(f.Kind) {
		errs.Addf("kind", "choose what it is")
	}
	if !slices.Contains([]string{"", "intake", "exhaust"}, f.Role) {
		errs.Addf("role", "intake, exhaust or either")
	}
	if it.SizeNM = 0; strings.TrimSpace(f.Size) != "" {
		it.SizeNM, err = length.Parse(f.Size, shop.UnitOf(f.Unit))
		errs.Add("size", err)
		if it.SizeNM < 0 {
			errs.Addf("size", "no part has that")
		}
	}
	if it.UpToNM = 0; strings.TrimSpace(f.UpTo) != "" {
		it.UpToNM, err = length.Parse(f.UpTo, shop.UnitOf(f.Unit))
		switch errs.Add("up_to", err); {
		case f.Kind != trade.GasketPart.Code:
			errs.Addf("up_to", "only a gasket is chosen by its pistons")
		case err == nil && (it.UpToNM <= 0 || it.SizeNM == 0):
			errs.Addf("up_to", "more than nothing, and the gasket's thickness with it")
		}
	}
	for _, m := range []struct {
		name, text string
		to         *int64
	}{{"price", f.Price, &it.PriceCents}, {"cost", f.Cost, &it.CostCents}} {
		if *m.to = 0; strings.TrimSpace(m.text) != "" {
			*m.to, err = shop.ParseCents(m.text)
			errs.Add(m.name, err)
		}
	}
	whole := func(name, text string) int {
		n, err := strconv.Atoi(strings.TrimSpace(text))
		if strings.TrimSpace(text) != "" && (err != nil || n < 0 || n > 100_000) {
			errs.Addf(name, "a whole number")
		}
		return n
	}
	it.Least, it.LeadDays, count = whole("least", f.Least), whole("lead", f.Lead), whole("count", f.Count)
	if it.ModelID = 0; f.Model != "" {
		id, err := strconv.ParseUint(f.Model, 10, 32)
		if err != nil {
			errs.Addf("model", "choose the model, or all")
		}
		it.ModelID = uint(id)
	}
	return count, errs.Err()
}

// ofModel refuses a part of a model that the library does not have.
func ofModel(tx store.DB, it store.StockItem) error {
	if it.ModelID == 0 {
		return nil
	}
	_, err := tx.Model(it.ModelID)
	if errors.Is(err, shop.ErrNotFound) {
		return field.Only("model", "the library has no such model")
	}
	return err
}

// changes says what was changed of a part.
func changes(was, is store.StockItem) string {
	size := func(l length.Length) string {
		if l == 0 {
			return ""
		}
		return l.String()
	}
	days := func(n int) string {
		if n == 0 {
			return ""
		}
		return shop.Plural(n, "day")
	}
	return shop.Changes(
		shop.Change{What: "name", Was: was.Name, Is: is.Name},
		shop.Change{What: "size", Was: size(was.SizeNM), Is: size(is.SizeNM)},
		shop.Change{What: "for pistons up to", Was: size(was.UpToNM), Is: size(is.UpToNM)},
		shop.Change{What: "price", Was: shop.Cash(was.PriceCents), Is: shop.Cash(is.PriceCents)},
		shop.Change{What: "cost", Was: shop.Cash(was.CostCents), Is: shop.Cash(is.CostCents)},
		shop.Change{What: "least", Was: strconv.Itoa(was.Least), Is: strconv.Itoa(is.Least)},
		shop.Change{What: "supplier", Was: was.Supplier, Is: is.Supplier},
		shop.Change{What: "takes", Was: days(was.LeadDays), Is: days(is.LeadDays)},
		shop.Change{What: "role", Was: was.Role, Is: is.Role},
		shop.Change{What: "measures", Was: was.Dims, Is: is.Dims},
	)
}

// ChangeStock keeps what is known of an item: name, price, cost, least, supplier and lead time.
// Its kind stays, and how many are there is counted.
func ChangeStock(ctx context.Context, s *shop.Shop, a shop.Actor, id uint, f StockForm) error {
	if err := a.Must("keep the stock"); err != nil {
		return err
	}
	_, err := s.Once(ctx, f.WriteID, func(tx store.DB) (string, error) {
		items, err := tx.StockItems()
		if err != nil {
			return "", err
		}
		i := slices.IndexFunc(items, func(it store.StockItem) bool { return it.ID == id })
		if i < 0 {
			return "", shop.ErrNotFound
		}
		was := items[i]
		it := was
		f.Kind = was.Kind
		if _, err := f.Read(&it); err != nil || it == was {
			return "", err
		}
		if err := ofModel(tx, it); err != nil {
			return "", err
		}
		if err := tx.ChangeStock(it); err != nil {
			return "", err
		}
		return "", s.NoteAbout(tx, a, shop.About(shop.OfPart, id), "part changed", it.Name+": "+changes(was, it))
	})
	if store.IsDuplicate(err) {
		return field.Only("name", "a part of that name is on the list already")
	}
	return err
}

// AddStock adds an item to the stock list, with what is there.
func AddStock(ctx context.Context, s *shop.Shop, a shop.Actor, f StockForm) error {
	if err := a.Must("keep the stock"); err != nil {
		return err
	}
	it := store.StockItem{}
	n, err := f.Read(&it)
	if err != nil {
		return err
	}
	_, err = s.Once(ctx, f.WriteID, func(tx store.DB) (string, error) {
		if err := ofModel(tx, it); err != nil {
			return "", err
		}
		if err := tx.Add(&it); err != nil {
			return "", err
		}
		if n > 0 {
			if err := tx.Add(
				&store.Movement{ItemID: it.ID, Count: n, Kind: "count", Why: "first count", PersonID: a.ID, At: s.Now()},
			); err != nil {
				return "", err
			}
		}
		return "", s.NoteAbout(tx, a, shop.About(shop.OfPart, it.ID), "part added", it.Name)
	})
	if store.IsDuplicate(err) {
		return field.Only("name", "a part of that name is on the list already")
	}
	return err
}

// CountStock corrects how many of an item are there, with a reason.
func CountStock(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID string, item uint, count, why string,
) error {
	if err := a.Must("keep the stock"); err != nil {
		return err
	}
	errs := field.Errors{}
	at := "count/" + strconv.Itoa(int(item))
	n, err := strconv.Atoi(strings.TrimSpace(count))
	if err != nil || n < 0 || n > 100_000 {
		errs.Addf(at, "a whole number")
	}
	why = shop.Optional(errs, at, why, 200)
	if err := errs.Err(); err != nil {
		return err
	}
	_, err = s.Once(ctx, writeID, func(tx store.DB) (string, error) {
		st, err := headfile.LoadStock(tx)
		if err != nil {
			return "", err
		}
		if !slices.ContainsFunc(st.Items, func(it store.StockItem) bool { return it.ID == item }) {
			return "", shop.ErrNotFound
		}
		return "", errors.Join(
			tx.Add(&store.Movement{
				ItemID: item, Count: n - st.Count[item], Kind: "count", Why: why, PersonID: a.ID, At: s.Now(),
			}),
			s.NoteAbout(tx, a, shop.About(shop.OfPart, item), "stock counted",
				fmt.Sprintf("%d > %d", st.Count[item], n)),
		)
	})
	return err
}

// Due is a date in a person's words.
func Due(t time.Time) string { return t.Local().Format("Mon 2 Jan") }
