package web

import (
	"fmt"
	"io"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"yatai/core/field"
	"yatai/shop"
	"yatai/shop/intake"
	"yatai/shop/library"
	"yatai/shop/people"
	"yatai/shop/week"
	"yatai/store"
)

type column struct {
	Station string
	Cards   []week.Card
}

type floorData struct {
	Columns []column
	People  []string
}

// floor is the first screen: every head as a card at its station, or only those of a
// customer, a person at work on them, or what they wait for.
func (s *Server) floor(w http.ResponseWriter, r *http.Request, req *request) error {
	cards, err := week.Floor(r.Context(), s.shop)
	if err != nil {
		return err
	}
	people, err := people.People(r.Context(), s.shop)
	if err != nil {
		return err
	}
	d := floorData{}
	names := map[uint]string{}
	for _, p := range people {
		d.People = append(d.People, p.Name)
		names[p.ID] = p.Name
	}
	f := r.Form.Get
	cards = slices.DeleteFunc(cards, func(c week.Card) bool {
		return f("waiting") != "" && c.For != f("waiting") || f("person") != "" && names[c.By] != f("person") || !strings.Contains(strings.ToLower(c.Job.Customer.Name), strings.ToLower(strings.TrimSpace(f("customer"))))
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
	return s.show(w, req, "floor", Page{Title: "Floor", Place: "floor", Values: r.Form, Data: d})
}

// search opens the head of a tag, or lists what it finds.
func (s *Server) search(w http.ResponseWriter, r *http.Request, req *request) error {
	text := strings.TrimSpace(r.Form.Get("q"))
	if _, scanned, ok := strings.Cut(text, "/heads/"); ok { // a label's QR code holds the head's address
		text, _, _ = strings.Cut(scanned, "/")
	}
	tag := strings.ToUpper(strings.ReplaceAll(text, " ", ""))
	if id, err := strconv.ParseUint(strings.TrimPrefix(tag, "TL-"), 10, 32); err == nil && strings.HasPrefix(tag, "TL-") {
		return redirect(w, r, "/reference/tools/"+strconv.Itoa(int(id)))
	}
	found, err := week.Search(r.Context(), s.shop, text)
	if err == nil && len(found) == 0 {
		found, err = week.Search(r.Context(), s.shop, tag)
	}
	if err != nil {
		return err
	}
	if len(found) == 1 || len(found) > 0 && found[0].Tag == tag {
		return redirect(w, r, "/heads/"+url.PathEscape(found[0].Tag))
	}
	return s.show(w, req, "search", Page{Title: "Search", Place: "floor", Values: r.Form, Data: found})
}

type takeInData struct {
	Kinds     []intake.IntakeKind
	Models    []store.HeadModel
	Customers []store.Customer
	Regulated []string
	Ticks     []tick
}

func (s *Server) showTakeIn(w http.ResponseWriter, r *http.Request, req *request, p Page) error {
	if !req.actor.May("take in a head") {
		return shop.ErrForbidden
	}
	models, err := library.Models(r.Context(), s.shop)
	if err != nil {
		return err
	}
	customers, err := intake.Customers(r.Context(), s.shop)
	if err != nil {
		return err
	}
	p.Title, p.Place, p.Data = "Take in a head", "floor", takeInData{intake.IntakeKinds, models, customers, intake.Regulations, ticks(p.Val("story"), p.Values["symptom"])}
	return s.show(w, req, "takein", p)
}

func (s *Server) takeInPage(w http.ResponseWriter, r *http.Request, req *request) error {
	return s.showTakeIn(w, r, req, Page{})
}

// takeInFile takes a head in from a head file.
func (s *Server) takeInFile(w http.ResponseWriter, r *http.Request, req *request) error {
	g := r.PostForm.Get
	form := intake.ImportForm{WriteID: g("write_id"), Customer: g("customer"), Machine: g("machine")}
	if f, _, err := r.FormFile("file"); err == nil {
		form.File, err = io.ReadAll(io.LimitReader(f, maxHeadFile+1))
		_ = f.Close()
		if err != nil {
			return err
		}
	}
	got, err := intake.Import(r.Context(), s.shop, req.actor, form)
	if len(form.File) == 0 || len(form.File) > maxHeadFile {
		err = field.Errors{"file": fmt.Sprintf("choose a head file of up to %d MB", maxHeadFile>>20)}
	}
	if errs, err := wrong(err); errs != nil {
		for from, to := range map[string]string{"customer": "file_customer", "machine": "file_machine"} {
			if errs[from] != "" {
				errs[to] = errs[from]
				delete(errs, from)
			}
		}
		return s.showTakeIn(w, r, req, Page{Values: url.Values{"file_customer": {form.Customer}, "file_machine": {form.Machine}}, Errors: errs})
	} else if err != nil {
		return err
	}
	return redirect(w, r, "/heads/"+got.Tag)
}

func (s *Server) takeIn(w http.ResponseWriter, r *http.Request, req *request) error {
	g := r.PostForm.Get
	tag, err := intake.TakeIn(r.Context(), s.shop, req.actor, intake.IntakeForm{
		WriteID: g("write_id"), Customer: g("customer"), Contact: g("contact"), Machine: g("machine"), Hours: g("hours"), Model: g("model"),
		Regulated: g("regulated"), With: g("with"), Bank: g("bank"), Marks: g("marks"), Kind: g("kind"), Story: g("story"), Symptoms: r.PostForm["symptom"], CameWith: g("came_with"), Promise: g("promise"),
	})
	if errs, err := wrong(err); errs != nil {
		return s.showTakeIn(w, r, req, Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return redirect(w, r, "/heads/"+tag)
}
