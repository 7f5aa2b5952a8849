package valvetrain

import (
	"fmt"
	"math"

	"yatai/core/field"
	"yatai/core/length"
	"yatai/core/quantity"
)

// SpringReading is one length and load from the spring tester.
type SpringReading struct {
	Length length.Length    `json:"length" doc:"length in the tester, with the retainer's step"`
	Load   quantity.Newtons `json:"load" bound:"positive" doc:"load at that length"`
}

// SpringInput is a spring as tested and as it is fitted.
type SpringInput struct {
	Readings     []SpringReading   `json:"readings" doc:"two or more lengths with their loads"`
	Installed    length.Length     `json:"installed" doc:"installed height"`
	Lift         length.Length     `json:"lift" bound:"nonneg" doc:"valve lift"`
	Solid        length.Length     `json:"solid" doc:"length with the coils closed"`
	RetainerStep length.Length     `json:"retainer_step" bound:"nonneg" opt:"0mm" doc:"what the retainer's step adds to the length in the tester"`
	TargetSeat   *quantity.Newtons `json:"target_seat" bound:"positive" opt:"" doc:"load wanted on the seat"`
}

// SpringOutput is the spring's line and where it works.
type SpringOutput struct {
	Rate          quantity.Decimal `json:"rate_n_per_mm"`
	Seat          quantity.Decimal `json:"seat_n"`
	Open          quantity.Decimal `json:"open_n"`
	CoilClearance length.Length    `json:"coil_clearance_nm"` // installed - lift - solid
	Shim          *length.Length   `json:"shim_nm"`           // (target - seat) / rate; negative: too strong
}

// Spring fits a straight line to the readings by least squares, lengths less the
// retainer's step, and reads the loads at the installed height and open off it.
func Spring(in SpringInput) (SpringOutput, error) {
	if len(in.Readings) < 2 {
		return SpringOutput{}, field.Errorf("readings", "a spring's line needs two readings or more")
	}
	n := float64(len(in.Readings))
	var mx, my float64
	for _, r := range in.Readings {
		mx += (r.Length - in.RetainerStep).Millimetres() / n
		my += r.Load.Float() / n
	}
	var sxx, sxy float64
	for _, r := range in.Readings {
		dx := (r.Length - in.RetainerStep).Millimetres() - mx
		sxx += dx * dx
		sxy += dx * (r.Load.Float() - my)
	}
	if sxx < 1e-12 {
		return SpringOutput{}, field.Errorf("readings", "the readings are all at one length")
	}
	rate := -sxy / sxx
	if rate <= 0 {
		return SpringOutput{}, field.Errorf("readings", "the load does not grow as the spring gets shorter")
	}
	load := func(l length.Length) float64 { return my + rate*(mx-l.Millimetres()) }
	out := SpringOutput{
		Rate: quantity.Decimal(rate), Seat: quantity.Decimal(load(in.Installed)),
		Open:          quantity.Decimal(load(in.Installed - in.Lift)),
		CoilClearance: in.Installed - in.Lift - in.Solid,
	}
	if in.TargetSeat != nil {
		mm := (in.TargetSeat.Float() - float64(out.Seat)) / rate
		if math.Abs(mm) > length.Max.Millimetres() {
			return SpringOutput{}, field.Errorf("target_seat", "no shim could give that load")
		}
		shim := length.FromFloat(mm * float64(length.Millimetre))
		out.Shim = &shim
	}
	return out, nil
}

func index(path string, i int) string { return fmt.Sprintf("%s[%d]", path, i) }

// ordered refuses a lower limit above the upper, under path.
func ordered(path string, low, high length.Length) error {
	if low > high {
		return field.Errorf(path, "the lower limit is above the upper")
	}
	return nil
}
