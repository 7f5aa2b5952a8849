package supply

import (
	"context"
	"errors"
	"strings"
	"time"

	"yatai/core/field"
	"yatai/shop"
	"yatai/store"
)

// askedKey is where the shop keeps when the supplier was asked last, and what came of it.
const askedKey = "supplier.asked"

// Asked is when a supplier was asked last, and what came of it; the zero time: never.
type Asked struct {
	At   time.Time
	Said string
}

// Last returns when the supplier was asked last. set tells whether the shop has one.
func Last(ctx context.Context, s *shop.Shop) (last Asked, set bool, err error) {
	values, err := s.Store.Read(ctx).Settings()
	if err != nil {
		return last, false, err
	}
	at, said, _ := strings.Cut(values[askedKey], " ")
	if t, err := time.Parse(time.RFC3339, at); err == nil {
		last = Asked{t, said}
	}
	return last, values["supplier"] != "", nil
}

// ByHand asks the supplier because somebody wants to know now. Errors are about "supplier".
func ByHand(ctx context.Context, s *shop.Shop, a shop.Actor) error {
	if err := a.Must("order parts"); err != nil {
		return err
	}
	err := Update(ctx, s, a)
	var e *field.Error
	if errors.As(err, &e) {
		return field.Errors{"supplier": e.Says}
	}
	return err
}

// Update asks the shop's supplier for every part of the stock and keeps what it says: what it costs
// and how long it takes, where nobody typed something else. A part the supplier says nothing of has
// no offer any more. A shop without a supplier asks nobody. What came of it is kept and can be seen
// with Last and is in the history; an answer that cannot be read changes nothing. a is nobody when the
// program asks by itself.
func Update(ctx context.Context, s *shop.Shop, a shop.Actor) error {
	db := s.Store.Read(ctx)
	set, err := s.Settings(ctx, "")
	if err != nil {
		return err
	}
	address := set.Get("supplier")
	if address == "" {
		return nil
	}
	items, err := db.StockItems()
	if err != nil {
		return err
	}
	var parts []Part
	for _, it := range items {
		parts = append(parts, Part{it.Kind, it.Name})
	}
	offers, err := Fetch(ctx, address, set.Get("supplier_key"), parts)
	if err == nil && offers.Currency != "" && offers.Currency != set.Get("currency") {
		err = field.Errorf("", "the supplier's prices are in %s, the shop's in %s", offers.Currency,
			set.Get("currency"))
	}
	said := ""
	if err == nil {
		said, err = keep(ctx, s, items, offers)
	}
	var e *field.Error
	if err != nil && !errors.As(err, &e) {
		return err
	}
	if e != nil {
		said = e.Message()
	}
	return errors.Join(err, s.Store.Write(ctx, func(tx store.DB) error {
		return errors.Join(tx.Set(askedKey, s.Now().Format(time.RFC3339)+" "+said),
			s.Note(tx, a, 0, "supplier asked", said))
	}))
}

// keep writes what the supplier says beside the items, those alone that changed.
func keep(
	ctx context.Context, s *shop.Shop, items []store.StockItem, offers Offers,
) (said string, err error) {
	by := map[Part]Offer{}
	key := func(kind, name string) Part { return Part{strings.ToLower(kind), strings.ToLower(name)} }
	for _, o := range offers.Offers {
		by[key(o.Kind, o.Name)] = o
	}
	known := 0
	err = s.Store.Write(ctx, func(tx store.DB) error {
		for _, it := range items {
			o, ok := by[key(it.Kind, it.Name)]
			cents, err := o.cents()
			if err != nil {
				return err
			}
			if ok {
				known++
			}
			if it.OfferCents == cents && it.OfferDays == o.Days && it.OfferNote == o.Note {
				continue
			}
			if err := tx.SetOffer(it.ID, cents, o.Days, o.Note); err != nil {
				return err
			}
		}
		return nil
	})
	return shop.Plural(known, "part") + " of " + shop.Plural(len(items), "part") + " known", err
}
