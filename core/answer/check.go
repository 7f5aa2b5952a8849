package answer

import (
	"strconv"

	"yatai/core/gate"
	"yatai/core/head"
)

func itoa(n int) string { return strconv.Itoa(n) }

// CheckAnswer is the final gate.
type CheckAnswer struct {
	Ready  bool        `json:"ready"`
	Open   []gate.Line `json:"open"`
	Closed []gate.Line `json:"closed"`
}

// Check answers what is still open before a head may go, and what is proven.
func Check(h *head.Head) CheckAnswer {
	g := gate.Head(h)
	out := CheckAnswer{Ready: g.Ready(), Open: []gate.Line{}, Closed: []gate.Line{}}
	for _, l := range g.Lines {
		if l.OK {
			out.Closed = append(out.Closed, l)
		} else {
			out.Open = append(out.Open, l)
		}
	}
	return out
}
