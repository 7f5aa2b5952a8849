// Package paper writes what leaves the shop as files: quotes and reports as PDF, readings as
// CSV, JSON and spreadsheet, labels with QR codes as SVG and PDF. Nothing is loaded from
// outside: the fonts are in the program.
package paper

import (
	"bytes"
	"cmp"
	"fmt"
	"slices"
	"strings"
	"time"

	"codeberg.org/go-pdf/fpdf"

	"yatai/core/gauge"
	"yatai/core/layout"
	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/shop/lead"
)

// House is whose paper it is, and on which it is printed.
type House struct {
	Name, Address, Phone string
	Letter               bool      // US Letter; A4 without
	Logo                 shop.Logo // without bytes for none
}

// HouseOf reads the shop's own from its settings, beside its logo.
func HouseOf(set shop.Settings, logo shop.Logo) House {
	return House{
		set.Get("shop_name"), set.Get("shop_address"), set.Get("shop_phone"),
		set.Get("paper") == shop.LetterPaper, logo,
	}
}

// sheet is a PDF page being written. low is where the text ends at the foot of a page.
type sheet struct {
	*fpdf.Fpdf
	in    *words.Language // that it is written in
	low   float64
	under float64 // room left under each row of a table

	doc   *node       // what it is made of
	table *node       // the table that is being written
	marks map[int]int // how many marks are on each page
}

// newSheet starts a document with the shop's head, a title, and numbered pages.
func newSheet(title, left string, h House, in *words.Language) *sheet {
	size := "A4"
	if h.Letter {
		size = "Letter"
	}
	p := fpdf.New("P", "mm", size, "")
	p.SetLang(in.Code)
	p.SetAuthor(h.Name, true)
	addFonts(p)
	p.SetTitle(title, true)
	p.SetMargins(16, 16, 16)
	p.SetAutoPageBreak(true, 18)
	_, height := p.GetPageSize()
	s := &sheet{Fpdf: p, in: in, low: height - 19, doc: &node{kind: "Document"}, marks: map[int]int{}}
	p.SetFooterFunc(func() {
		p.SetY(-13)
		s.write("", 8, left)
		p.SetTextColor(90, 101, 112)
		s.aside(func() {
			p.CellFormat(120, 5, left, "", 0, "L", false, 0, "")
			p.CellFormat(0, 5, in.Say("page %d", p.PageNo()), "", 0, "R", false, 0, "")
		})
	})
	p.AddPage()
	under := s.logo(h.Logo)
	if h.Name != "" {
		s.text(10, true, h.Name)
		where := []string{strings.Join(strings.Fields(h.Address), " "), h.Phone}
		if more := strings.Join(slices.DeleteFunc(where, func(x string) bool { return x == "" }),
			" · "); more != "" {
			s.SetY(s.GetY() - 1)
			s.text(8.5, false, more)
		}
		s.SetY(max(under, s.GetY()))
		left, _, right, _ := s.GetMargins()
		width, _ := s.GetPageSize()
		s.SetDrawColor(31, 78, 140)
		s.SetLineWidth(0.6)
		s.aside(func() { s.Line(left, s.GetY(), width-right, s.GetY()) })
		s.SetLineWidth(0.2)
		s.Ln(3)
	}
	s.say("H1", 17, true, title)
	s.Bookmark(title, 0, 0)
	return s
}

// t says a sentence in the paper's language.
func (s *sheet) t(sentence string, args ...any) string { return s.in.Say(sentence, args...) }

// decimals writes a text's figures as the paper's language does.
func (s *sheet) decimals(text string) string {
	if s.in.Comma {
		return words.Comma(text)
	}
	return text
}

// heading starts a part of the document, with a bookmark; it does not stand alone at a page's foot.
func (s *sheet) heading(text string) {
	if s.GetY()+24 > s.low {
		s.AddPage()
	}
	s.Ln(2)
	s.Bookmark(text, 1, -1)
	s.say("H2", 11, true, text)
}

// text writes a paragraph.
func (s *sheet) text(size float64, bold bool, text string) { s.say("P", size, bold, text) }

// say writes a part of the document, its lines on as many pages as they need.
func (s *sheet) say(kind string, size float64, bold bool, text string) {
	style, text := "", s.decimals(text)
	if bold {
		style = "B"
	}
	s.SetTextColor(30, 42, 54)
	s.write(style, size, text)
	left, _, right, _ := s.GetMargins()
	width, _ := s.GetPageSize()
	lines, h, part := s.SplitText(text, width-left-right), size*0.48, s.start(kind)
	for len(lines) > 0 {
		fit := min(len(lines), int((s.low-s.GetY())/h))
		if fit <= 0 {
			s.AddPage()
			continue
		}
		s.marked(part, func() {
			for _, line := range lines[:fit] {
				s.CellFormat(0, h, line+" ", "", 2, "L", false, 0, "") // a blank keeps words apart that a line's end does
			}
		})
		lines = lines[fit:]
	}
	s.Ln(1.2)
}

