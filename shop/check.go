package shop

import (
	"cmp"
	"context"
	"fmt"
	"maps"
	"slices"
	"strings"
	"time"

	"yatai/core/field"
	"yatai/core/gauge"
	"yatai/core/judge"
	"yatai/core/route"
	"yatai/store"
)

// GateLine is something the final check wants proven. Feature is set when the lead may
// sign it as a deviation.
type GateLine struct {
	What    string
	Why     string
	OK      bool
	Feature string
	Tool    uint // set when suspect readings with this tool may be released
	Signed  *store.Signoff
}

// Gate lists what must be proven before the head can be closed: every operation done,
// every repaired feature read again, everything inside its limit or signed by the lead.
func (f *File) Gate() []GateLine {
	var lines []GateLine
	if f.WorkOrderAt == nil {
		lines = append(lines, GateLine{What: "Work order", Why: "no work has been ordered yet"})
	}
	for _, o := range f.Operations {
		k, _ := route.Named(o.Code)
		l := GateLine{What: k.Name, OK: o.State == "done" || o.State == "skipped", Why: o.State}
		if o.State == "skipped" {
			l.Why = "left out: " + o.SkipReason
		}
		lines = append(lines, l)
	}
	for _, x := range f.Now.All() {
		if l, ok := f.gateFeature(x); ok {
			lines = append(lines, l)
		}
	}
	lines = append(lines, f.gateRecords()...)
	lines = append(lines, f.gateApproved()...)
	if f.Job.Regulated != "" && f.Sheet.ConfirmedBy == nil {
		lines = append(lines, GateLine{What: "Limit sheet", Why: "regulated work (" + f.Job.Regulated + "): a second person has to confirm the sheet it was judged by"})
	}
	for _, v := range f.Layout.Valves {
		for _, c := range f.Tray(v.ID) {
			if c.State == "missing" || c.Trust != "" {
				lines = append(lines, GateLine{What: v.ID + " " + c.Part, Why: map[bool]string{true: "missing", false: "new, " + c.Trust}[c.State == "missing"]})
			}
		}
	}
	for _, t := range f.Suspects() {
		lines = append(lines, GateLine{What: t.Name, Tool: t.ID, Why: plural(t.Count, "reading") + " made before it failed its zero check, with no good check in between: read again, or the lead releases them"})
	}
	slices.SortStableFunc(lines, func(a, b GateLine) int { // what is open comes first
		return map[bool]int{false: 0, true: 1}[a.OK] - map[bool]int{false: 0, true: 1}[b.OK]
	})
	return lines
}

// gateRecords wants the records of the tests and checks that were done: tight, every seat
// proven, clean.
func (f *File) gateRecords() []GateLine {
	var lines []GateLine
	for _, o := range f.Operations {
		form, wanted := recordForms[o.Code]
		if !wanted || o.State != "done" || o.Code == "pressure_test" {
			continue
		}
		at := []string{""}
		if form.Each {
			at = o.At()
		}
		k, _ := route.Named(o.Code)
		var lacks, fails []string
		for _, id := range at {
			r, ok := f.Recorded(o.Code, id)
			switch {
			case !ok:
				lacks = append(lacks, id)
			case !r.OK:
				fails = append(fails, strings.TrimSpace(id+" "+RecordSays(r)))
			}
		}
		l := GateLine{What: k.Name + ", recorded", OK: lacks == nil && fails == nil, Why: "all of it passed"}
		if lacks != nil {
			l.Why = strings.TrimSpace("not recorded " + strings.Join(lacks, " "))
		}
		if fails != nil {
			l.Why = "failed: " + strings.Join(fails, "; ")
		}
		lines = append(lines, l)
	}
	return lines
}

// gateApproved wants every line the customer approved to be on the route and done.
func (f *File) gateApproved() []GateLine {
	var lines []GateLine
	for _, q := range f.Approved.Quotes {
		for _, line := range q.Lines {
			if !q.Answers[line.Seq] {
				continue
			}
			on := slices.ContainsFunc(f.Operations, func(o store.Operation) bool {
				all := true
				for _, at := range strings.Fields(line.Positions) {
					all = all && slices.Contains(o.At(), at)
				}
				return o.Code == line.Code && all
			})
			if !on {
				lines = append(lines, GateLine{What: line.Name, Why: "approved on " + q.Kind + " " + fmt.Sprint(q.Version) + ", but not on the route for " + line.Positions})
			}
		}
	}
	return lines
}

