package page

import (
	"context"
	"net/http"
	"strconv"
)

// Stop is a page of a tour through the shop: where it is, and what is to be seen there.
type Stop struct{ Title, Says, Link string }

// Touring is where somebody is on the tour. N counts from 1; Before and After are the stops
// beside, 0 for none.
type Touring struct {
	Stop
	N, Of, Before, After int
}

// sessionTour is the session's key of the stop somebody is at.
const sessionTour = "tour"

// touring returns where the asker is on the tour, nil when on none.
func (s *Site) touring(ctx context.Context) *Touring {
	n, _ := s.Sessions.Get(ctx, sessionTour).(int)
	if n < 1 || n > len(s.Tour) {
		return nil
	}
	t := &Touring{Stop: s.Tour[n-1], N: n, Of: len(s.Tour), Before: n - 1}
	if n < len(s.Tour) {
		t.After = n + 1
	}
	return t
}

// TakeTour answers POST /tour: it goes on to the stop "to" of the tour, or ends it.
func TakeTour(s *Site, w http.ResponseWriter, r *http.Request, _ *Request) error {
	n, _ := strconv.Atoi(r.PostForm.Get("to"))
	if n < 1 || n > len(s.Tour) {
		s.Sessions.Remove(r.Context(), sessionTour)
		return Redirect(w, r, "/")
	}
	s.Sessions.Put(r.Context(), sessionTour, n)
	return Redirect(w, r, s.Tour[n-1].Link)
}
