package shop_test

import (
	"bufio"
	"context"
	"fmt"
	"os"
	"os/exec"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/field"
	"yatai/core/gauge"
	"yatai/core/trade"
	"yatai/internal/demofile"
	"yatai/shop"
	"yatai/shop/bench"
	"yatai/shop/headfile"
	"yatai/shop/intake"
	"yatai/shop/lead"
	"yatai/shop/library"
	"yatai/shop/people"
	"yatai/shop/quoting"
	"yatai/shop/week"
	"yatai/shop/work"
	"yatai/store"
)

// fixture is a shop on a copy of the demo's file, with its people.
type fixture struct {
	*shop.Shop
	st     *store.Store
	people map[string]shop.Actor
	path   string
}

func open(t testing.TB) *fixture {
	t.Helper()
	f := &fixture{people: map[string]shop.Actor{}, path: demofile.Path(t)}
	var err error
	f.st, err = store.Open(f.path)
	require.NoError(t, err)
	t.Cleanup(func() { _ = f.st.Close() })
	f.Shop = shop.New(f.st, time.Now)
	users, err := people.People(t.Context(), f.Shop)
	require.NoError(t, err)
	for _, u := range users {
		f.people[u.Role] = shop.Actor{ID: u.ID, Name: u.Name, Role: u.Role}
	}
	return f
}

var ids int

func id() string {
	ids++
	return fmt.Sprintf("test-%08d", ids)
}

func (f *fixture) file(t testing.TB, tag string) *headfile.File {
	t.Helper()
	file, err := headfile.Open(t.Context(), f.Shop, tag)
	require.NoError(t, err)
	return file
}

// sweep is a form for one reading with the first tool that fits.
func (f *fixture) sweep(t testing.TB, tag, code, stage string, spot trade.Spot, text string) bench.SweepForm {
	t.Helper()
	c, _ := trade.ByCode(code)
	form := bench.SweepForm{Characteristic: code, Stage: stage, Entries: []bench.Entry{{ClientID: id(), Spot: spot, Text: text}}}
	for _, tool := range f.file(t, tag).Tools {
		if tool.Kind == c.ToolKind() && form.Tool == 0 {
			form.Tool = tool.ID
		}
	}
	return form
}

// typed records a sweep and returns only what was wrong with it.
func (f *fixture) typed(ctx context.Context, a shop.Actor, tag string, form bench.SweepForm) error {
	_, err := bench.Record(ctx, f.Shop, a, tag, form)
	return err
}

// approve quotes what is decided and records the customer's answer.
func (f fixture) approve(t testing.TB, tag string, said quoting.Answer) int {
	t.Helper()
	front := f.people[shop.Counter]
	v, err := quoting.MakeQuote(t.Context(), f.Shop, front, id(), tag, quoting.Draft{})
	require.NoError(t, err)
	require.NoError(t, quoting.ApproveVerbally(t.Context(), f.Shop, front, id(), tag, v, said, "by telephone"))
	return v
}

// good is what is written into the fields of the records, all of it passing.
var good = map[string]string{
	"pressure": "2bar", "water": "60C", "minutes": "20", "leaks": "0", "guides": "yes", "threads": "yes", "ways": "yes", "places": "yes",
	"seals": "yes", "order": "yes", "keepers": "yes",
	"baseline": "84kPa", "vacuum": "82 82 81 kPa", "paste": "fine", "passes": "3", "ring": "yes", "how": "stitched", "by": "Odo",
	"thread": "M10", "insert": "2 D", "drill": "10.4 mm",
}

// passing is a record of an operation that passes.
func passing(code string) map[string]string {
	out := map[string]string{}
	for _, x := range trade.OperationNamed(code).Record.Fields {
		if v := good[x.Name]; v != "" {
			out[x.Name] = v
		}
	}
	return out
}

// record writes down what a running operation's record asks for, all of it good.
func (f fixture) record(t testing.TB, tag string, o store.Operation) {
	t.Helper()
	k := trade.OperationNamed(o.Code)
	if k.Record == nil {
		return
	}
	rows := map[string]map[string]string{"": passing(o.Code)}
	if k.Record.Each {
		delete(rows, "")
		for _, at := range o.At() {
			rows[at] = passing(o.Code)
		}
	}
	require.NoError(t, bench.RecordWork(t.Context(), f.Shop, f.people[shop.Technician], id(), tag, o.Seq, rows))
}

