package web

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
	"yatai/shop/people"
)

// The doors for programs: calculations, and questions about head files. They are for whoever
// is signed in or shows the owner's token; a few questions are worked on at a time, each for
// so long at most.
const (
	maxHeadFile = 4 << 20
	maxWork     = 10 * time.Second
	maxWait     = 5 * time.Second
	atATime     = 2
)

// refuse answers a program with what was wrong.
func refuse(w http.ResponseWriter, status int, err error) {
	w.Header().Set("Content-Type", "application/json")
	w.WriteHeader(status)
	_, _ = w.Write(field.JSON(err))
}

// machines lets through who may ask for calculations.
func (s *Server) machines(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		token, _ := strings.CutPrefix(r.Header.Get("Authorization"), "Bearer ")
		id, _ := s.sessions.Get(r.Context(), sessionUser).(int)
		_, err := people.Person(r.Context(), s.shop, uint(max(0, id)))
		if (id == 0 || err != nil) && !intake.MayAsk(r.Context(), s.shop, token) {
			refuse(w, http.StatusUnauthorized, field.Errorf("", "sign in, or send the owner's token: Authorization: Bearer TOKEN"))
			return
		}
		next.ServeHTTP(w, r)
	})
}

// queued works on a few requests at a time and gives each its time.
func (s *Server) queued(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		wait := time.NewTimer(maxWait)
		defer wait.Stop()
		select {
		case s.working <- struct{}{}:
			defer func() { <-s.working }()
		case <-wait.C:
			w.Header().Set("Retry-After", "5")
			refuse(w, http.StatusServiceUnavailable, field.Errorf("", "busy with other questions: ask again in a moment"))
			return
		case <-r.Context().Done():
			return
		}
		ctx, stop := context.WithTimeout(r.Context(), maxWork)
		defer stop()
		next.ServeHTTP(w, r.WithContext(ctx))
	})
}

// apiList describes every calculation to a machine.
func (s *Server) apiList(w http.ResponseWriter, _ *http.Request) {
	var out []calc.Description
	for _, c := range calc.All() {
		out = append(out, c.Describe())
	}
	w.Header().Set("Content-Type", "application/json")
	if err := json.NewEncoder(w).Encode(out); err != nil {
		s.log.Error("api", "error", err)
	}
}

// apiCalc answers a calculation: 200 with the result, 422 with {"error":{field,message}}.
func (s *Server) apiCalc(w http.ResponseWriter, r *http.Request) {
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

// apiHead answers a question about a head file: 200 with the answer, 422 with
// {"error":{field,message}}.
func (s *Server) apiHead(w http.ResponseWriter, r *http.Request) {
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

// headFile is a head as an open file.
func (s *Server) headFile(w http.ResponseWriter, r *http.Request, req *request) error {
	f, err := s.openHead(r)
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
