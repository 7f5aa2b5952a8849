package practising_test

import (
	"encoding/json"
	"io"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/field"
	"yatai/core/gauge"
	"yatai/core/length"
	"yatai/core/practice"
	"yatai/core/quantity"
	"yatai/core/trade"
	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/practising"
	"yatai/store"
)

// begun is a practice head of a person.
func begun(t *testing.T, f *shoptest.Fixture, role string, form practising.BeginForm) practising.Head {
	t.Helper()
	form.WriteID = shoptest.ID()
	id, err := practising.Begin(t.Context(), f.Shop, f.People[role], form)
	require.NoError(t, err)
	return opened(t, f, role, id)
}

func opened(t *testing.T, f *shoptest.Fixture, role, id string) practising.Head {
	t.Helper()
	n, err := strconv.Atoi(id)
	require.NoError(t, err)
	h, err := practising.Open(t.Context(), f.Shop, f.People[role], uint(n))
	require.NoError(t, err)
	return h
}

// stem is a reading of a stem with the micrometer.
func stem(nth int, at string) practising.Move {
	return practising.Move{Nth: nth, Kind: practice.StepRead, Tool: 1, Of: trade.Stem.Code, At: at, Hand: 10}
}

func TestWhatIsDoneIsKeptOnce(t *testing.T) {
	f := shoptest.Open(t)
	ilka := f.People[shop.Technician]
	h := begun(t, f, shop.Technician, practising.BeginForm{Lesson: "micrometer"})
	do := func(m practising.Move) (practising.Head, error) {
		return practising.Do(t.Context(), f.Shop, ilka, h.ID, m)
	}
	first, err := do(stem(0, "1I1.top"))
	require.NoError(t, err)
	require.Len(t, first.Done.Steps, 1)
	assert.NotZero(t, first.Done.Steps[0].Value.At)
	again, err := do(stem(0, "1I1.top"))
	require.NoError(t, err)
	assert.Len(t, again.Done.Steps, 1, "sent twice it is done once")
	second, err := do(stem(1, "1I1.middle"))
	require.NoError(t, err)
	assert.Len(t, second.Done.Steps, 2)
	assert.Len(t, opened(t, f, shop.Technician, strconv.Itoa(int(h.ID))).Done.Steps, 2, "it is on disk")
}

// TestAReadingIsKeptAsItWasTyped: whatever the tool showed, once under its id, in the unit of who typed it;
// feelers by the leaves that are meant.
func TestAReadingIsKeptAsItWasTyped(t *testing.T) {
	f := shoptest.Open(t)
	ilka := f.People[shop.Technician]
	h := begun(t, f, shop.Technician, practising.BeginForm{Lesson: "exam"})
	read := func(c *trade.Characteristic, id, at, text string, u length.Unit) gauge.Value {
		now, err := practising.Do(t.Context(), f.Shop, ilka, h.ID, practising.Move{
			ID: id, Kind: practice.StepRead, Tool: h.ToolsFor(*c)[0], Of: c.Code, At: at, Typed: text, Unit: u,
		})
		require.NoError(t, err, text)
		return now.Done.Steps[len(now.Done.Steps)-1].Value
	}
	um := func(n int64) quantity.Amount { return quantity.OfLength(length.Length(n) * length.Micrometre) }
	id := shoptest.ID()
	assert.Equal(t, gauge.Exact(um(7_951)), read(trade.Stem, id, "1I1.top", "7.951", length.MM))
	assert.Equal(t, gauge.Exact(um(7_951)), read(trade.Stem, id, "1I1.top", "7.960", length.MM), "it was sent before")
	assert.Equal(t, gauge.Exact(um(7_951)), read(trade.Stem, shoptest.ID(), "1I1.top", "7.951", length.MM), "again")
	assert.Len(t, opened(t, f, shop.Technician, strconv.Itoa(int(h.ID))).Done.Steps, 2)
	assert.Equal(t, gauge.Exact(um(7_874)), read(trade.Stem, shoptest.ID(), "1I1.top", "0.31", length.In))
	for _, c := range []struct {
		typed    string
		unit     length.Unit
		goes, no int64
	}{
		{"0.10 0.11", length.MM, 100, 110}, {"0.10", length.MM, 100, 110}, {"0.20", length.MM, 200, 250},
		{"0.0039 0.0043", length.In, 100, 110}, {"0.0039", length.In, 100, 110}, {"0 0.0012", length.In, 0, 30},
	} {
		want := gauge.Between(um(c.goes), um(c.no))
		assert.Equal(t, want, read(trade.Lash, shoptest.ID(), "1I1", c.typed, c.unit), c.typed)
	}
}

