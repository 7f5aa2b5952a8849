// Package gauge holds readings with their doubt and what can be said of them
// against a limit. Judge is its door.
package gauge

import (
	"math"

	"yatai/core/field"
	"yatai/core/length"
	"yatai/core/quantity"
)

// Value is what a gauge told: one number, or with feelers the bracket between the
// largest leaf that goes and the smallest that does not.
type Value struct {
	At      quantity.Amount // the number; not used when Bracket
	Go      quantity.Amount // largest leaf that goes, bracket only
	NoGo    quantity.Amount // smallest leaf that does not, bracket only
	Bracket bool
}

// Exact returns the Value of one number.
func Exact(at quantity.Amount) Value { return Value{At: at} }

// Between returns the Value of a bracket: at least goes, less than nogo.
func Between(goes, nogo quantity.Amount) Value { return Value{Go: goes, NoGo: nogo, Bracket: true} }

// Limit is a range with inclusive ends; a nil end is open. Near is the zone inside
// an end that is still sound but worth a look.
type Limit struct {
	Low, High *quantity.Amount
	Near      quantity.Amount
}

// Verdict is what a reading says against a limit.
type Verdict uint8

// The verdicts, from best to worst; Unread says nothing and Renew is decided by a
// finding, never by a number.
const (
	Unread Verdict = iota
	Sound
	Near
	Doubt
	Out
	Renew
)

var verdictNames = [...]string{"unread", "sound", "near", "doubt", "out", "renew"}

func (v Verdict) String() string { return verdictNames[v] }

// Label is the verdict in the words of the shop.
func (v Verdict) Label() string {
	if v == Doubt {
		return "in doubt"
	}
	return v.String()
}

// MarshalText writes the verdict's name.
func (v Verdict) MarshalText() ([]byte, error) { return []byte(v.String()), nil }

// Result is a verdict with its distance to the nearest limit (negative when past
// it) and which limit that is.
type Result struct {
	Verdict  Verdict         `json:"verdict"`
	Distance quantity.Amount `json:"distance_nm"`
	Side     string          `json:"side"`
}

// Judge holds a value with expanded uncertainty u (not negative, ignored for a
// bracket) against a limit. The value stands for the interval [at-u, at+u], a
// bracket for [go, nogo). Out: the whole interval is outside. Sound: the whole of it
// is inside. Near: sound, but closer to a limit than lim.Near. Doubt: anything else.
// With both ends open the answer is Unread. Judge does not allocate.
func Judge(v Value, u quantity.Amount, lim Limit) Result {
	if lim.Low == nil && lim.High == nil {
		return Result{}
	}
	lo, hi := v.At-u, v.At+u
	from, to := v.At, v.At
	if v.Bracket {
		lo, hi, from, to = v.Go, v.NoGo, v.Go, v.NoGo
	}
	r := Result{Verdict: Sound}
	out, in := false, true
	if lim.Low != nil {
		r.Distance, r.Side = from-*lim.Low, "low"
		out = hi < *lim.Low || v.Bracket && hi == *lim.Low
		in = lo >= *lim.Low
	}
	if lim.High != nil {
		if d := *lim.High - to; lim.Low == nil || d <= r.Distance {
			r.Distance, r.Side = d, "high"
		}
		out = out || lo > *lim.High
		in = in && hi <= *lim.High
	}
	switch {
	case out:
		r.Verdict = Out
	case !in:
		r.Verdict = Doubt
	case r.Distance < lim.Near:
		r.Verdict = Near
	}
	return r
}

// PInside is how likely the true value is inside the limit, 0 to 1, with a standard
// uncertainty of u/2: Phi(2 (high - value)/u) - Phi(2 (low - value)/u). Of a bracket it is
// the share of [go, nogo) that lies inside. With u = 0 it is 0 or 1.
func PInside(v Value, u quantity.Amount, lim Limit) float64 {
	if v.Bracket {
		from, to := v.Go, v.NoGo
		if lim.Low != nil {
			from = max(from, *lim.Low)
		}
		if lim.High != nil {
			to = min(to, *lim.High)
		}
		return float64(max(0, to-from)) / float64(v.NoGo-v.Go)
	}
	if u == 0 {
		if lim.Low != nil && v.At < *lim.Low || lim.High != nil && v.At > *lim.High {
			return 0
		}
		return 1
	}
	// The two tails outside, each computed from its small side.
	var below, above float64
	scale := math.Sqrt2 / float64(u)
	if lim.Low != nil {
		below = math.Erfc(float64(v.At-*lim.Low)*scale) / 2
	}
	if lim.High != nil {
		above = math.Erfc(float64(*lim.High-v.At)*scale) / 2
	}
	return max(0, 1-below-above)
}

