package lead_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/gauge"
	"yatai/core/length"
	"yatai/core/plan"
	"yatai/core/quantity"
	"yatai/core/trade"
	"yatai/core/words"
	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/shop/intake"
	"yatai/shop/lead"
	"yatai/shop/parts"
	"yatai/shop/quoting"
	"yatai/shop/week"
)

func hundredths(n int) *length.Length { l := length.Length(n) * length.Hundredth; return &l }

func TestPlanOfTheDemoHead(t *testing.T) {
	f := shoptest.Open(t)
	p := f.PlanOf(t, "T0401", headfile.PlanAsk{})
	require.True(t, p.Feasible, "%v %v", p.Missing, p.Refused())
	assert.Equal(t, *hundredths(18), p.FaceCut, "0.15 of gap and 0.03 allowance")
	done := map[string]string{}
	for _, v := range p.Valves {
		done[v.ID] = v.Seat + " " + v.Valve
		x := v.Figure("valve.recession")
		if v.Seat == "keep" && v.Valve == "keep" {
			assert.Equal(t, x.Now-quantity.OfLength(p.FaceCut), x.After, "facing lifts every valve by the cut")
		}
		for i := range v.Figures {
			assert.NotEqual(t, gauge.Out, v.Figures[i].Verdict(), "%s %s", v.ID, v.Figures[i].Code)
		}
	}
	assert.Equal(t, "cut", strings.Fields(done["1E1"])[0], "a new guide's seat is cut")
	assert.Contains(t, done["2E1"], "new", "a dished valve without margin")
	assert.Positive(t, p.Cents)
	assert.InDelta(t, 10.08, float64(p.Ratio.Before), 0.02)
	assert.NotEmpty(t, p.Changes)
	assert.Equal(t, len(p.Valves), len(p.Changed())+len(p.Kept()))
	assert.Greater(t, p.PAll, 0.5)
}

func TestMovingTheCutMovesEverything(t *testing.T) {
	f := shoptest.Open(t)
	none := f.PlanOf(t, "T0405", headfile.PlanAsk{})
	more := f.PlanOf(t, "T0405", headfile.PlanAsk{Cut: hundredths(25)})
	require.True(t, none.Feasible && more.Feasible, "%v", more.Refused())
	assert.Equal(t, length.Length(0), none.FaceCut)
	assert.Greater(t, more.Cents, none.Cents)
	assert.NotEqual(t, none.Valves, more.Valves)
	assert.Contains(t, strings.Join(f.PlanOf(t, "T0405", headfile.PlanAsk{Cut: hundredths(90)}).Refused(), " "),
		"98.2 mm is the least")
}

// TestAHeldSeatForbids holds a deep seat to a cut: the plan says now that it cannot be.
func TestAHeldSeatForbids(t *testing.T) {
	f := shoptest.Open(t)
	free := f.PlanOf(t, "T0414", headfile.PlanAsk{})
	require.True(t, free.Feasible, "%v", free.Refused())
	held := f.PlanOf(
		t, "T0414", headfile.PlanAsk{Hold: map[string]map[string]string{"2E1": {"seat": "cut", "valve": "keep"}}},
	)
	require.False(t, held.Feasible)
	assert.Contains(t, strings.Join(held.Refused(), " "), "2E1: ")
	err := lead.KeepPlan(
		t.Context(), f.Shop, f.People[shop.Lead], shoptest.ID(), "T0414",
		headfile.PlanAsk{Hold: map[string]map[string]string{"2E1": {"seat": "cut", "valve": "keep"}}},
	)
	assert.ErrorContains(t, err, "this cannot be done")
}

func TestShimsAreFoundWhereTheyAre(t *testing.T) {
	p := shoptest.Open(t).PlanOf(t, "T0402", headfile.PlanAsk{Alternative: plan.Robust})
	require.True(t, p.Feasible, "%v", p.Refused())
	moved := 0
	for _, l := range p.Lash {
		if l.Size == nil || l.Present == nil {
			continue
		}
		if l.From == "kept" {
			assert.Equal(t, *l.Present, *l.Size)
		} else {
			moved++
		}
		assert.NotEqual(t, "order", l.From, "the box has them")
	}
	assert.Positive(t, moved)
}

