// Package customers is the pages of the shop's customers and their machines.
package customers

import (
	"fmt"
	"net/http"
	"strconv"

	"github.com/go-chi/chi/v5"

	"yatai/shop"
	"yatai/shop/customers"
	"yatai/web/page"
)

// List answers GET /customers.
func List(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	rows, err := customers.List(r.Context(), s.Shop, r.Form.Get("q"))
	if err != nil {
		return err
	}
	return s.Show(w, req, "customers", page.Page{
		Title: "Customers", Place: "customers", Values: r.Form, Data: page.Paged(r, rows),
	})
}

func idIn(r *http.Request, name string) (uint, error) {
	id, err := strconv.ParseUint(chi.URLParam(r, name), 10, 32)
	if err != nil {
		return 0, shop.ErrNotFound
	}
	return uint(id), nil
}

func show(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, p page.Page) error {
	id, err := idIn(r, "id")
	if err != nil {
		return err
	}
	c, err := customers.Open(r.Context(), s.Shop, id)
	if err != nil {
		return err
	}
	if err := customers.Looked(r.Context(), s.Shop, req.Actor, id); err != nil {
		return err
	}
	p.Title, p.Place, p.Data = c.Name, "customers", c
	return s.Show(w, req, "onecustomer", p)
}

// One answers GET /customers/{id}.
func One(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return show(s, w, r, req, page.Page{})
}

// on does something about the customer of the address and goes on to the page of the one that
// is returned.
func on(
	s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request,
	do func(id uint) (uint, error),
) error {
	id, err := idIn(r, "id")
	if err != nil {
		return err
	}
	to, err := do(id)
	if errs, err := page.Wrong(err); errs != nil {
		return show(s, w, r, req, page.Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/customers/"+strconv.Itoa(int(to)))
}

// Change answers POST /customers/{id}.
func Change(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	g := r.PostForm.Get
	return on(s, w, r, req, func(id uint) (uint, error) {
		return id, customers.Change(r.Context(), s.Shop, req.Actor, id, customers.Form{
			WriteID:   g("write_id"),
			Name:      g("name"),
			Contact:   g("contact"),
			Address:   g("address"),
			Telephone: g("telephone"),
			Email:     g("email"),
			Note:      g("note"),
			Discount:  g("discount"),
			Taxed:     g("taxed"),
			NoTax:     g("no_tax"),
			TaxNo:     g("tax_no"),
			Country:   g("country"),
			Prices:    g("prices"),
			Weight:    g("weight"),
			Language:  g("language"),
		})
	})
}

// Tell answers POST /customers/{id}/data with what is kept of a customer, as a file for them.
func Tell(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	id, err := idIn(r, "id")
	if err != nil {
		return err
	}
	file, err := customers.Tell(r.Context(), s.Shop, req.Actor, r.PostForm.Get("write_id"), id)
	if err != nil {
		return err
	}
	w.Header().Set("Content-Type", "application/json")
	w.Header().Set("Content-Disposition", fmt.Sprintf(`attachment; filename="customer-%d.json"`, id))
	_, err = w.Write(file)
	return err
}

// Erase answers POST /customers/{id}/erase.
func Erase(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	g := r.PostForm.Get
	return on(s, w, r, req, func(id uint) (uint, error) {
		return id, customers.Erase(r.Context(), s.Shop, req.Actor, id, customers.EraseForm{
			WriteID: g("write_id"), Name: g("erase_name"), Why: g("erase_why"),
		})
	})
}

// OneMachine answers GET /customers/{id}/machines/{machine}.
func OneMachine(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	id, err := idIn(r, "id")
	if err != nil {
		return err
	}
	machine, err := idIn(r, "machine")
	if err != nil {
		return err
	}
	m, err := customers.OpenMachine(r.Context(), s.Shop, id, machine)
	if err != nil {
		return err
	}
	return s.Show(w, req, "machine", page.Page{Title: m.Name, Place: "customers", Data: m})
}

// Machine answers POST /customers/{id}/machines/{machine}.
func Machine(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	machine, err := idIn(r, "machine")
	if err != nil {
		return err
	}
	return on(s, w, r, req, func(id uint) (uint, error) {
		return id, customers.RenameMachine(r.Context(), s.Shop, req.Actor, r.PostForm.Get("write_id"), id, machine,
			r.PostForm.Get("machine"))
	})
}

// Merge answers POST /customers/{id}/merge.
func Merge(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return on(s, w, r, req, func(id uint) (uint, error) {
		to, err := customers.Merge(r.Context(), s.Shop, req.Actor, r.PostForm.Get("write_id"), id,
			r.PostForm.Get("into"))
		if to == 0 && err == nil { // sent twice: it is done
			return 0, shop.ErrNotFound
		}
		return to, err
	})
}
