package web

import (
	"errors"
	"io"
	"net/http"
	"os"
	"path/filepath"
	"time"

	"github.com/go-chi/chi/v5"

	"yatai/shop"
	"yatai/shop/lead"
	"yatai/shop/people"
)

// schools keeps a head's own schools.
func (s *Server) schools(w http.ResponseWriter, r *http.Request, req *request) error {
	tag := chi.URLParam(r, "tag")
	values := map[string]string{}
	for _, d := range shop.SettingDefs {
		if v, ok := r.PostForm[d.Name]; ok && d.School {
			values[d.Name] = v[0]
		}
	}
	err := lead.SetSchools(r.Context(), s.shop, req.actor, r.PostForm.Get("write_id"), tag, values)
	if errs, err := wrong(err); errs != nil {
		return s.showSchools(w, r, req, Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return redirect(w, r, "/heads/"+tag+"/schools")
}

type schoolRow struct {
	shop.SettingDef
	Shop, Own string
}

func (s *Server) showSchools(w http.ResponseWriter, r *http.Request, req *request, p Page) error {
	f, err := s.openHead(r)
	if err != nil {
		return err
	}
	own, err := s.shop.Settings(r.Context(), f.Tag)
	if err != nil {
		return err
	}
	general, err := s.shop.Settings(r.Context(), "")
	if err != nil {
		return err
	}
	var rows []schoolRow
	for _, d := range shop.SettingDefs {
		if d.School {
			row := schoolRow{d, general.Get(d.Name), ""}
			if own.Overridden(d.Name) {
				row.Own = own.Get(d.Name)
			}
			rows = append(rows, row)
		}
	}
	return s.showHead(w, req, f, "schools", rows, p)
}

func (s *Server) schoolsPage(w http.ResponseWriter, r *http.Request, req *request) error {
	return s.showSchools(w, r, req, Page{})
}

// settingRow is a setting on its page.
type settingRow struct {
	shop.SettingDef
	Value string
}

type settingsData struct {
	Rows      []settingRow
	BackedUp  time.Time
	BackupDue bool
}

func (s *Server) showSettings(w http.ResponseWriter, r *http.Request, req *request, p Page) error {
	set, err := s.shop.Settings(r.Context(), "")
	if err != nil {
		return err
	}
	var rows []settingRow
	for _, d := range shop.SettingDefs {
		row := settingRow{d, set.Get(d.Name)}
		if d.Kind == shop.Secret {
			row.Value = ""
		}
		if v, typed := p.Values[d.Name]; typed {
			row.Value = v[0]
		}
		rows = append(rows, row)
	}
	d := settingsData{Rows: rows}
	d.BackedUp, d.BackupDue = people.LastBackup(set, s.shop.Now())
	p.Title, p.Place, p.Data = "Settings", "people", d
	return s.show(w, req, "settings", p)
}

func (s *Server) settingsPage(w http.ResponseWriter, r *http.Request, req *request) error {
	return s.showSettings(w, r, req, Page{})
}

func (s *Server) setSettings(w http.ResponseWriter, r *http.Request, req *request) error {
	values := map[string]string{}
	for _, d := range shop.SettingDefs {
		if v, ok := r.PostForm[d.Name]; ok {
			values[d.Name] = v[0]
		}
	}
	if errs, err := wrong(s.shop.SetSettings(r.Context(), req.actor, r.PostForm.Get("write_id"), values)); errs != nil {
		return s.showSettings(w, r, req, Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return redirect(w, r, "/settings")
}

// backup sends a copy of the whole shop as it is at this moment.
func (s *Server) backup(w http.ResponseWriter, r *http.Request, req *request) (err error) {
	dir, err := os.MkdirTemp("", "yatai-backup")
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, os.RemoveAll(dir)) }()
	path := filepath.Join(dir, "backup.db")
	if err := people.Backup(r.Context(), s.shop, req.actor, path); err != nil {
		return err
	}
	f, err := os.Open(path)
	if err != nil {
		return err
	}
	defer func() { _ = f.Close() }()
	w.Header().Set("Content-Type", "application/vnd.sqlite3")
	w.Header().Set("Content-Disposition", `attachment; filename="yatai-`+s.shop.Now().Local().Format("2006-01-02-1504")+`.db"`)
	_, err = io.Copy(w, f)
	return err
}