func TestAlternativesDiffer(t *testing.T) {
	f := shoptest.Open(t)
	all, err := lead.Compare(t.Context(), f.Shop, f.File(t, "T0414"))
	require.NoError(t, err)
	require.Len(t, all, len(plan.Alternatives))
	by := map[string]lead.Planned{}
	for _, p := range all {
		by[p.Plan.Ask.Alternative] = p
		assert.GreaterOrEqual(t, p.Cents, all[1].Cents, "balanced costs least")
	}
	assert.LessOrEqual(t, by[plan.Keep].Count("insert")+by[plan.Keep].Count("new"),
		by[plan.Renew].Count("insert")+by[plan.Renew].Count("new"))
	assert.GreaterOrEqual(t, by[plan.Robust].PAll, by[plan.Balanced].PAll)
	instead, err := lead.Replacements(t.Context(), f.Shop, f.File(t, "T0414"), 200_000)
	require.NoError(t, err)
	require.Len(t, instead, 1)
	assert.True(t, instead[0].Asks, "85 % of an exchange head")
}

// TestPlanIsKeptDecidesAndGoesOutOfDate keeps a plan, orders the work by it, and reads
// something again.
func TestPlanIsKeptDecidesAndGoesOutOfDate(t *testing.T) {
	f := shoptest.Open(t)
	ctx, chief, tech := t.Context(), f.People[shop.Lead], f.People[shop.Technician]
	assert.ErrorIs(t, lead.KeepPlan(ctx, f.Shop, tech, shoptest.ID(), "T0401", headfile.PlanAsk{}), shop.ErrForbidden)
	require.NoError(t, lead.KeepPlan(ctx, f.Shop, chief, shoptest.ID(), "T0401", headfile.PlanAsk{}))
	file := f.File(t, "T0401")
	chosen := map[string]string{}
	for _, d := range file.Decisions {
		chosen[d.Feature] = d.Choice
	}
	assert.Equal(t, "guide_new", chosen["guide.clearance@1E1"])
	assert.Equal(t, "valve_new", chosen["valve.margin@2E1"])
	assert.Contains(t, []string{trade.Planned, "valve_new"}, chosen["valve.recession@2E1"], "the new valve answers it")
	assert.Equal(t, "face", chosen["face.line/long"])
	assert.NotContains(t, chosen, "guide.clearance@4I1", "a doubt is the lead's")
	plans, err := headfile.Plans(ctx, f.Shop, file)
	require.NoError(t, err)
	require.Len(t, plans, 1)
	assert.Empty(t, plans[0].Stale)

	again := f.Sweep(t, "T0401", "valve.recession", headfile.AsReceived, trade.Spot{Position: "3I1"}, "0.71")
	again.Why = "read again"
	require.NoError(t, f.Typed(ctx, tech, "T0401", again))
	plans, err = headfile.Plans(ctx, f.Shop, f.File(t, "T0401"))
	require.NoError(t, err)
	require.Len(t, plans[0].Stale, 1)
	assert.Contains(t, plans[0].Stale[0], "3I1 was 0.63 mm")
	assert.Contains(t, plans[0].Stale[0], "is 0.71 mm")

	require.NoError(
		t,
		lead.Decide(
			ctx, f.Shop, chief, shoptest.ID(), "T0401",
			map[string]lead.Choice{"guide.clearance@4I1": {Choice: trade.Leave, Reason: "read twice, inside"}},
			headfile.PlanAsk{},
		),
	)
	require.NoError(t, lead.OrderWork(ctx, f.Shop, chief, shoptest.ID(), "T0401"))
	ops := f.File(t, "T0401").Operations
	for _, code := range []string{"guide_new", "seat_cut", "valve_new", "face", "keeper_new", "pressure_test"} {
		assert.Positive(t, shoptest.Seq(ops, code), code)
	}
	assert.ErrorContains(t, lead.KeepPlan(ctx, f.Shop, chief, shoptest.ID(), "T0401", headfile.PlanAsk{}),
		"ordered already")
}

