package intake

import (
	"bytes"
	"image"
	"image/color"
	"image/png"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestAPictureIsTurnedUpright marks one corner and looks where each orientation puts it.
func TestAPictureIsTurnedUpright(t *testing.T) {
	img := image.NewRGBA(image.Rect(10, 20, 10+60, 20+40))
	for x := range 60 {
		for y := range 40 {
			img.Set(10+x, 20+y, color.Gray{200})
			if x < 15 && y < 10 {
				img.Set(10+x, 20+y, color.RGBA{200, 0, 0, 255})
			}
		}
	}
	corners := map[int]string{
		1: "top left", 2: "top right", 3: "bottom right", 4: "bottom left", 5: "top left", 6: "top right", 7: "bottom right", 8: "bottom left",
	}
	for turn, where := range corners {
		out := upright(img, turn, 30)
		b := out.Bounds()
		want := image.Pt(30, 20)
		if turn >= 5 {
			want = image.Pt(20, 30)
		}
		assert.Equal(t, want, b.Size(), "orientation %d", turn)
		at := map[string]image.Point{"top left": {2, 2}, "top right": {b.Dx() - 3, 2}, "bottom left": {2, b.Dy() - 3}, "bottom right": {b.Dx() - 3, b.Dy() - 3}}
		for name, p := range at {
			_, g, _, _ := out.At(p.X, p.Y).RGBA()
			assert.Equal(t, name == where, g < 0x4000, "orientation %d: %s", turn, name)
		}
	}
}

func TestAPictureIsLookedAtBeforeItIsDecoded(t *testing.T) {
	var b bytes.Buffer
	require.NoError(t, png.Encode(&b, image.NewRGBA(image.Rect(0, 0, 40, 30))))
	huge := b.Bytes()
	copy(huge[16:], []byte{0, 0, 0xff, 0xff, 0, 0, 0xff, 0xff}) // says 65535 by 65535
	_, _, _, err := picture(t.Context(), huge, 100)
	assert.ErrorContains(t, err, "not a JPEG")
	_, _, _, err = picture(t.Context(), []byte("<svg/>"), 100)
	assert.ErrorContains(t, err, "not a JPEG")
}
