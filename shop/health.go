package shop

import (
	"context"

	"yatai/store"
)

// Troubles of the shop's file that a page names.
var (
	ErrFull     = store.ErrFull     // its disk has no room
	ErrReplaced = store.ErrReplaced // another file stands in its place
)

// Health is how the shop's file is.
type Health struct {
	Err  error  // why it cannot be read or written, nil when it can
	Low  bool   // its disk has less room than a backup and some photos need
	Room uint64 // what is left on the disk, bytes, where the system tells
}

// Health reads the shop's file, and tries to write it without writing anything.
func (s *Shop) Health(ctx context.Context) Health {
	var h Health
	if _, h.Err = s.Settings(ctx, ""); h.Err == nil {
		h.Err = s.Store.Keeps(ctx)
	}
	room, known := s.Store.Room()
	h.Room, h.Low = room, known && room < store.LeastRoom
	return h
}
