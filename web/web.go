// Package web is the shop in the browser: chi routes with one file per place of the shop,
// html/template views, and drawings from package draw. New is its door. It holds no rules
// of the job: those are in core and shop.
package web

import (
	"embed"
	"io/fs"
	"log/slog"
	"net"
	"net/http"
	"runtime/debug"
	"strings"
	"time"

	"github.com/alexedwards/scs/sqlite3store"
	"github.com/alexedwards/scs/v2"
	"github.com/go-chi/chi/v5"
	"github.com/go-chi/httprate"

	"yatai/shop"
	"yatai/shop/intake"
	"yatai/store"
)

//go:embed static views
var files embed.FS

// GCPercent is how the program tunes the collector: the live heap of a shop is some ten
// megabytes, so that letting four times that gather costs little memory, and a reading
// waits less often.
const GCPercent = 400

// maxBody bounds what a request may carry.
const maxBody = 1 << 20

// Server answers the shop's pages.
type Server struct {
	shop     *shop.Shop
	sessions *scs.SessionManager
	views    views
	log      *slog.Logger
	hint     string
	tries    int
	broker   broker
	stop     <-chan struct{}
	working  chan struct{} // a place for each question being worked on
}

// Options are what can be chosen about a Server.
type Options struct {
	Log        *slog.Logger
	SignInHint string          // shown on the sign-in page; the demo says who there is
	Stop       <-chan struct{} // closed when the program ends: open streams end with it
	Tries      int             // wrong passwords or PINs per name and minute before it is told to wait; 10 when 0
}

// New returns the handler of the shop's pages.
func New(s *shop.Shop, st *store.Store, o Options) (http.Handler, error) {
	v, err := parseViews()
	if err != nil {
		return nil, err
	}
	if o.Log == nil {
		o.Log = slog.New(slog.DiscardHandler)
	}
	if o.Tries == 0 {
		o.Tries = 10
	}
	srv := &Server{shop: s, views: v, log: o.Log, hint: o.SignInHint, tries: o.Tries, stop: o.Stop, sessions: scs.New(), working: make(chan struct{}, atATime)}
	srv.sessions.Store = sqlite3store.New(st.Sessions())
	srv.sessions.Lifetime = 14 * time.Hour
	srv.sessions.Cookie.Name = "yatai"
	srv.sessions.Cookie.HttpOnly = true
	srv.sessions.Cookie.SameSite = http.SameSiteLaxMode
	return srv.routes(), nil
}

func (s *Server) routes() http.Handler {
	r := chi.NewRouter()
	r.Use(s.recoverer, headers, limitBody, http.NewCrossOriginProtection().Handler)
	static, err := fs.Sub(files, "static")
	if err != nil {
		panic(err) // the folder is embedded
	}
	r.Handle("/static/*", cached(http.StripPrefix("/static/", http.FileServerFS(static))))
	r.Handle("/favicon.ico", cached(http.RedirectHandler("/static/favicon.svg", http.StatusFound)))
	r.Post("/api/gauge", s.apiGauge)
	r.Route("/api", func(r chi.Router) {
		r.Use(s.sessions.LoadAndSave, s.machines)
		r.Get("/calc", s.apiList)
		r.With(s.queued).Post("/calc/{name}", s.apiCalc)
		r.With(s.queued).Post("/head/{question}", s.apiHead)
	})

	// A customer needs only the link: no sign-in, no session.
	guesses := httprate.LimitBy(60, time.Minute, func(r *http.Request) (string, error) {
		host, _, err := net.SplitHostPort(r.RemoteAddr)
		return host, err
	})
	r.With(guesses).Get("/q/{token}", s.page(s.customerPage))
	r.With(guesses).Post("/q/{token}", s.page(s.customerSays))
	r.With(guesses).Get("/q/{token}/quote.pdf", s.page(s.customerPDF))
	r.With(guesses).Get("/q/{token}/photos/{id}", s.page(s.customerPhoto))
	r.With(guesses).Get("/calendar/{key}/yatai.ics", s.page(s.calendar))

	r.Group(func(r chi.Router) {
		r.Use(s.sessions.LoadAndSave)
		r.Get("/first", s.page(s.firstPage))
		r.Post("/first", s.page(s.first))
		r.Get("/sign-in", s.page(s.signInPage))
		tries := httprate.LimitBy(s.tries, time.Minute, whoTries, httprate.WithLimitHandler(s.tooMany))
		r.With(tries).Post("/sign-in", s.page(s.signIn))
		r.With(tries).Post("/sign-on", s.page(s.signOn))
		r.Post("/sign-out", s.page(s.signOut))
		r.Group(func(r chi.Router) {
			r.Use(s.signedIn)
			s.places(r)
		})
	})
	return r
}

