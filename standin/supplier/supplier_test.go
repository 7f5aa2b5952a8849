package supplier_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"yatai/standin/supplier"
)

func TestSupplierAnswersTheSame(t *testing.T) {
	for _, kind := range []string{"valve", "guide", "lash shim", "exchange head"} {
		one, ok := supplier.Ask(kind, "a part")
		again, _ := supplier.Ask(kind, "a part")
		assert.True(t, ok)
		assert.Equal(t, one, again)
		assert.Positive(t, one.CostCents)
		assert.Positive(t, one.LeadDays)
	}
	_, ok := supplier.Ask("moon rock", "x")
	assert.False(t, ok)
}
