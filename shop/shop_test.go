package shop_test

import (
	"bufio"
	"context"
	"fmt"
	"os"
	"os/exec"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/field"
	"yatai/core/trade"
	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/bench"
	"yatai/shop/headfile"
	"yatai/shop/lead"
	"yatai/shop/quoting"
	"yatai/shop/week"
	"yatai/shop/work"
	"yatai/store"
)

// TestWholeJob walks a head from its findings to the door, trying the gate on the way.
func TestWholeJob(t *testing.T) {
	f := shoptest.Open(t)
	ctx, chief, tech, tag := t.Context(), f.People[shop.Lead], f.People[shop.Technician], "T0401"
	var errs field.Errors
	require.ErrorAs(t, lead.OrderWork(ctx, f.Shop, chief, shoptest.ID(), tag), &errs)
	assert.Contains(t, errs.Message("work_order"), "11 findings without a decision")

	choices := map[string]lead.Choice{}
	for _, x := range f.File(t, tag).Received.Findings() {
		choices[x.Key()] = lead.Choice{Choice: f.File(t, tag).Received.Usual(x).Code}
	}
	choices["guide.clearance@4I1"] = lead.Choice{Choice: trade.Leave}
	require.ErrorAs(t, lead.Decide(ctx, f.Shop, chief, shoptest.ID(), tag, choices, headfile.PlanAsk{}), &errs)
	assert.Contains(t, errs.Message("guide.clearance@4I1"), "why")
	assert.Empty(t, f.File(t, tag).Decisions, "nothing half decided")
	choices["guide.clearance@4I1"] = lead.Choice{Choice: trade.Leave, Reason: "runs loose on purpose"}
	write := shoptest.ID()
	require.NoError(t, lead.Decide(ctx, f.Shop, chief, write, tag, choices, headfile.PlanAsk{}))
	require.NoError(t, lead.Decide(ctx, f.Shop, chief, write, tag, choices, headfile.PlanAsk{}), "sent twice")
	require.NoError(t, lead.OrderWork(ctx, f.Shop, chief, shoptest.ID(), tag))
	assert.Error(t, lead.OrderWork(ctx, f.Shop, chief, shoptest.ID(), tag))

	ops := f.File(t, tag).Operations
	seat, insert, ream := shoptest.Seq(ops, "seat_cut"), shoptest.Seq(ops, "seat_insert"), shoptest.Seq(ops, "guide_ream")
	retest := shoptest.Seq(ops, "pressure_retest")
	assert.True(t, ream < insert && insert < retest && retest < seat && seat < shoptest.Seq(ops, "face"))
	require.ErrorAs(t, work.Start(ctx, f.Shop, tech, shoptest.ID(), tag, 2, work.Pauses), &errs)
	assert.Contains(t, errs.Message("op/2"), "first finish")
	require.ErrorAs(t, work.CloseHead(ctx, f.Shop, chief, tag, work.CloseForm{WriteID: shoptest.ID(), Refit: ""}), &errs)
	assert.Contains(t, errs.Message("gate"), "not proven yet")
	f.Approve(t, tag, quoting.Answer{Name: "the grower", Must: true})
	for _, o := range ops {
		require.NoError(t, work.Start(ctx, f.Shop, tech, shoptest.ID(), tag, o.Seq, work.Pauses))
		assert.ErrorIs(t, work.Start(ctx, f.Shop, tech, shoptest.ID(), tag, o.Seq, work.Pauses), shop.ErrStale,
			"somebody else started it")
		f.Record(t, tag, o)
		require.NoError(t, work.Finish(ctx, f.Shop, tech, shoptest.ID(), tag, o.Seq, "", "found in the drawer"))
	}

	// worked on, but not read again: the gate knows, down to the valves the facing cut lifted
	require.ErrorAs(t, work.CloseHead(ctx, f.Shop, chief, tag, work.CloseForm{WriteID: shoptest.ID(), Refit: ""}), &errs)
	waits := map[string]bool{}
	for _, l := range f.File(t, tag).Open() {
		waits[l.Key] = true
	}
	for _, key := range []string{
		"read:guide.bore@1E1", "read:seat.runout@1E1", "read:valve.recession@4I1", "read:head.thickness@T1",
		"read:face.line@X1",
	} {
		assert.True(t, waits[key], key)
	}
	assert.Equal(t, []string{"1E1", "2E1", "3E1"}, f.File(t, tag).Asked("seat.width"))
	assert.Len(t, f.File(t, tag).Asked("valve.recession"), 8)
	again := map[string]map[string]string{
		"guide.bore": {"1E1": "9.002", "3E1": "9.003"}, "stem.dia": {"1E1": "8.950", "3E1": "8.949", "2E1": "8.948"},
		"valve.margin": {"1E1": "1.6", "2E1": "1.6", "3E1": "1.6"},
		"seat.width":   {"1E1": "1.7", "2E1": "1.7", "3E1": "1.7"},
		"seat.runout":  {"1E1": "0.01", "2E1": "0.01", "3E1": "0.01"},
		"stem.height":  {"1E1": "46.2", "2E1": "46.2", "3E1": "46.2"}, "head.thickness": {}, "face.line": {},
		"valve.recession": {},
		"spring.height":   {"1E1": "38.2", "2E1": "38.2", "3E1": "38.2"}, "lash": {},
	}
	file := f.File(t, tag)
	for _, v := range file.Layout.Valves { // the face was cut: it lifted every valve
		again["valve.recession"][v.ID], again["lash"][v.ID] = "0.70", "0.25 0.30"
	}
	for _, c := range file.Layout.Corners {
		again["head.thickness"][c.Name] = "98.45"
	}
	for _, l := range file.Layout.Lines {
		again["face.line"][l.Name] = "0.03"
	}
	for code, at := range again {
		c, _ := trade.ByCode(code)
		for _, sp := range c.Spots(file.Layout) {
			if text, ok := at[sp.Position]; ok {
				require.NoError(t, f.Typed(ctx, tech, tag, f.Sweep(t, tag, code, headfile.AfterRepair, sp, text)))
			}
		}
	}
	looked := map[string]map[string]string{
		"valve.face": {"2E1": "clean"}, "seat.condition": {"1E1": "clean", "2E1": "clean", "3E1": "clean"},
		"rocker.condition": {"1E1": "sound"},
		"tip.condition":    {"1E1": "clean", "2E1": "clean", "3E1": "clean"},
	}
	for part, grades := range looked {
		require.NoError(t, bench.Grade(ctx, f.Shop, tech, shoptest.ID(), tag, part, headfile.AfterRepair, grades, nil))
	}
	file = f.File(t, tag)
	require.Len(t, file.Open(), 1, "the doubt at 4I1 was released with its reason: %v", file.Open())
	require.NoError(t, bench.Release(ctx, f.Shop, chief, shoptest.ID(), tag, file.Open()[0].Tool,
		"read with a second gauge since"))
	assert.ErrorIs(t, work.SignDeviation(ctx, f.Shop, tech, shoptest.ID(), tag, "guide.clearance@4I1", "looks fine"),
		shop.ErrForbidden)
	require.Error(t, work.HandOver(ctx, f.Shop, chief, shoptest.ID(), tag, "driver"), "not closed yet")
	require.NoError(t, work.CloseHead(ctx, f.Shop, chief, tag,
		work.CloseForm{WriteID: shoptest.ID(), Refit: "torque in three stages"}))
	assert.Error(t, f.Typed(
		ctx, tech, tag, f.Sweep(t, tag, "seat.width", headfile.Final, trade.Spot{Position: "1I1"}, "1.5"),
	), "closed heads keep their readings")
	require.NoError(t, work.HandOver(ctx, f.Shop, f.People[shop.Counter], shoptest.ID(), tag, "the pump's driver"))
	cards, err := week.Floor(ctx, f.Shop)
	require.NoError(t, err)
	for _, c := range cards {
		assert.NotEqual(t, tag, c.Tag, "it has left the floor")
	}
	failsAfterwards(t, f, tag)
}

