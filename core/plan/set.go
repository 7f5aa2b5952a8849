package plan

import (
	"cmp"
	"context"
	"math"
	"slices"
	"strconv"
	"strings"

	"yatai/core/head"
	"yatai/core/judge"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/trade"
)

// Together is the plan of the heads of one engine, two banks or a set of single cylinders, worked
// out together: all are faced by the same cut, and a shim in the box goes to one of them only. Why
// says what stands in the way where nothing fits all.
type Together struct {
	Heads    []Plan
	Feasible bool
	Why      string
}

// Cents is what all plans cost.
func (t Together) Cents() int64 {
	var sum int64
	for _, p := range t.Heads {
		sum += p.Cents
	}
	return sum
}

// Apart is how far the final depths of a role lie apart over all heads, deepest less shallowest;
// ok is false where fewer than two are known.
func (t Together) Apart(role layout.Role) (apart length.Length, ok bool) {
	var all []length.Length
	for _, p := range t.Heads {
		for _, v := range p.Valves {
			if f := v.Figure(trade.Recession.Code); v.Role == role && f != nil && f.Known {
				all = append(all, f.After.Length())
			}
		}
	}
	if len(all) < 2 {
		return 0, false
	}
	return slices.Max(all) - slices.Min(all), true
}

// MostTogether bounds how many heads are planned together.
const MostTogether = 12

// Set plans the heads of one engine together: of the cuts that all can take the one with which all
// together cost least, each head's best with it found as Solve finds it. Where more shims of
// a size would be taken than the box holds, and in the school that seats all valves alike, the
// heads are planned as if they were one, set up once: then a shim goes to one valve, and the depths
// of a role lie as close together over all heads as in one. The box of parts is the first head's:
// all are of one shop. It panics on fewer than two heads or more than MostTogether.
func Set(ctx context.Context, heads []*head.Head, ask head.Ask) (Together, error) {
	if len(heads) < 2 || len(heads) > MostTogether {
		panic("plan: a set has from 2 to 12 heads")
	}
	if ask.Alternative == "" {
		ask.Alternative = Balanced
	}
	var out Together
	var set []*problem
	for _, h := range heads {
		p := pose(h, judge.Head(h), ask)
		set = append(set, p)
		out.Heads = append(out.Heads, Plan{Ask: ask, Face: p.face, Cuts: p.cuts})
	}
	cuts := commonCuts(set)
	if len(cuts) == 0 {
		var needs []string
		for _, p := range set {
			needs = append(needs, p.h.Tag+" needs "+p.text(p.face.Cut))
		}
		out.Why = "no face cut is one that all can take: " + strings.Join(needs, ", ")
		return out, nil
	}
	alike := slices.ContainsFunc(set, func(p *problem) bool { return p.allAlike() })
	var best []solution
	ok, err := false, error(nil)
	if !alike {
		best, ok, err = bestCut(ctx, set, cuts)
	}
	if err == nil && (alike || ok && overdrawn(set[0], best)) {
		best, ok, err = asOne(ctx, set, cuts, alike)
	}
	if err != nil {
		return out, err
	}
	if !ok {
		out.Why = "nothing puts all right with one face cut: plan them one by one to see what stands in the way"
		if alike {
			out.Why = "nothing puts all right with one face cut and depths within " + set[0].text(within) +
				" of each other: " +
				"plan them one by one to see what stands in the way"
		}
		return out, nil
	}
	out.Feasible = true
	for i, p := range set {
		p.cuts = []length.Length{best[i].cut}
		p.conclude(&out.Heads[i], best[i], true)
		out.Feasible = out.Feasible && out.Heads[i].Feasible
	}
	return out, nil
}

// bestCut finds the cut with which all heads together cost least. What each would cost at
// least with a cut is known fast and says in which order they are tried, and when to stop.
func bestCut(
	ctx context.Context, set []*problem, cuts []length.Length,
) (best []solution, ok bool, err error) {
	type try struct {
		cut   length.Length
		least int64
	}
	var tries []try
	for _, c := range cuts {
		t, fits := try{cut: c}, true
		for _, p := range set {
			one, fit := p.leastWith(c)
			t.least, fits = t.least+one, fits && fit
			if !fits {
				break
			}
		}
		if fits {
			tries = append(tries, t)
		}
	}
	slices.SortStableFunc(tries, func(a, b try) int { return cmp.Compare(a.least, b.least) })
	cents := int64(math.MaxInt64)
	for _, t := range tries {
		if t.least >= cents {
			break
		}
		all, sum, fits := make([]solution, len(set)), int64(0), true
		for i, p := range set {
			one := *p
			one.cuts = []length.Length{t.cut}
			if one.face.For == "" && t.cut > 0 { // it is faced because another is
				one.face.For = trade.FaceLine.Code
			}
			if all[i], fits, err = one.find(ctx); err != nil {
				return best, false, err
			}
			if sum += all[i].score.cents; !fits || sum >= cents {
				fits = false
				break
			}
		}
		if fits {
			best, cents, ok = all, sum, true
		}
	}
	return best, ok, nil
}

