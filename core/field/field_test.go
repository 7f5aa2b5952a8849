package field_test

import (
	"encoding/json"
	"errors"
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/field"
	"yatai/core/words"
	"yatai/internal/schematest"
)

func TestPathsJoin(t *testing.T) {
	assert.Equal(t, "stem.top[1]", field.Join("stem", field.Join("top", "[1]")))
	assert.Equal(t, "stem", field.Join("stem", ""))
	assert.Equal(t, "top", field.Join("", "top"))
	err := field.Under("guides[2]", field.Under("stem", field.Errorf("top[0]", "%d is no length", 3)))
	assert.EqualError(t, err, "guides[2].stem.top[0]: 3 is no length")
	assert.EqualError(t, field.Under("file", errors.New("torn")), "file: torn",
		"an error that names no field gets the path")
	assert.EqualError(t, field.Errorf("", "nothing at all"), "nothing at all")
	wrapped := fmt.Errorf("plan 3: %w", field.Errorf("cut", "too deep"))
	assert.EqualError(t, field.Under("face", wrapped), "face.cut: too deep")
}

func TestTheFirstMistakeOfAFieldStays(t *testing.T) {
	errs := field.Errors{}
	require.NoError(t, errs.Err())
	errs.Add("low", nil)
	require.NoError(t, errs.Err(), "no mistake is none")
	errs.Add("low", field.Errorf("somewhere.else", "not a number"))
	errs.Addf("low", "and %s", "too large")
	errs.Addf("high", "missing")
	assert.Equal(t, field.Errors{"low": words.Of("not a number"), "high": words.Of("missing")}, errs)
	assert.Empty(t, errs.Message("width"), "what is fine says nothing")
	var back field.Errors
	require.ErrorAs(t, errs.Err(), &back)
	assert.Contains(t, errs.Error(), "low: not a number")
}

func TestErrorsAsJSON(t *testing.T) {
	for _, c := range []struct {
		err            error
		field, message string
	}{{
		field.Errorf("stem.top[1]", "\"8,0,1\" is no length"), "stem.top[1]", "\"8,0,1\" is no length",
	}, {errors.New("disk full"), "", "disk full"}} {
		out := field.JSON(c.err)
		schematest.Holds(t, "error", out)
		assert.Equal(t, byte('\n'), out[len(out)-1])
		var back struct {
			Error struct{ Field, Message string }
		}
		require.NoError(t, json.Unmarshal(out, &back))
		assert.Equal(t, c.field, back.Error.Field)
		assert.Equal(t, c.message, back.Error.Message)
	}
}