// places are the pages for people who are signed in.
func (s *Server) places(r chi.Router) {
	r.Get("/", s.page(s.floor))
	r.Get("/search", s.page(s.search))
	r.Get("/live", s.page(s.live))
	r.Post("/unit", s.page(s.setUnit))
	r.Get("/take-in", s.page(s.takeInPage))
	r.Post("/take-in", s.page(s.takeIn))
	r.Post("/take-in/file", s.page(s.takeInFile))
	r.Get("/take-in/symptoms", s.page(s.symptoms))
	r.Route("/heads/{tag}", func(r chi.Router) {
		r.Get("/", s.page(s.head))
		r.Get("/head.json", s.page(s.headFile))
		r.Get("/intake", s.page(s.intakeStep))
		r.Get("/measure", s.page(s.measureStep))
		r.Get("/sweep/{code}", s.page(s.sweepPage))
		r.Post("/sweep/{code}", s.page(s.sweep))
		r.Get("/judge", s.page(s.judgeStep))
		r.Post("/judge", s.page(s.decide))
		r.Get("/plan", s.page(s.planPage))
		r.Post("/plan", s.page(s.keepPlan))
		r.Post("/plan/scrap", s.page(s.scrap))
		r.Get("/face", s.page(s.facePage))
		r.Get("/seats", s.page(s.seatsPage))
		r.Get("/guides", s.page(s.guidesPage))
		r.Get("/springs", s.page(s.springsPage))
		r.Get("/causes", s.page(s.causesPage))
		r.Post("/causes", s.page(s.callCause))
		r.Post("/symptoms", s.page(s.tellSymptoms))
		r.Get("/newer", s.page(s.newerPage))
		r.Post("/newer", s.page(s.takeNewer))
		r.Get("/schools", s.page(s.schoolsPage))
		r.Post("/schools", s.page(s.schools))
		r.Get("/work", s.page(s.workStep))
		r.Get("/work/{seq}", s.page(s.sheetPage))
		r.Post("/work/{seq}/prove", s.page(s.prove))
		r.Post("/work/{seq}/record", s.page(s.record))
		r.Post("/work/{seq}/{verb}", s.page(s.operate))
		r.Get("/quote", s.page(s.quotePage))
		r.Post("/quote/{verb}", s.page(s.quoteVerb))
		r.Get("/quote/{version}/quote.pdf", s.page(s.quotePDF))
		r.Get("/earlier", s.page(s.earlierPage))
		r.Post("/earlier", s.page(s.linkEarlier))
		r.Get("/files/{file}", s.page(s.fileOf))
		r.Get("/check", s.page(s.checkStep))
		r.Post("/check/sign", s.page(s.sign))
		r.Post("/check/release", s.page(s.release))
		r.Post("/check/close", s.page(s.close))
		r.Get("/handover", s.page(s.handoverStep))
		r.Post("/handover", s.page(s.handover))
		r.Get("/report", s.page(s.report))
		r.Get("/at/{position}", s.page(s.position))
		r.Get("/map", s.page(s.mapPage))
		r.Post("/map", s.page(s.placeMark))
		r.Get("/findings/{part}", s.page(s.findingsPage))
		r.Post("/findings/{part}", s.page(s.grade))
		r.Get("/photos", s.page(s.photosPage))
		r.Post("/photos", s.page(s.addPhoto))
		r.Post("/photos/{id}", s.page(s.showPhoto))
		r.Get("/tray", s.page(s.trayPage))
		r.Post("/tray", s.page(s.placeParts))
		r.Post("/tray/sort", s.page(s.sortParts))
	})
	r.Get("/reference", s.page(s.reference))
	r.Get("/reference/models/new", s.page(s.newModelPage))
	r.Post("/reference/models/new", s.page(s.newModel))
	r.Get("/reference/models/{id}", s.page(s.modelPage))
	r.Post("/reference/models/{id}", s.page(s.editSheet))
	r.Post("/reference/models/{id}/confirm", s.page(s.confirmSheet))
	r.Get("/reference/models/{id}/limits.csv", s.page(s.limitsFile))
	r.Post("/reference/models/{id}/limits", s.page(s.readLimits))
	r.Post("/reference/models/{id}/own", s.page(s.addOwn))
	r.Post("/reference/tools", s.page(s.addTool))
	r.Get("/photos/{id}", s.page(s.photo))
	r.Get("/reference/tools/{id}", s.page(s.toolPage))
	r.Get("/reference/tools/{id}/study", s.page(s.studyPage))
	r.Post("/reference/tools/{id}/study", s.page(s.study))
	r.Post("/reference/tools/{id}/study/{study}", s.page(s.takeU))
	r.Post("/reference/tools/{id}", s.page(s.checkZero))
	r.Get("/reference/calc/{name}", s.page(s.calcPage))
	r.Post("/reference/calc/{name}", s.page(s.calcAnswer))
	r.Get("/outbox", s.page(s.outbox))
	r.Get("/follow-up", s.page(s.followPage))
	r.Post("/follow-up", s.page(s.follow))
	r.Route("/week", s.weekRoutes)
	r.Get("/parts", s.page(s.stockPage))
	r.Post("/parts/{verb}", s.page(s.keepStock))
	r.Get("/settings", s.page(s.settingsPage))
	r.Post("/settings", s.page(s.setSettings))
	r.Post("/settings/backup", s.page(s.backup))
	r.Get("/people", s.page(s.people))
	r.Post("/people", s.page(s.addPerson))
	r.Get("/people/{id}", s.page(s.person))
	r.Post("/people/{id}", s.page(s.changePerson))
	r.Post("/stations", s.page(s.enrol))
	r.NotFound(s.page(func(http.ResponseWriter, *http.Request, *request) error { return shop.ErrNotFound }))
}