func TestJudgementOfTheDemoHead(t *testing.T) {
	f := open(t).file(t, "T0401")
	says := map[string]gauge.Verdict{}
	for _, x := range f.Received.Findings() {
		says[x.Key()] = x.Verdict
		assert.True(t, x.Finding != 0 || x.Limit.Source != "", x.Key())
		assert.NotEmpty(t, x.Why(f.Unit))
		assert.NotEmpty(t, f.Received.Offers(x), x.Key())
	}
	assert.Equal(t, gauge.Out, says["guide.clearance@1E1"])
	assert.Equal(t, gauge.Out, says["valve.recession@2E1"])
	assert.Equal(t, gauge.Doubt, says["guide.clearance@4I1"])
	assert.Equal(t, gauge.Out, says["face.line/long"])
	x, _ := f.Received.Feature("guide.clearance@4I1")
	assert.Equal(t, "Tapered pilot", x.Settle, "the coarsest tool that would tell")
}

func TestGeneralTableSaysSo(t *testing.T) {
	f := open(t)
	chief := f.people[shop.Lead]
	for _, e := range []struct{ code, place, text string }{{"guide.bore", "top", "8.070"}, {"stem.dia", "top", "7.960"}} {
		spot := trade.Spot{Position: "1I1", Place: e.place}
		if e.code == "guide.bore" {
			spot.Dir = "A"
		}
		form := f.sweep(t, "T0404", e.code, headfile.AsReceived, spot, e.text)
		form.Why = "read again"
		require.NoError(t, f.typed(t.Context(), chief, "T0404", form))
	}
	x, ok := f.file(t, "T0404").Received.Feature("guide.clearance@1I1")
	require.True(t, ok)
	assert.Equal(t, "general table", x.Limit.Source)
	assert.Equal(t, gauge.Out, x.Verdict)
}

func TestCorrectionSupersedes(t *testing.T) {
	f := open(t)
	tech := f.people[shop.Technician]
	spot := trade.Spot{Position: "2E1"}
	before := len(f.file(t, "T0401").Readings)
	form := f.sweep(t, "T0401", "valve.recession", headfile.AsReceived, spot, "0.71")
	var errs field.Errors
	require.ErrorAs(t, f.typed(t.Context(), tech, "T0401", form), &errs)
	assert.Contains(t, errs.Message("2E1"), "1.56")
	form.Why = "read again"
	require.NoError(t, f.typed(t.Context(), tech, "T0401", form))
	require.NoError(t, f.typed(t.Context(), tech, "T0401", form), "sent twice")
	file := f.file(t, "T0401")
	assert.Len(t, file.Readings, before+1, "nothing overwritten, nothing written twice")
	x, _ := file.Received.Feature("valve.recession@2E1")
	assert.Equal(t, gauge.Sound, x.Verdict)
	last := file.Readings[len(file.Readings)-1]
	assert.NotNil(t, last.Supersedes)
	assert.Equal(t, "read again", last.Why)
	// a retry whose value was changed on the way is not swallowed
	form.Entries[0].Text = "0.99"
	assert.Error(t, f.typed(t.Context(), tech, "T0401", form))
}

func TestBadReadings(t *testing.T) {
	f := open(t)
	tech := f.people[shop.Technician]
	for text, says := range map[string]string{
		"abc": "not a number", "": "nothing", "8.5": "lies between", "0.355": "write the unit", "3 cubits": "unknown unit", "11m": "10 m", "-9": "lies between",
		"99999999999999999999999999999999999999999999999999": "too much",
	} {
		code, spot := "guide.bore", trade.Spot{Position: "1I1", Place: "top", Dir: "A"}
		if text == "8.5" || text == "-9" { // sizes for a guide, not for a seat
			code, spot = "seat.width", trade.Spot{Position: "1I1"}
		}
		if text == "8.5" {
			text = "85"
		}
		form := f.sweep(t, "T0407", code, headfile.AsReceived, spot, text)
		var errs field.Errors
		require.ErrorAs(t, f.typed(t.Context(), tech, "T0407", form), &errs, text)
		assert.Contains(t, errs.Message(spot.Key()), says, text)
	}
	form := f.sweep(t, "T0407", "guide.bore", headfile.AsReceived, trade.Spot{Position: "9E9", Place: "top", Dir: "A"}, "8.01")
	form.Entries = append(form.Entries, bench.Entry{ClientID: id(), Spot: trade.Spot{Position: "1I1", Place: "top", Dir: "A"}, Text: "8.01"})
	var errs field.Errors
	require.ErrorAs(t, f.typed(t.Context(), tech, "T0407", form), &errs)
	assert.Contains(t, errs.Message("9E9.top.A"), "no such place")
	assert.Empty(t, f.file(t, "T0407").Readings, "all or nothing")
}

