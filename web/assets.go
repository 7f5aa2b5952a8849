package web

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"io/fs"
	"net/http"
	"path"
	"strings"
	"time"
)

// compressible are the kinds of answers that get smaller.
var compressible = []string{
	"text/html", "text/css", "text/javascript", "text/csv", "text/calendar", "application/json",
	"image/svg+xml",
}

// assets are the static files. Each is served under a name with a hash of what is in it, which
// browsers may keep for ever; under its own name it may be kept for an hour.
type assets struct {
	content map[string][]byte // by own name
	hashed  map[string]string // own name by the name with its hash
	paths   map[string]string // address by own name
}

// newAssets reads the static files in files.
func newAssets(files fs.FS) (*assets, error) {
	a := &assets{content: map[string][]byte{}, hashed: map[string]string{}, paths: map[string]string{}}
	err := fs.WalkDir(files, "static", func(name string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() {
			return err
		}
		b, err := fs.ReadFile(files, name)
		if err != nil {
			return err
		}
		own := strings.TrimPrefix(name, "static/")
		sum := sha256.Sum256(b)
		ext := path.Ext(own)
		with := strings.TrimSuffix(own, ext) + "." + hex.EncodeToString(sum[:6]) + ext
		a.content[own], a.hashed[with], a.paths[own] = b, own, "/static/"+with
		return nil
	})
	return a, err
}

// path returns the address of a static file; templates name files that are there.
func (a *assets) path(name string) string { return a.paths[name] }

func (a *assets) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	name := strings.TrimPrefix(r.URL.Path, "/static/")
	keep := "public, max-age=3600"
	if own, ok := a.hashed[name]; ok {
		name, keep = own, "public, max-age=31536000, immutable"
	}
	b, ok := a.content[name]
	if !ok {
		http.NotFound(w, r)
		return
	}
	w.Header().Set("Cache-Control", keep)
	http.ServeContent(w, r, name, time.Time{}, bytes.NewReader(b))
}
