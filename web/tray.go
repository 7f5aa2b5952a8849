package web

import (
	"fmt"
	"html/template"
	"net/http"
	"strings"

	"github.com/go-chi/chi/v5"

	"yatai/core/tray"
	"yatai/shop/bench"
	"yatai/shop/headfile"
	"yatai/web/draw"
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
	Loose   int // rows of the form for loose valves
	Guesses []tray.Guess
}

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

func (s *Server) showTray(w http.ResponseWriter, r *http.Request, req *request, guesses []tray.Guess, p Page) error {
	f, err := s.openHead(r)
	if err != nil {
		return err
	}
	d := trayData{Parts: headfile.TrayParts(f.Model.Drive), States: headfile.PlaceStates, Loose: min(12, len(f.Layout.Valves)), Guesses: guesses}
	cells := map[string][]draw.TrayPart{}
	for _, v := range f.Layout.Valves {
		d.Rows = append(d.Rows, trayRow{v.ID, string(v.Role), f.Tray(v.ID)})
		for _, c := range f.Tray(v.ID) {
			cells[v.ID] = append(cells[v.ID], draw.TrayPart{Part: c.Part, State: c.State, Warn: c.Trust != ""})
		}
	}
	d.Drawing = draw.Tray(f.Layout, func(at string) []draw.TrayPart { return cells[at] }, "/heads/"+f.Tag+"/at/")
	return s.showHead(w, req, f, "tray", d, p)
}

func (s *Server) trayPage(w http.ResponseWriter, r *http.Request, req *request) error {
	return s.showTray(w, r, req, nil, Page{})
}

// placeParts writes what is known of parts: the ones whose state was changed.
func (s *Server) placeParts(w http.ResponseWriter, r *http.Request, req *request) error {
	tag := chi.URLParam(r, "tag")
	states := map[string]string{}
	for name, v := range r.PostForm {
		if key, ok := strings.CutPrefix(name, "state."); ok && v[0] != "" && v[0] != r.PostForm.Get("was."+key) {
			states[key] = v[0]
		}
	}
	err := bench.PlaceParts(r.Context(), s.shop, req.actor, r.PostForm.Get("write_id"), tag, states, r.PostForm.Get("evidence"))
	if errs, err := wrong(err); errs != nil {
		return s.showTray(w, r, req, nil, Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return redirect(w, r, "/heads/"+tag+"/tray")
}

// sortParts infers the places of loose valves; "take" writes them down as inferred.
func (s *Server) sortParts(w http.ResponseWriter, r *http.Request, req *request) error {
	f, err := s.openHead(r)
	if err != nil {
		return err
	}
	var loose []bench.LooseForm
	for i := range len(f.Layout.Valves) {
		g := func(name string) string {
			return strings.TrimSpace(r.PostForm.Get(fmt.Sprintf("loose/%d/%s", i, name)))
		}
		loose = append(loose, bench.LooseForm{Name: g("name"), Head: g("head"), Ring: g("ring"), State: g("state")})
	}
	guesses, err := bench.Sort(f, loose)
	if err == nil && r.PostForm.Get("take") != "" {
		for _, g := range guesses {
			if g.Place == "" {
				continue
			}
			why := "valve " + g.Name + ": " + strings.Join(g.Evidence, "; ")
			if !g.Sure {
				why += "; could be at " + strings.Join(g.Rivals, ", ") + " as well"
			}
			if err = bench.PlaceParts(r.Context(), s.shop, req.actor, r.PostForm.Get("write_id")+g.Place, f.Tag, map[string]string{g.Place + "/valve": "inferred"}, why); err != nil {
				break
			}
		}
		if err == nil {
			return redirect(w, r, "/heads/"+f.Tag+"/tray")
		}
	}
	errs, err := wrong(err)
	if err != nil {
		return err
	}
	return s.showTray(w, r, req, guesses, Page{Values: r.PostForm, Errors: errs})
}
