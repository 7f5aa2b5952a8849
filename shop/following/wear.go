package following

import (
	"cmp"
	"context"
	"math"
	"slices"
	"strconv"
	"time"

	"yatai/core/judge"
	"yatai/core/quantity"
	"yatai/core/wear"
	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

const (
	mostVisits   = 6  // of one head that are looked at
	mostReturned = 16 // heads of its model that came back, and say how fast such heads wear
	mostProposed = 5
)

// Worn is a figure at a position of a head over its visits, as it wears.
type Worn struct {
	judge.Feature         // as it came now
	Visits        []Visit // where it was read, the oldest first; this one is the last
	Rate          *wear.Rate
	Limit         quantity.Amount // that it nears
	Falls         bool            // to it, instead of growing
	HasLimit      bool
	Early         float64 // hours until it is past its limit: one in ten is earlier
}

// Late is until when nine of ten are past their limit, hours.
func (w Worn) Late() float64 {
	if !w.HasLimit {
		return math.Inf(1)
	}
	return w.Rate.Until(float64(w.Limit), w.Falls, 0.9)
}

// When says when it will be past its limit, hours of run named: between what eight of ten cases lie. Nothing
// where it is past it, does not near it, or has none.
func (w Worn) When(run string) words.Text {
	late := w.Late()
	switch {
	case !w.HasLimit || late == 0 || math.IsInf(w.Early, 1):
		return words.Text{}
	}
	return until(w.Early, late, run)
}

// about writes hours as roughly as they are known: two digits.
func about(hours float64) string {
	if hours < 10 {
		return strconv.Itoa(int(math.Round(hours)))
	}
	step := math.Pow(10, math.Floor(math.Log10(hours))-1)
	return strconv.Itoa(int(math.Round(hours/step) * step))
}

// Visit is what a figure came with and left with.
type Visit struct {
	Tag   string
	Hours float64 // run by then; of the visit before, where it is not known
	Came  *judge.Feature
	Left  *judge.Feature // nil while the head is here
}

// Nearing is that of a visit which nears the limit, with its standard uncertainty.
func (w Worn) Nearing(x judge.Feature) wear.Figure {
	if w.Falls {
		return figure(x, x.Low)
	}
	return figure(x, x.High)
}

// Over is the change in so many hours, or of what else is counted.
func (w Worn) Over(hours int) quantity.Amount { return over(hours, w.Rate.Mean()) }

// OverWithin is between what that lies in eight of ten cases.
func (w Worn) OverWithin(hours int) (low, high quantity.Amount) {
	l, h := w.Rate.Within(0.8)
	return over(hours, l), over(hours, h)
}

func over(hours int, rate float64) quantity.Amount {
	return quantity.Amount(math.Round(float64(hours) * rate))
}

// History is what the visits of a head say.
type History struct {
	Visits   []*headfile.File // the oldest first; this one is the last
	Unit     string           // what is counted: h, or what the hours were given in
	Worn     []Worn           // what nears its limit soonest first
	Others   int              // heads of the model that speak too
	Proposed []store.Head     // that may be an earlier visit, where none is linked
}

// Per is how much of what is counted a rate is told for: 1000 hours; of anything else one where few have been
// run, as of races or seasons, else as many as have been run, roughly.
func (h History) Per() int {
	more, unit, ok := h.Visits[len(h.Visits)-1].Job.RanSince(h.Visits[0].Job)
	switch {
	case !ok || unit == "h":
		return 1000
	case more < 100:
		return 1
	case more < 10_000:
		return 1000
	}
	return 10_000
}

// PerDay is how many hours a day the machine runs, between the first visit and the last; 0 where that is
// not known.
func (h History) PerDay() float64 {
	first, last := h.Visits[0], h.Visits[len(h.Visits)-1]
	more, _, ok := last.Job.RanSince(first.Job)
	days := last.CreatedAt.Sub(first.CreatedAt).Hours() / 24
	if !ok || days < 1 {
		return 0
	}
	return more / days
}

// Look is the day by which a head should be looked at, by what is past its limit soonest: the first of
// ten. ok is false where nothing nears a limit within ten years, or nobody knows how many hours a day it
// runs.
func (h History) Look() (day time.Time, w Worn, ok bool) {
	perDay := h.PerDay()
	if perDay == 0 || len(h.Worn) == 0 || h.Worn[0].until()/perDay > longestAhead {
		return day, w, false
	}
	last := h.Visits[len(h.Visits)-1]
	return last.CreatedAt.AddDate(0, 0, int(h.Worn[0].Early/perDay)), h.Worn[0], true
}

// HistoryOf follows a head back through its visits, and says what wears and until when. Other heads of its
// model that came back say how fast such heads wear.
func HistoryOf(ctx context.Context, s *shop.Shop, f *headfile.File) (History, error) {
	db := s.Store.Read(ctx)
	if f.Earlier == "" {
		proposed, err := db.MayBeEarlier(f.Head, mostProposed)
		return History{Visits: []*headfile.File{f}, Proposed: proposed}, err
	}
	others, err := db.Returned(f.ModelID, mostReturned)
	if err != nil {
		return History{}, err
	}
	return historyOf(s, db, f, others)
}

// historyOf is HistoryOf by the others that are given.
func historyOf(s *shop.Shop, db store.DB, f *headfile.File, others []store.Head) (History, error) {
	h := History{Visits: []*headfile.File{f}}
	own := map[string]bool{f.Tag: true}
	for at := f; at.Earlier != "" && !own[at.Earlier] && len(h.Visits) < mostVisits; {
		then, err := headfile.OpenIn(s, db, at.Earlier)
		if err != nil {
			return h, err
		}
		own[then.Tag] = true
		h.Visits, at = slices.Insert(h.Visits, 0, then), then
	}
	h.Unit = countedIn(h.Visits)
	var fleet [][]shop.Worn
	for _, o := range others {
		if own[o.Tag] {
			continue
		}
		worn, err := returned(s, db, o)
		if err != nil {
			return h, err
		}
		if len(worn) > 0 && worn[0].Run == h.Unit { // a rate by hours says nothing of one by races
			fleet = append(fleet, worn)
		}
	}
	h.Others = len(fleet)
	h.weigh(fleet)
	return h, nil
}

// countedIn is what is counted between the last two visits that are counted in one unit; else of the first.
func countedIn(visits []*headfile.File) string {
	for i := len(visits) - 1; i > 0; i-- {
		if _, unit, ok := visits[i].Job.RanSince(visits[i-1].Job); ok {
			return unit
		}
	}
	_, unit, _ := visits[0].Job.Counter()
	return unit
}

// returned is what a head did since its earlier visit.
func returned(s *shop.Shop, db store.DB, h store.Head) ([]shop.Worn, error) {
	visits := h.Earlier + " " + h.Tag
	if known, ok := s.Cache.Worn.Get(visits); ok {
		return known, nil
	}
	came, err := headfile.OpenIn(s, db, h.Tag)
	if err != nil {
		return nil, err
	}
	left, err := headfile.OpenIn(s, db, h.Earlier)
	if err != nil {
		return nil, err
	}
	worn := between(left, came)
	if left.HandedOverAt != nil && came.HandedOverAt != nil { // nothing of them changes any more
		s.Cache.Worn.Add(visits, worn)
	}
	return worn, nil
}

// between is what each figure did from one visit to the next: nothing where the hours between them are not
// known.
func between(left, came *headfile.File) (out []shop.Worn) {
	hours, unit, ok := came.Job.RanSince(left.Job)
	if !ok {
		return nil
	}
	for _, x := range came.Received.All() {
		was, ok := left.Now.Feature(x.Key())
		if !ok || !wears(x) || !wears(was) {
			continue
		}
		out = append(out, shop.Worn{
			Kind: kindOf(came, x), Position: x.Position, Run: unit,
			Low:  wear.Stretch{Hours: hours, Left: figure(was, was.Low), Came: figure(x, x.Low)},
			High: wear.Stretch{Hours: hours, Left: figure(was, was.High), Came: figure(x, x.High)},
		})
	}
	return out
}

// wears tells whether a feature is a figure that was read: what eyes saw has no rate.
func wears(x judge.Feature) bool {
	return len(x.From) > 0 && x.Finding == 0 && len(x.Words) == 0
}

// kindOf names what wears alike: a characteristic of valves of one role.
func kindOf(f *headfile.File, x judge.Feature) string {
	role := x.Role
	if v, ok := f.Layout.Valve(x.Position); ok {
		role = string(v.Role)
	}
	return x.Code + "/" + role
}

// figure is one of a feature's with its standard uncertainty: k = 2, and of two leaves the even spread
// between them.
func figure(x judge.Feature, at quantity.Amount) wear.Figure {
	sd := float64(x.U) / 2
	if x.Bracket {
		sd = math.Hypot(sd, float64(x.High-x.Low)/math.Sqrt(12))
		at = (x.Low + x.High) / 2
	}
	return wear.Figure{At: float64(at), SD: sd}
}

// weigh works out every figure of now that was here before.
func (h *History) weigh(fleet [][]shop.Worn) {
	f := h.Visits[len(h.Visits)-1]
	var stretches [][]shop.Worn // between this head's own visits
	for i := range h.Visits[1:] {
		stretch := between(h.Visits[i], h.Visits[i+1])
		if len(stretch) > 0 && stretch[0].Run != h.Unit {
			stretch = nil
		}
		stretches = append(stretches, stretch)
	}
	pools := map[string]*pool{}
	for _, x := range f.Received.All() {
		if !wears(x) {
			continue
		}
		kind := kindOf(f, x)
		if pools[kind] == nil {
			pools[kind] = pooled(kind, stretches, fleet)
		}
		if w, ok := h.worn(x, pools[kind]); ok {
			h.Worn = append(h.Worn, w)
		}
	}
	slices.SortStableFunc(h.Worn, func(a, b Worn) int { return cmp.Compare(a.until(), b.until()) })
}

// until orders figures: by how soon they may be past their limit, those without one last.
func (w Worn) until() float64 {
	if !w.HasLimit {
		return math.Inf(1)
	}
	return w.Early
}

// pool is what is known of figures of one kind, by their least and by their most.
type pool struct {
	at        map[string]int  // place by position of this head
	latest    map[string]bool // whether its last stretch ends with this visit
	low, high *wear.Rates
}

func pooled(kind string, own, fleet [][]shop.Worn) *pool {
	p := &pool{at: map[string]int{}, latest: map[string]bool{}}
	var low, high []wear.Place
	for n, visit := range own {
		for _, w := range visit {
			if w.Kind != kind {
				continue
			}
			i, known := p.at[w.Position]
			if !known {
				i = len(low)
				p.at[w.Position] = i
				low, high = append(low, nil), append(high, nil)
			}
			low[i], high[i] = append(low[i], w.Low), append(high[i], w.High)
			p.latest[w.Position] = n == len(own)-1
		}
	}
	for _, head := range fleet {
		for _, w := range head {
			if w.Kind == kind {
				low, high = append(low, wear.Place{w.Low}), append(high, wear.Place{w.High})
			}
		}
	}
	p.low, p.high = wear.Pool(low), wear.Pool(high)
	return p
}

// worn is a figure with its visits and its rate; ok is false where it was not read at an earlier one.
func (h *History) worn(x judge.Feature, p *pool) (w Worn, ok bool) {
	i, known := p.at[x.Position]
	if !known {
		return w, false
	}
	low, high := p.low.Of(i), p.high.Of(i)
	if high == nil || low == nil {
		return w, false
	}
	if !p.latest[x.Position] { // it was not read at the last visit
		low, high = low.Now(figure(x, x.Low)), high.Now(figure(x, x.High))
	}
	w = Worn{Feature: x, Rate: high, Early: math.Inf(1)}
	for n, v := range h.Visits {
		at := Visit{Tag: v.Tag}
		if hours, unit, ok := v.Job.Counter(); ok && unit == h.Unit {
			at.Hours = hours
		}
		if n > 0 { // where they are not known, or the counter was changed
			at.Hours = max(at.Hours, w.Visits[n-1].Hours)
		}
		if came, ok := v.Received.Feature(x.Key()); ok && wears(came) {
			at.Came = &came
		}
		if left, ok := v.Now.Feature(x.Key()); ok && wears(left) && n < len(h.Visits)-1 {
			at.Left = &left
		}
		w.Visits = append(w.Visits, at)
	}
	if x.Limit == nil {
		return w, true
	}
	for _, end := range []struct {
		at    *quantity.Amount
		rate  *wear.Rate
		falls bool
	}{{x.Limit.High, high, false}, {x.Limit.Low, low, true}} {
		if end.at == nil {
			continue
		}
		early := end.rate.Until(float64(*end.at), end.falls, 0.1)
		if !w.HasLimit || early < w.Early {
			w.HasLimit, w.Limit, w.Falls, w.Rate = true, *end.at, end.falls, end.rate
			w.Early = early
		}
	}
	return w, true
}
