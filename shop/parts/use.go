package parts

import (
	"maps"
	"slices"
	"strings"

	"yatai/core/field"
	"yatai/core/price"
	"yatai/core/trade"
	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

// uses counts the items operations of a head use, by the sizes of its plan. Without a plan the lash shims
// are those that were read when the lash was set.
func uses(s *shop.Shop, tx store.DB, f *headfile.File, ops ...store.Operation) (map[uint]int, error) {
	sizes, err := headfile.PlannedSizes(s, tx, f)
	if err != nil {
		return nil, err
	}
	if sizes != nil {
		return headfile.Counted(price.Operations(f.Subject, headfile.OperationsOf(ops), sizes)), nil
	}
	lash := func(o store.Operation) bool { return o.Code == trade.SetLash.Code }
	others := slices.DeleteFunc(slices.Clone(ops), lash)
	counts := headfile.Counted(price.Operations(f.Subject, headfile.OperationsOf(others), nil))
	for _, o := range ops {
		if lash(o) {
			maps.Copy(counts, headfile.Counted(
				price.Operations(f.Subject, headfile.OperationsOf([]store.Operation{o}), f.ShimsRead(o)),
			))
		}
	}
	return counts, nil
}

// Reserve sets the parts of operations aside for a head.
func Reserve(s *shop.Shop, tx store.DB, a shop.Actor, f *headfile.File, ops []store.Operation) error {
	all, err := uses(s, tx, f, ops...)
	if err != nil {
		return err
	}
	for _, id := range slices.Sorted(maps.Keys(all)) {
		if err := tx.Add(&store.Movement{
			ItemID: id, Count: all[id], Kind: "reserve", HeadID: f.ID, Why: "work ordered", PersonID: a.ID,
			At: s.Now(),
		}); err != nil {
			return err
		}
	}
	return nil
}

// Use takes what an operation used out of the stock, and out of what was set aside for it. What is not
// there by the stock has to come from somewhere: from says where, and it is booked in first. Without from
// it is refused, naming what lacks.
func Use(s *shop.Shop, tx store.DB, a shop.Actor, f *headfile.File, o store.Operation, from string) error {
	counts, err := uses(s, tx, f, o)
	if err != nil || len(counts) == 0 {
		return err
	}
	lacks, err := Lacking(s, tx, f, o)
	if err != nil {
		return err
	}
	if len(lacks) > 0 && from == "" {
		why := words.Of(
			"by the stock there is not enough: %s. Count in what is there under Parts, or say where they came from",
			strings.Join(names(lacks), ", "),
		)
		return field.Errors{headfile.OperationKey(o.Seq): why}
	}
	move := func(item uint, count int, kind, why string) store.Movement {
		return store.Movement{
			ItemID: item, Count: count, Kind: kind, HeadID: f.ID, Why: why, PersonID: a.ID, At: s.Now(),
		}
	}
	var moves []store.Movement
	for _, l := range lacks {
		moves = append(moves, move(l.Item.ID, l.Count, "receipt", from))
	}
	aside, err := tx.ReservedBy(f.ID)
	if err != nil {
		return err
	}
	for _, id := range slices.Sorted(maps.Keys(counts)) {
		if n := min(counts[id], aside[id]); n > 0 { // what no plan foresaw was never set aside
			moves = append(moves, move(id, -n, "reserve", o.Code))
		}
		moves = append(moves, move(id, -counts[id], "use", o.Code))
	}
	if len(lacks) > 0 {
		if err := s.Note(tx, a, f.ID, "parts from elsewhere",
			strings.Join(names(lacks), ", ")+": "+from); err != nil {
			return err
		}
	}
	return tx.Add(&moves)
}

// Lack is how many of an item an operation uses that are not there.
type Lack struct {
	Item  store.StockItem
	Count int
}

func names(lacks []Lack) (out []string) {
	for _, l := range lacks {
		out = append(out, shop.Times(l.Count, l.Item.Name))
	}
	return out
}

// Lacking lists what an operation uses and the stock has not.
func Lacking(s *shop.Shop, db store.DB, f *headfile.File, o store.Operation) ([]Lack, error) {
	counts, err := uses(s, db, f, o)
	if err != nil || len(counts) == 0 {
		return nil, err
	}
	st, err := headfile.LoadStock(db)
	if err != nil {
		return nil, err
	}
	var out []Lack
	for _, it := range st.Items {
		if n := counts[it.ID] - st.Count[it.ID]; counts[it.ID] > 0 && n > 0 {
			out = append(out, Lack{it, n})
		}
	}
	return out, nil
}

// Free sets free what was set aside for an operation that is left out.
func Free(s *shop.Shop, tx store.DB, a shop.Actor, f *headfile.File, o store.Operation) error {
	counts, err := uses(s, tx, f, o)
	if err != nil {
		return err
	}
	return free(s, tx, a, f, counts, o.Code)
}

// FreeAll sets free all that is still set aside for a head.
func FreeAll(s *shop.Shop, tx store.DB, a shop.Actor, f *headfile.File) error {
	counts, err := tx.ReservedBy(f.ID)
	if err != nil {
		return err
	}
	return free(s, tx, a, f, counts, "the head leaves")
}

func free(s *shop.Shop, tx store.DB, a shop.Actor, f *headfile.File, counts map[uint]int, why string) error {
	for _, id := range slices.Sorted(maps.Keys(counts)) {
		if counts[id] == 0 {
			continue
		}
		if err := tx.Add(&store.Movement{
			ItemID: id, Count: -counts[id], Kind: "reserve", HeadID: f.ID, Why: why, PersonID: a.ID,
			At: s.Now(),
		}); err != nil {
			return err
		}
	}
	return nil
}