// headers sets what every answer carries.
func headers(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		h := w.Header()
		h.Set("Content-Security-Policy", "default-src 'none'; script-src 'self'; style-src 'self'; font-src 'self'; img-src 'self' data:; connect-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'")
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("Referrer-Policy", "same-origin")
		h.Set("Cross-Origin-Opener-Policy", "same-origin")
		h.Set("Cross-Origin-Resource-Policy", "same-origin")
		h.Set("Permissions-Policy", "camera=(), microphone=(), geolocation=()")
		h.Set("Cache-Control", "no-store")
		next.ServeHTTP(w, r)
	})
}

func limitBody(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		most := int64(maxBody)
		if strings.HasPrefix(r.Header.Get("Content-Type"), "multipart/form-data") {
			most = intake.MaxPhoto + maxBody
		}
		if strings.HasPrefix(r.URL.Path, "/api/head/") {
			most = maxHeadFile
		}
		r.Body = http.MaxBytesReader(w, r.Body, most)
		next.ServeHTTP(w, r)
	})
}

func cached(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		w.Header().Set("Cache-Control", "public, max-age=3600")
		next.ServeHTTP(w, r)
	})
}

// recoverer answers a panic with a page instead of a dead connection.
func (s *Server) recoverer(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		defer func() {
			if p := recover(); p != nil {
				s.log.Error("panic", "path", r.URL.Path, "what", p, "stack", string(debug.Stack()))
				http.Error(w, "Something broke here. What was saved before is safe.", http.StatusInternalServerError)
			}
		}()
		next.ServeHTTP(w, r)
	})
}
