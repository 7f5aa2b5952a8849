package main

import (
	"net/http"
	"time"
)

// writeWithin is how long an answer may wait for its reader before the connection is given up.
const writeWithin = 60 * time.Second

// flowing gives an answer its time anew whenever bytes of it are taken: a backup over a slow line is
// not cut while it flows, and who reads nothing is.
func flowing(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		next.ServeHTTP(&flow{ResponseWriter: w, until: time.Now().Add(writeWithin)}, r)
	})
}

// flow is an answer whose deadline moves on with it. Its methods belong to one handler at a time.
type flow struct {
	http.ResponseWriter
	until time.Time
	open  bool // the handler took the deadline away
}

// Write writes some of the answer, and gives the rest its time.
func (f *flow) Write(b []byte) (int, error) {
	if now := time.Now(); !f.open && f.until.Sub(now) < writeWithin/2 {
		f.until = now.Add(writeWithin)
		if err := http.NewResponseController(f.ResponseWriter).SetWriteDeadline(f.until); err != nil {
			return 0, err
		}
	}
	return f.ResponseWriter.Write(b)
}

// SetWriteDeadline is the handler's own word on it.
func (f *flow) SetWriteDeadline(t time.Time) error {
	f.open = true
	return http.NewResponseController(f.ResponseWriter).SetWriteDeadline(t)
}

// Unwrap lets a response controller through to the connection.
func (f *flow) Unwrap() http.ResponseWriter { return f.ResponseWriter }
