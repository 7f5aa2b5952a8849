package parts

import (
	"context"
	"errors"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	"yatai/core/field"
	"yatai/core/length"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

// Order orders a part from the supplier, for a head when tag is given. It is due when the
// supplier says.
func Order(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID string, item uint, count, tag string,
) error {
	if err := a.Must("order parts"); err != nil {
		return err
	}
	errs := field.Errors{}
	at := "order/" + strconv.Itoa(int(item))
	n, err := strconv.Atoi(strings.TrimSpace(count))
	if err != nil || n < 1 || n > 10_000 {
		errs.Addf(at, "how many?")
	}
	if err := errs.Err(); err != nil {
		return err
	}
	_, err = s.Once(ctx, writeID, func(tx store.DB) (string, error) {
		items, err := tx.StockItems()
		if err != nil {
			return "", err
		}
		i := slices.IndexFunc(items, func(it store.StockItem) bool { return it.ID == item })
		if i < 0 {
			return "", shop.ErrNotFound
		}
		days, _ := headfile.Supply(items[i])
		o := store.PartOrder{ItemID: item, Count: n, Due: s.Now().AddDate(0, 0, days), PersonID: a.ID, At: s.Now()}
		if tag = strings.ToUpper(strings.TrimSpace(tag)); tag != "" {
			h, err := tx.Head(tag)
			if errors.Is(err, shop.ErrNotFound) {
				return "", field.Only(at, "no head has this tag")
			} else if err != nil {
				return "", err
			}
			o.HeadID = h.ID
		}
		if err := tx.Add(&o); err != nil {
			return "", err
		}
		return "", s.Note(tx, a, o.HeadID, "part ordered", fmt.Sprintf("%d x %s", n, items[i].Name))
	})
	return err
}

// Receipt is a delivery, or a part of one, as typed. Measured is what some of them measure, apart by
// spaces. Count is how many came, "" for all that are on order.
type Receipt struct {
	WriteID         string
	Order           uint
	Count, Measured string
	OK              bool // they are what was ordered
}

// Receive books a delivery in, by measurement: what was measured is held against the item's size, or what
// a new one measures. Parts that are not what was ordered are not booked in. What did not come yet stays
// on order.
func Receive(ctx context.Context, s *shop.Shop, a shop.Actor, r Receipt) error {
	if err := a.Must("keep the stock"); err != nil {
		return err
	}
	errs := field.Errors{}
	at := "receive/" + strconv.Itoa(int(r.Order))
	r.Measured = shop.Required(errs, at, r.Measured, "measure one and write down what it is", 200)
	n := 0
	if text := strings.TrimSpace(r.Count); text != "" {
		var err error
		if n, err = strconv.Atoi(text); err != nil || n < 1 {
			errs.Addf("came/"+strconv.Itoa(int(r.Order)), "how many came?")
		}
	}
	if err := errs.Err(); err != nil {
		return err
	}
	return onOrder(ctx, s, r.WriteID, r.Order, func(tx store.DB, o store.PartOrder, it store.StockItem) error {
		if n > o.Count {
			return field.Only("came/"+strconv.Itoa(int(r.Order)), "%d are on order", o.Count)
		}
		if r.OK {
			if why := notAsOrdered(it, r.Measured); why != "" {
				return field.Only(at, "%s", why)
			}
		}
		if n > 0 && n < o.Count { // the rest is an order of its own
			rest := o
			rest.ID, rest.Count = 0, o.Count-n
			if err := errors.Join(tx.CountOrder(o.ID, n), tx.Add(&rest)); err != nil {
				return err
			}
			o.Count = n
		}
		if err := tx.ReceiveOrder(o.ID, s.Now(), r.Measured, r.OK); err != nil {
			return err
		}
		what := fmt.Sprintf("%d x %s: %s", o.Count, it.Name, r.Measured)
		if !r.OK {
			return s.Note(tx, a, o.HeadID, "part refused", what)
		}
		return errors.Join(tx.Add(&store.Movement{
			ItemID: o.ItemID, Count: o.Count, Kind: "receipt", HeadID: o.HeadID, Why: r.Measured, PersonID: a.ID,
			At: s.Now(),
		}), s.Note(tx, a, o.HeadID, "part received", what))
	})
}

// ChangeOrder gives an order that has not come another day, as 2031-05-20, or calls it off, with a reason.
func ChangeOrder(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID string, order uint, due string, cancel bool,
	why string,
) error {
	if err := a.Must("order parts"); err != nil {
		return err
	}
	errs := field.Errors{}
	at := "due/" + strconv.Itoa(int(order))
	var day time.Time
	if cancel {
		why = shop.Required(errs, at, why, "say why it is called off", 200)
	} else {
		var err error
		if day, err = time.ParseInLocation(time.DateOnly, strings.TrimSpace(due), time.Local); err != nil ||
			day.Year() < 2000 || day.Year() > 2200 {
			errs.Addf(at, "a date like 2031-05-20")
		}
		why = shop.Optional(errs, at, why, 200)
	}
	if err := errs.Err(); err != nil {
		return err
	}
	return onOrder(ctx, s, writeID, order, func(tx store.DB, o store.PartOrder, it store.StockItem) error {
		what := fmt.Sprintf("%d x %s", o.Count, it.Name)
		if cancel {
			return errors.Join(tx.CancelOrder(o.ID, s.Now(), why),
				s.Note(tx, a, o.HeadID, "order called off", what+": "+why))
		}
		return errors.Join(tx.DueOrder(o.ID, day),
			s.Note(tx, a, o.HeadID, "order due", what+": "+Due(o.Due)+" > "+Due(day)+" "+why))
	})
}

// Return sends parts of a delivery back that were booked in before, with the reason: they leave the stock,
// and stay in the history of their order.
func Return(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID string, order uint, count, why string,
) error {
	if err := a.Must("keep the stock"); err != nil {
		return err
	}
	errs := field.Errors{}
	at := "return/" + strconv.Itoa(int(order))
	n, err := strconv.Atoi(strings.TrimSpace(count))
	if err != nil || n < 1 {
		errs.Addf(at, "how many go back?")
	}
	why = shop.Required(errs, at, why, "say why they go back", 200)
	if err := errs.Err(); err != nil {
		return err
	}
	return anOrder(ctx, s, writeID, order, func(tx store.DB, o store.PartOrder, it store.StockItem) error {
		if o.ReceivedAt == nil || !o.OK {
			return shop.ErrStale
		}
		there, aside, err := tx.StockCounts()
		switch left := o.Count - o.Returned; {
		case err != nil:
			return err
		case n > left:
			return field.Only(at, "%d of this delivery are left", left)
		case n > there[it.ID]-aside[it.ID]:
			return field.Only(at, "%d are there that are not set aside for a head", max(0, there[it.ID]-aside[it.ID]))
		}
		return errors.Join(
			tx.ReturnOrder(o.ID, o.Returned+n),
			tx.Add(&store.Movement{
				ItemID: it.ID, Count: -n, Kind: "return", HeadID: o.HeadID, Why: why, PersonID: a.ID, At: s.Now(),
			}),
			s.Note(tx, a, o.HeadID, "part returned", fmt.Sprintf("%d x %s: %s", n, it.Name, why)),
		)
	})
}

// onOrder changes an order that has not come, in a transaction.
func onOrder(
	ctx context.Context, s *shop.Shop, writeID string, order uint,
	do func(store.DB, store.PartOrder, store.StockItem) error,
) error {
	return anOrder(ctx, s, writeID, order, func(tx store.DB, o store.PartOrder, it store.StockItem) error {
		if o.ReceivedAt != nil {
			return shop.ErrStale
		}
		return do(tx, o, it)
	})
}

// anOrder changes an order, come or not, in a transaction.
func anOrder(
	ctx context.Context, s *shop.Shop, writeID string, order uint,
	do func(store.DB, store.PartOrder, store.StockItem) error,
) error {
	_, err := s.Once(ctx, writeID, func(tx store.DB) (string, error) {
		orders, err := tx.PartOrders()
		if err != nil {
			return "", err
		}
		i := slices.IndexFunc(orders, func(o store.PartOrder) bool { return o.ID == order })
		if i < 0 {
			return "", shop.ErrNotFound
		}
		items, err := tx.StockItems()
		if err != nil {
			return "", err
		}
		k := slices.IndexFunc(items, func(it store.StockItem) bool { return it.ID == orders[i].ItemID })
		if k < 0 {
			return "", shop.ErrNotFound
		}
		return "", do(tx, orders[i], items[k])
	})
	return err
}

// How far a delivered part may be from what it should measure: one of a size, and one whose sheet says what
// a new one measures. Trade practice.
const (
	sizeSlack = 10 * length.Micrometre
	dimsSlack = 50 * length.Micrometre
)

var sizeForm = regexp.MustCompile(`\d+(?:[.,]\d+)?(?:\s*(?:mm|in|µm|um)\b)?`)

// sizesIn reads the sizes in a text; bare numbers are millimetres.
func sizesIn(text string) (out []length.Length) {
	for _, m := range sizeForm.FindAllString(text, -1) {
		if l, err := length.Parse(strings.ReplaceAll(m, ",", "."), length.MM); err == nil {
			out = append(out, l)
		}
	}
	return out
}

// notAsOrdered says which of the parts that were measured is not what was ordered, "" when all are, or
// nothing says what they should measure.
func notAsOrdered(it store.StockItem, measured string) string {
	low, high := it.SizeNM-sizeSlack, it.SizeNM+sizeSlack
	if it.SizeNM == 0 {
		dims := sizesIn(it.Dims)
		if len(dims) == 0 {
			return ""
		}
		low, high = slices.Min(dims)-dimsSlack, slices.Max(dims)+dimsSlack
	}
	got := sizesIn(measured)
	if len(got) == 0 {
		return "it has a size: measure one or more, like 2.62 2.61"
	}
	var odd []string
	for i, l := range got {
		if l < low || l > high {
			odd = append(odd, fmt.Sprintf("number %d measures %s", i+1, length.MM.Text(l)))
		}
	}
	if odd == nil {
		return ""
	}
	should := it.Dims
	if it.SizeNM != 0 {
		should = length.MM.Text(it.SizeNM)
	}
	return fmt.Sprintf("%s should be %s, and %s: not what was ordered, send it back", it.Name, should,
		strings.Join(odd, ", "))
}
