package page

import (
	"cmp"
	"context"
	"net"
	"net/http"
	"net/url"
	"strings"
	"time"

	"yatai/shop"
	"yatai/shop/people"
)

type requestKey struct{}

// SessionUser is the session's key of who is signed in, by id, SessionEpoch of the password it
// was begun with. StationCookie keeps a station's
// token in its browser, for StationYears.
const (
	SessionEpoch  = "epoch"
	SessionUser   = "user"
	SessionSeen   = "seen" // when somebody was at it last, in seconds
	StationCookie = "yatai_station"
	StationYears  = 3
)

// Idle is how long a session lasts with nobody at it; every so often that somebody is there is written down.
const (
	Idle  = 4 * time.Hour
	often = Idle / 16
)

// Seen notes that somebody is at a session.
func (s *Site) Seen(ctx context.Context) { s.Sessions.Put(ctx, SessionSeen, s.Shop.Now().Unix()) }

// since is how long nobody has been at a session; false where it was not noted yet.
func (s *Site) since(ctx context.Context) (time.Duration, bool) {
	at, noted := s.Sessions.Get(ctx, SessionSeen).(int64)
	return s.Shop.Now().Sub(time.Unix(at, 0)), noted
}

// Who returns the person a session belongs to; false when nobody is signed in, nobody has been at
// it for long, or the person is let in no more, or has had a new password since.
func (s *Site) Who(ctx context.Context) (shop.Actor, bool) {
	id, _ := s.Sessions.Get(ctx, SessionUser).(int)
	if id <= 0 {
		return shop.Actor{}, false
	}
	if since, noted := s.since(ctx); noted && since > Idle {
		return shop.Actor{}, false
	}
	epoch, _ := s.Sessions.Get(ctx, SessionEpoch).(int)
	a, err := people.Person(ctx, s.Shop, uint(id))
	return a, err == nil && a.Epoch == epoch
}

// SignedIn lets only people through who are signed in. Others go to the sign-in page, and from
// there to the page they wanted.
func (s *Site) SignedIn(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		a, ok := s.Who(r.Context())
		if !ok {
			to := "/sign-in"
			if r.Method == http.MethodGet && r.URL.Path != "/" && r.URL.Path != "/live" {
				to += "?next=" + url.QueryEscape(r.URL.RequestURI())
			}
			if r.Header.Get("HX-Request") != "" { // a part of a page is wanted: the whole goes
				w.Header().Set("HX-Redirect", to)
				w.WriteHeader(http.StatusUnauthorized)
				return
			}
			http.Redirect(w, r, to, http.StatusSeeOther)
			return
		}
		// a page that is left open asks for news by itself
		if since, noted := s.since(r.Context()); !strings.HasSuffix(r.URL.Path, "/live") &&
			(!noted || since > often || since < 0) {
			s.Seen(r.Context())
		}
		req := &Request{Actor: a, Station: s.StationName(r), tour: s.touring(r.Context())}
		req.Actor.From = cmp.Or(req.Station, Address(r))
		next.ServeHTTP(w, r.WithContext(context.WithValue(r.Context(), requestKey{}, req)))
	})
}

// Address returns the address a request came from, without its port.
func Address(r *http.Request) string {
	host, _, err := net.SplitHostPort(r.RemoteAddr)
	if err != nil {
		return r.RemoteAddr
	}
	return host
}

// StationName returns the name of the station that asks, empty when it is none.
func (s *Site) StationName(r *http.Request) string {
	c, err := r.Cookie(StationCookie)
	if err != nil {
		return ""
	}
	return people.Station(r.Context(), s.Shop, c.Value)
}
