// Package shoptest is a shop for tests: the demo's, with its people, and what they do most often.
package shoptest

import (
	"context"
	"fmt"
	"slices"
	"sync/atomic"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"yatai/core/after"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/trade"
	"yatai/internal/demofile"
	"yatai/shop"
	"yatai/shop/bench"
	"yatai/shop/headfile"
	"yatai/shop/lead"
	"yatai/shop/people"
	"yatai/shop/quoting"
	"yatai/shop/week"
	"yatai/store"
)

var ids atomic.Int64

// good is what is written into the fields of the records, all of it passing.
var good = map[string]string{
	"pressure": "2bar", "water": "60C", "minutes": "20", "leaks": "0", "guides": "yes", "threads": "yes",
	"ways": "yes", "places": "yes",
	"seals": "yes", "order": "yes", "keepers": "yes",
	"baseline": "84kPa", "vacuum": "82 82 81 kPa", "paste": "fine", "passes": "3", "ring": "yes",
	"how": "stitched", "by": "Odo",
	"thread": "M10", "insert": "2 D", "drill": "10.4 mm",
}

// Fixture is a shop on a copy of the demo's file, with its people.
type Fixture struct {
	*shop.Shop
	People map[string]shop.Actor // by role
	Path   string                // of its file
}

// Open opens a shop on a fresh copy of the demo's file; it is closed with the test.
func Open(t testing.TB) *Fixture {
	t.Helper()
	f := &Fixture{People: map[string]shop.Actor{}, Path: demofile.Path(t)}
	st, err := store.Open(f.Path)
	require.NoError(t, err)
	t.Cleanup(func() { _ = st.Close() })
	f.Shop = shop.New(st, time.Now)
	users, err := people.People(t.Context(), f.Shop)
	require.NoError(t, err)
	for _, u := range users {
		f.People[u.Role] = shop.Actor{ID: u.ID, Name: u.Name, Role: u.Role}
	}
	return f
}

// ID is a client-made id that no other write of the test run has.
func ID() string {
	return fmt.Sprintf("test-%08d", ids.Add(1))
}

// File opens a head as it stands.
func (f *Fixture) File(t testing.TB, tag string) *headfile.File {
	t.Helper()
	file, err := headfile.Open(t.Context(), f.Shop, tag)
	require.NoError(t, err)
	return file
}

// Sweep is a form for one reading with the first tool that fits.
func (f *Fixture) Sweep(t testing.TB, tag, code, stage string, spot trade.Spot, text string) bench.SweepForm {
	t.Helper()
	c, _ := trade.ByCode(code)
	form := bench.SweepForm{
		Characteristic: code, Stage: stage,
		Entries: []bench.Entry{{ClientID: ID(), Spot: spot, Text: text}},
	}
	for _, tool := range f.File(t, tag).Tools {
		if tool.Kind == c.ToolKind() && form.Tool == 0 {
			form.Tool = tool.ID
		}
	}
	return form
}

// Typed records a sweep and returns only what was wrong with it.
func (f *Fixture) Typed(ctx context.Context, a shop.Actor, tag string, form bench.SweepForm) error {
	_, err := bench.Record(ctx, f.Shop, a, tag, form)
	return err
}

// Approve quotes what is decided and records the customer's answer.
func (f *Fixture) Approve(t testing.TB, tag string, said quoting.Answer) int {
	t.Helper()
	front := f.People[shop.Counter]
	v, err := quoting.MakeQuote(t.Context(), f.Shop, front, ID(), tag, quoting.Draft{})
	require.NoError(t, err)
	require.NoError(t, quoting.ApproveVerbally(t.Context(), f.Shop, front, ID(), tag, v, said, "by telephone"))
	return v
}

// Passing is a record of an operation that passes.
func Passing(code string) map[string]string { return passing(trade.OperationNamed(code).Record) }

func passing(form *trade.Record) map[string]string {
	out := map[string]string{}
	for _, x := range form.Fields {
		if v := good[x.Name]; v != "" {
			out[x.Name] = v
		}
		if x.Step != nil {
			out[x.Name] = "yes"
		}
	}
	return out
}

