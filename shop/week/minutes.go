package week

import (
	"cmp"
	"context"
	"math"
	"slices"
	"time"

	"yatai/core/quantity"
	"yatai/core/schedule"
	"yatai/core/trade"
	"yatai/shop"
	"yatai/store"
)

// Learnt is what the shop has learnt of an operation: how often it was done, what it took
// against what was planned, in working minutes, and how far it spreads.
type Learnt struct {
	Code            string
	Name            string
	Times           int
	Planned, Actual quantity.Minutes
	Spread          float64 // standard deviation of the logarithm of actual against planned

	logs []float64
}

// add counts an operation in.
func (m *Learnt) add(t timed) {
	m.Times, m.Planned, m.Actual = m.Times+1, m.Planned+t.Minutes, m.Actual+t.took
}

// enough is how often an operation must have been done to plan by what it took.
const enough = 3

// Enough tells whether it was done often enough to plan by.
func (m Learnt) Enough() bool { return m.Times >= enough }

// reckon is what planned minutes will take by the shop's own experience: between half and
// three times as much.
func (m Learnt) reckon(planned quantity.Minutes) quantity.Minutes {
	if !m.Enough() || m.Planned == 0 {
		return planned
	}
	return min(3*planned, max(planned/2, (planned*m.Actual+m.Planned/2)/m.Planned))
}

// usualSpread is how far the minutes of an operation spread that the shop has too little of its own of.
const usualSpread = 0.3

// lastWorked is how many operations back the shop learns from.
const lastWorked = 600

// timed is an operation that was done, with what it took in working minutes.
type timed struct {
	store.Operation
	of     *trade.Operation
	took   quantity.Minutes
	people []uint // who was at it
}

// timedWork lists the operations that were done last and whose minutes are known.
func timedWork(cache *shop.Cache, db store.DB, stations []store.WorkStation) ([]timed, error) {
	ops, stints, err := cache.LastWorked(db, lastWorked)
	if err != nil {
		return nil, err
	}
	hours := map[string]schedule.Hours{}
	for _, st := range stations {
		if h, err := schedule.ParseHours(st.Hours); err == nil {
			hours[st.Name] = h
		}
	}
	var out []timed
	for _, o := range ops {
		k := trade.OperationNamed(o.Code)
		if k == nil || o.FinishedAt == nil {
			continue
		}
		t := timed{o, k, worked(hours[k.Station], o, stints[o.ID]), nil}
		for _, st := range stints[o.ID] {
			if !slices.Contains(t.people, st.PersonID) {
				t.people = append(t.people, st.PersonID)
			}
		}
		if t.took > 0 {
			out = append(out, t)
		}
	}
	return out, nil
}

// today tells whether it was planned by the figures of today, setting asking for them: what was planned
// otherwise says nothing of what they take.
func (t timed) today(setting func(name string) string) bool {
	return t.Minutes == t.of.LabourBy(setting).Minutes(len(t.At()))
}

// learn works out the shop's own minutes, of what was planned by the figures of today: it begins anew where
// they are changed.
func (q *question) learn(cache *shop.Cache, db store.DB, stations []store.WorkStation) error {
	all, err := timedWork(cache, db, stations)
	if err != nil {
		return err
	}
	q.own = map[string]Learnt{}
	for _, t := range all {
		if !t.today(q.set.Get) {
			continue
		}
		m := q.own[t.Code]
		m.Code, m.Name = t.Code, t.of.Name
		m.add(t)
		if t.Minutes > 0 {
			m.logs = append(m.logs, math.Log(float64(t.took)/float64(t.Minutes)))
		}
		q.own[t.Code] = m
	}
	q.pool()
	return nil
}

// Hand is what an operation took in the hands of one person, alone at it.
type Hand struct {
	Learnt
	PersonID uint
	Heads    []uint // it was done on, the newest first, each once
	Today    Learnt // of what was planned by the figures of today alone
}

