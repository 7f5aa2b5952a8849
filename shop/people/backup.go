package people

import (
	"context"
	"time"

	"yatai/shop"
	"yatai/store"
)

// backedUp is the setting that holds when the last backup was taken.
const backedUp = "backed_up"

// Backup writes a copy of the whole shop, photos and all, to a new file at to, and writes
// down that it was taken. The owner does.
func Backup(ctx context.Context, s *shop.Shop, a shop.Actor, to string) error {
	if err := a.Must("take a backup"); err != nil {
		return err
	}
	return s.Store.Backup(ctx, to)
}

// BackedUp notes that somebody has a whole backup in hand, to its last byte.
func BackedUp(ctx context.Context, s *shop.Shop, a shop.Actor) error {
	if err := a.Must("take a backup"); err != nil {
		return err
	}
	return s.Store.Write(ctx, func(tx store.DB) error {
		if err := tx.Set(backedUp, s.Now().Format(time.RFC3339)); err != nil {
			return err
		}
		return s.Note(tx, a, 0, "backup taken", "")
	})
}

// backupDays is after how many days without a backup the owner is reminded.
const backupDays = 7

// LastBackup is when the last backup was taken, zero for never, and whether it is time for
// another.
func LastBackup(s shop.Settings, now time.Time) (at time.Time, due bool) {
	at, _ = time.Parse(time.RFC3339, s.Get(backedUp))
	return at, now.Sub(at) > backupDays*24*time.Hour
}
