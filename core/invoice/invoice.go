// Package invoice writes a bill as an electronic invoice: the cross-industry invoice of UN/CEFACT, in the
// profile of the European norm EN 16931, which programs that keep books read. Invoice.XML is its door.
//
// A line that takes something off, a discount or what the shop gives, is a line of quantity -1 at its price:
// the norm knows no price less than nothing. A credit is an invoice of its own kind, whose sums are what it
// gives back. What a shop has to say of its tax differs from country to country: the invoice says each
// rate, and of no tax the shop's own words or that who receives it owes it.
package invoice

import (
	"encoding/xml"
	"regexp"
	"strconv"
	"time"

	"yatai/core/money"
)

// Party is who sells or buys.
type Party struct {
	Name    string
	Address string // in one line; empty where it is not known
	Country string // two letters, as DE; empty where it is not known
	TaxNo   string // with the two letters of its country, or as the tax office writes it
}

// Line is what is charged for, in cents before tax; less than nothing where something is taken off.
type Line struct {
	Name  string
	Cents int64
	PPM   int64 // its rate of tax, in millionths
}

// Invoice is a bill, or what credits one. Sums are cents, of a credit what it gives back.
type Invoice struct {
	Number   string
	Credits  string // number of the bill it credits; empty for none
	Issued   time.Time
	Due      time.Time     // not of a credit
	Currency string        // three letters
	Taxed    []money.Taxed // by rate
	Reverse  bool          // who receives it owes the tax
	NoTax    string        // why no tax is charged, where none is
	Note     string        // empty for none
	Seller   Party
	Buyer    Party
	Lines    []Line
}

// The codes of the norm that are used.
const (
	profile    = "urn:cen.eu:en16931:2017"
	commercial = "380" // kind of document
	credit     = "381"
	byDay      = "102" // how a date is written: 20310528
	one        = "C62" // unit: one of it
	standard   = "S"   // taxed at a rate
	exempt     = "E"   // not taxed, for a reason that is said
	reverse    = "AE"  // who receives it owes the tax
)

// XML writes the invoice.
func (v Invoice) XML() ([]byte, error) {
	doc := document{
		RSM: "urn:un:unece:uncefact:data:standard:CrossIndustryInvoice:100",
		RAM: "urn:un:unece:uncefact:data:standard:ReusableAggregateBusinessInformationEntity:100",
		UDT: "urn:un:unece:uncefact:data:standard:UnqualifiedDataType:100",
		Of:  profile,
		Doc: head{ID: v.Number, Kind: commercial, Issued: day(v.Issued)},
	}
	if v.Credits != "" {
		doc.Doc.Kind = credit
	}
	if v.Note != "" {
		doc.Doc.Notes = append(doc.Doc.Notes, note{v.Note})
	}
	for i, l := range v.Lines {
		doc.Trade.Lines = append(doc.Trade.Lines, v.line(i+1, l))
	}
	doc.Trade.Agreement = agreement{party(v.Seller), party(v.Buyer)}
	doc.Trade.Delivery.Day = day(v.Issued)
	doc.Trade.Settlement = v.settlement()
	out, err := xml.MarshalIndent(doc, "", "  ")
	return append([]byte(xml.Header), append(out, '\n')...), err
}

func (v Invoice) line(n int, l Line) line {
	out := line{
		Number: strconv.Itoa(n), Name: l.Name, Price: money.Text(max(l.Cents, -l.Cents)),
		Quantity: quantity{Unit: one, Text: "1"}, Tax: v.category(l.PPM), Sum: money.Text(l.Cents),
	}
	if l.Cents < 0 {
		out.Quantity.Text = "-1"
	}
	return out
}

// category is how something at a rate is taxed.
func (v Invoice) category(ppm int64) category {
	c := category{Kind: "VAT", Code: standard, Rate: money.Taxed{PPM: ppm}.Percent()}
	switch {
	case ppm == 0 && v.Reverse:
		c.Code = reverse
	case ppm == 0:
		c.Code = exempt
	}
	return c
}

func (v Invoice) settlement() settlement {
	s := settlement{Currency: v.Currency}
	var net, charged int64
	for _, x := range v.Taxed {
		net, charged = net+x.Net, charged+x.Tax
		c := v.category(x.PPM)
		t := tax{Sum: money.Text(x.Tax), Kind: c.Kind, Of: money.Text(x.Net), Code: c.Code, Rate: c.Rate}
		if x.PPM == 0 {
			t.Why = v.NoTax
		}
		s.Taxes = append(s.Taxes, t)
	}
	before, gross := money.Text(net), money.Text(net+charged)
	s.Sums = sums{
		Lines: before, Net: before, Tax: taxSum{v.Currency, money.Text(charged)}, Gross: gross, Open: gross,
	}
	if v.Credits != "" {
		s.Credits = &reference{v.Credits}
	} else {
		s.Terms = &terms{day(v.Due)}
	}
	return s
}

// country begins a tax number that is for trade between countries.
var country = regexp.MustCompile(`^[A-Z]{2}`)

// party is a party as the norm writes it: a tax number that begins with its country is the one for trade
// between countries.
func party(p Party) trader {
	out := trader{Name: p.Name}
	if p.Address != "" || p.Country != "" {
		out.Address = &address{Line: p.Address, Country: p.Country}
	}
	if p.TaxNo != "" {
		out.TaxNo = &taxNo{taxID{"FC", p.TaxNo}}
		if country.MatchString(p.TaxNo) {
			out.TaxNo.ID.Scheme = "VA"
		}
	}
	return out
}

func day(t time.Time) date { return date{byDay, t.Local().Format("20060102")} }
