package headfile

import (
	"strings"

	"yatai/core/judge"
	"yatai/core/length"
	"yatai/core/trade"
	"yatai/core/words"
	"yatai/store"
)

// Told is what a report tells of a head, on the page and on paper alike: what was read, what became of what
// was decided, what was done, and what was not.
type Told struct {
	Rows       []ToldRow
	Work       []ToldWork
	Declined   []string // what the customer said no to, with its reason
	Deviations []store.Signoff
	Tightening []string // how what is pulled down at refit is
	Refit      string
	Closing    string
}

// ToldRow is one feature as received against final, and what became of the decision about it.
type ToldRow struct {
	Received, Now judge.Feature
	Decision      string
}

// ToldWork is an operation with what became of it, in the order of the route.
type ToldWork struct {
	Name  string
	At    words.Text
	State string
}

// Told puts together what a report tells.
func (f *File) Told() Told {
	t := Told{Deviations: f.Signoffs, Refit: f.Refit, Closing: f.Closing()}
	for _, x := range f.Subject.Sheet.Tightening {
		if trade.FastenerNamed(x.Of).Refit {
			t.Tightening = append(t.Tightening, x.Text(f.In().Name == length.In.Name))
		}
	}
	for _, x := range f.Received.All() {
		now, _ := f.Now.Feature(x.Key())
		row := ToldRow{Received: x, Now: now}
		if d, ok := f.Decision(x.Key()); ok {
			row.Decision = f.DoneText(d)
		}
		t.Rows = append(t.Rows, row)
	}
	for _, o := range f.Operations {
		t.Work = append(t.Work, ToldWork{OperationName(o.Code), AllOf(f.Layout, o.Positions), f.Became(o)})
	}
	for _, q := range f.Approved.Quotes {
		for _, l := range q.Lines {
			if q.Approval != nil && !q.Answers[l.Seq] {
				t.Declined = append(
					t.Declined,
					strings.TrimSpace(l.Name+" "+AllOf(f.Layout, l.Positions).String())+" ("+l.Reason+")",
				)
			}
		}
	}
	return t
}

// Became is what became of an operation: a test that failed stays one, whatever was done after it.
func (f *File) Became(o store.Operation) string {
	switch {
	case o.State == "skipped":
		return "left out: " + o.SkipReason
	case f.HasFailed(o):
		return "done, failed"
	case o.State == "done":
		return "done"
	}
	return "not done"
}
