package trade

import (
	"slices"
	"yatai/core/length"
	"yatai/core/quantity"
)

// ToolKind is a kind of tool with what it is usually good for: the expanded uncertainty (k = 2)
// a register starts with, in the unit of what it reads, and a share of the reading in
// millionths where it grows with it. A shop's own figures replace them.
type ToolKind struct {
	Name string
	U    quantity.Amount
	PPM  int64
	Unit quantity.Unit // of what it reads; zero for lengths
	Eye  bool          // no number to doubt: eye, ear, clock, feelers with their bracket
}

// ToolKinds are the kinds of tools, with the doubts trade practice starts from.
var ToolKinds = []ToolKind{
	{Name: "bore gauge", U: 4 * um}, {Name: "small-hole gauge", U: 8 * um}, {Name: "tapered pilot", U: 5 * um},
	{Name: "micrometer", U: 4 * um}, {Name: "caliper", U: 30 * um}, {Name: "depth micrometer", U: 6 * um},
	{Name: "dial on bridge", U: 8 * um},
	{Name: "dial on pilot", U: 8 * um}, {Name: "dial indicator", U: 10 * um}, {Name: "height gauge", U: 20 * um},
	{Name: "height micrometer", U: 20 * um},
	{Name: "feelers", Eye: true}, {Name: "plate and dial", U: 4 * um}, {Name: "square and feeler", U: 50 * um},
	{Name: "gauging strip", U: 6 * um},
	{Name: "protractor", U: mm / 4, Unit: Degree}, {Name: "burette", U: mm / 5, Unit: CC},
	{Name: "spring tester", PPM: 20_000, Unit: Newton},
	{Name: "vacuum tester", U: mm / 2, Unit: KPa}, {
		Name: "roughness comparator", U: mm / 5, Unit: Rough,
	}, {Name: "clock", Eye: true, Unit: Minute}, {Name: "eye", Eye: true}, {Name: "ear", Eye: true},
}

// Reads is the unit the kind of tool reads in: millimetres, where it reads lengths.
func (k ToolKind) Reads() quantity.Unit { return k.Unit.Or(length.MM) }

// Parse reads a figure of a tool of the kind; a bare number is in the unit it reads in, of a length in u.
func (k ToolKind) Parse(text string, u length.Unit) (quantity.Amount, error) {
	return Characteristic{Unit: k.Unit}.Parse(text, u)
}

// ToolKindNamed returns the kind of that name.
func ToolKindNamed(name string) (ToolKind, bool) {
	i := slices.IndexFunc(ToolKinds, func(k ToolKind) bool { return k.Name == name })
	if i < 0 {
		return ToolKind{}, false
	}
	return ToolKinds[i], true
}
