package headpage

import (
	"net/http"

	"github.com/go-chi/chi/v5"

	"yatai/shop/billing"
	"yatai/shop/headfile"
	"yatai/web/page"
	"yatai/web/paper"
)

// SendBill answers with one of a head's bills on paper, by the number in the address.
func SendBill(s *page.Site, w http.ResponseWriter, r *http.Request, f *headfile.File) error {
	acc, err := billing.AccountOf(r.Context(), s.Shop, f)
	if err != nil {
		return err
	}
	set, err := s.Shop.Settings(r.Context(), "")
	if err != nil {
		return err
	}
	number := chi.URLParam(r, "number")
	file, err := paper.BillNumbered(f, acc.Bills, number, set)
	if err != nil {
		return err
	}
	w.Header().Set("Content-Type", "application/pdf")
	w.Header().Set("Content-Disposition", `inline; filename="bill-`+number+`.pdf"`)
	_, err = w.Write(file)
	return err
}
