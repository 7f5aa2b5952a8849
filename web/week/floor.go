package week

import (
	"errors"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"

	"yatai/core/field"
	"yatai/shop"
	"yatai/shop/bench"
	"yatai/shop/customers"
	"yatai/shop/people"
	"yatai/shop/week"
	"yatai/shop/work"
	"yatai/web/page"

	"github.com/go-chi/chi/v5"
)

type column struct {
	Station string
	Cards   []week.Card
}

type floorData struct {
	Now       time.Time
	Delivered []shop.Suspected // heads that have left with suspect readings
	Columns   []column
	People    []string
	Steps     []people.FirstStep // what the owner of a new shop has not said yet
	Mine      []week.Turn        // what whoever looks does today
	Forgotten []work.Forgotten   // stops they forgot
	Calls     []week.Card        // what the counter or the lead is waited for
}

// mostTurns is how many turns of today are shown.
const mostTurns = 5

// own fills in what concerns whoever looks: their work and forgotten stops, what waits for their
// word, and what a new shop still has to say.
func (d *floorData) own(s *page.Site, r *http.Request, req *page.Request, cards []week.Card) error {
	ctx, a := r.Context(), req.Actor
	var err error
	if d.Forgotten, err = work.ForgottenBy(ctx, s.Shop, a.ID); err != nil {
		return err
	}
	waits := map[string]string{shop.Counter: "customer", shop.Lead: "lead"}[a.Role]
	for _, c := range cards {
		if waits != "" && c.For == waits || a.Role == shop.Counter && (c.Late || c.For == "collection") {
			d.Calls = append(d.Calls, c)
		}
	}
	if a.Role == shop.Technician || a.Role == shop.Lead {
		w, err := week.Reckon(ctx, s.Shop)
		var unplanned *field.Error
		if err != nil && !errors.As(err, &unplanned) {
			return err
		}
		if err == nil {
			d.Mine = w.Today(a.Name, w.Now)
			d.Mine = d.Mine[:min(mostTurns, len(d.Mine))]
		}
	}
	if a.May("decide a repair") {
		if d.Delivered, err = bench.Delivered(ctx, s.Shop); err != nil {
			return err
		}
	}
	if a.May("change settings") {
		d.Steps, err = people.FirstSteps(ctx, s.Shop)
	}
	return err
}

// Stopped answers POST /stopped/{stint}: a forgotten stop is said.
func Stopped(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	id, err := strconv.ParseUint(chi.URLParam(r, "stint"), 10, 32)
	if err != nil {
		return shop.ErrNotFound
	}
	err = work.Stopped(r.Context(), s.Shop, req.Actor, r.PostForm.Get("write_id"), uint(id),
		r.PostForm.Get("at"))
	if errs, err := page.Wrong(err); errs != nil {
		return showFloor(s, w, r, req, page.Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/")
}

// Later answers POST /first-steps: a step is left for later.
func Later(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	err := people.LeaveForLater(r.Context(), s.Shop, req.Actor, r.PostForm.Get("write_id"),
		r.PostForm.Get("step"))
	if errs, err := page.Wrong(err); errs == nil && err != nil {
		return err
	}
	return page.Redirect(w, r, "/")
}

// Floor is the first screen: every head as a card at its station, or only those of a
// customer, a person at work on them, or what they wait for.
func Floor(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return showFloor(s, w, r, req, page.Page{Values: r.Form})
}

func showFloor(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, p page.Page) error {
	cards, err := week.Floor(r.Context(), s.Shop)
	if err != nil {
		return err
	}
	all, err := people.People(r.Context(), s.Shop)
	if err != nil {
		return err
	}
	d := floorData{Now: s.Shop.Now()}
	if err := d.own(s, r, req, cards); err != nil {
		return err
	}
	names := map[uint]string{}
	for _, u := range all {
		d.People = append(d.People, u.Name)
		names[u.ID] = u.Name
	}
	f := r.Form.Get
	cards = slices.DeleteFunc(cards, func(c week.Card) bool {
		return f("waiting") != "" && c.For != f("waiting") || f("person") != "" && names[c.By] != f("person") ||
			!strings.Contains(
				strings.ToLower(c.Job.Customer.Name), strings.ToLower(strings.TrimSpace(f("customer"))),
			)
	})
	for _, st := range week.FloorStations {
		c := column{Station: st}
		for _, card := range cards {
			if card.Station == st {
				c.Cards = append(c.Cards, card)
			}
		}
		if c.Cards != nil {
			d.Columns = append(d.Columns, c)
		}
	}
	p.Title, p.Place, p.Data = "Floor", "floor", d
	return s.Show(w, req, "floor", p)
}

// Search opens the head of a tag, or lists what it finds.
func Search(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	text := strings.TrimSpace(r.Form.Get("q"))
	if _, scanned, ok := strings.Cut(text, "/heads/"); ok { // a label's QR code holds the head's address
		text, _, _ = strings.Cut(scanned, "/")
	}
	tag := strings.ToUpper(strings.ReplaceAll(text, " ", ""))
	typing := req.Part() // goes on to nothing by itself
	if id, err := strconv.ParseUint(strings.TrimPrefix(tag, "TL-"), 10, 32); err == nil &&
		!typing && strings.HasPrefix(tag, "TL-") {
		return page.Redirect(w, r, "/reference/tools/"+strconv.Itoa(int(id)))
	}
	if text == "" { // to be asked
		return s.Show(w, req, "search", page.Page{Title: "Find a head", Place: "floor", Values: r.Form, Data: searched{}})
	}
	found, err := week.Find(r.Context(), s.Shop, text)
	if err == nil && len(found) == 0 {
		found, err = week.Find(r.Context(), s.Shop, tag)
	}
	if err != nil {
		return err
	}
	if !typing && (len(found) == 1 || len(found) > 0 && found[0].Tag == tag) {
		return page.Redirect(w, r, "/heads/"+url.PathEscape(found[0].Tag))
	}
	d := searched{Hits: found}
	if len(found) == 0 {
		if d.Customers, err = customers.List(r.Context(), s.Shop, text); err != nil {
			return err
		}
		d.Customers = d.Customers[:min(len(d.Customers), mostCustomers)]
	}
	return s.Show(w, req, "search", page.Page{Title: "Search", Place: "floor", Values: r.Form, Data: d})
}

// searched is what was found: heads, or customers where there is none.
type searched struct {
	Hits      []week.Hit
	Customers []customers.Row
}

// mostCustomers bounds how many customers a search shows.
const mostCustomers = 20