// TestWholeJob walks a head from its findings to the door, trying the gate on the way.
func TestWholeJob(t *testing.T) {
	f := open(t)
	ctx, chief, tech, tag := t.Context(), f.people[shop.Lead], f.people[shop.Technician], "T0401"
	var errs field.Errors
	require.ErrorAs(t, lead.OrderWork(ctx, f.Shop, chief, id(), tag), &errs)
	assert.Contains(t, errs.Message("work_order"), "11 findings without a decision")

	choices := map[string]lead.Choice{}
	for _, x := range f.file(t, tag).Received.Findings() {
		choices[x.Key()] = lead.Choice{Choice: f.file(t, tag).Received.Usual(x).Code}
	}
	choices["guide.clearance@4I1"] = lead.Choice{Choice: trade.Leave}
	require.ErrorAs(t, lead.Decide(ctx, f.Shop, chief, id(), tag, choices), &errs)
	assert.Contains(t, errs.Message("guide.clearance@4I1"), "why")
	assert.Empty(t, f.file(t, tag).Decisions, "nothing half decided")
	choices["guide.clearance@4I1"] = lead.Choice{Choice: trade.Leave, Reason: "runs loose on purpose"}
	write := id()
	require.NoError(t, lead.Decide(ctx, f.Shop, chief, write, tag, choices))
	require.NoError(t, lead.Decide(ctx, f.Shop, chief, write, tag, choices), "sent twice")
	require.NoError(t, lead.OrderWork(ctx, f.Shop, chief, id(), tag))
	assert.Error(t, lead.OrderWork(ctx, f.Shop, chief, id(), tag))

	ops := f.file(t, tag).Operations
	seat, insert, ream := seq(ops, "seat_cut"), seq(ops, "seat_insert"), seq(ops, "guide_ream")
	assert.True(t, ream < insert && insert < seq(ops, "pressure_retest") && seq(ops, "pressure_retest") < seat && seat < seq(ops, "face"))
	require.ErrorAs(t, work.Start(ctx, f.Shop, tech, id(), tag, 2), &errs)
	assert.Contains(t, errs.Message("op/2"), "first finish")
	require.ErrorAs(t, work.CloseHead(ctx, f.Shop, chief, tag, work.CloseForm{WriteID: id(), Refit: ""}), &errs)
	assert.Contains(t, errs.Message("gate"), "not proven yet")
	f.approve(t, tag, quoting.Answer{Name: "the grower", Must: true})
	for _, o := range ops {
		require.NoError(t, work.Start(ctx, f.Shop, tech, id(), tag, o.Seq))
		assert.ErrorIs(t, work.Start(ctx, f.Shop, tech, id(), tag, o.Seq), shop.ErrStale, "somebody else started it")
		f.record(t, tag, o)
		require.NoError(t, work.Finish(ctx, f.Shop, tech, id(), tag, o.Seq, ""))
	}

	// worked on, but not read again: the gate knows, down to the valves the facing cut lifted
	require.ErrorAs(t, work.CloseHead(ctx, f.Shop, chief, tag, work.CloseForm{WriteID: id(), Refit: ""}), &errs)
	waits := map[string]bool{}
	for _, l := range f.file(t, tag).Open() {
		waits[l.Key] = true
	}
	for _, key := range []string{"read:guide.bore@1E1", "read:seat.runout@1E1", "read:valve.recession@4I1", "read:head.thickness@T1", "read:face.line@X1"} {
		assert.True(t, waits[key], key)
	}
	assert.Equal(t, []string{"1E1", "2E1", "3E1"}, f.file(t, tag).Asked("seat.width"))
	assert.Len(t, f.file(t, tag).Asked("valve.recession"), 8)
	again := map[string]map[string]string{
		"guide.bore": {"1E1": "9.002", "3E1": "9.003"}, "stem.dia": {"1E1": "8.950", "3E1": "8.949", "2E1": "8.948"},
		"valve.margin": {"1E1": "1.6", "2E1": "1.6", "3E1": "1.6"},
		"seat.width":   {"1E1": "1.7", "2E1": "1.7", "3E1": "1.7"}, "seat.runout": {"1E1": "0.01", "2E1": "0.01", "3E1": "0.01"},
		"stem.height": {"1E1": "46.2", "2E1": "46.2", "3E1": "46.2"}, "head.thickness": {}, "face.line": {}, "valve.recession": {},
		"spring.height": {"1E1": "38.2", "2E1": "38.2", "3E1": "38.2"}, "lash": {"1E1": "0.25 0.30", "2E1": "0.25 0.30", "3E1": "0.25 0.30"},
	}
	file := f.file(t, tag)
	for _, v := range file.Layout.Valves { // the face was cut: it lifted every valve
		again["valve.recession"][v.ID] = "0.70"
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
				require.NoError(t, f.typed(ctx, tech, tag, f.sweep(t, tag, code, headfile.AfterRepair, sp, text)))
			}
		}
	}
	looked := map[string]map[string]string{
		"valve.face": {"2E1": "clean"}, "seat.condition": {"1E1": "clean", "2E1": "clean", "3E1": "clean"}, "rocker.condition": {"1E1": "sound"},
		"tip.condition": {"1E1": "clean", "2E1": "clean", "3E1": "clean"},
	}
	for part, grades := range looked {
		require.NoError(t, bench.Grade(ctx, f.Shop, tech, id(), tag, part, headfile.AfterRepair, grades, nil))
	}
	file = f.file(t, tag)
	require.Len(t, file.Open(), 1, "the doubt at 4I1 was released with its reason: %v", file.Open())
	require.NoError(t, bench.Release(ctx, f.Shop, chief, id(), tag, file.Open()[0].Tool, "read with a second gauge since"))
	assert.ErrorIs(t, work.SignDeviation(ctx, f.Shop, tech, id(), tag, "guide.clearance@4I1", "looks fine"), shop.ErrForbidden)
	require.Error(t, work.HandOver(ctx, f.Shop, chief, id(), tag, "driver"), "not closed yet")
	require.NoError(t, work.CloseHead(ctx, f.Shop, chief, tag, work.CloseForm{WriteID: id(), Refit: "torque in three stages"}))
	assert.Error(t, f.typed(ctx, tech, tag, f.sweep(t, tag, "seat.width", headfile.Final, trade.Spot{Position: "1I1"}, "1.5")), "closed heads keep their readings")
	require.NoError(t, work.HandOver(ctx, f.Shop, f.people[shop.Counter], id(), tag, "the pump's driver"))
	cards, err := week.Floor(ctx, f.Shop)
	require.NoError(t, err)
	for _, c := range cards {
		assert.NotEqual(t, tag, c.Tag, "it has left the floor")
	}
}

