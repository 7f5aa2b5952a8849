package work

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/quantity"
)

func TestSeatsCutAlikeHaveAReference(t *testing.T) {
	um := func(n int64) *quantity.Amount {
		a := quantity.OfLength(length.Length(n) * length.Micrometre)
		return &a
	}
	role := func(id string) layout.Role {
		return map[byte]layout.Role{'I': layout.Intake, 'E': layout.Exhaust}[id[1]]
	}
	rows := []SheetRow{
		{ID: "1I1", Target: um(800)}, {ID: "2I1", Target: um(800)}, {ID: "3I1", Target: um(830)},
		{ID: "4I1", Target: um(790)}, {ID: "5I1"},
		{ID: "1E1", Target: um(900)}, {ID: "2E1"},
	}
	now := map[string]quantity.Amount{
		"1I1": *um(500), "2I1": *um(700), "3I1": *um(600), "4I1": *um(650), "5I1": *um(900), "1E1": *um(400),
	}
	alike(rows, now, role, length.MM)
	var said []string
	for _, r := range rows {
		said = append(said, r.Against.String())
	}
	assert.Equal(t, []string{
		"level with 2I1", "the reference: cut it first and zero on it", "0.030 mm deeper than 2I1",
		"0.010 mm less deep than 2I1", "",
		"", "", // one alone is like no other
	}, said)
	delete(now, "2I1")
	for i := range rows {
		rows[i].Against.Sentence = ""
	}
	alike(rows, now, role, length.MM)
	assert.Contains(t, rows[3].Against.String(), "reference", "of those that were read")
	assert.Contains(t, rows[1].Against.String(), "0.010 mm deeper than 4I1", "it ends somewhere all the same")
}
