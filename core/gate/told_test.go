package gate_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"yatai/core/gate"
	"yatai/core/head"
	"yatai/core/head/headtest"
	"yatai/core/trade"
)

// on puts an operation on the route.
func on(h *headtest.Head, code, state, why string, at ...string) *headtest.Head {
	h.Operations = append(
		h.Operations, head.Operation{Code: code, State: state, Why: why, At: at, Turn: uint(100 + len(h.Operations))},
	)
	return h
}

// told are the lines of a head whose keys begin so: "ok" or "open", and why.
func told(h *headtest.Head, begins ...string) map[string]string {
	out := map[string]string{}
	for _, l := range gate.Head(h.Head).Lines {
		if slices.ContainsFunc(begins, func(b string) bool { return strings.HasPrefix(l.Key, b) }) {
			out[l.Key] = map[bool]string{true: "ok: ", false: "open: "}[l.OK] + l.Why
		}
	}
	return out
}

// TestWhatTheGateSays holds each rule of the final check to what it says of a history made for it.
func TestWhatTheGateSays(t *testing.T) {
	bare := func() *headtest.Head { return headtest.New(t, 1, "IE") }
	signed := func(h *headtest.Head, finding string) *headtest.Head {
		h.Signoffs = append(h.Signoffs, head.Signoff{Finding: finding, By: "Odo", Reason: "agreed with the owner"})
		return h
	}
	doubtful := func() *headtest.Head { return bare().Both("seat.runout", "", "0.05").Read("seat.runout", "1E1 0.0495") }
	const doubt = "Read 0.050 mm, doubt ±0.002 mm; limit 0.05 mm max (leaflet). 1 reading behind it. " +
		"Too close to tell with any tool of the shop. The lead decides. 31 of 100 such readings are outside."
	wide := func() *headtest.Head { return bare().Both("seat.width", "1.0", "2.0").Read("seat.width", "1E1 2.6") }
	const out = "out: Read 2.600 mm, doubt ±0.002 mm; limit 1 to 2 mm (leaflet). 1 reading behind it. 0.600 mm over."
	nameless := func() *headtest.Head {
		h := wide()
		for i := range h.Sheet.Limits {
			h.Sheet.Limits[i].Source = ""
		}
		h.Sheet = h.Sheet.Indexed()
		return h
	}
	left := func(h *headtest.Head, finding string) *headtest.Head {
		h.Decisions = append(h.Decisions, head.Decision{Finding: finding, Choice: trade.Leave, Reason: "it runs true"})
		return h
	}
	untold := func() *headtest.Head {
		h := bare().Both("seat.width", "1.0", "2.0").Read("seat.width", "1E1 1.5")
		h.Readings[0].Untold = true
		return h
	}
	for _, x := range []struct {
		name   string
		h      *headtest.Head
		begins []string
		want   map[string]string
	}{
		{"what is ordered is done", on(seats(t), "seat_cut", head.Waiting, "",
			"1E1"), []string{"operation:seat_cut"}, map[string]string{
			"operation:seat_cut": "open: waiting",
		}},
		{"what runs is not done", on(seats(t), "seat_cut", head.Running, "",
			"1E1"), []string{"operation:seat_cut"}, map[string]string{
			"operation:seat_cut": "open: running",
		}},
		{"what was decided is not on the route", seats(t), []string{"operation:seat_cut"}, map[string]string{
			"operation:seat_cut": "open: not on the route yet",
		}},
		{
			"it is, elsewhere", on(seats(t), "seat_cut", head.Done, "", "1I1"), []string{"operation:seat_cut"},
			map[string]string{
				"operation:seat_cut": "ok: done", "operation:seat_cut@1E1": "open: not on the route for 1E1",
			},
		},
		{
			"it is, everywhere", on(seats(t), "seat_cut", head.Done, ""),
			[]string{"operation:seat_cut"}, map[string]string{"operation:seat_cut": "ok: done"},
		},
		{
			"once open is open", on(on(seats(t), "seat_cut", head.Waiting, "", "1E1"), "seat_cut", head.Done, "", "1E1"),
			[]string{"operation:seat_cut"}, map[string]string{
				"operation:seat_cut": "open: waiting",
			},
		},
		{
			"left out with a reason", on(seats(t), "seat_cut", head.Skipped, "the customer's wish", "1E1"),
			[]string{"operation:seat_cut"}, map[string]string{
				"operation:seat_cut": "ok: left out: the customer's wish",
			},
		},
		{"left out without one", on(seats(t), "seat_cut", head.Skipped, " ",
			"1E1"), []string{"operation:seat_cut"}, map[string]string{
			"operation:seat_cut": "open: left out, and nobody says why",
		}},
		{"a proof left out", on(bare(), "seal_test", head.Skipped,
			"no pump"), []string{head.LeftOut + "seal_test"}, map[string]string{
			head.LeftOut + "seal_test": "open: left out: no pump: what it would have proven is not proven; somebody signs that, with a reason",
		}},
		{
			"and signed", signed(on(bare(), "seal_test", head.Skipped, "no pump"), head.LeftOut+"seal_test"),
			[]string{head.LeftOut + "seal_test"}, map[string]string{
				head.LeftOut + "seal_test": "ok: left out, signed by Odo: agreed with the owner",
			},
		},
		{"read before the work", seats(t).Did("seat_cut", "1E1"), []string{"read:seat.width"}, map[string]string{
			"read:seat.width@1E1": "open: worked on (cut seats), not read again everywhere since",
		}},
		{
			"and after it", seats(t).Did("seat_cut", "1E1").Again(head.AfterRepair, "seat.width", "1E1 1.5"),
			[]string{"read:seat.width"}, map[string]string{
				"read:seat.width@1E1": "ok: read again since cut seats",
			},
		},
		{
			"nobody asks for what has no limit and was not read", bare().Did("seat_cut", "1E1"),
			[]string{"read:seat.width"}, map[string]string{},
		},
		{
			"what was read is asked for without a limit", bare().Read("seat.width", "1E1 1.5").Did("seat_cut", "1E1"),
			[]string{"read:seat.width"}, map[string]string{
				"read:seat.width@1E1": "open: worked on (cut seats), not read again everywhere since",
			},
		},
		{
			"what something with a limit is made of too",
			bare().Both("guide.clearance", "0.03", "0.09").Did("guide_ream", "1E1"),
			[]string{"read:guide.bore"}, map[string]string{
				"read:guide.bore@1E1": "open: worked on (ream guides oversize), not read again everywhere since",
				"read:guide.bore@1I1": "open: not read",
			},
		},
		{"work that waits moved nothing", on(seats(t), "seat_cut", head.Waiting, "",
			"1E1"), []string{"read:"}, map[string]string{}},
		{
			"what was looked at is looked at again", bare().See("seat.condition", "1E1", "gaps").Did("seat_cut", "1E1"),
			[]string{"read:seat.condition"}, map[string]string{
				"read:seat.condition@1E1": "open: worked on (cut seats), not looked at again since",
			},
		},
		{"in doubt", doubtful(), []string{"sign:"}, map[string]string{"sign:seat.runout@1E1": "open: in doubt: " + doubt}},
		{"in doubt and left", left(doubtful(), "seat.runout@1E1"), []string{"sign:"}, map[string]string{
			"sign:seat.runout@1E1": "ok: in doubt, released: it runs true (31 of 100 such readings are outside)",
		}},
		{"out", wide(), []string{"sign:"}, map[string]string{"sign:seat.width@1E1": "open: " + out}},
		{"out of a limit nobody gave a source", nameless(), []string{"sign:"}, map[string]string{
			"sign:seat.width@1E1": "open: " + strings.Replace(out, " (leaflet)", "", 1),
		}},
		{"out and left", left(wide(), "seat.width@1E1"), []string{"sign:"}, map[string]string{
			"sign:seat.width@1E1": "open: " + out + " Left: it runs true.",
		}},
		{
			"out, seen", bare().See("seat.condition", "1E1", "gaps"),
			[]string{"sign:"}, map[string]string{
				"sign:seat.condition@1E1": "open: out: Seat: gaps in the ring: blue shows through in places",
			},
		},
		{"no tool named", untold(), []string{"sign:"}, map[string]string{
			"sign:seat.width@1E1": "open: in doubt: read with no tool named, so that its doubt is not known: name the tool, or read it again",
		}},
		{"unread", bare().Both("seat.width", "1.0", "2.0"), []string{"sign:", "read:seat.width@1E1"}, map[string]string{
			"read:seat.width@1E1": "open: not read",
		}},
		{
			"sound", bare().Both("seat.width", "1.0", "2.0").Read("seat.width", "1E1 1.5"),
			[]string{"sign:", "read:seat.width@1E1"}, map[string]string{},
		},
	} {
		is := told(x.h, x.begins...)
		assert.Equal(t, x.want, is, x.name)
	}
}

