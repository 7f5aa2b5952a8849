package shop

import (
	"fmt"
	"strings"

	"yatai/store"
)

// About names what a line of the audit trail is about beside a head: a thing of a kind, by its id.
// What there is one of, like the settings, is named by its kind alone.
func About(kind string, id uint) string { return fmt.Sprintf("%s/%d", kind, id) }

// The kinds of things that have a history.
const (
	OfCustomer = "customer"
	OfPerson   = "person"
	OfTool     = "tool"
	OfModel    = "model"
	OfPart     = "part"
	OfSettings = "settings"
	OfWeek     = "week"
)

// NoteAbout adds a line to the audit trail about something that is no head.
func (s *Shop) NoteAbout(tx store.DB, a Actor, about, what, detail string) error {
	return tx.Add(
		&store.Event{At: s.now(), PersonID: a.ID, About: about, What: what, Detail: detail, Origin: a.From},
	)
}

// Change is what was changed of something, as it was and as it is, in words.
type Change struct{ What, Was, Is string }

// longestChange bounds each side of a change in the trail.
const longestChange = 120

// Changes writes the changes that are any, "discount: 5.00 > 7.50; telephone: none > 0123"; ""
// when nothing was changed.
func Changes(all ...Change) string {
	var said []string
	show := func(v string) string {
		if v = strings.Join(strings.Fields(v), " "); v == "" {
			return "none"
		}
		if r := []rune(v); len(r) > longestChange {
			return string(r[:longestChange]) + "…"
		}
		return v
	}
	for _, c := range all {
		if c.Was != c.Is {
			said = append(said, c.What+": "+show(c.Was)+" > "+show(c.Is))
		}
	}
	return strings.Join(said, "; ")
}
