// Package work is the pages of the shop's work: route, work sheets, final check, handing over.
package work

import (
	"html/template"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"github.com/go-chi/chi/v5"

	"yatai/core/engine"
	"yatai/core/judge"
	"yatai/core/trade"
	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/bench"
	"yatai/shop/headfile"
	"yatai/shop/work"
	"yatai/web/draw"
	"yatai/web/headpage"
	"yatai/web/page"
)

// workData is the work order with what the lead may add to it.
type workData struct {
	Rows  []headpage.OpRow
	Kinds []*trade.Operation
	Found []foundRow // what the work has shown and nobody has decided
}

// foundRow is a finding with what may be done about it.
type foundRow struct {
	judge.Feature
	Offers []judge.Offer
}

func workPage(s *page.Site, r *http.Request, req *page.Request, f *headfile.File) (any, error) {
	rows, err := headpage.WorkRows(s, r, req, f)
	d := workData{Rows: rows, Kinds: slices.DeleteFunc(trade.Operations(),
		func(o *trade.Operation) bool { return !o.Exists(headfile.KindOf(f.Model)) })}
	for _, own := range f.Subject.Sheet.Repairs {
		d.Kinds = append(d.Kinds, own.Does)
	}
	for _, x := range work.Found(f) {
		d.Found = append(d.Found, foundRow{x, f.Now.Offers(x)})
	}
	return d, err
}

// WorkStep answers GET /heads/{tag}/work.
func WorkStep(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return headpage.Step(s, w, r, req, "work",
		func(f *headfile.File) (any, error) { return workPage(s, r, req, f) })
}

// Operate starts, finishes, leaves out or moves an operation.
func Operate(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	tag, g := chi.URLParam(r, "tag"), r.PostForm.Get
	seq, err := strconv.Atoi(chi.URLParam(r, "seq"))
	if err != nil {
		return shop.ErrNotFound
	}
	ctx, a, id := r.Context(), req.Actor, g("write_id")
	verbs := map[string]func() error{
		"start":  func() error { return work.Start(ctx, s.Shop, a, id, tag, seq, g("other")) },
		"finish": func() error { return work.Finish(ctx, s.Shop, a, id, tag, seq, g("reason"), g("from")) },
		"skip":   func() error { return work.Skip(ctx, s.Shop, a, id, tag, seq, g("reason")) },
		"up":     func() error { return work.MoveUp(ctx, s.Shop, a, id, tag, seq) },
		"resume": func() error { return work.Resume(ctx, s.Shop, a, id, tag, seq, g("reason")) },
		"rework": func() error {
			return work.Rework(ctx, s.Shop, a, id, tag, g("finding"), g("choice"), g("reason"))
		},
		"with":  func() error { return work.WithSetUp(ctx, s.Shop, a, id, tag, seq, g("with")) },
		"join":  func() error { return work.Join(ctx, s.Shop, a, id, tag, seq, g("other")) },
		"pause": func() error { return work.Pause(ctx, s.Shop, a, id, tag, seq) },
		"add": func() error {
			return work.AddOperation(ctx, s.Shop, a, id, tag, g("code"), g("positions"), g("reason"))
		},
	}
	verb, ok := verbs[chi.URLParam(r, "verb")]
	if !ok {
		return shop.ErrNotFound
	}
	to := "/heads/" + tag + "/work"
	sheet := g("sheet") != ""
	if err := verb(); err != nil {
		if sheet {
			return backToSheet(s, w, r, req, err)
		}
		return headpage.Back(s, w, r, req, "work", err,
			func(f *headfile.File) (any, error) { return workPage(s, r, req, f) })
	}
	if g("next") != "" {
		return startNext(s, w, r, req)
	}
	if sheet && chi.URLParam(r, "verb") != "finish" {
		to += "/" + strconv.Itoa(seq)
	}
	return page.Redirect(w, r, to)
}

// startNext starts the operation that comes next on the route where it may start, and shows its sheet where
// it has something to write down.
func startNext(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	f, err := headpage.ReadHead(s, r, req)
	if err != nil {
		return err
	}
	to := "/heads/" + f.Tag + "/work"
	for _, o := range f.Operations {
		if o.State != "waiting" || f.Waits(o) != nil {
			continue
		}
		err := work.Start(r.Context(), s.Shop, req.Actor, r.PostForm.Get("write_id")+"-next", f.Tag, o.Seq,
			work.Pauses)
		if errs, err := page.Wrong(err); err != nil {
			return err
		} else if k := trade.OperationNamed(o.Code); errs == nil && k != nil &&
			(k.Proof != nil || k.Record != nil) {
			to += "/" + strconv.Itoa(o.Seq)
		}
		break // what may not start yet says why on the work order
	}
	return page.Redirect(w, r, to)
}

// sheetData is a work sheet with the drawing its operation has.
type sheetData struct {
	work.Sheet
	Fails   bool // its record is written and fails
	By      string
	Drawing template.HTML
}

func showSheet(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, p page.Page) error {
	seq, err := strconv.Atoi(chi.URLParam(r, "seq"))
	if err != nil {
		return shop.ErrNotFound
	}
	f, err := headpage.ReadHead(s, r, req)
	if err != nil {
		return err
	}
	sh, err := work.SheetOf(r.Context(), s.Shop, f, seq)
	if err != nil {
		return err
	}
	d := sheetData{Sheet: sh, Fails: len(f.Failed(sh.Operation)) > 0}
	if sh.Operation.Code == "assemble" || sh.Operation.Code == "final_check" {
		d.Drawing = tightening(f, sh.Bolts, words.In(req.Actor.Language))
	}
	return headpage.ShowHead(s, w, req, f, "sheet", d, p)
}

