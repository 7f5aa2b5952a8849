package shop_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/trade"
	"yatai/shop"
	"yatai/shop/bench"
	"yatai/shop/headfile"
	"yatai/shop/intake"
	"yatai/shop/lead"
	"yatai/shop/quoting"
	"yatai/shop/week"
	"yatai/shop/work"
)

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

// readAll reads every wanted characteristic at a stage: only what was not read yet, or all.
func (f fixture) readAll(t *testing.T, tag, stage string, all bool) {
	t.Helper()
	file := f.file(t, tag)
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
				form.Entries = append(form.Entries, bench.Entry{ClientID: id(), Spot: sp, Text: soundText(file, p.Characteristic, sp)})
			}
		}
		if form.Entries != nil {
			require.NoError(t, f.typed(t.Context(), f.people[shop.Technician], tag, form), "%s %s", tag, p.Code)
		}
	}
}

// TestEveryJobOfTheDemoIsWalkedToItsEnd takes every head that is in the shop to the door.
func TestEveryJobOfTheDemoIsWalkedToItsEnd(t *testing.T) {
	f := open(t)
	ctx, chief, tech, front := t.Context(), f.people[shop.Lead], f.people[shop.Technician], f.people[shop.Counter]
	cards, err := week.Floor(ctx, f.Shop)
	require.NoError(t, err)
	require.GreaterOrEqual(t, len(cards), 14)
	kinds := map[string]bool{}
	for _, c := range cards {
		tag := c.Tag
		kinds[c.Job.Kind] = true
		if f.file(t, tag).WorkOrderAt == nil {
			f.readAll(t, tag, headfile.AsReceived, false)
			if p := f.planOf(t, tag, headfile.PlanAsk{}); p.Feasible {
				require.NoError(t, lead.KeepPlan(ctx, f.Shop, chief, id(), tag, headfile.PlanAsk{}), tag)
			}
			choices := map[string]lead.Choice{}
			file := f.file(t, tag)
			for _, x := range file.Received.Findings() {
				if _, done := file.Decision(x.Key()); !done {
					choices[x.Key()] = lead.Choice{Choice: trade.Leave, Reason: "the customer knows"}
				}
			}
			require.NoError(t, lead.Decide(ctx, f.Shop, chief, id(), tag, choices), tag)
			f.approveOnce(t, tag)
			require.NoError(t, lead.OrderWork(ctx, f.Shop, chief, id(), tag), tag)
		}
		f.approveOnce(t, tag)
		for _, o := range f.file(t, tag).Operations {
			if o.State == "waiting" {
				require.NoError(t, work.Start(ctx, f.Shop, tech, id(), tag, o.Seq), "%s %s", tag, o.Code)
			}
			if o.State == "waiting" || o.State == "running" {
				f.record(t, tag, o)
				require.NoError(t, work.Finish(ctx, f.Shop, tech, id(), tag, o.Seq, ""), "%s %s", tag, o.Code)
			}
		}
		file := f.file(t, tag)
		if file.ClosedAt == nil && !scrapped(file) {
			f.readAll(t, tag, headfile.AfterRepair, true)
			f.mendAll(t, tag)
		}
		for _, l := range f.file(t, tag).Open() {
			switch {
			case l.Tool != 0:
				require.NoError(t, bench.Release(ctx, f.Shop, chief, id(), tag, l.Tool, "read with another gauge since"))
			case l.Feature != "":
				require.NoError(t, work.SignDeviation(ctx, f.Shop, chief, id(), tag, l.Feature, "the customer knows"), "%s %s", tag, l.Feature)
			default:
				assert.Fail(t, "open", "%s: %s, %s", tag, l.What, l.Why)
			}
		}
		if f.file(t, tag).ClosedAt == nil {
			require.NoError(t, work.CloseHead(ctx, f.Shop, chief, tag, work.CloseForm{WriteID: id(), Releaser: "A. Fell", Licence: "EP 12"}), tag)
		}
		require.NoError(t, work.HandOver(ctx, f.Shop, front, id(), tag, "its owner"), tag)
	}
	for _, k := range intake.IntakeKinds {
		assert.True(t, kinds[k.Code], "a job of every kind of intake: %s", k.Code)
	}
	left, err := week.Floor(ctx, f.Shop)
	require.NoError(t, err)
	assert.Empty(t, left)
}

func scrapped(f *headfile.File) bool {
	return len(f.Operations) == 1 && f.Operations[0].Code == "scrap"
}

// approveOnce quotes and approves what is decided, unless everything was.
func (f fixture) approveOnce(t *testing.T, tag string) {
	t.Helper()
	front := f.people[shop.Counter]
	if v, err := quoting.MakeQuote(t.Context(), f.Shop, front, id(), tag, quoting.Draft{}); err == nil {
		require.NoError(t, quoting.ApproveVerbally(t.Context(), f.Shop, front, id(), tag, v, quoting.Answer{Name: "its owner", Must: true}, "by telephone"))
	}
}

// mendAll grades everything that was seen as sound again, mends the marks, and puts the
// tray in order.
func (f fixture) mendAll(t *testing.T, tag string) {
	t.Helper()
	ctx, tech := t.Context(), f.people[shop.Technician]
	file := f.file(t, tag)
	for _, x := range file.Standings(headfile.Stages...) {
		if x.Part == trade.MarkCode {
			if x.Grade != "mended" && x.Grade != "stamp" {
				require.NoError(t, bench.Mark(ctx, f.Shop, tech, tag, bench.MarkForm{WriteID: id(), Grade: "mended", Stage: headfile.AfterRepair, Replaces: x.ID}))
			}
			continue
		}
		p, _ := trade.PartNamed(x.Part)
		require.NoError(t, bench.Grade(ctx, f.Shop, tech, id(), tag, x.Part, headfile.AfterRepair, map[string]string{x.Position: p.Grades[0].Code}, nil))
	}
	for _, v := range file.Layout.Valves {
		for _, c := range file.Tray(v.ID) {
			if c.State == "missing" || c.Trust.Sentence != "" {
				require.NoError(t, bench.PlaceParts(ctx, f.Shop, tech, id(), tag, map[string]string{v.ID + "/" + c.Part: "own"}, ""))
			}
		}
	}
}
