package week

import (
	"time"

	"yatai/core/schedule"
	"yatai/core/trade"
	"yatai/store"
)

// Minutes are what the shop has learnt of an operation: how often it was done, and what it
// took against what was planned, in working minutes.
type Minutes struct {
	Code            string
	Name            string
	Times           int
	Planned, Actual int
}

// Enough tells whether it was done often enough to plan by.
func (m Minutes) Enough() bool { return m.Times >= 3 }

// reckon is what planned minutes will take by the shop's own experience: between half and
// three times as much.
func (m Minutes) reckon(planned int) int {
	if !m.Enough() || m.Planned == 0 {
		return planned
	}
	return min(3*planned, max(planned/2, (planned*m.Actual+m.Planned/2)/m.Planned))
}

// lastWorked is how many operations back the shop learns from.
const lastWorked = 600

// learn works out the shop's own minutes.
func (q *question) learn(db store.DB, stations []store.WorkStation) error {
	ops, err := db.Worked(lastWorked)
	if err != nil {
		return err
	}
	hours := map[string]schedule.Hours{}
	for _, st := range stations {
		if h, err := schedule.ParseHours(st.Hours); err == nil {
			hours[st.Name] = h
		}
	}
	q.own = map[string]Minutes{}
	for _, o := range ops {
		k := trade.OperationNamed(o.Code)
		if k == nil || o.FinishedAt == nil {
			continue
		}
		if took := worked(hours[k.Station], o); took > 0 {
			m := q.own[o.Code]
			q.own[o.Code] = Minutes{o.Code, k.Name, m.Times + 1, m.Planned + o.Minutes, m.Actual + took}
		}
	}
	return nil
}

// worked is how many minutes an operation took: working time, or what passed on the clock
// when it was done after hours. Not known, 0, when it was only ticked off, in less than a
// tenth of its time, or left open for half a day after hours.
func worked(h schedule.Hours, o store.Operation) int {
	start, end := o.StartedAt.Local(), o.FinishedAt.Local()
	took, clock := h.Between(start, end), end.Sub(start)
	least := time.Duration(o.Minutes) * time.Minute / 10
	switch {
	case took > 0 && took >= least:
		return int(took / time.Minute)
	case took == 0 && clock >= least && clock <= 12*time.Hour:
		return int(clock / time.Minute)
	}
	return 0
}

// learnt lists what the shop has learnt of its operations, in their order on a route.
func (q *question) learnt() []Minutes {
	var out []Minutes
	for _, k := range trade.Operations() {
		if m, ok := q.own[k.Code]; ok {
			out = append(out, m)
		}
	}
	return out
}