func seq(ops []store.Operation, code string) int {
	for _, o := range ops {
		if o.Code == code {
			return o.Seq
		}
	}
	return -1
}

// TestSignatureHoldsOnlyForItsFigures checks that another reading asks the lead again.
func TestSignatureHoldsOnlyForItsFigures(t *testing.T) {
	f := open(t)
	ctx, chief := t.Context(), f.people[shop.Lead]
	form := f.sweep(t, "T0405", "valve.margin", headfile.AfterRepair, trade.Spot{Position: "1I1"}, "0.80")
	require.NoError(t, f.typed(ctx, chief, "T0405", form))
	require.Len(t, f.file(t, "T0405").Open(), 1)
	require.NoError(t, work.SignDeviation(ctx, f.Shop, chief, id(), "T0405", "valve.margin@1I1", "last season of this valve"))
	require.Empty(t, f.file(t, "T0405").Open())
	worse := f.sweep(t, "T0405", "valve.margin", headfile.AfterRepair, trade.Spot{Position: "1I1"}, "0.70")
	worse.Why = "ground again"
	require.NoError(t, f.typed(ctx, chief, "T0405", worse))
	assert.Len(t, f.file(t, "T0405").Open(), 1)
}

// TestFailedZeroCheck follows a gauge that was dropped: blocked, its readings suspect until
// they are read again or released.
func TestFailedZeroCheck(t *testing.T) {
	f := open(t)
	ctx, tech, chief := t.Context(), f.people[shop.Technician], f.people[shop.Lead]
	spot := trade.Spot{Position: "1I1", Place: "top", Dir: "A"}
	form := f.sweep(t, "T0407", "guide.bore", headfile.AsReceived, spot, "8.012")
	require.NoError(t, f.typed(ctx, tech, "T0407", form))
	assert.Empty(t, f.file(t, "T0407").Suspect)

	_, err := bench.CheckZero(ctx, f.Shop, tech, id(), form.Tool, "0.002")
	assert.ErrorContains(t, err, "type the whole size")
	write := id()
	passed, err := bench.CheckZero(ctx, f.Shop, tech, write, form.Tool, "8.0021 mm")
	require.NoError(t, err)
	assert.False(t, passed, "a tenth of a micrometre over is over")
	passed, err = bench.CheckZero(ctx, f.Shop, tech, write, form.Tool, "8.0021 mm")
	require.NoError(t, err, "sent twice")
	assert.False(t, passed)
	assert.Len(t, f.file(t, "T0407").Suspect, 1)
	var errs field.Errors
	form.Why = "again"
	form.Entries[0].ClientID = id()
	require.ErrorAs(t, f.typed(ctx, tech, "T0407", form), &errs)
	assert.Contains(t, errs.Message("tool"), "failed its zero check")

	passed, err = bench.CheckZero(ctx, f.Shop, tech, id(), form.Tool, "8.002")
	require.NoError(t, err)
	assert.True(t, passed, "inclusive")
	assert.Len(t, f.file(t, "T0407").Suspect, 1, "a later good check does not clear what was read before")
	require.NoError(t, f.typed(ctx, tech, "T0407", form))
	assert.Empty(t, f.file(t, "T0407").Suspect, "read again")

	x, _ := f.file(t, "T0401").Now.Feature("guide.clearance@4I1")
	assert.True(t, f.file(t, "T0401").SuspectIn(x), "the demo's dropped gauge")
	coarse := f.file(t, "T0401").Suspect[x.From[0]].ToolID
	assert.ErrorIs(t, bench.Release(ctx, f.Shop, tech, id(), "T0401", coarse, "fine"), shop.ErrForbidden)
	require.ErrorAs(t, bench.Release(ctx, f.Shop, chief, id(), "T0401", coarse, " "), &errs)
	require.NoError(t, bench.Release(ctx, f.Shop, chief, id(), "T0401", coarse, "same figure with the ring gauge"))
	for _, z := range f.file(t, "T0401").Suspect {
		assert.NotEqual(t, coarse, z.ToolID)
	}
}

