// Package people is who works here: people, passwords, sessions, the bench's stations with their
// PINs, and the owner's backup.
package people

import (
	"cmp"
	"context"
	"errors"
	"regexp"
	"slices"
	"strings"

	"yatai/core/field"
	"yatai/core/schedule"
	"yatai/core/words"
	"yatai/shop"
	"yatai/store"
)

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
	if has, err := HasOwner(ctx, s); err != nil || has { // before a password is worked on
		return shop.Actor{}, errors.Join(err, shop.ErrForbidden)
	}
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
		return "", s.NoteAbout(tx, a, shop.About(shop.OfPerson, u.ID), "person added", u.Name+", "+u.Role)
	})
	if store.IsDuplicate(err) {
		return errNamed
	}
	return err
}

// yes says whether something is so.
func yes(so bool) string { return map[bool]string{true: "yes", false: "no"}[so] }

// secret is the change of a secret: that it was changed, and not to what.
func secret(what, typed string) shop.Change {
	if typed == "" {
		return shop.Change{}
	}
	return shop.Change{What: what, Was: "the old one", Is: "another"}
}

// ChangePerson gives somebody a new password or PIN, where one is typed, and lets them in
// or not; the owner does. The owner who does it stays in.
func ChangePerson(ctx context.Context, s *shop.Shop, a shop.Actor, id uint, active bool, f PersonForm) error {
	if err := a.Must("add people"); err != nil {
		return err
	}
	errs := field.Errors{}
	if id == a.ID && !active {
		errs.Addf("active", "you cannot lock yourself out")
	}
	set, err := secrets(errs, f)
	if err != nil {
		return err
	}
	_, err = s.Once(ctx, f.WriteID, func(tx store.DB) (string, error) {
		u, err := tx.User(id)
		if err != nil {
			return "", err
		}
		if err := tx.LetIn(id, active); err != nil {
			return "", err
		}
		if err := set(tx, id); err != nil {
			return "", err
		}
		return "", s.NoteAbout(tx, a, shop.About(shop.OfPerson, id), "person changed", u.Name+": "+shop.Changes(
			shop.Change{What: "may sign in", Was: yes(u.Active), Is: yes(active)}, secret("password", f.Password),
			secret("PIN", f.PIN),
		))
	})
	return err
}

// SetRole gives somebody another name or another role; the owner does. A shop always has an owner
// who may sign in.
func SetRole(ctx context.Context, s *shop.Shop, a shop.Actor, id uint, f PersonForm) error {
	if err := a.Must("add people"); err != nil {
		return err
	}
	errs := field.Errors{}
	f.Name = shop.Required(errs, "name", f.Name, "a person needs a name", 60)
	if !slices.Contains(shop.Roles, f.Role) {
		errs.Addf("role", "choose a role")
	}
	if err := errs.Err(); err != nil {
		return err
	}
	_, err := s.Once(ctx, f.WriteID, func(tx store.DB) (string, error) {
		us, err := tx.Users()
		if err != nil {
			return "", err
		}
		i := slices.IndexFunc(us, func(u store.User) bool { return u.ID == id })
		if i < 0 {
			return "", shop.ErrNotFound
		}
		if f.Role != shop.Owner && !slices.ContainsFunc(us, func(u store.User) bool {
			return u.ID != id && u.Active && u.Role == shop.Owner
		}) {
			return "", field.Only("role", "nobody else is the owner: make somebody the owner first")
		}
		if err := tx.SetRole(id, f.Name, f.Role); err != nil {
			return "", err
		}
		return "", s.NoteAbout(tx, a, shop.About(shop.OfPerson, id), "person changed", us[i].Name+": "+shop.Changes(
			shop.Change{What: "name", Was: us[i].Name, Is: f.Name},
			shop.Change{What: "role", Was: us[i].Role, Is: f.Role},
		))
	})
	if store.IsDuplicate(err) {
		return errNamed
	}
	return err
}

// errNamed says that a person's name is taken.
var errNamed = field.Only("name", "somebody of that name is there already")

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

// Person returns somebody who is signed in. Somebody no longer active is ErrNotFound.
func Person(ctx context.Context, s *shop.Shop, id uint) (shop.Actor, error) {
	u, err := s.Store.Read(ctx).User(id)
	if err == nil && !u.Active {
		err = shop.ErrNotFound
	}
	return actor(u), err
}

func actor(u store.User) shop.Actor {
	return shop.Actor{
		ID: u.ID, Name: u.Name, Role: u.Role, Unit: shop.UnitOf(u.Unit), Epoch: u.Epoch,
		Language: u.Language, Comma: u.Comma,
	}
}

