package library

import (
	"net/http"
	"strconv"
	"strings"

	"yatai/core/trade"
	"yatai/shop/headfile"
	"yatai/shop/library"
	"yatai/web/page"
)

// tighteningRow is how fasteners of one kind are pulled down, as its form on the model's page shows it.
type tighteningRow struct {
	*trade.Fastener
	library.TighteningRow
}

// Tightening are the rows of the form of how the model's fasteners are pulled down.
func (d modelData) Tightening() (out []tighteningRow) {
	kind := headfile.KindOf(d.HeadModel)
	for _, of := range trade.Fasteners {
		if !of.Exists(kind) {
			continue
		}
		row := tighteningRow{Fastener: of}
		for _, t := range headfile.TighteningOf(d.HeadModel) {
			if t.Of != of.Code {
				continue
			}
			row.TighteningRow = library.TighteningRow{
				Steps: strings.Join(t.Steps, "; "), How: t.How, Order: strings.Join(t.Order, " "), Source: t.Source,
			}
			if t.Count > 0 {
				row.Count = strconv.Itoa(t.Count)
			}
			if t.New {
				row.New = "yes"
			}
		}
		out = append(out, row)
	}
	return out
}

// Hows are how a thread can be when it is pulled down.
func (d modelData) Hows() []string { return trade.TightenedHow }

// SetTightening answers POST /reference/models/{id}/tightening.
func SetTightening(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return onModel(s, w, r, req, func(m library.Model) error {
		form := library.TighteningForm{
			WriteID: r.PostForm.Get("write_id"), Rows: map[string]library.TighteningRow{},
		}
		for _, of := range trade.Fasteners {
			g := func(name string) string { return r.PostForm.Get(name + "/" + of.Code) }
			form.Rows[of.Code] = library.TighteningRow{
				Count: g("count"), Steps: g("steps"), How: g("how"), New: g("new"), Order: g("order"),
				Source: g("source"),
			}
		}
		return library.SetTightening(r.Context(), s.Shop, req.Actor, m.ID, form)
	})
}
