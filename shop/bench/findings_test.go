package bench_test

import (
	"bytes"
	"fmt"
	"image"
	"image/color"
	"image/png"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/field"
	"yatai/core/gauge"
	"yatai/core/length"
	"yatai/core/trade"
	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/bench"
	"yatai/shop/headfile"
	"yatai/shop/intake"
	"yatai/shop/library"
	"yatai/store"
)

func TestGradesAreJudgedAndReplaced(t *testing.T) {
	f := shoptest.Open(t)
	ctx, tech := t.Context(), f.People[shop.Technician]
	grade := func(stage, grade string) {
		require.NoError(t, bench.Grade(ctx, f.Shop, tech, shoptest.ID(), "T0404", "valve.face", stage,
			map[string]string{"2E1": grade}, nil))
	}
	grade(headfile.AsReceived, "light_pits")
	grade(headfile.AsReceived, "burnt")
	file := f.File(t, "T0404")
	x, ok := file.Received.Feature("valve.face@2E1")
	require.True(t, ok)
	assert.Equal(t, gauge.Renew, x.Verdict, "the later grade counts")
	p, _ := file.Received.Position("2E1")
	assert.Equal(t, gauge.Renew, p.Worst)
	assert.Len(t, file.Findings, 2, "nothing is lost")
	grade(headfile.AfterRepair, "clean")
	file = f.File(t, "T0404")
	was, _ := file.Received.Feature("valve.face@2E1")
	now, _ := file.Now.Feature("valve.face@2E1")
	assert.Equal(t, gauge.Renew, was.Verdict)
	assert.Equal(t, gauge.Sound, now.Verdict)
	var errs field.Errors
	require.ErrorAs(
		t,
		bench.Grade(ctx, f.Shop, tech, shoptest.ID(), "T0404", "valve.face", headfile.AsReceived,
			map[string]string{"2E1": "melted", "9X9": "clean"}, nil),
		&errs,
	)
	assert.Contains(t, errs, "2E1")
	assert.Contains(t, errs, "9X9")
	assert.ErrorIs(t, bench.Grade(ctx, f.Shop, f.People[shop.Counter], shoptest.ID(), "T0404", "valve.face",
		headfile.AsReceived, nil, nil), shop.ErrForbidden)
}

func TestCrackIsAFindingUntilMended(t *testing.T) {
	f := shoptest.Open(t)
	ctx, tech := t.Context(), f.People[shop.Technician]
	mark := bench.MarkForm{WriteID: shoptest.ID(), Grade: "crack", X: "178", Y: "74 mm", Stage: headfile.AsReceived}
	require.NoError(t, bench.Mark(ctx, f.Shop, tech, "T0403", mark))
	require.NoError(t, bench.Mark(ctx, f.Shop, tech, "T0403", mark), "sent twice")
	file := f.File(t, "T0403")
	require.Len(t, file.Standings(headfile.AsReceived), 1)
	found := file.Received.Findings()
	crack := found[len(found)-1]
	assert.Equal(t, "mark.crack", crack.Code)
	assert.Equal(t, "weld", f.File(t, "T0403").Received.Usual(crack).Code)
	again := bench.MarkForm{WriteID: shoptest.ID(), Grade: "mended", Stage: headfile.AfterRepair, Replaces: crack.Finding}
	require.NoError(t, bench.Mark(ctx, f.Shop, tech, "T0403", again))
	again.WriteID = shoptest.ID()
	assert.ErrorIs(t, bench.Mark(ctx, f.Shop, tech, "T0403", again), shop.ErrStale)
	_, still := f.File(t, "T0403").Now.Feature(crack.Key())
	assert.False(t, still)
	var errs field.Errors
	require.ErrorAs(t, bench.Mark(ctx, f.Shop, tech, "T0403",
		bench.MarkForm{WriteID: shoptest.ID(), Grade: "smudge", X: "9000", Y: "-1", Stage: "soon"}), &errs)
	assert.Len(t, errs, 4)
}

