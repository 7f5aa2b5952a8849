package page

import (
	"net"
	"net/http"
	"net/netip"
	"slices"
	"strings"

	"github.com/alexedwards/scs/v2"
)

// Forwarded takes a trusted proxy's word for who asks and how: the client's address is the
// last one in X-Forwarded-For that is no trusted proxy's. From anybody else the headers are
// ignored.
func (s *Site) Forwarded(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if !s.trusted(Address(r)) {
			r.Header.Del("X-Forwarded-Proto")
			next.ServeHTTP(w, r)
			return
		}
		hops := strings.Split(strings.Join(r.Header.Values("X-Forwarded-For"), ","), ",")
		slices.Reverse(hops)
		for _, hop := range hops {
			hop = strings.TrimSpace(hop)
			if _, err := netip.ParseAddr(hop); err != nil {
				break
			}
			r.RemoteAddr = net.JoinHostPort(hop, "0")
			if !s.trusted(hop) {
				break
			}
		}
		next.ServeHTTP(w, r)
	})
}

func (s *Site) trusted(address string) bool {
	a, err := netip.ParseAddr(address)
	return err == nil && slices.ContainsFunc(s.Proxies,
		func(p netip.Prefix) bool { return p.Contains(a.Unmap()) })
}

// Secure tells whether a request came encrypted, to this program or to a trusted proxy.
func (s *Site) Secure(r *http.Request) bool {
	return r.TLS != nil || r.Header.Get("X-Forwarded-Proto") == "https" && len(s.Proxies) > 0
}

// Public is the address the shop is reached by: the one that was set, or the one this request
// came by.
func (s *Site) Public(r *http.Request, set string) string {
	if set != "" {
		return strings.TrimRight(set, "/")
	}
	scheme := "http"
	if s.Secure(r) {
		scheme = "https"
	}
	return scheme + "://" + r.Host
}

// Session loads and saves the session. Its cookie is for encrypted connections only where the
// request came by one.
func (s *Site) Session(next http.Handler) http.Handler {
	plain, secured := s.Sessions.LoadAndSave(next), s.secured.LoadAndSave(next)
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if s.Secure(r) {
			secured.ServeHTTP(w, r)
			return
		}
		plain.ServeHTTP(w, r)
	})
}

// KeepSessions keeps the site's sessions with m.
func (s *Site) KeepSessions(m *scs.SessionManager) {
	secured := *m // it shares the sessions with m
	secured.Cookie.Secure = true
	s.Sessions, s.secured = m, &secured
}
