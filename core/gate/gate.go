// Package gate is the final check: what must be proven before a head may leave, and what is
// still open. Head is its door. It is a walk over the tables of the trade, not a list of
// cases: what work has moved is read again, every test is recorded and passes, every part is
// there and to size, every finding is answered or signed.
package gate

import (
	"fmt"
	"slices"
	"strings"
	"unicode"

	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/judge"
	"yatai/core/length"
	"yatai/core/newpart"
	"yatai/core/route"
	"yatai/core/trade"
	"yatai/core/words"
)

// Line is something the final check wants proven. Key names it: read:guide.bore@1E1,
// record:seal_test@2I1, operation:assemble, sign:guide.clearance@1E1, part:valve@1E1,
// suspect:TOOL, approve:CODE or release.
type Line struct {
	Key  string `json:"key"`
	What string `json:"what"`
	Why  string `json:"why"`

	OK      bool          `json:"-"`
	Feature string        `json:"-"` // set when the lead may sign it as a deviation
	Tool    string        `json:"-"` // of suspect readings
	Signed  *head.Signoff `json:"-"`
}

// Gate is all that is wanted, what is open first.
type Gate struct {
	Lines []Line
}

// Ready tells whether nothing is open.
func (g Gate) Ready() bool { return !slices.ContainsFunc(g.Lines, func(l Line) bool { return !l.OK }) }

// Open lists what is open.
func (g Gate) Open() []Line {
	return slices.DeleteFunc(slices.Clone(g.Lines), func(l Line) bool { return l.OK })
}

// Head checks a head by what stands.
func Head(h *head.Head) Gate { return Judged(h, judge.Head(h)) }

// Judged checks a head that was judged by what stands.
func Judged(h *head.Head, j judge.Judgement) Gate {
	g := &walk{h: h, j: j, seen: map[string]bool{}}
	g.operations()
	g.moved()
	g.records()
	g.features()
	g.parts()
	g.rest()
	slices.SortStableFunc(g.lines, func(a, b Line) int {
		switch {
		case a.OK == b.OK:
			return 0
		case b.OK:
			return -1
		}
		return 1
	})
	return Gate{g.lines}
}

// Figure is what a feature says at a moment: a signature holds only for the figures of its
// own.
func Figure(f judge.Feature, u length.Unit) string { return f.Verdict.Label() + ". " + f.Why(u) }

// walk collects the lines.
type walk struct {
	h     *head.Head
	j     judge.Judgement
	lines []Line
	seen  map[string]bool
}

// want adds a line once.
func (g *walk) want(l Line) {
	if !g.seen[l.Key] {
		g.seen[l.Key] = true
		g.lines = append(g.lines, l)
	}
}

// wanted is the route a head must have gone: from what was decided, what is always renewed and
// what every such head gets.
func (g *walk) wanted() []route.Operation {
	ds := route.Renewals(g.h)
	for _, d := range g.h.Decisions {
		if d.Choice == trade.Leave || d.Choice == trade.Planned {
			continue
		}
		_, at, _ := strings.Cut(d.Finding, "@")
		ds = append(ds, route.Decision{Code: d.Choice, Position: at})
	}
	return route.Derive(g.h, ds)
}

// operations wants everything on the route done, or left out with a reason, and everything the
// decisions ask for to be on it.
func (g *walk) operations() {
	for _, o := range g.h.Operations {
		k := trade.OperationNamed(o.Code)
		if k == nil {
			continue
		}
		l := Line{Key: "operation:" + o.Code, What: k.Name, OK: o.State == head.Done ||
			o.State == head.Skipped, Why: o.State}
		if o.State == head.Skipped {
			l = g.leftOut(o, k)
		}
		if !l.OK || !g.seen[l.Key] {
			g.lines = slices.DeleteFunc(g.lines, func(x Line) bool { return x.Key == l.Key })
			g.seen[l.Key] = true
			g.lines = append(g.lines, l)
		}
	}
	for _, o := range g.wanted() {
		missing := slices.Clone(o.Positions)
		on := false
		for _, x := range g.h.Operations {
			if x.Code == o.Code {
				on = true
				missing = slices.DeleteFunc(missing,
					func(id string) bool { return len(x.At) == 0 || slices.Contains(x.At, id) })
			}
		}
		if on && len(missing) == 0 {
			continue
		}
		l := Line{Key: "operation:" + o.Code, What: o.Name, Why: "not on the route yet"}
		if on {
			l.Key += "@" + strings.Join(missing, ",")
			l.Why = "not on the route for " + strings.Join(missing, ", ")
		}
		g.want(l)
	}
}

