package plan

import (
	"cmp"
	"context"
	"maps"
	"math"
	"slices"

	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/judge"
	"yatai/core/price"
	"yatai/core/quantity"
)

// Worth is what reading something once more, with the tool that tells, is worth: on average so
// many cents less than going on with the plan as it is, the time to read it taken off. Nothing or
// less: reading it costs more than it saves.
type Worth struct {
	Feature judge.Feature
	Cents   int64
	Minutes quantity.Minutes
	Least   int64 // what the best plan costs at least, over what the reading may come to
	Most    int64 // and at most
}

// values is how many values a reading may come to are tried: as many equally likely parts of the
// normal about what it read.
const values = 21

// mostWorth bounds how many doubts are weighed, and aMinute is how many places are read in one: trade
// practice.
const (
	mostWorth = 4
	aMinute   = 3
)

// Worths weighs what is in doubt and could be read with a tool that tells: the head is planned for
// each of the values that the reading may come to, and each plan is held against base, the plan as it
// is. A cheaper one says what base does for nothing; a dearer one what base leaves out, which is then
// done later, and counts as what it costs and no more. So a reading is never worth more than the plans
// differ. The best come first. The only error is a caller that leaves.
func Worths(ctx context.Context, h *head.Head, j judge.Judgement, base Plan) ([]Worth, error) {
	var doubts []judge.Feature
	for _, f := range j.All() {
		if f.Verdict == gauge.Doubt && f.Settle != "" && len(f.From) > 0 && f.Limit != nil {
			doubts = append(doubts, f)
		}
	}
	slices.SortStableFunc(doubts, func(a, b judge.Feature) int {
		return cmp.Compare(math.Abs(a.PInside-0.5), math.Abs(b.PInside-0.5))
	})
	var out []Worth
	for _, f := range doubts[:min(mostWorth, len(doubts))] {
		w, known, err := worth(ctx, h, f, base)
		if err != nil {
			return nil, err
		}
		if known {
			out = append(out, w)
		}
	}
	slices.SortStableFunc(out, func(a, b Worth) int { return cmp.Compare(b.Cents, a.Cents) })
	return out, nil
}

// worth weighs one doubt; known is false where some of its values leave no plan. Between two values
// that come to the same plan every value does: a reading that grows asks for more and more, or for
// less and less.
func worth(ctx context.Context, h *head.Head, f judge.Feature, base Plan) (w Worth, known bool, err error) {
	w = Worth{Feature: f, Minutes: quantity.Minutes(len(again(h, f))+aMinute-1) / aMinute}
	var plans [values]Plan
	at := func(i int) error {
		plans[i], err = Solve(ctx, drawn(h, f, i), base.Ask)
		return err
	}
	if err := cmp.Or(at(0), at(values-1)); err != nil {
		return w, false, err
	}
	var between func(a, b int) error
	between = func(a, b int) error {
		if plans[a].Cents == plans[b].Cents && maps.Equal(plans[a].Choices, plans[b].Choices) {
			for i := a + 1; i < b; i++ {
				plans[i] = plans[a]
			}
			return nil
		}
		middle := (a + b) / 2
		if middle == a {
			return nil
		}
		return cmp.Or(at(middle), between(a, middle), between(middle, b))
	}
	if err := between(0, values-1); err != nil {
		return w, false, err
	}
	w.Least = math.MaxInt64
	var differ int64
	for _, p := range plans {
		if !p.Feasible { // what it would cost then is not known
			return w, false, nil
		}
		w.Least, w.Most = min(w.Least, p.Cents), max(w.Most, p.Cents)
		differ += max(p.Cents-base.Cents, base.Cents-p.Cents)
	}
	w.Cents = differ/values - price.Labour(h, w.Minutes)
	return w, true, nil
}

// again are the readings that are taken once more to settle a doubt: of what a figure is made of, what
// is read first. They are places in the head's list.
func again(h *head.Head, f judge.Feature) []int {
	var out []int
	for i, r := range h.Readings {
		if slices.Contains(f.From, r.ID) && (len(out) == 0 || r.Of == h.Readings[out[0]].Of) {
			out = append(out, i)
		}
	}
	return out
}

// drawn is the head as if a doubt's readings had been taken once more, with the tool that settles it,
// and had come to the i-th of the values: the middle of an equally likely part of the normal.
func drawn(h *head.Head, f judge.Feature, i int) *head.Head {
	z := math.Sqrt2 * math.Erfinv(2*(float64(i)+0.5)/values-1)
	by := quantity.Amount(math.Round(z * float64(f.U) / 2))
	tool := slices.IndexFunc(h.Tools, func(t head.Tool) bool { return t.Name == f.Settle })
	g := *h
	g.Readings = slices.Clone(h.Readings)
	for _, k := range again(h, f) {
		r := &g.Readings[k]
		r.Value = gauge.Exact(r.Value.At + by)
		if tool >= 0 {
			r.U = min(r.U, h.Tools[tool].Doubt(r.Value.At))
		}
	}
	return g.Until(head.Stages...) // what stands is found anew
}
