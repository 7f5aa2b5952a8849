package week

import (
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"yatai/shop/people"
	"yatai/shop/week"
	"yatai/web/page"
)

type column struct {
	Station string
	Cards   []week.Card
}

type floorData struct {
	Columns []column
	People  []string
}

// Floor is the first screen: every head as a card at its station, or only those of a
// customer, a person at work on them, or what they wait for.
func Floor(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	cards, err := week.Floor(r.Context(), s.Shop)
	if err != nil {
		return err
	}
	people, err := people.People(r.Context(), s.Shop)
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
	return s.Show(w, req, "floor", page.Page{Title: "Floor", Place: "floor", Values: r.Form, Data: d})
}

// Search opens the head of a tag, or lists what it finds.
func Search(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	text := strings.TrimSpace(r.Form.Get("q"))
	if _, scanned, ok := strings.Cut(text, "/heads/"); ok { // a label's QR code holds the head's address
		text, _, _ = strings.Cut(scanned, "/")
	}
	tag := strings.ToUpper(strings.ReplaceAll(text, " ", ""))
	if id, err := strconv.ParseUint(strings.TrimPrefix(tag, "TL-"), 10, 32); err == nil && strings.HasPrefix(tag, "TL-") {
		return page.Redirect(w, r, "/reference/tools/"+strconv.Itoa(int(id)))
	}
	found, err := week.Search(r.Context(), s.Shop, text)
	if err == nil && len(found) == 0 {
		found, err = week.Search(r.Context(), s.Shop, tag)
	}
	if err != nil {
		return err
	}
	if len(found) == 1 || len(found) > 0 && found[0].Tag == tag {
		return page.Redirect(w, r, "/heads/"+url.PathEscape(found[0].Tag))
	}
	return s.Show(w, req, "search", page.Page{Title: "Search", Place: "floor", Values: r.Form, Data: found})
}
