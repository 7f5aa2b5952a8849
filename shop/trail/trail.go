// Package trail shows who changed what, when, and from where: the lines of the audit trail of the
// whole shop, of one head, or of one thing of it. List is its door.
package trail

import (
	"context"
	"strings"
	"time"

	"yatai/core/field"
	"yatai/shop"
	"yatai/store"
)

// Ask is what is looked for; all of it may be empty.
type Ask struct {
	Text     string // in what was done, by whom, or on which tag
	About    string // of one thing: shop.About
	From, To string // days as 2031-12-24, both counted in
	Before   uint   // only lines before that one: the next page
}

// Page is a page of the trail, the newest line first.
type Page struct {
	Lines []store.TrailLine
	Older uint // Before of the next page; 0 on the last
}

// perPage is how many lines a page has.
const perPage = 60

// List answers what is asked of the trail; leads and owners may. Errors are about "from" and "to".
func List(ctx context.Context, s *shop.Shop, a shop.Actor, ask Ask) (Page, error) {
	var p Page
	if err := a.Must("see the history"); err != nil {
		return p, err
	}
	errs := field.Errors{}
	day := func(name, text string) (at time.Time) {
		if text != "" {
			var err error
			if at, err = time.ParseInLocation(time.DateOnly, text, time.Local); err != nil {
				errs.Addf(name, "a day like 2031-12-24")
			}
		}
		return at
	}
	from, to := day("from", ask.From), day("to", ask.To)
	if err := errs.Err(); err != nil {
		return p, err
	}
	if !to.IsZero() {
		to = to.AddDate(0, 0, 1)
	}
	lines, err := s.Store.Read(ctx).Trail(store.TrailAsk{
		Text: strings.TrimSpace(ask.Text), About: ask.About, From: from, To: to, Before: ask.Before,
		Most: perPage + 1,
	})
	if len(lines) > perPage {
		lines = lines[:perPage]
		p.Older = lines[perPage-1].ID
	}
	p.Lines = lines
	return p, err
}