// gateFeature says what the gate wants of a feature, if anything.
func (f *File) gateFeature(x judge.Feature) (GateLine, bool) {
	name := strings.TrimSpace(x.Position + " " + x.Label)
	l := GateLine{What: name, Feature: x.Key()}
	d, decided := f.Decision(x.Key())
	repaired := decided && d.Choice != judge.Leave || f.worked(x)
	switch {
	case x.Verdict == gauge.Doubt && decided && d.Choice == judge.Leave && d.Figure == f.figure(x):
		return GateLine{What: name, OK: true, Why: "in doubt, released: " + d.Reason}, true
	case x.Verdict >= gauge.Doubt:
		l.Why = x.Verdict.Label() + ": " + x.Why(f.Unit) + " " + x.Says(f.Unit)
	case x.Verdict == gauge.Unread && x.Limit != nil:
		l.Why = "not read"
	case repaired && !f.readAgain(x):
		l.Why = "worked on, but not read again everywhere since"
	case repaired && f.offTarget(x) != "":
		l.Why = f.offTarget(x)
	case repaired:
		return GateLine{What: name, OK: true, Why: strings.TrimSpace("worked on and read again: " + x.Figure(f.Unit) + " " + x.UnitName(f.Unit))}, true
	default:
		return l, false
	}
	for i := range f.Signoffs {
		if s := &f.Signoffs[i]; s.Feature == x.Key() && s.Figure == f.figure(x) {
			l.Signed, l.OK = s, true
		}
	}
	return l, true
}

// offTarget says how work done here misses the shop's own target, "" when it does not.
func (f *File) offTarget(x judge.Feature) string {
	h, held := x.Against("target")
	if !held || h.Verdict != gauge.Out {
		return ""
	}
	return "inside its limit, but outside the shop's target " + h.Limit.Text(f.Unit) + ": " + x.Figure(f.Unit)
}

// worked tells whether an operation that was done changed a feature the sheet has a limit
// for.
func (f *File) worked(x judge.Feature) bool {
	return (x.Limit != nil || x.Finding != 0 && x.Verdict > gauge.Sound) && !f.changed(x).IsZero()
}

// changed is when the last operation that changed a feature was started; zero when none
// was done.
func (f *File) changed(x judge.Feature) time.Time {
	var last time.Time
	for _, o := range f.Operations {
		k, _ := route.Named(o.Code)
		at := o.At()
		if o.State == "done" && o.StartedAt != nil && slices.Contains(k.Proves, x.Code) && (len(at) == 0 || x.Position == "" || slices.Contains(at, x.Position)) && o.StartedAt.After(last) {
			last = *o.StartedAt
		}
	}
	return last
}

// readAgain tells whether what proves a feature was read since the last work that changed
// it was begun, at every place
// where it is read: for a clearance the whole guide or the whole stem, for a face line
// every line of its direction, else the thing itself.
func (f *File) readAgain(x judge.Feature) bool {
	after := maps.Clone(f.Standing(AfterRepair))
	maps.Copy(after, f.Standing(Final))
	since := f.changed(x)
	maps.DeleteFunc(after, func(_ string, r store.Reading) bool { return r.At.Before(since) })
	for _, code := range judge.Proves(x.Code) {
		if judge.IsFinding(code) {
			if f.lookedAgain(code, x) {
				return true
			}
			continue
		}
		c, _ := f.Characteristic(code)
		proven := true
		for _, spot := range c.Spots(f.Layout) {
			line, _ := f.Layout.Line(spot.Position)
			if spot.Position != x.Position && (x.Position != "" || line.Kind != x.Role) {
				continue
			}
			_, read := after[code+" "+spot.Key()]
			proven = proven && read
		}
		if proven {
			return true
		}
	}
	return false
}

// Asked lists where a characteristic has to be read again because of work that was done:
// positions, or directions of the face's lines. A clearance is asked for by its guide.
func (f *File) Asked(code string) []string {
	var at []string
	for _, x := range f.Now.All() {
		if judge.Proves(x.Code)[0] == code && f.worked(x) && !f.readAgain(x) {
			at = append(at, cmp.Or(x.Position, x.Role, "all corners"))
		}
	}
	return at
}