func TestMovesThatCannotBe(t *testing.T) {
	f := shoptest.Open(t)
	h := begun(t, f, shop.Technician, practising.BeginForm{Lesson: "exam", Trouble: "bent"})
	for _, c := range []struct {
		name, field string
		move        practising.Move
	}{
		{"a step nobody knows", "", practising.Move{Kind: "guess"}},
		{"a tool it is not read with", "tool", practising.Move{Kind: practice.StepRead, Tool: 0, Of: trade.Stem.Code, At: "1I1.top"}},
		{"no such tool", "tool", practising.Move{Kind: practice.StepRead, Tool: 99, Of: trade.Stem.Code, At: "1I1.top"}},
		{"no such place", "", practising.Move{Kind: practice.StepRead, Tool: 1, Of: trade.Stem.Code, At: "9I1.top"}},
		{"nothing is read so", "", practising.Move{Kind: practice.StepRead, Tool: 1, Of: "stem.charm", At: "1I1.top"}},
		{"a hand too far", "hand", practising.Move{Kind: practice.StepRead, Tool: 1, Of: trade.Stem.Code, At: "1I1.top", Hand: 101}},
		{"typed without its id", "1I1.top", practising.Move{Kind: practice.StepRead, Tool: 1, Of: trade.Stem.Code, At: "1I1.top", Typed: "7.95"}},
		{"no size for it", "1I1.top", practising.Move{
			ID: shoptest.ID(), Kind: practice.StepRead, Tool: 1, Of: trade.Stem.Code, At: "1I1.top", Typed: "99",
		}},
		{"nothing heard", "1I1", practising.Move{Kind: practice.StepRead, Tool: 11, Of: trade.Drop.Code, At: "1I1"}},
		{"no grade", "grade", practising.Move{Kind: practice.StepLook, Of: trade.FaceSeen.Code, At: "1I1"}},
		{"a grade of another part", "grade", practising.Move{Kind: practice.StepLook, Of: trade.FaceSeen.Code, At: "1I1", Grade: "oily"}},
		{"a part that is not drawn", "", practising.Move{Kind: practice.StepLook, Of: "keeper.condition", At: "1I1", Grade: "sound"}},
		{"no zero", "tool", practising.Move{Kind: practice.StepZero, Tool: 8}},
	} {
		_, err := practising.Do(t.Context(), f.Shop, f.People[shop.Technician], h.ID, c.move)
		var e *field.Error
		if c.field == "" {
			require.ErrorIs(t, err, shop.ErrNotFound, c.name)
		} else if assert.ErrorAs(t, err, &e, c.name) {
			assert.Equal(t, c.field, e.Field, c.name)
		}
	}
	assert.Empty(t, opened(t, f, shop.Technician, strconv.Itoa(int(h.ID))).Done.Steps)
}

func TestNobodyElseSeesAHeadThatIsNotOpen(t *testing.T) {
	f := shoptest.Open(t)
	h := begun(t, f, shop.Technician, practising.BeginForm{Lesson: "micrometer"})
	for _, role := range []string{shop.Counter, shop.Lead, shop.Owner} {
		_, err := practising.Open(t.Context(), f.Shop, f.People[role], h.ID)
		require.ErrorIs(t, err, shop.ErrNotFound, role)
	}
	require.NoError(t, practising.Finish(t.Context(), f.Shop, f.People[shop.Technician], h.ID))
	_, err := practising.Open(t.Context(), f.Shop, f.People[shop.Lead], h.ID)
	require.NoError(t, err, "the lead may look at what is open")
	_, err = practising.Open(t.Context(), f.Shop, f.People[shop.Counter], h.ID)
	require.ErrorIs(t, err, shop.ErrNotFound)
	_, err = practising.Do(t.Context(), f.Shop, f.People[shop.Lead], h.ID, stem(0, "1I1.top"))
	require.ErrorIs(t, err, shop.ErrNotFound, "it is not theirs to work on")
}

