// Package web is the shop in the browser. New is its door: all routes in one page, each to a
// handler of the place it belongs to. The places are the packages beside it, as in shop, over
// page, which every page is made with, and headpage, the frame of every page about one head;
// draw makes the drawings and paper the PDFs. It holds no rules of the job: those are in core
// and shop.
package web

import (
	"embed"
	"log/slog"
	"net/http"
	"net/netip"
	"sync"
	"time"

	"github.com/alexedwards/scs/sqlite3store"
	"github.com/alexedwards/scs/v2"
	"github.com/go-chi/chi/v5"
	"github.com/go-chi/httprate"
	"github.com/klauspost/compress/gzhttp"

	"yatai/shop"
	"yatai/web/api"
	"yatai/web/bench"
	"yatai/web/billing"
	"yatai/web/customers"
	"yatai/web/experience"
	"yatai/web/following"
	"yatai/web/headpage"
	"yatai/web/inout"
	"yatai/web/intake"
	"yatai/web/lead"
	"yatai/web/library"
	"yatai/web/page"
	"yatai/web/parts"
	"yatai/web/people"
	"yatai/web/practising"
	"yatai/web/quoting"
	"yatai/web/trail"
	"yatai/web/week"
	"yatai/web/work"
)

//go:embed static views
var files embed.FS

// Options are what can be chosen about a Server.
type Options struct {
	Log        *slog.Logger
	SignInHint string          // shown on the sign-in page; the demo says who there is
	Stop       <-chan struct{} // closed when the program ends: open streams end with it
	// wrong passwords or PINs per name and minute before it is told to wait; 10 when 0
	Tries   int
	Proxies []netip.Prefix // whose word on a client's address and scheme is taken
	Trouble func() string  // what is wrong with the shop's file, empty when nothing is
	Tour    []page.Stop    // through the shop; the demo has one
}

// look is what every site is shown with: the static files and the parsed templates.
type look struct {
	static *assets
	views  page.Views
}

// shared is read and parsed once, for all sites of the process.
var shared = sync.OnceValues(func() (l look, err error) {
	if l.static, err = newAssets(files); err == nil {
		l.views, err = page.ParseViews(files, l.static.path)
	}
	return l, err
})

// New returns the handler of the shop's pages.
func New(s *shop.Shop, o Options) (http.Handler, error) {
	shown, err := shared()
	if err != nil {
		return nil, err
	}
	if o.Log == nil {
		o.Log = slog.New(slog.DiscardHandler)
	}
	if o.Tries == 0 {
		o.Tries = 10
	}
	if o.Trouble == nil {
		o.Trouble = func() string { return "" }
	}
	site := &page.Site{
		Shop:    s,
		Views:   shown.views,
		Log:     o.Log,
		Hint:    o.SignInHint,
		Tries:   o.Tries,
		Stop:    o.Stop,
		Proxies: o.Proxies,
		Trouble: o.Trouble,
		Tour:    o.Tour,
		Working: make(chan struct{}, api.AtATime),
	}
	sessions := scs.New()
	kept := sqlite3store.New(s.Store.Sessions())
	sessions.Store = kept
	if o.Stop != nil {
		go func() {
			<-o.Stop
			kept.StopCleanup()
		}()
	}
	sessions.Lifetime = 14 * time.Hour
	sessions.Cookie.Name = "yatai"
	sessions.Cookie.HttpOnly = true
	sessions.Cookie.SameSite = http.SameSiteLaxMode
	site.KeepSessions(sessions)
	return routes(site, shown.static)
}

