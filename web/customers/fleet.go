package customers

import (
	"errors"
	"net/http"
	"path"
	"strconv"
	"strings"
	"time"

	"github.com/go-chi/chi/v5"

	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/fleet"
	"yatai/shop/intake"
	"yatai/web/page"
	"yatai/web/paper"
)

// fleetData is a customer's machines as they are shown.
type fleetData struct {
	fleet.Fleet
	Shop  string
	Link  string // the address a customer opens, just made; empty else
	Files string // address of the PDF and the table, without their ending
}

// Fleet answers GET /customers/{id}/fleet, and .pdf and .csv: their machines.
func Fleet(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return showFleet(s, w, r, req, "")
}

func showFleet(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, link string) error {
	id, err := idIn(r, "id")
	if err != nil {
		return err
	}
	f, err := fleet.Of(r.Context(), s.Shop, id)
	if err != nil {
		return err
	}
	if ext := path.Ext(r.URL.Path); ext != "" {
		return sendFleet(s, w, r, f, ext, words.English)
	}
	d := fleetData{f, "", link, "/customers/" + strconv.Itoa(int(id)) + "/fleet"}
	return s.Show(w, req, "fleet", page.Page{Title: f.Customer.Name, Place: "customers", Data: d})
}

// FleetVerb answers POST /customers/{id}/fleet/{verb}: "link" makes the customer's link, "end" ends it.
func FleetVerb(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	id, err := idIn(r, "id")
	if err != nil {
		return err
	}
	ctx, writeID := r.Context(), r.PostForm.Get("write_id")
	switch chi.URLParam(r, "verb") {
	case "link":
		token, err := fleet.Link(ctx, s.Shop, req.Actor, writeID, id)
		if err != nil {
			return err
		}
		set, err := s.Shop.Settings(ctx, "")
		if err != nil {
			return err
		}
		return showFleet(s, w, r, req, s.Public(r, set.Get("public"))+"/f/"+token)
	case "end":
		if err := fleet.EndLink(ctx, s.Shop, req.Actor, writeID, id); err != nil {
			return err
		}
		return page.Redirect(w, r, "/customers/"+strconv.Itoa(int(id))+"/fleet")
	}
	return shop.ErrNotFound
}

// FleetByLink answers GET /f/{token}, and its PDF and table: a customer's own machines, in their language.
func FleetByLink(s *page.Site, w http.ResponseWriter, r *http.Request, _ *page.Request) error {
	token := chi.URLParam(r, "token")
	set, err := s.Shop.Settings(r.Context(), "")
	if err != nil {
		return err
	}
	f, err := fleet.ByLink(r.Context(), s.Shop, token)
	if errors.Is(err, shop.ErrNotFound) {
		s.LinkEnded(w, set, "", words.English)
		return nil
	}
	if err != nil {
		return err
	}
	in := words.In(f.Customer.Language)
	if ext := path.Ext(r.URL.Path); ext != "" {
		return sendFleet(s, w, r, f, ext, in)
	}
	p := page.Page{Title: in.Say("Your machines"), Language: in, Data: fleetData{
		f, set.Get("shop_name"), "", "/f/" + token + "/fleet",
	}}
	s.Write(w, &page.Request{}, http.StatusOK, "customerfleet", "customer", p)
	return nil
}

// sendFleet answers with a customer's machines as a file.
func sendFleet(
	s *page.Site, w http.ResponseWriter, r *http.Request, f fleet.Fleet, ext string, in *words.Language,
) error {
	set, err := s.Shop.Settings(r.Context(), "")
	if err != nil {
		return err
	}
	if ext == ".csv" {
		file, err := shop.CSV(set, fleetTable(f, in))
		if err != nil {
			return err
		}
		return page.SendFile(w, "text/csv; charset=utf-8", "machines.csv", file)
	}
	logo, err := intake.Logo(r.Context(), s.Shop)
	if err != nil {
		return err
	}
	file, err := paper.Fleet(f, paper.HouseOf(set, logo), in)
	if err != nil {
		return err
	}
	return page.SendFile(w, "application/pdf", "machines.pdf", file)
}

// fleetTable is a row for each visit, by machine.
func fleetTable(f fleet.Fleet, in *words.Language) [][]string {
	rows := [][]string{{
		in.Say("Machine"), in.Say("Tag"), in.Say("Head"), in.Say("Marks"), in.Say("Came"), in.Say("Left"),
		in.Say("Why"), in.Say("Cause"), in.Say("Hours"), in.Say("Approved, with tax"), in.Say("Currency"),
	}}
	for _, m := range f.Machines {
		for _, v := range m.Visits {
			left, causes := "", []string{}
			for _, c := range v.Causes {
				causes = append(causes, in.Say(c))
			}
			if v.HandedOverAt != nil {
				left = v.HandedOverAt.Local().Format(time.DateOnly)
			}
			rows = append(rows, shop.Plain([]string{
				m.Name, v.Tag, v.Model.Name, v.Marks, v.CreatedAt.Local().Format(time.DateOnly), left,
				in.Say(intake.KindLabel(v.Job.Kind)), strings.Join(causes, "; "), v.Job.Hours, shop.Cash(v.Cents), f.Currency,
			}, -1))
		}
	}
	return rows
}
