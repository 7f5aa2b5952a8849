package web

import (
	"encoding/json"
	"fmt"
	"net/http"
	"strings"
	"sync"
	"time"

	"yatai/core/field"
	"yatai/core/length"
	"yatai/shop"
	"yatai/shop/people"
)

// liveEvent is something that happened while a page is open.
type liveEvent struct {
	Name string // gauge, reading
	Data string
}

// broker passes events to the open pages that asked for their topic. A page that does not
// keep up misses events; it sees everything again when it is loaded.
type broker struct {
	mu   sync.Mutex
	subs map[string]map[chan liveEvent]bool
}

func (b *broker) subscribe(topics ...string) (<-chan liveEvent, func()) {
	c := make(chan liveEvent, 32)
	b.mu.Lock()
	defer b.mu.Unlock()
	if b.subs == nil {
		b.subs = map[string]map[chan liveEvent]bool{}
	}
	for _, t := range topics {
		if b.subs[t] == nil {
			b.subs[t] = map[chan liveEvent]bool{}
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

// publish passes e on and returns how many pages took it.
func (b *broker) publish(topic string, e liveEvent) int {
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

// live streams what others read on a head, and what this station's gauge sends, as
// server-sent events.
func (s *Server) live(w http.ResponseWriter, r *http.Request, req *request) error {
	topics := []string{"head " + r.Form.Get("head")}
	if req.station != "" {
		topics = append(topics, "station "+req.station)
	}
	events, leave := s.broker.subscribe(topics...)
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
			_, _ = fmt.Fprint(w, ": beat\n\n")
		case <-r.Context().Done():
			return nil
		case <-s.stop:
			return nil
		}
	}
}

// apiGauge takes a value from a gauge with its station's key and passes it to the sweep
// open there: {"value":"8.012mm"}. 401 for an unknown key, 409 when no sweep is open.
func (s *Server) apiGauge(w http.ResponseWriter, r *http.Request) {
	w.Header().Set("Content-Type", "application/json")
	refuse := func(status int, err error) {
		w.WriteHeader(status)
		_, _ = w.Write(field.JSON(err))
	}
	key, _ := strings.CutPrefix(r.Header.Get("Authorization"), "Bearer ")
	station := people.Station(r.Context(), s.shop, key)
	if station == "" {
		refuse(http.StatusUnauthorized, field.Errorf("key", "no station has this key"))
		return
	}
	var in struct {
		Value string `json:"value"`
	}
	d := json.NewDecoder(r.Body)
	d.DisallowUnknownFields()
	if err := d.Decode(&in); err != nil {
		refuse(http.StatusUnprocessableEntity, field.Errorf("value", "send {\"value\":\"8.012mm\"}"))
		return
	}
	if _, err := length.Parse(in.Value, length.None); err != nil {
		refuse(http.StatusUnprocessableEntity, field.Under("value", err))
		return
	}
	if s.broker.publish("station "+station, liveEvent{"gauge", in.Value}) == 0 {
		refuse(http.StatusConflict, field.Errorf("", "no sweep is open at %s", station))
		return
	}
	_, _ = w.Write([]byte("{}\n"))
}

// told lets the other pages on a head know that somebody has read something.
func (s *Server) told(tag, characteristic string, a shop.Actor) {
	data, err := json.Marshal(map[string]any{"characteristic": characteristic, "person": a.ID, "name": a.Name})
	if err == nil {
		s.broker.publish("head "+tag, liveEvent{"reading", string(data)})
	}
}
