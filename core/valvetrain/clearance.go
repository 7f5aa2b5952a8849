// Package valvetrain does the arithmetic of one valve in its guide and of what
// drives it: clearance and form, the rock test, what cuts do to a valve's heights
// (Stack), pushrods, lash shims and springs.
//
// Signs: recession is positive when the valve lies below the face; cuts are positive
// when metal is taken off; a clearance is guide minus stem.
package valvetrain

import (
	"math/big"
	"slices"

	"yatai/core/field"
	"yatai/core/length"
)

// Places are readings at the three places of a guide or stem: top is the spring
// end, bottom the port end. A place not read is nil.
type Places struct {
	Top    []length.Length `json:"top" opt:"" doc:"readings at the spring end"`
	Middle []length.Length `json:"middle" opt:"" doc:"readings in the middle"`
	Bottom []length.Length `json:"bottom" opt:"" doc:"readings at the port end"`
}

// All returns every reading of p, top first.
func (p Places) All() []length.Length { return slices.Concat(p.Top, p.Middle, p.Bottom) }

// ClearanceInput is a guide and its stem as read.
type ClearanceInput struct {
	Guide     Places         `json:"guide" doc:"guide bore, one or more readings per place"`
	Stem      Places         `json:"stem" doc:"stem diameter, one or more readings per place"`
	FormLimit length.Length  `json:"form_limit" bound:"nonneg" opt:"0.005mm" doc:"difference between places that counts as form"`
	UGuide    *length.Length `json:"u_guide" bound:"nonneg" opt:"" doc:"expanded uncertainty of the guide readings"`
	UStem     *length.Length `json:"u_stem" bound:"nonneg" opt:"" doc:"expanded uncertainty of the stem readings"`
}

// Clearance is what follows from a guide and its stem. What needs a place that was
// not read is nil.
type Clearance struct {
	Max        length.Length  `json:"max_nm"`          // largest guide - smallest stem
	Min        length.Length  `json:"min_nm"`          // smallest guide - largest stem
	Mean       length.Length  `json:"mean_nm"`         // mean guide - mean stem
	StemWear   length.Length  `json:"stem_wear_nm"`    // largest stem - smallest
	Taper      *length.Length `json:"taper_nm"`        // top - bottom of the guide
	Bellmouth  *length.Length `json:"bellmouth_nm"`    // lesser end - middle
	OutOfRound length.Length  `json:"out_of_round_nm"` // largest difference at one place
	Oval       bool           `json:"oval"`            // OutOfRound over the form limit
	// straight, bellmouthed, barrelled, opens_top, opens_bottom
	Shape *string        `json:"shape"`
	U     *length.Length `json:"u_nm"` // sqrt(u_guide² + u_stem²)
}

// Clear computes the clearance of a guide and its stem. Both ends matter: Max is held
// against the upper limit, Min against the lower. Guide and stem need one reading each
// at least.
func Clear(in ClearanceInput) (Clearance, error) {
	guide, stem := in.Guide.All(), in.Stem.All()
	if len(guide) == 0 {
		return Clearance{}, field.Errorf("guide", "no reading of the guide")
	}
	if len(stem) == 0 {
		return Clearance{}, field.Errorf("stem", "no reading of the stem")
	}
	mean := length.MeanRat(guide)
	c := Clearance{
		Max:      slices.Max(guide) - slices.Min(stem),
		Min:      slices.Min(guide) - slices.Max(stem),
		Mean:     length.Round(mean.Sub(mean, length.MeanRat(stem))),
		StemWear: slices.Max(stem) - slices.Min(stem),
	}
	for _, at := range [][]length.Length{in.Guide.Top, in.Guide.Middle, in.Guide.Bottom} {
		if len(at) > 0 {
			c.OutOfRound = max(c.OutOfRound, slices.Max(at)-slices.Min(at))
		}
	}
	c.Oval = c.OutOfRound > in.FormLimit
	c.form(in.Guide, in.FormLimit)
	if in.UGuide != nil && in.UStem != nil {
		u := length.RSS(*in.UGuide, *in.UStem)
		c.U = &u
	}
	return c, nil
}

