package draw

import (
	"cmp"
	"fmt"
	"html/template"
	"slices"
	"strings"

	"yatai/core/layout"
	"yatai/core/words"
)

// TrayPart is a part in its compartment. State is own, inferred, unknown, missing or new;
// Warn is set for a new part that is not to be trusted yet.
type TrayPart struct {
	Part, State string
	Warn        bool
}

// A compartment of the tray and the lane of one part in it, in drawing units.
const (
	bayWide = 56.0
	lane    = 15.0
	bayHead = 15.0
)

// silhouettes are the parts as they lie in their lanes, 34 wide and 11 high, drawn from
// the lane's left upper corner.
var silhouettes = map[string]string{
	"valve":    "M1 4.5h21c4 0 5-3.500 8-4v10c-3-.5-4-4-8-4h-21z",
	"spring":   "M2 9.500l3-8l3 8l3-8l3 8l3-8l3 8l3-8l3 8l3-8",
	"retainer": "M9 2h16l-3 3h-2v4h-6v-4h-2z",
	"keepers":  "M9 2h6l-1 7h-4zM19 2h6l-1 7h-4z",
	"seat":     "M7 5.500a10 4 0 1 0 20 0a10 4 0 1 0-20 0M11 5.500a6 2.200 0 1 0 12 0a6 2.200 0 1 0-12 0",
	"shim":     "M11 5.500a6 3 0 1 0 12 0a6 3 0 1 0-12 0",
	"bucket":   "M10 1.500h14v8h-3v-5h-8v5h-3z",
	"rocker":   "M1 4c4-3 8-2 12-1c1-2 7-2 8 0c4 0 8 1 11 4l-2 3c-8-3-19-3-27-2zM15 6.500a2 2 0 1 0 4 0a2 2 0 1 0-4 0",
	"pushrod":  "M4 5h26a1.500 1.500 0 1 1 0 1h-26a1.500 1.500 0 1 1 0-1z",
}

// Tray draws the tray as it stands beside the head: a compartment for each position, in the
// rows and the order of the head map, each with its parts. What is not its own says so.
// in is the language it speaks. Compartments lead to link with the id appended.
func Tray(
	l layout.Layout, parts func(position string) []TrayPart, link string, in *words.Language,
) template.HTML {
	rows := trayRows(l)
	most, lanes := 0, 0
	for _, row := range rows {
		most = max(most, len(row))
		lanes = max(lanes, len(parts(row[0].ID)))
	}
	bayHigh := bayHead + lane*float64(lanes) + 4
	var s svg
	s.add(
		`<svg class="traymap" preserveAspectRatio="xMinYMid" viewBox="-3 -3 %.0f %.0f" role="group" aria-label="%s">`,
		float64(most)*bayWide+6, float64(len(rows))*bayHigh+6, in.Say("numbered tray, in the head's order"),
	)
	s.add(`<rect class="board" x="-2" y="-2" width="%.0f" height="%.0f"/>`, float64(most)*bayWide+4,
		float64(len(rows))*bayHigh+4)
	for r, row := range rows {
		for c, v := range row {
			bay(&s, in, float64(c)*bayWide, float64(r)*bayHigh, bayHigh, v, parts(v.ID), link)
		}
	}
	s.WriteString(`</svg>`)
	return s.html()
}

// trayRows puts the valves into the rows they stand in across the head, each along it.
func trayRows(l layout.Layout) [][]layout.Valve {
	valves := slices.Clone(l.Valves)
	slices.SortStableFunc(valves, func(a, b layout.Valve) int { return cmp.Compare(b.Y, a.Y) })
	var rows [][]layout.Valve
	for i, v := range valves {
		if i == 0 || valves[i-1].Y-v.Y > v.Head/2 {
			rows = append(rows, nil)
		}
		rows[len(rows)-1] = append(rows[len(rows)-1], v)
	}
	for _, row := range rows {
		slices.SortStableFunc(row, func(a, b layout.Valve) int { return cmp.Compare(a.X, b.X) })
	}
	return rows
}

// bay draws one compartment.
func bay(s *svg, in *words.Language, x, y, high float64, v layout.Valve, parts []TrayPart, link string) {
	var said []string
	for _, p := range parts {
		if p.State != "own" {
			said = append(said, in.Say(p.Part)+" "+in.Say(p.State))
		}
	}
	if said == nil {
		said = []string{in.Say("all its own")}
	}
	s.add(`<a href="%s%s" aria-label="%s: %s">`, link, v.ID, v.ID, strings.Join(said, ", "))
	s.add(`<rect class="bay" x="%.1f" y="%.1f" width="%.1f" height="%.1f"/>`, x+1, y+1, bayWide-2, high-2)
	s.add(`<text class="pos" x="%.1f" y="%.1f" font-size="9.500">%s</text>`, x+5, y+11, v.ID)
	for i, p := range parts {
		state := p.State
		if p.Warn {
			state += " warn"
		}
		s.add(`<g class="part p-%s %s" transform="translate(%.1f %.1f)"><title>%s</title><path d="%s"/>%s</g>`,
			p.Part, state, x+4, y+bayHead+lane*float64(i), in.Say(p.Part)+": "+in.Say(p.State), silhouettes[p.Part],
			template.HTML(trayMark(p)))
	}
	s.WriteString(`</a>`)
}

// trayMark is what stands beside a part that is not its own.
func trayMark(p TrayPart) string {
	mark := map[string]string{"inferred": "≈", "unknown": "?", "missing": "–", "new": "N"}[p.State]
	if mark == "" {
		return ""
	}
	if p.Warn {
		mark += "!"
	}
	return fmt.Sprintf(`<text x="37" y="9.500" font-size="9">%s</text>`, mark)
}
