package lead

import (
	"cmp"
	"strings"

	"yatai/core/head"
	"yatai/core/judge"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/trade"
	"yatai/shop/headfile"
)

// fill is a head's figures at one position or journal, as a calculation's input is made of them.
type fill struct {
	h  *head.Head
	at string
}

// Fill is the input of a calculation as far as a head has it at a position (or journal), ready to
// be typed into the calculation's form; nil where the calculation takes nothing from a head.
func Fill(f *headfile.File, calculation, at string) map[string]any {
	take := Fills[calculation]
	if take == nil {
		return nil
	}
	in := take(fill{f.Subject, at})
	for name, v := range in {
		if v == nil || v == "" {
			delete(in, name)
		}
	}
	return in
}

// Fills are the calculations that can take their figures from a head, by name, and how.
var Fills = map[string]func(fill) map[string]any{
	"clearance": fill.clearance, "rock": fill.rock, "stackup": fill.stackup, "seat": fill.seat,
	"spring": fill.spring, "warp": fill.warp,
	"flatness": fill.flatness, "bearing": fill.bearing, "pushrod": fill.pushrod, "vacuum": fill.vacuum,
	"angle": fill.angle, "seal": fill.seal, "protrusion": fill.protrusion, "compression": fill.compression,
}

// one is the mean of what stands of a characteristic, with its unit, "" when it was not read.
func (x fill) one(c *trade.Characteristic) string {
	mean, read := x.h.Mean(c.Code, x.at)
	if !read {
		return ""
	}
	return c.UnitFor(length.MM).Text(mean)
}

// places are what stands of a characteristic by its places.
func (x fill) places(c *trade.Characteristic) map[string]any {
	out := map[string]any{}
	for _, r := range x.h.Reads(c.Code, x.at) {
		if r.Value.Bracket {
			continue
		}
		place := r.Spot.Place
		if place == "" {
			place = "middle"
		}
		all, _ := out[place].([]any)
		out[place] = append(all, r.Value.At.Length().String())
	}
	return out
}

// figure is a figure of the sheet, with its unit, "" when it gives none.
func (x fill) figure(f *trade.Figure) string {
	a, _, ok := x.h.Figure(f, x.role())
	if !ok {
		return ""
	}
	return f.UnitText(a, length.MM)
}

// number is a figure of the sheet as a bare number.
func (x fill) number(f *trade.Figure) string {
	a, _, ok := x.h.Figure(f, x.role())
	if !ok {
		return ""
	}
	return quantity.Decimal(a.Float()).String()
}

func (x fill) role() layout.Role { return x.h.Role(x.at) }

func (x fill) clearance() map[string]any {
	return map[string]any{"guide": x.places(trade.GuideBore), "stem": x.places(trade.Stem)}
}

func (x fill) rock() map[string]any {
	return map[string]any{
		"movement": x.one(trade.GuideRock), "guide_length": x.figure(trade.GuideHeld),
		"overhang": x.figure(trade.RockOverhang),
	}
}

func (x fill) stackup() map[string]any {
	drive := "bucket"
	if x.h.Model.Kind.Pushrods() {
		drive = "rocker"
	}
	out := map[string]any{
		"drive": drive, "ratio": x.number(trade.RockerRatio), "recession": x.one(trade.Recession),
		"stem_height":   x.one(trade.StemHeight),
		"spring_height": x.one(trade.SpringHeight), "lash": x.one(trade.Lash), "margin": x.one(trade.ValveMargin),
	}
	for _, move := range []string{ // nothing is done yet
		"face_cut", "gasket_change", "seat_cut", "face_grind", "tip_grind", "lash_shim_change", "pushrod_change",
		"spring_shim", "pad_cut",
	} {
		out[move] = length.Length(0).String()
	}
	return out
}

func (x fill) seat() map[string]any {
	v, ok := x.h.Model.Layout.Valve(x.at)
	if !ok {
		return nil
	}
	in := judge.Ring(x.h, v, nil, nil).In
	if in.Angle.Sign() == 0 {
		return nil
	}
	return map[string]any{
		"angle": x.number(trade.SeatAngle), "top": x.number(trade.TopAngle), "bottom": x.number(trade.BottomAngle),
		"inner": in.Inner.String(),
		"outer": in.Outer.String(), "valve_head": in.ValveHead.String(), "target_outer": in.TargetOuter.String(),
		"target_width": in.TargetWidth.String(),
	}
}

func (x fill) spring() map[string]any {
	height, lift := x.one(trade.SpringHeight), x.figure(trade.Lift)
	out := map[string]any{
		"installed": height, "lift": lift, "solid": x.figure(trade.SpringSolid),
		"target_seat": x.figure(trade.TargetLoad),
	}
	installed, err1 := length.Parse(height, length.None)
	opened, err2 := length.Parse(lift, length.None)
	if seat, open := x.one(trade.LoadSeat), x.one(trade.LoadOpen); seat != "" && open != "" && err1 == nil &&
		err2 == nil {
		out["readings"] = []any{
			map[string]any{"length": installed.String(), "load": seat},
			map[string]any{"length": (installed - opened).String(), "load": open},
		}
	}
	return out
}

