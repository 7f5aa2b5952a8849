package words_test

import (
	"encoding/json"
	"regexp"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/words"
)

func TestALanguageSaysWhatItHasWordsForAndTheRestInEnglish(t *testing.T) {
	assert.Equal(t, "Führungsspiel", words.German.Say("Guide clearance"))
	assert.Equal(t, "Guide clearance", words.English.Say("Guide clearance"))
	assert.Equal(t, "Dial bore gauge 100 % tested", words.German.Say("Dial bore gauge 100 % tested"), "data is no format")
	assert.Equal(t, "0.012 mm zu viel bei L2.", words.German.Say("%s over at %s.", "0.012 mm", "L2"))
	assert.Equal(t, "tool 3 of nobody", words.German.Say("tool %d of %s", 3, "nobody"))
	assert.Same(t, words.German, words.In("de"))
	assert.Same(t, words.English, words.In(""), "nobody has chosen")
	assert.Same(t, words.English, words.In("tlh"))
}

func TestCountsTakeTheirPlural(t *testing.T) {
	for _, c := range []struct {
		in   *words.Language
		n    int
		want string
	}{
		{words.English, 1, "in 1 day"}, {words.English, 3, "in 3 days"}, {words.German, 1, "in 1 Tag"},
		{words.German, 0, "in 0 Tagen"},
	} {
		assert.Equal(t, c.want, c.in.Say("in %d days", c.n))
	}
	assert.Equal(t, "length 1200", words.English.Say("length %d", 1200),
		"no sign between thousands: it would be read as a decimal one")
	assert.Equal(t, "Länge unbekannt %", words.German.Say("Länge unbekannt %"),
		"without anything to fill it a sentence stays as it is")
}

func TestTextsFillTexts(t *testing.T) {
	said := words.Of("%s %s, allowed %s", words.Mid("Guide clearance"), "0.110 mm",
		words.Of("%s to %s", "0.040", "0.095 mm"))
	assert.Equal(t, "guide clearance 0.110 mm, allowed 0.040 to 0.095 mm", said.String())
	assert.Equal(t, "Führungsspiel 0.110 mm, erlaubt 0.040 bis 0.095 mm", said.In(words.German))

	all := words.Join("; ", words.Text{}, said, words.Of("and more"))
	assert.Equal(t, "guide clearance 0.110 mm, allowed 0.040 to 0.095 mm; and more", all.String())
	assert.Empty(t, words.Join("; ").String())
	assert.Equal(t, "5 % sound", words.Join(" % ", words.Of("5"), words.Of("sound")).String(),
		"what stands between is no format")

	stored, err := json.Marshal(words.Join("; ", said, words.Of("%d marks", 2)))
	require.NoError(t, err)
	var back words.Text
	require.NoError(t, json.Unmarshal(stored, &back))
	assert.Equal(t, "Führungsspiel 0.110 mm, erlaubt 0.040 bis 0.095 mm; 2 Marken", back.In(words.German))
	assert.Error(t, json.Unmarshal([]byte(`{"say":"%s","with":[[1]]}`), &back))
	assert.Error(t, json.Unmarshal([]byte(`{"say":`), &back))
}

func TestDaysHaveTheirYearWhenItIsAnother(t *testing.T) {
	now := time.Date(2032, 3, 1, 12, 0, 0, 0, time.Local)
	day := time.Date(2032, 1, 5, 9, 4, 0, 0, time.Local)
	assert.Equal(t, "Mon 5 Jan", words.English.Date(day, now))
	assert.Equal(t, "Mo 5. Jan.", words.German.Date(day, now))
	assert.Equal(t, "Wed 5 Jan 2033", words.English.Date(day.AddDate(1, 0, 0), now))
	assert.Equal(t, "5. Jan. 2033 09:04", words.German.Clock(day.AddDate(1, 0, 0), now))
	assert.Equal(t, "5 January 2032", words.English.Long(day))
	assert.Equal(t, "5. Januar 2032", words.German.Long(day))
	assert.Equal(t, "noted 5. Jan.", words.German.Say("noted %s", day))
}