func TestNothingIsAddedOnceItIsOpen(t *testing.T) {
	f := shoptest.Open(t)
	ilka := f.People[shop.Technician]
	h := begun(t, f, shop.Technician, practising.BeginForm{Lesson: "micrometer"})
	_, err := practising.Do(t.Context(), f.Shop, ilka, h.ID, stem(0, "1E1.top"))
	require.NoError(t, err)
	require.NoError(t, practising.Finish(t.Context(), f.Shop, ilka, h.ID))
	require.NoError(t, practising.Finish(t.Context(), f.Shop, ilka, h.ID), "opened twice it is opened once")
	_, err = practising.Do(t.Context(), f.Shop, ilka, h.ID, stem(1, "1I1.middle"))
	require.ErrorIs(t, err, practising.ErrOpened)
	_, err = practising.Answer(t.Context(), f.Shop, ilka, h.ID, practising.AnswerForm{Cause: "bent"})
	require.ErrorIs(t, err, practising.ErrOpened)
	p, err := practising.Of(t.Context(), f.Shop, ilka)
	require.NoError(t, err)
	require.Len(t, p.Opened(), 1)
	share, asked := p.Opened()[0].Skill("find")
	assert.True(t, asked)
	assert.Less(t, share, 1.0)
	best, done := p.Best("micrometer")
	assert.True(t, done)
	assert.InDelta(t, p.Opened()[0].Share, best, 0)
	_, done = p.Best("bore")
	assert.False(t, done)
}

func TestAnExamsNumberGivesTwoPeopleTheSameHead(t *testing.T) {
	f := shoptest.Open(t)
	same := practising.BeginForm{Lesson: "exam", Exam: "Spring 7"}
	a, b := begun(t, f, shop.Technician, same), begun(t, f, shop.Lead, same)
	assert.Equal(t, a.Truth.Readings, b.Truth.Readings)
	same.Exam = "spring 7"
	assert.Equal(t, a.Truth.Readings, begun(t, f, shop.Counter, same).Truth.Readings, "however it is written")
	same.Exam = "Spring 8"
	assert.NotEqual(t, a.Truth.Readings, begun(t, f, shop.Lead, same).Truth.Readings)
	other := begun(t, f, shop.Lead, practising.BeginForm{Lesson: "exam"})
	assert.NotEqual(t, other.Truth.Readings, begun(t, f, shop.Lead, practising.BeginForm{Lesson: "exam"}).Truth.Readings)
}

// TestTheTruthIsInNoFile: neither the shop's own file nor what is shared holds the key, a size or what is wrong.
func TestTheTruthIsInNoFile(t *testing.T) {
	f := shoptest.Open(t)
	h := begun(t, f, shop.Lead, practising.BeginForm{Lesson: "exam"})
	shared, err := practising.Share(t.Context(), f.Shop, f.People[shop.Lead], h.ID, "four crowns")
	require.NoError(t, err)
	require.NoError(t, f.Store.WriteWhole(t.Context(), func(name string) (io.WriteCloser, error) {
		assert.NotContains(t, name, "practice", "a whole shop's folder has no practice in it")
		return nowhere{io.Discard}, nil
	}, func(string) bool { return true }))
	kept, err := f.Store.Read(t.Context()).PracticeHead(h.ID)
	require.NoError(t, err)
	row, err := json.Marshal(kept)
	require.NoError(t, err)
	for _, file := range [][]byte{shared, row, kept.Sealed} {
		assert.NotContains(t, string(file), `"trouble":"`)
		for _, r := range h.Truth.Readings {
			if r.Value.At > 1_000_000 {
				assert.NotContains(t, string(file), strconv.FormatInt(int64(r.Value.At), 10), r.Of)
			}
		}
	}
	var told practising.File
	require.NoError(t, json.Unmarshal(shared, &told))
	assert.Empty(t, told.Head.Readings)
	assert.Empty(t, told.Head.Findings)
}

// nowhere is a file that nobody keeps.
type nowhere struct{ io.Writer }

func (nowhere) Close() error { return nil }

