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
	v, err := library.EditSheet(ctx, f.Shop, owner, shoptest.ID(), 1, 6, "service", "wider", rows)
	require.NoError(t, err)
	assert.Equal(t, 7, v)
	_, err = library.EditSheet(ctx, f.Shop, owner, shoptest.ID(), 1, 6, "service", "mine too", rows)
	assert.ErrorContains(t, err, "somebody wrote version 7")
	assert.Equal(t, 6, f.File(t, "T0401").Sheet.Version, "a head keeps its version")
	crossed := map[string]library.LimitEntry{"seat.width/intake": {Low: "3", High: "2"}}
	_, err = library.EditSheet(ctx, f.Shop, owner, shoptest.ID(), 1, 7, "service", "bad", crossed)
	var errs field.Errors
	require.ErrorAs(t, err, &errs)
	assert.Contains(t, errs.Message("seat.width/intake/low"), "above")
	assert.Contains(t, errs.Message("seat.width/intake/source"), "where")
}