// TestAMarkInInches is placed in inches by somebody who works in them, and refused in them.
func TestAMarkInInches(t *testing.T) {
	f := shoptest.Open(t)
	ctx, tech := t.Context(), f.People[shop.Technician]
	mark := bench.MarkForm{
		WriteID: shoptest.ID(), Grade: "crack", X: "2", Y: "25.4 mm", Unit: "in", Stage: headfile.AsReceived,
	}
	require.NoError(t, bench.Mark(ctx, f.Shop, tech, "T0403", mark))
	is := f.File(t, "T0403").Standings(headfile.AsReceived)[0]
	assert.Equal(t, [2]length.Length{2 * length.Inch, length.Inch}, [2]length.Length{is.X, is.Y})
	mark.WriteID, mark.X = shoptest.ID(), "200"
	var errs field.Errors
	require.ErrorAs(t, bench.Mark(ctx, f.Shop, tech, "T0403", mark), &errs)
	assert.Regexp(t, `^the face ends at [0-9.]+ in$`, errs.Message("x"))
}

// picture makes a PNG.
func picture(w, h int) *bytes.Buffer {
	img := image.NewRGBA(image.Rect(0, 0, w, h))
	img.Set(1, 1, color.RGBA{200, 30, 30, 255})
	var b bytes.Buffer
	_ = png.Encode(&b, img)
	return &b
}

func TestPhotoIsEncodedAnew(t *testing.T) {
	f := shoptest.Open(t)
	ctx, tech := t.Context(), f.People[shop.Technician]
	n, err := intake.AddPhoto(ctx, f.Shop, tech, shoptest.ID(), "T0401", "2E1", "the sunk seat", true, picture(3200, 400))
	require.NoError(t, err)
	p, err := intake.Photo(ctx, f.Shop, n)
	require.NoError(t, err)
	assert.Equal(t, []int{1600, 200}, []int{p.Width, p.Height})
	assert.Equal(t, "\xff\xd8\xff", string(p.JPEG[:3]), "a JPEG, whatever was sent")
	assert.Len(t, f.File(t, "T0401").Photos, 1)
	assert.Empty(t, f.File(t, "T0401").Photos[0].JPEG, "a page does not load the pictures")
	for _, bad := range []string{"", "<svg onload=alert(1)>", "GIF89a"} {
		_, err = intake.AddPhoto(ctx, f.Shop, tech, shoptest.ID(), "T0401", "", "", false, bytes.NewBufferString(bad))
		assert.ErrorContains(t, err, "photo:", bad)
	}
	require.NoError(t, intake.ShowPhoto(ctx, f.Shop, tech, shoptest.ID(), "T0401", n, false))
	assert.ErrorIs(t, intake.ShowPhoto(ctx, f.Shop, tech, shoptest.ID(), "T0402", n, true), shop.ErrNotFound,
		"not that head's")
}

func TestNewPartIsMeasuredBeforeItIsTrusted(t *testing.T) {
	f := shoptest.Open(t)
	ctx, tech := t.Context(), f.People[shop.Technician]
	trust := func() string {
		for _, c := range f.File(t, "T0405").Tray("1I1") {
			if c.Part == "valve" {
				return c.Trust.String()
			}
		}
		return "no valve"
	}
	require.NoError(
		t, bench.PlaceParts(ctx, f.Shop, tech, shoptest.ID(), "T0405", map[string]string{"1I1/valve": "new"}, ""),
	)
	assert.Equal(t, "not measured yet: stem, margin", trust())
	for _, place := range []string{"top", "middle", "bottom"} {
		require.NoError(t, f.Typed(ctx, tech, "T0405",
			f.Sweep(t, "T0405", "stem.dia", headfile.AfterRepair, trade.Spot{Position: "1I1", Place: place}, "8.981")))
	}
	require.NoError(t, f.Typed(ctx, tech, "T0405",
		f.Sweep(t, "T0405", "valve.margin", headfile.AfterRepair, trade.Spot{Position: "1I1"}, "1.6")))
	assert.Contains(t, trust(), "its stem is 8.981 mm, 8.952 to 8.966 mm allowed")
	var errs field.Errors
	require.ErrorAs(t, bench.PlaceParts(ctx, f.Shop, tech, shoptest.ID(), "T0405",
		map[string]string{"1I1/valve": "inferred"}, ""), &errs)
	assert.Contains(t, errs.Message("evidence"), "inferred")
	require.ErrorAs(t, bench.PlaceParts(ctx, f.Shop, tech, shoptest.ID(), "T0405", map[string]string{"1I1/wing": "new"},
		""), &errs)
}