// leastWith is what a head costs at least with a face cut and any gasket; false when it cannot be put right.
func (p *problem) leastWith(cut length.Length) (least int64, ok bool) {
	least = math.MaxInt64
	for _, g := range p.gaskets {
		c := common{cut: cut, gasket: g}
		score, fits := p.headScore(c)
		if !fits {
			continue
		}
		if floor, _ := p.floor(p.asked(), c); floor != math.MaxInt64 {
			least, ok = min(least, score.cents+floor), true
		}
	}
	return least, ok
}

// overdrawn tells whether all heads together take more shims of a size than the box holds.
func overdrawn(p *problem, all []solution) bool {
	took := map[length.Length]int{}
	for _, s := range all {
		for _, f := range s.valves {
			if f.setting.from == InStock {
				took[f.setting.size]++
			}
		}
	}
	for _, s := range p.h.Stock {
		if s.Kind == trade.LashShimPart.Code {
			took[s.Size] -= s.Count
		}
	}
	for _, n := range took {
		if n > 0 {
			return true
		}
	}
	return false
}

// asOne plans the heads as if they were one. alike keeps the depths of a role together over all
// heads; otherwise each head has rows of its own.
func asOne(
	ctx context.Context, set []*problem, cuts []length.Length, alike bool,
) (best []solution, ok bool, err error) {
	one := *set[0]
	one.known = nil
	one.cuts, one.valves, one.moving, one.beside, one.spread = cuts, nil, nil, nil, map[string]*length.Length{}
	faced := slices.ContainsFunc(set, func(p *problem) bool { return p.face.For != "" })
	for i, p := range set {
		for _, v := range p.valves {
			x := *v
			if x.index = len(one.valves); !alike {
				x.row = strconv.Itoa(i) + " " + x.row
			}
			if s := p.spread[v.row]; s != nil && (one.spread[x.row] == nil || *s < *one.spread[x.row]) {
				one.spread[x.row] = s
			}
			one.valves = append(one.valves, &x)
		}
		one.moving = append(one.moving, p.moving...)
		if i > 0 {
			with := *p
			one.beside = append(one.beside, &with)
		}
	}
	for _, p := range append([]*problem{&one}, one.beside...) {
		if faced && p.face.For == "" { // it is faced because another is
			p.face.For = trade.FaceLine.Code
		}
	}
	s, ok, err := one.find(ctx)
	if err != nil || !ok {
		return best, false, err
	}
	for at, i := 0, 0; i < len(set); i++ {
		n := len(set[i].valves)
		best = append(best, solution{s.common, s.ops, s.valves[at : at+n], s.score})
		at += n
	}
	return best, true, nil
}

// commonCuts are the face cuts that all heads may be given. One that needs no cut takes the
// others': a set is faced alike.
func commonCuts(set []*problem) []length.Length {
	every := func(ok func(p *problem) bool) bool {
		return !slices.ContainsFunc(set, func(p *problem) bool { return !ok(p) })
	}
	if set[0].ask.FaceCut != nil {
		return slices.DeleteFunc(slices.Clone(set[0].cuts), func(c length.Length) bool {
			return !every(func(p *problem) bool { return slices.Contains(p.cuts, c) })
		})
	}
	var out []length.Length
	var first length.Length
	most := length.Max
	for _, p := range set {
		first, most = max(first, p.face.Cut), min(most, p.most())
	}
	if every(func(p *problem) bool { return p.face.For == "" }) {
		out = append(out, 0)
		if every(func(p *problem) bool { return !p.worthFacing() }) {
			return out
		}
		for _, p := range set {
			clean, _, _ := p.h.Size(trade.FaceClean, "")
			first = max(first, clean)
		}
	}
	for c := ceil(first, grid); c <= most && every(func(p *problem) bool { return p.thin(c) == "" }) &&
		len(out) < maxCuts; c += grid {
		out = append(out, c)
	}
	return out
}

// most is how much may come off the face.
func (p *problem) most() length.Length {
	if most, _, ok := p.h.Size(trade.FaceMost, ""); ok {
		return most
	}
	return p.face.Cut + reach
}
