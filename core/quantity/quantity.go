// Package quantity reads the shop's other quantities: forces, volumes, pressures,
// temperatures, torques and angles. Parse is its door; it is as strict as
// length.Parse and as exact: the answer is a rational number of the base unit.
package quantity

import (
	"errors"
	"math/big"
	"slices"
	"strconv"
	"strings"

	"yatai/core/field"
	"yatai/core/length"
)

// Kind is a kind of quantity with its base unit.
type Kind struct {
	Name string // "force"
	Base string // base unit: "N"
	// units maps a spelling to scale and zero: base = text*scale + zero.
	units map[string]affine
	names []string // spellings to offer, in order
}

type affine struct{ scale, zero *big.Rat }

func rat(s string) *big.Rat {
	r, ok := new(big.Rat).SetString(s)
	if !ok {
		panic("quantity: bad constant " + s)
	}
	return r
}

// kind builds a Kind from triples of spelling, scale and zero.
func kind(name, base string, triples ...string) Kind {
	k := Kind{Name: name, Base: base, units: map[string]affine{}}
	for t := range slices.Chunk(triples, 3) {
		k.units[t[0]] = affine{rat(t[1]), rat(t[2])}
		k.names = append(k.names, t[0])
	}
	return k
}

// The kinds. Scales are the exact definitions of the units; an inch of mercury is
// the conventional one at 0 degrees C.
var (
	Force = kind("force", "N", "N", "1", "0", "kN", "1000", "0", "lbf", "4.4482216152605", "0", "kgf",
		"9.80665", "0")
	Volume   = kind("volume", "cc", "cc", "1", "0", "ml", "1", "0", "cm3", "1", "0", "in3", "16.387064", "0")
	Pressure = kind(
		"pressure", "kPa", "kPa", "1", "0", "bar", "100", "0", "psi", "6.894757293168361", "0", "inHg",
		"3.386388640341", "0", "mbar", "0.1", "0",
		"MPa", "1000", "0",
	)
	Temperature = kind("temperature", "C", "C", "1", "0", "°C", "1", "0", "F", "5/9", "-160/9", "°F", "5/9",
		"-160/9", "K", "1", "-273.15")
	Torque = kind("torque", "Nm", "Nm", "1", "0", "lbft", "1.3558179483314004", "0", "lbin",
		"0.1129848290276167", "0", "kgm", "9.80665", "0")
	Angle = kind("angle", "deg", "deg", "1", "0", "°", "1", "0")
)

// Parse reads text as a quantity of kind k and returns it in k.Base, exactly. A
// missing or unknown unit is an error.
func Parse(text string, k Kind) (*big.Rat, error) {
	n, rest, err := length.Number(text)
	if err != nil {
		return nil, err
	}
	if rest == "" {
		return nil, field.Errorf("", "the unit is missing: use %s", strings.Join(k.names, ", "))
	}
	u, ok := k.units[rest]
	if !ok {
		return nil, field.Errorf("", "unknown unit %q: use %s", rest, strings.Join(k.names, ", "))
	}
	n.Mul(n, u.scale)
	return n.Add(n, u.zero), nil
}

// Units returns the spellings of the kind's units.
func (k Kind) Units() []string { return slices.Clone(k.names) }

// Decimal is a result that is not a length; in JSON it has 6 significant digits.
type Decimal float64

// ErrNotFinite is returned for a result that has left the range of numbers.
var ErrNotFinite = errors.New("the figures lead to no finite number")

// MarshalJSON writes d with 6 significant digits.
func (d Decimal) MarshalJSON() ([]byte, error) {
	s := d.String()
	if strings.ContainsAny(s, "NI") {
		return nil, ErrNotFinite
	}
	return []byte(s), nil
}

func (d Decimal) String() string {
	f, err := strconv.ParseFloat(strconv.FormatFloat(float64(d), 'g', 6, 64), 64)
	if err != nil {
		f = float64(d)
	}
	return strconv.FormatFloat(f, 'f', -1, 64)
}

// Float returns r as the nearest float64.
func Float(r *big.Rat) float64 { f, _ := r.Float64(); return f }