func TestAFileIsOpenedWithItsWordAlone(t *testing.T) {
	f := shoptest.Open(t)
	h := begun(t, f, shop.Lead, practising.BeginForm{Lesson: "seats", Level: "3", Trouble: "bent"})
	ctx, ilka := t.Context(), f.People[shop.Technician]
	_, err := practising.Share(ctx, f.Shop, f.People[shop.Lead], h.ID, "short")
	var e field.Errors
	require.ErrorAs(t, err, &e)
	assert.Contains(t, e, "word")
	file, err := practising.Share(ctx, f.Shop, f.People[shop.Lead], h.ID, "four crowns")
	require.NoError(t, err)
	at := strings.Index(string(file), `"sealed": "`) + 20
	changed := string(file[:at]) + map[bool]string{true: "B", false: "A"}[file[at] == 'A'] + string(file[at+1:])
	for _, c := range []struct{ name, file, word, field string }{
		{"another word", string(file), "five crowns", "word"},
		{"a letter changed", changed, "four crowns", "word"},
		{"no file", "", "four crowns", "file"},
		{"another format", `{"format":"yatai-head/1"}`, "four crowns", "file"},
		{"too large", strings.Repeat(" ", 2<<20), "four crowns", "file"},
		{"another lesson", strings.Replace(string(file), `"seats"`, `"chairs"`, 1), "four crowns", "file"},
	} {
		_, err := practising.TakeIn(ctx, f.Shop, ilka, shoptest.ID(), []byte(c.file), c.word)
		require.ErrorAs(t, err, &e, c.name)
		assert.Contains(t, e, c.field, c.name)
	}
	id, err := practising.TakeIn(ctx, f.Shop, ilka, shoptest.ID(), file, "four crowns")
	require.NoError(t, err)
	taken := opened(t, f, shop.Technician, id)
	assert.Equal(t, h.Truth.Readings, taken.Truth.Readings)
	assert.Equal(t, 3, taken.PracticeHead.Level)
}

// TestNobodyUnsealsTheirOwnHead: who learns does not choose the word that seals what they are not to see.
func TestNobodyUnsealsTheirOwnHead(t *testing.T) {
	f := shoptest.Open(t)
	ctx, ilka := t.Context(), f.People[shop.Technician]
	h := begun(t, f, shop.Technician, practising.BeginForm{Lesson: "micrometer"})
	assert.False(t, h.MayShare(ilka))
	_, err := practising.Share(ctx, f.Shop, ilka, h.ID, "four crowns")
	var e field.Errors
	require.ErrorAs(t, err, &e)
	assert.Contains(t, e, "word")
	require.NoError(t, practising.Finish(ctx, f.Shop, ilka, h.ID))
	_, err = practising.Share(ctx, f.Shop, ilka, h.ID, "four crowns")
	require.NoError(t, err)
}

// TestAnExamTakenAgainIsMarked: once its truth was told, its score is no best of anything.
func TestAnExamTakenAgainIsMarked(t *testing.T) {
	f := shoptest.Open(t)
	ctx, ilka := t.Context(), f.People[shop.Technician]
	exam := practising.BeginForm{Lesson: "micrometer", Exam: "77"}
	first := begun(t, f, shop.Technician, exam)
	beside := begun(t, f, shop.Technician, exam) // begun before, and not opened yet: its truth is known all the same
	require.NoError(t, practising.Finish(ctx, f.Shop, ilka, first.ID))
	again := begun(t, f, shop.Technician, exam)
	require.NoError(t, practising.Finish(ctx, f.Shop, ilka, again.ID))
	p, err := practising.Of(ctx, f.Shop, ilka)
	require.NoError(t, err)
	marked := map[uint]bool{}
	for _, r := range p.Mine {
		marked[r.ID] = r.Again
	}
	assert.Equal(t, map[uint]bool{first.ID: false, beside.ID: true, again.ID: true}, marked)
	assert.Len(t, p.Opened(), 1)
}

func TestPracticeNeverTouchesTheShop(t *testing.T) {
	f := shoptest.Open(t)
	ctx := t.Context()
	count := func() (n []int) {
		db := f.Store.Read(ctx)
		heads, err := db.OpenHeads()
		require.NoError(t, err)
		tools, err := db.Tools()
		require.NoError(t, err)
		events, err := db.EventsAbout("")
		require.NoError(t, err)
		return []int{len(heads), len(tools), len(events)}
	}
	before := count()
	h := begun(t, f, shop.Technician, practising.BeginForm{Lesson: "exam"})
	_, err := practising.Do(ctx, f.Shop, f.People[shop.Technician], h.ID, stem(0, "1I1.top"))
	require.NoError(t, err)
	require.NoError(t, practising.Finish(ctx, f.Shop, f.People[shop.Technician], h.ID))
	assert.Equal(t, before, count())
}

