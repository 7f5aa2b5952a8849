package page

import (
	"context"
	"net/http"

	"yatai/shop/people"
)

type requestKey struct{}

// SessionUser is the session's key of who is signed in, by id. StationCookie keeps a station's
// token in its browser, for StationYears.
const (
	SessionUser   = "user"
	StationCookie = "yatai_station"
	StationYears  = 3
)

// SignedIn lets only people through who are signed in.
func (s *Site) SignedIn(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		id, _ := s.Sessions.Get(r.Context(), SessionUser).(int)
		a, err := people.Person(r.Context(), s.Shop, uint(max(0, id)))
		if id == 0 || err != nil {
			if r.Header.Get("HX-Request") != "" {
				w.Header().Set("HX-Redirect", "/sign-in")
			}
			http.Redirect(w, r, "/sign-in", http.StatusSeeOther)
			return
		}
		req := &Request{Actor: a, Station: s.StationName(r)}
		next.ServeHTTP(w, r.WithContext(context.WithValue(r.Context(), requestKey{}, req)))
	})
}

// StationName returns the name of the station that asks, empty when it is none.
func (s *Site) StationName(r *http.Request) string {
	c, err := r.Cookie(StationCookie)
	if err != nil {
		return ""
	}
	return people.Station(r.Context(), s.Shop, c.Value)
}
