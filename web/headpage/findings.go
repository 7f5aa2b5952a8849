package headpage

import (
	"yatai/core/words"
	"yatai/shop"
)

// Where names the place of a mark in words.
func (d HeadData) Where(x shop.Finding) words.Text { return d.Layout.Near(x.X, x.Y) }