// TestSuspectReadingsAreCounted: those that count, by tool, in words.
func TestSuspectReadingsAreCounted(t *testing.T) {
	h := headtest.New(t, 1, "IE").Read("seat.width", "1I1 1.5", "1E1 1.6", "1E1 1.7")
	for i := range h.Readings {
		h.Readings[i].Tool, h.Readings[i].Suspect = "caliper 3", true
	}
	const says = " made before it failed its zero check: read again, or the lead releases them"
	assert.Equal(t, map[string]string{"suspect:caliper 3": "open: 2 readings" + says}, told(h, "suspect:"),
		"the first of 1E1 was corrected")
	h.Readings[0].Suspect = false
	assert.Equal(t, map[string]string{"suspect:caliper 3": "open: 1 reading" + says}, told(h, "suspect:"))
	h.Readings[2].Suspect = false
	assert.Empty(t, told(h, "suspect:"), "what was corrected counts no more")
}

// TestWhatIsApprovedIsDone where it was approved, or somebody signs that it is not.
func TestWhatIsApprovedIsDone(t *testing.T) {
	h := func() *headtest.Head {
		h := headtest.New(t, 1, "IE")
		h.Approved = []head.Line{{Code: "seat_cut", At: []string{"1I1", "1E1"}}}
		return h
	}
	assert.Equal(t, map[string]string{"approve:seat_cut": "open: approved, but not on the route 1I1, 1E1"},
		told(h(), "approve:"))
	assert.Equal(t, map[string]string{"approve:seat_cut": "open: approved, but not on the route 1E1"},
		told(on(h(), "seat_cut", head.Done, "", "1I1"), "approve:"))
	assert.Empty(t, told(on(h(), "seat_cut", head.Done, ""), "approve:"))
	left := h()
	left.Signoffs = []head.Signoff{{Finding: head.LeftOut + "seat_cut", By: "Odo", Reason: "sound after all"}}
	assert.Equal(t, map[string]string{"approve:seat_cut": "ok: approved and not done, signed by Odo: sound after all"},
		told(left, "approve:"))
	assert.Equal(t, trade.CutSeat.Code, "seat_cut")
}
