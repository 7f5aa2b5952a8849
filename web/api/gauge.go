package api

import (
	"encoding/json"
	"net/http"
	"reflect"
	"strings"

	"yatai/core/field"
	"yatai/core/length"
	"yatai/core/schema"
	"yatai/shop/people"
	"yatai/web/page"
)

// Gauged is what a gauge's bridge sends.
type Gauged struct {
	Value string `json:"value" need:"a length with its unit"` // 8.012mm, .3154in, 12um
}

// longestGauged bounds the text of a value, in bytes.
const longestGauged = 40

// GaugedSchema describes it for other programs.
func GaugedSchema() ([]byte, error) {
	return schema.Of(reflect.TypeFor[Gauged](), schema.Read{Bounds: schema.Bounds{Text: longestGauged}},
		"A gauge's value", "What a gauge's bridge sends to /api/gauge: a length with its unit.", nil)
}

// gauge takes a value from a gauge with its station's key and passes it to the sweep
// open there: {"value":"8.012mm"}. 401 for an unknown key, 409 when no sweep is open.
func gauge(s *page.Site, w http.ResponseWriter, r *http.Request) {
	w.Header().Set("Content-Type", "application/json")
	refuse := func(status int, err error) {
		w.WriteHeader(status)
		_, _ = w.Write(field.JSON(err))
	}
	key, _ := strings.CutPrefix(r.Header.Get("Authorization"), "Bearer ")
	station := people.Station(r.Context(), s.Shop, key)
	if station == "" {
		refuse(http.StatusUnauthorized, field.Errorf("key", "no station has this key"))
		return
	}
	var in Gauged
	d := json.NewDecoder(r.Body)
	d.DisallowUnknownFields()
	if err := d.Decode(&in); err != nil {
		refuse(http.StatusUnprocessableEntity, field.Errorf("value", "send {\"value\":\"8.012mm\"}"))
		return
	}
	if len(in.Value) > longestGauged {
		refuse(http.StatusUnprocessableEntity, field.Errorf("value", "at most %d signs", longestGauged))
		return
	}
	if _, err := length.Parse(in.Value, length.None); err != nil {
		refuse(http.StatusUnprocessableEntity, field.Under("value", err))
		return
	}
	if s.Broker.Publish("station "+station, page.LiveEvent{Name: "gauge", Data: in.Value}) == 0 {
		refuse(http.StatusConflict, field.Errorf("", "no sweep is open at %s", station))
		return
	}
	_, _ = w.Write([]byte("{}\n"))
}
