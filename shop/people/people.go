// Package people is who works here: people, passwords, sessions, the bench's stations with their
// PINs, and the owner's backup.
package people

import (
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"regexp"
	"slices"
	"sync"

	"yatai/core/field"
	"yatai/shop"
	"yatai/store"
)

// errSignIn does not say which of name and secret was wrong.
var errSignIn = field.Errors{"password": "name and password do not belong together"}

// PersonForm is a person to add, as typed.
type PersonForm struct {
	WriteID                         string
	Name, Role, Password, PIN, Unit string
}

var pinShape = regexp.MustCompile(`^[0-9]{4,8}$`)

func (f *PersonForm) check() error {
	errs := field.Errors{}
	f.Name = shop.Required(errs, "name", f.Name, "a person needs a name", 60)
	if !slices.Contains(shop.Roles, f.Role) {
		errs.Addf("role", "choose a role")
	}
	checkSecret(errs, "password", f.Password)
	if f.PIN != "" {
		checkSecret(errs, "pin", f.PIN)
	}
	if f.Unit == "" {
		f.Unit = "mm"
	}
	if f.Unit != "mm" && f.Unit != "in" {
		errs.Addf("unit", "mm or in")
	}
	return errs.Err()
}

func newUser(s *shop.Shop, f PersonForm) (store.User, error) {
	if err := f.check(); err != nil {
		return store.User{}, err
	}
	u := store.User{Name: f.Name, Role: f.Role, Unit: f.Unit, Active: true, CreatedAt: s.Now()}
	var err error
	if u.PasswordHash, err = shop.Hashed(f.Password); err != nil {
		return u, err
	}
	if f.PIN != "" {
		u.PINHash, err = shop.Hashed(f.PIN)
	}
	return u, err
}

// HasOwner tells whether the shop's first person is there.
func HasOwner(ctx context.Context, s *shop.Shop) (bool, error) {
	us, err := s.Store.Read(ctx).Users()
	return len(us) > 0, err
}

// FirstOwner makes the first person of an empty shop, its owner.
func FirstOwner(ctx context.Context, s *shop.Shop, f PersonForm) (shop.Actor, error) {
	f.Role = shop.Owner
	u, err := newUser(s, f)
	if err != nil {
		return shop.Actor{}, err
	}
	err = s.Store.Write(ctx, func(tx store.DB) error {
		if us, err := tx.Users(); err != nil || len(us) > 0 {
			return errors.Join(err, shop.ErrForbidden)
		}
		if err := tx.Add(&u); err != nil {
			return err
		}
		return s.Note(tx, shop.Actor{ID: u.ID}, 0, "first owner", u.Name)
	})
	return actor(u), err
}

// AddPerson adds somebody; the owner does.
func AddPerson(ctx context.Context, s *shop.Shop, a shop.Actor, f PersonForm) error {
	if err := a.Must("add people"); err != nil {
		return err
	}
	u, err := newUser(s, f)
	if err != nil {
		return err
	}
	_, err = s.Once(ctx, f.WriteID, func(tx store.DB) (string, error) {
		if err := tx.Add(&u); err != nil {
			return "", err
		}
		return "", s.Note(tx, a, 0, "person added", u.Name+", "+u.Role)
	})
	if store.IsDuplicate(err) {
		return field.Errors{"name": "somebody of that name is there already"}
	}
	return err
}

// ChangePerson gives somebody a new password or PIN, where one is typed, and lets them in
// or not; the owner does. The owner who does it stays in.
func ChangePerson(ctx context.Context, s *shop.Shop, a shop.Actor, id uint, active bool, f PersonForm) error {
	if err := a.Must("add people"); err != nil {
		return err
	}
	errs := field.Errors{}
	change := map[string]any{"active": active}
	if id == a.ID && !active {
		errs.Addf("active", "you cannot lock yourself out")
	}
	for _, secret := range []struct{ name, column, typed string }{{"password", "password_hash", f.Password}, {"pin", "pin_hash", f.PIN}} {
		if secret.typed == "" {
			continue
		}
		checkSecret(errs, secret.name, secret.typed)
		hash, err := shop.Hashed(secret.typed)
		if err != nil {
			return err
		}
		change[secret.column] = hash
	}
	if err := errs.Err(); err != nil {
		return err
	}
	_, err := s.Once(ctx, f.WriteID, func(tx store.DB) (string, error) {
		u, err := tx.User(id)
		if err != nil {
			return "", err
		}
		if err := tx.SetUser(id, change); err != nil {
			return "", err
		}
		return "", s.Note(tx, a, 0, "person changed", fmt.Sprintf("%s, active %t, new password %t, new PIN %t", u.Name, active, f.Password != "", f.PIN != ""))
	})
	return err
}

// checkSecret notes what is wrong with a password or PIN.
func checkSecret(errs field.Errors, name, secret string) {
	switch n := len(secret); {
	case name == "password" && (n < 10 || n > 200):
		errs.Addf(name, "a password has 10 characters or more")
	case name == "pin" && !pinShape.MatchString(secret):
		errs.Addf(name, "a PIN has 4 to 8 digits")
	}
}

// People lists everybody.
func People(ctx context.Context, s *shop.Shop) ([]store.User, error) {
	return s.Store.Read(ctx).Users()
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

// SignIn returns the person of that name and password.
func SignIn(ctx context.Context, s *shop.Shop, name, password string) (shop.Actor, error) {
	u, err := s.Store.Read(ctx).UserNamed(name)
	hash := u.PasswordHash
	if errors.Is(err, shop.ErrNotFound) {
		hash, err = noUser(), nil
	}
	if err != nil {
		return shop.Actor{}, err
	}
	ok, err := shop.Matches(ctx, password, hash)
	if err != nil || !ok || u.ID == 0 {
		return shop.Actor{}, errSignIn
	}
	return actor(u), nil
}

// SignOn returns the person of that name and PIN at an enrolled station.
func SignOn(ctx context.Context, s *shop.Shop, stationToken, name, pin string) (shop.Actor, error) {
	db := s.Store.Read(ctx)
	if _, err := db.StationByToken(shop.HashToken(stationToken)); err != nil {
		return shop.Actor{}, field.Errors{"pin": "this tablet is not enrolled: the owner does it under People"}
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
	if err != nil || !ok || u.ID == 0 {
		return shop.Actor{}, field.Errors{"pin": "name and PIN do not belong together"}
	}
	return actor(u), nil
}

// Person returns somebody who is signed in. Somebody no longer active is ErrNotFound.
func Person(ctx context.Context, s *shop.Shop, id uint) (shop.Actor, error) {
	u, err := s.Store.Read(ctx).User(id)
	if err == nil && !u.Active {
		err = shop.ErrNotFound
	}
	return actor(u), err
}

func actor(u store.User) shop.Actor {
	return shop.Actor{ID: u.ID, Name: u.Name, Role: u.Role, Unit: shop.UnitOf(u.Unit)}
}

// SetUnit changes the unit a person reads in.
func SetUnit(ctx context.Context, s *shop.Shop, a shop.Actor, unit string) error {
	if unit != "mm" && unit != "in" {
		return field.Errors{"unit": "mm or in"}
	}
	return s.Store.Write(ctx, func(tx store.DB) error { return tx.SetUser(a.ID, map[string]any{"unit": unit}) })
}

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
		if err := tx.Add(&store.Station{Name: name, TokenHash: shop.HashToken(token), CreatedAt: s.Now()}); err != nil {
			return err
		}
		return s.Note(tx, a, 0, "station enrolled", name)
	})
	if store.IsDuplicate(err) {
		return "", field.Errors{"station": "a station of that name is there already"}
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
