package invoice_test

import (
	"encoding/xml"
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"yatai/core/bill"
	"yatai/core/invoice"
	"yatai/core/money"
)

// taxed is what is taxed in one way.
type taxed struct {
	Sum      string `xml:"CalculatedAmount"`
	Why      string `xml:"ExemptionReason"`
	Of       string `xml:"BasisAmount"`
	Category string `xml:"CategoryCode"`
	Rate     string `xml:"RateApplicablePercent"`
}

// read is what a program that keeps books takes from an invoice.
type read struct {
	Profile string `xml:"ExchangedDocumentContext>GuidelineSpecifiedDocumentContextParameter>ID"`
	Number  string `xml:"ExchangedDocument>ID"`
	Kind    string `xml:"ExchangedDocument>TypeCode"`
	Lines   []struct {
		Name     string `xml:"SpecifiedTradeProduct>Name"`
		Category string `xml:"SpecifiedLineTradeSettlement>ApplicableTradeTax>CategoryCode"`
		Price    string `xml:"SpecifiedLineTradeAgreement>NetPriceProductTradePrice>ChargeAmount"`
		Quantity string `xml:"SpecifiedLineTradeDelivery>BilledQuantity"`
		Sum      string `xml:"SpecifiedLineTradeSettlement>SpecifiedTradeSettlementLineMonetarySummation>LineTotalAmount"`
	} `xml:"SupplyChainTradeTransaction>IncludedSupplyChainTradeLineItem"`
	TaxNo struct {
		Scheme string `xml:"schemeID,attr"`
		Text   string `xml:",chardata"`
	} `xml:"SupplyChainTradeTransaction>ApplicableHeaderTradeAgreement>SellerTradeParty>SpecifiedTaxRegistration>ID"`
	Rest struct {
		Currency string  `xml:"InvoiceCurrencyCode"`
		Taxed    []taxed `xml:"ApplicableTradeTax"`
		Due      string  `xml:"SpecifiedTradePaymentTerms>DueDateDateTime>DateTimeString"`
		Lines    string  `xml:"SpecifiedTradeSettlementHeaderMonetarySummation>LineTotalAmount"`
		Tax      string  `xml:"SpecifiedTradeSettlementHeaderMonetarySummation>TaxTotalAmount"`
		Gross    string  `xml:"SpecifiedTradeSettlementHeaderMonetarySummation>GrandTotalAmount"`
		Open     string  `xml:"SpecifiedTradeSettlementHeaderMonetarySummation>DuePayableAmount"`
		Credits  string  `xml:"InvoiceReferencedDocument>IssuerAssignedID"`
	} `xml:"SupplyChainTradeTransaction>ApplicableHeaderTradeSettlement"`
}

func readBack(t require.TestingT, v invoice.Invoice) (r read) {
	text, err := v.XML()
	require.NoError(t, err)
	require.NoError(t, xml.Unmarshal(text, &r))
	return r
}

func example() invoice.Invoice {
	day := time.Date(2031, 5, 28, 16, 0, 0, 0, time.Local)
	return invoice.Invoice{
		Number: "2031-0007", Issued: day, Due: day.AddDate(0, 0, 14), Currency: "EUR",
		Seller: invoice.Party{Name: "Head shop", Address: "Quay 4", Country: "DE", TaxNo: "DE123456789"},
		Buyer:  invoice.Party{Name: "Lindner & Söhne <Agrar>", Country: "DE"},
		Lines:  []invoice.Line{{"New guides", 140_00, 190_000}, {"Discount", -5_00, 190_000}},
		Taxed:  []money.Taxed{{PPM: 190_000, Net: 135_00, Tax: 25_65}},
	}
}

// TestABillIsReadBack: a line that takes something off has a quantity of -1, never a price less than nothing.
func TestABillIsReadBack(t *testing.T) {
	r := readBack(t, example())
	assert.Equal(t, "urn:cen.eu:en16931:2017", r.Profile)
	assert.Equal(t, []string{"2031-0007", "380"}, []string{r.Number, r.Kind})
	require.Len(t, r.Lines, 2)
	assert.Equal(t, "[New guides 140.00 1 140.00]", fmt.Sprint([]any{
		r.Lines[0].Name, r.Lines[0].Price, r.Lines[0].Quantity, r.Lines[0].Sum,
	}))
	assert.Equal(t, "[Discount 5.00 -1 -5.00]", fmt.Sprint([]any{
		r.Lines[1].Name, r.Lines[1].Price, r.Lines[1].Quantity, r.Lines[1].Sum,
	}))
	assert.Equal(t, []string{"EUR", "20310611"}, []string{r.Rest.Currency, r.Rest.Due})
	assert.Equal(t, []taxed{{"25.65", "", "135.00", "S", "19"}}, r.Rest.Taxed)
	assert.Equal(t, []string{"135.00", "25.65", "160.65", "160.65"},
		[]string{r.Rest.Lines, r.Rest.Tax, r.Rest.Gross, r.Rest.Open})
	assert.Equal(t, "VA", r.TaxNo.Scheme)
}