func (x fill) warp() map[string]any {
	var lines []any
	for _, l := range x.h.Model.Layout.Lines {
		for _, r := range x.h.Reads(trade.FaceLine.Code, l.Name) {
			lines = append(lines, map[string]any{
				"name": l.Name, "kind": l.Kind, "go": r.Value.Go.Length().String(),
				"nogo": r.Value.NoGo.Length().String(),
			})
		}
	}
	limits := map[string]any{}
	for _, kind := range []string{"long", "cross", "diagonal"} {
		if l := x.h.Limit(trade.FaceLine.Code, kind); l != nil && l.High != nil {
			limits[kind] = l.High.Length().String()
		}
	}
	return map[string]any{"lines": lines, "limits": limits, "allowance": x.figure(trade.FaceAllow)}
}

func (x fill) flatness() map[string]any {
	var points []any
	for _, g := range x.h.Model.Layout.Grid() {
		for _, r := range x.h.Reads(trade.FaceGrid.Code, g.Name) {
			points = append(
				points, map[string]any{"x": g.X.String(), "y": g.Y.String(), "z": r.Value.At.Length().String()},
			)
		}
	}
	return map[string]any{"points": points, "allowance": x.figure(trade.FaceAllow)}
}

func (x fill) bearing() map[string]any {
	out := map[string]any{"housing": x.one(trade.CamBore), "journal": x.one(trade.CamJournal)}
	if l := x.h.Limit(trade.CamClearance.Code, ""); l != nil && l.Low != nil && l.High != nil {
		out["low"], out["high"] = l.Low.Length().String(), l.High.Length().String()
	}
	return out
}

func (x fill) pushrod() map[string]any {
	out := map[string]any{
		"lash": x.one(trade.Lash), "ratio": x.number(trade.RockerRatio),
		"present": x.one(trade.PushrodLength),
	}
	if l := x.h.Limit(trade.Lash.Code, string(x.role())); l != nil && l.Low != nil && l.High != nil {
		out["low"], out["high"] = l.Low.Length().String(), l.High.Length().String()
	}
	var have []any
	for _, s := range x.h.Stock {
		if s.Kind == trade.PushrodPart.Code && s.Size > 0 {
			have = append(have, s.Size.String())
		}
	}
	out["available"] = have
	return out
}

func (x fill) vacuum() map[string]any {
	out := map[string]any{"drop": x.h.Setting("seal_drop"), "u": trade.KPa.Text(x.h.ToolU("vacuum tester"))}
	var turns []any
	for _, r := range x.h.Reads(trade.VacuumTurned.Code, x.at) {
		turns = append(turns, strings.ReplaceAll(trade.KPa.Text(r.Value.At), " ", ""))
	}
	out["readings"] = turns
	for _, r := range x.h.Reads(trade.VacuumBlanked.Code, "H") {
		out["baseline"] = trade.KPa.Text(r.Value.At)
	}
	return out
}

func (x fill) angle() map[string]any {
	out := map[string]any{"face": x.one(trade.FaceAngle), "seat": x.one(trade.SeatAngleAt)}
	if l := x.h.Limit(trade.Interference.Code, string(x.role())); l != nil && l.Low != nil && l.High != nil {
		out["wanted"], out["within"] = trade.Degree.Text((*l.Low+*l.High)/2), trade.Degree.Text((*l.High-*l.Low)/2)
	}
	return out
}

func (x fill) seal() map[string]any {
	return map[string]any{
		"guide_outer": x.one(trade.GuideOuter), "seal_bore": x.one(trade.SealGuide), "stem": x.one(trade.Stem),
		"lip_bore": x.one(trade.SealStem),
	}
}

// protrusion is of all pistons: the mean at each end is what both ways of its rock come to.
func (x fill) protrusion() map[string]any {
	var pistons, grades []any
	for _, at := range trade.Protrusion.Positions(x.h.Model.Layout) {
		piston := map[string]any{}
		for _, r := range x.h.Reads(trade.Protrusion.Code, at) {
			size := r.Value.At.Length().String()
			piston[r.Spot.Place] = []any{size, size}
		}
		if len(piston) > 0 {
			pistons = append(pistons, piston)
		}
	}
	for _, s := range x.h.Stock {
		if s.UpTo > 0 {
			grades = append(grades, map[string]any{"name": cmp.Or(s.Name, s.Size.String()), "up_to": s.UpTo.String()})
		}
	}
	if pistons == nil {
		return nil
	}
	return map[string]any{"pistons": pistons, "grades": grades}
}

func (x fill) compression() map[string]any {
	first := fill{x.h, "C" + x.h.Model.Layout.Chambers[0].Name}
	return map[string]any{
		"bore": x.figure(trade.CylinderBore), "stroke": x.figure(trade.Stroke),
		"gasket_bore": x.figure(trade.GasketBore),
		"chamber":     cmp.Or(first.one(trade.ChamberVolume), x.figure(trade.ChamberGiven)),
		"gasket":      x.figure(trade.GasketFitted),
		"deck":        x.figure(trade.Deck), "piston": x.figure(trade.PistonCrown),
		"chamber_area_mm2": x.number(trade.ChamberArea),
		"face_cut":         length.Length(0).String(),
	}
}
