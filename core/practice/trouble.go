package practice

import (
	"slices"

	"yatai/core/head"
	"yatai/core/layout"
	"yatai/core/quantity"
	"yatai/core/trade"
	"yatai/core/words"
)

// Trouble is what can be wrong with a practice head. Cause is the code of the cause it shows, None where
// the head is no reason of anything.
type Trouble struct {
	Code  string
	Name  string
	Cause string
	Story string // what the customer says
	Care  words.Text
	draw  func(*drawing)
}

// Troubles are all of them. The cautions are the trade's usual ones.
var Troubles = []*Trouble{
	{
		"sound", "nothing is wrong", None,
		"Taken off with the engine out for its rings. Ran well.",
		words.Of("A sound head is cleaned, tested and put together again: nothing is cut because it is here."), nothing,
	},
	{
		"guides", "guides and stems worn", "guide_worn",
		"Blue smoke when the throttle is shut, oil every week.",
		words.Of("New guides run out to the old seats: seats are cut after them."), guides,
	},
	{
		"geometry", "rocker geometry", "geometry",
		"Rattles since the rockers were changed.",
		words.Of("Guides renewed alone wear the same way again: the geometry is set first."), geometry,
	},
	{
		"overheated", "overheated", "overheated",
		"Boiled on the hill, the radiator was found empty.",
		words.Of("A head that ran hot is looked over for cracks and pressed before money is spent on it."), overheated,
	},
	{
		"overfaced", "overfaced before", "overfaced",
		"Knocks since the last time the gasket was done. Pistons show marks.",
		words.Of("The thickness is read before a cut is planned: a head under its limit is not faced again."), overfaced,
	},
	{
		"bent", "a bent valve that seals in one place", "bent",
		"The chain jumped. Low compression on one.",
		words.Of("A bent valve is not lapped or ground true, and the one beside it is looked at too."), bent,
	},
	{
		"sinking", "seats sunk on a dry fuel", "sinking",
		"Runs on gas. The valves have to be set every few weeks.",
		words.Of("A seat cut deeper for a valve that sinks sinks on: hard inserts for this fuel."), sinking,
	},
	{
		"wrong", "wrong parts in the box", "wrong_part",
		"The customer brings new valves in a bag without a name.",
		words.Of("Every new part is measured and held against the old one before any is fitted."), wrongParts,
	},
	{
		"grit", "grit left in", "grit",
		"Was apart last month, at home. Smokes already.",
		words.Of("Galleries and guides are washed out and looked through again: what scored them is still there."), grit,
	},
	{
		"springs", "tired springs", "weak_springs",
		"Will not pull past half its speed any more.",
		words.Of("Springs are renewed as a set, and their installed heights read."), springs,
	},
	{
		"mixed", "a mixed box", None,
		"Brought in boxes: the head in one, the valves and springs in another.",
		words.Of("Parts that ran together go together: where they sat is asked or found before any is judged by its place."),
		mixed,
	},
	{
		"tool", "a tool that is off", None,
		"Taken off with the engine out. Uses a little oil.",
		words.Of("A tool's zero is checked before its readings cost metal."), badTool,
	},
}

// TroubleNamed returns the trouble with that code, nil when there is none.
func TroubleNamed(code string) *Trouble {
	i := slices.IndexFunc(Troubles, func(t *Trouble) bool { return t.Code == code })
	if i < 0 {
		return nil
	}
	return Troubles[i]
}

func nothing(*drawing) {}

// wear opens a guide beyond its clearance's upper limit, most at its ends.
func (d *drawing) wear(v *valve, even bool) {
	over := d.end(trade.GuideClearance, v.role, false) + d.past(50*um)
	for i := range v.bore {
		v.oval[i] = d.between(0, 3*um)
		v.bore[i] = v.stem[i] + over - d.between(0, 4*um)
	}
	v.bore[guideBottom] = v.stem[guideBottom] + over
	if !even {
		v.bore[guideMiddle] -= 12 * um
	}
}

func guides(d *drawing) {
	d.told = []*trade.Symptom{trade.Smoke, trade.OilUse}
	for _, v := range d.some(2, layout.Exhaust) {
		d.wear(v, false)
		v.seen[trade.PortSeen.Code] = "oily"
	}
	v := d.some(1, layout.Intake)[0]
	for i := range v.stem { // this one lost its metal from the stem
		v.stem[i] = newStem[v.role] - 24*um - d.past(12*um)
	}
	v.stem[guideTop] = newStem[v.role] - 6*um
	v.seen[trade.StemSeen.Code] = "polished"
}

