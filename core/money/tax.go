package money

import "strconv"

// Tax is at which rates labour and parts are taxed, in millionths of the sum before tax: in some places parts
// are taxed and labour is not, or at another rate.
type Tax struct{ LabourPPM, PartsPPM int64 }

// None tells whether nothing is taxed.
func (t Tax) None() bool { return t == Tax{} }

// Taxed is what is taxed at one rate: the sum before tax and the tax on it, in cents.
type Taxed struct{ PPM, Net, Tax int64 }

// Percent writes the rate in percent: "19", "7.75".
func (t Taxed) Percent() string { return strconv.FormatFloat(float64(t.PPM)/1e4, 'f', -1, 64) }

// On returns what labour and parts are taxed, in cents, by rate, labour's first: one where both have the same
// or there are no parts. The tax of each is rounded once, halves up; what is less than nothing is not taxed.
func (t Tax) On(labour, parts int64) []Taxed {
	switch {
	case t.LabourPPM == t.PartsPPM || parts == 0:
		return []Taxed{at(t.LabourPPM, labour+parts)}
	case labour == 0:
		return []Taxed{at(t.PartsPPM, parts)}
	}
	return []Taxed{at(t.LabourPPM, labour), at(t.PartsPPM, parts)}
}

func at(ppm, net int64) Taxed { return Taxed{ppm, net, Share(max(0, net), ppm)} }

// Of returns the tax on labour and parts, in cents.
func (t Tax) Of(labour, parts int64) (cents int64) {
	for _, x := range t.On(labour, parts) {
		cents += x.Tax
	}
	return cents
}

// Charge is what is charged for, in cents before discount and tax.
type Charge struct {
	Labour  int64 // a discount is on it
	Service int64 // done beside it, as fetching a head: no discount is on it, and it is taxed as labour
	Parts   int64
}

// Plus adds what else is charged for.
func (c Charge) Plus(o Charge) Charge {
	return Charge{c.Labour + o.Labour, c.Service + o.Service, c.Parts + o.Parts}
}

// Cents is all of it.
func (c Charge) Cents() int64 { return c.Labour + c.Service + c.Parts }