// VerdictOutput is a verdict with how likely the true value is inside.
type VerdictOutput struct {
	Result
	PInside quantity.Decimal `json:"p_inside"`
}

// VerdictInput is the question of the verdict calculation.
type VerdictInput struct {
	Value Value          `json:"value" doc:"the reading, or for feelers the largest leaf that goes and the smallest that does not"`
	U     length.Length  `json:"u" bound:"nonneg" opt:"0mm" doc:"expanded uncertainty of the reading (k = 2)"`
	Low   *length.Length `json:"low" bound:"signed" opt:"" doc:"lower limit, inclusive"`
	High  *length.Length `json:"high" bound:"signed" opt:"" doc:"upper limit, inclusive"`
	Near  length.Length  `json:"near" bound:"nonneg" opt:"0mm" doc:"zone inside a limit that is called near"`
}

// JudgeInput checks the limits of in and judges it.
func JudgeInput(in VerdictInput) (VerdictOutput, error) {
	if err := checkLimits(in.Low, in.High); err != nil {
		return VerdictOutput{}, err
	}
	lim := Limit{quantity.MaybeLength(in.Low), quantity.MaybeLength(in.High), quantity.OfLength(in.Near)}
	u := quantity.OfLength(in.U)
	return VerdictOutput{Judge(in.Value, u, lim), quantity.Decimal(PInside(in.Value, u, lim))}, nil
}

func checkLimits(low, high *length.Length) error {
	if low == nil && high == nil {
		return field.Errorf("low", "give a lower or an upper limit")
	}
	if low != nil && high != nil && *low > *high {
		return field.Errorf("low", "the lower limit is above the upper")
	}
	return nil
}

// Tool is a tool by name with its expanded uncertainty.
type Tool struct {
	Name string        `json:"name" doc:"the tool"`
	U    length.Length `json:"u" bound:"nonneg" doc:"its expanded uncertainty (k = 2)"`
}

// Settle returns the index of the largest of some tools' doubts, the first of equals, that
// round v gives a verdict other than Doubt, or -1 when none does.
func Settle(v quantity.Amount, lim Limit, us []quantity.Amount) int {
	best := -1
	for i, u := range us {
		if Judge(Exact(v), u, lim).Verdict != Doubt && (best < 0 || u > us[best]) {
			best = i
		}
	}
	return best
}

// SettleInput is the question of the settle calculation.
type SettleInput struct {
	Value length.Length  `json:"value" bound:"signed" doc:"the reading"`
	Low   *length.Length `json:"low" bound:"signed" opt:"" doc:"lower limit, inclusive"`
	High  *length.Length `json:"high" bound:"signed" opt:"" doc:"upper limit, inclusive"`
	Tools []Tool         `json:"tools" doc:"the tools at hand"`
}

// SettleOutput names the tool, or none.
type SettleOutput struct {
	Tool *string `json:"tool"`
}

// SettleTool answers the settle calculation.
func SettleTool(in SettleInput) (SettleOutput, error) {
	if err := checkLimits(in.Low, in.High); err != nil {
		return SettleOutput{}, err
	}
	var us []quantity.Amount
	for _, t := range in.Tools {
		us = append(us, quantity.OfLength(t.U))
	}
	lim := Limit{Low: quantity.MaybeLength(in.Low), High: quantity.MaybeLength(in.High)}
	if i := Settle(quantity.OfLength(in.Value), lim, us); i >= 0 {
		return SettleOutput{&in.Tools[i].Name}, nil
	}
	return SettleOutput{}, nil
}