func TestSchoolsChangeWhatTheyNamed(t *testing.T) {
	f := shoptest.Open(t)
	ctx, chief := t.Context(), f.People[shop.Lead]
	require.NoError(
		t,
		lead.SetSchools(ctx, f.Shop, chief, shoptest.ID(), "T0401", map[string]string{
			"school.face": "first", "school.lapping": "always", "school.angle": "interference",
			"school.clearance": "tight intake, loose exhaust",
		}, nil),
	)
	require.NoError(t, lead.KeepPlan(ctx, f.Shop, chief, shoptest.ID(), "T0401", headfile.PlanAsk{}))
	choices := map[string]lead.Choice{"guide.clearance@4I1": {Choice: trade.Leave, Reason: "ok"}}
	require.NoError(t, lead.Decide(ctx, f.Shop, chief, shoptest.ID(), "T0401", choices, headfile.PlanAsk{}))
	seats := lead.Seats(f.Shop, f.File(t, "T0401"), nil, nil)
	assert.Contains(t, seats[0].Angle, "44.5 deg")
	require.NoError(t, lead.OrderWork(ctx, f.Shop, chief, shoptest.ID(), "T0401"))
	ops := f.File(t, "T0401").Operations
	assert.Less(t, shoptest.Seq(ops, "face"), shoptest.Seq(ops, "seat_cut"))
	assert.Positive(t, shoptest.Seq(ops, "lap"))
	assert.ErrorContains(t, lead.SetSchools(ctx, f.Shop, chief, shoptest.ID(), "T0401",
		map[string]string{"school.face": "last"}, nil), "ordered")
	assert.ErrorContains(t, lead.SetSchools(ctx, f.Shop, chief, shoptest.ID(), "T0404",
		map[string]string{"school.face": "sideways"}, nil), "one of last, first")
	p := f.PlanOf(t, "T0402", headfile.PlanAsk{})
	assert.Contains(t, words.Join("; ", p.School...).String(), "face the head: last")
}

func TestTopicsOfTheDemo(t *testing.T) {
	f := shoptest.Open(t)
	ctx := t.Context()
	face, err := lead.Face(ctx, f.Shop, f.File(t, "T0402"), nil)
	require.NoError(t, err)
	assert.Contains(t, face.Form, "hollow lengthwise")
	assert.Equal(t, 154*length.Micrometre, face.Cut, "0.134 of hollow on the plate and 0.02 allowance")
	assert.Zero(t, face.Left, "the cut that is needed cleans everything up")
	less, err := lead.Face(ctx, f.Shop, f.File(t, "T0402"), hundredths(5))
	require.NoError(t, err)
	assert.Positive(t, less.Left)
	for _, g := range lead.Guides(f.Shop, f.File(t, "T0401")) {
		assert.Equal(t, g.Stem+g.Target, g.Bore, g.ID)
		assert.True(t, g.Bore > g.BoreLow && g.Bore < g.BoreHigh)
	}
	weak := 0
	for _, s := range lead.Springs(f.Shop, f.File(t, "T0414")) {
		require.NotNil(t, s.Out, "%s: %s", s.ID, s.Why)
		if s.Seat.Verdict == gauge.Out {
			weak++
			assert.Positive(t, *s.Out.Shim, "a weak spring needs a shim")
		}
	}
	assert.Equal(t, 3, weak)
	fit, err := f.File(t, "T0401").Fit(
		headfile.FitForm{Hole: "13.000", Part: "13.035", PartMaterial: "bronze", HoleTemp: "120", PartTemp: "-60C"},
	)
	require.NoError(t, err)
	assert.Equal(t, 35*length.Micrometre, fit.Interference)
	_, err = f.File(t, "T0401").Fit(
		headfile.FitForm{Hole: "x", Part: "-1", PartMaterial: "wood", HoleTemp: "hot", PartTemp: ""},
	)
	for _, field := range []string{"hole", "part", "part_material", "hole_temp", "part_temp"} {
		assert.ErrorContains(t, err, field+":")
	}
}

