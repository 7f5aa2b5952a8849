package headpage

import (
	"yatai/store"
)

// Where names the place of a mark in words.
func (d HeadData) Where(x store.Finding) string { return d.Layout.Near(x.X, x.Y) }
