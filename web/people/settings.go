package people

import (
	"errors"
	"io"
	"net/http"
	"os"
	"path/filepath"
	"strconv"
	"time"

	"yatai/core/field"
	"yatai/shop"
	"yatai/shop/intake"
	"yatai/shop/people"
	"yatai/web/page"
)

// settingRow is a setting on its page.
type settingRow struct {
	shop.SettingDef
	Value string
	Seen  string // what it was when the page was made; of a secret nothing
	Usual bool   // nobody has said so, it is as usual
}

// settingSection is a part of the page.
type settingSection struct {
	Name string
	Rows []settingRow
}

// ID names the section on its page.
func (s settingSection) ID() string { return page.Anchor(s.Name) }

// Usual is how many of its settings nobody has said.
func (s settingSection) Usual() (n int) {
	for _, r := range s.Rows {
		if r.Usual {
			n++
		}
	}
	return n
}

type settingsData struct {
	Sections  []settingSection
	Mistakes  []page.Mistake
	BackedUp  time.Time
	BackupDue bool
	Logo      bool // there is one
}

func showSettings(
	s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, p page.Page,
) error {
	set, err := s.Shop.Settings(r.Context(), "")
	if err != nil {
		return err
	}
	var d settingsData
	for _, section := range shop.SettingSections {
		is := settingSection{Name: section.Name}
		for _, def := range section.Settings {
			is.Rows = append(is.Rows, rowOf(def, set, p))
			if says := p.Err(def.Name); says != "" {
				d.Mistakes = append(d.Mistakes, page.Mistake{Field: def.Name, Label: def.Label, Says: says})
			}
		}
		d.Sections = append(d.Sections, is)
	}
	d.BackedUp, d.BackupDue = people.LastBackup(set, s.Shop.Now())
	logo, err := intake.Logo(r.Context(), s.Shop)
	if err != nil {
		return err
	}
	d.Logo = len(logo.JPEG) > 0
	p.Title, p.Place, p.Data = "Settings", "people", d
	return s.Show(w, req, "settings", p)
}

// rowOf is a setting as it stands, or as it was typed.
func rowOf(d shop.SettingDef, set shop.Settings, p page.Page) settingRow {
	row := settingRow{SettingDef: d}
	if d.Kind != shop.Secret {
		row.Value, row.Seen = set.Get(d.Name), set.Get(d.Name)
		row.Usual = !set.Said(d.Name) && d.Default != ""
	}
	if v, typed := p.Values[d.Name]; typed && v[0] != p.Val("seen/"+d.Name) {
		row.Value = v[0]
	}
	return row
}

// SettingsPage answers GET /settings.
func SettingsPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return showSettings(s, w, r, req, page.Page{})
}

// SetSettings answers POST /settings.
func SetSettings(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	values, seen := map[string]string{}, map[string]string{}
	for _, d := range shop.SettingDefs {
		if v, ok := r.PostForm[d.Name]; ok {
			values[d.Name] = v[0]
		}
		if v, ok := r.PostForm["seen/"+d.Name]; ok {
			seen[d.Name] = v[0]
		}
	}
	if errs, err := page.Wrong(s.Shop.SetSettings(r.Context(), req.Actor, r.PostForm.Get("write_id"), values,
		seen, r.PostForm["confirm"]...)); errs != nil {
		return showSettings(s, w, r, req, page.Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/settings")
}

// Backup sends a copy of the whole shop as it is at this moment.
func Backup(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) (err error) {
	dir, err := os.MkdirTemp("", "yatai-backup")
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, os.RemoveAll(dir)) }()
	path := filepath.Join(dir, "backup.db")
	if err := people.Backup(r.Context(), s.Shop, req.Actor, path); err != nil {
		return err
	}
	f, err := os.Open(path)
	if err != nil {
		return err
	}
	defer func() { _ = f.Close() }()
	w.Header().Set("Content-Type", "application/vnd.sqlite3")
	if info, err := f.Stat(); err == nil {
		w.Header().Set("Content-Length", strconv.FormatInt(info.Size(), 10)) // cut off, it is seen to be
	}
	w.Header().Set(
		"Content-Disposition",
		`attachment; filename="yatai-`+s.Shop.Now().Local().Format("2006-01-02-1504")+`.db"`,
	)
	if _, err = io.Copy(w, f); err == nil {
		err = http.NewResponseController(w).Flush() // to its last byte
	}
	if err != nil { // the answer is under way: it is cut off, and counts as none
		s.Log.Error("backup", "error", err)
		panic(http.ErrAbortHandler)
	}
	return people.BackedUp(r.Context(), s.Shop, req.Actor)
}

// SetLogo answers POST /settings/logo: the picture on the shop's papers is another, or none.
func SetLogo(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	var raw []byte
	if r.FormValue("remove") == "" {
		file, _, err := r.FormFile("logo")
		if errors.Is(err, http.ErrMissingFile) || errors.Is(err, http.ErrNotMultipart) {
			return showSettings(s, w, r, req, page.Page{Errors: field.Only("logo", "choose a picture")})
		} else if err != nil {
			return err
		}
		defer func() { _ = file.Close() }()
		if raw, err = io.ReadAll(io.LimitReader(file, intake.MaxPhoto+1)); err != nil {
			return err
		}
		if len(raw) == 0 || len(raw) > intake.MaxPhoto {
			return showSettings(s, w, r, req, page.Page{Errors: field.Only("logo", "a picture of up to %d MB", intake.MaxPhoto>>20)})
		}
	}
	err := intake.SetLogo(r.Context(), s.Shop, req.Actor, r.FormValue("write_id"), raw)
	if errs, err := page.Wrong(err); errs != nil {
		return showSettings(s, w, r, req, page.Page{Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/settings#logo")
}

// Logo answers GET /settings/logo.jpg: the picture on the shop's papers.
func Logo(s *page.Site, w http.ResponseWriter, r *http.Request, _ *page.Request) error {
	l, err := intake.Logo(r.Context(), s.Shop)
	if err != nil {
		return err
	}
	if len(l.JPEG) == 0 {
		return shop.ErrNotFound
	}
	return page.SendFile(w, "image/jpeg", "logo.jpg", l.JPEG)
}
