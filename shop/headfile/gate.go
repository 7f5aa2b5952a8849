package headfile

import (
	"fmt"
	"net/url"
	"slices"
	"strings"

	"yatai/core/gate"
	"yatai/core/trade"
	"yatai/store"
)

// GateLine is something the final check wants proven. Feature is set when the lead may sign
// it as a deviation, Tool when suspect readings with it may be released.
type GateLine struct {
	Key, What, Why string
	OK             bool
	Feature        string
	Tool           uint
	Signed         *store.Signoff
}

// Gate lists what must be proven before the head can be closed: the core's gate over all the
// file knows, what only the shop knows besides.
func (f *File) Gate() []GateLine {
	var lines []GateLine
	if f.WorkOrderAt == nil && !f.Subject.Inspection() {
		lines = append(lines, GateLine{Key: "order", What: "Work order", Why: "no work has been ordered yet"})
	}
	if f.Job.Regulated != "" && f.Sheet.ConfirmedBy == nil {
		lines = append(lines, GateLine{
			Key: "sheet", What: "Limit sheet",
			Why: "regulated work (" + f.Job.Regulated + "): a second person has to confirm the sheet it was judged by",
		})
	}
	for _, l := range gate.Judged(f.Subject, f.Now).Lines {
		if l.Key == "release" { // who releases it, and with which licence, is asked for when it is closed
			continue
		}
		x := GateLine{Key: l.Key, What: l.What, Why: l.Why, OK: l.OK, Feature: l.Feature}
		if l.Tool != "" {
			for _, t := range f.Tools {
				if t.Name == l.Tool {
					x.Tool = t.ID
				}
			}
		}
		if l.Signed != nil {
			for i := range f.Signoffs {
				if s := &f.Signoffs[i]; s.Feature == l.Feature && s.Figure == l.Signed.Figure {
					x.Signed = s
				}
			}
		}
		lines = append(lines, x)
	}
	slices.SortStableFunc(lines, func(a, b GateLine) int { // what is open comes first
		switch {
		case a.OK == b.OK:
			return 0
		case b.OK:
			return -1
		}
		return 1
	})
	return lines
}

// Asked lists where a characteristic has to be read again because of work that was done:
// positions, lines or corners.
func (f *File) Asked(code string) []string {
	c, ok := f.Characteristic(code)
	if !ok {
		return nil
	}
	var at []string
	for _, id := range c.Positions(f.Layout) {
		if f.Subject.Voider(code, id) != nil && !f.Subject.Proven(&c, id) {
			at = append(at, id)
		}
	}
	return at
}

// Open returns what still stands in the gate's way.
func (f *File) Open() []GateLine {
	return slices.DeleteFunc(f.Gate(), func(l GateLine) bool { return l.OK })
}

// ProvenLines are those of some lines that are proven.
func (f *File) ProvenLines(lines []GateLine) []GateLine {
	return slices.DeleteFunc(slices.Clone(lines), func(l GateLine) bool { return !l.OK })
}

// SettledAt is the page on which an open line is settled: the sweep that reads it, the sheet of the
// operation that is not done, the part that has to be looked at.
func (f *File) SettledAt(l GateLine) string {
	head := "/heads/" + url.PathEscape(f.Tag)
	kind, of, _ := strings.Cut(l.Key, ":")
	code, at, _ := strings.Cut(of, "@")
	switch kind {
	case "order":
		return head + "/judge"
	case "sheet":
		return fmt.Sprintf("/reference/models/%d", f.ModelID)
	case "suspect":
		return head + "/measure"
	case "part":
		if l.Why != "missing" { // a new one is not to size, or was not measured
			return head + "/newparts"
		}
		return head + "/tray"
	case "operation", "record", "left":
		for _, o := range f.Operations {
			if o.Code == code && (o.State != "done" && o.State != "skipped" ||
				kind == "record" && (at == "" || slices.Contains(o.At(), at))) {
				return fmt.Sprintf("%s/work/%d", head, o.Seq)
			}
		}
	case "read", "sign":
		if strings.HasPrefix(code, trade.MarkCode) {
			return head + "/map"
		}
		if _, ok := trade.PartNamed(code); ok {
			return head + "/findings/" + code
		}
		code, _, _ = strings.Cut(code, "/") // the role or kind of line of one that has no position
		if c, ok := f.Characteristic(code); ok {
			for _, of := range c.Proves() {
				if !of.Derived() {
					return head + "/sweep/" + of.Code
				}
			}
			return head + "/measure"
		}
	}
	return head + "/work"
}
