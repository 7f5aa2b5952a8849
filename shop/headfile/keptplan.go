package headfile

import (
	"context"
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"

	"yatai/core/answer"
	"yatai/core/length"
	"yatai/core/trade"
	"yatai/shop"
	"yatai/store"
)

// KeptPlan is a version of a head's plan with what it answered and how far the head has
// moved away from what it was made from.
type KeptPlan struct {
	store.Plan
	Ask   PlanAsk
	Out   answer.PlanAnswer
	Stale []string // what differs from what it was made from, in words
}

// Valve returns what the plan does at a position.
func (k KeptPlan) Valve(id string) (answer.ValveAnswer, bool) {
	i := slices.IndexFunc(k.Out.Valves, func(v answer.ValveAnswer) bool { return v.ID == id })
	if i < 0 {
		return answer.ValveAnswer{}, false
	}
	return k.Out.Valves[i], true
}

// printed are the characteristics a plan is made from.
var printed = []*trade.Characteristic{trade.Recession, trade.StemHeight, trade.SpringHeight, trade.ValveMargin, trade.Lash, trade.LashDry, trade.ShimSize, trade.PushrodLength, trade.GuideBore, trade.Stem, trade.SpringPad, trade.Thickness, trade.Injector, trade.FaceLine, trade.FaceGrid}

// sheetPrint names the version of the limits among what a plan is made from.
const sheetPrint = "limit sheet version"

// Prints are what a plan is made from, by what and where: the readings, the version of the
// limits, the stock's prices and counts.
func (f *File) Prints() map[string]length.Length {
	out := map[string]length.Length{sheetPrint: length.Length(f.Sheet.Version)}
	for _, c := range printed {
		for _, at := range c.Positions(f.Layout) {
			for _, r := range f.Subject.Reads(c.Code, at) {
				v := r.Value.At
				if r.Value.Bracket {
					v = r.Value.NoGo
				}
				out[strings.ToLower(c.Label)+" "+r.Spot.Key()] = v
			}
		}
	}
	for _, s := range f.Subject.Stock {
		if s.Price != nil {
			out["price of "+s.Name] = length.Length(*s.Price)
		}
		if s.Kind == trade.LashShimPart.Code || s.Kind == trade.PushrodPart.Code {
			out["count of "+s.Name] = length.Length(s.Count)
		}
	}
	return out
}

// differs says in words how a print has changed.
func differs(what string, then, now length.Length) string {
	switch {
	case what == sheetPrint, strings.HasPrefix(what, "count of "):
		return fmt.Sprintf("%s was %d, is %d", what, then, now)
	case strings.HasPrefix(what, "price of "):
		return fmt.Sprintf("%s was %s, is %s", what, shop.Cash(int64(then)), shop.Cash(int64(now)))
	}
	return fmt.Sprintf("%s was %s, is %s", what, then, now)
}

// PlanKey begins the feature of a decision that comes from a plan and answers no finding.
const PlanKey = "plan/"

// Plans lists a head's plans, the newest first, each with what has changed since.
func Plans(ctx context.Context, s *shop.Shop, f *File) ([]KeptPlan, error) {
	return PlansIn(s, s.Store.Read(ctx), f)
}

// PlansIn is Plans within a transaction.
func PlansIn(s *shop.Shop, db store.DB, f *File) ([]KeptPlan, error) {
	rows, err := db.Plans(f.ID)
	if err != nil || len(rows) == 0 {
		return nil, err
	}
	now := f.Prints()
	var out []KeptPlan
	for _, r := range rows {
		k := KeptPlan{Plan: r}
		var in struct{ Ask PlanAsk }
		then := map[string]length.Length{}
		for from, to := range map[string]any{r.Input: &in, r.Answer: &k.Out, r.Prints: &then} {
			if err := json.Unmarshal([]byte(from), to); err != nil {
				return nil, fmt.Errorf("plan %d of %s: %w", r.Version, f.Tag, err)
			}
		}
		k.Ask = in.Ask
		if _, ours := then[sheetPrint]; !ours {
			k.Stale = append(k.Stale, "it was made by an earlier program: work it out again")
			then = nil
		}
		for _, what := range slices.Sorted(maps.Keys(then)) {
			if now[what] != then[what] {
				k.Stale = append(k.Stale, differs(what, then[what], now[what]))
			}
		}
		out = append(out, k)
	}
	return out, nil
}