// Record writes down what a running operation's record asks for, all of it good.
func (f *Fixture) Record(t testing.TB, tag string, o store.Operation) {
	t.Helper()
	form := f.File(t, tag).RecordOf(o.Code)
	if form == nil {
		return
	}
	rows := map[string]map[string]string{"": passing(form)}
	if form.Each {
		delete(rows, "")
		for _, at := range o.At() {
			rows[at] = passing(form)
		}
	}
	require.NoError(t, bench.RecordWork(t.Context(), f.Shop, f.People[shop.Technician], ID(), tag, o.Seq, rows))
}

// Seq is where an operation stands on a route, -1 when it is not on it.
func Seq(ops []store.Operation, code string) int {
	for _, o := range ops {
		if o.Code == code {
			return o.Seq
		}
	}
	return -1
}

// Week plans the week anew.
func (f *Fixture) Week(t testing.TB) week.Week {
	t.Helper()
	w, err := week.Reckon(t.Context(), f.Shop)
	require.NoError(t, err)
	return w
}

// Tags lists the heads of a week, in its order.
func Tags(w week.Week) []string {
	var out []string
	for _, h := range w.Heads {
		out = append(out, h.Tag)
	}
	return out
}

// WeekHead is a head in the week's plan.
func (f *Fixture) WeekHead(t testing.TB, tag string) week.WeekHead {
	t.Helper()
	w := f.Week(t)
	i := slices.Index(Tags(w), tag)
	require.GreaterOrEqual(t, i, 0, tag)
	return w.Heads[i]
}

// Mended walks the pump head of the demo to a kept plan with every doubt released.
func (f *Fixture) Mended(t testing.TB, tag string) {
	t.Helper()
	chief := f.People[shop.Lead]
	require.NoError(t, lead.KeepPlan(t.Context(), f.Shop, chief, ID(), tag, headfile.PlanAsk{}))
	choices := map[string]lead.Choice{}
	file := f.File(t, tag)
	for _, x := range file.Received.Findings() {
		if _, done := file.Decision(x.Key()); !done {
			choices[x.Key()] = lead.Choice{Choice: trade.Leave, Reason: "read twice"}
		}
	}
	require.NoError(t, lead.Decide(t.Context(), f.Shop, chief, ID(), tag, choices, headfile.PlanAsk{}))
}

// PlanOf works a head's plan out.
func (f *Fixture) PlanOf(t testing.TB, tag string, ask headfile.PlanAsk) lead.Planned {
	t.Helper()
	p, err := lead.Plan(t.Context(), f.Shop, f.File(t, tag), ask)
	require.NoError(t, err)
	return p
}

// School sets one of a head's schools.
func (f *Fixture) School(t *testing.T, tag, name, value string) {
	t.Helper()
	require.NoError(t, lead.SetSchools(t.Context(), f.Shop, f.People[shop.Lead], ID(), tag,
		map[string]string{name: value}, nil))
}

// Aim is the clearance the plan makes a position's guide for.
func (f *Fixture) Aim(t *testing.T, tag, position string) length.Length {
	t.Helper()
	file := f.File(t, tag)
	v, ok := file.Layout.Valve(position)
	require.True(t, ok, position)
	aim := after.Aim(file.Subject, v)
	require.NotNil(t, aim, "%s has no aim", position)
	return *aim
}

// soundText is a figure of a characteristic at a spot that no limit of the head minds.
func soundText(f *headfile.File, c trade.Characteristic, sp trade.Spot) string {
	role := ""
	if v, ok := f.Layout.Valve(sp.Position); ok {
		role = string(v.Role)
	}
	limit := func(code, role string) (lo, hi *quantity.Amount) {
		for _, set := range []string{"service", "class", "new"} {
			for _, l := range f.Sheet.Limits {
				if l.Kind == set && l.Characteristic == code && (l.Role == role || l.Role == "") {
					if l.Low != nil && (lo == nil || *l.Low > *lo) {
						lo = l.Low
					}
					if l.High != nil && (hi == nil || *l.High < *hi) {
						hi = l.High
					}
				}
			}
		}
		return lo, hi
	}
	if c.Words != nil {
		return c.Words[1]
	}
	mm := func(a quantity.Amount) string { return c.UnitFor(length.MM).Text(a) }
	stem := 8 * quantity.One
	if lo, hi := limit("stem.dia", role); lo != nil {
		if stem = *lo + 20_000; hi != nil {
			stem = (*lo + *hi) / 2
		}
	}
	switch c.Code {
	case "stem.dia":
		return mm(stem)
	case "guide.bore":
		lo, hi := limit("guide.clearance", role)
		if lo == nil || hi == nil {
			g := trade.GeneralClearance(layout.Role(role), stem)
			lo, hi = g.Low, g.High
		}
		for _, l := range f.Sheet.Limits { // the shop's own target lies inside
			if l.Kind == "target" && l.Characteristic == "guide.clearance" && l.Role == role {
				lo, hi = l.Low, l.High
			}
		}
		return mm(stem + (*lo+*hi)/2)
	case "face.line", "manifold.line", "cover.line":
		return "0.02 mm"
	case "face.grid":
		return "0"
	}
	lo, hi := limit(c.Code, role)
	switch {
	case lo != nil && hi != nil && c.Bracket:
		m := (*lo + *hi) / 2
		return mm(m-5_000) + " " + mm(m+5_000)
	case lo != nil && hi != nil:
		return mm((*lo + *hi) / 2)
	case lo != nil:
		return mm(*lo + *lo/10)
	case hi != nil:
		return mm(*hi / 4)
	}
	return mm(max(c.Low, min(c.High, 10*quantity.One)))
}

