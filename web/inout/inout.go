// Package inout is the pages through which tables come in and the whole shop goes out.
package inout

import (
	"archive/zip"
	"bytes"
	"crypto/rand"
	"errors"
	"io"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"sync"
	"time"

	"github.com/go-chi/chi/v5"

	"yatai/core/field"
	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/inout"
	"yatai/shop/library"
	"yatai/shop/table"
	"yatai/web/page"
)

// data is what the page shows: the kinds of tables that somebody may take in, the models whose limits one
// can be of, and what was taken in before.
type data struct {
	Kinds   []inout.Kind
	Models  []shop.HeadModel
	Imports []shop.Import
}

// waiting are files that were looked at and may be taken next, by a token, for a while.
type waiting struct {
	mu    sync.Mutex
	files map[string]upload
}

type upload struct {
	form    inout.Form // without its file
	content []byte
	person  uint
	at      time.Time
}

// opened is its form with the file to be read again.
func (u upload) opened() inout.Form {
	u.form.File = bytes.NewReader(u.content)
	return u.form
}

// kept is how long a file that was looked at waits to be taken, and how many do at most.
const (
	keptFor  = 20 * time.Minute
	keptMost = 8
)

var files = waiting{files: map[string]upload{}}

func (w *waiting) keep(u upload) string {
	w.mu.Lock()
	defer w.mu.Unlock()
	oldest := ""
	for t, x := range w.files {
		if u.at.Sub(x.at) > keptFor {
			delete(w.files, t)
		} else if oldest == "" || x.at.Before(w.files[oldest].at) {
			oldest = t
		}
	}
	if len(w.files) >= keptMost {
		delete(w.files, oldest)
	}
	token := rand.Text()
	w.files[token] = u
	return token
}

func (w *waiting) get(token string, person uint) (upload, bool) {
	w.mu.Lock()
	defer w.mu.Unlock()
	u, ok := w.files[token]
	return u, ok && u.person == person
}

func show(
	s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, p page.Page,
) error {
	var d data
	for _, k := range inout.Kinds {
		if req.Actor.May(k.Right) {
			d.Kinds = append(d.Kinds, k)
		}
	}
	if d.Kinds == nil {
		return shop.ErrForbidden
	}
	var err error
	if d.Imports, err = inout.Imports(r.Context(), s.Shop); err != nil {
		return err
	}
	if d.Models, err = library.Models(r.Context(), s.Shop); err != nil {
		return err
	}
	p.Title, p.Place, p.Data = "In and out", "reference", d
	return s.Show(w, req, "inout", p)
}

// Page answers GET /in-out.
func Page(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return show(s, w, r, req, page.Page{Values: r.Form})
}

// review is a table that is looked at, before it is taken.
type review struct {
	inout.Fate
	Columned inout.Kind
	Token    string      // of the file
	Rows     []inout.Row // the first of them, what is refused before what changes
	More     int         // how many more there are
}

// shownRows is how many rows of a table are shown.
const shownRows = 200

// Look answers POST /in-out/look: what a table's columns are, and what would become of each row; a file that
// was looked at before is looked at again, with what is said of its columns.
func Look(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	u, err := looked(s, r, req)
	if err == nil {
		return showReview(s, w, r, req, u, nil)
	}
	errs, err := page.Wrong(err)
	if errs == nil {
		return err
	}
	return show(s, w, r, req, page.Page{Values: r.PostForm, Errors: errs})
}

// looked is the file that a form brings, by what was typed, or the one it names and what it says of it.
func looked(s *page.Site, r *http.Request, req *page.Request) (upload, error) {
	if token := r.FormValue("token"); token != "" {
		u, ok := files.get(token, req.Actor.ID)
		if !ok {
			return u, field.Only("file", "that file is not here any more: choose it again")
		}
		u.form.Said = said(r.PostForm)
		return u, nil
	}
	u := upload{person: req.Actor.ID, at: s.Shop.Now(), form: inout.Form{
		Kind: r.FormValue("kind"), Model: r.FormValue("model"), Source: r.FormValue("source"),
		Unit: r.FormValue("unit"), Name: "a table that was pasted", // until a file says otherwise
	}}
	file, head, err := r.FormFile("file")
	switch {
	case errors.Is(err, http.ErrMissingFile), errors.Is(err, http.ErrNotMultipart):
		if u.content = []byte(r.FormValue("pasted")); len(bytes.TrimSpace(u.content)) == 0 {
			return u, field.Only("file", "choose a CSV or XLSX file, or paste a table")
		}
		return u, nil
	case err != nil:
		return u, err
	}
	defer func() { _ = file.Close() }()
	u.form.Name = head.Filename
	u.content, err = io.ReadAll(io.LimitReader(file, table.MaxFile+1))
	return u, err
}

// said is what a form says of a file's columns and rows: "as.2", "order.2", "sign.3", "line.14".
func said(form url.Values) inout.Said {
	out := inout.Said{
		As: map[int]string{}, Orders: map[int]table.Order{}, Signs: map[int]string{}, Lines: map[int]string{},
	}
	for name := range form {
		what, number, _ := strings.Cut(name, ".")
		n, err := strconv.Atoi(number)
		text := form.Get(name)
		if err != nil || text == "" {
			continue
		}
		switch what {
		case "as":
			out.As[n] = text
		case "order":
			out.Orders[n] = table.Order(text)
		case "sign":
			out.Signs[n] = text
		case "line":
			out.Lines[n] = text
		}
	}
	return out
}

