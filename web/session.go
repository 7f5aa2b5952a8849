package web

import (
	"context"
	"net"
	"net/http"
	"net/url"
	"path"
	"strconv"
	"strings"

	"github.com/go-chi/chi/v5"

	"yatai/core/field"
	"yatai/shop"
	"yatai/shop/people"
)

type requestKey struct{}

const (
	sessionUser   = "user"
	stationCookie = "yatai_station"
	stationYears  = 3
)

// signedIn lets only people through who are signed in.
func (s *Server) signedIn(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		id, _ := s.sessions.Get(r.Context(), sessionUser).(int)
		a, err := people.Person(r.Context(), s.shop, uint(max(0, id)))
		if id == 0 || err != nil {
			if r.Header.Get("HX-Request") != "" {
				w.Header().Set("HX-Redirect", "/sign-in")
			}
			http.Redirect(w, r, "/sign-in", http.StatusSeeOther)
			return
		}
		req := &request{actor: a, station: s.stationName(r)}
		next.ServeHTTP(w, r.WithContext(context.WithValue(r.Context(), requestKey{}, req)))
	})
}

func (s *Server) stationName(r *http.Request) string {
	c, err := r.Cookie(stationCookie)
	if err != nil {
		return ""
	}
	return people.Station(r.Context(), s.shop, c.Value)
}

// whoTries is the key wrong passwords are counted by: the peer's address and the name
// typed. The address is the connection's own, which no header can change.
func whoTries(r *http.Request) (string, error) {
	host, _, err := net.SplitHostPort(r.RemoteAddr)
	if err != nil {
		host = r.RemoteAddr
	}
	err = r.ParseForm()
	return host + " " + strings.ToLower(strings.TrimSpace(r.PostForm.Get("name"))), err
}

func (s *Server) tooMany(w http.ResponseWriter, r *http.Request) {
	s.render(w, &request{station: s.stationName(r)}, http.StatusTooManyRequests, "signin", Page{
		Title: "Sign in", Values: r.PostForm, Data: s.signInData(r),
		Errors: field.Errors{"password": "too many tries: wait a minute", "pin": "too many tries: wait a minute"},
	})
}

type signInData struct {
	Hint    string
	Station string
	People  []string
}

func (s *Server) signInData(r *http.Request) signInData {
	d := signInData{Hint: s.hint, Station: s.stationName(r)}
	if d.Station != "" {
		us, err := people.People(r.Context(), s.shop)
		for _, u := range us {
			if u.PINHash != "" && u.Active {
				d.People = append(d.People, u.Name)
			}
		}
		if err != nil {
			s.log.Error("people", "error", err)
		}
	}
	return d
}

func (s *Server) signInPage(w http.ResponseWriter, r *http.Request, req *request) error {
	has, err := people.HasOwner(r.Context(), s.shop)
	if err != nil {
		return err
	}
	if !has {
		return redirect(w, r, "/first")
	}
	return s.show(w, req, "signin", Page{Title: "Sign in", Data: s.signInData(r)})
}

// enter starts a session for a.
func (s *Server) enter(w http.ResponseWriter, r *http.Request, a shop.Actor) error {
	if err := s.sessions.RenewToken(r.Context()); err != nil {
		return err
	}
	s.sessions.Put(r.Context(), sessionUser, int(a.ID))
	return redirect(w, r, "/")
}

func (s *Server) signIn(w http.ResponseWriter, r *http.Request, req *request) error {
	a, err := people.SignIn(r.Context(), s.shop, strings.TrimSpace(r.PostForm.Get("name")), r.PostForm.Get("password"))
	return s.answerSignIn(w, r, req, a, err)
}

func (s *Server) signOn(w http.ResponseWriter, r *http.Request, req *request) error {
	token := ""
	if c, err := r.Cookie(stationCookie); err == nil {
		token = c.Value
	}
	a, err := people.SignOn(r.Context(), s.shop, token, r.PostForm.Get("name"), r.PostForm.Get("pin"))
	return s.answerSignIn(w, r, req, a, err)
}

func (s *Server) answerSignIn(w http.ResponseWriter, r *http.Request, req *request, a shop.Actor, err error) error {
	if errs, err := wrong(err); errs != nil {
		r.PostForm.Del("password")
		r.PostForm.Del("pin")
		return s.show(w, req, "signin", Page{Title: "Sign in", Values: r.PostForm, Errors: errs, Data: s.signInData(r)})
	} else if err != nil {
		return err
	}
	return s.enter(w, r, a)
}

