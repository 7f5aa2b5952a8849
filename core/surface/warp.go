// Package surface says how flat a face is: from straightedge lines (Warp) or from
// heights over a grid (Flatness), and what a facing cut has to take off.
//
// Heights are along z, positive where the face is proud.
package surface

import (
	"fmt"

	"yatai/core/field"
	"yatai/core/gauge"
	"yatai/core/length"
	"yatai/core/quantity"
)

// Line is a straightedge line with the feeler bracket of its largest gap.
type Line struct {
	Name string        `json:"name" doc:"name of the line"`
	Kind string        `json:"kind" choices:"long,cross,diagonal" doc:"its direction"`
	Go   length.Length `json:"go" bound:"nonneg" doc:"largest leaf that goes; 0 when none does"`
	NoGo length.Length `json:"nogo" doc:"smallest leaf that does not go"`
}

// LineLimits are the largest gaps allowed, per direction.
type LineLimits struct {
	Long     *length.Length `json:"long" bound:"nonneg" opt:"" doc:"lengthwise"`
	Cross    *length.Length `json:"cross" bound:"nonneg" opt:"" doc:"crosswise"`
	Diagonal *length.Length `json:"diagonal" bound:"nonneg" opt:"" doc:"diagonal"`
}

// Of returns the limit for a kind of line, or nil.
func (l LineLimits) Of(kind string) *length.Length {
	return map[string]*length.Length{"long": l.Long, "cross": l.Cross, "diagonal": l.Diagonal}[kind]
}

// WarpInput is a face under the straightedge.
type WarpInput struct {
	Lines     []Line        `json:"lines" doc:"the lines read"`
	Limits    LineLimits    `json:"limits" doc:"largest gap allowed per direction"`
	Allowance length.Length `json:"allowance" bound:"nonneg" opt:"0mm" doc:"what the cutter needs beyond the gap to clean up"`
}

// KindVerdict is the worst line of a kind and what it says.
type KindVerdict struct {
	Line    string        `json:"line"`
	Verdict gauge.Verdict `json:"verdict"`
}

// WarpOutput is the verdict per direction and the cut the face is likely to need.
type WarpOutput struct {
	Kinds map[string]KindVerdict `json:"kinds"`
	Cut   length.Length          `json:"cut_nm"` // largest no-go of all lines + allowance
}

// Warp judges straightedge lines: per kind the worst line (largest no-go leaf, the
// first of equals) as a bracket against the upper limit.
func Warp(in WarpInput) (WarpOutput, error) {
	worst := map[string]Line{}
	out := WarpOutput{Kinds: map[string]KindVerdict{}}
	for i, l := range in.Lines {
		at := fmt.Sprintf("lines[%d]", i)
		if l.NoGo <= l.Go {
			return WarpOutput{}, field.Errorf(at+".nogo",
				"the leaf that does not go must be thicker than the one that goes")
		}
		if in.Limits.Of(l.Kind) == nil {
			return WarpOutput{}, field.Errorf("limits."+l.Kind, "no limit for the %s lines", l.Kind)
		}
		if w, ok := worst[l.Kind]; !ok || l.NoGo > w.NoGo {
			worst[l.Kind] = l
		}
		out.Cut = max(out.Cut, l.NoGo+in.Allowance)
	}
	for kind, l := range worst {
		r := gauge.Judge(gauge.Between(quantity.OfLength(l.Go), quantity.OfLength(l.NoGo)), 0,
			gauge.Limit{High: quantity.MaybeLength(in.Limits.Of(kind))})
		out.Kinds[kind] = KindVerdict{l.Name, r.Verdict}
	}
	return out, nil
}
