package newpart_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/gate"
	"yatai/core/head"
	"yatai/core/head/headtest"
	"yatai/core/length"
	"yatai/core/newpart"
	"yatai/core/quantity"
	"yatai/core/trade"
)

const um = quantity.One / 1000

// fresh adds a new part that measures as said: "stem.dia 7.98".
func fresh(t *testing.T, h *headtest.Head, kind *trade.PartKind, at string, sizes ...string) {
	t.Helper()
	p := head.Part{Part: kind.Code, Position: at, New: true, Is: map[string]quantity.Amount{}}
	for _, s := range sizes {
		code, text, _ := strings.Cut(s, " ")
		c, ok := trade.ByCode(code)
		require.True(t, ok, code)
		a, err := c.Parse(text, h.Unit)
		require.NoError(t, err)
		p.Is[code] = a
	}
	h.Parts = append(h.Parts, p)
}

// TestABoxOfOneKindWhereTwoAreDue: the rockers that came out were of two kinds, left and right;
// the box holds four of one.
func TestABoxOfOneKindWhereTwoAreDue(t *testing.T) {
	h := headtest.New(t, 2, "IE").Read("rocker.kind", "1I1 1", "1E1 2", "2I1 1", "2E1 2")
	for _, at := range h.Positions() {
		fresh(t, h, trade.RockerPart, at, "rocker.kind 1")
	}
	wrong := map[string]string{}
	for _, p := range newpart.Compare(h.Head) {
		wrong[p.Position] = p.Wrong().String()
	}
	assert.Equal(t, map[string]string{
		"1I1": "", "2I1": "", "1E1": "wrong part: of kind 1, the old one is of kind 2",
		"2E1": "wrong part: of kind 1, the old one is of kind 2",
	}, wrong)
}

// TestANewValveBesideTheOld: each size old and new, the change, the maker's figure, and what the
// box says.
func TestANewValveBesideTheOld(t *testing.T) {
	h := headtest.New(t, 4, "IE").Read("valve.length", "1E1 121.20", "2E1 121.22").Read("valve.margin", "1E1 1.10")
	h.Sheet.Limits = append(h.Sheet.Limits, head.Limit{
		Characteristic: "valve.margin", Role: "exhaust", Set: head.New, Low: ptr(1_500 * um), High: ptr(1_900 * um),
		Source: "parts list",
	})
	h.Sheet = h.Sheet.Indexed()
	for _, at := range []string{"1E1", "2E1", "3E1", "4E1"} {
		length, margin := "121.30", "1.70"
		switch at {
		case "3E1":
			length = "121.90"
		case "4E1":
			margin = "1.30"
		}
		fresh(t, h, trade.ValvePart, at, "stem.dia 7.98", "valve.length "+length, "valve.margin "+margin)
	}
	parts := newpart.Compare(h.Head)
	require.Len(t, parts, 4)
	first := parts[0]
	assert.Empty(t, first.Wrong().String())
	assert.Empty(t, first.Lacks())
	i := slices.IndexFunc(first.Sizes, func(s newpart.Size) bool { return s.Of == trade.ValveLength })
	by, ok := first.Sizes[i].Change()
	assert.True(t, ok)
	assert.Equal(t, 100*um, by)
	assert.Equal(t, "+0.100", first.Sizes[i].Changed(h.Unit))
	assert.Contains(t, parts[2].Wrong().String(),
		"differs from the others of its box: its valve length is 121.9 mm, theirs 121.3 mm")
	assert.Contains(t, parts[3].Wrong().String(),
		"not what was ordered: its margin is 1.3 mm, 1.5 to 1.9 mm allowed (parts list)")
}

// TestWrongPartsAreNamed: a valve of the other role, a seal that does not grip.
func TestWrongPartsAreNamed(t *testing.T) {
	h := headtest.New(t, 2, "IE").Read("stem.dia", "1I1.top 7.98", "1E1.top 7.97")
	fresh(t, h, trade.ValvePart, "1E1", "valve.head 39.9", "stem.dia 7.98", "valve.margin 1.5")
	assert.Equal(t, "wrong part: its head of 39.9 mm is an intake valve's",
		newpart.Of(h.Head, trade.ValvePart, "1E1").Wrong().String())
	fresh(t, h, trade.SealPart, "1I1", "seal.stem 8.05")
	assert.Equal(t, "wrong part: its bore of 8.05 mm does not grip the stem of 7.98 mm",
		newpart.Of(h.Head, trade.SealPart, "1I1").Wrong().String())
	fresh(t, h, trade.SealPart, "1E1", "seal.stem 7.60")
	assert.Empty(t, newpart.Of(h.Head, trade.SealPart, "1E1").Wrong().String())
	assert.Empty(t, newpart.Of(h.Head, trade.SpringPart, "1E1").Sizes, "there is no such new part")
}