// Open returns what still stands in the gate's way.
func (f *File) Open() []GateLine {
	var open []GateLine
	for _, l := range f.Gate() {
		if !l.OK {
			open = append(open, l)
		}
	}
	return open
}

// SignDeviation lets a feature pass the gate as it is now, with the lead's reason. It
// holds only for the figures of this moment: another reading asks again.
func (s *Shop) SignDeviation(ctx context.Context, a Actor, writeID, tag, feature, reason string) error {
	if err := a.must("sign a deviation"); err != nil {
		return err
	}
	errs := field.Errors{}
	reason = required(errs, feature, reason, "say why it may pass", 400)
	if err := errs.Err(); err != nil {
		return err
	}
	return s.onHead(ctx, writeID, tag, func(tx store.DB, file *File) error {
		x, ok := file.Now.Feature(feature)
		if !ok {
			return ErrNotFound
		}
		if l, there := file.gateFeature(x); !there || l.OK || file.ClosedAt != nil {
			return field.Errors{feature: "there is nothing to sign here"}
		}
		if err := tx.Add(&store.Signoff{HeadID: file.ID, Feature: feature, Figure: file.figure(x), Reason: reason, PersonID: a.ID, At: s.now()}); err != nil {
			return err
		}
		return s.note(tx, a, file.ID, "deviation signed", feature+": "+reason)
	})
}

// CloseForm is what passing the final check takes. Releaser and Licence are demanded for
// regulated work: the product's limits are a record, the release is the licensed person's.
type CloseForm struct{ WriteID, Refit, Releaser, Licence string }

// CloseHead passes the final gate. It refuses while anything is open.
func (s *Shop) CloseHead(ctx context.Context, a Actor, tag string, c CloseForm) error {
	if err := a.must("close a head"); err != nil {
		return err
	}
	return s.onHead(ctx, c.WriteID, tag, func(tx store.DB, file *File) error {
		errs := field.Errors{}
		c.Refit = optional(errs, "refit", c.Refit, 2000)
		if file.Job.Regulated != "" {
			c.Releaser = required(errs, "releaser", c.Releaser, "this is regulated work: who releases it?", 100)
			c.Licence = required(errs, "licence", c.Licence, "with which licence?", 100)
		}
		if err := errs.Err(); err != nil {
			return err
		}
		if file.ClosedAt != nil {
			return ErrStale
		}
		if open := file.Open(); len(open) > 0 {
			return field.Errors{"gate": fmt.Sprintf("%s not proven yet; the first is %s (%s)", plural(len(open), "thing"), open[0].What, open[0].Why)}
		}
		if err := tx.SetHead(file.ID, map[string]any{"closed_at": s.now(), "refit": c.Refit, "releaser": c.Releaser, "licence": c.Licence}); err != nil {
			return err
		}
		return s.note(tx, a, file.ID, "closed", c.Releaser)
	})
}

// HandOver records who took the head away.
func (s *Shop) HandOver(ctx context.Context, a Actor, writeID, tag, to string) error {
	if err := a.must("hand over a head"); err != nil {
		return err
	}
	errs := field.Errors{}
	to = required(errs, "handed_to", to, "who takes it?", 100)
	if err := errs.Err(); err != nil {
		return err
	}
	return s.onHead(ctx, writeID, tag, func(tx store.DB, file *File) error {
		if file.ClosedAt == nil {
			return field.Errors{"handed_to": "the final check has not passed yet"}
		}
		if file.HandedOverAt != nil {
			return ErrStale
		}
		if err := tx.SetHead(file.ID, map[string]any{"handed_over_at": s.now(), "handed_to": to}); err != nil {
			return err
		}
		values, err := tx.Settings()
		if err != nil {
			return err
		}
		set := Settings{values, tag}
		remind := store.Reminder{HeadID: file.ID, Due: s.now().AddDate(0, 0, set.Int("recheck_days")), What: fmt.Sprintf("lash and leaks after %d hours: %s, %s", set.Int("recheck_hours"), file.Model.Name, file.Job.Customer.Name)}
		if err := tx.Add(&remind); err != nil {
			return err
		}
		return s.note(tx, a, file.ID, "handed over", to)
	})
}
