// Package supplier is a small simulated parts supplier that ships with the product: it knows what
// it can deliver, for how much and when, and answers the same every time. Handler is its door: it
// speaks over HTTP the format that docs/supplier.md describes, as a real supplier would.
package supplier

import (
	"encoding/json"
	"fmt"
	"hash/fnv"
	"net/http"
)

// basis are what parts of a kind cost, in cents, and how long they take, in days.
var basis = map[string]struct {
	cents int64
	days  int
}{
	"valve":         {2400, 5},
	"guide":         {1100, 3},
	"liner":         {700, 2},
	"insert":        {1500, 4},
	"spring":        {780, 6},
	"spring shim":   {40, 2},
	"keepers":       {130, 2},
	"rotator":       {2100, 9},
	"bucket":        {2600, 7},
	"rocker":        {4400, 10},
	"seal":          {90, 2},
	"gasket":        {5200, 3},
	"lash shim":     {260, 4},
	"pushrod":       {1900, 8},
	"thread insert": {350, 1},
	"core plug":     {240, 2},
	"exchange head": {98000, 8},
	"used head":     {42000, 5},
}

// part is a part that is asked for, offer what is said of it.
type part struct {
	Kind string `json:"kind"`
	Name string `json:"name"`
}

type offer struct {
	part
	Cost string `json:"cost"`
	Days int    `json:"days"`
	Note string `json:"note,omitempty"`
}

// ask returns what a part costs and how long it takes; ok is false for a kind it does not know.
func ask(p part) (o offer, ok bool) {
	b, ok := basis[p.Kind]
	if !ok {
		return o, false
	}
	h := fnv.New32a()
	_, _ = h.Write([]byte(p.Name))
	n := int64(h.Sum32() % 100)
	cents := b.cents * (90 + n/5) / 100
	o = offer{part: p, Cost: fmt.Sprintf("%d.%02d", cents/100, cents%100), Days: b.days + int(n%3)}
	if n < 12 {
		o.Days += 7
		o.Note = "back-ordered"
	}
	return o, true
}

// longest bounds a question.
const longest = 4 << 20

// Handler answers questions for parts; it has no list to give without one.
func Handler() http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		var in struct {
			Format string `json:"format"`
			Parts  []part `json:"parts"`
		}
		if err := json.NewDecoder(http.MaxBytesReader(w, r.Body, longest)).Decode(&in); err != nil ||
			in.Format != "yatai-ask/1" {
			http.Error(w, "a question in the format yatai-ask/1", http.StatusBadRequest)
			return
		}
		out := struct {
			Format   string  `json:"format"`
			Currency string  `json:"currency"`
			Offers   []offer `json:"offers"`
		}{"yatai-offers/1", "EUR", []offer{}}
		for _, p := range in.Parts {
			if o, ok := ask(p); ok {
				out.Offers = append(out.Offers, o)
			}
		}
		w.Header().Set("Content-Type", "application/json")
		_ = json.NewEncoder(w).Encode(out) // who has left is not answered
	})
}
