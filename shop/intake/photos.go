package intake

import (
	"context"
	"io"
	"strconv"

	"yatai/core/field"
	"yatai/shop"
	"yatai/store"
)

// Bounds on a photo: what may be sent, what may be in it, and what is kept.
const (
	MaxPhoto      = 12 << 20
	maxPixels     = 40_000_000
	photoSide     = 1600
	photoQuality  = 82
	photosPerHead = 60
)

// AddPhoto keeps a photo on a head: read, turned upright, made smaller and encoded anew, so
// that nothing is ever served as it was sent. It returns the photo's id.
func AddPhoto(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag, position, caption string, shown bool,
	file io.Reader,
) (uint, error) {
	if err := a.Must("add a photo"); err != nil {
		return 0, err
	}
	errs := field.Errors{}
	caption = shop.Optional(errs, "caption", caption, 200)
	raw, err := io.ReadAll(io.LimitReader(file, MaxPhoto+1))
	if err != nil || len(raw) > MaxPhoto {
		errs.Addf("photo", "larger than %d MB", MaxPhoto>>20)
	}
	if err := errs.Err(); err != nil {
		return 0, err
	}
	jpeg, width, height, err := picture(ctx, raw, photoSide)
	if err != nil {
		return 0, err
	}
	answer, err := s.Once(ctx, writeID, func(tx store.DB) (string, error) {
		h, err := tx.Head(tag)
		if err != nil {
			return "", err
		}
		have, err := tx.Photos(h.ID)
		if err != nil {
			return "", err
		}
		if len(have) >= photosPerHead {
			return "", field.Only("photo", "this head has as many photos as it may")
		}
		l, err := s.Cache.Layout(h.Model)
		if err != nil {
			return "", err
		}
		if _, ok := l.Valve(position); position != "" && !ok {
			return "", field.Only("position", "this head has no such position")
		}
		p := store.Photo{
			HeadID: h.ID, Position: position, Caption: caption, Width: width, Height: height, JPEG: jpeg,
			Shown: shown, PersonID: a.ID, At: s.Now(),
		}
		if err := tx.Add(&p); err != nil {
			return "", err
		}
		return strconv.Itoa(int(p.ID)), s.Note(tx, a, h.ID, "photo added", caption)
	})
	if err != nil {
		return 0, err
	}
	id, err := strconv.ParseUint(answer, 10, 32)
	return uint(id), err
}

// Photo returns a photo with its picture.
func Photo(ctx context.Context, s *shop.Shop, id uint) (store.Photo, error) {
	return s.Store.Read(ctx).Photo(id)
}

// ShowPhoto says whether the customer sees a photo with the quote.
func ShowPhoto(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag string, id uint, shown bool,
) error {
	if err := a.Must("add a photo"); err != nil {
		return err
	}
	_, err := s.Once(ctx, writeID, func(tx store.DB) (string, error) {
		h, err := tx.Head(tag)
		if err != nil {
			return "", err
		}
		p, err := tx.Photo(id)
		if err != nil {
			return "", err
		}
		if p.HeadID != h.ID {
			return "", shop.ErrNotFound
		}
		if err := tx.ShowPhoto(id, shown); err != nil {
			return "", err
		}
		what := map[bool]string{true: "photo shown to the customer", false: "photo not shown any more"}[shown]
		return "", s.Note(tx, a, h.ID, what, p.Caption)
	})
	return err
}
