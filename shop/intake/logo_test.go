package intake_test

import (
	"bytes"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/intake"
)

// TestTheShopHasOneLogo keeps a picture with clear parts, another in its place, and none.
func TestTheShopHasOneLogo(t *testing.T) {
	f := shoptest.Open(t)
	ctx, owner := t.Context(), f.People[shop.Owner]
	drawn := func(w, h int) []byte {
		img := image.NewNRGBA(image.Rect(0, 0, w, h)) // clear all over
		for x := range w / 2 {
			for y := range h {
				img.Set(x, y, color.NRGBA{20, 40, 120, 255})
			}
		}
		var b bytes.Buffer
		require.NoError(t, png.Encode(&b, img))
		return b.Bytes()
	}
	none, err := intake.Logo(ctx, f.Shop)
	require.NoError(t, err)
	assert.Empty(t, none.JPEG)
	require.ErrorIs(t, intake.SetLogo(ctx, f.Shop, f.People[shop.Lead], shoptest.ID(), drawn(9, 9)), shop.ErrForbidden)
	require.ErrorContains(t, intake.SetLogo(ctx, f.Shop, owner, shoptest.ID(), []byte("no picture")), "logo: not a JPEG")

	require.NoError(t, intake.SetLogo(ctx, f.Shop, owner, shoptest.ID(), drawn(50, 20)))
	require.NoError(t, intake.SetLogo(ctx, f.Shop, owner, shoptest.ID(), drawn(1800, 600)))
	l, err := intake.Logo(ctx, f.Shop)
	require.NoError(t, err)
	assert.Equal(t, []int{600, 200}, []int{l.Width, l.Height}, "the newest, made to fit")
	img, err := jpeg.Decode(bytes.NewReader(l.JPEG))
	require.NoError(t, err)
	r, g, b, _ := img.At(590, 100).RGBA()
	assert.True(t, r > 0xf000 && g > 0xf000 && b > 0xf000, "what is clear is white on paper")

	require.NoError(t, intake.SetLogo(ctx, f.Shop, owner, shoptest.ID(), nil))
	none, err = intake.Logo(ctx, f.Shop)
	require.NoError(t, err)
	assert.Empty(t, none.JPEG)
}