// leftOut is an operation that was left out: it says why, and where it would have proven something the
// deviation is signed.
func (g *walk) leftOut(o head.Operation, k *trade.Operation) Line {
	l := Line{
		Key: "operation:" + o.Code, What: k.Name, Why: "left out: " + o.Why,
		OK: strings.TrimSpace(o.Why) != "",
	}
	if !l.OK {
		l.Why = "left out, and nobody says why"
	}
	if k.Record == nil && !k.Always {
		return l
	}
	l.Key, l.Feature = head.LeftOut+o.Code, head.LeftOut+o.Code
	if l.Signed = g.h.Signed(l.Feature, ""); l.Signed != nil {
		l.OK, l.Why = true, "left out, signed by "+l.Signed.By+": "+l.Signed.Reason
		return l
	}
	l.OK = false
	l.Why += ": what it would have proven is not proven; somebody signs that, with a reason"
	return l
}

// moved wants everything that work has moved read again where it was done, and what was looked
// at before looked at again.
func (g *walk) moved() {
	for _, o := range g.h.Operations {
		k := trade.OperationNamed(o.Code)
		if k == nil || !o.Started() {
			continue
		}
		for _, c := range k.Voids {
			if !c.Exists(g.h.Model.Kind) {
				continue
			}
			for _, at := range c.Positions(g.h.Model.Layout) {
				if g.h.Role(at) != "" && len(o.At) > 0 && !slices.Contains(o.At, at) || !g.matters(c, at) {
					continue
				}
				proven := g.h.Proven(c, at)
				l := Line{
					Key: "read:" + c.Code + "@" + at, What: at + " " + words.Lower(c.Label), OK: proven,
					Why: "worked on (" + words.Lower(k.Name) + "), not read again everywhere since",
				}
				if proven {
					l.Why = "read again since " + words.Lower(k.Name)
				}
				g.want(l)
			}
		}
		for _, p := range k.Looks {
			for _, at := range o.At {
				if p.Exists(g.h.Model.Kind) && g.h.Grade(p.Code, at) != "" {
					ok := g.h.LookedAgain(p.Code, at)
					l := Line{
						Key: "read:" + p.Code + "@" + at, What: at + " " + words.Lower(p.Label), OK: ok,
						Why: "worked on (" + words.Lower(k.Name) + "), not looked at again since",
					}
					if ok {
						l.Why = "looked at again since " + words.Lower(k.Name)
					}
					g.want(l)
				}
			}
		}
	}
}

// matters tells whether a characteristic has to be known at a place: the sheet has a limit for
// it or for what is made of it, or it was read there before. Tests count only where they were
// made before: their records are wanted anyway.
func (g *walk) matters(c *trade.Characteristic, at string) bool {
	if len(g.h.Reads(c.Code, at)) > 0 {
		return true
	}
	if c.Section == trade.Tests {
		return false
	}
	role := string(g.h.Role(at))
	if line, ok := g.h.Model.Layout.Line(at); ok {
		role = line.Kind
	}
	if g.h.Limit(c.Code, role) != nil {
		return true
	}
	for i := range trade.Characteristics {
		d := &trade.Characteristics[i]
		if (d.Of != nil && d.Of.Code == c.Code ||
			slices.ContainsFunc(d.From, func(f *trade.Characteristic) bool { return f.Code == c.Code })) &&
			g.h.Limit(d.Code, role) != nil {
			return true
		}
	}
	return false
}

