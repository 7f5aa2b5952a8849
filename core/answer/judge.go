package answer

import (
	"context"
	"math"

	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/judge"
	"yatai/core/plan"
	"yatai/core/quantity"
)

// JudgeAnswer is a head judged as it stands.
type JudgeAnswer struct {
	Worst    gauge.Verdict   `json:"worst"`
	Complies *bool           `json:"complies"` // rules check and bought-in parts
	Features []FeatureAnswer `json:"features"`
}

// LimitAnswer is the limit something is held against. Values of what is not a length are
// millionths of its unit.
type LimitAnswer struct {
	Low    *quantity.Amount `json:"low_nm"`
	High   *quantity.Amount `json:"high_nm"`
	Set    string           `json:"set"`
	Source string           `json:"source"`
}

// RepairAnswer is what can be done about a finding, and whether it may.
type RepairAnswer struct {
	Code    string `json:"code"`
	Name    string `json:"name"`
	Allowed bool   `json:"allowed"`
	Why     string `json:"why,omitempty"`
	Changes string `json:"changes,omitempty"`
}

// FeatureAnswer is one feature judged. Of a bracket the leaves stand in go_nm and nogo_nm.
type FeatureAnswer struct {
	Key     string           `json:"key"`
	Label   string           `json:"label"`
	Verdict gauge.Verdict    `json:"verdict"`
	Low     *quantity.Amount `json:"low_nm,omitempty"`
	High    *quantity.Amount `json:"high_nm,omitempty"`
	Go      *quantity.Amount `json:"go_nm,omitempty"`
	NoGo    *quantity.Amount `json:"nogo_nm,omitempty"`
	Unit    string           `json:"unit,omitempty"`
	U       quantity.Amount  `json:"u_nm"`
	PInside *float64         `json:"p_inside"`
	Side    string           `json:"side,omitempty"`
	By      quantity.Amount  `json:"by_nm"`
	Left    *quantity.Amount `json:"left_nm,omitempty"` // to a class rule, on the side that work moves it to
	At      string           `json:"at,omitempty"`
	Limit   *LimitAnswer     `json:"limit"`
	Settle  string           `json:"settle,omitempty"`
	Note    string           `json:"note,omitempty"`
	Says    string           `json:"says,omitempty"`
	Repairs []RepairAnswer   `json:"repairs,omitempty"`
	None    string           `json:"no_repair,omitempty"` // why there is none
	// what the balanced plan makes of what is out: a repair, planned or leave
	Advised string `json:"advised,omitempty"`
}

// Judge answers what every reading and finding of a head says, what may be done about it, and what the
// balanced plan of the head makes of it.
func Judge(ctx context.Context, h *head.Head) (JudgeAnswer, error) {
	j := judge.Head(h)
	ask := h.Ask
	ask.Alternative = plan.Balanced
	p, err := plan.Judged(ctx, h, j, ask)
	if err != nil {
		return JudgeAnswer{}, err
	}
	out := JudgeAnswer{Worst: j.Worst, Complies: j.Complies(), Features: []FeatureAnswer{}}
	for _, f := range j.All() {
		a := featureAnswer(h, j, f)
		if f.Verdict >= gauge.Out {
			a.Advised = p.Advised(f.Key())
		}
		out.Features = append(out.Features, a)
	}
	return out, nil
}

func featureAnswer(h *head.Head, j judge.Judgement, f judge.Feature) FeatureAnswer {
	a := FeatureAnswer{
		Key:     f.Key(),
		Label:   f.Label,
		Verdict: f.Verdict,
		U:       f.U,
		Side:    f.Side,
		By:      f.By,
		At:      f.At,
		Settle:  f.Settle,
		Note:    f.Note,
		Unit:    f.Unit.Name,
		Says:    f.Says(h.Unit),
	}
	if len(f.From) > 0 && f.Finding == 0 {
		lo, hi := f.Low, f.High
		if f.Bracket {
			a.Go, a.NoGo = &lo, &hi
		} else {
			a.Low, a.High = &lo, &hi
		}
	}
	if l := f.Limit; l != nil {
		a.Limit = &LimitAnswer{l.Low, l.High, l.Set, l.Source}
		if len(f.From) > 0 {
			p := share(f.PInside)
			a.PInside = &p
		}
	}
	if left, ok := f.Left(); ok {
		a.Left = &left
	}
	if f.Verdict < gauge.Doubt {
		return a
	}
	for _, o := range j.Offers(f) {
		a.Repairs = append(a.Repairs, RepairAnswer{o.Code, o.Name, o.OK, o.Why, o.Changes})
	}
	if len(a.Repairs) == 0 {
		a.None = judge.NoAnswer(f)
	}
	return a
}

// share rounds a probability to six digits.
func share(p float64) float64 { return math.Round(p*1e6) / 1e6 }
