package intake

import (
	"context"
	"errors"

	"yatai/core/field"
	"yatai/shop"
	"yatai/store"
)

// logoSide is the side of the square that a logo fits, in dots: enough for paper at the height it has there.
const logoSide = 600

// SetLogo keeps the picture that stands on the shop's papers, in place of the one before; no bytes leave the
// papers without one. Errors are keyed "logo".
func SetLogo(ctx context.Context, s *shop.Shop, a shop.Actor, writeID string, raw []byte) error {
	if err := a.Must("change settings"); err != nil {
		return err
	}
	var l store.Logo
	if len(raw) > 0 {
		var err error
		l.JPEG, l.Width, l.Height, err = picture(ctx, raw, logoSide)
		var errs field.Errors
		if errors.As(err, &errs) {
			return field.Only("logo", "%s", errs.Message("photo"))
		} else if err != nil {
			return err
		}
	}
	_, err := s.Once(ctx, writeID, func(tx store.DB) (string, error) {
		if err := tx.SetLogo(l); err != nil {
			return "", err
		}
		return "", s.Note(tx, a, 0, "logo changed", "")
	})
	return err
}

// Logo returns the picture on the shop's papers; one without bytes where there is none.
func Logo(ctx context.Context, s *shop.Shop) (shop.Logo, error) {
	l, err := s.Store.Read(ctx).Logo()
	if errors.Is(err, shop.ErrNotFound) {
		return shop.Logo{}, nil
	}
	return l, err
}