func TestTwoPeopleEditOneSheet(t *testing.T) {
	f := open(t)
	ctx, owner := t.Context(), f.people[shop.Owner]
	rows := map[string]library.LimitEntry{"seat.width/intake": {Low: "1.1", High: "2.1", Source: "shop practice"}}
	v, err := library.EditSheet(ctx, f.Shop, owner, id(), 1, 6, "service", "wider", rows)
	require.NoError(t, err)
	assert.Equal(t, 7, v)
	_, err = library.EditSheet(ctx, f.Shop, owner, id(), 1, 6, "service", "mine too", rows)
	assert.ErrorContains(t, err, "somebody wrote version 7")
	assert.Equal(t, 6, f.file(t, "T0401").Sheet.Version, "a head keeps its version")
	_, err = library.EditSheet(ctx, f.Shop, owner, id(), 1, 7, "service", "bad", map[string]library.LimitEntry{"seat.width/intake": {Low: "3", High: "2"}})
	var errs field.Errors
	require.ErrorAs(t, err, &errs)
	assert.Contains(t, errs.Message("seat.width/intake/low"), "above")
	assert.Contains(t, errs.Message("seat.width/intake/source"), "where")
}

// TestAcknowledgedReadingsSurviveKill kills a child process in a loop of writes: every
// reading it was told is written must be there, and the file be sound.
func TestAcknowledgedReadingsSurviveKill(t *testing.T) {
	if path := os.Getenv("YATAI_WRITE_LOOP"); path != "" {
		writeLoop(t, path)
		return
	}
	f := open(t)
	require.NoError(t, f.st.Close())
	cmd := exec.Command(os.Args[0], "-test.run", "^TestAcknowledgedReadingsSurviveKill$")
	cmd.Env = append(os.Environ(), "YATAI_WRITE_LOOP="+f.path)
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
	st, err := store.Open(f.path)
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
	f := &fixture{Shop: shop.New(st, time.Now), st: st}
	c, _ := trade.ByCode("guide.bore")
	chief := shop.Actor{ID: 1, Role: shop.Lead}
	for _, sp := range c.Spots(f.file(t, "T0407").Layout) {
		form := f.sweep(t, "T0407", "guide.bore", headfile.AsReceived, sp, "8.012")
		form.Entries[0].ClientID = "kill-" + sp.Key()
		require.NoError(t, f.typed(context.Background(), chief, "T0407", form))
		fmt.Println("ack " + form.Entries[0].ClientID)
	}
}