func TestCausesOfTheDemo(t *testing.T) {
	f := shoptest.Open(t)
	ctx, tech := t.Context(), f.People[shop.Technician]
	for tag, first := range map[string]string{
		"T0401": "sinking", "T0402": "overheated", "T0409": "too_tight", "T0412": "corrosion", "T0413": "bent",
		"T0414": "weak_springs",
		"T0415": "wrong_part",
	} {
		rows, err := lead.Causes(ctx, f.Shop, f.File(t, tag))
		require.NoError(t, err)
		require.NotEmpty(t, rows, tag)
		assert.Equal(t, first, rows[0].Code, "%s: %s", tag, rows[0].Name)
	}
	require.NoError(t, lead.CallCause(ctx, f.Shop, tech, shoptest.ID(), "T0401", "sinking", "confirmed", "seats soft"))
	require.NoError(
		t, lead.CallCause(ctx, f.Shop, tech, shoptest.ID(), "T0401", "weak_springs", "confirmed", "felt by hand"),
	)
	rows, err := lead.Causes(ctx, f.Shop, f.File(t, "T0401"))
	require.NoError(t, err)
	assert.Equal(t, "confirmed", rows[0].Call.State)
	assert.Equal(t, "weak_springs", rows[len(rows)-1].Code, "somebody knows better than the table")
	assert.ErrorContains(t, lead.CallCause(ctx, f.Shop, tech, shoptest.ID(), "T0401", "sinking", "maybe", ""),
		"confirm it")
	assert.ErrorIs(t, lead.CallCause(ctx, f.Shop, tech, shoptest.ID(), "T0401", "gremlins", "confirmed", ""),
		shop.ErrNotFound)
}

func TestPartsAreMeasuredWhenTheyCome(t *testing.T) {
	f := shoptest.Open(t)
	ctx, tech, chief := t.Context(), f.People[shop.Technician], f.People[shop.Lead]
	find := func(name string) parts.StockRow {
		s, err := parts.Stock(ctx, f.Shop)
		require.NoError(t, err)
		for _, r := range s.Rows {
			if r.Name == name {
				return r
			}
		}
		t.Fatal(name)
		return parts.StockRow{}
	}
	shim := find("Velderan shim 2.60")
	require.NoError(t, parts.Order(ctx, f.Shop, chief, shoptest.ID(), shim.ID, "2", "T0402"))
	assert.Equal(t, 2, find("Velderan shim 2.60").Ordered)
	page, err := parts.Stock(ctx, f.Shop)
	require.NoError(t, err)
	order := page.Orders[0]
	require.Equal(t, shim.ID, order.ItemID)
	receive := func(measured string) error {
		return parts.Receive(ctx, f.Shop, tech,
			parts.Receipt{WriteID: shoptest.ID(), Order: order.ID, Measured: measured, OK: true})
	}
	assert.ErrorContains(t, receive("2.65"), "not what was ordered")
	require.NoError(t, receive("2.602"))
	assert.Equal(t, shim.Count+2, find("Velderan shim 2.60").Count)
	assert.ErrorIs(t, receive("2.60"), shop.ErrStale)
	assert.ErrorContains(t, parts.Order(ctx, f.Shop, chief, shoptest.ID(), shim.ID, "-1", ""), "how many")
	require.NoError(t, parts.CountStock(ctx, f.Shop, tech, shoptest.ID(), shim.ID, "9", "counted"))
	assert.Equal(t, 9, find("Velderan shim 2.60").Count)
	twice := parts.StockForm{WriteID: shoptest.ID(), Kind: "valve", Name: shim.Name, Price: "1"}
	assert.ErrorContains(t, parts.AddStock(ctx, f.Shop, tech, twice), "on the list already")
}