// showReview shows what would become of a table, with what is wrong with what was asked of it.
func showReview(
	s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, u upload, wrong field.Errors,
) error {
	fate, err := inout.Look(r.Context(), s.Shop, req.Actor, u.opened())
	errs, err := page.Wrong(err)
	switch {
	case err != nil:
		return err
	case errs != nil && fate.Columns == nil: // it is no table
		return show(s, w, r, req, page.Page{Values: r.PostForm, Errors: errs})
	case errs == nil:
		errs = wrong
	}
	d := review{Fate: fate, Token: r.FormValue("token"), Rows: slices.Clone(fate.Rows)}
	d.Columned, _ = inout.KindNamed(fate.Kind)
	slices.SortStableFunc(d.Rows, func(a, b inout.Row) int {
		return slices.Index(inout.Fates, a.Fate) - slices.Index(inout.Fates, b.Fate)
	})
	if d.More = len(d.Rows) - shownRows; d.More > 0 {
		d.Rows = d.Rows[:shownRows]
	}
	if d.Token == "" {
		d.Token = files.keep(u)
	}
	return s.Show(w, req, "tablein", page.Page{
		Title: fate.File, Place: "reference", Data: d, Values: r.PostForm, Errors: errs,
	})
}

// Take answers POST /in-out/take: the rows of the file that can be are written.
func Take(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	u, err := looked(s, r, req)
	if errs, err := page.Wrong(err); errs != nil {
		return show(s, w, r, req, page.Page{Errors: errs})
	} else if err != nil {
		return err
	}
	form := u.opened()
	form.WriteID = r.PostForm.Get("write_id")
	_, err = inout.Take(r.Context(), s.Shop, req.Actor, form)
	if errs, err := page.Wrong(err); errs != nil {
		return showReview(s, w, r, req, u, errs)
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/in-out?done=yes")
}

// LeftNow answers POST /in-out/left: the rows of a table that is looked at and would be refused, as a file.
func LeftNow(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	u, err := looked(s, r, req)
	if errs, err := page.Wrong(err); errs != nil {
		return show(s, w, r, req, page.Page{Errors: errs})
	} else if err != nil {
		return err
	}
	fate, err := inout.Look(r.Context(), s.Shop, req.Actor, u.opened())
	if errs, err := page.Wrong(err); errs != nil {
		return showReview(s, w, r, req, u, errs)
	} else if err != nil {
		return err
	}
	b, err := inout.LeftCSV(r.Context(), s.Shop, fate.Left)
	if err != nil {
		return err
	}
	return page.SendFile(w, "text/csv; charset=utf-8", leftName, b)
}

// leftName is what a file of rows to be mended is called.
const leftName = "to-be-mended.csv"

// Left answers GET /in-out/{id}/left.csv: the rows that were left when a table was taken in.
func Left(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	id, err := strconv.ParseUint(chi.URLParam(r, "id"), 10, 32)
	if err != nil {
		return shop.ErrNotFound
	}
	b, err := inout.Left(r.Context(), s.Shop, req.Actor, uint(id))
	if err != nil {
		return err
	}
	return page.SendFile(w, "text/csv; charset=utf-8", leftName, b)
}

// Template answers GET /in-out/templates/{kind}.xlsx: a spreadsheet with a kind's columns, to be filled in.
func Template(_ *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	k, ok := inout.KindNamed(chi.URLParam(r, "kind"))
	if !ok {
		return shop.ErrNotFound
	}
	b, err := k.Template(words.In(req.Actor.Language), req.Actor.Unit.Name)
	if err != nil {
		return err
	}
	return page.SendFile(w, "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet", k.Code+".xlsx", b)
}

// Undo answers POST /in-out/{id}/undo.
func Undo(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	id, err := strconv.ParseUint(chi.URLParam(r, "id"), 10, 32)
	if err != nil {
		return shop.ErrNotFound
	}
	err = inout.Undo(r.Context(), s.Shop, req.Actor, r.PostForm.Get("write_id"), uint(id))
	if errs, err := page.Wrong(err); errs != nil {
		return show(s, w, r, req, page.Page{Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/in-out?undone=yes")
}

// zipFile is a file of an archive; closing it is the next one's business.
type zipFile struct{ io.Writer }

// Close does nothing: the archive ends a file when the next begins.
func (zipFile) Close() error { return nil }

// Whole answers GET /in-out/shop.zip: the whole shop as open files, for its owner.
func Whole(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	if !req.Actor.May("take a backup") {
		return shop.ErrForbidden
	}
	w.Header().Set("Content-Type", "application/zip")
	w.Header().Set(
		"Content-Disposition",
		`attachment; filename="shop-`+s.Shop.Now().Local().Format(time.DateOnly)+`.zip"`,
	)
	z := zip.NewWriter(w)
	_, err := inout.Export(r.Context(), s.Shop, func(name string) (io.WriteCloser, error) {
		f, err := z.Create(name)
		return zipFile{f}, err
	})
	if err := errors.Join(err, z.Close()); err != nil { // the answer is under way: it is cut off, and no archive
		s.Log.Error("export", "error", err)
		panic(http.ErrAbortHandler)
	}
	return nil
}
