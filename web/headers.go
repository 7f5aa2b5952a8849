package web

import (
	"log/slog"
	"net/http"
	"strings"
	"time"

	"yatai/web/intake"
	"yatai/web/page"

	"github.com/go-chi/chi/v5"
	"github.com/go-chi/chi/v5/middleware"
)

// headers sets what every answer carries.
func headers(s *page.Site) func(http.Handler) http.Handler {
	return func(next http.Handler) http.Handler {
		return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
			h := w.Header()
			h.Set(
				"Content-Security-Policy",
				"default-src 'none'; script-src 'self'; style-src 'self'; font-src 'self'; img-src 'self' data:; connect-src 'self'; "+
					"form-action 'self'; base-uri 'none'; frame-ancestors 'none'",
			)
			h.Set("X-Content-Type-Options", "nosniff")
			h.Set("Referrer-Policy", "same-origin")
			h.Set("Cross-Origin-Opener-Policy", "same-origin")
			h.Set("Cross-Origin-Resource-Policy", "same-origin")
			h.Set("Permissions-Policy", "camera=(), microphone=(), geolocation=()")
			h.Set("Cache-Control", "no-store")
			if s.Secure(r) { // whoever came encrypted once comes encrypted from then on
				h.Set("Strict-Transport-Security", "max-age=31536000")
			}
			next.ServeHTTP(w, r)
		})
	}
}

// logged writes a line about each request. What a customer's link opens is not written: the
// route stands for it.
func logged(log *slog.Logger) func(http.Handler) http.Handler {
	return func(next http.Handler) http.Handler {
		return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
			began := time.Now()
			ww := middleware.NewWrapResponseWriter(w, r.ProtoMajor)
			next.ServeHTTP(ww, r)
			where := r.URL.Path
			if c := chi.RouteContext(r.Context()); c != nil &&
				(strings.HasPrefix(where, "/q/") || strings.HasPrefix(where, "/calendar/")) {
				where = c.RoutePattern()
			}
			log.Info("request", "method", r.Method, "path", where, "status", ww.Status(), "bytes", ww.BytesWritten(),
				"ms", float64(time.Since(began).Microseconds())/1000, "from", page.Address(r))
		})
	}
}

func limitBody(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		most := int64(page.MaxBody)
		if strings.HasPrefix(r.Header.Get("Content-Type"), "multipart/form-data") {
			most = intake.MaxUpload + page.MaxBody
		}
		if strings.HasPrefix(r.URL.Path, "/api/head/") {
			most = page.MaxHeadFile
		}
		r.Body = http.MaxBytesReader(w, r.Body, most)
		next.ServeHTTP(w, r)
	})
}