func TestMixedBoxOfTheDemo(t *testing.T) {
	f := shoptest.Open(t).File(t, "T0412")
	got, err := bench.Box{f}.Sort([]bench.LooseForm{
		{Name: "a", Head: "50.1", Ring: "5.0", State: "carbon"}, {Name: "b", Head: "54", State: "oily"},
		{Name: "c", Head: "54", State: "dry"},
		{Name: "d", Head: "50", Ring: "4.2", State: "dry"},
	})
	require.NoError(t, err)
	var at []string
	for _, g := range got {
		at = append(at, g.Place)
	}
	assert.Equal(t, []string{"1E1", "1I2", "1I1", "1E2"}, at)
	_, err = bench.Box{f}.Sort([]bench.LooseForm{{Head: "x"}})
	var errs field.Errors
	require.ErrorAs(t, err, &errs)
	assert.Contains(t, errs, "loose/0/name")
	assert.Contains(t, errs, "loose/0/head")
}

// TestABoxOfASetIsPlacedOverItsHeads: two heads that came together, whose valves lie in one box. The wide ring
// is the other head's, and each tray gets its own.
func TestABoxOfASetIsPlacedOverItsHeads(t *testing.T) {
	f := shoptest.Open(t)
	ctx, tech := t.Context(), f.People[shop.Technician]
	first := f.File(t, "T0412")
	tag, err := intake.TakeIn(ctx, f.Shop, f.People[shop.Counter], intake.IntakeForm{
		WriteID: shoptest.ID(), With: "T0412", Kind: "rebuild", Customer: first.Job.Customer.Name,
		Machine: first.Job.Machine.Name, Model: strconv.Itoa(int(first.ModelID)),
	})
	require.NoError(t, err)
	with, err := bench.CameWith(ctx, f.Shop, first)
	require.NoError(t, err)
	require.Equal(t, []string{tag}, with)
	require.NoError(t, f.Typed(ctx, tech, tag,
		f.Sweep(t, tag, "seat.width", headfile.AsReceived, trade.Spot{Position: "1E1"}, "3.1")))
	alone, err := bench.BoxOf(ctx, f.Shop, first, false)
	require.NoError(t, err)
	require.Len(t, alone, 1)
	box, err := bench.BoxOf(ctx, f.Shop, f.File(t, "T0412"), true)
	require.NoError(t, err)
	require.Len(t, box, 2)
	got, err := box.Sort([]bench.LooseForm{
		{Name: "a", Head: "50.1", Ring: "5.0", State: "carbon"}, {Name: "b", Head: "50.1", Ring: "3.1"},
	})
	require.NoError(t, err)
	assert.Equal(t, []string{"T0412 1E1", tag + " 1E1"}, []string{got[0].Place, got[1].Place})
	id := shoptest.ID()
	require.NoError(t, box.Take(ctx, f.Shop, tech, id, got))
	require.NoError(t, box.Take(ctx, f.Shop, tech, id, got), "sent twice")
	for i, tag := range []string{"T0412", tag} {
		var at []string
		for _, p := range f.File(t, tag).Places {
			if p.State == "inferred" && strings.HasPrefix(p.Evidence, "valve "+got[i].Name+":") {
				at = append(at, p.Position+" "+p.Part)
			}
		}
		assert.Equal(t, []string{"1E1 valve"}, at)
	}
	_, err = box.Sort([]bench.LooseForm{{Name: "a", Head: "50"}, {Name: "a", Head: "50"}})
	require.ErrorContains(t, err, "another is marked so")
	assert.ErrorIs(t, box.Take(ctx, f.Shop, f.People[shop.Counter], shoptest.ID(), got), shop.ErrForbidden)
}