// Record begins the key of a line that an operation's record is; its code and its position follow.
const Record = "record:"

// records wants the record of every operation that has one, passing.
func (g *walk) records() {
	for _, o := range g.h.Operations {
		k := trade.OperationNamed(o.Code)
		if k == nil || k.Record == nil || o.State != head.Done && o.State != head.Running && o.State != head.Held {
			continue
		}
		at := []string{""}
		if k.Record.Each {
			if at = o.At; len(at) == 0 {
				at = g.h.Positions()
			}
		}
		for _, id := range at {
			l := Line{
				Key:  strings.TrimSuffix(Record+o.Code+"@"+id, "@"),
				What: strings.TrimSpace(id + " " + words.Lower(k.Name) + ", record"),
			}
			// somebody may sign what it says
			if l.OK, l.Why = g.recorded(k, id); !l.OK && g.h.Recorded(k.Code, id) != nil {
				l.Feature = l.Key
				if l.Signed = g.h.Signed(l.Feature, ""); l.Signed != nil {
					l.OK, l.Why = true, l.Why+"; signed by "+l.Signed.By+": "+l.Signed.Reason
				}
			}
			g.want(l)
		}
	}
}

// recorded tells whether an operation's record at a position is there and passes, and what it
// says. A pressure test that found leaks is answered by the one after the mending.
func (g *walk) recorded(k *trade.Operation, id string) (bool, string) {
	r := g.h.Recorded(k.Code, id)
	values := trade.Values{}
	if r != nil {
		for name, v := range r.Values {
			values[name] = v
		}
	}
	g.readings(k, id, values)
	if r == nil && len(values) == 0 {
		return false, "not recorded"
	}
	if since := g.h.Undone(k, id); since != nil {
		return false, "done before " + words.Lower(trade.OperationNamed(since.Code).Name) + ": once more"
	}
	form := g.h.Sheet.Record(k)
	if err := form.Check(values); err != nil {
		return false, "not complete: " + err.Error()
	}
	said, err := form.Judge(values, judge.RecordCase{Head: g.h, Position: id})
	if err != nil {
		return false, err.Error()
	}
	if !said.OK && k == trade.PressureTest {
		if again := g.h.Recorded(trade.Retest.Code, ""); again != nil {
			if ok, _ := g.recorded(trade.Retest, ""); ok && values["leaks"] != "0" {
				return true, said.Says.String() + "; tight when tested again"
			}
		}
	}
	return said.OK, said.All().String()
}

// readings fills a record's fields with what was read of them in a sweep after the work.
func (g *walk) readings(k *trade.Operation, id string, values trade.Values) {
	for _, f := range k.Record.Fields {
		if f.Reads == nil || values[f.Name] != "" {
			continue
		}
		at := id
		if f.Reads.Where == trade.AtHead {
			at = "H"
		}
		var texts []string
		for _, r := range g.h.Reads(f.Reads.Code, at) {
			if r.Stage == head.AsReceived && f.Reads.Where != trade.AtHead {
				continue
			}
			texts = append(texts, f.Show(r.Value.At))
		}
		if len(texts) > 0 {
			values[f.Name] = strings.Join(texts, " ")
		}
	}
	if values["vacuum"] == "" {
		delete(values, "baseline")
	}
}

