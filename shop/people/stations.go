package people

import (
	"context"
	"crypto/rand"
	"yatai/core/field"
	"yatai/shop"
	"yatai/store"
)

// EnrolStation makes a shared tablet a station and returns the token it keeps.
func EnrolStation(ctx context.Context, s *shop.Shop, a shop.Actor, name string) (string, error) {
	if err := a.Must("enrol a station"); err != nil {
		return "", err
	}
	errs := field.Errors{}
	name = shop.Required(errs, "station", name, "a station needs a name", 60)
	if err := errs.Err(); err != nil {
		return "", err
	}
	token := rand.Text()
	err := s.Store.Write(ctx, func(tx store.DB) error {
		if err := tx.Add(
			&store.Station{Name: name, TokenHash: shop.HashToken(token), CreatedAt: s.Now()},
		); err != nil {
			return err
		}
		return s.Note(tx, a, 0, "station enrolled", name)
	})
	if store.IsDuplicate(err) {
		return "", field.Only("station", "a station of that name is there already")
	}
	return token, err
}

// Station returns the name of the station with that token, empty for none.
func Station(ctx context.Context, s *shop.Shop, token string) string {
	if token == "" {
		return ""
	}
	st, err := s.Store.Read(ctx).StationByToken(shop.HashToken(token))
	if err != nil {
		return ""
	}
	return st.Name
}

// Stations lists the enrolled stations.
func Stations(ctx context.Context, s *shop.Shop) ([]store.Station, error) {
	return s.Store.Read(ctx).Stations()
}

// RevokeStation makes a tablet a station no more: what it holds opens nothing from then on.
func RevokeStation(ctx context.Context, s *shop.Shop, a shop.Actor, writeID string, id uint) error {
	if err := a.Must("enrol a station"); err != nil {
		return err
	}
	_, err := s.Once(ctx, writeID, func(tx store.DB) (string, error) {
		all, err := tx.Stations()
		if err != nil {
			return "", err
		}
		for _, st := range all {
			if st.ID == id {
				if err := tx.RevokeStation(id, s.Now()); err != nil {
					return "", err
				}
				return "", s.Note(tx, a, 0, "station revoked", st.Name)
			}
		}
		return "", shop.ErrNotFound
	})
	return err
}
