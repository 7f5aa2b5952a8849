package trade

import (
	"strings"

	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/valvetrain"
)

// OpenReach is how far the head of an open valve is from its guide: with the guide's length it says
// how far a worn guide lets it swing.
var OpenReach = figure(
	Figure{Code: "open_reach", Label: "Guide's end to the head of the open valve", PerRole: true},
)

// GapOpen is what is left between two neighbouring heads when both valves are open and swing towards
// each other as far as their guides let them. The limit of the gap at rest says nothing of it: where
// the sheet has none of its own the heads must not touch.
var GapOpen = characteristic(Characteristic{
	Code:    "valve.gap_open",
	Label:   "Gap between open valve heads",
	Line:    "least gap less half of each head's swing in its guide",
	Section: Valves,
	Where:   AtPair,
	From:    []*Characteristic{ValveGap, GuideBore, Stem},
	Work:    gapOpen,
	Always:  true,
})

// gapOpen takes half of the swing of both heads off the gap at rest: gap - c (G + 2L) / 2G of each,
// for the clearance c in a guide that holds the stem over G, its head L beyond.
func gapOpen(p Place) (Derivation, bool) {
	gap := p.Reads(ValveGap)
	one, other, pair := strings.Cut(p.Position(), "-")
	if len(gap) == 0 || !pair {
		return Derivation{}, false
	}
	d := Derivation{
		From: ids(gap), Instead: &Fallback{Low: new(quantity.Amount), Source: "the heads must not touch"},
	}
	lo, hi, _ := Ends(gap)
	us := []quantity.Amount{MaxU(gap)}
	said := []string{p.Text(lo) + " at rest"}
	for _, id := range []string{one, other} {
		at := p.At(id)
		guide, stem := at.Reads(GuideBore), at.Reads(Stem)
		if len(guide) == 0 || len(stem) == 0 {
			return Derivation{}, false
		}
		held, _ := at.Figure(GuideHeld)
		reach, known := at.Figure(OpenReach)
		if held == 0 || !known {
			d.Unknown = "how far the heads swing is not known: the sheet needs the guide's length and how far the open valve's head is from it"
			return d, true
		}
		half := func(clearance quantity.Amount) quantity.Amount {
			return quantity.OfLength(valvetrain.Swing(max(0, clearance).Length(), held.Length(), reach.Length()) / 2)
		}
		gLo, gHi, _ := Ends(guide)
		sLo, sHi, _ := Ends(stem)
		lo, hi = lo-half(gHi-sLo), hi-half(gLo-sHi)
		us = append(us, half(length.RSS(MaxU(guide), MaxU(stem))))
		d.From = append(d.From, ids(guide, stem)...)
		said = append(said, id+" swings by "+p.Text(2*half(gHi-sLo)))
	}
	d.Low, d.High, d.U, d.Rest = lo, hi, length.RSS(us...), length.RSS(us[1:]...)
	d.Note = strings.Join(said, ", ")
	return d, true
}
