package page

import (
	"bytes"
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"html/template"
	"io/fs"
	"net/http"
	"net/url"
	"path"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	"golang.org/x/text/language"

	"yatai/core/field"
	"yatai/core/gauge"
	"yatai/core/length"
	"yatai/core/trade"
	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/bench"
	"yatai/shop/headfile"
	"yatai/shop/intake"
	"yatai/shop/week"
	"yatai/web/draw"
)

// Views are the parsed templates by language and name ("floor", "judge"); each has the layout and
// the partials with it.
type Views map[string]map[string]*template.Template

// helpers are the functions of the templates.
var helpers = template.FuncMap{
	"window":     draw.Window,
	"ranges":     ranges,
	"sketch":     draw.Sketch,
	"shift":      draw.Shift,
	"cash":       shop.Cash,
	"partsText":  headfile.PartsText,
	"share":      share,
	"recordSays": headfile.RecordSays,
	"sizeOf":     func(l length.Length) string { return length.MM.In(l, 2) },
	"size":       length.Unit.Whole,
	"percent":    func(x float64) float64 { return 100 * x },
	"label":      headfile.ToolLabel,
	"add":        func(a, b int) int { return a + b },
	"since":      since,
	"span":       week.Span,
	"hour":       func(t time.Time) string { return t.Local().Format("15:04") },
	"plural":     shop.Plural,
	"hours":      week.Hours,
	"percent0":   func(x float64) string { return fmt.Sprintf("%.0f", 100*x) },
	"ownMinutes": ownMinutes,
	"kind":       intake.KindLabel,
	"partKinds":  trade.PartKinds,
	"writeID":    rand.Text,
	"join":       strings.Join,
	"list":       func(s ...string) []string { return s },
	"pageWith":   func(p Page, data any) Page { p.Data = data; return p },
	"several":    func(a ...any) []any { return a },
}

// ranges draws the range chart of a study that has one.
func ranges(r bench.StudyResult) template.HTML {
	alt := "ranges of the study: none further apart than chance"
	if apart := r.Apart(); len(apart) > 0 {
		alt = "ranges of the study: further apart than chance " + strings.Join(apart, ", ")
	}
	return draw.RangeChart(*r.Ranges, r.People, alt, r.Text)
}

// spoken are the functions of the templates that speak: t says a sentence, filled.
func spoken(l *words.Language, script []byte) template.FuncMap {
	said := scriptWords(l, script)
	return template.FuncMap{
		"t": func(said any, args ...any) string {
			switch s := said.(type) {
			case words.Text:
				return s.In(l)
			case string:
				return l.Say(s, args...)
			}
			return l.Say(fmt.Sprint(said), args...) // a name of a kind of its own
		},
		"lang":        func() string { return l.Code },
		"languages":   func() []*words.Language { return words.All },
		"scriptWords": func() string { return said },
		"verdict":     func(v gauge.Verdict) template.HTML { return draw.Verdict(v, l.Say(v.Label())) },
		"day":         func(t time.Time) string { return l.Date(t, time.Now()) },
		"dayOnly":     func(t time.Time) string { return l.Short(t, time.Now()) },
		"clock":       func(t time.Time) string { return l.Clock(t, time.Now()) },
		"at":          func(t time.Time) string { return l.Date(t, time.Now()) + t.Local().Format(" 15:04") },
	}
}

// inScript finds what a script says: t("Taken up: %s", ...).
var inScript = regexp.MustCompile(`\bt\(("(?:[^"\\]|\\.)*")`)

// ScriptSays lists the sentences of a script.
func ScriptSays(script []byte) []string {
	var out []string
	for _, m := range inScript.FindAllSubmatch(script, -1) {
		if s, err := strconv.Unquote(string(m[1])); err == nil {
			out = append(out, s)
		}
	}
	return out
}

// scriptWords are a language's own words for the sentences of a script, as JSON; empty when it has none.
func scriptWords(l *words.Language, script []byte) string {
	said := map[string]string{}
	for _, s := range ScriptSays(script) {
		if own, ok := l.Own(s); ok {
			said[s] = own
		}
	}
	b, err := json.Marshal(said)
	if err != nil {
		panic(err) // strings can always be written
	}
	if len(said) == 0 {
		return ""
	}
	return string(b)
}

