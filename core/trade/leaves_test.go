package trade_test

import (
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/gauge"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/trade"
)

// TestASetOfLeavesIsReadInAnyOrderAndUnit, and refused with what is wrong.
func TestASetOfLeavesIsReadInAnyOrderAndUnit(t *testing.T) {
	for text, want := range map[string]string{
		"": "", "0.10 0.05 0.15": "0.05 0.1 0.15 mm", "0.05mm 0.1": "0.05 0.1 mm", "2 3 4 thou": "0.0508 0.0762 0.1016 mm",
		"0,05; 0,1 mm": "0.05 0.1 mm",
		".002 .003 in": "0.0508 0.0762 mm",
	} {
		l, err := trade.ParseLeaves(text, length.MM)
		require.NoError(t, err, text)
		assert.Equal(t, want, l.String(), text)
		again, err := trade.ParseLeaves(l.String(), length.In)
		require.NoError(t, err)
		assert.Equal(t, l, again, "it names its unit")
	}
	for text, why := range map[string]string{
		"0.05": "two leaves", "0.05 0.05": "twice", "0.05 x": "apart by spaces", "0 0.05": "no leaf", "0.05 11": "no leaf",
		"0.05 -0.1 0.2":            "no leaf",
		strings.Repeat("0.05 ", 2): "twice", "0.05 0.1 furlong": "apart by spaces",
	} {
		_, err := trade.ParseLeaves(text, length.MM)
		assert.ErrorContains(t, err, why, text)
	}
	var many []string
	for i := range 101 {
		many = append(many, length.Length(int64(i+1)*10_000).MM())
	}
	_, err := trade.ParseLeaves(strings.Join(many, " "), length.MM)
	assert.ErrorContains(t, err, "at most 100")
}

// TestOneLeafAloneIsReadUpToTheNextOfItsSet; two leaves stay what was typed, and of a set nobody knows one leaf
// alone does not go.
func TestOneLeafAloneIsReadUpToTheNextOfItsSet(t *testing.T) {
	set, err := trade.ParseLeaves("0.05 0.10 0.15 0.20 0.30", length.MM)
	require.NoError(t, err)
	um := func(goes, nogo quantity.Amount) gauge.Value { return gauge.Between(goes*1000, nogo*1000) }
	for text, want := range map[string]gauge.Value{
		"0.05": um(50, 100), "0.2": um(200, 300), "0": um(0, 50), "0.05 0.20": um(50, 200), "0.12 0.14": um(120, 140),
		"0.30 0.35": um(300, 350),
	} {
		v, err := trade.Lash.Read(text, length.MM, set...)
		require.NoError(t, err, text)
		assert.Equal(t, want, v, text)
		assert.Equal(t, !strings.Contains(text, " "), trade.Lash.Alone(text), text)
	}
	for text, why := range map[string]string{
		"0.04": "beside it are: 0.05 mm", "0.25": "beside it are: 0.2 mm, 0.3 mm", "0.30": "no larger leaf",
		"0.4": "beside it are: 0.3 mm",
	} {
		_, err := trade.Lash.Read(text, length.MM, set...)
		assert.ErrorContains(t, err, why, text)
	}
	v, err := trade.Lash.Read("0.20", length.MM)
	require.NoError(t, err)
	assert.Equal(t, um(0, 200), v)
}

// TestEveryLeafOfASetButTheThickestIsABracket: none is passed over, and the brackets meet.
func TestEveryLeafOfASetButTheThickestIsABracket(t *testing.T) {
	r := rand.New(rand.NewPCG(5, 25))
	for range 200 {
		var set trade.Leaves
		at := length.Length(0)
		for range 2 + r.IntN(20) {
			at += length.Length(1+r.IntN(20)) * 10_000
			set = append(set, at)
		}
		for i, leaf := range set[:len(set)-1] {
			v, err := trade.Lash.Read(leaf.String(), length.MM, set...)
			require.NoError(t, err)
			assert.Equal(t, gauge.Between(quantity.OfLength(leaf), quantity.OfLength(set[i+1])), v)
		}
	}
}
