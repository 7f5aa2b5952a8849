package invoice

import "encoding/xml"

// The elements of the norm that are used, in its order and under its names.

type document struct {
	XMLName xml.Name `xml:"rsm:CrossIndustryInvoice"`
	RSM     string   `xml:"xmlns:rsm,attr"`
	RAM     string   `xml:"xmlns:ram,attr"`
	UDT     string   `xml:"xmlns:udt,attr"`
	Of      string   `xml:"rsm:ExchangedDocumentContext>ram:GuidelineSpecifiedDocumentContextParameter>ram:ID"`
	Doc     head     `xml:"rsm:ExchangedDocument"`
	Trade   trade    `xml:"rsm:SupplyChainTradeTransaction"`
}

type head struct {
	ID     string `xml:"ram:ID"`
	Kind   string `xml:"ram:TypeCode"`
	Issued date   `xml:"ram:IssueDateTime>udt:DateTimeString"`
	Notes  []note `xml:"ram:IncludedNote"`
}

type note struct {
	Text string `xml:"ram:Content"`
}

type date struct {
	Format string `xml:"format,attr"`
	Text   string `xml:",chardata"`
}

type trade struct {
	Lines      []line     `xml:"ram:IncludedSupplyChainTradeLineItem"`
	Agreement  agreement  `xml:"ram:ApplicableHeaderTradeAgreement"`
	Delivery   delivery   `xml:"ram:ApplicableHeaderTradeDelivery"`
	Settlement settlement `xml:"ram:ApplicableHeaderTradeSettlement"`
}

type line struct {
	Number   string   `xml:"ram:AssociatedDocumentLineDocument>ram:LineID"`
	Name     string   `xml:"ram:SpecifiedTradeProduct>ram:Name"`
	Price    string   `xml:"ram:SpecifiedLineTradeAgreement>ram:NetPriceProductTradePrice>ram:ChargeAmount"`
	Quantity quantity `xml:"ram:SpecifiedLineTradeDelivery>ram:BilledQuantity"`
	Tax      category `xml:"ram:SpecifiedLineTradeSettlement>ram:ApplicableTradeTax"`
	Sum      string   `xml:"ram:SpecifiedLineTradeSettlement>ram:SpecifiedTradeSettlementLineMonetarySummation>ram:LineTotalAmount"`
}

type quantity struct {
	Unit string `xml:"unitCode,attr"`
	Text string `xml:",chardata"`
}

type category struct {
	Kind string `xml:"ram:TypeCode"`
	Code string `xml:"ram:CategoryCode"`
	Rate string `xml:"ram:RateApplicablePercent"`
}

type agreement struct {
	Seller trader `xml:"ram:SellerTradeParty"`
	Buyer  trader `xml:"ram:BuyerTradeParty"`
}

type trader struct {
	Name    string   `xml:"ram:Name"`
	Address *address `xml:"ram:PostalTradeAddress"`
	TaxNo   *taxNo   `xml:"ram:SpecifiedTaxRegistration"`
}

type address struct {
	Line    string `xml:"ram:LineOne,omitempty"`
	Country string `xml:"ram:CountryID,omitempty"`
}

type taxNo struct {
	ID taxID `xml:"ram:ID"`
}

type taxID struct {
	Scheme string `xml:"schemeID,attr"`
	Text   string `xml:",chardata"`
}

type delivery struct {
	Day date `xml:"ram:ActualDeliverySupplyChainEvent>ram:OccurrenceDateTime>udt:DateTimeString"`
}

type settlement struct {
	Currency string     `xml:"ram:InvoiceCurrencyCode"`
	Taxes    []tax      `xml:"ram:ApplicableTradeTax"`
	Terms    *terms     `xml:"ram:SpecifiedTradePaymentTerms"`
	Sums     sums       `xml:"ram:SpecifiedTradeSettlementHeaderMonetarySummation"`
	Credits  *reference `xml:"ram:InvoiceReferencedDocument"`
}

type tax struct {
	Sum  string `xml:"ram:CalculatedAmount"`
	Kind string `xml:"ram:TypeCode"`
	Why  string `xml:"ram:ExemptionReason,omitempty"`
	Of   string `xml:"ram:BasisAmount"`
	Code string `xml:"ram:CategoryCode"`
	Rate string `xml:"ram:RateApplicablePercent"`
}

type terms struct {
	Due date `xml:"ram:DueDateDateTime>udt:DateTimeString"`
}

type sums struct {
	Lines string `xml:"ram:LineTotalAmount"`
	Net   string `xml:"ram:TaxBasisTotalAmount"`
	Tax   taxSum `xml:"ram:TaxTotalAmount"`
	Gross string `xml:"ram:GrandTotalAmount"`
	Open  string `xml:"ram:DuePayableAmount"`
}

type taxSum struct {
	Currency string `xml:"currencyID,attr"`
	Text     string `xml:",chardata"`
}

type reference struct {
	Number string `xml:"ram:IssuerAssignedID"`
}
