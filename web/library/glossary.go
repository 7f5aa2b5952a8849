package library

import (
	"html/template"
	"net/http"

	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/trade"
	"yatai/web/draw"
	"yatai/web/page"
)

// entry is a characteristic as the glossary explains it.
type entry struct {
	trade.Characteristic
	Answers []string
}

// section is a part of the glossary with its drawing.
type section struct {
	Name    string
	Drawing template.HTML
	Entries []entry
}

// ID names the section on its page.
func (s section) ID() string { return page.Anchor(s.Name) }

// Glossary answers GET /reference/glossary: what each characteristic is, where and how it is read,
// with what, what goes wrong, and what answers it.
func Glossary(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	var out []section
	drawings := sampleDrawings(req.Actor.Unit)
	for _, c := range trade.Characteristics {
		if n := len(out); n == 0 || out[n-1].Name != c.Section.String() {
			out = append(out, section{Name: c.Section.String(), Drawing: drawings[c.Section]})
		}
		e := entry{Characteristic: c}
		for _, side := range []string{"low", "high"} {
			for _, rep := range trade.RepairsFor(c.Code, side,
				trade.Kind{Drive: trade.Rocker, Cooling: "water", Material: "iron", Lifter: "solid"}) {
				if len(e.Answers) == 0 || e.Answers[len(e.Answers)-1] != rep.Name {
					e.Answers = append(e.Answers, rep.Name)
				}
			}
		}
		out[len(out)-1].Entries = append(out[len(out)-1].Entries, e)
	}
	return s.Show(w, req, "glossary", page.Page{Title: "Glossary", Place: "reference", Data: out})
}

// sampleDrawings draw a made-up valve and face, for the sections they explain.
func sampleDrawings(u length.Unit) map[trade.Section]template.HTML {
	l := func(um int64) *length.Length { x := length.Length(um) * length.Micrometre; return &x }
	valve := draw.Section{
		Guide:      [3]*length.Length{l(8060), l(8030), l(8080)},
		Stem:       [3]*length.Length{l(7985), l(7970), l(7980)},
		Head:       36 * length.Millimetre,
		Recession:  l(900),
		StemHeight: l(44_600),
		Margin:     l(1500),
		SeatWidth:  l(1600),
		Unit:       u,
	}.Draw()
	out := map[trade.Section]template.HTML{trade.Guides: valve}
	if face, err := layout.Inline(layout.InlineSpec{
		Cylinders:   2,
		Pattern:     "IE",
		Pitch:       110 * length.Millimetre,
		Bore:        96 * length.Millimetre,
		Width:       160 * length.Millimetre,
		IntakeHead:  42 * length.Millimetre,
		ExhaustHead: 37 * length.Millimetre,
	}); err == nil {
		out[trade.Face] = draw.HeadMap(draw.Map{Layout: face, Lines: map[string]string{}})
	}
	return out
}
