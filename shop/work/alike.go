package work

import (
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/words"
)

// alike says of seats that are cut to end alike which is cut first and zeroed on, by role the one that is
// deepest, and how far from it each other ends. now is how deep each was before any was cut, by its
// position; a role of which fewer than two ends are known has no reference.
func alike(rows []SheetRow, now map[string]quantity.Amount, role func(id string) layout.Role, u length.Unit) {
	first := map[layout.Role]*SheetRow{}
	known := map[layout.Role]int{}
	for i := range rows {
		row := &rows[i]
		is, read := now[row.ID]
		if row.Target == nil || !read {
			continue
		}
		r := role(row.ID)
		if known[r]++; first[r] == nil || is > now[first[r].ID] {
			first[r] = row
		}
	}
	for i := range rows {
		row := &rows[i]
		ref := first[role(row.ID)]
		if ref == nil || row.Target == nil || known[role(row.ID)] < 2 {
			continue
		}
		off := (*row.Target - *ref.Target).Length()
		switch {
		case row == ref:
			row.Against = words.Of("the reference: cut it first and zero on it")
		case off == 0:
			row.Against = words.Of("level with %s", ref.ID)
		case off > 0:
			row.Against = words.Of("%s deeper than %s", u.Whole(off), ref.ID)
		default:
			row.Against = words.Of("%s less deep than %s", u.Whole(-off), ref.ID)
		}
	}
}