// TestVacuumThatTurnsWithTheValve judges the bent valve of the demo.
func TestVacuumThatTurnsWithTheValve(t *testing.T) {
	f := shoptest.Open(t)
	ctx, owner, tech := t.Context(), f.People[shop.Owner], f.People[shop.Technician]
	m, err := library.ModelOf(ctx, f.Shop, 1)
	require.NoError(t, err)
	_, err = library.EditSheet(ctx, f.Shop, owner, 1, library.SheetForm{
		WriteID: shoptest.ID(), Version: m.Sheet.Version, Set: "service", Note: "a seal test",
		Rows: map[string]library.LimitEntry{"seal.vacuum/intake": {High: "4", Source: "shop practice"}},
	})
	require.NoError(t, err)
	tag, err := intake.TakeIn(ctx, f.Shop, owner,
		intake.IntakeForm{WriteID: shoptest.ID(), Customer: "X", Machine: "Y", Model: "1", Kind: "failed"})
	require.NoError(t, err)
	rec := func(code, place, text string) {
		spot := trade.Spot{Position: "3I1", Place: place}
		if place == "" {
			spot.Position = "H"
		}
		require.NoError(t, f.Typed(ctx, tech, tag, f.Sweep(t, tag, code, headfile.AsReceived, spot, text)))
	}
	rec("test.baseline", "", "25 inHg")
	for place, text := range map[string]string{"0": "82", "90": "70", "180": "66", "270": "82"} {
		rec("test.vacuum", place, text)
	}
	x, ok := f.File(t, tag).Received.Feature("seal.vacuum@3I1")
	require.True(t, ok)
	assert.Equal(t, gauge.Out, x.Verdict)
	assert.Contains(t, x.Note, "turns with the valve")
	assert.Equal(t, "2.7 to 18.7", x.Figure(f.File(t, tag).Unit))
}

func TestOwnCharacteristicIsReadAndJudged(t *testing.T) {
	f := shoptest.Open(t)
	ctx, owner, tech := t.Context(), f.People[shop.Owner], f.People[shop.Technician]
	own := library.OwnForm{
		WriteID: shoptest.ID(), Label: "Fin crack gap", Spot: trade.AtCylinder, Unit: "length",
		Stat: headfile.OwnStats[1], ToolKind: "caliper",
	}
	require.NoError(t, library.AddOwn(ctx, f.Shop, owner, 1, own))
	own.WriteID = shoptest.ID()
	assert.ErrorContains(t, library.AddOwn(ctx, f.Shop, owner, 1, own), "of that name")
	m, err := library.ModelOf(ctx, f.Shop, 1)
	require.NoError(t, err)
	_, err = library.EditSheet(ctx, f.Shop, owner, 1, library.SheetForm{
		WriteID: shoptest.ID(), Version: m.Sheet.Version, Set: "service", Note: "own",
		Rows: map[string]library.LimitEntry{"own.1.1.spread/": {High: "0.2", Source: "shop practice"}},
	})
	require.NoError(t, err)
	tag, err := intake.TakeIn(ctx, f.Shop, owner,
		intake.IntakeForm{WriteID: shoptest.ID(), Customer: "X", Machine: "Y", Model: "1", Kind: "rebuild"})
	require.NoError(t, err)
	for at, text := range map[string]string{"C1": "1.0", "C2": "1.1", "C3": "1.35", "C4": "1.0"} {
		form := bench.SweepForm{
			Characteristic: "own.1.1", Stage: headfile.AsReceived, Tool: 4,
			Entries: []bench.Entry{{ClientID: shoptest.ID(), Spot: trade.Spot{Position: at}, Text: text}},
		}
		require.NoError(t, f.Typed(ctx, tech, tag, form))
	}
	x, ok := f.File(t, tag).Received.Feature("own.1.1.spread")
	require.True(t, ok)
	assert.Equal(t, gauge.Out, x.Verdict)
	assert.Equal(t, "0.350", x.Figure(f.File(t, tag).Unit))
}

