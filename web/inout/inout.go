// Package inout is the pages through which tables come in and the whole shop goes out.
package inout

import (
	"archive/zip"
	"bytes"
	"crypto/rand"
	"errors"
	"io"
	"net/http"
	"strconv"
	"sync"
	"time"

	"github.com/go-chi/chi/v5"

	"yatai/core/field"
	"yatai/shop"
	"yatai/shop/inout"
	"yatai/shop/table"
	"yatai/web/page"
)

type data struct {
	Kinds   []inout.Kind
	Imports []shop.Import
	Fate    *inout.Fate
	Token   string // of the file that was looked at
}

// waiting are files that were looked at and may be taken next, by a token, for a while.
type waiting struct {
	mu    sync.Mutex
	files map[string]upload
}

type upload struct {
	kind, name string
	content    []byte
	person     uint
	at         time.Time
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
	s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, d data, p page.Page,
) error {
	if !req.Actor.May("take a table in") {
		return shop.ErrForbidden
	}
	var err error
	if d.Imports, err = inout.Imports(r.Context(), s.Shop); err != nil {
		return err
	}
	d.Kinds = inout.Kinds
	p.Title, p.Place, p.Data = "In and out", "reference", d
	return s.Show(w, req, "inout", p)
}

// Page answers GET /in-out.
func Page(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return show(s, w, r, req, data{}, page.Page{Values: r.Form})
}

// Look answers POST /in-out/look: what would become of each row.
func Look(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	file, head, err := r.FormFile("file")
	if errors.Is(err, http.ErrMissingFile) || errors.Is(err, http.ErrNotMultipart) {
		return show(s, w, r, req, data{}, page.Page{
			Values: r.PostForm, Errors: field.Only("file", "choose a CSV or XLSX file"),
		})
	} else if err != nil {
		return err
	}
	defer func() { _ = file.Close() }()
	content, err := io.ReadAll(io.LimitReader(file, table.MaxFile+1))
	if err != nil {
		return err
	}
	kind := r.FormValue("kind")
	fate, err := inout.Look(r.Context(), s.Shop, req.Actor, kind, head.Filename, bytes.NewReader(content))
	if errs, err := page.Wrong(err); errs != nil {
		return show(s, w, r, req, data{}, page.Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	token := files.keep(upload{kind, head.Filename, content, req.Actor.ID, s.Shop.Now()})
	return show(s, w, r, req, data{Fate: &fate, Token: token}, page.Page{Values: r.PostForm})
}

// Take answers POST /in-out/take: the file that was looked at is written.
func Take(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	u, ok := files.get(r.PostForm.Get("token"), req.Actor.ID)
	if !ok {
		return show(s, w, r, req, data{}, page.Page{
			Errors: field.Only("file", "that file is not here any more: choose it again"),
		})
	}
	fate, err := inout.Take(r.Context(), s.Shop, req.Actor, r.PostForm.Get("write_id"), u.kind, u.name,
		bytes.NewReader(u.content))
	if errs, err := page.Wrong(err); errs != nil {
		return show(s, w, r, req, data{Fate: &fate, Token: r.PostForm.Get("token")}, page.Page{Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/in-out?done=yes")
}

// Undo answers POST /in-out/{id}/undo.
func Undo(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	id, err := strconv.ParseUint(chi.URLParam(r, "id"), 10, 32)
	if err != nil {
		return shop.ErrNotFound
	}
	err = inout.Undo(r.Context(), s.Shop, req.Actor, r.PostForm.Get("write_id"), uint(id))
	if errs, err := page.Wrong(err); errs != nil {
		return show(s, w, r, req, data{}, page.Page{Errors: errs})
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
