package following

import (
	"net/http"
	"strconv"
	"time"

	"yatai/shop/quality"
	"yatai/web/page"
)

// qualityData is a year between its neighbours.
type qualityData struct {
	quality.Year
	Before, This, After int
}

// QualityPage answers GET /quality: what a year's mistakes have cost; this year's where none is asked for.
func QualityPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	at := s.Shop.Now().Local()
	if n, err := strconv.Atoi(r.Form.Get("year")); err == nil && n >= 1900 && n < 3000 {
		at = time.Date(n, 1, 1, 0, 0, 0, 0, time.Local)
	}
	y, err := quality.YearOf(r.Context(), s.Shop, req.Actor, at)
	if err != nil {
		return err
	}
	n := y.Begins.Year()
	return s.Show(w, req, "quality", page.Page{
		Title: "What quality costs", Place: "floor", Data: qualityData{y, n - 1, n, n + 1},
	})
}