func geometry(d *drawing) {
	d.told = []*trade.Symptom{trade.Rattle}
	for _, v := range d.some(2, "") {
		d.wear(v, false)
		for _, i := range []int{guideTop, guideBottom} {
			v.oval[i] = 30 * um
			v.bore[i] -= 22 * um
			v.oval[i] += d.between(0, 4*um)
		}
		v.seen[trade.TipSeen.Code] = "offcentre"
		v.seen[trade.RockerSeen.Code] = "pad_worn"
	}
}

func overheated(d *drawing) {
	d.told = []*trade.Symptom{trade.RanHot, trade.LostCoolant}
	d.hollow = d.end(trade.FaceLine, "long", false) + d.past(90*um)
	if d.level < Hard {
		return
	}
	a, b := d.h.Model.Layout.Valves[0], d.h.Model.Layout.Valves[1]
	d.marks = append(d.marks, head.Finding{Part: trade.MarkCode, Grade: "crack", X: (a.X + b.X) / 2, Y: a.Y})
}

func overfaced(d *drawing) {
	d.told = []*trade.Symptom{trade.RanHot}
	d.thickness = d.end(trade.Thickness, "", true) - d.past(500*um)
	l := d.h.Model.Layout
	d.marks = append(d.marks, head.Finding{Part: trade.MarkCode, Grade: "stamp", X: l.Length / 2, Y: l.Width - 6000*um})
	for _, v := range d.some(2, "") {
		v.sink(-400 * um)
	}
}

func bent(d *drawing) {
	d.told = []*trade.Symptom{trade.Overspeed, trade.LowPressure}
	v := d.some(1, "")[0]
	v.bent = 40*um + d.past(200*um)
	v.thuds = true
	for i := range v.leak {
		v.leak[i] = trade.KPa.Of(int64(9 + d.r.IntN(9)))
	}
	v.leak[d.r.IntN(vacuumTurns)] = trade.KPa.Of(1) // where it seals
	v.seen[trade.StemSeen.Code] = "bent"
}

func sinking(d *drawing) {
	d.told = []*trade.Symptom{trade.DryFuel, trade.LashLost}
	for _, v := range d.some(2, layout.Exhaust) {
		v.sink(d.end(trade.Recession, v.role, false) - v.recession + d.past(400*um))
		v.lash = d.between(20*um, 100*um)
		v.width += d.between(300*um, 500*um)
		v.seen[trade.SeatSeen.Code] = "sunk"
		v.seen[trade.FaceSeen.Code] = "dished"
		for i := range v.leak {
			v.leak[i] = trade.KPa.Of(int64(6 + d.r.IntN(3)))
		}
	}
}

func wrongParts(d *drawing) {
	d.told = []*trade.Symptom{trade.NoName}
	for i, v := range d.h.Model.Layout.Valves {
		right := newStem[v.Role] + d.between(-3*um, 3*um)
		if v.Role == layout.Exhaust && i%4 == 1 {
			right += 12*um + d.past(20*um) // an intake's stem, or another maker's
			x := d.valves[v.ID]
			x.margin = d.end(trade.ValveMargin, v.Role, true) - d.past(400*um)
			x.seen[trade.FaceSeen.Code] = "heavy_pits"
		}
		if v.Role == layout.Exhaust {
			d.box[v.ID] = quantity.OfLength(right)
		}
	}
}

func grit(d *drawing) {
	d.told = []*trade.Symptom{trade.MendedLately}
	for _, v := range d.some(2, "") {
		d.wear(v, true)
		v.seen[trade.GuideSeen.Code] = "scored"
	}
}

func springs(d *drawing) {
	d.told = []*trade.Symptom{trade.Floats}
	for _, v := range d.some(3, "") {
		v.load = trade.Newton.Of(255) - quantity.Amount(d.past(45*um))*1000
		v.free -= d.between(500*um, 900*um)
		v.seen[trade.TipSeen.Code] = "dented"
	}
}

// mixed puts valves and springs of another head in: a longer valve, and springs of another kind.
func mixed(d *drawing) {
	for i, v := range d.some(2, layout.Exhaust) {
		v.free += 2500 * um
		v.load = trade.Newton.Of(330) + quantity.Amount(d.past(70*um))*1000
		if i == 0 {
			v.height += 500*um + d.past(400*um)
		}
	}
}

// badTool takes the zero of the bore gauge away from a head that has nothing wrong with it.
func badTool(d *drawing) {
	d.told = []*trade.Symptom{trade.OilUse}
	d.off = slices.IndexFunc(d.h.Tools, func(t head.Tool) bool { return t.Kind == trade.GuideBore.Tools[0] })
}