// failsAfterwards: a tool that fails its zero check names the heads that have left with its readings, whom to
// call, until the lead has released them.
func failsAfterwards(t *testing.T, f *shoptest.Fixture, tag string) {
	t.Helper()
	ctx, tech, chief := t.Context(), f.People[shop.Technician], f.People[shop.Lead]
	before, err := bench.Delivered(ctx, f.Shop)
	require.NoError(t, err)
	assert.Empty(t, before)
	file := f.File(t, tag)
	i := slices.IndexFunc(file.Readings, func(r store.Reading) bool {
		return r.Characteristic == "seat.width" && r.Stage != headfile.AsReceived
	})
	tool := file.Readings[i].Tool
	passed, err := bench.CheckZero(ctx, f.Shop, tech, shoptest.ID(), tool.ID, tool.Text(tool.Standard+2*tool.Tolerance))
	require.NoError(t, err)
	require.False(t, passed)
	left, err := bench.Delivered(ctx, f.Shop)
	require.NoError(t, err)
	for _, x := range left {
		assert.NotNil(t, f.File(t, x.Tag).HandedOverAt, "%s: a head that is still here says so itself", x.Tag)
	}
	others := len(left) - 1
	require.Equal(t, tag, left[0].Tag, "the last that left comes first")
	assert.Equal(t, tool.Name, left[0].Tool)
	assert.Equal(t, file.Job.Customer.Name, left[0].Customer)
	count := 0
	for _, at := range f.File(t, tag).Suspect {
		if at.ToolID == tool.ID {
			count++
		}
	}
	assert.Equal(t, count, left[0].Count)
	page, err := bench.Tool(ctx, f.Shop, tool.ID)
	require.NoError(t, err)
	assert.Equal(t, left, page.Left)
	require.NoError(t, bench.Release(ctx, f.Shop, chief, shoptest.ID(), tag, tool.ID, "the customer had them read again"))
	left, err = bench.Delivered(ctx, f.Shop)
	require.NoError(t, err)
	assert.Len(t, left, others)
}

