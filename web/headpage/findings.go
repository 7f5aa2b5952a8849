package headpage

import (
	"yatai/core/words"
	"yatai/store"
)

// Where names the place of a mark in words.
func (d HeadData) Where(x store.Finding) words.Text { return d.Layout.Near(x.X, x.Y) }