// tightening draws the order of the head's bolts, from the middle outwards.
func tightening(f *headfile.File, bolts *trade.Tightening, in *words.Language) template.HTML {
	pattern := engine.TightenInput{}
	for _, b := range f.Layout.Bolts {
		pattern.Bolts = append(pattern.Bolts, engine.Bolt{ID: b.Name, X: b.X, Y: b.Y})
	}
	out, err := engine.Tighten(pattern)
	if err != nil {
		return ""
	}
	if bolts == nil || len(bolts.Order) == 0 {
		return draw.Calc("tighten", in.Say("order of the bolts, from the middle outwards"), pattern, out)
	}
	out.Order = bolts.Order
	return draw.Calc("tighten", in.Say("order of the bolts, by the maker's book"), pattern, out)
}

// SheetPage answers GET /heads/{tag}/work/{seq}.
func SheetPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return showSheet(s, w, r, req, page.Page{})
}

func backToSheet(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, err error) error {
	errs, err := page.Wrong(err)
	if errs == nil {
		return err
	}
	return showSheet(s, w, r, req, page.Page{Values: r.PostForm, Errors: errs})
}

// Prove records the proof readings of a work sheet and finishes the operation when they are
// inside.
func Prove(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	tag, g := chi.URLParam(r, "tag"), r.PostForm.Get
	seq, err := strconv.Atoi(chi.URLParam(r, "seq"))
	if err != nil {
		return shop.ErrNotFound
	}
	tool, _ := strconv.ParseUint(g("tool"), 10, 32)
	typed := map[string]string{}
	for name, v := range r.PostForm {
		if at, ok := strings.CutPrefix(name, "proof."); ok {
			typed[at] = v[0]
		}
	}
	held, err := work.Prove(r.Context(), s.Shop, req.Actor, g("write_id"), tag, seq, uint(tool), typed,
		g("unit"), g("finish") != "")
	if err != nil {
		return backToSheet(s, w, r, req, err)
	}
	f, err := headpage.ReadHead(s, r, req)
	if err != nil {
		return err
	}
	o, err := f.Operation(seq)
	switch {
	case err != nil:
		return err
	case held || o.State != "done": // it is not finished: its parts are asked for
		return page.Redirect(w, r, "/heads/"+tag+"/work/"+strconv.Itoa(seq))
	case g("finish") == "next":
		return startNext(s, w, r, req)
	}
	return page.Redirect(w, r, "/heads/"+tag+"/work")
}

// Record writes an operation's record: of the positions where anything was typed.
func Record(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	tag := chi.URLParam(r, "tag")
	seq, err := strconv.Atoi(chi.URLParam(r, "seq"))
	if err != nil {
		return shop.ErrNotFound
	}
	rows := map[string]map[string]string{}
	said := map[string]bool{}
	for name, v := range r.PostForm {
		rest, ok := strings.CutPrefix(name, "rec/")
		if !ok {
			continue
		}
		at, field, _ := strings.Cut(rest, "/")
		if rows[at] == nil {
			rows[at] = map[string]string{}
		}
		rows[at][field] = v[len(v)-1]
		said[at] = said[at] || v[len(v)-1] != "" && field != "baseline"
	}
	for at := range rows {
		if base := r.PostForm.Get("baseline"); base != "" {
			rows[at]["baseline"] = base
		}
		if !said[at] && at != "" {
			delete(rows, at)
		}
	}
	id := r.PostForm.Get("write_id")
	if err := bench.RecordWork(r.Context(), s.Shop, req.Actor, id, tag, seq, rows); err != nil {
		return backToSheet(s, w, r, req, err)
	}
	if next := r.PostForm.Get("finish"); next != "" {
		return finishRecorded(s, w, r, req, seq, next == "next")
	}
	return page.Redirect(w, r, "/heads/"+tag+"/work/"+strconv.Itoa(seq))
}

// finishRecorded finishes an operation whose record was just written down: one that failed says so on its
// sheet first.
func finishRecorded(
	s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, seq int, next bool,
) error {
	f, err := headpage.ReadHead(s, r, req)
	if err != nil {
		return err
	}
	o, err := f.Operation(seq)
	if err != nil {
		return err
	}
	sheet := "/heads/" + f.Tag + "/work/" + strconv.Itoa(seq)
	if len(f.Failed(o)) > 0 {
		return page.Redirect(w, r, sheet)
	}
	id := r.PostForm.Get("write_id") + "-finish"
	if err := work.Finish(r.Context(), s.Shop, req.Actor, id, f.Tag, seq, "",
		r.PostForm.Get("from")); err != nil {
		return backToSheet(s, w, r, req, err)
	}
	if next {
		return startNext(s, w, r, req)
	}
	return page.Redirect(w, r, "/heads/"+f.Tag+"/work")
}

// Says is what a record comes to.
func (d sheetData) Says(at string) words.Text {
	for i := len(d.Records) - 1; i >= 0; i-- {
		if d.Records[i].Position == at {
			return headfile.RecordSays(d.Records[i])
		}
	}
	return words.Text{}
}

// Positions are where the record is written: each of the operation's, or once.
func (d sheetData) Positions() []string {
	if d.Form.Each {
		return d.Operation.At()
	}
	return []string{""}
}

// Proven heads the column of what is read as proof.
func (d sheetData) Proven() words.Text {
	c, _ := trade.ByCode(d.Proof.Code)
	return words.Of("%s reads", words.Mid(c.Label))
}