// rowSize is the size of letters in tables.
const rowSize = 8.6

// row writes a table's row; cells break into lines, the row is as high as the highest.
func (s *sheet) row(widths []float64, bold bool, cells ...string) {
	style, kind := "", "TD"
	if bold {
		style, kind = "B", "TH"
	}
	lines := 1
	for i, c := range cells {
		c = s.decimals(c)
		cells[i] = c
		s.write(style, rowSize, c)
		lines = max(lines, len(s.SplitText(c, widths[i]-2)))
	}
	h := float64(lines)*4 + 1.4 + s.under
	if s.GetY()+h > s.low {
		s.AddPage()
	}
	if s.table == nil {
		s.table = s.start("Table")
	}
	x, y, tr := s.GetX(), s.GetY(), s.table.under("TR")
	for i, c := range cells {
		s.SetXY(x, y+0.7)
		align := "L"
		if strings.HasPrefix(c, "\t") {
			align, c = "R", c[1:]
		}
		s.write(style, rowSize, c)
		cell := tr.under(kind)
		if c != "" {
			s.marked(cell, func() { s.MultiCell(widths[i], 4, c, "", align, false) })
		}
		x += widths[i]
	}
	left, _, _, _ := s.GetMargins()
	s.SetDrawColor(203, 196, 178)
	s.aside(func() { s.Line(left, y+h, x, y+h) })
	s.SetXY(left, y+h)
}

func (s *sheet) bytes() ([]byte, error) {
	var b bytes.Buffer
	if err := s.Output(&b); err != nil {
		return nil, err
	}
	return tagged(b.Bytes(), s.doc)
}

// face draws the map of a face to scale, a hundred millimetres wide at most.
func (s *sheet) face(l layout.Layout, says map[string]gauge.Verdict) {
	k := min(150/l.Length.Millimetres(), 60/l.Width.Millimetres())
	x0, y0 := s.GetX(), s.GetY()
	h := l.Width.Millimetres() * k
	drawn := s.start("Figure")
	drawn.alt = s.t("map of the face") + ":"
	for _, v := range l.Valves {
		drawn.alt += " " + v.ID + " " + s.t(says[v.ID].Label()) + "."
	}
	s.marked(drawn, func() { s.drawFace(l, says, x0, y0, k) })
	left, _, _, _ := s.GetMargins()
	s.SetXY(left, y0+h+3)
}

func (s *sheet) drawFace(l layout.Layout, says map[string]gauge.Verdict, x0, y0, k float64) {
	h := l.Width.Millimetres() * k
	s.SetDrawColor(30, 42, 54)
	s.SetLineWidth(0.25)
	s.RoundedRect(x0, y0, l.Length.Millimetres()*k, h, 1.2, "1234", "D")
	for _, c := range l.Chambers {
		s.Circle(x0+c.X.Millimetres()*k, y0+h-c.Y.Millimetres()*k, c.D.Millimetres()/2*k, "D")
	}
	for _, c := range l.Bolts {
		s.Circle(x0+c.X.Millimetres()*k, y0+h-c.Y.Millimetres()*k, c.D.Millimetres()/2*k, "D")
	}
	s.write("B", 6, "1E1")
	for _, v := range l.Valves {
		x, y, r := x0+v.X.Millimetres()*k, y0+h-v.Y.Millimetres()*k, v.Head.Millimetres()/2*k
		s.Circle(x, y, r, "D")
		s.verdict(says[v.ID], x, y-r*0.25, r*0.36)
		s.SetXY(x-r, y+r*0.15)
		s.CellFormat(2*r, 2.6, v.ID, "", 0, "C", false, 0, "")
	}
}

// verdict draws the verdict's shape, as on the screen: shape before colour.
func (s *sheet) verdict(v gauge.Verdict, x, y, r float64) {
	diamond := []fpdf.PointType{{X: x, Y: y - r}, {X: x + r, Y: y}, {X: x, Y: y + r}, {X: x - r, Y: y}}
	switch v {
	case gauge.Sound:
		s.SetFillColor(43, 106, 75)
		s.Circle(x, y, r, "F")
	case gauge.Near:
		s.SetFillColor(143, 100, 0)
		s.Circle(x, y, r, "F")
		s.SetFillColor(255, 255, 255)
		s.Rect(x-r, y-r, 2*r, r*0.5, "F")
	case gauge.Doubt:
		s.SetDrawColor(87, 72, 154)
		s.Circle(x, y, r, "D")
		s.Line(x-r*0.6, y, x+r*0.6, y)
	case gauge.Out, gauge.Renew:
		s.SetDrawColor(166, 49, 32)
		s.Polygon(diamond, "D")
		if v == gauge.Renew {
			s.Line(x-r/2, y-r/2, x+r/2, y+r/2)
			s.Line(x+r/2, y-r/2, x-r/2, y+r/2)
		}
	default:
		s.SetDrawColor(134, 137, 138)
		s.Circle(x, y, r, "D")
	}
	s.SetDrawColor(30, 42, 54)
}