func TestSecondPersonConfirmsASheet(t *testing.T) {
	f := shoptest.Open(t)
	m, err := library.ModelOf(t.Context(), f.Shop, 1)
	require.NoError(t, err)
	assert.ErrorContains(t, library.ConfirmSheet(t.Context(), f.Shop, f.People[shop.Owner], shoptest.ID(), 1,
		m.Sheet.Version), "a second person")
	assert.ErrorIs(t, library.ConfirmSheet(t.Context(), f.Shop, f.People[shop.Lead], shoptest.ID(), 1, m.Sheet.Version-1),
		shop.ErrStale)
	require.NoError(t, library.ConfirmSheet(t.Context(), f.Shop, f.People[shop.Lead], shoptest.ID(), 1, m.Sheet.Version))
}

func TestStudyGoesIntoTheRegister(t *testing.T) {
	f := shoptest.Open(t)
	ctx, owner := t.Context(), f.People[shop.Owner]
	form := bench.StudyForm{
		WriteID: shoptest.ID(), What: "ring", People: []string{"Ilka", "Odo", ""}, Parts: 5, Trials: 2,
		Cells: map[string]string{},
	}
	for p, person := range []string{"8.0", "8.001"} {
		for k := range 5 {
			form.Cells[string(rune('0'+p))+"."+string(rune('0'+k))+".0"] = person + string(rune('0'+k))
			form.Cells[string(rune('0'+p))+"."+string(rune('0'+k))+".1"] = person + string(rune('0'+k))
		}
	}
	require.NoError(t, bench.KeepStudy(ctx, f.Shop, owner, 1, form))
	tool, err := bench.Tool(ctx, f.Shop, 1)
	require.NoError(t, err)
	require.Len(t, tool.Studies, 1)
	require.NoError(t, bench.TakeU(ctx, f.Shop, owner, shoptest.ID(), 1, tool.Studies[0].Study.ID))
	tool, err = bench.Tool(ctx, f.Shop, 1)
	require.NoError(t, err)
	assert.Equal(t, gauge.ToolU(tool.CalU, tool.Studies[0].UNM, tool.Resolution), tool.U,
		"certificate, study and display together")
	assert.ErrorIs(t, bench.TakeU(ctx, f.Shop, f.People[shop.Lead], shoptest.ID(), 1, 1), shop.ErrForbidden)
}

// TestSweepJudgesAsTheWholeFileDoes opens every sweep of some heads: what it says of each
// reading is what the whole file says.
func TestSweepJudgesAsTheWholeFileDoes(t *testing.T) {
	f := shoptest.Open(t)
	for _, tag := range []string{"T0401", "T0402", "T0413", "T0414"} {
		whole := f.File(t, tag)
		for _, p := range whole.Progress(headfile.AsReceived) {
			light, err := headfile.OpenSweep(t.Context(), f.Shop, tag, p.Code)
			require.NoError(t, err)
			for key, r := range light.Standing(headfile.AsReceived) {
				if r.Characteristic == p.Code {
					assert.Equal(t, whole.SpotVerdict(p.Characteristic, r), light.SpotVerdict(p.Characteristic, r), "%s %s", tag, key)
				}
			}
		}
	}
}

// TestAStudyWithItsFirstRowLeftEmpty reads the rows of the people who are named, whichever
// they are.
func TestAStudyWithItsFirstRowLeftEmpty(t *testing.T) {
	form := func(people ...string) bench.StudyForm {
		f := bench.StudyForm{What: "stems", People: people, Parts: 5, Trials: 2, Cells: map[string]string{}}
		n := 0
		for i, p := range people {
			if p == "" {
				continue
			}
			for part := range 5 {
				for trial := range 2 {
					f.Cells[fmt.Sprintf("%d.%d.%d", i, part, trial)] = fmt.Sprintf("7.9%d%d", part, 3*n+trial)
				}
			}
			n++
		}
		return f
	}
	_, whole, err := bench.StudyOf(store.Tool{Kind: "micrometer"}, form("Ilka", "Odo", ""))
	require.NoError(t, err)
	_, gap, err := bench.StudyOf(store.Tool{Kind: "micrometer"}, form("", "Ilka", "Odo"))
	require.NoError(t, err)
	assert.Equal(t, whole, gap)
	_, _, err = bench.StudyOf(store.Tool{Kind: "micrometer"}, form("", "Ilka", ""))
	assert.ErrorContains(t, err, "two people at least")
}
