package headfile

import (
	"cmp"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"

	"yatai/core/answer"
	"yatai/core/head"
	"yatai/core/plan"
	"yatai/core/quantity"
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

	Differs []string // from the version before, in words; nil for the first
}

// Count is how many valves get something done: a seat cut, an insert, a face ground, a new valve.
func (k KeptPlan) Count(what string) int {
	n := 0
	for _, v := range k.Out.Valves {
		if v.Seat == what || v.Valve == what {
			n++
		}
	}
	return n
}

// Inside is how likely all that was read ends inside.
func (k KeptPlan) Inside() float64 {
	if k.Out.PAll != nil {
		return *k.Out.PAll
	}
	return k.Out.PRead
}

// differs says how a plan differs from another: the face, the gasket, and what is done at each valve.
func (k KeptPlan) differs(from KeptPlan) []string {
	var out []string
	say := func(what, was, is string) {
		if was != is {
			out = append(out, what+": "+was+" > "+is)
		}
	}
	held := func(a answer.PlanAnswer) string {
		if a.Tilt != nil {
			return a.FaceCut.String() + " tilted"
		}
		return a.FaceCut.String()
	}
	say("face", held(from.Out), held(k.Out))
	say("gasket", cmp.Or(from.Out.Gasket, "as thick as now"), cmp.Or(k.Out.Gasket, "as thick as now"))
	for _, v := range k.Out.Valves {
		if was, ok := from.Valve(v.ID); ok {
			say(v.ID, strings.TrimPrefix(was.Says, v.ID+": "), strings.TrimPrefix(v.Says, v.ID+": "))
		}
	}
	return out
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
var printed = []*trade.Characteristic{
	trade.Recession, trade.StemHeight, trade.SpringHeight, trade.ValveMargin, trade.Lash, trade.LashDry,
	trade.ShimSize, trade.PushrodLength,
	trade.GuideBore, trade.Stem, trade.SpringPad, trade.Thickness, trade.Injector, trade.FaceLine,
	trade.FaceGrid, trade.LoadSeat,
	trade.LoadOpen, trade.ChamberVolume,
}

// sheetPrint names the version of the limits among what a plan is made from.
const sheetPrint = "limit sheet version"

// Prints are what a plan is made from, by what and where: the readings, the version of the
// limits, the stock's prices and counts, as whole numbers that are kept beside a plan.
type Prints map[string]int64

// printing collects prints, each with how its number is told.
type printing struct {
	at   Prints
	tell map[string]func(int64) string
}

func (p printing) put(what string, at int64, tell func(int64) string) {
	p.at[what], p.tell[what] = at, tell
}

// number tells a plain count.
func number(n int64) string { return strconv.FormatInt(n, 10) }

// Prints are what a plan of the head would be made from now.
func (f *File) Prints() Prints { return f.prints().at }

func (f *File) prints() printing {
	p := printing{Prints{}, map[string]func(int64) string{}}
	p.put(sheetPrint, int64(f.Sheet.Version), number)
	for _, c := range printed {
		unit := c.UnitFor(f.In())
		tell := func(n int64) string { return unit.Text(quantity.Amount(n)) }
		for _, at := range c.Positions(f.Layout) {
			for _, r := range f.Subject.Reads(c.Code, at) {
				v := r.Value.At
				if r.Value.Bracket {
					v = r.Value.NoGo
				}
				p.put(strings.ToLower(c.Label)+" "+r.Spot.Key(), int64(v), tell)
			}
		}
	}
	for _, s := range f.Subject.Stock {
		if s.Price != nil {
			p.put("price of "+s.Name, *s.Price, shop.Cash)
		}
		if s.Kind == trade.LashShimPart.Code || s.Kind == trade.PushrodPart.Code {
			p.put("count of "+s.Name, int64(s.Count), number)
		}
	}
	return p
}

// since says in words what differs from what was printed then.
func (p printing) since(then Prints) []string {
	var out []string
	for _, what := range slices.Sorted(maps.Keys(then)) {
		now, still := p.at[what]
		switch {
		case !still:
			out = append(out, what+" was there, is not")
		case now != then[what]:
			out = append(out, what+" was "+p.tell[what](then[what])+", is "+p.tell[what](now))
		}
	}
	for _, what := range slices.Sorted(maps.Keys(p.at)) {
		if _, was := then[what]; !was {
			out = append(out, what+" was not there, is "+p.tell[what](p.at[what]))
		}
	}
	return out
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
	now := f.prints()
	var out []KeptPlan
	for _, r := range rows {
		k := KeptPlan{Plan: r}
		var in struct{ Ask keptAsk }
		then := Prints{}
		for from, to := range map[string]any{r.Input: &in, r.Answer: &k.Out, r.Prints: &then} {
			if err := json.Unmarshal([]byte(from), to); err != nil {
				return nil, fmt.Errorf("plan %d of %s: %w", r.Version, f.Tag, err)
			}
		}
		k.Ask = in.Ask.asked()
		if _, ours := then[sheetPrint]; !ours {
			k.Stale = append(k.Stale, "it was made by an earlier program: work it out again")
		} else {
			k.Stale = now.since(then)
		}
		out = append(out, k)
	}
	for i := range len(out) - 1 {
		out[i].Differs = out[i].differs(out[i+1])
	}
	return out, nil
}

// Solve answers a question about the head as it stands. The same question of the same readings, findings,
// decisions, limits and stock is worked out once: what it returns is shared, do not change it.
func Solve(ctx context.Context, s *shop.Shop, f *File, ask head.Ask) (plan.Plan, error) {
	key, err := f.fingerprint(ask)
	if err != nil {
		return plan.Plan{}, err
	}
	p, known := s.Cache.Plans.Get(key)
	if !known {
		if p, err = plan.Judged(ctx, f.Subject, f.Now, ask); err != nil {
			return plan.Plan{}, err
		}
		s.Cache.Plans.Add(key, p)
	}
	return p, nil
}

// fingerprint is all that a plan of the head is made from, as a text: the question and the open head file.
func (f *File) fingerprint(ask head.Ask) (string, error) {
	b, err := json.Marshal(struct {
		Ask  head.Ask
		Head head.File
	}{ask, head.Encode(f.Subject)})
	sum := sha256.Sum256(b)
	return hex.EncodeToString(sum[:]), err
}
