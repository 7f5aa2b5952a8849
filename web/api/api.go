// Package api is the doors for programs: calculations, questions about head files, and values
// from a digital gauge.
package api

import (
	"context"
	"encoding/json"
	"errors"
	"io"
	"net/http"
	"strings"
	"time"

	"github.com/go-chi/chi/v5"

	"yatai/core/answer"
	"yatai/core/calc"
	"yatai/core/field"
	"yatai/shop/intake"
	"yatai/web/headpage"
	"yatai/web/page"
)

// The doors are for whoever is signed in or shows the owner's token; a few questions are worked on
// at a time, each for so long at most.
const (
	maxWork = 10 * time.Second
	maxWait = 5 * time.Second
	AtATime = 2
)

// Routes are the doors for programs: every calculation, every question about a head file, and
// what a digital gauge sends.
func Routes(s *page.Site) func(chi.Router) {
	return func(r chi.Router) {
		r.Post("/gauge", func(w http.ResponseWriter, r *http.Request) { gauge(s, w, r) })
		r.Group(func(r chi.Router) {
			r.Use(s.Session, machines(s))
			r.Get("/calc", list)
			r.With(queued(s)).Post("/calc/{name}", calculate)
			r.With(queued(s)).Post("/head/{question}", ask)
		})
	}
}

// refuse answers a program with what was wrong.
func refuse(w http.ResponseWriter, status int, err error) {
	w.Header().Set("Content-Type", "application/json")
	w.WriteHeader(status)
	_, _ = w.Write(field.JSON(err))
}

// machines lets through who may ask for calculations.
func machines(s *page.Site) func(http.Handler) http.Handler {
	return func(next http.Handler) http.Handler {
		return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
			token, _ := strings.CutPrefix(r.Header.Get("Authorization"), "Bearer ")
			if _, ok := s.Who(r.Context()); !ok && !intake.MayAsk(r.Context(), s.Shop, token) {
				refuse(w, http.StatusUnauthorized, field.Errorf("",
					"sign in, or send the owner's token: Authorization: Bearer TOKEN"))
				return
			}
			next.ServeHTTP(w, r)
		})
	}
}

// queued works on a few requests at a time and gives each its time.
func queued(s *page.Site) func(http.Handler) http.Handler {
	return func(next http.Handler) http.Handler {
		return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
			wait := time.NewTimer(maxWait)
			defer wait.Stop()
			select {
			case s.Working <- struct{}{}:
				defer func() { <-s.Working }()
			case <-wait.C:
				w.Header().Set("Retry-After", "5")
				refuse(w, http.StatusServiceUnavailable,
					field.Errorf("", "busy with other questions: ask again in a moment"))
				return
			case <-r.Context().Done():
				return
			}
			ctx, stop := context.WithTimeout(r.Context(), maxWork)
			defer stop()
			next.ServeHTTP(w, r.WithContext(ctx))
		})
	}
}

// list describes every calculation to a machine.
func list(w http.ResponseWriter, _ *http.Request) {
	var out []calc.Description
	for _, c := range calc.All() {
		out = append(out, c.Describe())
	}
	w.Header().Set("Content-Type", "application/json")
	_ = json.NewEncoder(w).Encode(out) // whoever asked is gone
}

// calculate answers a calculation: 200 with the result, 422 with {"error":{field,message}}.
func calculate(w http.ResponseWriter, r *http.Request) {
	body, err := io.ReadAll(r.Body)
	var said []byte
	if err == nil {
		var res calc.Result
		if res, err = calc.Run(chi.URLParam(r, "name"), body); err == nil {
			said, err = res.JSON()
		}
	}
	answered(w, said, err)
}

// ask answers a question about a head file: 200 with the answer, 422 with
// {"error":{field,message}}.
func ask(w http.ResponseWriter, r *http.Request) {
	file, err := io.ReadAll(r.Body)
	var said []byte
	if err == nil {
		said, err = answer.Run(r.Context(), chi.URLParam(r, "question"), file)
	}
	answered(w, said, err)
}

// answered writes an answer for a program, or why there is none.
func answered(w http.ResponseWriter, said []byte, err error) {
	var tooLarge *http.MaxBytesError
	switch {
	case err == nil:
		w.Header().Set("Content-Type", "application/json")
		_, _ = w.Write(said)
	case errors.As(err, &tooLarge):
		refuse(w, http.StatusRequestEntityTooLarge, err)
	case errors.Is(err, context.DeadlineExceeded):
		refuse(w, http.StatusServiceUnavailable, field.Errorf("", "it would take too long: ask for less at a time"))
	default:
		refuse(w, http.StatusUnprocessableEntity, err)
	}
}

// HeadFile is a head as an open file.
func HeadFile(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	f, err := headpage.OpenHead(s, r)
	if err != nil {
		return err
	}
	text, err := intake.HeadFile(f).JSON()
	if err != nil {
		return err
	}
	w.Header().Set("Content-Type", "application/json")
	w.Header().Set("Content-Disposition", `attachment; filename="`+f.Tag+`.json"`)
	_, _ = w.Write(text)
	return nil
}
