package shop_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/internal/shoptest"
	"yatai/shop"
)

// TestTextsOfMailsAreChecked refuses what would leave the customer without a way to answer.
func TestTextsOfMailsAreChecked(t *testing.T) {
	f := shoptest.Open(t)
	for name, bad := range map[string][]string{
		"mail_subject": {"For {tagg}", "one\ntwo"},
		"mail_text":    {"Hello {customer}", "Answer here: {link} {name}", strings.Repeat("x", 2001) + "{link}"},
		"spreadsheets": {"tabs"},
	} {
		for _, text := range bad {
			err := f.SetSettings(t.Context(), f.People[shop.Owner], shoptest.ID(), map[string]string{name: text}, nil)
			assert.Error(t, err, "%s %.40q", name, text)
		}
	}
	own := "Dear {customer},\r\n{model}, tag {tag}: {link}"
	require.NoError(
		t, f.SetSettings(t.Context(), f.People[shop.Owner], shoptest.ID(), map[string]string{"mail_text": own}, nil),
	)
	set, err := f.Settings(t.Context(), "")
	require.NoError(t, err)
	said := shop.Filled(set.Get("mail_text"),
		map[string]string{"customer": "Anna", "model": "M", "tag": "T1", "link": "http://x/q/{tag}"})
	assert.Equal(t, "Dear Anna,\nM, tag T1: http://x/q/{tag}", said, "what was filled in is not filled in again")
}

func TestCSVAsTheSpreadsheetsReadIt(t *testing.T) {
	rows := [][]string{{"name", "value", "at"}, {"a;b, \"c\"", "-0.020", "2026-11-26"}}
	plain, err := shop.CSV(shop.Settings{}, rows)
	require.NoError(t, err)
	assert.Equal(t, "name,value,at\n\"a;b, \"\"c\"\"\",-0.020,2026-11-26\n", string(plain))
	set := shop.SettingsFor(map[string]string{"spreadsheets": "semicolon, decimal comma"}, "")
	told, err := shop.CSV(set, rows)
	require.NoError(t, err)
	assert.Equal(t, "\ufeffname;value;at\n\"a;b, \"\"c\"\"\";-0,020;2026-11-26\n", string(told))
	assert.Equal(t, "-0.020", rows[1][1], "the rows themselves stay")
}

func TestWhatIsAsUsualCanBeConfirmed(t *testing.T) {
	f := shoptest.Open(t)
	ctx, owner := t.Context(), f.People[shop.Owner]
	said := func(name string) (string, bool) {
		set, err := f.Settings(ctx, "")
		require.NoError(t, err)
		return set.Get(name), set.Said(name)
	}
	shown := map[string]string{"tax": "20", "markup": "30", "quote_days": "21"}
	require.NoError(t, f.SetSettings(ctx, owner, shoptest.ID(), shown, nil))
	_, ok := said("tax")
	assert.False(t, ok, "left as it was nobody has said it")
	require.NoError(t, f.SetSettings(ctx, owner, shoptest.ID(), shown, nil, "Money"))
	tax, ok := said("tax")
	assert.Equal(t, "20", tax)
	assert.True(t, ok)
	markup, _ := said("markup")
	assert.Equal(t, "30", markup, "what was said stays")
	_, ok = said("quote_days")
	assert.False(t, ok, "of another section")
}