// TestAcknowledgedReadingsSurviveKill kills a child process in a loop of writes: every
// reading it was told is written must be there, and the file be sound.
func TestAcknowledgedReadingsSurviveKill(t *testing.T) {
	if path := os.Getenv("YATAI_WRITE_LOOP"); path != "" {
		writeLoop(t, path)
		return
	}
	f := shoptest.Open(t)
	require.NoError(t, f.Store.Close())
	cmd := exec.Command(os.Args[0], "-test.run", "^TestAcknowledgedReadingsSurviveKill$")
	cmd.Env = append(os.Environ(), "YATAI_WRITE_LOOP="+f.Path)
	out, err := cmd.StdoutPipe()
	require.NoError(t, err)
	require.NoError(t, cmd.Start())
	acknowledged := map[string]bool{}
	for lines := bufio.NewScanner(out); lines.Scan(); {
		if key, ok := cutPrefix(lines.Text(), "ack "); ok {
			acknowledged[key] = true
		}
		if len(acknowledged) == 40 {
			require.NoError(t, cmd.Process.Kill())
		}
	}
	_ = cmd.Wait()
	require.GreaterOrEqual(t, len(acknowledged), 40)
	st, err := store.Open(f.Path)
	require.NoError(t, err)
	defer func() { _ = st.Close() }()
	require.NoError(t, st.Check(t.Context()))
	for key := range acknowledged {
		_, err := st.Read(t.Context()).ReadingByClient(key)
		assert.NoError(t, err, key)
	}
}

func cutPrefix(s, p string) (string, bool) {
	if len(s) > len(p) && s[:len(p)] == p {
		return s[len(p):], true
	}
	return "", false
}

// writeLoop records readings until it is killed, telling each that was acknowledged.
func writeLoop(t *testing.T, path string) {
	st, err := store.Open(path)
	require.NoError(t, err)
	f := &shoptest.Fixture{Shop: shop.New(st, time.Now)}
	c, _ := trade.ByCode("guide.bore")
	chief := shop.Actor{ID: 1, Role: shop.Lead}
	for _, sp := range c.Spots(f.File(t, "T0407").Layout) {
		form := f.Sweep(t, "T0407", "guide.bore", headfile.AsReceived, sp, "8.012")
		form.Entries[0].ClientID = "kill-" + sp.Key()
		require.NoError(t, f.Typed(context.Background(), chief, "T0407", form))
		fmt.Println("ack " + form.Entries[0].ClientID)
	}
}

func BenchmarkRecord(b *testing.B) {
	f := shoptest.Open(b)
	tech := f.People[shop.Technician]
	form := f.Sweep(b, "T0404", "valve.recession", headfile.AsReceived, trade.Spot{Position: "1I1"}, "1.10")
	form.Why = "benchmark"
	for b.Loop() {
		form.Entries[0].ClientID = shoptest.ID()
		if err := f.Typed(b.Context(), tech, "T0404", form); err != nil {
			b.Fatal(err)
		}
	}
}

func BenchmarkFile(b *testing.B) {
	f := shoptest.Open(b)
	for b.Loop() {
		f.File(b, "T0402")
	}
}