// ParseViews parses the templates in files, for each language, with the words of the script: each
// view with the layout and the partials. asset returns the address of a static file.
func ParseViews(files fs.FS, asset func(name string) string) (Views, error) {
	names, err := fs.Glob(files, "views/*.html")
	if err != nil {
		return nil, err
	}
	script, err := fs.ReadFile(files, "static/bench.js")
	if err != nil {
		return nil, err
	}
	out := Views{}
	for _, l := range words.All {
		base, err := template.New("").Funcs(helpers).Funcs(template.FuncMap{"asset": asset}).
			Funcs(spoken(l, script)).
			ParseFS(files, "views/layout.html", "views/partials.html")
		if err != nil {
			return nil, err
		}
		out[l.Code] = map[string]*template.Template{}
		for _, n := range names {
			t, err := template.Must(base.Clone()).ParseFS(files, n)
			if err != nil {
				return nil, err
			}
			out[l.Code][strings.TrimSuffix(path.Base(n), ".html")] = t
		}
	}
	return out, nil
}

// Request is what a handler knows about who asks.
type Request struct {
	Actor   shop.Actor
	Station string // name of the enrolled station, if it is one

	tour    *Touring
	target  string          // id of what is to be swapped in, empty where a whole page is asked for
	at      string          // path of the page that asks for it
	asked   string          // address that was asked for
	browser *words.Language // that the browser asks for, where nobody is signed in
}

// Page is what every view is given.
type Page struct {
	Title   string
	Place   string // floor, reference, people: what is marked in the navigation
	Actor   shop.Actor
	Station string
	Values  url.Values   // what was typed
	Errors  field.Errors // what was wrong with it
	Data    any
	Trouble string // what is wrong with the shop's file
	Tour    *Touring
	HasTour bool // there is one to be taken

	Language *words.Language // that it is said in; nil: the actor's
}

// Val returns what was typed in a field.
func (p Page) Val(name string) string { return p.Values.Get(name) }

// Is tells whether a choice is the one taken.
func (p Page) Is(name, value string) bool { return p.Values.Get(name) == value }

// Has tells whether a value is among those chosen for a name.
func (p Page) Has(name, value string) bool { return slices.Contains(p.Values[name], value) }

// Err returns the message of a field, empty when it is fine.
func (p Page) Err(name string) string {
	return p.Errors[name].In(p.language())
}

func (p Page) language() *words.Language {
	if p.Language != nil {
		return p.Language
	}
	return words.In(p.Actor.Language)
}

// Bad returns the attributes of a field that tell a screen reader whether it is wrong.
func (p Page) Bad(name string) template.HTMLAttr {
	if p.Errors[name].Sentence == "" {
		return ""
	}
	return template.HTMLAttr(
		fmt.Sprintf(`aria-invalid="true" aria-describedby="say-%s"`, template.HTMLEscapeString(name)),
	)
}

// Say returns the message of a field, to stand beside it.
func (p Page) Say(name string) template.HTML {
	if p.Errors[name].Sentence == "" {
		return ""
	}
	at, said := template.HTMLEscapeString(name), template.HTMLEscapeString(p.Err(name))
	return template.HTML(`<div class="invalid-feedback" role="alert" id="say-` + at + `">` + said + `</div>`)
}

// Handler is a page's handler; its error becomes an answer in page.
type Handler func(*Site, http.ResponseWriter, *http.Request, *Request) error

// Handle runs a handler and answers its error.
func (s *Site) Handle(h Handler) http.HandlerFunc {
	return func(w http.ResponseWriter, r *http.Request) {
		req, _ := r.Context().Value(requestKey{}).(*Request)
		if req == nil {
			req = &Request{}
		}
		if req.Actor.ID == 0 {
			req.browser = browserLanguage(r)
		}
		req.swapped(r)
		err := r.ParseForm()
		if err == nil && strings.HasPrefix(r.Header.Get("Content-Type"), "multipart/form-data") {
			err = r.ParseMultipartForm(MaxBody)
		}
		if by := r.PostForm.Get("by"); err == nil && by != "" && by != strconv.Itoa(int(req.Actor.ID)) {
			err = ErrOther // a form that says whose it is, sent in the session of another
		}
		if err == nil {
			if r.Method == http.MethodPost {
				r = r.WithContext(shop.WithContent(r.Context(), contentOf(r, req)))
			}
			err = h(s, w, r, req)
		}
		if err != nil {
			s.fail(w, r, req, err)
		}
	}
}