// logo puts the shop's logo into the corner on the right above the line, 11 millimetres high and 60 wide at
// most, and returns where it ends. It is decoration: the shop's name stands beside it as text.
func (s *sheet) logo(l shop.Logo) float64 {
	if len(l.JPEG) == 0 {
		return 0
	}
	const high, wide = 11, 60
	w := min(wide, high*float64(l.Width)/float64(max(1, l.Height)))
	h := w * float64(l.Height) / float64(max(1, l.Width))
	_, top, right, _ := s.GetMargins()
	width, _ := s.GetPageSize()
	of := fpdf.ImageOptions{ImageType: "JPG"}
	s.RegisterImageOptionsReader("logo", of, bytes.NewReader(l.JPEG))
	s.aside(func() { s.ImageOptions("logo", width-right-w, top-2, w, h, false, of, 0, "") })
	return top + h - 1
}

// photo puts a picture on the page, at most 80 by 60 millimetres, with its caption.
func (s *sheet) photo(i int, p shop.Photo) {
	w := min(80, 60*float64(p.Width)/float64(max(1, p.Height)))
	h := w * float64(p.Height) / float64(max(1, p.Width))
	if s.GetY()+h+8 > s.low {
		s.AddPage()
	}
	name := fmt.Sprintf("photo%d", i)
	s.RegisterImageOptionsReader(name, fpdf.ImageOptions{ImageType: "JPG"}, bytes.NewReader(p.JPEG))
	picture := s.start("Figure")
	picture.alt = cmp.Or(strings.TrimSpace(p.Position+" "+p.Caption), s.t("photo"))
	s.marked(picture, func() {
		s.ImageOptions(name, s.GetX(), s.GetY(), w, h, true, fpdf.ImageOptions{ImageType: "JPG"}, 0, "")
	})
	s.text(8.5, false, strings.TrimSpace(p.Position+" "+p.Caption))
}

// day writes a day as the paper in English does.
func day(t time.Time) string { return words.English.Long(t) }

// groups names a quote's groups in a customer's words.
var groups = map[string]string{
	headfile.Must: "Must: for safety, or it will not work", headfile.Should: "Should: near its limit",
	headfile.Could: "Could: cheaper now, while it is open",
}

// afterwards is what a quote does not know yet, in a customer's words.
const afterwards = "What shows only when a head is clean and tested may need a supplement; we ask before we do it. " +
	"The maker's instructions and local rules go before any figure here."

// Ways are the ways to go about a head: plans of mending it, and heads to be had instead.
type Ways struct {
	Options []lead.Planned
	Instead []lead.Replacement
}

// ways writes the ways side by side, when there is a choice.
func (s *sheet) ways(w Ways) {
	if len(w.Options)+len(w.Instead) < 2 {
		return
	}
	widths := []float64{62, 28, 36, 52}
	s.heading(s.t("Ways to go about it"))
	s.row(widths, true, s.t("Way"), "\t"+s.t("About, before tax"), s.t("Could be ready"), s.t("Life"))
	for _, o := range w.Options {
		s.row(widths, false, s.t(o.Label()), "\t"+shop.Cash(o.Cents), s.in.Long(o.Ready), o.Life.In(s.in))
	}
	for _, r := range w.Instead {
		name := r.Name
		if r.Kind == "used head" {
			name += ", " + s.t("plus its own repair")
		}
		s.row(widths, false, name, "\t"+shop.Cash(r.PriceCents), s.t("in %d days", r.Days), "")
	}
	s.text(8.5, false, s.t("The lines below are one of these ways; call us for another."))
	s.Ln(2)
}

// totals adds up quotes that are answered together.
func (s *sheet) totals(quotes headfile.Together) {
	t, q := quotes.Totals(), quotes[0].Q
	for _, line := range quotes.Sums() {
		s.row([]float64{138, 40}, false, line.What.In(s.in), "\t"+shop.Cash(line.Cents))
	}
	s.taxed(quotes.WithTax(), t.Gross-t.Tax, t.Gross, q.Currency, quotes.Taxed())
	if d := quotes.Deposit(); d > 0 {
		s.text(9.5, true, s.t("A deposit of %s, tax in it, is asked for before the work begins.",
			shop.Cash(d)+" "+q.Currency))
	}
	if n := quotes.Unpriced(); n > 0 {
		s.text(9.5, true, s.t("and %d parts whose price follows", n))
	}
}

