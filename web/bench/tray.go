package bench

import (
	"fmt"
	"html/template"
	"net/http"
	"strings"

	"github.com/go-chi/chi/v5"

	"yatai/core/tray"
	"yatai/core/words"
	"yatai/shop/bench"
	"yatai/shop/headfile"
	"yatai/web/draw"
	"yatai/web/headpage"
	"yatai/web/page"
)

type trayRow struct {
	ID    string
	Role  string
	Cells []headfile.TrayCell
}

type trayData struct {
	Drawing template.HTML
	Parts   []string
	States  []headfile.PlaceState
	Rows    []trayRow
	With    []string // tags of the other heads of the order that are here
	Loose   int      // rows of the form for loose valves
	Guesses []tray.Guess
}

// mostLoose bounds the loose valves that are described at once.
const mostLoose = 48

// Index counts from 0 to n-1, for the rows of a form.
func (d trayData) Index() []int {
	out := make([]int, d.Loose)
	for i := range out {
		out[i] = i
	}
	return out
}

// Field names a field of a loose valve's row.
func (d trayData) Field(i int, name string) string { return fmt.Sprintf("loose/%d/%s", i, name) }

func showTray(
	s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, guesses []tray.Guess,
	p page.Page,
) error {
	f, err := headpage.ReadHead(s, r, req)
	if err != nil {
		return err
	}
	with, err := bench.CameWith(r.Context(), s.Shop, f)
	if err != nil {
		return err
	}
	d := trayData{
		Parts: headfile.TrayParts(f.Model.Drive), States: headfile.PlaceStates, With: with,
		Loose: min(mostLoose, len(f.Layout.Valves)*(1+len(with))), Guesses: guesses,
	}
	cells := map[string][]draw.TrayPart{}
	for _, v := range f.Layout.Valves {
		d.Rows = append(d.Rows, trayRow{v.ID, string(v.Role), f.Tray(v.ID)})
		for _, c := range f.Tray(v.ID) {
			cells[v.ID] = append(
				cells[v.ID], draw.TrayPart{Part: c.Part, State: c.State, Warn: c.Trust.Sentence != ""},
			)
		}
	}
	d.Drawing = draw.Tray(f.Layout, func(at string) []draw.TrayPart { return cells[at] }, "/heads/"+f.Tag+"/at/",
		words.In(req.Actor.Language))
	return headpage.ShowHead(s, w, req, f, "tray", d, p)
}

// TrayPage answers GET /heads/{tag}/tray.
func TrayPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return showTray(s, w, r, req, nil, page.Page{})
}

// PlaceParts writes what is known of parts: the ones whose state was changed.
func PlaceParts(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	tag := chi.URLParam(r, "tag")
	states := map[string]string{}
	for name, v := range r.PostForm {
		if key, ok := strings.CutPrefix(name, "state."); ok && v[0] != "" && v[0] != r.PostForm.Get("was."+key) {
			states[key] = v[0]
		}
	}
	err := bench.PlaceParts(r.Context(), s.Shop, req.Actor, r.PostForm.Get("write_id"), tag, states,
		r.PostForm.Get("evidence"))
	if errs, err := page.Wrong(err); errs != nil {
		return showTray(s, w, r, req, nil, page.Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/heads/"+tag+"/tray")
}

// SortParts infers the places of loose valves, of one head or of all that came with it; "take" writes them
// down as inferred.
func SortParts(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	f, err := headpage.ReadHead(s, r, req)
	if err != nil {
		return err
	}
	box, err := bench.BoxOf(r.Context(), s.Shop, f, r.PostForm.Get("set") == "yes")
	if err != nil {
		return err
	}
	var loose []bench.LooseForm
	for i := range mostLoose {
		g := func(name string) string {
			return strings.TrimSpace(r.PostForm.Get(fmt.Sprintf("loose/%d/%s", i, name)))
		}
		loose = append(loose, bench.LooseForm{Name: g("name"), Head: g("head"), Ring: g("ring"), State: g("state")})
	}
	guesses, err := box.Sort(loose)
	if err == nil && r.PostForm.Get("take") != "" {
		if err = box.Take(r.Context(), s.Shop, req.Actor, r.PostForm.Get("write_id"), guesses); err == nil {
			return page.Redirect(w, r, "/heads/"+f.Tag+"/tray")
		}
	}
	errs, err := page.Wrong(err)
	if err != nil {
		return err
	}
	return showTray(s, w, r, req, guesses, page.Page{Values: r.PostForm, Errors: errs})
}
