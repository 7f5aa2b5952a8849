package bench

import (
	"context"
	"fmt"
	"time"

	"yatai/core/layout"
	"yatai/core/quantity"
	"yatai/core/trade"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

const (
	mostHabit   = 60        // heads of a model that are looked at, those mended last
	fewestHabit = 5         // heads before anything is said
	habitFor    = time.Hour // what is known of a model's heads is looked up again after
)

// HabitsOf are between what heads of f's model were read, of valves of each role, as they came in: of those
// mended last. Nothing is said of what hangs on no valve, or is read by leaves or in words.
func HabitsOf(
	ctx context.Context, s *shop.Shop, f *headfile.File, c trade.Characteristic,
) (map[layout.Role]shop.Habit, error) {
	if c.Where != trade.AtPosition || c.Words != nil || c.Bracket {
		return nil, nil
	}
	key := fmt.Sprint(f.ModelID, " ", c.Code)
	if known, ok := s.Cache.Habits.Get(key); ok && s.Now().Sub(known.At).Abs() < habitFor {
		return known.Of, nil
	}
	db := s.Store.Read(ctx)
	heads, err := db.LastDone(f.ModelID, mostHabit)
	if err != nil {
		return nil, err
	}
	var ids []uint
	for _, h := range heads {
		ids = append(ids, h.ID)
	}
	read, err := db.ReadAsReceived(ids, c.Code)
	if err != nil {
		return nil, err
	}
	out := habits(f.Layout, read)
	s.Cache.Habits.Add(key, shop.Habits{At: s.Now(), Of: out})
	return out, nil
}

// habits are between what readings lie, of valves of each role; what was corrected does not count.
func habits(l layout.Layout, read []store.Reading) map[layout.Role]shop.Habit {
	type place struct {
		head                uint
		position, spot, dir string
	}
	last := map[place]quantity.Amount{} // the readings come in their order: the last stands
	for _, r := range read {
		last[place{r.HeadID, r.Position, r.Place, r.Dir}] = r.NM
	}
	out := map[layout.Role]shop.Habit{}
	heads := map[layout.Role]map[uint]bool{}
	for at, nm := range last {
		v, ok := l.Valve(at.position)
		if !ok {
			continue
		}
		h, known := out[v.Role]
		if !known {
			h = shop.Habit{Low: nm, High: nm}
			heads[v.Role] = map[uint]bool{}
		}
		heads[v.Role][at.head] = true
		out[v.Role] = shop.Habit{Low: min(h.Low, nm), High: max(h.High, nm), Heads: len(heads[v.Role])}
	}
	for role, h := range out {
		if h.Heads < fewestHabit {
			delete(out, role)
		}
	}
	return out
}
