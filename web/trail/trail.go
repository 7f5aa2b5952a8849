// Package trail is the page of the audit trail: who changed what, when, and from where.
package trail

import (
	"net/http"
	"net/url"
	"strconv"
	"strings"

	"yatai/shop"
	"yatai/shop/trail"
	"yatai/web/page"
)

// data is what the page shows.
type data struct {
	trail.Page
	Older string // where the older lines are; "" on the last page
}

// pages are where the things that have a history are to be seen.
var pages = map[string]string{
	shop.OfCustomer: "/customers/", shop.OfPerson: "/people/", shop.OfTool: "/reference/tools/",
	shop.OfModel: "/reference/models/",
	shop.OfPart:  "/parts?item=", shop.OfSettings: "/settings", shop.OfWeek: "/week/stations",
}

// Where is the page of what a line is about; "" where there is none.
func (data) Where(about string) string {
	kind, id, _ := strings.Cut(about, "/")
	if pages[kind] == "" {
		return ""
	}
	return pages[kind] + id
}

// Page answers GET /history.
func Page(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	g := r.Form.Get
	before, _ := strconv.ParseUint(g("before"), 10, 63)
	p := page.Page{Title: "History", Place: "people", Values: r.Form}
	found, err := trail.List(r.Context(), s.Shop, req.Actor, trail.Ask{
		Text: g("q"), About: g("about"), From: g("from"), To: g("to"), Before: uint(before),
	})
	errs, err := page.Wrong(err)
	if err != nil {
		return err
	}
	d := data{Page: found}
	if found.Older > 0 {
		q := url.Values{}
		for _, k := range []string{"q", "about", "from", "to"} {
			if v := g(k); v != "" {
				q.Set(k, v)
			}
		}
		q.Set("before", strconv.FormatUint(uint64(found.Older), 10))
		d.Older = "/history?" + q.Encode()
	}
	p.Errors, p.Data = errs, d
	return s.Show(w, req, "history", p)
}