// TestACreditNamesItsBill: a kind of its own, and nothing to pay by a day.
func TestACreditNamesItsBill(t *testing.T) {
	v := example()
	v.Number, v.Credits, v.Seller.TaxNo = "2031-0008", "2031-0007", "201/113/40209"
	r := readBack(t, v)
	assert.Equal(t, []string{"381", "2031-0007", ""}, []string{r.Kind, r.Rest.Credits, r.Rest.Due})
	assert.Equal(t, "FC", r.TaxNo.Scheme, "the tax office's own number")
}

// TestWhereNoTaxIsChargedTheReasonIsSaid, and who owes it where it is the buyer; a rate with decimals is written
// as it is.
func TestWhereNoTaxIsChargedTheReasonIsSaid(t *testing.T) {
	v := example()
	v.Lines, v.Taxed = []invoice.Line{{"New guides", 135_00, 0}}, []money.Taxed{{PPM: 0, Net: 135_00}}
	v.NoTax = "exempt as a small business"
	r := readBack(t, v)
	require.Len(t, r.Rest.Taxed, 1)
	assert.Equal(t, taxed{"0.00", "exempt as a small business", "135.00", "E", "0"}, r.Rest.Taxed[0])
	v.Reverse, v.NoTax = true, "you owe the tax"
	r = readBack(t, v)
	assert.Equal(t, taxed{"0.00", "you owe the tax", "135.00", "AE", "0"}, r.Rest.Taxed[0])
	assert.Equal(t, "AE", r.Lines[0].Category)
	v.Taxed[0] = money.Taxed{PPM: 77_500, Net: 135_00, Tax: 10_46}
	assert.Equal(t, taxed{"10.46", "", "135.00", "S", "7.75"}, readBack(t, v).Rest.Taxed[0])
}

// TestEachRateOfTaxIsSaid: lines say theirs, and the sum has one for each.
func TestEachRateOfTaxIsSaid(t *testing.T) {
	v := example()
	v.Lines = []invoice.Line{{"New guides, labour", 100_00, 0}, {"New guides, parts", 40_00, 77_500}}
	v.Taxed = money.Tax{PartsPPM: 77_500}.On(100_00, 40_00)
	v.NoTax = "labour is not taxed"
	r := readBack(t, v)
	assert.Equal(t, []taxed{
		{"0.00", "labour is not taxed", "100.00", "E", "0"}, {"3.10", "", "40.00", "S", "7.75"},
	}, r.Rest.Taxed)
	assert.Equal(t, []string{"E", "S"}, []string{r.Lines[0].Category, r.Lines[1].Category})
	assert.Equal(t, []string{"140.00", "3.10", "143.10"}, []string{r.Rest.Lines, r.Rest.Tax, r.Rest.Gross})
}

// TestTheSumsOfAnInvoiceMeet: whatever lines a bill has, they add up to its net sum as they are written.
func TestTheSumsOfAnInvoiceMeet(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		v := example()
		rate := rapid.Int64Range(0, 300_000)
		tax := money.Tax{LabourPPM: rate.Draw(t, "labour's"), PartsPPM: rate.Draw(t, "parts'")}
		v.Lines = nil
		var billed []bill.Line
		for _, cents := range rapid.SliceOfN(rapid.Int64Range(-50_00, 900_00), 1, 9).Draw(t, "lines") {
			v.Lines = append(v.Lines, invoice.Line{Name: "work", Cents: cents})
			billed = append(billed, bill.Line{Kind: bill.Done, Labour: cents / 2, Cents: cents})
		}
		sum := bill.Sum(billed, tax)
		v.Taxed = bill.Taxed(billed, tax)
		r := readBack(t, v)
		net := cents(t, r.Rest.Lines)
		for _, l := range r.Lines {
			net -= cents(t, l.Sum)
			assert.GreaterOrEqual(t, cents(t, l.Price), int64(0))
		}
		assert.Zero(t, net)
		assert.Equal(t, sum.Gross, cents(t, r.Rest.Gross))
	})
}

func cents(t require.TestingT, text string) int64 {
	sign := int64(1)
	if text[0] == '-' {
		sign, text = -1, text[1:]
	}
	n, err := money.Parse(text)
	require.NoError(t, err)
	return sign * n
}