// BenchmarkPlan works out a 24-valve head with pushrods, sensitivity and all.
func BenchmarkPlan(b *testing.B) {
	f := shoptest.Open(b)
	file := f.File(b, "T0414")
	for b.Loop() {
		if _, err := lead.Plan(b.Context(), f.Shop, file, headfile.PlanAsk{}); err != nil {
			b.Fatal(err)
		}
	}
}

// TestAHeadIsScrappedWithAReason gives a head up: nothing else is done to it, and what was
// found needs no decision any more.
func TestAHeadIsScrappedWithAReason(t *testing.T) {
	f := shoptest.Open(t)
	ctx, chief := t.Context(), f.People[shop.Lead]
	assert.ErrorIs(t, lead.Scrap(ctx, f.Shop, f.People[shop.Counter], shoptest.ID(), "T0401", "worn out"),
		shop.ErrForbidden)
	assert.ErrorContains(t, lead.Scrap(ctx, f.Shop, chief, shoptest.ID(), "T0401", "  "), "why it is not worth mending")
	assert.ErrorContains(t, lead.Scrap(ctx, f.Shop, chief, shoptest.ID(), "T0402", "cracked"), "ordered already")
	require.NoError(t, lead.Scrap(ctx, f.Shop, chief, shoptest.ID(), "T0401", "guides gone, seats gone"))
	file := f.File(t, "T0401")
	for _, x := range file.Received.Findings() {
		d, ok := file.Decision(x.Key())
		require.True(t, ok, x.Key())
		assert.Equal(t, "scrapped: guides gone, seats gone", d.Reason)
	}
	f.Approve(t, "T0401", quoting.Answer{Name: "Mossfield Growers", Must: true})
	require.NoError(t, lead.OrderWork(ctx, f.Shop, chief, shoptest.ID(), "T0401"))
	ops := f.File(t, "T0401").Operations
	require.Len(t, ops, 1)
	assert.Equal(t, "scrap", ops[0].Code)
	assert.Equal(t, 1, f.WeekHead(t, "T0401").Left)
}

// TestThePairOfTheDemoIsPlannedTogether: T0403 is the other bank of T0402, whose work is ordered:
// it is planned alone. Two more of an order, measured alike, are planned with one cut.
func TestThePairOfTheDemoIsPlannedTogether(t *testing.T) {
	f := shoptest.Open(t)
	_, ok, err := lead.Set(t.Context(), f.Shop, f.File(t, "T0403"), headfile.PlanAsk{})
	require.NoError(t, err)
	assert.False(t, ok, "its work is ordered: its cut is a fact")
	one := f.File(t, "T0401")
	tag, err := intake.TakeIn(t.Context(), f.Shop, f.People[shop.Counter], intake.IntakeForm{
		WriteID: shoptest.ID(), With: "T0401", Customer: one.Job.Customer.Name, Machine: one.Job.Machine.Name,
		Model: fmt.Sprint(one.ModelID), Kind: "rebuild", Bank: "right",
	})
	require.NoError(t, err)
	_, ok, err = lead.Set(t.Context(), f.Shop, one, headfile.PlanAsk{})
	require.NoError(t, err)
	assert.False(t, ok, "the other was not measured yet")
	f.ReadAll(t, tag, headfile.AsReceived, true)
	both, ok, err := lead.Set(t.Context(), f.Shop, one, headfile.PlanAsk{})
	require.NoError(t, err)
	require.True(t, ok)
	require.True(t, both.Feasible, both.Why)
	assert.Equal(t, []string{"T0401", tag}, both.Tags)
	assert.Equal(t, both.Heads[0].FaceCut, both.Heads[1].FaceCut, "a pair is faced alike")
	assert.NotEqual(t, both.Alone[0].FaceCut, both.Alone[1].FaceCut, "the sound one needs no cut by itself")
	assert.Equal(t, both.Cents(), both.Alone[0].Cents+both.Alone[1].Cents+both.More())
}

