package page

import (
	"encoding/json"
	"fmt"
	"net/http"
	"strings"
	"sync"
	"time"

	"yatai/shop"
	"yatai/shop/people"
)

// LiveEvent is something that happened while a page is open.
type LiveEvent struct {
	Name string // gauge, reading
	Data string
}

// Broker passes events to the open pages that asked for their topic. A page that does not
// keep up misses events; it sees everything again when it is loaded.
type Broker struct {
	mu   sync.Mutex
	subs map[string]map[chan LiveEvent]bool
}

func (b *Broker) subscribe(topics ...string) (<-chan LiveEvent, func()) {
	c := make(chan LiveEvent, 32)
	b.mu.Lock()
	defer b.mu.Unlock()
	if b.subs == nil {
		b.subs = map[string]map[chan LiveEvent]bool{}
	}
	for _, t := range topics {
		if b.subs[t] == nil {
			b.subs[t] = map[chan LiveEvent]bool{}
		}
		b.subs[t][c] = true
	}
	return c, func() {
		b.mu.Lock()
		defer b.mu.Unlock()
		for _, t := range topics {
			delete(b.subs[t], c)
			if len(b.subs[t]) == 0 {
				delete(b.subs, t)
			}
		}
	}
}

// Publish passes e on and returns how many pages took it.
func (b *Broker) Publish(topic string, e LiveEvent) int {
	b.mu.Lock()
	defer b.mu.Unlock()
	took := 0
	for c := range b.subs[topic] {
		select {
		case c <- e:
			took++
		default:
		}
	}
	return took
}

// beat keeps a quiet stream open through whatever lies between.
const beat = 20 * time.Second

// Live streams what others read on a head, and what this station's gauge sends, as
// server-sent events.
func Live(s *Site, w http.ResponseWriter, r *http.Request, req *Request) error {
	topics := []string{"head " + r.Form.Get("head")}
	if req.Station != "" {
		topics = append(topics, "station "+req.Station)
	}
	events, leave := s.Broker.subscribe(topics...)
	defer leave()
	stream := http.NewResponseController(w)
	if err := stream.SetWriteDeadline(time.Time{}); err != nil {
		return err
	}
	w.Header().Set("Content-Type", "text/event-stream")
	_, _ = fmt.Fprint(w, ": here\n\n")
	ticker := time.NewTicker(beat)
	defer ticker.Stop()
	for {
		if err := stream.Flush(); err != nil {
			return nil // the page is gone
		}
		select {
		case e := <-events:
			_, _ = fmt.Fprintf(w, "event: %s\ndata: %s\n\n", e.Name, strings.ReplaceAll(e.Data, "\n", " "))
		case <-ticker.C:
			if !s.still(r, req) {
				return nil // signed out meanwhile
			}
			_, _ = fmt.Fprint(w, ": beat\n\n")
		case <-r.Context().Done():
			return nil
		case <-s.Stop:
			return nil
		}
	}
}

// Told lets the other pages on a head know that somebody has read something, with the ids it was
// sent by: the page that sent it knows them.
func (s *Site) Told(tag, characteristic string, a shop.Actor, ids []string) {
	data, err := json.Marshal(
		map[string]any{"characteristic": characteristic, "person": a.ID, "name": a.Name, "ids": ids},
	)
	if err == nil {
		s.Broker.Publish("head "+tag, LiveEvent{"reading", string(data)})
	}
}

// still tells whether a session that a stream began with goes on: nobody has signed out, has
// been locked out, or has had a new password.
func (s *Site) still(r *http.Request, req *Request) bool {
	if _, there, err := s.Sessions.Store.Find(s.Sessions.Token(r.Context())); err != nil || !there {
		return false
	}
	a, err := people.Person(r.Context(), s.Shop, req.Actor.ID)
	return err == nil && a.Epoch == req.Actor.Epoch
}
