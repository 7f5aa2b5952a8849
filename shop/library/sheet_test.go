package library_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/field"
	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/library"
)

func TestTwoPeopleEditOneSheet(t *testing.T) {
	f := shoptest.Open(t)
	ctx, owner := t.Context(), f.People[shop.Owner]
	rows := map[string]library.LimitEntry{"seat.width/intake": {Low: "1.1", High: "2.1", Source: "shop practice"}}
	edit := func(version int, note string, rows map[string]library.LimitEntry) (int, error) {
		return library.EditSheet(ctx, f.Shop, owner, 1,
			library.SheetForm{WriteID: shoptest.ID(), Version: version, Set: "service", Note: note, Rows: rows})
	}
	v, err := edit(6, "wider", rows)
	require.NoError(t, err)
	assert.Equal(t, 7, v)
	_, err = edit(6, "mine too", rows)
	assert.ErrorContains(t, err, "somebody wrote version 7")
	assert.Equal(t, 6, f.File(t, "T0401").Sheet.Version, "a head keeps its version")
	crossed := map[string]library.LimitEntry{"seat.width/intake": {Low: "3", High: "2"}}
	_, err = edit(7, "bad", crossed)
	var errs field.Errors
	require.ErrorAs(t, err, &errs)
	assert.Contains(t, errs.Message("seat.width/intake/low"), "above")
	assert.Contains(t, errs.Message("seat.width/intake/source"), "where")
}

func TestOneSourceForAllLines(t *testing.T) {
	f := shoptest.Open(t)
	ctx, owner := t.Context(), f.People[shop.Owner]
	rows := map[string]library.LimitEntry{
		"seat.width/intake": {Low: "1.1", High: "2.1"}, "seat.width/exhaust": {Low: "1.3", High: "2.3", Source: "bulletin 4"},
		"valve.margin/intake": {},
	}
	form := library.SheetForm{WriteID: shoptest.ID(), Version: 6, Set: "service", Source: " leaflet, page 2 ", Rows: rows}
	_, err := library.EditSheet(ctx, f.Shop, owner, 1, form)
	require.NoError(t, err)
	m, err := library.ModelOf(ctx, f.Shop, 1)
	require.NoError(t, err)
	assert.Equal(t, "leaflet, page 2", m.Sheet.Note, "nothing else was said of what changed")
	from := map[string]string{}
	for _, l := range m.Sheet.Limits {
		if l.Kind == "service" {
			from[l.Characteristic+"/"+l.Role] = l.Source
		}
	}
	assert.Equal(t, map[string]string{"seat.width/intake": "leaflet, page 2", "seat.width/exhaust": "bulletin 4"}, from)
}

func TestAModelIsDrawnAsFarAsItWasTyped(t *testing.T) {
	form := library.ModelForm{
		Cylinders: "3", Pattern: "IIEE", Ignition: "plug", Cooling: "water", FirstAt: "left", Unit: "mm",
	}
	lay, supposed, err := form.Drawn()
	require.NoError(t, err)
	assert.Len(t, lay.Valves, 12)
	assert.Equal(t, []string{"pitch", "bore", "width", "intake_head", "exhaust_head"}, supposed)
	for _, form.Pattern = range []string{"IE", "EI", "IIE", "IIEE", "IEIE", "IE EI IE"} {
		for _, form.Bore = range []string{"60", "3.5 in", "140"} {
			_, supposed, err := form.Drawn()
			require.NoError(t, err, "%s %s", form.Pattern, form.Bore)
			assert.NotContains(t, supposed, "bore")
		}
	}
	form.Pitch = "30"
	_, _, err = form.Drawn()
	var errs field.Errors
	require.ErrorAs(t, err, &errs)
	assert.NotEmpty(t, errs.Message("pitch"))
}
