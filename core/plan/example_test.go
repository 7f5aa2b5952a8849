package plan_test

import (
	"context"
	"fmt"

	"yatai/core/head"
	"yatai/core/plan"
)

// A valve has sunk six tenths too deep; the sheet knows how far an insert may bring it up.
func ExampleSolve() {
	h, err := head.Decode([]byte(`{"format": "yatai-head/1",
	 "head":  {"tag": "S01", "unit": "mm"},
	 "model": {"name": "Sample", "cylinders": 1, "patterns": ["IE"], "pitch": "112mm", "bore": "98mm", "width": "164mm",
	           "valves": {"intake": {"head": "42.5mm"}, "exhaust": {"head": "38mm"}}},
	 "sheet": {"limits": [{"of": "valve.recession", "role": "exhaust", "low": "0.4mm", "high": "1mm"}], "figures": {"insert_up": "0.8mm"}},
	 "readings": [{"of": "valve.recession", "at": "1E1", "is": "1.6mm"}]}`))
	if err != nil {
		fmt.Println(err)
		return
	}
	p, err := plan.Solve(context.Background(), h, head.Ask{Alternative: plan.Balanced})
	if err != nil {
		fmt.Println(err)
		return
	}
	for _, v := range p.Valves {
		if !v.Changes() {
			continue
		}
		fmt.Println(v.ID, "seat:", v.Seat, "ends at", v.Figure("valve.recession").After.Length())
	}
	// Output: 1E1 seat: insert ends at 0.8 mm
}