// features wants everything inside its limit or signed by the lead, and nothing unread that
// has a limit.
func (g *walk) features() {
	for _, f := range g.j.All() {
		l := Line{Key: "sign:" + f.Key(), What: strings.TrimSpace(f.Position + " " + f.Label), Feature: f.Key()}
		d, decided := g.h.Decided(f.Key())
		switch {
		case f.Verdict == gauge.Unread && f.Limit != nil && len(f.From) == 0:
			g.unread(f)
			continue
		case f.Verdict >= gauge.Doubt && !g.proven(f):
			continue // it is asked for by its reading
		case f.Verdict == gauge.Doubt:
			l.Why = fmt.Sprintf("in doubt: %s %s %d of 100 such readings are outside.", f.Why(g.h.Unit),
				f.Says(g.h.Unit), 100-int(f.PInside*100))
			if decided && d.Choice == trade.Leave {
				l.OK, l.Why = true, fmt.Sprintf("in doubt, released: %s (%d of 100 such readings are outside)", d.Reason,
					100-int(f.PInside*100))
			}
		case f.Verdict >= gauge.Out:
			l.Why = f.Verdict.Label() + ": " + f.Why(g.h.Unit)
			if f.Finding == 0 { // what eyes saw says it once
				l.Why += " " + f.Says(g.h.Unit)
			}
			if decided && d.Choice == trade.Leave {
				l.Why += " Left: " + d.Reason + "."
			}
		case g.offTarget(f) != "":
			l.Why = g.offTarget(f)
		case f.Limit != nil && g.untold(f):
			l.Why = "in doubt: read with no tool named, so that its doubt is not known: name the tool, or read it again"
		default:
			continue
		}
		if s := g.h.Signed(f.Key(), Figure(f, g.h.Unit)); s != nil {
			l.Signed, l.OK = s, true
			l.Why = "signed: " + s.Reason + ". " + l.Why
		}
		g.want(l)
	}
}

// untold tells whether a reading behind a feature was made with no tool named.
func (g *walk) untold(f judge.Feature) bool {
	return slices.ContainsFunc(g.h.Readings,
		func(r head.Reading) bool { return r.Untold && slices.Contains(f.From, r.ID) })
}

// proven tells whether a feature's readings are all newer than the work that changed them.
func (g *walk) proven(f judge.Feature) bool {
	if f.Finding != 0 {
		return g.h.LookedAgain(f.Code, f.Position)
	}
	c, ok := trade.ByCode(f.Code)
	if !ok {
		return true
	}
	for _, from := range c.Proves() {
		for _, at := range from.Positions(g.h.Model.Layout) {
			if g.belongs(f, c, at) && !g.h.Proven(from, at) {
				return false
			}
		}
	}
	return true
}

// belongs tells whether a place is one of a feature's.
func (g *walk) belongs(f judge.Feature, c trade.Characteristic, at string) bool {
	if f.Position != "" {
		return at == f.Position
	}
	if line, ok := g.h.Model.Layout.Line(at); ok {
		return line.Kind == f.Role
	}
	return f.Role == "" || string(g.h.Role(at)) == f.Role
}

// unread asks for the readings a feature is made of, place by place.
func (g *walk) unread(f judge.Feature) {
	c, ok := g.h.Sheet.Characteristic(f.Code)
	if !ok {
		return
	}
	for _, from := range c.Proves() {
		for _, at := range from.Positions(g.h.Model.Layout) {
			if g.belongs(f, c, at) && len(g.h.Reads(from.Code, at)) == 0 {
				g.want(
					Line{Key: "read:" + from.Code + "@" + at, What: at + " " + words.Lower(from.Label), Why: "not read"},
				)
			}
		}
	}
}

// offTarget says how work done here misses the shop's own target, "" when it does not.
func (g *walk) offTarget(f judge.Feature) string {
	h, held := f.Against(head.Target)
	if !held || h.Verdict != gauge.Out {
		return ""
	}
	c, _ := trade.ByCode(f.Code)
	worked := false
	for _, from := range c.Proves() {
		for _, at := range from.Positions(g.h.Model.Layout) {
			worked = worked || g.belongs(f, c, at) && g.h.Voider(from.Code, at) != nil
		}
	}
	if !worked {
		return ""
	}
	return "inside its limit, but outside the shop's target " + h.Limit.Text(g.h.Unit) + ": " +
		f.Figure(g.h.Unit)
}

