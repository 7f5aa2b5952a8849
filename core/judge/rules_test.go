package judge

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"yatai/core/head"
	"yatai/core/quantity"
	"yatai/core/trade"
)

// TestWhatAClassRuleLeaves: on the side that work moves a figure to; nothing where no class holds it or nobody
// read it.
func TestWhatAClassRuleLeaves(t *testing.T) {
	low, high := 10*quantity.One, 50*quantity.One
	both, lower, upper := &head.Limit{Set: head.Class, Low: &low, High: &high}, &head.Limit{Set: head.Class, Low: &low},
		&head.Limit{Set: head.Class, High: &high}
	assert.True(t, trade.WorkRaises(trade.StemHeight.Code))
	assert.False(t, trade.WorkRaises(trade.Thickness.Code))
	for _, c := range []struct {
		says  string
		code  string
		limit *head.Limit
		read  bool
		left  quantity.Amount
		ok    bool
	}{
		{"cut seats bring stems to the upper end", trade.StemHeight.Code, both, true, 20 * quantity.One, true},
		{"a face goes to the lower", trade.Thickness.Code, both, true, 15 * quantity.One, true},
		{"a lower end alone", trade.StemHeight.Code, lower, true, 15 * quantity.One, true},
		{"an upper end alone", trade.Thickness.Code, upper, true, 20 * quantity.One, true},
		{"not read", trade.StemHeight.Code, both, false, 0, false},
		{"no limit", trade.StemHeight.Code, nil, true, 0, false},
		{"another set", trade.StemHeight.Code, &head.Limit{Set: head.Service, High: &high}, true, 0, false},
		{"no end", trade.StemHeight.Code, &head.Limit{Set: head.Class}, true, 0, false},
	} {
		f := Feature{Code: c.code, Limit: c.limit, Low: 25 * quantity.One, High: 30 * quantity.One}
		if c.read {
			f.From = []uint{1}
		}
		left, ok := f.Left()
		assert.Equal(t, c.ok, ok, c.says)
		assert.Equal(t, c.left, left, c.says)
	}
	seen := Feature{Code: trade.StemHeight.Code, Limit: both, Low: 1, High: 1, From: []uint{1}, Finding: 3}
	_, ok := seen.Left()
	assert.False(t, ok, "what was seen has no figure")
}

// TestWhichToolsReadACharacteristic: its usual ones, and the shop's others of the same kind of quantity, none twice
// and no eyes.
func TestWhichToolsReadACharacteristic(t *testing.T) {
	s := &judging{tools: map[string][]head.Tool{}}
	for _, k := range trade.ToolKinds {
		s.tools[k.Name] = []head.Tool{{Name: k.Name}}
	}
	kinds := map[string]*trade.ToolKind{}
	for i := range trade.ToolKinds {
		kinds[trade.ToolKinds[i].Name] = &trade.ToolKinds[i]
	}
	others := 0
	for i := range trade.Characteristics {
		c := &trade.Characteristics[i]
		usual, other := s.toolsFor(c)
		assert.Len(t, usual, len(c.Tools), c.Code)
		for _, x := range other {
			others++
			assert.NotContains(t, c.Tools, x.Name, c.Code)
			assert.False(t, kinds[x.Name].Eye, "%s by %s", c.Code, x.Name)
			assert.Equal(t, c.Unit.Name, kinds[x.Name].Unit.Name, "%s by %s", c.Code, x.Name)
		}
		want := 0
		for _, k := range kinds {
			if !k.Eye && k.Unit.Name == c.Unit.Name {
				want++
			}
		}
		for _, name := range c.Tools {
			if k := kinds[name]; k != nil && !k.Eye && k.Unit.Name == c.Unit.Name {
				want--
			}
		}
		assert.Len(t, other, want, c.Code)
	}
	assert.Greater(t, others, 20)
}
