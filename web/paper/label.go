package paper

import (
	"bytes"
	"fmt"
	"html"
	"strings"
	"yatai/core/words"
	"yatai/shop/headfile"

	"rsc.io/qr"
)

// Label is what one label says. Code is in its QR code.
type Label struct {
	Code string
	Big  string
	Says []string
}

// Labels are a head's labels: its own, its tray's, and one for a bin of its parts.
func Labels(f *headfile.File, public string) []Label {
	link := strings.TrimRight(public, "/") + "/heads/" + f.Tag
	who := f.Job.Customer.Name
	return []Label{
		{link, f.Tag, []string{
			strings.TrimSpace(f.Model.Name + " " + f.Which()), who, f.CreatedAt.Local().Format("2 Jan 2006"),
		}},
		{link + "/tray", f.Tag + " tray", []string{f.Model.Name, "every part in its own place"}},
		{link + "/tray", f.Tag + " bin", []string{f.Model.Name, who, "rockers, pushrods, loose parts"}},
	}
}

// SVG draws a label, 62 by 29 millimetres.
func (l Label) SVG() ([]byte, error) {
	code, err := qr.Encode(l.Code, qr.M)
	if err != nil {
		return nil, err
	}
	var b bytes.Buffer
	fmt.Fprintf(
		&b,
		`<svg xmlns="http://www.w3.org/2000/svg" width="62mm" height="29mm" viewBox="0 0 62 29"><rect width="62" height="29" fill="#fff"/>`,
	)
	k := 25.0 / float64(code.Size)
	fmt.Fprintf(&b, `<path fill="#000" shape-rendering="crispEdges" d="`)
	for y := range code.Size {
		for x := range code.Size {
			if code.Black(x, y) {
				fmt.Fprintf(&b, "M%.3f %.3fh%.3fv%.3fh-%.3fz", 2+float64(x)*k, 2+float64(y)*k, k, k, k)
			}
		}
	}
	fmt.Fprintf(&b, `"/><text x="30" y="9" font-family="monospace" font-weight="bold" font-size="5.6">%s</text>`,
		html.EscapeString(l.Big))
	for i, s := range l.Says {
		fmt.Fprintf(&b, `<text x="30" y="%.1f" font-family="sans-serif" font-size="3">%s</text>`,
			14.5+float64(i)*4.2, html.EscapeString(s))
	}
	b.WriteString(`</svg>`)
	return b.Bytes(), nil
}

// LabelSheet writes labels as a PDF to cut up, two to a row.
func LabelSheet(labels []Label, h House) ([]byte, error) {
	h.Name = "" // a label has no room for it
	rows := 7
	if h.Letter {
		rows = 6
	}
	s := newSheet("Labels", "cut along the lines", h, words.English)
	for i, l := range labels {
		code, err := qr.Encode(l.Code, qr.M)
		if err != nil {
			return nil, err
		}
		x, y := 16+float64(i%2)*88, 32+float64(i/2%rows)*34
		if i > 0 && i%(2*rows) == 0 {
			s.AddPage()
		}
		s.SetDrawColor(203, 196, 178)
		s.aside(func() { s.Rect(x, y, 84, 31, "D") })
		k := 26 / float64(code.Size)
		s.SetFillColor(0, 0, 0)
		square := s.start("Figure")
		square.alt = l.Code
		s.marked(square, func() { drawCode(s, code, x, y, k) })
		s.write("B", 15, l.Big)
		s.SetXY(x+33, y+4)
		s.marked(s.start("P"), func() { s.CellFormat(50, 7, l.Big, "", 0, "L", false, 0, "") })
		for n, text := range l.Says {
			s.write("", 8.5, text)
			s.SetXY(x+33, y+12+float64(n)*5)
			s.marked(s.start("P"), func() { s.CellFormat(50, 5, text, "", 0, "L", false, 0, "") })
		}
	}
	return s.bytes()
}

func drawCode(s *sheet, code *qr.Code, x, y, k float64) {
	for cy := range code.Size {
		for cx := range code.Size {
			if code.Black(cx, cy) {
				s.Rect(x+3+float64(cx)*k, y+2.5+float64(cy)*k, k+0.01, k+0.01, "F")
			}
		}
	}
}
