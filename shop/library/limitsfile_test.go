package library_test

import (
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/field"
	"yatai/internal/fuzz"
	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/library"
	"yatai/store"
)

// TestASheetGoesOutAndComesBack writes every model's sheet as a file and reads each set
// again: written as a new version it has the same limits.
func TestASheetGoesOutAndComesBack(t *testing.T) {
	f := shoptest.Open(t)
	owner := f.People[shop.Owner]
	models, err := library.Models(t.Context(), f.Shop)
	require.NoError(t, err)
	for _, hm := range models {
		m, err := library.ModelOf(t.Context(), f.Shop, hm.ID)
		require.NoError(t, err)
		how := map[string]string{}
		if hm.ID%2 == 0 {
			how["spreadsheets"] = "semicolon, decimal comma"
		}
		file, err := library.LimitsCSV(m, shop.SettingsFor(how, ""))
		require.NoError(t, err)
		sets := 0
		for _, set := range library.SetLabels {
			rows, err := library.ReadLimits(m, set.Code, strings.NewReader(string(file)))
			if err != nil {
				assert.ErrorContains(t, err, "no line of the set")
				continue
			}
			sets++
			now, err := library.ModelOf(t.Context(), f.Shop, hm.ID)
			require.NoError(t, err)
			_, err = library.EditSheet(t.Context(), f.Shop, owner, hm.ID, library.SheetForm{
				WriteID: shoptest.ID(), Version: now.Sheet.Version, Set: set.Code, Note: "from a file", Rows: rows,
			})
			require.NoError(t, err, "%s %s", m.Name, set.Code)
		}
		assert.Positive(t, sets, m.Name)
		after, err := library.ModelOf(t.Context(), f.Shop, hm.ID)
		require.NoError(t, err)
		assert.Equal(t, m.Sheet.Version+sets, after.Sheet.Version)
		plain := func(ls []store.Limit) map[string]store.Limit {
			out := map[string]store.Limit{}
			for _, l := range ls {
				l.ID, l.SheetID = 0, 0
				out[l.Kind+l.Characteristic+"/"+l.Role] = l
			}
			return out
		}
		assert.Equal(t, plain(m.Sheet.Limits), plain(after.Sheet.Limits), m.Name)
	}
}

func TestAFileOfLimitsIsReadAsPeopleMakeThem(t *testing.T) {
	f := shoptest.Open(t)
	m, err := library.ModelOf(t.Context(), f.Shop, 1)
	require.NoError(t, err)
	read := func(text string) (map[string]library.LimitEntry, error) {
		return library.ReadLimits(m, "service", strings.NewReader(text))
	}
	rows, err := read("\ufeffSource;Low;High;Characteristic;Role;Set;Unit\n" +
		"leaflet, p. 3;1,2;2,0;seat.width;intake;service;mm\nx;1;2;seat.width;intake;target;mm\n")
	require.NoError(t, err)
	assert.Equal(
		t, map[string]library.LimitEntry{"seat.width/intake": {Low: "1,2 mm", High: "2,0 mm", Source: "leaflet, p. 3"}}, rows,
		"other sets are passed over",
	)
	rows, err = read(
		"set,characteristic,role,unit,low,high,near,source\nservice,seat.width,exhaust,in,,0.08,,s\nservice,spring.load_seat,intake,N,300,,,s\n",
	)
	require.NoError(t, err)
	assert.Equal(t, "0.08 in", rows["seat.width/exhaust"].High)
	assert.Equal(t, "300", rows["spring.load_seat/intake"].Low)
	for text, want := range map[string]string{
		"":                                     "no CSV file",
		"a,b\n":                                `no column "set"`,
		"set,characteristic,low,high,source\n": "no line of the set",
		"set,characteristic,role,low,high,source\nservice,seat.colour,intake,1,2,s\n":            "line 2: this sheet has no seat.colour intake",
		"set,characteristic,role,low,high,source\n\nservice,seat.width,,1,2,s\n":                 "this sheet has no seat.width",
		"set,characteristic,role,unit,low,high,source\nservice,seat.width,intake,cm,1,2,s":       "mm or in, not cm",
		"set,characteristic,role,unit,low,high,source\nservice,spring.load_seat,intake,kg,1,2,s": "it is read in N, not in kg",
		"set,characteristic,role,low,high,source\nservice,\"seat":                                "line 2 cannot be read",
	} {
		_, err := read(text)
		var one *field.Error
		require.ErrorAs(t, err, &one, text)
		assert.Equal(t, "file", one.Field)
		assert.Contains(t, one.Message(), want)
	}
}

// TestAnyFileOfLimitsIsReadOrRefused gives spoilt files of limits: one that is not refused has rows.
func TestAnyFileOfLimitsIsReadOrRefused(t *testing.T) {
	rnd := rand.New(rand.NewPCG(3, 1))
	for _, file := range []string{
		"set,characteristic,role,unit,low,high,near,source\nservice,seat.width,intake,mm,1,2,0.1,s\n",
		"\ufeffset;characteristic;role;low;high;source\nservice;seat.width;intake;1;2;s\n",
	} {
		for range 2000 {
			text := fuzz.Spoil(rnd, file)
			rows, err := library.ReadLimits(library.Model{}, "service", strings.NewReader(text))
			assert.True(t, err != nil || len(rows) > 0, "nothing read of %q, and nothing said", text)
		}
	}
}