// spokenTags are the languages there are, as browsers ask for them.
var spokenTags = language.NewMatcher(func() (out []language.Tag) {
	for _, l := range words.All {
		out = append(out, language.Make(l.Code))
	}
	return out
}())

// browserLanguage is the one of the languages there are that a browser likes best.
func browserLanguage(r *http.Request) *words.Language {
	wanted, _, err := language.ParseAcceptLanguage(r.Header.Get("Accept-Language"))
	if err != nil {
		return words.English
	}
	_, i, _ := spokenTags.Match(wanted...)
	return words.All[i]
}

// contentOf stands for who sent a form, where to, and all that was typed into it.
func contentOf(r *http.Request, req *Request) string {
	sum := sha256.New()
	_, _ = fmt.Fprintf(sum, "%d %s %s\n", req.Actor.ID, r.URL.Path, r.PostForm.Encode())
	if r.MultipartForm != nil {
		for name, files := range r.MultipartForm.File {
			for _, f := range files {
				_, _ = fmt.Fprintf(sum, "%s %q %d\n", name, f.Filename, f.Size)
			}
		}
	}
	return hex.EncodeToString(sum.Sum(nil))
}

// failures maps errors that are not about a field to their answer.
var failures = []struct {
	err    error
	status int
	title  words.Text
}{
	{shop.ErrForbidden, http.StatusForbidden, words.Of("Not yours to do")},
	{shop.ErrNotFound, http.StatusNotFound, words.Of("Nothing here")},
	{shop.ErrStale, http.StatusConflict, words.Of("Somebody was faster")},
	{ErrOther, http.StatusConflict, words.Of("Somebody else is signed in")},
	{errMethod, http.StatusMethodNotAllowed, words.Of("Nothing to see here")},
	{shop.ErrFull, http.StatusInsufficientStorage, words.Of("The disk is full")},
	{shop.ErrReplaced, http.StatusServiceUnavailable, words.Of("The shop's file is gone")},
}

func (s *Site) fail(w http.ResponseWriter, r *http.Request, req *Request, err error) {
	if errors.Is(err, context.Canceled) && r.Context().Err() != nil {
		return // who asked has left
	}
	status, title := http.StatusInternalServerError, words.Of("Something broke")
	say := words.Of("What was saved before is safe. Try again, and tell the owner if it stays.")
	for _, f := range failures {
		if errors.Is(err, f.err) {
			status, title, say = f.status, f.title, words.Of(f.err.Error())
		}
	}
	var tooLarge *http.MaxBytesError
	var escape url.EscapeError
	var wrong field.Errors
	switch {
	case errors.As(err, &tooLarge):
		status, title, say = http.StatusRequestEntityTooLarge, words.Of("Too much at once"), words.Of("That was more than a form can hold.")
	case errors.As(err, &escape):
		status, title, say = http.StatusBadRequest, words.Of("Not understood"), words.Of("The request was garbled.")
	case errors.As(err, &wrong):
		status, title, say = http.StatusUnprocessableEntity, words.Of("That will not do"), words.Of("%s", wrong.Error())
	}
	if status >= http.StatusInternalServerError {
		s.Log.Error("request failed", "path", r.URL.Path, "error", err)
	}
	s.Render(w, req, status, "failed", Page{Title: title.In(words.In(req.Actor.Language)), Data: say})
}

// NotHere answers what no page answers.
func (s *Site) NotHere(w http.ResponseWriter, r *http.Request) {
	s.fail(w, r, &Request{}, shop.ErrNotFound)
}

// NotThatWay answers a method that a page does not have, after the router has set Allow.
func (s *Site) NotThatWay(w http.ResponseWriter, r *http.Request) {
	s.fail(w, r, &Request{}, errMethod)
}

// ErrOther is a form of one person's page that came in another's session.
var ErrOther = errors.New(
	"this page was opened by another person than the one who is signed in here now. Nothing was written: sign in again as yourself",
)

