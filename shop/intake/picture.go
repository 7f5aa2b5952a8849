package intake

import (
	"bytes"
	"context"
	"image"
	"image/color"
	_ "image/gif" // the kinds of picture a photo may be sent as
	"image/jpeg"
	_ "image/png"

	"github.com/bep/imagemeta"
	"golang.org/x/image/draw"
	"golang.org/x/image/math/f64"

	"yatai/core/field"
)

// decoding lets one picture at a time be decoded: each takes four bytes a pixel.
var decoding = make(chan struct{}, 1)

// picture reads a picture that was sent, turns it upright, makes it fit a square of the given
// side and encodes it anew. What it holds is looked at before it is decoded. A caller that
// leaves while others are decoded, by ctx, gets nothing.
func picture(ctx context.Context, raw []byte, side int) (out []byte, width, height int, err error) {
	about, kind, err := image.DecodeConfig(bytes.NewReader(raw))
	if err != nil || about.Width < 1 || about.Height < 1 {
		return nil, 0, 0, field.Only("photo", "not a JPEG, PNG or GIF picture this program can read")
	}
	if about.Width > maxPixels || about.Height > maxPixels ||
		about.Width*about.Height > maxPixels/deep(about.ColorModel) {
		return nil, 0, 0, field.Only(
			"photo", "more than 40 million dots, or 20 million of 16 bits: make it smaller first",
		)
	}
	select {
	case decoding <- struct{}{}:
		defer func() { <-decoding }()
	case <-ctx.Done():
		return nil, 0, 0, ctx.Err()
	}
	img, _, err := image.Decode(bytes.NewReader(raw))
	if err != nil {
		return nil, 0, 0, field.Only("photo", "the picture is damaged")
	}
	turn := 1
	if kind == "jpeg" {
		turn = orientation(raw)
	}
	small := upright(img, turn, side)
	var b bytes.Buffer
	if err := jpeg.Encode(&b, small, &jpeg.Options{Quality: photoQuality}); err != nil {
		return nil, 0, 0, err
	}
	return b.Bytes(), small.Bounds().Dx(), small.Bounds().Dy(), nil
}

// deep is how many times the memory of the usual picture one of a colour model takes.
func deep(m color.Model) int {
	if m == color.RGBA64Model || m == color.NRGBA64Model {
		return 2
	}
	return 1
}

// orientation is how a JPEG says it was held: 1 upright to 8, see upright.
func orientation(raw []byte) int {
	turn := 1
	_, err := imagemeta.Decode(
		imagemeta.Options{R: bytes.NewReader(raw), ImageFormat: imagemeta.JPEG, Sources: imagemeta.EXIF,
			ShouldHandleTag: func(t imagemeta.TagInfo) bool { return t.Tag == "Orientation" },
			HandleTag: func(t imagemeta.TagInfo) error {
				if n, ok := t.Value.(uint16); ok && n >= 1 && n <= 8 {
					turn = int(n)
				}
				return nil
			}},
	)
	if err != nil {
		return 1 // what it says of itself is damaged: the picture is shown as it is
	}
	return turn
}

// turns are how the eight orientations put a picture's x and y: x' = a x + b y + c (of the
// width or height), y' = d x + e y + f.
var turns = [9]f64.Aff3{
	{}, {1, 0, 0, 0, 1, 0}, {-1, 0, 1, 0, 1, 0}, {-1, 0, 1, 0, -1, 1}, {1, 0, 0, 0, -1, 1}, {0, 1, 0, 1, 0, 0},
	{0, -1, 1, 1, 0, 0},
	{0, -1, 1, -1, 0, 1}, {0, 1, 0, -1, 0, 1},
}

// upright turns a picture by its orientation and makes it fit a square; a smaller one keeps
// its size.
func upright(img image.Image, turn, side int) image.Image {
	b := img.Bounds()
	w, h := b.Dx(), b.Dy()
	if turn >= 5 {
		w, h = h, w
	}
	scale := min(1, float64(side)/float64(max(w, h)))
	dw, dh := max(1, int(float64(w)*scale+0.5)), max(1, int(float64(h)*scale+0.5))
	out := image.NewRGBA(image.Rect(0, 0, dw, dh))
	draw.Draw(out, out.Bounds(), image.White, image.Point{}, draw.Src)
	img = quick(img, 2*side)
	b = img.Bounds()
	t := turns[turn]
	if w, h = b.Dx(), b.Dy(); turn >= 5 {
		w, h = h, w
	}
	sx, sy := float64(dw)/float64(w), float64(dh)/float64(h)
	m := f64.Aff3{t[0] * sx, t[1] * sx, t[2] * float64(dw), t[3] * sy, t[4] * sy, t[5] * float64(dh)}
	m[2] -= m[0]*float64(b.Min.X) + m[1]*float64(b.Min.Y)
	m[5] -= m[3]*float64(b.Min.X) + m[4]*float64(b.Min.Y)
	draw.CatmullRom.Transform(out, m, img, b, draw.Over, nil)
	return out
}

// quick is a picture of a kind that is drawn quickly: others are sampled to a square of the given side first,
// dot by dot, so that a large one costs what its square does.
func quick(img image.Image, side int) image.Image {
	switch img.(type) {
	case *image.RGBA, *image.NRGBA, *image.YCbCr, *image.Gray:
		return img
	}
	b := img.Bounds()
	scale := min(1, float64(side)/float64(max(b.Dx(), b.Dy())))
	out := image.NewNRGBA(
		image.Rect(0, 0, max(1, int(float64(b.Dx())*scale)), max(1, int(float64(b.Dy())*scale))),
	)
	draw.NearestNeighbor.Scale(out, out.Bounds(), img, b, draw.Src, nil)
	return out
}