// Hands are what the operations done last took, by operation in the order of a route, and person. What
// several people were at is nobody's alone and left out.
func Hands(ctx context.Context, s *shop.Shop) ([]Hand, error) {
	db := s.Store.Read(ctx)
	stations, err := db.WorkStations()
	if err != nil {
		return nil, err
	}
	all, err := timedWork(s.Cache, db, stations)
	if err != nil {
		return nil, err
	}
	set, err := s.Settings(ctx, "")
	if err != nil {
		return nil, err
	}
	var out []Hand
	for _, t := range all {
		if len(t.people) != 1 {
			continue
		}
		i := slices.IndexFunc(out, func(h Hand) bool { return h.Code == t.Code && h.PersonID == t.people[0] })
		if i < 0 {
			i = len(out)
			out = append(out, Hand{Learnt: Learnt{Code: t.Code, Name: t.of.Name}, PersonID: t.people[0]})
		}
		h := &out[i]
		h.add(t)
		if t.today(set.Get) {
			h.Today.add(t)
		}
		if !slices.Contains(h.Heads, t.HeadID) {
			h.Heads = append(h.Heads, t.HeadID)
		}
	}
	order := map[string]int{}
	for i, k := range trade.Operations() {
		order[k.Code] = i
	}
	slices.SortStableFunc(out, func(a, b Hand) int {
		return cmp.Or(cmp.Compare(order[a.Code], order[b.Code]), cmp.Compare(b.Times, a.Times))
	})
	return out, nil
}

// pool works out how far minutes spread: an operation's own where it was done often enough,
// drawn towards that of all operations together the more, the fewer there are.
func (q *question) pool() {
	var all []float64
	for _, m := range q.own {
		mean := meanOf(m.logs)
		for _, l := range m.logs {
			all = append(all, l-mean)
		}
	}
	slices.Sort(all) // the sum does not hang on a map's order
	shop := usualSpread
	if len(all) >= 2*enough {
		shop = deviation(all)
	}
	for code, m := range q.own {
		n := float64(len(m.logs))
		own := shop
		if m.Enough() && len(m.logs) > 1 {
			own = deviation(m.logs)
		}
		m.Spread = math.Sqrt((n*own*own + weightOfAll*shop*shop) / (n + weightOfAll))
		q.own[code] = m
	}
	q.spread = shop
}

// weightOfAll is how many times of its own an operation needs to count as much as all others together.
const weightOfAll = 5

func meanOf(xs []float64) float64 {
	sum := 0.0
	for _, x := range xs {
		sum += x
	}
	return sum / math.Max(1, float64(len(xs)))
}

// deviation is the standard deviation of some figures, bounded: an operation ticked off late now
// and then is no reason to plan with any time at all.
func deviation(xs []float64) float64 {
	mean, sum := meanOf(xs), 0.0
	for _, x := range xs {
		sum += (x - mean) * (x - mean)
	}
	return min(0.8, math.Sqrt(sum/math.Max(1, float64(len(xs)-1))))
}

// worked is how many minutes an operation took: the working time of all who were at it, or what
// passed on the clock when it was done after hours. Not known, 0, when it was only ticked off,
// in less than a tenth of its time, or left open for half a day after hours.
func worked(h schedule.Hours, o store.Operation, stints []store.Stint) quantity.Minutes {
	if len(stints) == 0 {
		stints = []store.Stint{{StartedAt: *o.StartedAt, EndedAt: o.FinishedAt}}
	}
	var took, clock time.Duration
	for _, st := range stints {
		end := o.FinishedAt
		if st.EndedAt != nil {
			end = st.EndedAt
		}
		took += h.Between(st.StartedAt.Local(), end.Local())
		clock += end.Sub(st.StartedAt)
	}
	least := o.Minutes.Duration() / 10
	switch {
	case took > 0 && took >= least:
		return quantity.Minutes(took / time.Minute)
	case took == 0 && clock >= least && clock <= 12*time.Hour:
		return quantity.Minutes(clock / time.Minute)
	}
	return 0
}

// learnt lists what the shop has learnt of its operations, in their order on a route.
func (q *question) learnt() []Learnt {
	var out []Learnt
	for _, k := range trade.Operations() {
		if m, ok := q.own[k.Code]; ok {
			out = append(out, m)
		}
	}
	return out
}
