package shop_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
)

// TestAnInspectionIsAnswered: a rules check gets yes or no with its reasons, other heads are
// not asked.
func TestAnInspectionIsAnswered(t *testing.T) {
	f := open(t)
	assert.Empty(t, f.file(t, "T0401").Compliance().Says())
	c := f.file(t, "T0411").Compliance()
	assert.True(t, c.Asked)
	assert.Equal(t, "the class rule", c.Rule)
	assert.NotEmpty(t, c.Says())
	assert.Equal(t, c.Known && c.OK, len(c.Against)+len(c.Open) == 0)
	if len(c.Against) > 0 {
		assert.Contains(t, c.Says(), "It does not comply with the class rule: ")
	}
}
