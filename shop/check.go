package shop

import (
	"cmp"
	"context"
	"fmt"
	"maps"
	"slices"
	"strings"

	"headwright/core/field"
	"headwright/core/gauge"
	"headwright/core/judge"
	"headwright/core/route"
	"headwright/store"
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
	for _, v := range f.Layout.Valves {
		for _, c := range f.Tray(v.ID) {
			if c.State == "missing" || c.Trust != "" {
				lines = append(lines, GateLine{What: v.ID + " " + c.Part, Why: map[bool]string{true: "missing", false: "new, " + c.Trust}[c.State == "missing"]})
			}
		}
	}
	for _, t := range f.Tools {
		if n := f.suspectWith(t.ID); n > 0 {
			lines = append(lines, GateLine{What: t.Name, Tool: t.ID, Why: plural(n, "reading") + " made before it failed its zero check, with no good check in between: read again, or the lead releases them"})
		}
	}
	slices.SortStableFunc(lines, func(a, b GateLine) int { // what is open comes first
		return map[bool]int{false: 0, true: 1}[a.OK] - map[bool]int{false: 0, true: 1}[b.OK]
	})
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

// worked tells whether an operation that was done changed a feature the sheet has a limit
// for.
func (f *File) worked(x judge.Feature) bool {
	return (x.Limit != nil || x.Finding != 0 && x.Verdict > gauge.Sound) && slices.ContainsFunc(f.Operations, func(o store.Operation) bool {
		k, _ := route.Named(o.Code)
		at := o.At()
		return o.State == "done" && slices.Contains(k.Proves, x.Code) && (len(at) == 0 || x.Position == "" || slices.Contains(at, x.Position))
	})
}

// readAgain tells whether what proves a feature was read after repair, at every place
// where it is read: for a clearance the whole guide or the whole stem, for a face line
// every line of its direction, else the thing itself.
func (f *File) readAgain(x judge.Feature) bool {
	after := f.Standing(AfterRepair)
	maps.Copy(after, f.Standing(Final))
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

// CloseHead passes the final gate. It refuses while anything is open.
func (s *Shop) CloseHead(ctx context.Context, a Actor, writeID, tag, refit string) error {
	if err := a.must("close a head"); err != nil {
		return err
	}
	errs := field.Errors{}
	refit = optional(errs, "refit", refit, 2000)
	if err := errs.Err(); err != nil {
		return err
	}
	return s.onHead(ctx, writeID, tag, func(tx store.DB, file *File) error {
		if file.ClosedAt != nil {
			return ErrStale
		}
		if open := file.Open(); len(open) > 0 {
			return field.Errors{"gate": fmt.Sprintf("%s not proven yet; the first is %s (%s)", plural(len(open), "thing"), open[0].What, open[0].Why)}
		}
		if err := tx.SetHead(file.ID, map[string]any{"closed_at": s.now(), "refit": refit}); err != nil {
			return err
		}
		return s.note(tx, a, file.ID, "closed", "")
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
		return s.note(tx, a, file.ID, "handed over", to)
	})
}
