package work

import (
	"context"
	"slices"
	"strconv"
	"time"

	"yatai/core/field"
	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

// Join puts somebody to work at a running operation: one that was paused goes on, and several
// can be at one.
func Join(ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag string, seq int, other string) error {
	return running(ctx, s, a, writeID, tag, seq, func(tx store.DB, o store.Operation) (string, error) {
		at, err := tx.Stints(o.ID)
		if err != nil {
			return "", err
		}
		for _, st := range at {
			if st.PersonID == a.ID && st.EndedAt == nil {
				return "", field.Only(headfile.OperationKey(seq), "you are at it already")
			}
		}
		if err := leave(s, tx, a, o, other); err != nil {
			return "", err
		}
		return "went on", tx.Add(&store.Stint{OperationID: o.ID, PersonID: a.ID, StartedAt: s.Now()})
	})
}

// What becomes of the operation somebody is at when they begin another: one person's minutes count once.
const (
	Pauses    = "pauses"
	RunsAlone = "runs alone" // on its machine, with nobody at it
)

// leave takes somebody off what they are at to begin o: other says whether it pauses or runs alone. Without
// either they are asked.
func leave(s *shop.Shop, tx store.DB, a shop.Actor, o store.Operation, other string) error {
	open, err := tx.OpenStints()
	if err != nil {
		return err
	}
	for _, st := range open {
		if st.PersonID != a.ID || st.OperationID == o.ID || st.StartedAt.After(s.Now()) {
			continue
		}
		at, err := tx.OperationByID(st.OperationID)
		if err != nil {
			return err
		}
		tag, err := tx.TagOf(at.HeadID)
		if err != nil {
			return err
		}
		name := headfile.OperationName(at.Code)
		if other != Pauses && other != RunsAlone {
			return field.Errors{headfile.OperationKey(o.Seq): words.Of(
				"you are at %s of %s: say whether it pauses or runs alone", words.Of(name), tag,
			)}
		}
		if _, err := tx.EndStints(at.ID, a.ID, s.Now()); err != nil {
			return err
		}
		if err := s.Note(tx, a, at.HeadID, map[string]string{Pauses: "paused", RunsAlone: RunsAlone}[other],
			name); err != nil {
			return err
		}
	}
	return nil
}

// Pause takes somebody off a running operation; it is paused when nobody is at it any more.
func Pause(ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag string, seq int) error {
	return running(ctx, s, a, writeID, tag, seq, func(tx store.DB, o store.Operation) (string, error) {
		n, err := tx.EndStints(o.ID, a.ID, s.Now())
		if err == nil && n == 0 {
			err = field.Only(headfile.OperationKey(seq), "you are not at it")
		}
		return "paused", err
	})
}

// running does something about a running operation.
func running(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag string, seq int,
	do func(tx store.DB, o store.Operation) (string, error),
) error {
	return change(ctx, s, a, "work an operation", writeID, tag, seq,
		func(tx store.DB, _ *headfile.File, o store.Operation) (string, bool, error) {
			if o.State != "running" {
				return "", false, nil
			}
			said, err := do(tx, o)
			return said, true, err
		})
}

// Forgotten is work somebody began on an earlier day and has not ended: a stop that was forgotten.
type Forgotten struct {
	store.Stint
	Tag, Name string
	Seq       int
}

// ForgottenBy lists the stops that somebody forgot.
func ForgottenBy(ctx context.Context, s *shop.Shop, person uint) ([]Forgotten, error) {
	return forgotten(s, s.Store.Read(ctx), person)
}

func forgotten(s *shop.Shop, db store.DB, person uint) ([]Forgotten, error) {
	open, err := db.OpenStints()
	if err != nil {
		return nil, err
	}
	y, m, d := s.Now().Local().Date()
	today := time.Date(y, m, d, 0, 0, 0, 0, time.Local)
	var out []Forgotten
	for _, st := range open {
		if st.PersonID != person || !st.StartedAt.Before(today) {
			continue
		}
		o, err := db.OperationByID(st.OperationID)
		if err != nil {
			return nil, err
		}
		tag, err := db.TagOf(o.HeadID)
		if err != nil {
			return nil, err
		}
		out = append(out, Forgotten{Stint: st, Tag: tag, Name: headfile.OperationName(o.Code), Seq: o.Seq})
	}
	return out, nil
}

// Stopped ends a forgotten stint when the work really stopped: on the wall clock of the day it
// was begun, "16:20". The operation is paused then, or goes on with who else is at it.
func Stopped(ctx context.Context, s *shop.Shop, a shop.Actor, writeID string, stint uint, at string) error {
	if err := a.Must("work an operation"); err != nil {
		return err
	}
	_, err := s.Once(ctx, writeID, func(tx store.DB) (string, error) {
		all, err := forgotten(s, tx, a.ID)
		if err != nil {
			return "", err
		}
		i := slices.IndexFunc(all, func(f Forgotten) bool { return f.ID == stint })
		if i < 0 {
			return "", shop.ErrNotFound
		}
		f, key := all[i], "stopped/"+strconv.Itoa(int(stint))
		clock, err := time.Parse("15:04", at)
		if err != nil {
			return "", field.Only(key, "a time of day, like 16:20")
		}
		y, m, d := f.StartedAt.Local().Date()
		end := time.Date(y, m, d, clock.Hour(), clock.Minute(), 0, 0, time.Local)
		if end.Before(f.StartedAt) {
			return "", field.Only(key, "it was begun at %s", f.StartedAt.Local().Format("15:04"))
		}
		if _, err := tx.EndStints(f.OperationID, a.ID, end.UTC()); err != nil {
			return "", err
		}
		o, err := tx.OperationByID(f.OperationID)
		if err != nil {
			return "", err
		}
		return "", s.Note(tx, a, o.HeadID, "stopped on "+end.Format("2 Jan 15:04"), f.Name)
	})
	return err
}
