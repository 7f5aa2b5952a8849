package headpage

import (
	"net/http"
	"path"

	"github.com/go-chi/chi/v5"

	"yatai/shop"
	"yatai/shop/billing"
	"yatai/shop/headfile"
	"yatai/shop/intake"
	"yatai/web/page"
	"yatai/web/paper"
)

// SendBill answers with one of a head's bills, by the number in the address: on paper, or as an electronic
// invoice.
func SendBill(s *page.Site, w http.ResponseWriter, r *http.Request, f *headfile.File) error {
	acc, err := billing.AccountOf(r.Context(), s.Shop, f, nil)
	if err != nil {
		return err
	}
	set, err := s.Shop.Settings(r.Context(), "")
	if err != nil {
		return err
	}
	b, credits, ok := acc.Numbered(chi.URLParam(r, "number"))
	if !ok {
		return shop.ErrNotFound
	}
	var file []byte
	kind, how := "application/pdf", "inline"
	if path.Ext(r.URL.Path) == ".xml" {
		kind, how = "application/xml; charset=utf-8", "attachment"
		file, err = acc.Invoice(f, b, credits, set).XML()
	} else {
		var logo shop.Logo
		if logo, err = intake.Logo(r.Context(), s.Shop); err == nil {
			file, err = paper.Bill(f, acc, billing.Read(f, b, set), credits, set, logo)
		}
	}
	if err != nil {
		return err
	}
	w.Header().Set("Content-Type", kind)
	w.Header().Set("Content-Disposition", how+`; filename="bill-`+path.Base(r.URL.Path)+`"`)
	_, err = w.Write(file)
	return err
}