// parts wants every part in its place, and every new valve measured before it is trusted: as a
// part, or by the readings made of it since.
func (g *walk) parts() {
	for _, p := range g.h.Parts {
		if p.Missing {
			g.want(Line{Key: "part:" + p.Part + "@" + p.Position, What: p.Position + " " + p.Part, Why: "missing"})
		}
	}
	for _, x := range newpart.Compare(g.h) {
		_, there := g.h.NewPart(x.Kind.Code, x.Position)
		if x.Kind != trade.ValvePart && !there {
			continue // fitted, and proven by what it changed
		}
		if !slices.ContainsFunc(g.h.Operations, func(o head.Operation) bool {
			k := trade.OperationNamed(o.Code)
			return k != nil && k.Uses == x.Kind && o.Started() && slices.Contains(o.At, x.Position)
		}) {
			continue // bought, and not in this head yet
		}
		l := Line{Key: "part:" + x.Kind.Code + "@" + x.Position, What: x.Position + " new " + x.Kind.Name}
		switch lacks := x.Lacks(); {
		case x.Wrong().Sentence != "":
			l.Why = x.Wrong().String()
		case len(lacks) == 0 || there && x.Measured():
			l.OK, l.Why = true, "measured, to size"
		default:
			l.Why = "not measured: a new part is measured before it is trusted: " + words.Join(", ", lacks...).String()
		}
		g.want(l)
	}
}

// rest wants suspect readings cleared, approved lines on the route, and regulated work
// released.
func (g *walk) rest() {
	count := map[string]int{}
	for _, r := range g.h.Readings {
		if r.Suspect && slices.ContainsFunc(g.h.Reads(r.Of, r.Spot.Position),
			func(x head.Reading) bool { return x.ID == r.ID }) {
			count[r.Tool]++
		}
	}
	for _, r := range g.h.Readings {
		if n := count[r.Tool]; n > 0 {
			readings := "readings"
			if n == 1 {
				readings = "reading"
			}
			g.want(Line{
				Key: "suspect:" + r.Tool, What: r.Tool, Tool: r.Tool,
				Why: fmt.Sprintf("%d %s made before it failed its zero check: read again, or the lead releases them", n,
					readings),
			})
		}
	}
	for _, l := range g.h.Approved {
		k := trade.OperationNamed(l.Code)
		if k == nil || k.Inspect && !k.Always && !g.h.Inspection() {
			continue // what an inspection would have answered is not asked of a head that is mended after all
		}
		missing := slices.Clone(l.At)
		on := false
		for _, o := range g.h.Operations {
			if o.Code == l.Code {
				on = true
				missing = slices.DeleteFunc(missing,
					func(id string) bool { return len(o.At) == 0 || slices.Contains(o.At, id) })
			}
		}
		if !on || len(missing) > 0 {
			line := Line{
				Key: "approve:" + l.Code, What: k.Name, Feature: head.LeftOut + l.Code,
				Why: strings.TrimSpace("approved, but not on the route " + strings.Join(missing, ", ")),
			}
			if line.Signed = g.h.Signed(line.Feature, ""); line.Signed != nil {
				line.OK, line.Why = true, "approved and not done, signed by "+line.Signed.By+": "+line.Signed.Reason
			}
			g.want(line)
		}
	}
	if g.h.Regulated != "" {
		g.want(Line{
			Key: "release", What: "Release", OK: released(g.h.Released),
			Why: "regulated work (" + g.h.Regulated + "): released by the licensed person, with name and licence",
		})
	}
}

// released tells whether a release names the person and, beside the name, the licence.
func released(text string) bool {
	return len(
		strings.FieldsFunc(text, func(r rune) bool { return r == ',' || r == ';' || unicode.IsSpace(r) }),
	) > 1 &&
		strings.ContainsFunc(text, unicode.IsDigit)
}
