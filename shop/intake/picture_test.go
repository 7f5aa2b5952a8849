package intake

import (
	"bytes"
	"encoding/binary"
	"hash/crc32"
	"image"
	"image/color"
	"image/png"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/field"
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
		1: "top left", 2: "top right", 3: "bottom right", 4: "bottom left", 5: "top left", 6: "top right", 7: "bottom right",
		8: "bottom left",
	}
	for turn, where := range corners {
		out := upright(img, turn, 30)
		b := out.Bounds()
		want := image.Pt(30, 20)
		if turn >= 5 {
			want = image.Pt(20, 30)
		}
		assert.Equal(t, want, b.Size(), "orientation %d", turn)
		at := map[string]image.Point{
			"top left": {2, 2}, "top right": {b.Dx() - 3, 2}, "bottom left": {2, b.Dy() - 3},
			"bottom right": {b.Dx() - 3, b.Dy() - 3},
		}
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

// TestADeepPictureIsBounded: one of 16 bits a colour comes out as the usual one does, upright, and a large
// one is refused before it is decoded.
func TestADeepPictureIsBounded(t *testing.T) {
	deep := image.NewNRGBA64(image.Rect(0, 0, 600, 300))
	for y := range 300 {
		for x := range 600 {
			deep.Set(x, y, color.NRGBA64{uint16(x * 100), uint16(y * 200), 0x8000, 0xffff})
		}
	}
	var b bytes.Buffer
	require.NoError(t, png.Encode(&b, deep))
	_, w, h, err := picture(t.Context(), b.Bytes(), 100)
	require.NoError(t, err)
	assert.Equal(t, []int{100, 50}, []int{w, h})
	small := upright(deep, 6, 100)
	assert.Equal(t, image.Pt(50, 100), small.Bounds().Size(), "turned")
	r, g, _, _ := small.At(2, 2).RGBA() // a quarter turn: the lower left corner is at the upper left
	assert.Less(t, r, uint32(0x1800))
	assert.Greater(t, g, uint32(0xd000))

	header := func(w, h uint32, bits byte) []byte {
		var b bytes.Buffer
		require.NoError(t, png.Encode(&b, deep))
		raw := b.Bytes()
		binary.BigEndian.PutUint32(raw[16:], w)
		binary.BigEndian.PutUint32(raw[20:], h)
		raw[24] = bits
		binary.BigEndian.PutUint32(raw[29:], crc32.ChecksumIEEE(raw[12:29]))
		return raw
	}
	for _, c := range []struct {
		w, h    uint32
		bits    byte
		refused bool
	}{{5000, 4000, 16, false}, {5001, 4000, 16, true}, {8000, 5000, 8, false}, {8001, 5000, 8, true}} {
		_, _, _, err := picture(t.Context(), header(c.w, c.h, c.bits), 100)
		var errs field.Errors
		require.ErrorAs(t, err, &errs, "the rest is not there")
		assert.Equal(t, c.refused, strings.Contains(errs.Message("photo"), "smaller first"), "%d x %d at %d bits: %s", c.w,
			c.h, c.bits, errs.Message("photo"))
	}
}

// BenchmarkADeepPicture shrinks twenty million dots of 16 bits.
func BenchmarkADeepPicture(b *testing.B) {
	img := image.NewNRGBA64(image.Rect(0, 0, 5000, 4000))
	for b.Loop() {
		upright(img, 1, 1600)
	}
}
