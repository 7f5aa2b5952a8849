// Package headtest makes heads for tests: New is its door.
package headtest

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/trade"
)

// Head is a head being made.
type Head struct {
	*head.Head
	t testing.TB
}

// New makes a head in a row with nothing read and no limits: iron, water cooled, plugs,
// rockers on pushrods, solid.
func New(t testing.TB, cylinders int, pattern string) *Head {
	t.Helper()
	l, err := layout.Inline(layout.InlineSpec{
		Cylinders:   cylinders,
		Pattern:     pattern,
		Pitch:       110 * length.Millimetre,
		Bore:        95 * length.Millimetre,
		Width:       160 * length.Millimetre,
		IntakeHead:  40 * length.Millimetre,
		ExhaustHead: 36 * length.Millimetre,
	})
	if err != nil {
		t.Fatal(err)
	}
	steel := trade.Valve{Material: "steel"}
	return &Head{t: t, Head: &head.Head{
		Tag: "T1", Kind: "failed", Unit: length.MM,
		Model: head.Model{
			Name: "test", Layout: l, Kind: trade.Kind{
				Drive: trade.Rocker, Lifter: "solid", Cooling: "water", Material: "iron", Ignition: "plug",
			},
			Valves: map[layout.Role]trade.Valve{layout.Intake: steel, layout.Exhaust: steel},
		},
		Sheet: head.Sheet{Figures: map[string]quantity.Amount{}},
	}}
}

// Having is a head of two cylinders that has what positions lists: with an intake and an exhaust
// each, or with bridges over two of both.
func Having(t testing.TB, positions func(layout.Layout) []string) *Head {
	h := New(t, 2, "IE")
	if len(positions(h.Model.Layout)) == 0 {
		h = New(t, 2, "IIEE")
		h.Model.Layout.Bridges = layout.Guided
	}
	return h
}

// mm parses a length in millimetres, or newtons and the like as written.
func (h *Head) mm(text string) *quantity.Amount {
	h.t.Helper()
	if text == "" {
		return nil
	}
	l, err := length.Parse(text, length.MM)
	if err != nil {
		h.t.Fatal(err)
	}
	return quantity.MaybeLength(&l)
}

// Limit gives the service sheet a limit, by role: "guide.clearance/intake".
func (h *Head) Limit(key, low, high string) *Head {
	h.t.Helper()
	code, role, _ := strings.Cut(key, "/")
	h.Sheet.Limits = append(h.Sheet.Limits, head.Limit{
		Characteristic: code, Role: role, Set: head.Service, Low: h.mm(low), High: h.mm(high),
		Source: "leaflet",
	})
	h.Sheet = h.Sheet.Indexed()
	return h
}

// Both gives intakes and exhausts one limit.
func (h *Head) Both(code, low, high string) *Head {
	h.t.Helper()
	return h.Limit(code+"/intake", low, high).Limit(code+"/exhaust", low, high)
}

// Figure gives the sheet a figure.
func (h *Head) Figure(key, text string) *Head {
	h.t.Helper()
	h.Sheet.Figures[key] = *h.mm(text)
	return h
}

// Read writes readings of a characteristic as received: "1E1.top.A 9.041".
func (h *Head) Read(code string, at ...string) *Head { return h.Again(head.AsReceived, code, at...) }

// Again writes readings of a stage.
func (h *Head) Again(stage, code string, at ...string) *Head {
	h.t.Helper()
	c, ok := trade.ByCode(code)
	if !ok {
		h.t.Fatalf("no characteristic %s", code)
	}
	for _, row := range at {
		key, text, _ := strings.Cut(row, " ")
		v, err := c.Read(text, length.MM)
		if err != nil {
			h.t.Fatal(err)
		}
		n := uint(len(h.Readings) + 1)
		h.Readings = append(h.Readings, head.Reading{
			ID: n, Of: code, Spot: trade.SpotOf(key), Value: v, U: quantity.OfLength(2 * length.Micrometre),
			Tool: "tool", Stage: stage, Typed: text,
		})
	}
	again := *h.Head // the readings by what and where are made anew
	*h.Head = *again.Until(head.Stages...)
	return h
}

// All writes the same reading at every spot of a characteristic, as received.
func (h *Head) All(code, text string) *Head {
	h.t.Helper()
	c, _ := trade.ByCode(code)
	for _, s := range c.Spots(h.Model.Layout) {
		h.Read(code, s.Key()+" "+text)
	}
	return h
}

// See writes what eyes saw as received.
func (h *Head) See(part, position, grade string) *Head {
	h.Findings = append(h.Findings, head.Finding{
		ID: uint(len(h.Findings) + 1), Part: part, Grade: grade, Position: position, Stage: head.AsReceived,
	})
	return h
}

// Did has an operation done, begun after everything written so far.
func (h *Head) Did(code string, at ...string) *Head {
	h.t.Helper()
	if trade.OperationNamed(code) == nil {
		h.t.Fatalf("no operation %s", code)
	}
	h.Operations = append(h.Operations, head.Operation{
		Code: code, At: slices.Clone(at), State: head.Done, Begun: len(h.Readings),
	})
	return h
}

// Decide decides a finding.
func (h *Head) Decide(finding, choice string) *Head {
	h.Decisions = append(h.Decisions, head.Decision{Finding: finding, Choice: choice, By: "lead"})
	return h
}

// Keys writes codes and positions of decisions or operations, for comparing.
func Keys[T any](rows []T, of func(T) (code string, at []string)) []string {
	var out []string
	for _, r := range rows {
		code, at := of(r)
		out = append(out, strings.TrimSpace(fmt.Sprint(code, " ", strings.Join(at, " "))))
	}
	return out
}

// Judging is the limit that judges a characteristic at a position.
func (h *Head) Judging(code, position string) gauge.Limit {
	h.t.Helper()
	l := h.Head.Limit(code, string(h.Role(position)))
	if l == nil {
		h.t.Fatalf("no limit for %s", code)
	}
	return l.Gauge()
}
