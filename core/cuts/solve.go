package cuts

import (
	"cmp"
	"math"
	"slices"

	"yatai/core/field"
	"yatai/core/length"
)

// Done is what is planned for one valve, and the valve afterwards.
type Done struct {
	ID           string        `json:"id"`
	Seat         string        `json:"seat"` // keep, cut or insert
	SeatCut      length.Length `json:"seat_cut_nm"`
	Valve        string        `json:"valve"` // keep, grind or new
	TipGrind     length.Length `json:"tip_grind_nm"`
	SpringShim   length.Length `json:"spring_shim_nm"`
	Recession    length.Length `json:"recession_nm"`
	StemHeight   length.Length `json:"stem_height_nm"`
	SpringHeight length.Length `json:"spring_height_nm"`
	Margin       length.Length `json:"margin_nm"`
}

// Output is the optimum, or what stands in the way of any plan.
type Output struct {
	Feasible   bool          `json:"feasible"`
	Cost       int64         `json:"cost"`
	FaceCut    length.Length `json:"face_cut_nm"`
	Metal      length.Length `json:"metal_nm"`
	Valves     []Done        `json:"valves"`
	BlockedIDs []string      `json:"blocked_ids"`
	Blocked    []Blocked     `json:"blocked"`
	Thickness  bool          `json:"thickness"`
}

// score orders plans at one face cut: cost in cents, then metal.
type score struct {
	cost  int64
	metal length.Length
}

var never = score{cost: math.MaxInt64}

func (s score) less(o score) bool {
	return s.cost < o.cost || s.cost == o.cost && s.metal < o.metal
}

// option is one way to treat a valve, its seat cut still open: s may be any multiple
// of the grid from sMin to sMax. Everything is kept before facing, in "u", the final
// recession plus the face cut, so that one table serves every face cut.
type option struct {
	seat, valve string
	shim        length.Length
	grind       length.Length // f
	base        length.Length // u at s = 0
	sMin, sMax  length.Length // allowed by seat, spring and stem, on the grid
	sFree       length.Length // largest s that needs no tip grind
	cost        int64         // without tip
	tipCost     int64
	metalS      bool // s counts as metal (a cut, not an insert)
}

// at returns the seat cut for an option whose u must lie in [lo, hi], and its score.
// The shallowest cut is best: it needs least tip grind, and so least cost and metal.
func (o *option) at(lo, hi, g length.Length) (length.Length, score, bool) {
	s := max(o.sMin, ceil(lo-o.base, g))
	if s > o.sMax || o.base+s > hi {
		return 0, never, false
	}
	sc := score{cost: o.cost}
	if s > o.sFree {
		sc.cost += o.tipCost
		sc.metal += s - o.sFree
	}
	if o.metalS {
		sc.metal += s
	}
	return s, sc, true
}

// solver holds the options of each valve, by role.
type solver struct {
	in      *Input
	options [][]option // by valve
}