func TestFiguresWithAComma(t *testing.T) {
	for text, want := range map[string]string{
		"0.040 to 0.095 mm":            "0,040 to 0,095 mm",
		"cut 0.25 mm; -0.3, ±0.004.":   "cut 0,25 mm; -0,3, ±0,004.",
		"601.54 EUR (88.1 %)":          "601,54 EUR (88,1 %)",
		"0.10–0.40":                    "0,10–0,40",
		"G4.2 and engine-4.1, v0.12":   "G4.2 and engine-4.1, v0.12",
		"10.0.0.1 on 5.3.2032 at 9.04": "10.0.0.1 on 5.3.2032 at 9,04",
		"/files/1.5 a@1.5 Größe4.5":    "/files/1.5 a@1.5 Größe4.5",
		"nothing. 7.":                  "nothing. 7.",
		"":                             "",
	} {
		assert.Equal(t, want, words.Comma(text))
	}
}

// TestLanguagesAreSharedBySeveral is for the race detector.
func TestLanguagesAreSharedBySeveral(t *testing.T) {
	var all sync.WaitGroup
	for i := range 8 {
		all.Go(func() {
			for range 200 {
				assert.Equal(t, "Kein Plan gespeichert: nur die Grenzwerte sind bekannt.",
					words.German.Say("No plan was kept: only the limits are known."))
				assert.NotEmpty(t, words.All[i%2].Say("in %d days", i))
			}
		})
	}
	all.Wait()
}

func BenchmarkSay(b *testing.B) {
	for b.Loop() {
		words.German.Say("%s over at %s.", "0.012 mm", "L2")
	}
}

// TestTextsAreKeptAndReadBack: what is made in one place is said in another, in the language of who
// reads it, also after it was kept in a file.
func TestTextsAreKeptAndReadBack(t *testing.T) {
	inner := words.Of("%d leaks: place them on the map", 2)
	for _, said := range []words.Text{
		words.Of("Tool"), inner, words.Of("its record fails: %s", inner), words.Mid("Guide bore"), {},
		words.Join("; ", words.Of("%s reads %s, %s over", "1I1", "1.25", "0.07 mm"), words.Text{}, inner),
	} {
		back := words.Back(said.Kept(), "not this")
		for _, l := range words.All {
			assert.Equal(t, said.In(l), back.In(l), "%s in %s", said.Sentence, l.Name)
		}
	}
	assert.Equal(t, "as it was told", words.Back("", "as it was told").String(), "of before there were any")
	assert.Equal(t, "50 % worn", words.Back("{", "50 % worn").String(), "damaged: the words alone, as they are")
	assert.Error(t, new(words.Text).UnmarshalJSON([]byte(`{"say":"%s","with":[[1]]}`)), "a list fills no sentence")
}

// TestEverySentenceIsFilledAlike: a language's words take the same things in the same order, so that
// no figure is lost or stands for another.
func TestEverySentenceIsFilledAlike(t *testing.T) {
	fills := regexp.MustCompile(`%(?:\[\d\])?[a-z%]|\{[a-z]+\}`)
	for _, l := range words.All {
		for _, s := range l.Sentences() {
			own, ok := l.Own(s)
			require.True(t, ok)
			if strings.Contains(own, "%[") { // it says which
				assert.ElementsMatch(t, fills.FindAllString(s, -1), fills.FindAllString(own, -1), "%s: %s", l.Name, s)
			} else {
				assert.Equal(t, fills.FindAllString(s, -1), fills.FindAllString(own, -1), "%s: %s", l.Name, s)
			}
			if n := strings.Count(s, "\n"); n > 0 {
				assert.Equal(t, n, strings.Count(own, "\n"), "%s: %s", l.Name, s)
			}
		}
	}
}

// TestAMomentIsKept as a moment: each language writes it its own way when it is read back.
func TestAMomentIsKept(t *testing.T) {
	at := time.Date(2031, 12, 10, 9, 30, 0, 0, time.Local)
	text := words.Of("done by %s, before others; held until %s, %s", at, at.AddDate(0, 0, -1), "12:00")
	back := words.Back(text.Kept(), "")
	assert.Equal(t, text.String(), back.String())
	assert.Equal(t, "done by 10 Dec, before others; held until 9 Dec, 12:00", back.String())
	assert.Contains(t, back.In(words.German), "10. Dez.")
}
