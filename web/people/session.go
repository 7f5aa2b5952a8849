// Package people is the pages of the shop's people: signing in, who works here, the settings.
package people

import (
	"net/http"
	"net/url"
	"path"
	"slices"
	"strconv"
	"strings"

	"github.com/go-chi/chi/v5"

	"yatai/core/field"
	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/following"
	"yatai/shop/people"
	"yatai/shop/week"
	"yatai/web/page"
)

// WhoTries is the key wrong passwords are counted by: the peer's address and the name
// typed. The address is the connection's own, which no header can change.
func WhoTries(r *http.Request) (string, error) {
	err := r.ParseForm()
	return page.Address(r) + " " + strings.ToLower(strings.TrimSpace(r.PostForm.Get("name"))), err
}

var tooMany = words.Of("too many tries: wait a minute")

// TooMany answers who tried too often.
func TooMany(s *page.Site) http.HandlerFunc {
	return func(w http.ResponseWriter, r *http.Request) {
		s.Render(w, &page.Request{Station: s.StationName(r)}, http.StatusTooManyRequests, "signin", page.Page{
			Title: "Sign in", Values: r.PostForm, Data: whoSignsIn(s, r),
			Errors: field.Errors{"password": tooMany, "pin": tooMany},
		})
	}
}

type signInData struct {
	Next    string // the page that was wanted
	Hint    string
	Station string
	People  []string
}

func whoSignsIn(s *page.Site, r *http.Request) signInData {
	d := signInData{Next: r.Form.Get("next"), Hint: s.Hint, Station: s.StationName(r)}
	if d.Station != "" {
		us, err := people.People(r.Context(), s.Shop)
		for _, u := range us {
			if u.PINHash != "" && u.Active {
				d.People = append(d.People, u.Name)
			}
		}
		if err != nil {
			s.Log.Error("people", "error", err)
		}
	}
	return d
}

// SignInPage answers GET /sign-in.
func SignInPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	has, err := people.HasOwner(r.Context(), s.Shop)
	if err != nil {
		return err
	}
	if !has {
		return page.Redirect(w, r, "/first")
	}
	return s.Show(w, req, "signin", page.Page{Title: "Sign in", Data: whoSignsIn(s, r)})
}

// next is the page of ours that somebody wanted before signing in; the floor for anything else.
func next(to string) string {
	u, err := url.Parse(to)
	if err != nil || u.Scheme != "" || u.Host != "" || !strings.HasPrefix(to, "/") ||
		strings.HasPrefix(to, "//") || strings.Contains(to, "\\") {
		return "/"
	}
	return to
}

// enter starts a session for a, and goes on to the page that was wanted.
func enter(s *page.Site, w http.ResponseWriter, r *http.Request, a shop.Actor) error {
	if err := s.Sessions.RenewToken(r.Context()); err != nil {
		return err
	}
	s.Sessions.Put(r.Context(), page.SessionUser, int(a.ID))
	s.Sessions.Put(r.Context(), page.SessionEpoch, a.Epoch)
	s.Seen(r.Context())
	return page.Redirect(w, r, next(r.PostForm.Get("next")))
}

// SignIn answers POST /sign-in.
func SignIn(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	a, err := people.SignIn(r.Context(), s.Shop, page.Address(r), strings.TrimSpace(r.PostForm.Get("name")),
		r.PostForm.Get("password"))
	return answerSignIn(s, w, r, req, a, err)
}

// SignOn answers POST /sign-on.
func SignOn(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	token := ""
	if c, err := r.Cookie(page.StationCookie); err == nil {
		token = c.Value
	}
	a, err := people.SignOn(r.Context(), s.Shop, token, r.PostForm.Get("name"), r.PostForm.Get("pin"))
	return answerSignIn(s, w, r, req, a, err)
}

func answerSignIn(
	s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, a shop.Actor, err error,
) error {
	if errs, err := page.Wrong(err); errs != nil {
		r.PostForm.Del("password")
		r.PostForm.Del("pin")
		return s.Show(w, req, "signin", page.Page{
			Title: "Sign in", Values: r.PostForm, Errors: errs, Data: whoSignsIn(s, r),
		})
	} else if err != nil {
		return err
	}
	return enter(s, w, r, a)
}