// ChangeOwn gives somebody a new password or PIN of their own choice: the password of now is
// asked for, so that a page left open is not enough. Sessions begun before have ended.
func ChangeOwn(ctx context.Context, s *shop.Shop, a shop.Actor, now string, f PersonForm) error {
	u, err := s.Store.Read(ctx).User(a.ID)
	if err != nil {
		return err
	}
	errs := field.Errors{}
	if ok, err := shop.Matches(ctx, now, u.PasswordHash); err != nil {
		return err
	} else if !ok {
		errs.Addf("now", "that is not your password of now")
	}
	if f.Password == "" && f.PIN == "" {
		errs.Addf("password", "type the new password, or a new PIN")
	}
	set, err := secrets(errs, f)
	if err != nil {
		return err
	}
	_, err = s.Once(ctx, f.WriteID, func(tx store.DB) (string, error) {
		if err := set(tx, a.ID); err != nil {
			return "", err
		}
		return "", s.NoteAbout(tx, a, shop.About(shop.OfPerson, a.ID), "own password changed",
			shop.Changes(secret("password", f.Password), secret("PIN", f.PIN)))
	})
	return err
}

// secrets checks a new password and PIN, where they are typed, and returns what keeps them.
func secrets(errs field.Errors, f PersonForm) (set func(tx store.DB, id uint) error, err error) {
	var password, pin string
	if f.Password != "" {
		if checkSecret(errs, "password", f.Password); len(errs) == 0 {
			password, err = shop.Hashed(f.Password)
		}
	}
	if f.PIN != "" && err == nil {
		if checkSecret(errs, "pin", f.PIN); len(errs) == 0 {
			pin, err = shop.Hashed(f.PIN)
		}
	}
	if err == nil {
		err = errs.Err()
	}
	return func(tx store.DB, id uint) error {
		if password != "" {
			if err := tx.SetPassword(id, password); err != nil {
				return err
			}
		}
		if pin == "" {
			return nil
		}
		return tx.SetPIN(id, pin)
	}, err
}

// WorkForm is what somebody can do, when they are there, and their days off, as typed.
type WorkForm struct {
	WriteID, Hours, DaysOff string
	Skills                  []string
}

// SetWork keeps what somebody can do and when they are there; the owner does. known tells
// whether there is such a skill. No skill at all is kept as such: they are in nobody's plan.
func SetWork(
	ctx context.Context, s *shop.Shop, a shop.Actor, id uint, f WorkForm, known func(code string) bool,
) error {
	if err := a.Must("add people"); err != nil {
		return err
	}
	errs := field.Errors{}
	hours := strings.TrimSpace(f.Hours)
	if hours != "" {
		h, err := schedule.ParseHours(hours)
		errs.Add("hours", err)
		hours = h.String()
	}
	days, bad := shop.ParseDays(f.DaysOff)
	if bad != "" {
		errs.Addf("days_off", "%s: write days like 2031-12-24, apart by spaces", bad)
	}
	for _, code := range f.Skills {
		if !known(code) {
			errs.Addf("skills", "there is no such work")
		}
	}
	skills := strings.Join(f.Skills, " ")
	if skills == "" {
		skills = "-"
	}
	if err := errs.Err(); err != nil {
		return err
	}
	_, err := s.Once(ctx, f.WriteID, func(tx store.DB) (string, error) {
		u, err := tx.User(id)
		if err != nil {
			return "", err
		}
		if err := tx.SetWork(id, skills, hours, strings.Join(days, " ")); err != nil {
			return "", err
		}
		return "", s.NoteAbout(tx, a, shop.About(shop.OfPerson, id), "work of a person changed",
			u.Name+": "+shop.Changes(
				shop.Change{What: "skills", Was: u.Skills, Is: skills},
				shop.Change{What: "hours", Was: u.Hours, Is: hours},
				shop.Change{What: "days off", Was: u.DaysOff, Is: strings.Join(days, " ")},
			))
	})
	return err
}

// SetUnit changes the unit a person reads in.
func SetUnit(ctx context.Context, s *shop.Shop, a shop.Actor, unit string) error {
	if unit != "mm" && unit != "in" {
		return field.Only("unit", "mm or in")
	}
	return s.Store.Write(ctx, func(tx store.DB) error {
		return errors.Join(tx.SetUnit(a.ID, unit),
			s.NoteAbout(tx, a, shop.About(shop.OfPerson, a.ID), "reads in", unit))
	})
}

// Decimals are what figures can be read with.
var Decimals = []string{"point", "comma"}

// SetLanguage changes the language a person reads the bench in, and the decimal sign of figures.
func SetLanguage(ctx context.Context, s *shop.Shop, a shop.Actor, code, decimal string) error {
	if words.In(code).Code != code {
		return field.Only("language", "choose one of the list")
	}
	if !slices.Contains(Decimals, decimal) {
		return field.Only("decimal", "choose one of the list")
	}
	return s.Store.Write(ctx, func(tx store.DB) error {
		return errors.Join(
			tx.SetLanguage(a.ID, code, decimal == "comma"),
			s.NoteAbout(tx, a, shop.About(shop.OfPerson, a.ID), "reads in", cmp.Or(code, "en")+", decimal "+decimal),
		)
	})
}
