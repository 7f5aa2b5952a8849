package shop

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"regexp"
	"slices"
	"sync"

	"yatai/core/field"
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
	f.Name = required(errs, "name", f.Name, "a person needs a name", 60)
	if !slices.Contains(Roles, f.Role) {
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

func (s *Shop) newUser(f PersonForm) (store.User, error) {
	if err := f.check(); err != nil {
		return store.User{}, err
	}
	u := store.User{Name: f.Name, Role: f.Role, Unit: f.Unit, Active: true, CreatedAt: s.now()}
	var err error
	if u.PasswordHash, err = hashed(f.Password); err != nil {
		return u, err
	}
	if f.PIN != "" {
		u.PINHash, err = hashed(f.PIN)
	}
	return u, err
}

// HasOwner tells whether the shop's first person is there.
func (s *Shop) HasOwner(ctx context.Context) (bool, error) {
	us, err := s.st.Read(ctx).Users()
	return len(us) > 0, err
}

// FirstOwner makes the first person of an empty shop, its owner.
func (s *Shop) FirstOwner(ctx context.Context, f PersonForm) (Actor, error) {
	f.Role = Owner
	u, err := s.newUser(f)
	if err != nil {
		return Actor{}, err
	}
	err = s.st.Write(ctx, func(tx store.DB) error {
		if us, err := tx.Users(); err != nil || len(us) > 0 {
			return errors.Join(err, ErrForbidden)
		}
		if err := tx.Add(&u); err != nil {
			return err
		}
		return s.note(tx, Actor{ID: u.ID}, 0, "first owner", u.Name)
	})
	return actor(u), err
}

// AddPerson adds somebody; the owner does.
func (s *Shop) AddPerson(ctx context.Context, a Actor, f PersonForm) error {
	if err := a.must("add people"); err != nil {
		return err
	}
	u, err := s.newUser(f)
	if err != nil {
		return err
	}
	_, err = s.once(ctx, f.WriteID, func(tx store.DB) (string, error) {
		if err := tx.Add(&u); err != nil {
			return "", err
		}
		return "", s.note(tx, a, 0, "person added", u.Name+", "+u.Role)
	})
	if store.IsDuplicate(err) {
		return field.Errors{"name": "somebody of that name is there already"}
	}
	return err
}

// ChangePerson gives somebody a new password or PIN, where one is typed, and lets them in
// or not; the owner does. The owner who does it stays in.
func (s *Shop) ChangePerson(ctx context.Context, a Actor, id uint, active bool, f PersonForm) error {
	if err := a.must("add people"); err != nil {
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
		hash, err := hashed(secret.typed)
		if err != nil {
			return err
		}
		change[secret.column] = hash
	}
	if err := errs.Err(); err != nil {
		return err
	}
	_, err := s.once(ctx, f.WriteID, func(tx store.DB) (string, error) {
		u, err := tx.User(id)
		if err != nil {
			return "", err
		}
		if err := tx.SetUser(id, change); err != nil {
			return "", err
		}
		return "", s.note(tx, a, 0, "person changed", fmt.Sprintf("%s, active %t, new password %t, new PIN %t", u.Name, active, f.Password != "", f.PIN != ""))
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
func (s *Shop) People(ctx context.Context) ([]store.User, error) { return s.st.Read(ctx).Users() }

// noUser takes the time of a real comparison, so that a stranger cannot tell which names
// exist.
var noUser = sync.OnceValue(func() string {
	h, err := hashed("nobody has this password")
	if err != nil {
		panic(err) // no randomness: the program cannot be safe
	}
	return h
})

// SignIn returns the person of that name and password.
func (s *Shop) SignIn(ctx context.Context, name, password string) (Actor, error) {
	u, err := s.st.Read(ctx).UserNamed(name)
	hash := u.PasswordHash
	if errors.Is(err, ErrNotFound) {
		hash, err = noUser(), nil
	}
	if err != nil {
		return Actor{}, err
	}
	ok, err := matches(ctx, password, hash)
	if err != nil || !ok || u.ID == 0 {
		return Actor{}, errSignIn
	}
	return actor(u), nil
}

// SignOn returns the person of that name and PIN at an enrolled station.
func (s *Shop) SignOn(ctx context.Context, stationToken, name, pin string) (Actor, error) {
	db := s.st.Read(ctx)
	if _, err := db.StationByToken(hashToken(stationToken)); err != nil {
		return Actor{}, field.Errors{"pin": "this tablet is not enrolled: the owner does it under People"}
	}
	u, err := db.UserNamed(name)
	hash := u.PINHash
	if errors.Is(err, ErrNotFound) || err == nil && hash == "" {
		hash, u.ID, err = noUser(), 0, nil
	}
	if err != nil {
		return Actor{}, err
	}
	ok, err := matches(ctx, pin, hash)
	if err != nil || !ok || u.ID == 0 {
		return Actor{}, field.Errors{"pin": "name and PIN do not belong together"}
	}
	return actor(u), nil
}

// Person returns somebody who is signed in. Somebody no longer active is ErrNotFound.
func (s *Shop) Person(ctx context.Context, id uint) (Actor, error) {
	u, err := s.st.Read(ctx).User(id)
	if err == nil && !u.Active {
		err = ErrNotFound
	}
	return actor(u), err
}

func actor(u store.User) Actor {
	return Actor{ID: u.ID, Name: u.Name, Role: u.Role, Unit: unitOf(u.Unit)}
}

// SetUnit changes the unit a person reads in.
func (s *Shop) SetUnit(ctx context.Context, a Actor, unit string) error {
	if unit != "mm" && unit != "in" {
		return field.Errors{"unit": "mm or in"}
	}
	return s.st.Write(ctx, func(tx store.DB) error { return tx.SetUser(a.ID, map[string]any{"unit": unit}) })
}

// EnrolStation makes a shared tablet a station and returns the token it keeps.
func (s *Shop) EnrolStation(ctx context.Context, a Actor, name string) (string, error) {
	if err := a.must("enrol a station"); err != nil {
		return "", err
	}
	errs := field.Errors{}
	name = required(errs, "station", name, "a station needs a name", 60)
	if err := errs.Err(); err != nil {
		return "", err
	}
	token := rand.Text()
	err := s.st.Write(ctx, func(tx store.DB) error {
		if err := tx.Add(&store.Station{Name: name, TokenHash: hashToken(token), CreatedAt: s.now()}); err != nil {
			return err
		}
		return s.note(tx, a, 0, "station enrolled", name)
	})
	if store.IsDuplicate(err) {
		return "", field.Errors{"station": "a station of that name is there already"}
	}
	return token, err
}

// Station returns the name of the station with that token, empty for none.
func (s *Shop) Station(ctx context.Context, token string) string {
	if token == "" {
		return ""
	}
	st, err := s.st.Read(ctx).StationByToken(hashToken(token))
	if err != nil {
		return ""
	}
	return st.Name
}

// Stations lists the enrolled stations.
func (s *Shop) Stations(ctx context.Context) ([]store.Station, error) {
	return s.st.Read(ctx).Stations()
}

func hashToken(t string) string {
	h := sha256.Sum256([]byte(t))
	return hex.EncodeToString(h[:])
}
