package trade

import (
	"yatai/core/field"
	"yatai/core/gauge"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/words"
)

// CheckBridges refuses bridges where no rocker presses on them.
func (k Kind) CheckBridges(bridges string) error {
	if bridges != "" && !k.Rockers() {
		return field.Errorf("", "a bridge is pressed by a rocker: this head has none")
	}
	return nil
}

// bridging is where something is read or looked at on heads with bridges.
type bridging int

const (
	anyValve   bridging = iota // with a bridge or without: at each valve
	offBridges                 // at each valve that has none
	onBridges                  // at each bridge, named by its fixed valve
	onGuided                   // at each bridge that is guided by a pin
)

// at tells whether a valve's position is one of those.
func (b bridging) at(l layout.Layout, id string) bool {
	if b == anyValve {
		return true
	}
	fixed, _, bridged := l.BridgeAt(id)
	switch b {
	case offBridges:
		return !bridged
	case onBridges:
		return bridged && fixed == id
	}
	return bridged && fixed == id && l.Bridges == layout.Guided
}

// What is read of bridges. A bridge stands on two valves of a role and is named by its fixed valve,
// the one it is pressed on while its screw is set.
var (
	BridgeLash = characteristic(Characteristic{
		Code:    "bridge.lash",
		Label:   "Lash at the bridge",
		Line:    "rocker to the bridge, by feelers, once the bridge is set on both its valves",
		Section: Drive,
		Where:   AtPosition,
		Bridge:  onBridges,
		Bracket: true,
		Low:     0,
		High:    5 * mm,
		Tools:   []string{"feelers"},
		OnSheet: true,
		On:      func(k Kind) bool { return k.Rockers() && k.Solid() },
		Common:  true,
	})
	BridgePad = characteristic(Characteristic{
		Code:    "bridge.pad",
		Label:   "Bridge pad wear",
		Line:    "depth of the deepest hollow: under the rocker, or over a stem",
		Section: Drive,
		Where:   AtPosition,
		Bridge:  onBridges,
		Low:     0,
		High:    5 * mm,
		Tools:   []string{"caliper", "dial indicator"},
		OnSheet: true,
		On:      Kind.Rockers,
	})
	BridgeFit = characteristic(Characteristic{
		Code:    "bridge.fit",
		Label:   "Bridge on its guide pin",
		Line:    "clearance of the pin in the bridge",
		Section: Drive,
		Where:   AtPosition,
		Bridge:  onGuided,
		Low:     0,
		High:    2 * mm,
		Tools:   []string{"bore gauge", "caliper"},
		OnSheet: true,
		On:      Kind.Rockers,
	})
	BridgeStep = characteristic(Characteristic{
		Code:    "bridge.step",
		Label:   "Stems under a bridge, difference",
		Line:    "stem height of the one valve less that of the other, whichever is higher",
		Section: Drive,
		Where:   AtPosition,
		Bridge:  onBridges,
		On:      Kind.Rockers,
		From:    []*Characteristic{StemHeight},
		Work:    bridgeStep,
		NoAnswer: "what brings one of its stems to the other's height: the higher tip ground, its seat cut " +
			"deeper, or the other's seat renewed",
	})
)

// bridgeStep is how far the stems that a bridge stands on lie apart in height.
func bridgeStep(p Place) (Derivation, bool) {
	fixed, other, bridged := p.Layout().BridgeAt(p.Position())
	if !bridged || fixed != p.Position() {
		return Derivation{}, false
	}
	one, two := p.Reads(StemHeight), p.At(other).Reads(StemHeight)
	if len(one) == 0 || len(two) == 0 {
		return Derivation{}, false
	}
	aLo, aHi, _ := Ends(one)
	bLo, bHi, _ := Ends(two)
	return Derivation{
		Low:  max(0, aLo-bHi, bLo-aHi),
		High: max(aHi-bLo, bHi-aLo),
		U:    length.RSS(MaxU(one), MaxU(two)),
		From: ids(one, two),
		Note: p.Position() + " " + p.Text(aHi) + ", " + other + " " + p.Text(bHi),
	}, true
}

