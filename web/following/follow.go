// Package following is the pages of the shop's follow-up: reminders, earlier visits, calendars and
// files of a head.
package following

import (
	"net/http"
	"strconv"

	"github.com/go-chi/chi/v5"

	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/following"
	"yatai/shop/intake"
	"yatai/web/headpage"
	"yatai/web/page"
	"yatai/web/paper"
)

type followData struct {
	Due      []following.Due
	Calendar string
}

func showFollow(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, p page.Page) error {
	due, err := following.FollowUps(r.Context(), s.Shop)
	if err != nil {
		return err
	}
	d := followData{Due: due}
	if req.Actor.May("quote") {
		if d.Calendar, err = following.CalendarKey(r.Context(), s.Shop, req.Actor); err != nil {
			return err
		}
	}
	p.Title, p.Place, p.Data = "Follow-up", "floor", d
	return s.Show(w, req, "follow", p)
}

// FollowPage answers GET /follow-up.
func FollowPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return showFollow(s, w, r, req, page.Page{})
}

// Follow marks a reminder as done, or adds one.
func Follow(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	g := r.PostForm.Get
	var err error
	if id, bad := strconv.ParseUint(g("done"), 10, 32); bad == nil {
		err = following.Reminded(r.Context(), s.Shop, req.Actor, g("write_id"), uint(id))
	} else {
		err = following.Remind(r.Context(), s.Shop, req.Actor, g("write_id"), g("tag"), g("day"), g("what"))
	}
	if errs, err := page.Wrong(err); errs != nil {
		return showFollow(s, w, r, req, page.Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/follow-up")
}

// Calendar is the shop's dates as iCalendar, behind an address nobody can guess.
func Calendar(s *page.Site, w http.ResponseWriter, r *http.Request, _ *page.Request) error {
	text, err := following.Calendar(r.Context(), s.Shop, chi.URLParam(r, "key"))
	if err != nil {
		return err
	}
	return page.SendFile(w, "text/calendar; charset=utf-8", "yatai.ics", []byte(text))
}

// LinkEarlier links a head to its earlier visit.
func LinkEarlier(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	tag := chi.URLParam(r, "tag")
	err := intake.LinkEarlier(r.Context(), s.Shop, req.Actor, r.PostForm.Get("write_id"), tag,
		r.PostForm.Get("earlier"))
	if errs, err := page.Wrong(err); errs != nil {
		return showEarlier(s, w, r, req, page.Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/heads/"+tag+"/earlier")
}

// FileOf writes a head's files: the report as PDF, its readings as CSV, JSON and spreadsheet,
// its labels as a PDF sheet.
func FileOf(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	f, err := headpage.OpenHead(s, r)
	if err != nil {
		return err
	}
	set, err := s.Shop.Settings(r.Context(), f.Tag)
	if err != nil {
		return err
	}
	reader := paper.Reader{Words: words.In(req.Actor.Language), Unit: req.Actor.Unit}
	files := map[string]struct {
		kind  string
		write func() ([]byte, error)
	}{
		"report.pdf": {"application/pdf", func() ([]byte, error) {
			causes, err := headpage.Confirmed(s, r, f)
			if err != nil {
				return nil, err
			}
			logo, err := intake.Logo(r.Context(), s.Shop)
			if err != nil {
				return nil, err
			}
			return paper.Report(f, causes, paper.HouseOf(set, logo), req.Actor.Unit)
		}},
		"readings.csv":  {"text/csv; charset=utf-8", func() ([]byte, error) { return paper.CSV(f, set, reader) }},
		"readings.json": {"application/json", func() ([]byte, error) { return paper.JSON(f) }},
		"readings.xlsx": {
			"application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
			func() ([]byte, error) { return paper.XLSX(f, reader) },
		},
		"labels.pdf": {"application/pdf", func() ([]byte, error) {
			return paper.LabelSheet(paper.Labels(f, s.Public(r, set.Get("public"))), paper.HouseOf(set, shop.Logo{}))
		}},
	}
	name := chi.URLParam(r, "file")
	if i, ok := map[string]int{"label-head.svg": 0, "label-tray.svg": 1, "label-bin.svg": 2}[name]; ok {
		b, err := paper.Labels(f, s.Public(r, set.Get("public")))[i].SVG()
		if err != nil {
			return err
		}
		return page.SendFile(w, "image/svg+xml", f.Tag+"-"+name, b)
	}
	file, ok := files[name]
	if !ok {
		return shop.ErrNotFound
	}
	b, err := file.write()
	if err != nil {
		return err
	}
	return page.SendFile(w, file.kind, f.Tag+"-"+name, b)
}