// Solve returns the plan of least cost, among those the one of least face cut, among
// those the one of least metal (seat cuts and tip grinds together). Actions per valve:
// seat keep, cut or insert; valve keep, grind or new; a tip grind; at most one spring
// shim. Every final recession, stem height, spring height and margin is inside its
// role's limits, the thickness left is enough and the spread holds. If nothing fits,
// BlockedIDs and Blocked say why. It returns a *field.Error for input that is not a
// question.
//
// For a given face cut and a window of final recessions the valves are independent,
// and each choice is an intersection of intervals. Windows as wide as the spread are
// tried where one can begin: at a recession some valve can reach, or at an end of the
// limits.
func Solve(in Input) (Output, error) {
	if err := in.check(); err != nil {
		return Output{}, err
	}
	s := &solver{in: &in}
	for i := range in.Valves {
		s.options = append(s.options, s.valveOptions(&in.Valves[i], limitsOf(&in, &in.Valves[i])))
	}
	cuts := s.faceCuts()
	if len(cuts) == 0 {
		return Output{Thickness: true, BlockedIDs: []string{}, Valves: []Done{}, Blocked: []Blocked{{
			Limit: "thickness", Why: "the least cut that cleans the face leaves less than the least thickness " +
				in.Face.ThicknessMin.String(),
		}}}, nil
	}
	tables := map[string]*table{}
	for _, role := range []string{"intake", "exhaust"} {
		t, err := s.tableFor(role, cuts)
		if err != nil {
			return Output{}, err
		}
		tables[role] = t
	}
	best, bestCut, found := never, length.Length(0), false
	starts := map[string]length.Length{}
	for _, c := range cuts {
		total, at := score{}, map[string]length.Length{}
		for role, t := range tables {
			sc, start := t.best(c)
			if sc == never {
				total = never
				break
			}
			total.cost += sc.cost
			total.metal += sc.metal
			at[role] = start
		}
		if total == never {
			continue
		}
		if c > 0 {
			total.cost += in.Costs.Face
		}
		if !found || total.cost < best.cost {
			best, bestCut, starts, found = total, c, at, true
		}
	}
	if !found {
		return s.blocked(cuts), nil
	}
	out := Output{
		Feasible: true, Cost: best.cost, FaceCut: bestCut, Metal: best.metal, BlockedIDs: []string{},
		Blocked: []Blocked{},
	}
	for i := range in.Valves {
		lo, hi := tables[in.Valves[i].Role].window(starts[in.Valves[i].Role], bestCut)
		out.Valves = append(out.Valves, s.done(i, lo, hi, bestCut))
	}
	return out, nil
}

// faceCuts returns the cuts of the grid that leave enough thickness, smallest first.
func (s *solver) faceCuts() []length.Length {
	var cuts []length.Length
	f := s.in.Face
	for c := ceil(f.CutMin, s.in.Grid); c <= f.CutMax && f.Thickness-c >= f.ThicknessMin; c += s.in.Grid {
		cuts = append(cuts, c)
	}
	return cuts
}

// limits are the limits one valve is held against.
type limits struct {
	recession, stem, spring Range
	margin                  length.Length
}

func limitsOf(in *Input, v *Position) limits {
	r := in.Roles.of(v.Role)
	stem := r.StemHeight
	if v.Stem != nil {
		stem = Range{max(stem.Low, v.Stem.Low), min(stem.High, v.Stem.High)}
	}
	return limits{r.Recession, stem, r.SpringHeight, r.MarginMin}
}

// valveWay is what may be done with a valve: left, ground or renewed.
type valveWay struct {
	name          string
	grind, margin length.Length
	// what a new margin takes off recession; what it adds to stem and spring height
	sunk, tip, groove length.Length
	cost              int64
}

// valveWays are those that a position allows.
func (s *solver) valveWays(v *Position) (valves []valveWay) {
	in, role := s.in, s.in.Roles.of(v.Role)
	if v.Valve.AsIs {
		valves = append(valves, valveWay{name: "keep", margin: v.Margin})
	}
	if f := v.Valve.Grind; f != nil {
		valves = append(
			valves, valveWay{name: "grind", grind: *f, margin: v.Margin - *f, cost: in.Costs.ValveGrind},
		)
	}
	if nv := role.NewValve; v.Valve.Replace && nv != nil {
		cost := in.Costs.NewValve.Intake
		if v.Role == "exhaust" {
			cost = in.Costs.NewValve.Exhaust
		}
		m := nv.Margin - v.Margin
		valves = append(valves, valveWay{"new", 0, nv.Margin, m, nv.LengthChange - m, nv.GrooveChange - m, cost})
	}
	return valves
}

// seatWay is what may be done with a seat, and between which depths.
type seatWay struct {
	name     string
	from, to length.Length
	cost     int64
}

// seatWays are those that a position allows.
func (s *solver) seatWays(v *Position) (seats []seatWay) {
	in := s.in
	if v.Seat.AsIs {
		seats = append(seats, seatWay{name: "keep"})
	}
	if v.Seat.CutMin != nil {
		seats = append(seats, seatWay{"cut", *v.Seat.CutMin, *v.Seat.CutMax, in.Costs.SeatCut})
	}
	if v.Seat.Insert {
		seats = append(seats, seatWay{"insert", -in.Insert.Up, in.Insert.Down, in.Costs.Insert})
	}
	return seats
}

