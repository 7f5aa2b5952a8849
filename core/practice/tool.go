package practice

import (
	"math"
	"strconv"

	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/quantity"
	"yatai/core/trade"
)

// Hand is how a tool is held: the one thing the learner's hand does with it.
type Hand string

// The ways of holding.
const (
	Rock  Hand = "rock"  // tilted it reads large: the least it shows is right
	Press Hand = "press" // too light it does not touch, too hard it reads small
	Turn  Hand = "turn"  // the dial shows what it has gone round so far
	Still Hand = ""      // nothing to do
)

// HandMost is how far a hand can move: it stands between -HandMost and HandMost.
const HandMost = 100

// kindOfTool is what a kind of tool is like in practice.
type kindOfTool struct {
	hand    Hand
	step    quantity.Amount // what its display can show
	seconds int             // that a reading takes with it: trade practice
}

var kinds = map[string]kindOfTool{
	"bore gauge":     {Rock, quantity.OfLength(um), 30},
	"micrometer":     {Press, quantity.OfLength(um), 20},
	"caliper":        {Press, quantity.OfLength(10 * um), 20},
	"dial on bridge": {Rock, quantity.OfLength(5 * um), 30},
	"height gauge":   {Rock, quantity.OfLength(10 * um), 30},
	"dial on pilot":  {Turn, quantity.OfLength(2 * um), 40},
	"dial indicator": {Turn, quantity.OfLength(2 * um), 40},
	"feelers":        {Still, 0, 30},
	"spring tester":  {Still, trade.Newton.Of(1), 40},
	"vacuum tester":  {Still, trade.KPa.Of(1) / 10, 20},
	"ear":            {Still, trade.PassFail.Of(1), 10},
}

// Seconds that other things take: trade practice.
const (
	LookSeconds = 20
	ZeroSeconds = 90
	BoxSeconds  = 30
)

// tool is a tool of the practice bench as it really is.
type tool struct {
	head.Tool
	kindOfTool
	zero  quantity.Amount // what it shows at nothing, until it is set right
	drift quantity.Amount // what that grows by each hundred readings
}

// tools makes the tools that stand behind their labels.
func (d *drawing) tools(labels []head.Tool) []tool {
	if d.level == Hard && d.off < 0 && d.r.IntN(3) == 0 {
		d.off = d.r.IntN(2) // the first two are taken up most
	}
	out := make([]tool, len(labels))
	for i, l := range labels {
		out[i] = tool{Tool: l, kindOfTool: kinds[l.Kind]}
		out[i].zero = quantity.Amount(float64(l.U) / 4 * clamp(d.r.NormFloat64(), 2))
		if d.level > Easy {
			out[i].drift = quantity.Amount(float64(l.U) * (d.r.Float64() - 0.5))
		}
		if i == d.off {
			sign := quantity.Amount(1 - 2*d.r.IntN(2))
			out[i].zero = sign * (5*l.U + l.U*quantity.Amount(d.r.IntN(4)))
		}
	}
	return out
}

func clamp(x, most float64) float64 { return min(max(x, -most), most) }

// Take is a reading about to be taken: with a tool by its place in Told.Tools, of a characteristic at a
// spot, the hand where it stands.
type Take struct {
	Tool int
	Of   string
	At   trade.Spot
	Hand int
	New  bool // of the new valve that is to go there
}

// Shown is what a tool shows.
type Shown struct {
	Value gauge.Value
	Feel  string // what the hand feels
	// of what is closed on its part: it touches, and is not pressed
	Clicks bool
	Hits   []Hit // of a dropped valve: what is heard
}

// Hit is one blow of a valve that was dropped into its seat: when, in seconds, and how loud, 0 to 1.
type Hit struct{ At, Loud float64 }

// Hands returns how a tool is held.
func (p *Head) Hands(n int) Hand {
	if n < 0 || n >= len(p.tools) {
		return Still
	}
	return p.tools[n].hand
}

// ToolsFor are the tools a characteristic can be read with, by their place in Told.Tools, the usual first.
func (p *Head) ToolsFor(c trade.Characteristic) []int {
	var out []int
	for _, kind := range c.Tools {
		for i, t := range p.Told.Tools {
			if t.Kind == kind && reaches(t, c) {
				out = append(out, i)
			}
		}
	}
	return out
}

// reaches tells whether a tool's range has the characteristic: the large micrometer is for thickness alone.
func reaches(t head.Tool, c trade.Characteristic) bool {
	return t.Kind != trade.Thickness.Tools[0] || (t.Name == thicknessTool) == (c.Code == trade.Thickness.Code)
}

// thicknessTool is the name of the micrometer that spans a head.
const thicknessTool = "thickness micrometer"

// Shows is what a tool shows, after what was done before. ok is false for what cannot be read so.
func (p *Head) Shows(t Take, before []Step) (s Shown, ok bool) {
	at, ok := p.truthAt(t)
	if !ok || t.Tool < 0 || t.Tool >= len(p.tools) {
		return Shown{}, false
	}
	tool := p.tools[t.Tool]
	zero, n := p.zeroAfter(t.Tool, before)
	again := 0
	for _, b := range before {
		if b.Kind == StepRead && b.Tool == t.Tool && b.Of == t.Of && b.At == t.At.Key() && b.New == t.New {
			again++
		}
	}
	r := p.stream("take", tool.Name, t.Of, t.At.Key(), strconv.FormatBool(t.New), strconv.Itoa(again))
	if tool.Kind == "ear" {
		return p.heard(at), true
	}
	u := tool.Doubt(at)
	at += zero + tool.drift*quantity.Amount(n)/100 + quantity.Amount(float64(u)/4*clamp(r.NormFloat64(), 2.5))
	if tool.Kind == "feelers" {
		return Shown{Value: between(at)}, true
	}
	s.Feel, at = p.held(tool, t, at)
	s.Value, s.Clicks = gauge.Exact(rounded(at, tool.step)), s.Feel == clicks
	return s, true
}

