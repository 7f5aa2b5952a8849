package web

import (
	"encoding/json"
	"errors"
	"io"
	"net/http"

	"github.com/go-chi/chi/v5"

	"yatai/core/calc"
	"yatai/core/field"
)

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
	w.Header().Set("Content-Type", "application/json")
	body, err := io.ReadAll(r.Body)
	var answer []byte
	if err == nil {
		var res calc.Result
		if res, err = calc.Run(chi.URLParam(r, "name"), body); err == nil {
			answer, err = res.JSON()
		}
	}
	if err != nil {
		status := http.StatusUnprocessableEntity
		var tooLarge *http.MaxBytesError
		if errors.As(err, &tooLarge) {
			status = http.StatusRequestEntityTooLarge
		}
		w.WriteHeader(status)
		answer = field.JSON(err)
	}
	_, _ = w.Write(answer)
}
