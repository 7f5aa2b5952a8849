package work

import (
	"net/http"
	"strconv"

	"github.com/go-chi/chi/v5"

	"yatai/core/trade"
	"yatai/shop/bench"
	"yatai/shop/headfile"
	"yatai/shop/work"
	"yatai/web/headpage"
	"yatai/web/page"
)

// CheckStep answers GET /heads/{tag}/check.
func CheckStep(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return headpage.Step(s, w, r, req, "check", func(f *headfile.File) (any, error) { return f.Gate(), nil })
}

// Sign answers POST /heads/{tag}/check/sign.
func Sign(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	tag, g := chi.URLParam(r, "tag"), r.PostForm.Get
	feature := g("feature")
	if err := work.SignDeviation(r.Context(), s.Shop, req.Actor, g("write_id"), tag, feature,
		g("reason/"+feature)); err != nil {
		return headpage.Back(s, w, r, req, "check", err,
			func(f *headfile.File) (any, error) { return f.Gate(), nil })
	}
	return page.Redirect(w, r, "/heads/"+tag+"/check")
}

// Release answers POST /heads/{tag}/check/release.
func Release(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	tag, g := chi.URLParam(r, "tag"), r.PostForm.Get
	tool, _ := strconv.ParseUint(g("tool"), 10, 32)
	if err := bench.Release(r.Context(), s.Shop, req.Actor, g("write_id"), tag, uint(tool),
		g("reason/tool/"+g("tool"))); err != nil {
		return headpage.Back(s, w, r, req, "check", err,
			func(f *headfile.File) (any, error) { return f.Gate(), nil })
	}
	return page.Redirect(w, r, "/heads/"+tag+"/check")
}

// Close answers POST /heads/{tag}/check/close.
func Close(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	tag, g := chi.URLParam(r, "tag"), r.PostForm.Get
	form := work.CloseForm{
		WriteID: g("write_id"), Refit: g("refit"), Releaser: g("releaser"), Licence: g("licence"),
		Record: map[string]string{},
	}
	for _, x := range trade.FinalCheck.Record.Fields {
		if v := g("rec//" + x.Name); v != "" {
			form.Record[x.Name] = v
		}
	}
	if err := work.CloseHead(r.Context(), s.Shop, req.Actor, tag, form); err != nil {
		return headpage.Back(s, w, r, req, "check", err,
			func(f *headfile.File) (any, error) { return f.Gate(), nil })
	}
	if to := g("handed_to"); to != "" { // it goes at once; what stops that is said where it is handed over
		if err := work.HandOver(r.Context(), s.Shop, req.Actor, g("write_id")+"-out", tag, to); err != nil {
			return headpage.Back(s, w, r, req, "handover", err, ends)
		}
	}
	return page.Redirect(w, r, "/heads/"+tag+"/handover")
}

// HandoverStep answers GET /heads/{tag}/handover.
func HandoverStep(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return headpage.Step(s, w, r, req, "handover", ends)
}

// ends are the ways a head may end without its work, for the page's form.
func ends(*headfile.File) (any, error) { return work.Ends, nil }

// EndHead answers POST /heads/{tag}/handover/end.
func EndHead(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	tag, g := chi.URLParam(r, "tag"), r.PostForm.Get
	form := work.EndForm{
		WriteID: g("write_id"), Kind: g("kind"), State: g("state"), Owed: g("owed"), Why: g("why"),
	}
	if err := work.EndHead(r.Context(), s.Shop, req.Actor, tag, form); err != nil {
		return headpage.Back(s, w, r, req, "handover", err, ends)
	}
	return page.Redirect(w, r, "/heads/"+tag+"/handover")
}

// Handover answers POST /heads/{tag}/handover.
func Handover(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	tag, g := chi.URLParam(r, "tag"), r.PostForm.Get
	if err := work.HandOver(r.Context(), s.Shop, req.Actor, g("write_id"), tag, g("handed_to")); err != nil {
		return headpage.Back(s, w, r, req, "handover", err, ends)
	}
	return page.Redirect(w, r, "/heads/"+tag+"/handover")
}
