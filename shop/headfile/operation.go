package headfile

import (
	"slices"
	"strconv"
	"time"

	"yatai/core/schedule"
	"yatai/core/trade"
	"yatai/shop"
	"yatai/store"
)

// Operation finds an operation of the file by its number on the route.
func (f *File) Operation(seq int) (store.Operation, error) {
	for _, o := range f.Operations {
		if o.Seq == seq {
			return o, nil
		}
	}
	return store.Operation{}, shop.ErrNotFound
}

// OperationKey is the field an operation's mistakes belong to.
func OperationKey(seq int) string { return "op/" + strconv.Itoa(seq) }

// Took is how long people were at an operation until now. A stint that was left open over night counts to
// the end of its day's working hours until somebody says when it stopped.
func (f *File) Took(o store.Operation, now time.Time) time.Duration {
	took := time.Duration(0)
	for _, st := range f.Stints {
		if st.OperationID != o.ID {
			continue
		}
		y, m, d := st.StartedAt.Local().Date()
		midnight := time.Date(y, m, d+1, 0, 0, 0, 0, time.Local)
		switch {
		case st.EndedAt != nil:
			took += st.EndedAt.Sub(st.StartedAt)
		case now.Before(midnight):
			took += now.Sub(st.StartedAt)
		default:
			if hours, err := schedule.ParseHours(f.days.Hours); err == nil {
				took += hours.Between(st.StartedAt, midnight)
			}
		}
	}
	return took
}

// Waits is the operation that has to be finished before another may start, nil when nothing stands in its
// way: what comes before it on the route, where they share a position.
// An operation of the whole head shares all of them: it waits for everything before it, and everything
// after it waits for it. New inserts in one cylinder need not wait for the valves of another.
func (f *File) Waits(o store.Operation) *store.Operation {
	at := o.At()
	for i := range f.Operations {
		before := &f.Operations[i]
		if before.Seq >= o.Seq || before.State == "done" || before.State == "skipped" ||
			trade.OperationNamed(before.Code) == nil {
			continue
		}
		there := before.At()
		if len(at) == 0 || len(there) == 0 || slices.ContainsFunc(at,
			func(id string) bool { return slices.Contains(there, id) }) {
			return before
		}
	}
	return nil
}

// Checking is the head's final check, where it is the only operation that is not finished.
func (f *File) Checking() (o store.Operation, left bool) {
	for _, x := range f.Operations {
		switch {
		case x.State == "done" || x.State == "skipped":
		case x.Code == trade.FinalCheck.Code && x.State != "held":
			o, left = x, true
		default:
			return store.Operation{}, false
		}
	}
	return o, left && f.Approved.Unapproved(o).Sentence == ""
}

// FinalFields are what the final check writes down, where passing finishes it.
func (f *File) FinalFields() []trade.Field {
	if o, left := f.Checking(); left && f.Unrecorded(o).Sentence != "" {
		return trade.FinalCheck.Record.Fields
	}
	return nil
}
