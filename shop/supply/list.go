// Package supply asks a supplier over HTTP what parts cost and how long they take, in a small open
// format that docs/supplier.md describes. Update is its door; Fetch asks without keeping.
package supply

import (
	"bytes"
	"context"
	"encoding/csv"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"mime"
	"net/http"
	"strconv"
	"strings"
	"time"
	"unicode/utf8"

	"yatai/core/field"
	"yatai/core/money"
)

// The formats of a question and of an answer.
const (
	AskFormat    = "yatai-ask/1"
	OffersFormat = "yatai-offers/1"
)

// Part is a part that is asked for, by its kind and the name it has in the shop.
type Part struct {
	Kind string `json:"kind"`
	Name string `json:"name"`
}

// Ask is what is sent to the supplier.
type Ask struct {
	Format string `json:"format"`
	Parts  []Part `json:"parts"`
}

// Offer is what the supplier says of a part. Cost is a sum like 24.10, "" where there is none;
// Days are how many it takes, 0 where nobody says.
type Offer struct {
	Part
	Cost string `json:"cost,omitempty"`
	Days int    `json:"days,omitempty"`
	Note string `json:"note,omitempty"`
}

// Offers is what the supplier answers. Currency may be empty.
type Offers struct {
	Format   string  `json:"format"`
	Currency string  `json:"currency,omitempty"`
	Offers   []Offer `json:"offers"`
}

// Bounds of an answer.
const (
	longest    = 4 << 20
	mostOffers = 20_000
	patience   = 15 * time.Second
)

// client asks suppliers: it waits no longer than patience and follows few redirects.
var client = &http.Client{Timeout: patience, CheckRedirect: func(_ *http.Request, via []*http.Request) error {
	if len(via) > 3 {
		return errors.New("it sends on too often")
	}
	return nil
}}

// Fetch asks the supplier at an address for parts. A supplier that takes no questions, and answers
// 405, is asked for its whole list. key, where there is one, is sent as a bearer token. Errors are
// *field.Error in words for people.
func Fetch(ctx context.Context, address, key string, parts []Part) (Offers, error) {
	body, err := json.Marshal(Ask{AskFormat, parts})
	if err != nil {
		return Offers{}, err
	}
	status, kind, b, err := send(ctx, http.MethodPost, address, key, body)
	if err == nil && status == http.StatusMethodNotAllowed {
		status, kind, b, err = send(ctx, http.MethodGet, address, key, nil)
	}
	switch {
	case err != nil:
		return Offers{}, field.Errorf("", "the supplier does not answer: %v", err)
	case status != http.StatusOK:
		return Offers{}, field.Errorf("", "the supplier answers %d %s", status, http.StatusText(status))
	case len(b) > longest:
		return Offers{}, field.Errorf("", "the supplier's list is longer than %d MB", longest>>20)
	}
	if kind == "text/csv" {
		return readCSV(b)
	}
	return readJSON(b)
}

func send(
	ctx context.Context, method, address, key string, body []byte,
) (status int, kind string, answer []byte, err error) {
	req, err := http.NewRequestWithContext(ctx, method, address, bytes.NewReader(body))
	if err != nil {
		return 0, "", nil, err
	}
	req.Header.Set("Accept", "application/json, text/csv")
	if body != nil {
		req.Header.Set("Content-Type", "application/json")
	}
	if key != "" {
		req.Header.Set("Authorization", "Bearer "+key)
	}
	res, err := client.Do(req)
	if err != nil {
		return 0, "", nil, err
	}
	defer func() { _ = res.Body.Close() }()
	kind, _, _ = mime.ParseMediaType(res.Header.Get("Content-Type"))
	answer, err = io.ReadAll(io.LimitReader(res.Body, longest+1))
	return res.StatusCode, kind, answer, err
}

func readJSON(b []byte) (o Offers, err error) {
	if err := json.Unmarshal(b, &o); err != nil {
		return o, field.Errorf("", "the supplier's list cannot be read: %v", err)
	}
	if o.Format != OffersFormat {
		return o, field.Errorf("", "the supplier's list says it is %q: it has to be %s", o.Format, OffersFormat)
	}
	return o, check(o)
}

// readCSV reads a list with the columns kind, name, cost, days and note, in any order.
func readCSV(b []byte) (Offers, error) {
	o := Offers{Format: OffersFormat}
	r := csv.NewReader(bytes.NewReader(bytes.TrimPrefix(b, []byte("\ufeff"))))
	r.FieldsPerRecord = -1
	rows, err := r.ReadAll()
	if err != nil {
		return o, field.Errorf("", "the supplier's list cannot be read: %v", err)
	}
	var at map[string]int
	for n, row := range rows {
		if at == nil {
			at = map[string]int{}
			for i, c := range row {
				at[strings.ToLower(strings.TrimSpace(c))] = i
			}
			continue
		}
		get := func(name string) string {
			if i, ok := at[name]; ok && i < len(row) {
				return strings.TrimSpace(row[i])
			}
			return ""
		}
		x := Offer{Part: Part{get("kind"), get("name")}, Cost: get("cost"), Note: get("note")}
		if days := get("days"); days != "" {
			if x.Days, err = strconv.Atoi(days); err != nil {
				return o, field.Errorf("", "line %d of the supplier's list: %q is no number of days", n+1, days)
			}
		}
		o.Offers = append(o.Offers, x)
	}
	return o, check(o)
}

// check refuses a list that cannot be true.
func check(o Offers) error {
	if len(o.Offers) > mostOffers {
		return field.Errorf("", "the supplier's list has more than %d parts", mostOffers)
	}
	for i, x := range o.Offers {
		at := fmt.Sprintf("part %d of the supplier's list, %.60s", i+1, x.Name)
		switch _, err := x.cents(); {
		case !utf8.ValidString(x.Kind+x.Name+x.Note) || len(x.Note) > 200:
			return field.Errorf("", "%s: this is no text, or too long", at)
		case err != nil:
			return field.Errorf("", "%s: %q is no sum like 24.10", at, x.Cost)
		case x.Days < 0 || x.Days > 3650:
			return field.Errorf("", "%s: it cannot take %d days", at, x.Days)
		}
	}
	return nil
}

// cents is what a part costs, 0 where nothing is said.
func (x Offer) cents() (int64, error) {
	if x.Cost == "" {
		return 0, nil
	}
	c, err := money.Parse(x.Cost)
	if err == nil && c < 0 {
		err = field.Errorf("", "below nothing")
	}
	return c, err
}