func BenchmarkRecord(b *testing.B) {
	f := open(b)
	tech := f.people[shop.Technician]
	form := f.sweep(b, "T0404", "valve.recession", headfile.AsReceived, trade.Spot{Position: "1I1"}, "1.10")
	form.Why = "benchmark"
	for b.Loop() {
		form.Entries[0].ClientID = id()
		if err := f.typed(b.Context(), tech, "T0404", form); err != nil {
			b.Fatal(err)
		}
	}
}

func BenchmarkFile(b *testing.B) {
	f := open(b)
	for b.Loop() {
		f.file(b, "T0402")
	}
}

// TestSheetWantsWhatItLimits reads a characteristic no sheet has limits for, then gives the
// sheet one: heads taken in from then on want it, the old one does not.
func TestSheetWantsWhatItLimits(t *testing.T) {
	f := open(t)
	ctx, chief, owner := t.Context(), f.people[shop.Lead], f.people[shop.Owner]
	tip := f.sweep(t, "T0401", "valve.tip", headfile.AsReceived, trade.Spot{Position: "1I1"}, "4.1")
	require.NoError(t, f.typed(ctx, chief, "T0401", tip))
	x, ok := f.file(t, "T0401").Now.Feature("valve.tip@1I1")
	require.True(t, ok)
	assert.Equal(t, gauge.Unread, x.Verdict)
	assert.Contains(t, x.Note, "no limit")

	m, err := library.ModelOf(ctx, f.Shop, 1)
	require.NoError(t, err)
	rows := map[string]library.LimitEntry{"spring.free/exhaust": {Low: "48", High: "52", Source: "Brindlow sheet 4"}}
	_, err = library.EditSheet(ctx, f.Shop, owner, id(), 1, m.Sheet.Version, "service", "free length instead of the rest", rows)
	require.NoError(t, err)
	tag, err := intake.TakeIn(ctx, f.Shop, chief, intake.IntakeForm{
		WriteID: id(), Customer: "Mossfield Growers", Machine: "Pump house 2", Model: "1", Kind: "rebuild",
	})
	require.NoError(t, err)
	assert.Equal(t, "0 of 134", f.file(t, tag).Steps()[3].Said.String(), "eight free lengths more, lash and spring heights less")
	assert.Equal(t, "142 of 142", f.file(t, "T0401").Steps()[3].Said.String())
	require.NoError(t, f.typed(ctx, chief, tag, f.sweep(t, tag, "spring.free", headfile.AsReceived, trade.Spot{Position: "1E1"}, "46.5")))
	x, _ = f.file(t, tag).Now.Feature("spring.free@1E1")
	assert.Equal(t, gauge.Out, x.Verdict)
	cards, err := week.Floor(ctx, f.Shop)
	require.NoError(t, err)
	for _, c := range cards {
		if c.Tag == tag {
			assert.Equal(t, "measured 1 of 134", c.Waiting)
		}
	}
}

// TestAPromiseIsADate wherever the shop is.
func TestAPromiseIsADate(t *testing.T) {
	day := time.Date(2031, 5, 20, 0, 0, 0, 0, time.UTC)
	assert.Equal(t, "2031-05-20", store.Job{Promise: &day}.Promised().Format(time.DateOnly))
	was := time.Local
	defer func() { time.Local = was }()
	for _, hours := range []int{-11, -5, 0, 9, 13} {
		time.Local = time.FixedZone("here", hours*3600)
		assert.Equal(t, "2031-05-20", store.Job{Promise: &day}.Promised().Format(time.DateOnly), "%d hours from Greenwich", hours)
	}
	assert.Nil(t, store.Job{}.Promised())
}
