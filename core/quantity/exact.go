package quantity

import "math/big"

// Exact is an amount of one kind in the kind's base unit, without rounding: a force is another
// type than a volume, and the compiler keeps them apart. Its zero value is nothing of the kind.
type Exact[K kindOf] struct{ n *big.Rat }

// The kinds as types.
type (
	Newtons = Exact[newtons]
	CC      = Exact[cc] // cubic centimetres
	KPa     = Exact[kPa]
	Celsius = Exact[celsius]
	Degrees = Exact[degrees] // of an angle
)

type (
	newtons struct{}
	cc      struct{}
	kPa     struct{}
	celsius struct{}
	degrees struct{}
)

// kindOf is what tells the kinds apart.
type kindOf interface{ kind() Kind }

func (newtons) kind() Kind { return Force }
func (cc) kind() Kind      { return Volume }
func (kPa) kind() Kind     { return Pressure }
func (celsius) kind() Kind { return Temperature }
func (degrees) kind() Kind { return Angle }

// Newtons returns an amount of force as one.
func (a Amount) Newtons() Newtons { return Newtons{a.Rat()} }

// CC returns an amount of volume as one.
func (a Amount) CC() CC { return CC{a.Rat()} }

// KPa returns an amount of pressure as one.
func (a Amount) KPa() KPa { return KPa{a.Rat()} }

// Degrees returns an amount of angle as one.
func (a Amount) Degrees() Degrees { return Degrees{a.Rat()} }

// CelsiusOf returns num/den degrees Celsius; den must not be 0.
func CelsiusOf(num, den int64) Celsius { return Celsius{big.NewRat(num, den)} }

// Kind returns the kind it is of.
func (e Exact[K]) Kind() Kind {
	var k K
	return k.kind()
}

// Parse reads text with a unit of the kind into e, as Parse does.
func (e *Exact[K]) Parse(text string) error {
	n, err := Parse(text, e.Kind())
	if err == nil {
		e.n = n
	}
	return err
}

// Set makes e so many base units.
func (e *Exact[K]) Set(n *big.Rat) { e.n = n }

// Rat returns the base units of e, which the caller may change.
func (e Exact[K]) Rat() *big.Rat {
	if e.n == nil {
		return new(big.Rat)
	}
	return new(big.Rat).Set(e.n)
}

// Amount returns e to a millionth of the base unit, halves away from zero.
func (e Exact[K]) Amount() Amount { return OfRat(e.Rat()) }

// Float returns the nearest float64 to the base units of e.
func (e Exact[K]) Float() float64 { return Float(e.Rat()) }

// Add returns e and o together.
func (e Exact[K]) Add(o Exact[K]) Exact[K] { return Exact[K]{new(big.Rat).Add(e.Rat(), o.Rat())} }

// Sub returns e less o.
func (e Exact[K]) Sub(o Exact[K]) Exact[K] { return Exact[K]{new(big.Rat).Sub(e.Rat(), o.Rat())} }

// Cmp returns -1, 0 or 1 as e is less than, as much as or more than o.
func (e Exact[K]) Cmp(o Exact[K]) int { return e.Rat().Cmp(o.Rat()) }

// Sign returns -1, 0 or 1 as e is below, at or above nothing.
func (e Exact[K]) Sign() int { return e.Rat().Sign() }

// String writes e with its base unit, 6 significant digits: "12.5 kPa".
func (e Exact[K]) String() string { return Decimal(e.Float()).String() + " " + e.Kind().Base }