// TestASetIsTakenInAtOnce: single-cylinder heads of one engine come in together, with marks of
// their own, share an order, and are planned together.
func TestASetIsTakenInAtOnce(t *testing.T) {
	f := shoptest.Open(t)
	form := intake.IntakeForm{
		WriteID: shoptest.ID(), Customer: "Dell", Machine: "railcar 7", Model: fmt.Sprint(f.File(t, "T0401").ModelID),
		Kind: "rebuild", Marks: "a; b; c", Heads: "25",
	}
	_, err := intake.TakeIn(t.Context(), f.Shop, f.People[shop.Counter], form)
	assert.ErrorContains(t, err, "from 1 to 24")
	form.Heads = "3"
	tag, err := intake.TakeIn(t.Context(), f.Shop, f.People[shop.Counter], form)
	require.NoError(t, err)
	first := f.File(t, tag)
	others, err := week.Others(t.Context(), f.Shop, first)
	require.NoError(t, err)
	require.Len(t, others, 2)
	assert.Equal(t, []string{"1 of 3", "a", "2 of 3", "b", "3 of 3", "c"}, []string{
		first.Which(), first.Marks, others[0].Which(), others[0].Marks, others[1].Which(), others[1].Marks,
	})
	again, err := intake.TakeIn(t.Context(), f.Shop, f.People[shop.Counter], form)
	require.NoError(t, err)
	assert.Equal(t, tag, again, "the same form sent twice takes nothing in twice")
	for _, x := range append(others, first.Head) {
		f.ReadAll(t, x.Tag, headfile.AsReceived, true)
	}
	set, ok, err := lead.Set(t.Context(), f.Shop, f.File(t, tag), headfile.PlanAsk{})
	require.NoError(t, err)
	require.True(t, ok)
	require.True(t, set.Feasible, set.Why)
	assert.Len(t, set.Tags, 3)
	assert.Len(t, set.Depths(), 2)
}

// TestKeptPlansStandSideBySide keeps two plans of one head and tells how the newer differs.
func TestKeptPlansStandSideBySide(t *testing.T) {
	f := shoptest.Open(t)
	chief := f.People[shop.Lead]
	require.NoError(t, lead.KeepPlan(t.Context(), f.Shop, chief, shoptest.ID(), "T0401",
		headfile.PlanAsk{Alternative: plan.Balanced}))
	require.NoError(t, lead.KeepPlan(t.Context(), f.Shop, chief, shoptest.ID(), "T0401",
		headfile.PlanAsk{Alternative: plan.Renew}))
	plans, err := headfile.Plans(t.Context(), f.Shop, f.File(t, "T0401"))
	require.NoError(t, err)
	require.Len(t, plans, 2)
	assert.Greater(t, plans[0].Cents, plans[1].Cents)
	assert.NotEmpty(t, plans[0].Differs)
	assert.Empty(t, plans[1].Differs)
	differ := 0
	for _, v := range plans[0].Out.Valves {
		was, ok := plans[1].Valve(v.ID)
		require.True(t, ok)
		if was.Says != v.Says {
			differ++
			assert.True(t, slices.ContainsFunc(plans[0].Differs, func(d string) bool { return strings.HasPrefix(d, v.ID+": ") }),
				v.ID)
		}
	}
	assert.Positive(t, differ)
}

// TestAPlanIsNotReadyOnADayThatIsClosed closes the days until past the date a plan names.
func TestAPlanIsNotReadyOnADayThatIsClosed(t *testing.T) {
	f, ctx := shoptest.Open(t), t.Context()
	open := f.PlanOf(t, "T0401", headfile.PlanAsk{}).Ready
	var closed []string
	for day := time.Now(); !day.After(open); day = day.AddDate(0, 0, 1) {
		closed = append(closed, day.Format(time.DateOnly))
	}
	require.NoError(t, week.SetStations(ctx, f.Shop, f.People[shop.Owner], shoptest.ID(), nil, strings.Join(closed, " ")))
	ready := f.PlanOf(t, "T0401", headfile.PlanAsk{}).Ready
	assert.True(t, ready.After(open.AddDate(0, 0, 1)), "%s is past %s", ready, open)
	assert.NotContains(t, closed, ready.Local().Format(time.DateOnly))
}
