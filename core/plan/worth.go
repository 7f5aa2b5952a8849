package plan

import (
	"cmp"
	"context"
	"math"
	"slices"

	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/judge"
	"yatai/core/quantity"
)

// Worth is what reading something once more, with a tool that tells, is worth: on average so
// many cents less than going on with the plan as it is.
type Worth struct {
	Feature judge.Feature
	Cents   int64
	Inside  int64 // what the plan costs when it turns out to be inside
	Outside int64 // and when it is out
}

// mostWorth bounds how many doubts are weighed, and leastWorth is what a reading has to be worth
// to be spoken of, in cents.
const (
	mostWorth  = 8
	leastWorth = 100
)

// Worths weighs what is in doubt and could be read with a tool that tells: the head is planned
// once as if the reading had come out inside, and once as if it had come out outside. Where the
// plan mends it to be on the safe side, the work is saved as often as it is inside; where the
// plan leaves it, the work on the head is done twice as often as it is out. base is the plan as it
// is. The best come first. The only error is a caller that leaves.
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
		w := Worth{Feature: f}
		known := true
		for _, side := range []struct {
			inside bool
			to     *int64
		}{{true, &w.Inside}, {false, &w.Outside}} {
			g, ok := asIf(h, f, side.inside)
			if !ok {
				known = false
				break
			}
			p, err := Solve(ctx, g, base.Ask)
			if err != nil {
				return nil, err
			}
			known = known && p.Feasible
			*side.to = p.Cents
		}
		if !known {
			continue
		}
		if base.Cents >= w.Outside {
			w.Cents = int64(f.PInside * float64(base.Cents-w.Inside))
		} else {
			w.Cents = int64((1 - f.PInside) * float64(base.Cents))
		}
		if w.Cents >= leastWorth {
			out = append(out, w)
		}
	}
	slices.SortStableFunc(out, func(a, b Worth) int { return cmp.Compare(b.Cents, a.Cents) })
	return out, nil
}

// asIf returns the head as if a feature's readings had come out clearly inside, or outside, with
// little doubt; false when moving them does not do that.
func asIf(h *head.Head, f judge.Feature, inside bool) (*head.Head, bool) {
	end := f.Limit.High
	if f.Side == "low" || end == nil {
		end = f.Limit.Low
	}
	by := min((f.High-*end).Abs(), (f.Low-*end).Abs()) + f.U // past the limit it is near
	of := ""
	for _, r := range h.Readings { // what is read first of what it is made of
		if slices.Contains(f.From, r.ID) {
			of = r.Of
			break
		}
	}
	for _, sign := range []quantity.Amount{1, -1} {
		g := *h
		g.Readings = slices.Clone(h.Readings)
		for i := range g.Readings {
			r := &g.Readings[i]
			if !slices.Contains(f.From, r.ID) {
				continue
			}
			r.U /= 8
			if r.Of == of && !r.Value.Bracket {
				r.Value = gauge.Exact(r.Value.At + sign*by)
			}
		}
		moved := g.Until(head.Stages...) // what stands is found anew
		now, ok := judge.Head(moved).Feature(f.Key())
		if ok && now.Verdict != gauge.Doubt && (now.Verdict == gauge.Out) != inside {
			return moved, true
		}
	}
	return nil, false
}
