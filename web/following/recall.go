package following

import (
	"net/http"
	"net/url"
	"strings"

	"yatai/core/trade"
	"yatai/shop/following"
	"yatai/shop/work"
	"yatai/web/page"
)

// recallData is the page that tells what something has touched.
type recallData struct {
	following.Suspects
	Suspicion following.Suspicion
	Recall    *following.Recall // nil until something was chosen
	ToCall    []string          // tags of heads whose customer has no address for mail
}

// Retests are the tests that can be put on routes once more.
func (recallData) Retests() []*trade.Operation { return work.TestsAgain }

// Chosen is the value of what is looked up, as the page's choice has it: "tool 3".
func (d recallData) Chosen() string { return d.Suspicion.By + " " + d.Suspicion.What }

// suspicion reads what is looked up: what=tool+3, from and to.
func suspicion(q url.Values) following.Suspicion {
	by, what, _ := strings.Cut(q.Get("what"), " ")
	return following.Suspicion{By: by, What: what, From: q.Get("from"), To: q.Get("to")}
}

// RecallPage answers GET /recall: what else did this touch?
func RecallPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return showRecall(s, w, r, req, page.Page{Values: r.Form}, nil)
}

func showRecall(
	s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, p page.Page, tocall []string,
) error {
	if err := req.Actor.Must("see the history"); err != nil {
		return err
	}
	all, err := following.AllSuspects(r.Context(), s.Shop)
	if err != nil {
		return err
	}
	d := recallData{Suspects: all, Suspicion: suspicion(r.Form), ToCall: tocall}
	if r.Form.Get("what") != "" {
		found, err := following.Touched(r.Context(), s.Shop, req.Actor, d.Suspicion)
		errs, err := page.Wrong(err)
		if err != nil {
			return err
		}
		if len(errs) == 0 {
			d.Recall = &found
		} else if p.Errors == nil {
			p.Errors = errs
		}
	}
	p.Title, p.Place, p.Data = "What else did this touch?", "reference", d
	return s.Show(w, req, "recall", p)
}

// Recall sets reminders and writes letters for the heads that were ticked.
func Recall(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	g := r.PostForm.Get
	tocall, err := following.Call(r.Context(), s.Shop, req.Actor, following.RecallForm{
		Suspicion: suspicion(r.PostForm), WriteID: g("write_id"), Tags: r.PostForm["tag"], Day: g("day"),
		What: g("what_to_do"), Letter: g("letter"), Retest: g("retest"),
	})
	errs, err := page.Wrong(err)
	if err != nil {
		return err
	}
	if len(errs) > 0 {
		return showRecall(s, w, r, req, page.Page{Values: r.PostForm, Errors: errs}, nil)
	}
	if len(tocall) > 0 { // said at once: they hear of it in no other way
		return showRecall(s, w, r, req, page.Page{Values: url.Values{"what": {g("what")}}}, tocall)
	}
	back := url.Values{"what": {g("what")}, "from": {g("from")}, "to": {g("to")}, "done": {"yes"}}
	return page.Redirect(w, r, "/recall?"+back.Encode())
}