// ReadAll reads every wanted characteristic at a stage: only what was not read yet, or all.
func (f *Fixture) ReadAll(t *testing.T, tag, stage string, all bool) {
	t.Helper()
	file := f.File(t, tag)
	have := file.Standing(stage)
	for _, p := range file.Progress(stage) {
		if !p.Wanted {
			continue
		}
		form := bench.SweepForm{Characteristic: p.Code, Stage: stage, Why: "read again"}
		for _, tool := range file.Tools {
			if tool.Kind == p.ToolKind() && form.Tool == 0 && file.Checks[tool.ID].Passed {
				form.Tool = tool.ID
			}
		}
		for _, tool := range file.Tools {
			if tool.Kind == p.ToolKind() && form.Tool == 0 && tool.Standard == 0 {
				form.Tool = tool.ID
			}
		}
		for _, sp := range p.Spots(file.Layout) {
			if _, read := have[p.Code+" "+sp.Key()]; all || !read {
				form.Entries = append(
					form.Entries, bench.Entry{ClientID: ID(), Spot: sp, Text: soundText(file, p.Characteristic, sp)},
				)
			}
		}
		if form.Entries != nil {
			require.NoError(t, f.Typed(t.Context(), f.People[shop.Technician], tag, form), "%s %s", tag, p.Code)
		}
	}
}

// Scrapped tells whether the lead has taken a head for scrap.
func Scrapped(f *headfile.File) bool {
	return len(f.Operations) == 1 && f.Operations[0].Code == "scrap"
}

// ApproveOnce quotes and approves what is decided, unless everything was.
func (f *Fixture) ApproveOnce(t *testing.T, tag string) {
	t.Helper()
	front := f.People[shop.Counter]
	if v, err := quoting.MakeQuote(t.Context(), f.Shop, front, ID(), tag, quoting.Draft{}); err == nil {
		require.NoError(t, quoting.ApproveVerbally(t.Context(), f.Shop, front, ID(), tag, v,
			quoting.Answer{Name: "its owner", Must: true}, "by telephone"))
	}
}

// MendAll grades everything that was seen as sound again, mends the marks, and puts the tray in order.
func (f *Fixture) MendAll(t *testing.T, tag string) {
	t.Helper()
	ctx, tech := t.Context(), f.People[shop.Technician]
	file := f.File(t, tag)
	for _, x := range file.Standings(headfile.Stages...) {
		if x.Part == trade.MarkCode {
			if x.Grade != "mended" && x.Grade != "stamp" {
				require.NoError(t, bench.Mark(ctx, f.Shop, tech, tag,
					bench.MarkForm{WriteID: ID(), Grade: "mended", Stage: headfile.AfterRepair, Replaces: x.ID}))
			}
			continue
		}
		p, _ := trade.PartNamed(x.Part)
		require.NoError(t, bench.Grade(ctx, f.Shop, tech, ID(), tag, x.Part, headfile.AfterRepair,
			map[string]string{x.Position: p.Grades[0].Code}, nil))
	}
	for _, v := range file.Layout.Valves {
		for _, c := range file.Tray(v.ID) {
			if c.State == "missing" || c.Trust.Sentence != "" {
				require.NoError(t, bench.PlaceParts(ctx, f.Shop, tech, ID(), tag,
					map[string]string{v.ID + "/" + c.Part: "own"}, ""))
			}
		}
	}
}
