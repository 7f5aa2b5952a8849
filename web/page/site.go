// Package page is what every page is made with: the Site that answers, who asks (Request), the
// views and what they are given (Page), forms with their mistakes, sessions, and live streams.
// A place's handler is a Handler; Site.Handle makes an http.Handler of it and answers its error.
package page

import (
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"net/netip"
	"runtime/debug"

	"github.com/alexedwards/scs/v2"

	"yatai/core/words"
	"yatai/shop"
)

// GCPercent is how the program tunes the collector: the live heap of a shop is some ten
// megabytes, so that letting four times that gather costs little memory, and a reading
// waits less often.
const GCPercent = 400

// MaxBody bounds what a request may carry.
const MaxBody = 1 << 20

// MaxHeadFile bounds a head file.
const MaxHeadFile = 4 << 20

// Site answers the shop's pages.
type Site struct {
	Shop     *shop.Shop
	Sessions *scs.SessionManager
	Views    Views
	Log      *slog.Logger
	Hint     string
	Tries    int
	Broker   Broker
	Stop     <-chan struct{}
	Working  chan struct{}  // a place for each question being worked on
	Proxies  []netip.Prefix // whose word on a client's address and scheme is taken
	Tour     []Stop         // through the demo; empty in a shop
	Trouble  func() string  // what is wrong with the shop's file, empty when nothing is

	secured *scs.SessionManager // Sessions, with a cookie for encrypted connections only
}

// Recoverer answers a panic with a page instead of a dead connection.
func (s *Site) Recoverer(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		defer func() {
			if p := recover(); p == http.ErrAbortHandler { // an answer under way is cut off, and seen to be
				panic(p)
			} else if p != nil {
				s.Log.Error("panic", "path", r.URL.Path, "what", p, "stack", string(debug.Stack()))
				http.Error(w, "Something broke here. What was saved before is safe.", http.StatusInternalServerError)
			}
		}()
		next.ServeHTTP(w, r)
	})
}

// Health answers whether the program can read and write the shop's file: 200 when it can, 503 when not. What
// will not go well for long is said: "degraded", and why.
func (s *Site) Health(w http.ResponseWriter, r *http.Request) {
	status, says := health(s.Shop.Health(r.Context()), s.Trouble())
	w.WriteHeader(status)
	_, _ = io.WriteString(w, says+"\n")
}

// health is what is answered, of how the file is and of trouble with it since it was opened.
func health(h shop.Health, trouble string) (status int, says string) {
	switch {
	case h.Err != nil || trouble != "":
		// why is in the log and on the pages: a stranger may ask here
		return http.StatusServiceUnavailable, "trouble"
	case h.Low:
		return http.StatusOK, fmt.Sprintf("degraded: %d MB are left on the disk", h.Room>>20)
	}
	return http.StatusOK, "ok"
}

// LinkEnded answers a customer whose link has ended: whom to call, about which head where that is known.
func (s *Site) LinkEnded(w http.ResponseWriter, set shop.Settings, tag string, in *words.Language) {
	s.Write(w, &Request{}, http.StatusNotFound, "ended", "customer", Page{
		Language: in, Title: in.Say("This link has ended"),
		Data: struct{ Shop, Phone, Tag string }{set.Get("shop_name"), set.Get("shop_phone"), tag},
	})
}