func TestHandsAndStudiesComeFromWhatWasReadAgain(t *testing.T) {
	f := shoptest.Open(t)
	ctx := t.Context()
	places := []string{"1I1.top", "1E1.top", "2I1.top"}
	who := f.People[shop.Technician].Name
	before, err := practising.Of(ctx, f.Shop, f.People[shop.Lead])
	require.NoError(t, err)
	for _, role := range []string{shop.Technician, shop.Lead} {
		h := begun(t, f, role, practising.BeginForm{Lesson: "micrometer", Exam: "another"})
		n := 0
		for range 3 {
			for _, at := range places {
				_, err := practising.Do(ctx, f.Shop, f.People[role], h.ID, stem(n, at))
				require.NoError(t, err)
				n++
			}
		}
	}
	p, err := practising.Of(ctx, f.Shop, f.People[shop.Lead])
	require.NoError(t, err)
	require.Len(t, p.Hands, len(before.Hands)+1, "theirs with the micrometer, beside what the demo has")
	for _, h := range p.Hands {
		if h.Person == who {
			assert.Equal(t, 6, h.Again, "two more at each of three places")
			assert.Positive(t, h.U)
			assert.Less(t, h.U, 2*h.Label)
		}
	}
	require.Len(t, p.Studies, len(before.Studies)+1)
	st := p.Studies[slices.IndexFunc(p.Studies, func(x practising.Studied) bool { return slices.Contains(x.People, who) })]
	assert.Equal(t, []int{2, 3, 3}, []int{len(st.People), st.Places, st.Trials})
	assert.Positive(t, st.Out.GRR)

	own, err := practising.Of(ctx, f.Shop, f.People[shop.Technician])
	require.NoError(t, err)
	assert.Len(t, own.Hands, 1, "one's own alone")
	assert.Empty(t, own.Studies)
}

func TestBeginsThatCannotBe(t *testing.T) {
	f := shoptest.Open(t)
	for _, c := range []struct {
		form  practising.BeginForm
		field string
	}{
		{practising.BeginForm{Lesson: "poetry"}, "lesson"},
		{practising.BeginForm{Lesson: "exam", Level: "4"}, "level"},
		{practising.BeginForm{Lesson: "exam", Level: "x"}, "level"},
		{practising.BeginForm{Lesson: "exam", Trouble: "ghosts"}, "trouble"},
		{practising.BeginForm{Lesson: "exam", Exam: strings.Repeat("7", 21)}, "exam"},
	} {
		c.form.WriteID = shoptest.ID()
		_, err := practising.Begin(t.Context(), f.Shop, f.People[shop.Technician], c.form)
		var e field.Errors
		require.ErrorAs(t, err, &e)
		assert.Contains(t, e, c.field)
	}
}

func TestAnswers(t *testing.T) {
	f := shoptest.Open(t)
	h := begun(t, f, shop.Technician, practising.BeginForm{Lesson: "exam"})
	answer := func(form practising.AnswerForm) (practising.Head, error) {
		return practising.Answer(t.Context(), f.Shop, f.People[shop.Technician], h.ID, form)
	}
	got, err := answer(practising.AnswerForm{
		Verdicts: map[string]string{"lash@1I1": practice.SaysOut, "lash@1E1": "perhaps"},
		Hold:     map[string]map[string]string{"1E1": {"seat": "insert", "guide": "polish"}, "9E9": {"seat": "cut"}},
		FaceCut:  "0.1", Unit: "mm", Cause: practice.None,
	})
	require.NoError(t, err)
	assert.Equal(t, map[string]string{"lash@1I1": practice.SaysOut}, got.Done.Answers.Verdicts)
	assert.Equal(t, map[string]map[string]string{"1E1": {"seat": "insert"}}, got.Done.Answers.Hold)
	assert.Equal(t, "0.1 mm", got.Done.Answers.FaceCut.String())
	for _, c := range []struct {
		form  practising.AnswerForm
		field string
	}{
		{practising.AnswerForm{FaceCut: "-0.1", Unit: "mm"}, "face_cut"},
		{practising.AnswerForm{FaceCut: "3", Unit: "mm"}, "face_cut"},
		{practising.AnswerForm{FaceCut: "deep", Unit: "mm"}, "face_cut"},
		{practising.AnswerForm{Cause: "luck"}, "cause"},
	} {
		_, err := answer(c.form)
		var e field.Errors
		require.ErrorAs(t, err, &e)
		assert.Contains(t, e, c.field)
	}
	kept := opened(t, f, shop.Technician, strconv.Itoa(int(h.ID)))
	assert.Equal(t, practice.None, kept.Done.Answers.Cause, "what was refused changed nothing")
}

func TestALateOpeningIsRefusedWhenMoreWasDone(t *testing.T) {
	f := shoptest.Open(t)
	h := begun(t, f, shop.Technician, practising.BeginForm{Lesson: "micrometer"})
	require.NoError(t, f.Store.Write(t.Context(), func(tx store.DB) error {
		return tx.SetPractice(h.ID, "{broken")
	}))
	require.Error(t, practising.Finish(t.Context(), f.Shop, f.People[shop.Technician], h.ID))
}
