package web

import (
	"net/http"
	"strconv"

	"github.com/go-chi/chi/v5"

	"yatai/shop"
	"yatai/shop/following"
	"yatai/shop/headfile"
	"yatai/shop/intake"
	"yatai/shop/lead"
	"yatai/web/paper"
)

type followData struct {
	Due      []following.Due
	Calendar string
}

func (s *Server) showFollow(w http.ResponseWriter, r *http.Request, req *request, p Page) error {
	due, err := following.FollowUps(r.Context(), s.shop)
	if err != nil {
		return err
	}
	d := followData{Due: due}
	if req.actor.May("quote") {
		if d.Calendar, err = following.CalendarKey(r.Context(), s.shop, req.actor); err != nil {
			return err
		}
	}
	p.Title, p.Place, p.Data = "Follow-up", "floor", d
	return s.show(w, req, "follow", p)
}

func (s *Server) followPage(w http.ResponseWriter, r *http.Request, req *request) error {
	return s.showFollow(w, r, req, Page{})
}

// follow marks a reminder as done, or adds one.
func (s *Server) follow(w http.ResponseWriter, r *http.Request, req *request) error {
	g := r.PostForm.Get
	var err error
	if id, bad := strconv.ParseUint(g("done"), 10, 32); bad == nil {
		err = following.Reminded(r.Context(), s.shop, req.actor, g("write_id"), uint(id))
	} else {
		err = following.Remind(r.Context(), s.shop, req.actor, g("write_id"), g("tag"), g("day"), g("what"))
	}
	if errs, err := wrong(err); errs != nil {
		return s.showFollow(w, r, req, Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return redirect(w, r, "/follow-up")
}

// calendar is the shop's dates as iCalendar, behind an address nobody can guess.
func (s *Server) calendar(w http.ResponseWriter, r *http.Request, _ *request) error {
	text, err := following.Calendar(r.Context(), s.shop, chi.URLParam(r, "key"))
	if err != nil {
		return err
	}
	return sendFile(w, "text/calendar; charset=utf-8", "yatai.ics", []byte(text))
}

// earlierPage compares a comeback with its earlier visit.
func (s *Server) earlierPage(w http.ResponseWriter, r *http.Request, req *request) error {
	return s.showEarlier(w, r, req, Page{})
}

type earlierData struct {
	Then *headfile.File
	Wear []following.Wear
}

func (s *Server) showEarlier(w http.ResponseWriter, r *http.Request, req *request, p Page) error {
	f, err := s.openHead(r)
	if err != nil {
		return err
	}
	then, wear, err := following.Earlier(r.Context(), s.shop, f)
	if err != nil {
		return err
	}
	return s.showHead(w, req, f, "earlier", earlierData{then, wear}, p)
}

// linkEarlier links a head to its earlier visit.
func (s *Server) linkEarlier(w http.ResponseWriter, r *http.Request, req *request) error {
	tag := chi.URLParam(r, "tag")
	err := intake.LinkEarlier(r.Context(), s.shop, req.actor, r.PostForm.Get("write_id"), tag, r.PostForm.Get("earlier"))
	if errs, err := wrong(err); errs != nil {
		return s.showEarlier(w, r, req, Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return redirect(w, r, "/heads/"+tag+"/earlier")
}

// fileOf writes a head's files: the report as PDF, its readings as CSV, JSON and spreadsheet,
// its labels as a PDF sheet.
func (s *Server) fileOf(w http.ResponseWriter, r *http.Request, req *request) error {
	f, err := s.openHead(r)
	if err != nil {
		return err
	}
	set, err := s.shop.Settings(r.Context(), f.Tag)
	if err != nil {
		return err
	}
	files := map[string]struct {
		kind  string
		write func() ([]byte, error)
	}{
		"report.pdf": {"application/pdf", func() ([]byte, error) {
			causes, err := s.confirmed(r, f)
			if err != nil {
				return nil, err
			}
			return paper.Report(f, causes, set.Get("shop_name"), req.actor.Unit)
		}},
		"readings.csv":  {"text/csv; charset=utf-8", func() ([]byte, error) { return paper.CSV(f) }},
		"readings.json": {"application/json", func() ([]byte, error) { return paper.JSON(f) }},
		"readings.xlsx": {"application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", func() ([]byte, error) { return paper.XLSX(f) }},
		"labels.pdf":    {"application/pdf", func() ([]byte, error) { return paper.LabelSheet(paper.Labels(f, set.Get("public"))) }},
	}
	name := chi.URLParam(r, "file")
	if i, ok := map[string]int{"label-head.svg": 0, "label-tray.svg": 1, "label-bin.svg": 2}[name]; ok {
		b, err := paper.Labels(f, set.Get("public"))[i].SVG()
		if err != nil {
			return err
		}
		return sendFile(w, "image/svg+xml", f.Tag+"-"+name, b)
	}
	file, ok := files[name]
	if !ok {
		return shop.ErrNotFound
	}
	b, err := file.write()
	if err != nil {
		return err
	}
	return sendFile(w, file.kind, f.Tag+"-"+name, b)
}

// confirmed lists the causes somebody has confirmed.
func (s *Server) confirmed(r *http.Request, f *headfile.File) ([]lead.CauseRow, error) {
	causes, err := lead.Causes(r.Context(), s.shop, f)
	var out []lead.CauseRow
	for _, c := range causes {
		if c.Call.State == "confirmed" {
			out = append(out, c)
		}
	}
	return out, err
}