// SignOut answers POST /sign-out.
func SignOut(s *page.Site, w http.ResponseWriter, r *http.Request, _ *page.Request) error {
	if err := s.Sessions.Destroy(r.Context()); err != nil {
		return err
	}
	return page.Redirect(w, r, "/sign-in")
}

// FirstPage answers GET /first.
func FirstPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	if has, err := people.HasOwner(r.Context(), s.Shop); err != nil || has {
		if err == nil {
			err = shop.ErrNotFound
		}
		return err
	}
	return s.Show(w, req, "first", page.Page{Title: "A new shop"})
}

func personForm(r *http.Request) people.PersonForm {
	g := r.PostForm.Get
	return people.PersonForm{
		WriteID: g("write_id"), Name: g("name"), Role: g("role"), Password: g("password"), PIN: g("pin"),
		Unit: g("unit"),
	}
}

// First answers POST /first.
func First(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	a, err := people.FirstOwner(r.Context(), s.Shop, personForm(r))
	if errs, err := page.Wrong(err); errs != nil {
		return s.Show(w, req, "first", page.Page{Title: "A new shop", Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return enter(s, w, r, a)
}

// SetLanguage answers POST /me/language.
func SetLanguage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	err := people.SetLanguage(r.Context(), s.Shop, req.Actor, r.PostForm.Get("language"),
		r.PostForm.Get("decimal"))
	if errs, err := page.Wrong(err); errs != nil {
		return s.Show(w, req, "me", page.Page{Title: req.Actor.Name, Place: "people", Data: false, Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/me")
}

// SetUnit answers POST /unit.
func SetUnit(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	if err := people.SetUnit(r.Context(), s.Shop, req.Actor, r.PostForm.Get("unit")); err != nil {
		return err
	}
	back := "/"
	if from, err := url.Parse(r.Referer()); err == nil && from.Host == r.Host {
		back = (&url.URL{Path: path.Clean("/" + from.Path), RawQuery: from.RawQuery}).String()
	}
	return page.Redirect(w, r, back)
}

type peopleData struct {
	GaugeKey string // of this tablet, for the owner
	People   any
	Stations any
	Roles    []string

	MostMisses int // wrong PINs that lock one
}

func showPeople(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, p page.Page) error {
	us, err := people.People(r.Context(), s.Shop)
	if err != nil {
		return err
	}
	sts, err := people.Stations(r.Context(), s.Shop)
	if err != nil {
		return err
	}
	key := ""
	if c, err := r.Cookie(page.StationCookie); err == nil && req.Station != "" &&
		req.Actor.May("enrol a station") {
		key = c.Value
	}
	p.Title, p.Place, p.Data = "People", "people", peopleData{key, us, sts, shop.Roles, people.MostMisses}
	return s.Show(w, req, "people", p)
}

// People answers GET /people.
func People(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return showPeople(s, w, r, req, page.Page{})
}

// AddPerson answers POST /people.
func AddPerson(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	err := people.AddPerson(r.Context(), s.Shop, req.Actor, personForm(r))
	if errs, err := page.Wrong(err); errs != nil {
		return showPeople(s, w, r, req, page.Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/people")
}

// Enrol answers POST /stations.
func Enrol(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	token, err := people.EnrolStation(r.Context(), s.Shop, req.Actor, r.PostForm.Get("station"))
	if errs, err := page.Wrong(err); errs != nil {
		return showPeople(s, w, r, req, page.Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	http.SetCookie(w, &http.Cookie{
		Name: page.StationCookie, Value: token, Path: "/", HttpOnly: true, SameSite: http.SameSiteStrictMode,
		MaxAge: page.StationYears * 365 * 24 * 3600, Secure: s.Secure(r),
	})
	return page.Redirect(w, r, "/people")
}

type personData struct {
	shop.User
	Skills []week.Skill
	can    []string
	Roles  []string
}

// Can tells whether they can do something.
func (d personData) Can(code string) bool { return slices.Contains(d.can, code) }

// showPerson is the page where the owner changes somebody's password, PIN or access.
func showPerson(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, p page.Page) error {
	if !req.Actor.May("add people") {
		return shop.ErrForbidden
	}
	us, err := people.People(r.Context(), s.Shop)
	if err != nil {
		return err
	}
	for _, u := range us {
		if strconv.Itoa(int(u.ID)) == chi.URLParam(r, "id") {
			p.Title, p.Place, p.Data = u.Name, "people", personData{u, week.Skills(), week.CanDo(u), shop.Roles}
			return s.Show(w, req, "person", p)
		}
	}
	return shop.ErrNotFound
}

// Person answers GET /people/{id}.
func Person(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return showPerson(s, w, r, req, page.Page{})
}

// ChangePerson answers POST /people/{id}.
func ChangePerson(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	id, err := idIn(r)
	if err != nil {
		return err
	}
	err = people.ChangePerson(r.Context(), s.Shop, req.Actor, id, r.PostForm.Get("active") != "", personForm(r))
	if errs, err := page.Wrong(err); errs != nil {
		return showPerson(s, w, r, req, page.Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/people")
}

// SetRole answers POST /people/{id}/role.
func SetRole(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	id, err := idIn(r)
	if err != nil {
		return err
	}
	if errs, err := page.Wrong(people.SetRole(r.Context(), s.Shop, req.Actor, id, personForm(r))); errs != nil {
		return showPerson(s, w, r, req, page.Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/people/"+strconv.Itoa(int(id)))
}

// idIn returns the id in the request's path.
func idIn(r *http.Request) (uint, error) {
	id, err := strconv.ParseUint(chi.URLParam(r, "id"), 10, 32)
	if err != nil {
		return 0, shop.ErrNotFound
	}
	return uint(id), nil
}

// UnlockPIN answers POST /people/{id}/unlock.
func UnlockPIN(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	id, err := idIn(r)
	if err != nil {
		return err
	}
	if err := people.UnlockPIN(r.Context(), s.Shop, req.Actor, r.PostForm.Get("write_id"), id); err != nil {
		return err
	}
	return page.Redirect(w, r, "/people")
}

// Revoke answers POST /stations/{id}/revoke.
func Revoke(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	id, err := idIn(r)
	if err != nil {
		return err
	}
	if err := people.RevokeStation(r.Context(), s.Shop, req.Actor, r.PostForm.Get("write_id"), id); err != nil {
		return err
	}
	return page.Redirect(w, r, "/people")
}

// OwnPage answers GET /me.
func OwnPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	key, err := following.OwnCalendarKey(r.Context(), s.Shop, req.Actor)
	if err != nil {
		return err
	}
	own := url.Values{"calendar": {key}}
	return s.Show(w, req, "me", page.Page{
		Title: req.Actor.Name, Place: "people", Values: own, Data: r.Form.Get("kept") != "",
	})
}

// OwnCalendar answers POST /me/calendar: the address of somebody's own calendar is made.
func OwnCalendar(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	if err := following.MakeOwnCalendar(r.Context(), s.Shop, req.Actor); err != nil {
		return err
	}
	return page.Redirect(w, r, "/me")
}

// ChangeOwn answers POST /me: the session goes on with the new password, all others end.
func ChangeOwn(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	err := people.ChangeOwn(r.Context(), s.Shop, req.Actor, r.PostForm.Get("now"), personForm(r))
	if errs, err := page.Wrong(err); errs != nil {
		return s.Show(w, req, "me", page.Page{Title: req.Actor.Name, Place: "people", Data: false, Errors: errs})
	} else if err != nil {
		return err
	}
	a, err := people.Person(r.Context(), s.Shop, req.Actor.ID)
	if err != nil {
		return err
	}
	if err := s.Sessions.RenewToken(r.Context()); err != nil {
		return err
	}
	s.Sessions.Put(r.Context(), page.SessionEpoch, a.Epoch)
	return page.Redirect(w, r, "/me?kept=yes")
}

// SetWork answers POST /people/{id}/work.
func SetWork(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	id, err := idIn(r)
	if err != nil {
		return err
	}
	g := r.PostForm
	known := func(code string) bool {
		return slices.ContainsFunc(week.Skills(), func(s week.Skill) bool { return s.Code == code })
	}
	err = people.SetWork(
		r.Context(), s.Shop, req.Actor, id,
		people.WorkForm{
			WriteID: g.Get("write_id"), Hours: g.Get("hours"), DaysOff: g.Get("days_off"), Skills: g["skill"],
		}, known,
	)
	if errs, err := page.Wrong(err); errs != nil {
		return showPerson(s, w, r, req, page.Page{Values: g, Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/people")
}
