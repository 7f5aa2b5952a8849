// Package length holds exact lengths: whole numbers of nanometres.
//
// An inch is 25 400 000 nm and a tenth of a thou 2 540 nm, so every size read in
// the shop, inch or metric, is a whole number and differences are exact:
//
//	a, _ := length.Parse("0.2795in", length.None)
//	b, _ := length.Parse("0.2778in", length.None)
//	a - b == 17*length.Thou/10 // true
//
// Parse is the door in, Length.MM, Length.In and Length.Text the doors out. Where
// a division or a root leaves a fraction, Round, Mean and RSS give the nearest
// nanometre, halves away from zero.
package length

import (
	"math"
	"math/big"
)

// Length is a length in whole nanometres, signed.
type Length int64

// Sizes of the units in nanometres, exact.
const (
	Nanometre  Length = 1
	Micrometre Length = 1_000
	Hundredth  Length = 10_000 // of a millimetre
	Thou       Length = 25_400 // of an inch
	Millimetre Length = 1_000_000
	Centimetre Length = 10_000_000
	Inch       Length = 25_400_000
	Metre      Length = 1_000_000_000
)

// Max is the longest length accepted from outside, either sign: 10 m.
const Max = 10 * Metre

// Abs returns the length without its sign.
func (l Length) Abs() Length {
	if l < 0 {
		return -l
	}
	return l
}

// Rat returns the length in nanometres as a rational number.
func (l Length) Rat() *big.Rat { return new(big.Rat).SetInt64(int64(l)) }

// Millimetres returns the length in millimetres, for drawings and for formulas
// that are not exact anyway. Never compare its result with a limit.
func (l Length) Millimetres() float64 { return float64(l) / float64(Millimetre) }

// Round returns the nearest whole nanometre to nm, halves away from zero.
func Round(nm *big.Rat) Length {
	num, den := new(big.Int).Set(nm.Num()), nm.Denom()
	sign := num.Sign()
	num.Abs(num).Lsh(num, 1).Add(num, den)
	num.Quo(num, new(big.Int).Lsh(den, 1))
	if sign < 0 {
		num.Neg(num)
	}
	if !num.IsInt64() {
		return Length(sign) * math.MaxInt64
	}
	return Length(num.Int64())
}

// Div returns l/n as the nearest whole number, halves away from zero. It panics if n is not positive.
func Div[T ~int64](l T, n int64) T {
	if n <= 0 {
		panic("length: division by a number that is not positive")
	}
	q, r := int64(l)/n, int64(l)%n
	switch {
	case 2*r >= n:
		q++
	case 2*r <= -n:
		q--
	}
	return T(q)
}

// FromFloat returns the nearest whole nanometre to nm, halves away from zero. It is
// for results of roots and angles only.
func FromFloat(nm float64) Length { return Length(math.Round(nm)) }

// RSS returns the root of the sum of squares, the way independent doubts add:
// sqrt(a² + b² + ...).
func RSS[T ~int64](us ...T) T {
	var sum float64
	for _, u := range us {
		sum = math.Hypot(sum, float64(u))
	}
	return T(FromFloat(sum))
}

// MeanRat returns the exact mean of ls, in nanometres for lengths. It panics on an empty list.
func MeanRat[T ~int64](ls []T) *big.Rat {
	var sum int64
	for _, l := range ls {
		sum += int64(l)
	}
	return big.NewRat(sum, int64(len(ls)))
}

// Mean returns the mean of ls, rounded once. It panics on an empty list.
func Mean[T ~int64](ls []T) T { return T(Round(MeanRat(ls))) }