// form fills Taper, Bellmouth and Shape from the unrounded means of the places.
func (c *Clearance) form(g Places, limit length.Length) {
	if len(g.Top) == 0 || len(g.Bottom) == 0 {
		return
	}
	sub := func(a, b *big.Rat) *big.Rat { return new(big.Rat).Sub(a, b) }
	top, bottom := length.MeanRat(g.Top), length.MeanRat(g.Bottom)
	taper := length.Round(sub(top, bottom))
	c.Taper = &taper
	if len(g.Middle) == 0 {
		return
	}
	middle := length.MeanRat(g.Middle)
	least := top
	if bottom.Cmp(top) < 0 {
		least = bottom
	}
	bell := length.Round(sub(least, middle))
	c.Bellmouth = &bell
	e := limit.Rat()
	over := func(a, b *big.Rat) bool { return sub(a, b).Cmp(e) > 0 }
	shape := "straight"
	switch {
	case over(top, middle) && over(bottom, middle):
		shape = "bellmouthed"
	case over(middle, top) && over(middle, bottom):
		shape = "barrelled"
	case over(top, bottom):
		shape = "opens_top"
	case over(bottom, top):
		shape = "opens_bottom"
	}
	c.Shape = &shape
}

// RockInput is a rock test, the valve held at a stated lift and pushed to and fro; or, with
// a clearance instead of a movement, the question how far the open valve's head can swing.
type RockInput struct {
	Movement    *length.Length `json:"movement" bound:"nonneg" opt:"" doc:"how far the valve head moves from stop to stop"`
	Clearance   *length.Length `json:"clearance" bound:"nonneg" opt:"" doc:"clearance of the guide, to be given instead of the movement"`
	GuideLength length.Length  `json:"guide_length" doc:"length of stem held by the guide"`
	Overhang    length.Length  `json:"overhang" bound:"nonneg" doc:"distance from the guide's end to where the dial touches"`
}

// RockOutput is the clearance a movement stands for, or the movement a clearance allows.
type RockOutput struct {
	Clearance *length.Length `json:"clearance_nm,omitempty"`
	Movement  *length.Length `json:"movement_nm,omitempty"`
}

// Rock converts a rock test to a clearance, or the other way round. A stem in a bore of
// clearance c, held over a length G, tilts corner to corner; at a distance L beyond the
// guide's end the head moves M = c (1 + 2L/G), so c = M G / (G + 2L).
func Rock(in RockInput) (RockOutput, error) {
	switch {
	case in.Movement != nil && in.Clearance != nil:
		return RockOutput{}, field.Errorf("clearance", "give the movement or the clearance, not both")
	case in.Movement != nil:
		c := Tilt(*in.Movement, in.GuideLength, in.Overhang)
		return RockOutput{Clearance: &c}, nil
	case in.Clearance != nil:
		m := Swing(*in.Clearance, in.GuideLength, in.Overhang)
		return RockOutput{Movement: &m}, nil
	}
	return RockOutput{}, field.Errorf("movement", "give the movement or the clearance")
}

// Tilt is the clearance that a movement of the valve's head stands for: M G / (G + 2L).
func Tilt(movement, guide, overhang length.Length) length.Length {
	c := new(big.Rat).Mul(movement.Rat(), guide.Rat())
	return length.Round(c.Quo(c, (guide + 2*overhang).Rat()))
}

// Swing is how far the head of an open valve can move: c (G + 2L) / G.
func Swing(clearance, guide, overhang length.Length) length.Length {
	m := new(big.Rat).Mul(clearance.Rat(), (guide + 2*overhang).Rat())
	return length.Round(m.Quo(m, guide.Rat()))
}
