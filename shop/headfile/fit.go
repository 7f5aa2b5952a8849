package headfile

import (
	"slices"

	"yatai/core/quantity"
	"yatai/core/seating"
	"yatai/shop"
)

// FitForm is the question of an interference fit at temperatures, as typed.
type FitForm struct{ Hole, Part, PartMaterial, HoleTemp, PartTemp string }

// Fit works out a guide or an insert in the head's own metal.
func (f *File) Fit(q FitForm) (seating.FitOutput, error) {
	errs := shop.FormErrors{}
	in := seating.FitInput{
		HoleMaterial: seating.Material(f.Model.Material), PartMaterial: seating.Material(q.PartMaterial),
	}
	in.Hole = errs.Length("hole", q.Hole, f.Unit)
	in.Part = errs.Length("part", q.Part, f.Unit)
	for _, t := range []struct {
		name, text string
		to         *quantity.Celsius
	}{{"hole_temp", q.HoleTemp, &in.HoleTemp}, {"part_temp", q.PartTemp, &in.PartTemp}} {
		if t.to.Parse(t.text) != nil { // without a unit it is degrees Celsius
			errs.Add(t.name, t.to.Parse(t.text+"C"))
		}
	}
	if !slices.Contains(FitMaterials, q.PartMaterial) {
		errs.Addf("part_material", "choose what it is made of")
	}
	if err := errs.Err(); err != nil {
		return seating.FitOutput{}, err
	}
	return seating.Fit(in)
}

// FitMaterials are what guides and inserts are made of.
var FitMaterials = []string{"bronze", "iron", "sinter", "steel", "brass"}
