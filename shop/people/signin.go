package people

import (
	"context"
	"errors"
	"strings"
	"sync"
	"yatai/core/field"
	"yatai/shop"
	"yatai/store"
)

// errSignIn does not say which of name and secret was wrong.
var errSignIn = field.Only("password", "name and password do not belong together")

// refused writes down that somebody was not let in. What was typed as a name is cut short.
func refused(ctx context.Context, s *shop.Shop, from, name, by string) error {
	if r := []rune(name); len(r) > longestName {
		name = string(r[:longestName])
	}
	return s.Store.Write(ctx, func(tx store.DB) error {
		return s.Note(tx, shop.Actor{From: from}, 0, "sign-in refused", strings.ToValidUTF8(name, "?")+", by "+by)
	})
}

// longestName is how much of a name that is refused is written down.
const longestName = 60

// UnlockPIN lets a PIN be tried again; the lead does.
func UnlockPIN(ctx context.Context, s *shop.Shop, a shop.Actor, writeID string, id uint) error {
	if err := a.Must("unlock a PIN"); err != nil {
		return err
	}
	_, err := s.Once(ctx, writeID, func(tx store.DB) (string, error) {
		u, err := tx.User(id)
		if err != nil {
			return "", err
		}
		if err := tx.UnlockPIN(id); err != nil {
			return "", err
		}
		return "", s.NoteAbout(tx, a, shop.About(shop.OfPerson, u.ID), "PIN unlocked", u.Name)
	})
	return err
}

// noUser takes the time of a real comparison, so that a stranger cannot tell which names
// exist.
var noUser = sync.OnceValue(func() string {
	h, err := shop.Hashed("nobody has this password")
	if err != nil {
		panic(err) // no randomness: the program cannot be safe
	}
	return h
})

// SignIn returns the person of that name and password. Who is refused is written down, with the
// address it came from.
func SignIn(ctx context.Context, s *shop.Shop, from, name, password string) (shop.Actor, error) {
	u, err := s.Store.Read(ctx).UserNamed(name)
	hash := u.PasswordHash
	if errors.Is(err, shop.ErrNotFound) {
		hash, err = noUser(), nil
	}
	if err != nil {
		return shop.Actor{}, err
	}
	ok, err := shop.Matches(ctx, password, hash)
	if err != nil {
		return shop.Actor{}, err
	}
	if !ok || u.ID == 0 {
		return shop.Actor{}, errors.Join(refused(ctx, s, from, name, "password"), errSignIn)
	}
	return actor(u), signedIn(ctx, s, u, from, "password")
}

// signedIn writes down who came in, from where and by what.
func signedIn(ctx context.Context, s *shop.Shop, u store.User, from, by string) error {
	return s.Store.Write(ctx, func(tx store.DB) error {
		return s.NoteAbout(tx, shop.Actor{ID: u.ID, From: from}, shop.About(shop.OfPerson, u.ID), "signed in",
			"by "+by)
	})
}

// MostMisses is after how many wrong PINs in a row a PIN is locked: there are few to guess.
const MostMisses = 5

// SignOn returns the person of that name and PIN at an enrolled station. Who is refused is
// written down; after MostMisses wrong PINs in a row the lead has to unlock it.
func SignOn(ctx context.Context, s *shop.Shop, stationToken, name, pin string) (shop.Actor, error) {
	db := s.Store.Read(ctx)
	station, err := db.StationByToken(shop.HashToken(stationToken))
	if err != nil {
		return shop.Actor{}, field.Only("pin", "this tablet is not enrolled: the owner does it under People")
	}
	u, err := db.UserNamed(name)
	hash := u.PINHash
	if errors.Is(err, shop.ErrNotFound) || err == nil && hash == "" {
		hash, u.ID, err = noUser(), 0, nil
	}
	if err != nil {
		return shop.Actor{}, err
	}
	ok, err := shop.Matches(ctx, pin, hash)
	switch {
	case err != nil:
		return shop.Actor{}, err
	case u.ID != 0 && u.PINMisses >= MostMisses:
		return shop.Actor{}, field.Only("pin",
			"this PIN is locked after wrong tries: the lead unlocks it under People, or sign in with the password")
	case !ok || u.ID == 0:
		err := refused(ctx, s, station.Name, name, "PIN")
		if u.ID != 0 && err == nil {
			err = s.Store.Write(ctx, func(tx store.DB) error { return tx.MissedPIN(u.ID) })
		}
		return shop.Actor{}, errors.Join(err, field.Only("pin", "name and PIN do not belong together"))
	case u.PINMisses > 0:
		err = s.Store.Write(ctx, func(tx store.DB) error { return tx.UnlockPIN(u.ID) })
	}
	return actor(u), errors.Join(err, signedIn(ctx, s, u, station.Name, "PIN"))
}