// valveOptions lists what can be done to v inside every limit but recession's.
func (s *solver) valveOptions(v *Position, lim limits) []option {
	in := s.in
	g := in.Grid
	tipMax := floor(in.TipGrindMax, g)
	var options []option
	for _, vw := range s.valveWays(v) {
		if vw.margin < lim.margin {
			continue
		}
		for _, sw := range s.seatWays(v) {
			for i := -1; i < len(in.SpringShims); i++ {
				o := option{
					seat:    sw.name,
					valve:   vw.name,
					grind:   vw.grind,
					metalS:  sw.name == "cut",
					cost:    vw.cost + sw.cost,
					tipCost: in.Costs.TipGrind,
					base:    v.Recession + vw.grind - vw.sunk,
					sMin:    ceil(sw.from, g),
					sMax:    floor(sw.to, g),
				}
				if i >= 0 {
					o.shim, o.cost = in.SpringShims[i], o.cost+in.Costs.SpringShim
				}
				spring := v.SpringHeight + vw.grind + vw.groove - o.shim
				o.sMin = max(o.sMin, ceil(lim.spring.Low-spring, g))
				o.sMax = min(o.sMax, floor(lim.spring.High-spring, g))
				// The stem rises by d = s - t, which must lie in [dMin, dMax] on the grid.
				stem := v.StemHeight + vw.grind + vw.tip
				dMin, dMax := ceil(lim.stem.Low-stem, g), floor(lim.stem.High-stem, g)
				o.sMin, o.sMax, o.sFree = max(o.sMin, dMin), min(o.sMax, dMax+tipMax), dMax
				if dMin <= dMax && o.sMin <= o.sMax {
					options = append(options, o)
				}
			}
		}
	}
	return options
}

// best returns the best option of a valve for u in [lo, hi], its seat cut and score.
func (s *solver) best(valve int, lo, hi length.Length) (*option, length.Length, score) {
	var bestO *option
	var bestS length.Length
	bestScore := never
	for i := range s.options[valve] {
		o := &s.options[valve][i]
		if o.cost > bestScore.cost {
			continue
		}
		if cut, sc, ok := o.at(lo, hi, s.in.Grid); ok && sc.less(bestScore) {
			bestO, bestS, bestScore = o, cut, sc
		}
	}
	return bestO, bestS, bestScore
}

// done writes down the best treatment of a valve for u in [lo, hi]. An insert can be
// set anywhere at no cost: it is set as near the middle of the window as the tip allows.
func (s *solver) done(valve int, lo, hi, cut length.Length) Done {
	v, g := &s.in.Valves[valve], s.in.Grid
	o, seatCut, _ := s.best(valve, lo, hi)
	if o.seat == "insert" {
		middle := floor((lo+hi)/2-o.base, g)
		seatCut = max(seatCut, min(middle, o.sMax, max(seatCut, o.sFree), floor(hi-o.base, g)))
	}
	tip := max(0, seatCut-o.sFree)
	d := Done{
		ID:           v.ID,
		Seat:         o.seat,
		SeatCut:      seatCut,
		Valve:        o.valve,
		TipGrind:     tip,
		SpringShim:   o.shim,
		Recession:    o.base + seatCut - cut,
		Margin:       v.Margin - o.grind,
		StemHeight:   v.StemHeight + seatCut + o.grind - tip,
		SpringHeight: v.SpringHeight + seatCut + o.grind - o.shim,
	}
	if nv := s.in.Roles.of(v.Role).NewValve; o.valve == "new" {
		m := nv.Margin - v.Margin
		d.Margin, d.StemHeight, d.SpringHeight = nv.Margin, d.StemHeight-m+
			nv.LengthChange, d.SpringHeight-m+nv.GrooveChange
	}
	return d
}