// BridgeSeen is what eyes see of a bridge.
var BridgeSeen = part(Part{
	Code:   "bridge.condition",
	Label:  "Valve bridge",
	On:     Kind.Rockers,
	Bridge: onBridges,
	Grades: []Grade{
		{"sound", "sound", "pads smooth, thread and pin free", gauge.Sound},
		{"pad_worn", "pad worn", "a hollow under the rocker or over a stem", gauge.Out},
		{"screw_loose", "screw loose", "its lock nut does not hold, or its thread is torn", gauge.Renew},
		{"pin_worn", "pin worn", "it tips on its guide pin", gauge.Renew},
		{"cracked", "cracked", "a line from the pin's hole or the screw's", gauge.Renew},
	},
})

// BridgePart is a bridge with its screw.
var BridgePart = partKind(PartKind{Code: "valve bridge", Name: "valve bridge", Usual: 2400})

// bridgeRecord is ticked in its order: a bridge that is set while it is pressed down stands on one
// valve only.
var bridgeRecord = &Record{Each: true, Judge: judgeBridge, Fields: bridgeSteps}

var bridgeSteps = []Field{
	{Name: "backed_off", Label: "No load on it, its screw backed off", Kind: "yes"},
	{Name: "pressed", Label: "Pressed on its fixed valve", Kind: "yes"},
	{Name: "touches", Label: "Screw turned until it just touches the other valve", Kind: "yes"},
	{Name: "further", Label: "Turned further by the sheet's fraction", Kind: "yes"},
	{Name: "locked", Label: "Locked, the screw held", Kind: "yes"},
}

// judgeBridge: each of its steps was done, in their order.
func judgeBridge(v Values, _ RecordCase) (Judged, error) {
	for _, f := range bridgeSteps {
		if v[f.Name] != "yes" {
			return Judged{
				Says: words.Of("begin again with its screw backed off: the bridge may stand on one valve only"),
			}, nil
		}
	}
	return Judged{OK: true, Says: words.Of("it stands on both its valves")}, nil
}

// The work on bridges.
var (
	SetBridges = operation(Operation{
		Code:    "bridge_set",
		Name:    "Set the bridges and their lash",
		Station: Assembly,
		Stage:   LashSetting,
		Setup:   5,
		Each:    6,
		Bridge:  true,
		On:      func(k Kind) bool { return k.Rockers() && k.Solid() },
		Voids:   []*Characteristic{BridgeLash},
		Because: "the work moves the stems that the bridges stand on",
		Caution: "The lash is set only when the bridge stands on both its valves: bridge first, then the rocker.",
		Record:  bridgeRecord,
		Proof:   &Proof{Of: BridgeLash, Datum: "the bridge, set on both its valves", Tool: "feelers"},
	})
	NewBridges = operation(Operation{
		Code:    "bridge_new",
		Name:    "New bridges",
		Station: Assembly,
		Stage:   Springing,
		Setup:   2,
		Each:    3,
		Bridge:  true,
		On:      Kind.Rockers,
		Voids:   []*Characteristic{BridgePad, BridgeFit, BridgeLash, Lash},
		Looks:   []*Part{BridgeSeen},
		Implies: []*Operation{SetBridges},
		Uses:    BridgePart,
	})
)

// What can be done about them.
var (
	_ = repair(Repair{
		Code:    "bridge_set",
		Name:    "Set the bridge and its lash",
		Changes: "nothing else",
		Works:   "lash",
		Does:    SetBridges,
		Order:   10,
		Answers: []Answer{{Of: BridgeLash}},
	})
	_ = repair(Repair{
		Code:    "bridge_new",
		Name:    "New bridge",
		Changes: "lash",
		Works:   "bridge",
		Does:    NewBridges,
		Order:   20,
		Answers: []Answer{{Part: BridgeSeen}, {Of: BridgePad}, {Of: BridgeFit}},
	})
)

// At is what is done, and where, when an operation is asked for at a position of a head: at a
// bridge what is a bridge's, and for the lash of a valve under one the setting of the bridge.
func (o *Operation) At(l layout.Layout, id string) (*Operation, string) {
	fixed, _, under := l.BridgeAt(id)
	switch {
	case under && o == SetLash:
		return SetBridges, fixed
	case under && o.Bridge:
		return o, fixed
	}
	return o, id
}
