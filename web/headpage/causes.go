package headpage

import (
	"net/http"

	"yatai/shop/headfile"
	"yatai/shop/lead"
	"yatai/web/page"
)

// Confirmed lists the causes somebody has confirmed.
func Confirmed(s *page.Site, r *http.Request, f *headfile.File) ([]lead.CauseRow, error) {
	causes, err := lead.Causes(r.Context(), s.Shop, f)
	var out []lead.CauseRow
	for _, c := range causes {
		if c.Call.State == "confirmed" {
			out = append(out, c)
		}
	}
	return out, err
}
