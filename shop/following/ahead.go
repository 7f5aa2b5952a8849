package following

import (
	"cmp"
	"context"
	"math"
	"slices"

	"yatai/core/quantity"
	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

// longestAhead bounds the days that are looked ahead: ten years.
const longestAhead = 3650

// Lasts lists by tag what of heads that have left nears its limit, the soonest first: what a head left with
// goes on at the rate of its visits, and of others of its model that have left. Nothing where no limit is
// reached within the life of an engine.
func Lasts(ctx context.Context, s *shop.Shop, heads []store.Head) (map[string][]shop.Last, error) {
	db, out := s.Store.Read(ctx), map[string][]shop.Last{}
	others := map[uint][]store.Head{} // by model
	for _, h := range heads {
		if h.HandedOverAt == nil || h.Earlier == "" {
			continue
		}
		of, asked := others[h.ModelID]
		if !asked {
			returned, err := db.Returned(h.ModelID, mostReturned)
			if err != nil {
				return nil, err
			}
			of = slices.DeleteFunc(returned, func(o store.Head) bool { return o.HandedOverAt == nil })
			others[h.ModelID] = of
		}
		var err error
		if out[h.Tag], err = lasting(s, db, h, of); err != nil {
			return nil, err
		}
	}
	return out, nil
}

// lasting is Lasts of one head, by the others that are given. Heads that have left do not change: it is
// worked out once.
func lasting(s *shop.Shop, db store.DB, head store.Head, others []store.Head) ([]shop.Last, error) {
	key := head.Earlier + " " + head.Tag
	for _, o := range others {
		key += " " + o.Tag
	}
	if known, ok := s.Cache.Lasts.Get(key); ok {
		return known, nil
	}
	f, err := headfile.OpenIn(s, db, head.Tag)
	if err != nil {
		return nil, err
	}
	h, err := historyOf(s, db, f, others)
	if err != nil {
		return nil, err
	}
	out := h.lasts()
	s.Cache.Lasts.Add(key, out)
	return out, nil
}

// lasts is what the last visit left with, and how long it lasts.
func (h History) lasts() (out []shop.Last) {
	last := h.Visits[len(h.Visits)-1]
	perDay := h.PerDay()
	for _, w := range h.Worn {
		left, ok := last.Now.Feature(w.Key())
		if !ok || !wears(left) || !w.HasLimit {
			continue
		}
		at := figure(left, left.High)
		if w.Falls {
			at = figure(left, left.Low)
		}
		rate := w.Rate.Now(at)
		x := shop.Last{
			Feature: left, Run: h.Unit,
			Early: rate.Until(float64(w.Limit), w.Falls, 0.1), Late: rate.Until(float64(w.Limit), w.Falls, 0.9),
		}
		if math.IsInf(x.Early, 1) {
			continue
		}
		if days := x.Early / perDay; perDay > 0 && days < longestAhead {
			by := last.HandedOverAt.AddDate(0, 0, int(days))
			x.By = &by
		}
		out = append(out, x)
	}
	slices.SortStableFunc(out, func(a, b shop.Last) int { return cmp.Compare(a.Early, b.Early) })
	return out
}

// until says between which hours of run a limit is passed in eight of ten cases.
func until(early, late float64, run string) words.Text {
	if math.IsInf(late, 1) {
		return words.Of("not before %s %s", about(early), run)
	}
	return words.Of("in %s to %s %s", about(early), about(late), run)
}

// Until says when a figure that lasts is past its limit: between what eight of ten cases lie.
func Until(x shop.Last) words.Text { return until(x.Early, x.Late, x.Run) }

// Moved is how far figures of a model's heads moved from what they left with to what they came back with, by
// what wears alike ("guide.clearance/exhaust"): of the least that was read and of the most. Heads that are
// still here say nothing yet.
func Moved(ctx context.Context, s *shop.Shop, model uint) (map[string][]Move, error) {
	db := s.Store.Read(ctx)
	heads, err := db.Returned(model, mostReturned)
	if err != nil {
		return nil, err
	}
	out := map[string][]Move{}
	for _, h := range heads {
		if h.HandedOverAt == nil {
			continue
		}
		worn, err := returned(s, db, h)
		if err != nil {
			return nil, err
		}
		for _, w := range worn {
			out[w.Kind] = append(out[w.Kind], Move{
				Head: h.Tag, Low: quantity.Amount(w.Low.Came.At - w.Low.Left.At),
				High: quantity.Amount(w.High.Came.At - w.High.Left.At),
			})
		}
	}
	return out, nil
}

// Move is how far a figure of a head moved between two visits.
type Move struct {
	Head      string // tag of the later visit
	Low, High quantity.Amount
}