// goodwill says what the shop takes on itself of a quote.
func (s *sheet) goodwill(q headfile.QuotePage) {
	switch {
	case q.Goodwill() == 100:
		s.text(10, true, s.t("The must lines are at no charge.")+" "+q.GoodwillWhy)
	case q.GoodwillPPM > 0:
		s.text(10, true, s.t("We take %d %% of the must lines on ourselves: the prices below are what is left.",
			q.Goodwill())+" "+q.GoodwillWhy)
	}
}

// Quoted is a head as a quote on paper shows it: with the ways the customer can choose between and the
// photos that are shown.
type Quoted struct {
	*headfile.File
	Q      headfile.QuotePage
	Ways   Ways
	Photos []shop.Photo
}

// Quotes writes quotes that are answered together as PDF: head by head, with one sum at the end.
func Quotes(heads []Quoted, h House) ([]byte, error) {
	var t headfile.Together
	for _, x := range heads {
		t = append(t, headfile.Joined{Head: x.Head, Q: x.Q})
	}
	first := heads[0]
	in := words.In(first.Job.Customer.Language)
	title := in.Say("Quote %d for tag %s", first.Q.Version, t.Tags())
	if first.Q.Kind == "supplement" {
		title = in.Say("Supplement %d for tag %s", first.Q.Version, t.Tags())
	}
	s := newSheet(title, h.Name+", "+in.Long(first.Q.At), h, in)
	for _, x := range heads {
		if len(heads) > 1 {
			s.heading(x.Tag)
		}
		s.quoted(x)
		if len(heads) > 1 {
			s.row([]float64{138, 40}, true, s.t("Work and parts"), "\t"+shop.Cash(x.Q.ShownOf()))
			s.Ln(4)
		}
	}
	s.totals(t)
	s.Ln(3)
	if why := first.Untaxed(in); why != "" && first.Q.Tax().None() {
		s.text(9.5, false, why)
	}
	if ready := t.Ready(); ready != nil {
		s.text(9.5, false, s.t("Could be ready %s, once it is approved and the parts are here.", in.Long(*ready)))
	}
	if a := t.Answered(); a != nil {
		s.text(9.5, true, s.t("Answered by %s, %s, %s. The answer is frozen.", a.Name, in.Long(a.At), a.How))
	}
	s.text(8.5, false, s.t(afterwards))
	return s.bytes()
}

// quoted writes the lines of one head.
func (s *sheet) quoted(x Quoted) {
	f, q := x.File, x.Q
	s.text(10, false, fmt.Sprintf("%s: %s, %s. %s", f.Job.Customer.Name, f.Model.Name, f.Job.Machine.Name,
		f.Model.About))
	s.face(f.Layout, verdicts(f))
	for i, ph := range x.Photos {
		s.photo(i, ph)
	}
	if q.Note != "" {
		s.text(10, false, q.Note)
	}
	s.goodwill(q)
	s.ways(x.Ways)
	for _, g := range headfile.Groups {
		s.quotedLines(f, q, s.t(groups[g]), q.Beside(g))
	}
	s.quotedLines(f, q, s.t("Sooner: for a surcharge"), q.Earlier())
}

// quotedLines writes lines of a quote under a heading, and nothing of none.
func (s *sheet) quotedLines(
	f *headfile.File, q headfile.QuotePage, heading string, lines []shop.QuoteLine,
) {
	if len(lines) == 0 {
		return
	}
	s.heading(heading)
	for _, l := range lines {
		what := s.t(l.Name)
		if l.Positions != "" {
			what += " " + headfile.AllOf(f.Layout, l.Positions).In(s.in)
		}
		said := ""
		if q.Answers != nil {
			said = s.t(map[bool]string{true: "yes", false: "no"}[q.Answers[l.Seq]])
		}
		s.row([]float64{46, 92, 18, 22}, false, what, s.why(l), said, "\t"+shop.Cash(q.Shown(l)))
	}
	s.Ln(2)
}

// why says what a line is for, with its parts.
func (s *sheet) why(l shop.QuoteLine) string {
	why := l.Because().In(s.in)
	if l.Parts != "" {
		why += ". " + s.t("Parts: %s", l.Parts)
	}
	if l.Unpriced > 0 {
		why += ". " + s.t("Price of parts to follow.")
	}
	return why
}

func verdicts(f *headfile.File) map[string]gauge.Verdict {
	out := map[string]gauge.Verdict{}
	for _, p := range f.Received.Positions {
		out[p.ID] = p.Worst
	}
	return out
}
