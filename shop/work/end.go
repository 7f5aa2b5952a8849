package work

import (
	"context"
	"slices"
	"strings"

	"yatai/core/field"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/shop/parts"
	"yatai/store"
)

// End is a way a head leaves without its work.
type End struct{ Code, Label string }

// Ends are the ways.
var Ends = []End{
	{"refused", "the customer does not want the work"},
	{"scrapped", "it is not worth mending"},
	{"answered", "it was only to be looked at"},
	{"withdrawn", "the customer takes it back"},
	{"mistaken", "it was taken in by mistake"},
}

// EndForm says how a head ends, in what state it goes back, and what is owed, as "45.00"; empty is nothing.
type EndForm struct{ WriteID, Kind, State, Owed, Why string }

// EndHead closes a head that goes back without its work: what is not done of it is left out, what
// was put by for it is free again, nothing is claimed to be proven, and nobody is reminded of it.
// It is handed over then as any other.
func EndHead(ctx context.Context, s *shop.Shop, a shop.Actor, tag string, form EndForm) error {
	if err := a.Must("hand over a head"); err != nil {
		return err
	}
	errs := field.Errors{}
	state := shop.Required(errs, "state", form.State,
		"in what state does it go back? whole, or in parts in a box", 200)
	why := shop.Required(errs, "why", form.Why, "say why, for whoever asks later", 300)
	if !slices.ContainsFunc(Ends, func(e End) bool { return e.Code == form.Kind }) {
		errs.Addf("kind", "choose how it ends")
	}
	owed := int64(0)
	if text := strings.TrimSpace(form.Owed); text != "" {
		cents, err := shop.ParseCents(text)
		if err != nil || cents < 0 {
			errs.Addf("owed", "a sum like 45.00, or nothing")
		}
		owed = cents
	}
	if err := errs.Err(); err != nil {
		return err
	}
	return headfile.OnHead(ctx, s, form.WriteID, tag, func(tx store.DB, f *headfile.File) error {
		if f.ClosedAt != nil {
			return shop.ErrStale
		}
		for _, o := range f.Operations {
			if o.State == "done" || o.State == "skipped" {
				continue
			}
			if _, err := tx.EndStints(o.ID, 0, s.Now()); err != nil {
				return err
			}
		}
		if err := parts.FreeAll(s, tx, a, f); err != nil {
			return err
		}
		h := f.Head
		h.Ended, h.EndedWhy, h.EndedState, h.OwedCents = form.Kind, why, state, owed
		if err := tx.EndHead(h, a.ID, s.Now()); err != nil {
			return err
		}
		return s.Note(tx, a, f.ID, "ended", form.Kind+": "+why+"; goes back "+state+", owed "+shop.Cash(owed))
	})
}