// errMethod is a method that a page does not have: a form's address typed in, for the most part.
var errMethod = errors.New(
	"this address takes a form, and shows no page. Go to the floor and find the head there",
)

// Part tells whether only a part of the page is asked for, to be swapped in.
func (req *Request) Part() bool { return req.target != "" }

// swapped notes what of a page is asked for, by which page.
func (req *Request) swapped(r *http.Request) {
	req.target, req.asked = r.Header.Get("HX-Target"), r.URL.RequestURI()
	if u, err := url.Parse(r.Header.Get("HX-Current-URL")); err == nil {
		req.at = u.Path
	}
}

// Render writes a view, or its main part where something of that is to be swapped in; nothing is
// written when the template fails.
func (s *Site) Render(w http.ResponseWriter, req *Request, status int, view string, p Page) {
	if !req.Part() {
		s.Write(w, req, status, view, "layout", p)
		return
	}
	path, _, _ := strings.Cut(req.asked, "?")
	switch {
	case status != http.StatusOK: // a form that comes back has no address of its own
		w.Header().Set("HX-Push-Url", "false")
	case req.target == "main" && path == req.at: // the same page is no other step to come back to
		w.Header().Set("HX-Replace-Url", req.asked)
	}
	s.Write(w, req, status, view, "part", p)
}

// Write writes one part of a view: nothing when its template fails.
func (s *Site) Write(w http.ResponseWriter, req *Request, status int, view, part string, p Page) {
	p.Actor, p.Station, p.Trouble = req.Actor, req.Station, s.Trouble()
	p.Tour, p.HasTour = req.tour, len(s.Tour) > 0
	if p.Values == nil {
		p.Values = url.Values{}
	}
	if p.Language == nil && view == "signin" {
		p.Language = req.browser
	}
	var b bytes.Buffer
	if err := s.Views[p.language().Code][view].ExecuteTemplate(&b, part, p); err != nil {
		s.Log.Error("view", "name", view, "error", err)
		http.Error(w, "This page broke. What was saved before is safe.", http.StatusInternalServerError)
		return
	}
	said := b.Bytes()
	if p.Actor.Comma || p.Language != nil && p.Language.Comma {
		said = withCommas(said)
	}
	w.Header().Set("Content-Type", "text/html; charset=utf-8")
	w.WriteHeader(status)
	_, _ = w.Write(said)
}

// Show renders a view, with 422 when a form comes back with errors.
func (s *Site) Show(w http.ResponseWriter, req *Request, view string, p Page) error {
	status := http.StatusOK
	if len(p.Errors) > 0 {
		status = http.StatusUnprocessableEntity
	}
	s.Render(w, req, status, view, p)
	return nil
}

// Wrong returns the errors by field in err; any other error comes back as it is.
func Wrong(err error) (field.Errors, error) {
	var many field.Errors
	var one *field.Error
	switch {
	case errors.As(err, &many):
		return many, nil
	case errors.As(err, &one):
		return field.Errors{one.Field: one.Says}, nil
	}
	return nil, err
}

// Redirect sends a browser on, after a form was taken.
func Redirect(w http.ResponseWriter, r *http.Request, to string) error {
	http.Redirect(w, r, to, http.StatusSeeOther)
	return nil
}

// since says how long ago t was at now, roughly.
func since(now, t time.Time) string {
	d := now.Sub(t)
	switch {
	case d < time.Minute:
		return "now"
	case d < time.Hour:
		return fmt.Sprintf("%d min", int(d.Minutes()))
	case d < 48*time.Hour:
		return fmt.Sprintf("%d h", int(d.Hours()))
	}
	return fmt.Sprintf("%d days", int(d.Hours()/24))
}

// share writes how likely something is, in percent.
func share(p float64) string {
	switch {
	case p > 0.9995:
		return "over 99.9 %"
	case p < 0.001:
		return "under 0.1 %"
	}
	return fmt.Sprintf("%.1f %%", 100*p)
}

// Current is when a reading's head stands: where a new reading belongs.
func Current(f *headfile.File) string {
	if f.WorkOrderAt == nil {
		return headfile.AsReceived
	}
	return headfile.AfterRepair
}