func (s *Server) signOut(w http.ResponseWriter, r *http.Request, _ *request) error {
	if err := s.sessions.Destroy(r.Context()); err != nil {
		return err
	}
	return redirect(w, r, "/sign-in")
}

func (s *Server) firstPage(w http.ResponseWriter, r *http.Request, req *request) error {
	if has, err := people.HasOwner(r.Context(), s.shop); err != nil || has {
		if err == nil {
			err = shop.ErrNotFound
		}
		return err
	}
	return s.show(w, req, "first", Page{Title: "A new shop"})
}

func personForm(r *http.Request) people.PersonForm {
	g := r.PostForm.Get
	return people.PersonForm{WriteID: g("write_id"), Name: g("name"), Role: g("role"), Password: g("password"), PIN: g("pin"), Unit: g("unit")}
}

func (s *Server) first(w http.ResponseWriter, r *http.Request, req *request) error {
	a, err := people.FirstOwner(r.Context(), s.shop, personForm(r))
	if errs, err := wrong(err); errs != nil {
		return s.show(w, req, "first", Page{Title: "A new shop", Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return s.enter(w, r, a)
}

func (s *Server) setUnit(w http.ResponseWriter, r *http.Request, req *request) error {
	if err := people.SetUnit(r.Context(), s.shop, req.actor, r.PostForm.Get("unit")); err != nil {
		return err
	}
	back := "/"
	if from, err := url.Parse(r.Referer()); err == nil && from.Host == r.Host {
		back = (&url.URL{Path: path.Clean("/" + from.Path), RawQuery: from.RawQuery}).String()
	}
	return redirect(w, r, back)
}

type peopleData struct {
	GaugeKey string // of this tablet, for the owner
	People   any
	Stations any
	Roles    []string
}

func (s *Server) showPeople(w http.ResponseWriter, r *http.Request, req *request, p Page) error {
	us, err := people.People(r.Context(), s.shop)
	if err != nil {
		return err
	}
	sts, err := people.Stations(r.Context(), s.shop)
	if err != nil {
		return err
	}
	key := ""
	if c, err := r.Cookie(stationCookie); err == nil && req.station != "" && req.actor.May("enrol a station") {
		key = c.Value
	}
	p.Title, p.Place, p.Data = "People", "people", peopleData{key, us, sts, shop.Roles}
	return s.show(w, req, "people", p)
}

func (s *Server) people(w http.ResponseWriter, r *http.Request, req *request) error {
	return s.showPeople(w, r, req, Page{})
}

func (s *Server) addPerson(w http.ResponseWriter, r *http.Request, req *request) error {
	err := people.AddPerson(r.Context(), s.shop, req.actor, personForm(r))
	if errs, err := wrong(err); errs != nil {
		return s.showPeople(w, r, req, Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return redirect(w, r, "/people")
}

func (s *Server) enrol(w http.ResponseWriter, r *http.Request, req *request) error {
	token, err := people.EnrolStation(r.Context(), s.shop, req.actor, r.PostForm.Get("station"))
	if errs, err := wrong(err); errs != nil {
		return s.showPeople(w, r, req, Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	http.SetCookie(w, &http.Cookie{
		Name: stationCookie, Value: token, Path: "/", HttpOnly: true, SameSite: http.SameSiteStrictMode,
		MaxAge: stationYears * 365 * 24 * 3600, Secure: r.TLS != nil,
	})
	return redirect(w, r, "/people")
}

// showPerson is the page where the owner changes somebody's password, PIN or access.
func (s *Server) showPerson(w http.ResponseWriter, r *http.Request, req *request, p Page) error {
	if !req.actor.May("add people") {
		return shop.ErrForbidden
	}
	us, err := people.People(r.Context(), s.shop)
	if err != nil {
		return err
	}
	for _, u := range us {
		if strconv.Itoa(int(u.ID)) == chi.URLParam(r, "id") {
			p.Title, p.Place, p.Data = u.Name, "people", u
			return s.show(w, req, "person", p)
		}
	}
	return shop.ErrNotFound
}

func (s *Server) person(w http.ResponseWriter, r *http.Request, req *request) error {
	return s.showPerson(w, r, req, Page{})
}

func (s *Server) changePerson(w http.ResponseWriter, r *http.Request, req *request) error {
	id, err := strconv.ParseUint(chi.URLParam(r, "id"), 10, 32)
	if err != nil {
		return shop.ErrNotFound
	}
	err = people.ChangePerson(r.Context(), s.shop, req.actor, uint(id), r.PostForm.Get("active") != "", personForm(r))
	if errs, err := wrong(err); errs != nil {
		return s.showPerson(w, r, req, Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return redirect(w, r, "/people")
}
