package inout

import (
	"context"
	"encoding/json"
	"errors"
	"reflect"

	"yatai/core/field"
	"yatai/shop"
	"yatai/shop/library"
	"yatai/store"
)

// Imports lists the tables that were taken in, the newest first.
func Imports(ctx context.Context, s *shop.Shop) ([]store.Import, error) {
	return s.Store.Read(ctx).Imports(30)
}

// Undo takes a table back: what it added goes, what it changed is as it was but for what was typed since.
// What has been used since cannot go, and then nothing is taken back.
func Undo(ctx context.Context, s *shop.Shop, a shop.Actor, writeID string, id uint) error {
	_, err := s.Once(ctx, writeID, func(tx store.DB) (string, error) {
		x, err := tx.Import(id)
		if err != nil {
			return "", err
		}
		k, _ := KindNamed(x.Kind)
		switch err := a.Must(k.Right); {
		case err != nil:
			return "", err
		case x.UndoneAt != nil:
			return "", shop.ErrStale
		}
		var b back
		if err := json.Unmarshal([]byte(x.Back), &b); err != nil {
			return "", err
		}
		if b.Sheet != nil {
			if err := library.TakeBack(tx, s, a, b.Sheet.Model, b.Sheet.Version, x.Name); err != nil {
				return "", err
			}
		}
		customer := func(c store.Customer) (store.Customer, error) { return tx.Customer(c.ID) }
		if err := restore(tx.ChangeCustomer, b.Was, b.Made, customer); err != nil {
			return "", err
		}
		item := func(it store.StockItem) (store.StockItem, error) { return tx.StockItem(it.ID) }
		if err := restore(tx.ChangeStock, b.WasItems, b.MadeItems, item); err != nil {
			return "", err
		}
		for _, step := range []struct {
			ids    []uint
			remove func(uint) error
			what   string
		}{
			{b.OldJobs, tx.RemoveOldJob, "job"}, {b.Machines, tx.RemoveMachine, "machine"},
			{b.Customers, tx.RemoveCustomer, "customer"}, {b.Items, tx.RemoveStock, "part"},
		} {
			for _, id := range step.ids {
				if err := step.remove(id); err != nil {
					return "", field.Only("undo", "a %s of it is in use by now: it cannot be taken back", step.what)
				}
			}
		}
		if err := tx.UndoImport(id, s.Now()); err != nil {
			return "", err
		}
		return "", s.Note(tx, a, 0, "table taken back", x.Kind+" "+x.Name)
	})
	return err
}

// restore changes things back to what they were before a table made something else of them; what was changed
// again since stays. Older tables do not say what they made: all is as it was.
func restore[T any](change func(T) error, was, made []T, now func(T) (T, error)) error {
	for i, old := range was {
		if len(made) == len(was) {
			is, err := now(old)
			if errors.Is(err, store.ErrNotFound) { // it has become another's, or gone
				continue
			}
			if err != nil {
				return err
			}
			old = unmade(old, made[i], is)
		}
		if err := change(old); err != nil {
			return err
		}
	}
	return nil
}

// unmade is now with each field that still is as it was made as it was before.
func unmade[T any](was, made, now T) T {
	before, then, out := reflect.ValueOf(was), reflect.ValueOf(made), reflect.ValueOf(&now).Elem()
	for i := range out.NumField() {
		if reflect.DeepEqual(then.Field(i).Interface(), out.Field(i).Interface()) {
			out.Field(i).Set(before.Field(i))
		}
	}
	return now
}

// Left returns the rows of a table that were left to be mended, as a file for the shop's spreadsheets.
func Left(ctx context.Context, s *shop.Shop, a shop.Actor, id uint) ([]byte, error) {
	x, err := s.Store.Read(ctx).Import(id)
	if err != nil {
		return nil, err
	}
	k, _ := KindNamed(x.Kind)
	if err := a.Must(k.Right); err != nil {
		return nil, err
	}
	var rows [][]string
	if x.LeftRows == "" {
		return nil, shop.ErrNotFound
	}
	if err := json.Unmarshal([]byte(x.LeftRows), &rows); err != nil {
		return nil, err
	}
	return LeftCSV(ctx, s, rows)
}

// LeftCSV writes rows to be mended as the shop's spreadsheets read them; what would be a formula is text, and
// read as it was.
func LeftCSV(ctx context.Context, s *shop.Shop, rows [][]string) ([]byte, error) {
	set, err := s.Settings(ctx, "")
	if err != nil {
		return nil, err
	}
	for _, row := range rows {
		shop.Plain(row, -1)
	}
	return shop.CSV(set, rows)
}
