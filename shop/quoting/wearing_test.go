package quoting_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/words"
	"yatai/internal/shoptest"
	"yatai/shop/following"
	"yatai/shop/headfile"
)

// TestALineThatCouldWaitSaysUntilWhen: of the demo's head that came four times, by how it has worn until then; not
// what must be done, nor what comes along, nor a head at its first visit.
func TestALineThatCouldWaitSaysUntilWhen(t *testing.T) {
	f := shoptest.Open(t)
	file := f.File(t, "T0428")
	quotes, err := headfile.Quotes(f.Shop, f.Shop.Store.Read(t.Context()), file.ID)
	require.NoError(t, err)
	h, err := following.HistoryOf(t.Context(), f.Shop, file)
	require.NoError(t, err)
	waits := 0
	for _, l := range quotes[0].Lines {
		said := strings.Contains(l.Reason, "at its rate so far past its limit in")
		switch {
		case l.Grp == headfile.Must || strings.HasPrefix(l.Reason, "comes with"):
			assert.False(t, said, "%s: %s", l.Name, l.Reason)
		case l.Code == "valve_new":
			waits++
			soonest := ""
			for _, w := range h.Worn {
				if when := w.When("h"); when.Sentence != "" && soonest == "" &&
					strings.Contains(l.Positions, w.Position) {
					soonest = w.Position + " valve recession at its rate so far past its limit " + when.String()
				}
			}
			require.NotEmpty(t, soonest)
			assert.True(t, strings.HasSuffix(l.Reason, "; "+soonest), "%s: %s", l.Reason, soonest)
			assert.Contains(t, l.Because().In(words.German), "beim bisherigen Verschleiß über der Grenze in")
		}
	}
	assert.Equal(t, 1, waits)
	first, err := headfile.Quotes(f.Shop, f.Shop.Store.Read(t.Context()), f.File(t, "T0425").ID)
	require.NoError(t, err)
	for _, l := range first[0].Lines {
		assert.NotContains(t, l.Reason, "at its rate")
	}
}
