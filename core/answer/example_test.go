package answer_test

import (
	"context"
	"encoding/json"
	"fmt"

	"yatai/core/answer"
)

// A guide of a small head is judged: nine hundredths of clearance where eight are allowed.
func ExampleRun() {
	file := `{"format": "yatai-head/1",
	 "head":  {"tag": "S01", "unit": "mm"},
	 "model": {"name": "Sample", "cylinders": 1, "patterns": ["IE"], "pitch": "112mm", "bore": "98mm", "width": "164mm",
	           "valves": {"intake": {"head": "42.5mm"}, "exhaust": {"head": "38mm"}}},
	 "sheet": {"limits": [{"of": "guide.clearance", "role": "exhaust", "low": "0.04mm", "high": "0.08mm", "source": "sheet 2"}]},
	 "tools": [{"name": "gauge", "kind": "bore gauge", "u": "0.002mm"}],
	 "readings": [{"of": "guide.bore", "at": "1E1.top.A", "is": "9.040mm", "tool": "gauge"},
	  {"of": "stem.dia", "at": "1E1.top", "is": "8.950mm", "tool": "gauge"}]}`
	out, err := answer.Run(context.Background(), "judge", []byte(file))
	if err != nil {
		fmt.Println(err)
		return
	}
	var said struct {
		Features []struct {
			Key, Verdict string
			By           int64 `json:"by_nm"`
		}
	}
	if err := json.Unmarshal(out, &said); err != nil {
		fmt.Println(err)
	}
	for _, f := range said.Features {
		if f.Verdict == "out" {
			fmt.Println(f.Key, "is out by", f.By, "nm")
		}
	}
	// Output: guide.clearance@1E1 is out by 10000 nm
}