// truthAt is the truth where a tool is laid.
func (p *Head) truthAt(t Take) (quantity.Amount, bool) {
	if t.New {
		at, ok := p.box[t.At.Position]
		return at, ok && t.Of == trade.Stem.Code
	}
	at, ok := p.reads[t.Of+" "+t.At.Key()]
	return at, ok
}

// What a hand does: where it has to stand differs by tool and place.
const (
	handSpan  = 60 // how far from the middle that is, at most
	clickWide = 12 // how far a micrometer's ratchet turns between the first click and too many
)

// clicks is what a hand feels of what is closed as it should be.
const clicks = "it clicks and holds"

// held is what the hand makes of a reading, and what it feels.
func (p *Head) held(t tool, take Take, at quantity.Amount) (feel string, shown quantity.Amount) {
	right := p.stream("hand", t.Name, take.Of, take.At.Position).IntN(2*handSpan+1) - handSpan
	off := float64(take.Hand - right)
	switch t.hand {
	case Rock:
		// a tool of length at, tilted: it reads at / cos of the angle, a twentieth of a degree each step; what
		// is short is held by a foot of 8 mm
		arm := max(at.Float(), 8)
		long := arm * (1/math.Cos(off/20*math.Pi/180) - 1)
		return "", at + quantity.Amount(math.Round(long*float64(quantity.One)))
	case Press:
		const um = float64(quantity.One) / 1000
		give := map[string]float64{"micrometer": 0.12, "caliper": 0.7}[t.Kind] // um each step too far
		switch {
		case off < 0:
			return "no click: it does not touch yet", at + quantity.Amount(-off*0.8*um)
		case off <= clickWide:
			return clicks, at
		}
		return "pressed: it clicks and clicks", at - quantity.Amount((off-clickWide)*give*um)
	case Turn:
		round := float64(take.Hand+HandMost) / (2 * HandMost) // how much of a turn was made
		seen := (1 - math.Cos(2*math.Pi*min(round, 1))) / 2
		if round > 0.5 {
			seen = 1
		}
		return "", quantity.Amount(float64(at) * seen)
	}
	return "", at
}

// Leaves are those of the feelers: by hundredths from 0.03 to 0.20 mm, by twentieths to 2 mm.
func Leaves() trade.Leaves {
	var out trade.Leaves
	for at := 30 * um; at <= 200*um; at += 10 * um {
		out = append(out, at)
	}
	for at := 250 * um; at <= 2000*um; at += 50 * um {
		out = append(out, at)
	}
	return out
}

// between is what feelers say of a gap: the largest leaf that goes, and the next.
func between(at quantity.Amount) gauge.Value {
	goes := quantity.Amount(0)
	for _, leaf := range Leaves() {
		if x := quantity.OfLength(leaf); x > at {
			return gauge.Between(goes, x)
		}
		goes = quantity.OfLength(leaf)
	}
	return gauge.Between(goes, 2*goes)
}

// rounded is a value as a display with that step shows it.
func rounded(at, step quantity.Amount) quantity.Amount {
	if step == 0 {
		return at
	}
	half := step / 2
	if at < 0 {
		half = -half
	}
	return (at + half) / step * step
}

// heard is what a dropped valve sounds like: it bounces on a true seat, and thuds where it binds or leaks.
func (p *Head) heard(bounces quantity.Amount) Shown {
	s := Shown{Value: gauge.Exact(bounces), Hits: []Hit{{0, 1}, {0.05, 0.15}}}
	if bounces > 0 {
		s.Hits = []Hit{{0, 1}, {0.16, 0.7}, {0.27, 0.48}, {0.35, 0.32}, {0.41, 0.2}, {0.45, 0.1}}
	}
	return s
}

// zeroAfter is the zero of a tool after what was done, and the readings taken with it since it was set.
func (p *Head) zeroAfter(n int, before []Step) (zero quantity.Amount, taken int) {
	zero = p.tools[n].zero
	for _, b := range before {
		switch {
		case b.Tool != n:
		case b.Kind == StepZero && b.Set:
			zero, taken = 0, 0
		case b.Kind == StepRead:
			taken++
		}
	}
	return zero, taken
}

// Off is what a tool shows on its setting standard: how far its zero is off.
func (p *Head) Off(n int, before []Step) quantity.Amount {
	if !p.Zeroed(n) {
		return 0
	}
	t := p.tools[n]
	zero, taken := p.zeroAfter(n, before)
	noise := p.stream("zero", t.Name, strconv.Itoa(len(before))).NormFloat64()
	at := zero + t.drift*quantity.Amount(taken)/100 + quantity.Amount(float64(t.U)/6*clamp(noise, 2))
	return rounded(at, t.step)
}

// Tools are the tools of the practice bench as their labels say, in the order of Told.Tools.
func Tools() []head.Tool { return blank(Lessons[0]).Tools }