func routes(s *page.Site, static *assets) (http.Handler, error) {
	compressed, err := gzhttp.NewWrapper(gzhttp.ContentTypes(compressible))
	if err != nil {
		return nil, err
	}
	r := chi.NewRouter()
	r.Use(s.Forwarded, logged(s.Log), s.Recoverer, headers(s), limitBody,
		http.NewCrossOriginProtection().Handler)
	r.Use(func(next http.Handler) http.Handler { return compressed(next) })
	r.NotFound(s.NotHere)
	r.MethodNotAllowed(s.NotThatWay)
	r.Handle("/static/*", static)
	r.Handle("/favicon.ico", http.RedirectHandler(static.path("favicon.svg"), http.StatusFound))
	r.Get("/healthz", s.Health)
	r.Route("/api", api.Routes(s))

	// A customer needs only the link: no sign-in, no session.
	guesses := httprate.LimitBy(60, time.Minute,
		func(r *http.Request) (string, error) { return page.Address(r), nil })
	r.With(guesses).Get("/q/{token}", s.Handle(quoting.CustomerPage))
	r.With(guesses).Post("/q/{token}", s.Handle(quoting.CustomerSays))
	r.With(guesses).Get("/q/{token}/quote.pdf", s.Handle(quoting.CustomerPDF))
	r.With(guesses).Get("/q/{token}/bill/{number}.pdf", s.Handle(quoting.CustomerBill))
	r.With(guesses).Get("/q/{token}/bill/{number}.xml", s.Handle(quoting.CustomerBill))
	r.With(guesses).Get("/q/{token}/photos/{id}", s.Handle(quoting.CustomerPhoto))
	for _, file := range []string{"", "/fleet.pdf", "/fleet.csv"} {
		r.With(guesses).Get("/f/{token}"+file, s.Handle(customers.FleetByLink))
	}
	r.With(guesses).Get("/calendar/{key}/yatai.ics", s.Handle(following.Calendar))

	r.Group(func(r chi.Router) {
		r.Use(s.Session)
		r.Get("/first", s.Handle(people.FirstPage))
		r.Post("/first", s.Handle(people.First))
		r.Get("/sign-in", s.Handle(people.SignInPage))
		address := httprate.LimitBy(triesOfAddress*s.Tries, time.Minute,
			func(r *http.Request) (string, error) { return page.Address(r), nil })
		tries := httprate.LimitBy(s.Tries, time.Minute, people.WhoTries,
			httprate.WithLimitHandler(people.TooMany(s)))
		r.With(address, tries).Post("/sign-in", s.Handle(people.SignIn))
		r.With(address, tries).Post("/sign-on", s.Handle(people.SignOn))
		r.Post("/sign-out", s.Handle(people.SignOut))
		r.Group(func(r chi.Router) {
			r.Use(s.SignedIn)
			places(s, r)
		})
	})
	return r, nil
}

// triesOfAddress is how many names' tries one address may use up in a minute: a shop's benches
// often share one.
const triesOfAddress = 8

