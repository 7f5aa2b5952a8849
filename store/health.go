package store

import (
	"context"
	"errors"
)

// LeastRoom is how much room the disk of a shop's file should have, bytes: for a backup's copy and
// some photos.
const LeastRoom = 200 << 20

// errUndone ends a transaction that was only tried.
var errUndone = errors.New("only tried")

// Keeps tells whether something could be written now: nil when it could. Nothing is.
func (s *Store) Keeps(ctx context.Context) error {
	err := s.Write(ctx, func(DB) error { return errUndone })
	if errors.Is(err, errUndone) {
		return nil
	}
	return err
}

// Room is how much room is left on the disk of the file, bytes; ok is false where the system does not tell.
func (s *Store) Room() (bytes uint64, ok bool) { return roomOf(s.path) }
