package shop_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"yatai/shop"
)

// TestATelephoneIsFoundByItsDigits holds the number looked for against how it may be kept.
func TestATelephoneIsFoundByItsDigits(t *testing.T) {
	for typed, wanted := range map[string]string{
		"0171 234 56 78": "12345678", "+49 171 2345678": "12345678", "(0171) 234-5678": "12345678", "171/2345678": "12345678",
		"234.5678":         "2345678",
		"0049 171 2345678": "12345678", "4711": "4711", "123": "", "0000": "", "T0401": "", "12a4567": "", "": "",
	} {
		assert.Equal(t, wanted, shop.Telephone(typed), typed)
	}
}

// TestATelephoneIsThereHoweverItIsKept looks for one number in what shops write down.
func TestATelephoneIsThereHoweverItIsKept(t *testing.T) {
	for kept, there := range map[string]bool{
		"0171 2345678": true, "+49 (0)171 / 234 56-78": true, "by night 01712345678": true, "0171 2345679": false, "": false,
		"0551 90210": false,
	} {
		assert.Equal(t, there, shop.HasTelephone(kept, "0171 234 56 78"), kept)
	}
	assert.False(t, shop.HasTelephone("0171 2345678", "the mill"), "what is no number is found by its letters")
}