// TestWhereAPartBeginsToBeWrong: a head within a quarter of the difference from the other role's, a bore as wide
// as the stem, five doubts from the middle of its box, and no box of two.
func TestWhereAPartBeginsToBeWrong(t *testing.T) {
	h := headtest.New(t, 3, "IE").Read("stem.dia", "1I1.top 7.98", "1E1.top 7.98", "2E1.top 7.98")
	in, _ := h.Model.Layout.Valve("1I1")
	ex, _ := h.Model.Layout.Valve("1E1")
	quarter := (in.Head - ex.Head) / 4
	head := func(at string, size length.Length) string {
		h.Parts = nil
		fresh(t, h, trade.ValvePart, at, "valve.head "+size.MM())
		return newpart.Of(h.Head, trade.ValvePart, at).Wrong().String()
	}
	assert.Contains(t, head("1E1", in.Head-quarter), "an intake valve's")
	assert.NotContains(t, head("1E1", in.Head-quarter-10_000), "an intake valve's")
	assert.Contains(t, head("1E1", in.Head+quarter), "an intake valve's")
	assert.Contains(t, head("1I1", ex.Head+quarter), "an exhaust valve's")
	assert.NotContains(t, head("1I1", in.Head), "valve's")

	seal := func(at, size string) string {
		h.Parts = nil
		fresh(t, h, trade.SealPart, at, "seal.stem "+size)
		return newpart.Of(h.Head, trade.SealPart, at).Wrong().String()
	}
	assert.Contains(t, seal("1I1", "7.98"), "does not grip")
	assert.Empty(t, seal("1I1", "7.97"))
	assert.Empty(t, seal("3I1", "9.00"), "its stem was not read")

	box := func(heads ...string) (odd int) {
		h.Parts = nil
		for i, at := range []string{"1E1", "2E1", "3E1"}[:len(heads)] {
			fresh(t, h, trade.ValvePart, at, "valve.length "+heads[i])
		}
		for _, p := range newpart.Compare(h.Head) {
			if strings.Contains(p.Wrong().String(), "its box") {
				odd++
			}
		}
		return odd
	}
	u := h.UsualU(trade.ValveLength).Length()
	at := func(doubts int) string { return (121*length.Millimetre + length.Length(doubts)*u).MM() }
	assert.Zero(t, box(at(0), at(0), at(5)), "five doubts are none")
	assert.Equal(t, 1, box(at(0), at(0), at(6)))
	assert.Equal(t, 1, box(at(0), at(0), at(-6)))
	assert.Zero(t, box(at(0), at(9)), "two say nothing of a box")
}

// TestWhatCameOutIsWhatWasReadOfItAsReceived: the mean there, not of another valve nor of a later stage; a part
// that work fitted is compared although nobody measured it.
func TestWhatCameOutIsWhatWasReadOfItAsReceived(t *testing.T) {
	h := headtest.New(t, 2, "IE").Read("valve.length", "1E1 121.20", "1E1 121.30", "2E1 125.00").
		Again(head.AfterRepair, "valve.length", "1E1 119.00")
	fresh(t, h, trade.ValvePart, "1E1", "valve.length 121.30")
	size := func(p newpart.Part) newpart.Size {
		i := slices.IndexFunc(p.Sizes, func(s newpart.Size) bool { return s.Of == trade.ValveLength })
		require.GreaterOrEqual(t, i, 0)
		return p.Sizes[i]
	}
	s := size(newpart.Of(h.Head, trade.ValvePart, "1E1"))
	assert.Equal(t, []quantity.Amount{121_250 * um, 121_300 * um}, []quantity.Amount{s.Old, s.New})
	bare := headtest.New(t, 2, "IE").Read("valve.length", "1E1 121.20")
	assert.Empty(t, newpart.Compare(bare.Head))
	bare.Did("valve_new", "1E1")
	parts := newpart.Compare(bare.Head)
	require.Len(t, parts, 1)
	assert.Equal(t, "1E1", parts[0].Position)
	assert.False(t, size(parts[0]).HasNew)
	assert.True(t, size(parts[0]).HadOld)
}

// TestTheGateAsksForTheRightParts: with the wrong rocker fitted the head does not leave.
func TestTheGateAsksForTheRightParts(t *testing.T) {
	h := headtest.New(t, 2, "IE").Read("rocker.kind", "1E1 2", "2E1 2")
	h.Did("rocker_new", "1E1", "2E1")
	fresh(t, h, trade.RockerPart, "1E1", "rocker.kind 1")
	fresh(t, h, trade.RockerPart, "2E1", "rocker.kind 2")
	open := map[string]bool{}
	for _, l := range gate.Head(h.Head).Lines {
		open[l.Key] = !l.OK
	}
	assert.True(t, open["part:rocker@1E1"])
	assert.False(t, open["part:rocker@2E1"])
}

func ptr(a quantity.Amount) *quantity.Amount { return &a }
