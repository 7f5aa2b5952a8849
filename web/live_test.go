package web_test

import (
	"bufio"
	"context"
	"encoding/json"
	"net/http"
	"net/url"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// listen opens the live events of a head as v's browser does, until the test ends.
func (v *visitor) listen(t *testing.T, tag string) <-chan string {
	t.Helper()
	ctx, stop := context.WithCancel(t.Context())
	r, err := http.NewRequestWithContext(ctx, "GET", v.base+"/live?head="+tag, nil)
	require.NoError(t, err)
	res, err := v.Do(r)
	require.NoError(t, err)
	require.Equal(t, "text/event-stream", res.Header.Get("Content-Type"))
	out := make(chan string, 16)
	here := make(chan struct{})
	go func() {
		defer close(out)
		in, name := bufio.NewScanner(res.Body), ""
		for in.Scan() {
			switch key, value, _ := strings.Cut(in.Text(), ": "); key {
			case "":
				if value == "here" {
					close(here)
				}
			case "event":
				name = value
			case "data":
				out <- name + " " + value
			}
		}
	}()
	t.Cleanup(func() { stop(); _ = res.Body.Close() })
	select {
	case <-here:
	case <-time.After(5 * time.Second):
		t.Fatal("the stream did not open")
	}
	return out
}

func next(t *testing.T, events <-chan string) string {
	t.Helper()
	select {
	case e := <-events:
		return e
	case <-time.After(5 * time.Second):
		t.Fatal("nothing came")
		return ""
	}
}

// TestWhatOthersReadIsToldAtOnce listens to a head while somebody reads on it and on another.
func TestWhatOthersReadIsToldAtOnce(t *testing.T) {
	s := demoSite(t)
	ilka, odo := s.as(t, "Ilka"), s.as(t, "Odo")
	events := odo.listen(t, "T0407")
	read := func(tag, id string) {
		status, body := ilka.post("/heads/"+tag+"/sweep/valve.margin", url.Values{
			"one": {"1I1"}, "stage": {"as received"}, "tool": {"3"}, "why": {"again"}, "v.1I1": {"1.7"}, "id.1I1": {id},
		})
		require.Equal(t, http.StatusSeeOther, status, body)
	}
	read("T0404", "elsewhere-1")
	read("T0407", "here-00001")
	e := next(t, events)
	name, data, _ := strings.Cut(e, " ")
	assert.Equal(t, "reading", name)
	var said struct{ Characteristic, Name string }
	require.NoError(t, json.Unmarshal([]byte(data), &said))
	assert.Equal(t, "valve.margin", said.Characteristic)
	assert.Equal(t, "Ilka", said.Name)
	status, _ := ilka.post("/heads/T0407/sweep/valve.margin", url.Values{
		"one": {"1I1"}, "stage": {"as received"}, "tool": {"3"}, "v.1I1": {"much"}, "id.1I1": {"here-00002"},
	})
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	select {
	case e := <-events:
		t.Fatalf("a refused reading, or another head's, was told: %s", e)
	case <-time.After(100 * time.Millisecond):
	}
}

// TestAGaugeReachesTheSweepAtItsStation enrols a tablet and sends to it.
func TestAGaugeReachesTheSweepAtItsStation(t *testing.T) {
	s := demoSite(t)
	v := s.as(t, "Runa")
	status, _ := v.post("/stations", url.Values{"station": {"Bench 9"}})
	require.Equal(t, http.StatusSeeOther, status)
	u, err := url.Parse(s.URL)
	require.NoError(t, err)
	key := ""
	for _, c := range v.Jar.Cookies(u) {
		if c.Name == "yatai_station" {
			key = c.Value
		}
	}
	require.NotEmpty(t, key)
	send := func(key, body string) int {
		r, err := http.NewRequest("POST", s.URL+"/api/gauge", strings.NewReader(body))
		require.NoError(t, err)
		r.Header.Set("Authorization", "Bearer "+key)
		status, answer := s.visitor(t).send(r)
		if status != http.StatusOK {
			assert.Contains(t, answer, `"error"`)
		}
		return status
	}
	assert.Equal(t, http.StatusConflict, send(key, `{"value":"8.012mm"}`), "no sweep is open")
	events := v.listen(t, "T0407")
	assert.Equal(t, http.StatusOK, send(key, `{"value":"8.012mm"}`))
	assert.Equal(t, "gauge 8.012mm", next(t, events))
	assert.Equal(t, http.StatusUnauthorized, send("guess", `{"value":"8.012mm"}`))
	for _, bad := range []string{"", "{", `{"value":""}`, `{"value":"eight"}`, `{"value":"8","more":1}`, `[8]`} {
		assert.Equal(t, http.StatusUnprocessableEntity, send(key, bad), bad)
	}
}