// table holds, for one role, the best score of all its valves together for windows of
// u by where they start. Without a spread the window is the limits themselves.
type table struct {
	s      *solver
	valves []int
	limit  Range
	spread length.Length
	whole  bool // no spread, or one as wide as the limits
	starts []length.Length
	scores []score
}

// maxWork bounds how often an option is looked at: about a second's work.
const maxWork = 60_000_000

// tooMuch refuses a question whose windows times options are more than maxWork.
func tooMuch(windows, options int) error {
	if windows*max(1, options) > maxWork {
		return field.Errorf("grid", "too fine for a head of this many valves, cuts and shims: take a coarser grid")
	}
	return nil
}

// tableFor makes the table of a role.
func (s *solver) tableFor(role string, cuts []length.Length) (*table, error) {
	t := &table{s: s, whole: true}
	options := 0
	for i := range s.in.Valves {
		if s.in.Valves[i].Role == role {
			t.valves = append(t.valves, i)
			options += len(s.options[i])
		}
	}
	if err := tooMuch(len(cuts), options); err != nil || len(t.valves) == 0 {
		return t, err
	}
	t.limit = s.in.Roles.of(role).Recession
	if s.in.Spread == nil || *s.in.Spread >= t.limit.High-t.limit.Low {
		return t, nil
	}
	t.whole, t.spread = false, *s.in.Spread
	first, last := t.limit.Low+cuts[0], t.limit.High+cuts[len(cuts)-1]
	for _, c := range cuts {
		t.starts = append(t.starts, t.limit.Low+c, t.limit.High+c-t.spread)
	}
	for _, i := range t.valves {
		reach := map[length.Length][2]length.Length{} // base -> range of s over the options
		for _, o := range s.options[i] {
			r, ok := reach[o.base]
			if !ok {
				r = [2]length.Length{o.sMin, o.sMax}
			}
			reach[o.base] = [2]length.Length{min(r[0], o.sMin), max(r[1], o.sMax)}
		}
		for base, r := range reach {
			for cut := max(r[0], ceil(first-base, s.in.Grid)); cut <= r[1] && base+cut <= last; cut += s.in.Grid {
				t.starts = append(t.starts, base+cut)
			}
			if err := tooMuch(len(t.starts), 1); err != nil {
				return t, err
			}
		}
	}
	slices.Sort(t.starts)
	t.starts = slices.Compact(t.starts)
	if err := tooMuch(len(t.starts), options); err != nil {
		return t, err
	}
	for _, w := range t.starts {
		t.scores = append(t.scores, t.sum(w, w+t.spread))
	}
	return t, nil
}

// sum adds up the best scores of the role's valves for u in [lo, hi].
func (t *table) sum(lo, hi length.Length) score {
	var total score
	for _, i := range t.valves {
		_, _, sc := t.s.best(i, lo, hi)
		if sc == never {
			return never
		}
		total.cost, total.metal = total.cost+sc.cost, total.metal+sc.metal
	}
	return total
}

// window returns the u allowed for a window that starts at start with face cut c.
func (t *table) window(start, c length.Length) (lo, hi length.Length) {
	if t.whole {
		return t.limit.Low + c, t.limit.High + c
	}
	return start, start + t.spread
}

// best returns the best score with face cut c, and where its window starts.
func (t *table) best(c length.Length) (score, length.Length) {
	if len(t.valves) == 0 {
		return score{}, 0
	}
	lo, hi := t.limit.Low+c, t.limit.High+c
	if t.whole {
		return t.sum(lo, hi), lo
	}
	i, _ := slices.BinarySearch(t.starts, lo)
	best, start := never, length.Length(0)
	for ; i < len(t.starts) && t.starts[i] <= hi-t.spread; i++ {
		if t.scores[i].less(best) {
			best, start = t.scores[i], t.starts[i]
		}
	}
	return best, start
}

// byID orders blocked valves.
func byID(a, b Blocked) int { return cmp.Compare(a.ID, b.ID) }