// places are the pages for people who are signed in.
func places(s *page.Site, r chi.Router) {
	r.Get("/", s.Handle(week.Floor))
	r.Post("/stopped/{stint}", s.Handle(week.Stopped))
	r.Post("/first-steps", s.Handle(week.Later))
	r.Post("/tour", s.Handle(page.TakeTour))
	r.Get("/search", s.Handle(week.Search))
	r.Get("/bills", s.Handle(billing.MonthPage))
	r.Get("/bills.csv", s.Handle(billing.MonthCSV))
	r.Get("/live", s.Handle(page.Live))
	r.Post("/unit", s.Handle(people.SetUnit))
	r.Get("/take-in", s.Handle(intake.TakeInPage))
	r.Post("/take-in", s.Handle(intake.TakeIn))
	r.Post("/take-in/file", s.Handle(intake.TakeInFile))
	r.Get("/take-in/symptoms", s.Handle(lead.Symptoms))
	r.Get("/take-in/model", s.Handle(intake.ModelLife))
	r.Route("/heads/{tag}", func(r chi.Router) {
		r.Get("/", s.Handle(headpage.Head))
		r.Get("/head.json", s.Handle(api.HeadFile))
		r.Get("/intake", s.Handle(headpage.IntakeStep))
		r.Post("/note", s.Handle(headpage.KeepNote))
		r.Get("/correct", s.Handle(intake.CorrectPage))
		r.Post("/correct", s.Handle(intake.Correct))
		r.Get("/measure", s.Handle(headpage.MeasureStep))
		r.Get("/sweep/{code}", s.Handle(bench.SweepPage))
		r.Post("/sweep/{code}", s.Handle(bench.Sweep))
		r.Get("/judge", s.Handle(lead.JudgePage))
		r.Post("/judge", s.Handle(lead.Decide))
		r.Get("/plan", s.Handle(lead.PlanPage))
		r.Get("/ways", s.Handle(lead.WaysPage))
		r.Post("/ways/scrap", s.Handle(lead.Scrap))
		r.Get("/face", s.Handle(lead.FacePage))
		r.Get("/seats", s.Handle(lead.SeatsPage))
		r.Get("/guides", s.Handle(lead.GuidesPage))
		r.Get("/springs", s.Handle(lead.SpringsPage))
		r.Get("/causes", s.Handle(lead.CausesPage))
		r.Post("/causes", s.Handle(lead.CallCause))
		r.Post("/symptoms", s.Handle(lead.TellSymptoms))
		r.Get("/newer", s.Handle(lead.NewerPage))
		r.Post("/newer", s.Handle(lead.TakeNewer))
		r.Get("/schools", s.Handle(lead.SchoolsPage))
		r.Post("/schools", s.Handle(lead.Schools))
		r.Get("/work", s.Handle(work.WorkStep))
		r.Get("/work/{seq}", s.Handle(work.SheetPage))
		r.Post("/work/{seq}/prove", s.Handle(work.Prove))
		r.Post("/work/{seq}/record", s.Handle(work.Record))
		r.Post("/work/{seq}/{verb}", s.Handle(work.Operate))
		r.Get("/bill", s.Handle(billing.BillPage))
		r.Post("/bill/{verb}", s.Handle(billing.BillVerb))
		r.Get("/bill/{number}.pdf", s.Handle(billing.BillFile))
		r.Get("/bill/{number}.xml", s.Handle(billing.BillFile))
		r.Get("/quote", s.Handle(quoting.QuotePage))
		r.Post("/quote/{verb}", s.Handle(quoting.QuoteVerb))
		r.Get("/quote/{version}/quote.pdf", s.Handle(quoting.QuotePDF))
		r.Get("/earlier", s.Handle(following.EarlierPage))
		r.Post("/earlier", s.Handle(following.LinkEarlier))
		r.Get("/files/{file}", s.Handle(following.FileOf))
		r.Get("/check", s.Handle(work.CheckStep))
		r.Post("/check/sign", s.Handle(work.Sign))
		r.Post("/check/release", s.Handle(work.Release))
		r.Post("/check/close", s.Handle(work.Close))
		r.Get("/handover", s.Handle(work.HandoverStep))
		r.Post("/handover", s.Handle(work.Handover))
		r.Post("/handover/end", s.Handle(work.EndHead))
		r.Get("/report", s.Handle(headpage.Report))
		r.Get("/at/{position}", s.Handle(headpage.Position))
		r.Get("/map", s.Handle(bench.MapPage))
		r.Post("/map", s.Handle(bench.PlaceMark))
		r.Get("/findings/{part}", s.Handle(bench.FindingsPage))
		r.Post("/findings/{part}", s.Handle(bench.Grade))
		r.Get("/photos", s.Handle(intake.PhotosPage))
		r.Post("/photos", s.Handle(intake.AddPhoto))
		r.Post("/photos/{id}", s.Handle(intake.ShowPhoto))
		r.Get("/tray", s.Handle(bench.TrayPage))
		r.Get("/newparts", s.Handle(bench.NewParts))
		r.Post("/tray", s.Handle(bench.PlaceParts))
		r.Post("/tray/sort", s.Handle(bench.SortParts))
	})
	r.Get("/reference", s.Handle(library.Reference))
	r.Get("/reference/glossary", s.Handle(library.Glossary))
	r.Get("/reference/models/new", s.Handle(library.NewModelPage))
	r.Post("/reference/models/new", s.Handle(library.NewModel))
	r.Get("/reference/models/drawn", s.Handle(library.DrawnModel))
	r.Get("/reference/models/{id}", s.Handle(library.ModelPage))
	r.Post("/reference/models/{id}", s.Handle(library.EditSheet))
	r.Post("/reference/models/{id}/confirm", s.Handle(library.ConfirmSheet))
	r.Get("/reference/models/{id}/limits.csv", s.Handle(library.LimitsFile))
	r.Post("/reference/models/{id}/change", s.Handle(library.ChangeModel))
	r.Post("/reference/models/{id}/kind", s.Handle(library.CorrectKind))
	r.Post("/reference/models/{id}/copy", s.Handle(library.CopyModel))
	r.Post("/reference/models/{id}/retire", s.Handle(library.RetireModel))
	r.Get("/reference/models/{id}/face", s.Handle(library.FacePage))
	r.Post("/reference/models/{id}/face", s.Handle(library.MoveOnFace))
	r.Post("/reference/models/{id}/own", s.Handle(library.AddOwn))
	r.Post("/reference/models/{id}/tightening", s.Handle(library.SetTightening))
	r.Post("/reference/models/{id}/repairs", s.Handle(library.AddRepair))
	r.Post("/reference/models/{id}/repairs/drop", s.Handle(library.DropRepair))
	r.Post("/reference/tools", s.Handle(library.AddTool))
	r.Get("/photos/{id}", s.Handle(intake.Photo))
	r.Get("/reference/tools/{id}", s.Handle(library.ToolPage))
	r.Get("/reference/tools/{id}/study", s.Handle(library.StudyPage))
	r.Post("/reference/tools/{id}/study", s.Handle(library.Study))
	r.Post("/reference/tools/{id}/study/{study}", s.Handle(library.TakeU))
	r.Post("/reference/tools/{id}/change", s.Handle(library.ChangeTool))
	r.Post("/reference/tools/{id}/retire", s.Handle(library.RetireTool))
	r.Post("/reference/tools/{id}", s.Handle(library.CheckZero))
	r.Get("/reference/calc/{name}", s.Handle(library.CalcPage))
	r.Post("/reference/calc/{name}", s.Handle(library.CalcAnswer))
	r.Get("/outbox", s.Handle(quoting.Outbox))
	r.Get("/follow-up", s.Handle(following.FollowPage))
	r.Post("/follow-up", s.Handle(following.Follow))
	r.Get("/quality", s.Handle(following.QualityPage))
	r.Get("/knows", s.Handle(experience.Page))
	r.Post("/knows/{verb}", s.Handle(experience.Answer))
	r.Route("/practice", func(r chi.Router) {
		r.Get("/", s.Handle(practising.Page))
		r.Post("/", s.Handle(practising.Begin))
		r.Post("/file", s.Handle(practising.TakeIn))
		r.Get("/{id}", s.Handle(practising.Head))
		r.Post("/{id}/zero", s.Handle(practising.Zero))
		r.Post("/{id}/face", s.Handle(practising.Face))
		for at, x := range map[string]practising.Sweep{"/{id}/read/{code}": {}, "/{id}/box/{code}": {Fresh: true}} {
			r.Get(at, s.Handle(x.Page))
			r.Post(at, s.Handle(x.Take))
			r.Get(at+"/gauge", s.Handle(x.Gauge))
		}
		r.Get("/{id}/look/{part}", s.Handle(practising.LookPage))
		r.Post("/{id}/look/{part}", s.Handle(practising.Look))
		r.Get("/{id}/say", s.Handle(practising.SayPage))
		r.Post("/{id}/say", s.Handle(practising.Say))
		r.Post("/{id}/share", s.Handle(practising.Share))
		r.Get("/{id}/truth", s.Handle(practising.TruthPage))
	})
	r.Get("/recall", s.Handle(following.RecallPage))
	r.Post("/recall", s.Handle(following.Recall))
	r.Route("/week", week.Routes(s))
	r.Get("/parts", s.Handle(parts.StockPage))
	r.Post("/parts/{verb}", s.Handle(parts.KeepStock))
	r.Get("/settings", s.Handle(people.SettingsPage))
	r.Post("/settings", s.Handle(people.SetSettings))
	r.Post("/settings/logo", s.Handle(people.SetLogo))
	r.Get("/settings/logo.jpg", s.Handle(people.Logo))
	r.Post("/settings/backup", s.Handle(people.Backup))
	r.Get("/settings/labour", s.Handle(library.LabourPage))
	r.Post("/settings/labour", s.Handle(library.SetLabour))
	r.Get("/history", s.Handle(trail.Page))
	r.Get("/in-out", s.Handle(inout.Page))
	r.Post("/in-out/look", s.Handle(inout.Look))
	r.Post("/in-out/take", s.Handle(inout.Take))
	r.Post("/in-out/left", s.Handle(inout.LeftNow))
	r.Get("/in-out/templates/{kind}.xlsx", s.Handle(inout.Template))
	r.Get("/in-out/{id}/left.csv", s.Handle(inout.Left))
	r.Post("/in-out/{id}/undo", s.Handle(inout.Undo))
	r.Get("/in-out/shop.zip", s.Handle(inout.Whole))
	r.Get("/customers", s.Handle(customers.List))
	r.Get("/customers/{id}", s.Handle(customers.One))
	r.Post("/customers/{id}", s.Handle(customers.Change))
	for _, file := range []string{"", ".pdf", ".csv"} {
		r.Get("/customers/{id}/fleet"+file, s.Handle(customers.Fleet))
	}
	r.Post("/customers/{id}/fleet/{verb}", s.Handle(customers.FleetVerb))
	r.Post("/customers/{id}/merge", s.Handle(customers.Merge))
	r.Post("/customers/{id}/data", s.Handle(customers.Tell))
	r.Post("/customers/{id}/erase", s.Handle(customers.Erase))
	r.Get("/customers/{id}/machines/{machine}", s.Handle(customers.OneMachine))
	r.Post("/customers/{id}/machines/{machine}", s.Handle(customers.Machine))
	r.Get("/people", s.Handle(people.People))
	r.Post("/people", s.Handle(people.AddPerson))
	r.Get("/people/{id}", s.Handle(people.Person))
	r.Post("/people/{id}", s.Handle(people.ChangePerson))
	r.Post("/people/{id}/role", s.Handle(people.SetRole))
	r.Post("/people/{id}/work", s.Handle(people.SetWork))
	r.Post("/people/{id}/unlock", s.Handle(people.UnlockPIN))
	r.Post("/stations", s.Handle(people.Enrol))
	r.Post("/stations/{id}/revoke", s.Handle(people.Revoke))
	r.Get("/me", s.Handle(people.OwnPage))
	r.Post("/me", s.Handle(people.ChangeOwn))
	r.Post("/me/language", s.Handle(people.SetLanguage))
	r.Post("/me/calendar", s.Handle(people.OwnCalendar))
	r.NotFound(s.Handle(
		func(*page.Site, http.ResponseWriter, *http.Request, *page.Request) error { return shop.ErrNotFound },
	))
}
