package trade

import (
	"math"

	"yatai/core/gauge"
	"yatai/core/quantity"
	"yatai/core/seating"
)

// What is read of seats, and of how deep valves lie in them.
var (
	SeatWidth = characteristic(Characteristic{
		Code:    "seat.width",
		Label:   "Seat width",
		Line:    "contact ring, measured along the slope",
		Section: Seats,
		Where:   AtPosition,
		Low:     mm / 10,
		High:    20 * mm,
		Tools:   []string{"caliper"},
		Common:  true,
	})
	SeatRunout = characteristic(Characteristic{
		Code:    "seat.runout",
		Label:   "Seat runout",
		Line:    "seat against its guide, dial on a pilot",
		Section: Seats,
		Where:   AtPosition,
		Low:     0,
		High:    2 * mm,
		Tools:   []string{"dial on pilot"},
		Common:  true,
	})
	Recession = characteristic(Characteristic{
		Code:    "valve.recession",
		Label:   "Valve recession",
		Line:    "valve head below the face; above it, negative",
		Section: Seats,
		Where:   AtPosition,
		Low:     -10 * mm,
		High:    20 * mm,
		Tools:   []string{"dial on bridge", "depth micrometer", "caliper"},
		Common:  true,
	})
	RecessionRow = characteristic(Characteristic{
		Code:    "recession.spread",
		Label:   "Recession, spread of the row",
		Line:    "deepest less shallowest valve of a role",
		Section: Seats,
		Where:   AtPosition,
		Of:      Recession,
	})
	SeatAngleAt = characteristic(Characteristic{
		Code:    "seat.angle",
		Label:   "Seat angle",
		Line:    "degrees from the face",
		Section: Seats,
		Where:   AtPosition,
		Low:     10 * mm,
		High:    80 * mm,
		Tools:   []string{"protractor"},
		OnSheet: true,
		Unit:    Degree,
	})
	SeatPosition = characteristic(Characteristic{
		Code:    "seat.position",
		Label:   "Ring inside the valve's edge",
		Line:    "outer edge of the contact ring to the valve's edge",
		Section: Seats,
		Where:   AtPosition,
		Low:     -5 * mm,
		High:    10 * mm,
		Tools:   []string{"caliper"},
		OnSheet: true,
	})
	SeatRoom = characteristic(Characteristic{
		Code:    "seat.room",
		Label:   "Room to the insert's edge",
		Line:    "top cut's outer edge to the insert's outer edge",
		Section: Seats,
		Where:   AtPosition,
		Low:     0,
		High:    20 * mm,
		Tools:   []string{"caliper"},
		OnSheet: true,
	})
	SeatHole = characteristic(Characteristic{
		Code:    "seat.hole",
		Label:   "Hole for the insert",
		Line:    "counterbore, insert out",
		Section: Seats,
		Where:   AtPosition,
		Low:     8 * mm,
		High:    250 * mm,
		Tools:   []string{"bore gauge"},
		OnSheet: true,
		NoLimit: true,
	})
	SeatOuter = characteristic(Characteristic{
		Code:    "seat.outer",
		Label:   "Insert outside",
		Line:    "of the insert that goes in",
		Section: Seats,
		Where:   AtPosition,
		Low:     8 * mm,
		High:    250 * mm,
		Tools:   []string{"micrometer"},
		OnSheet: true,
		NoLimit: true,
	})
	SeatFit = characteristic(Characteristic{
		Code:    "seat.fit",
		Label:   "Insert interference",
		Line:    "insert outside less its hole",
		Section: Seats,
		Where:   AtPosition,
		From:    []*Characteristic{SeatOuter, SeatHole},
		Work:    less(SeatOuter, SeatHole),
	})
	Throat = characteristic(Characteristic{
		Code:    "seat.throat",
		Label:   "Throat",
		Line:    "its diameter below the seat's cuts",
		Section: Seats,
		Where:   AtPosition,
		Low:     5 * mm,
		High:    250 * mm,
		Tools:   []string{"caliper", "bore gauge"},
		OnSheet: true,
		NoLimit: true,
	})
	ThroatShare = characteristic(Characteristic{
		Code:    "throat.share",
		Label:   "Throat, share of the valve's head",
		Line:    "throat over the head diameter of the valve; 85 to 90 % is usual",
		Section: Seats,
		Where:   AtPosition,
		From:    []*Characteristic{Throat, ValveHead},
		Work:    share,
		Unit:    Percent,
	})
	PortDepth = characteristic(Characteristic{
		Code:     "port.depth",
		Label:    "Port depth from the face",
		Line:     "from the face over a bar, for class rules",
		Section:  Seats,
		Where:    AtPosition,
		Low:      0,
		High:     300 * mm,
		Tools:    []string{"dial on bridge", "depth micrometer"},
		OnSheet:  true,
		NoAnswer: "metal that is gone is not put back: the class rule decides",
	})
)

// SeatSeen is what eyes see of a seat.
var SeatSeen = part(Part{Code: "seat.condition", Label: "Seat", Grades: []Grade{
	{"clean", "clean", "an even ring", gauge.Sound},
	{"light_pits", "light pits", "specks, the ring unbroken", gauge.Near},
	{"heavy_pits", "heavy pits", "pits that break the ring", gauge.Out},
	{"gaps", "gaps in the ring", "blue shows through in places", gauge.Out},
	{"sunk", "sunk", "beaten below its land", gauge.Out},
	{"loose", "loose", "the insert moves or rings dull", gauge.Renew},
	{"cracked", "cracked", "a line across the seat", gauge.Renew},
	{"burnt", "burnt", "a channel through the ring", gauge.Renew},
}})

// InsertPart is a seat insert.
var InsertPart = partKind(
	PartKind{Code: "insert", Name: "insert", Dims: []*Characteristic{SeatOuter}, Usual: 1900},
)

// What a cut seat moves.
var seatMoves = []*Characteristic{
	SeatWidth, Throat, SeatRunout, SeatAngleAt, SeatPosition, SeatRoom, Recession, StemHeight,
	SpringHeight, Lash, LashDry,
}

// The work on seats.
var (
	CutSeat = operation(Operation{
		Code:    "seat_cut",
		Name:    "Cut seats",
		Station: SeatBench,
		Stage:   SeatCutting,
		Setup:   15,
		Each:    12,
		Size:    &Size{Label: "seat cut", Least: seatLeast, Most: seatMost, Metal: true, Scatter: "scatter.seat"},
		Moves:   rises(BySize, 1),
		Undoes:  proofs,
		Voids:   seatMoves,
		Looks: []*Part{
			SeatSeen,
		},
		Because: "a seat is only as true as its guide: cut after the guide",
		Caution: "Eye protection. The seat is only as true as its guide.",
		Proof: &Proof{
			Of: Recession, Datum: "the face as it is at this moment",
			Tool: "cutter of the seat's three angles, pilot in the guide",
		},
	})
	FitInsert = operation(Operation{
		Code:    "seat_insert",
		Name:    "New inserts",
		Station: SeatBench,
		Stage:   Inserting,
		Setup:   20,
		Each:    35,
		Implies: []*Operation{
			CutSeat,
		},
		Needs: []*Operation{Retest},
		Whole: true,
		Size: &Size{
			Label:   "seat set down",
			Least:   figureOf(InsertUp, -1),
			Most:    figureOf(InsertDown, 1),
			Scatter: "scatter.seat",
		},
		Moves:  rises(BySize, 1),
		Undoes: append([]*Operation{Retest}, proofs...),
		Voids: append(
			[]*Characteristic{SeatOuter, SeatHole}, seatMoves...,
		),
		Looks: []*Part{
			SeatSeen,
		},
		Uses:    InsertPart,
		Caution: "Hot head and chilled inserts burn: gloves, face shield, ventilation, never a closed container.",
		Fit:     SeatFit,
	})
	Lap = operation(Operation{
		Code:    "lap",
		Name:    "Lap",
		Station: Press,
		Stage:   Lapping,
		Setup:   5,
		Each:    6,
		Little:  true,
		Undoes:  proofs,
		Voids: []*Characteristic{
			SeatWidth, VacuumTurned, Liquid, Drop,
		},
		Looks:   []*Part{SeatSeen, FaceSeen},
		Because: "a finish and a test",
		Caution: "No paste near a guide. Wash out everything.",
		Record:  lapRecord,
	})
)

// What can be done about seats. A seat is lapped, cut or renewed, never two of them.
var (
	_ = repair(Repair{
		Code:    "lap",
		Name:    "Lap",
		Choice:  "lap",
		Changes: "nearly nothing",
		Works:   SeatMetal,
		Does:    Lap,
		Order:   10,
		Answers: []Answer{
			{Of: SeatWidth}, {Part: SeatSeen}, {Part: FaceSeen}, {Of: VacuumLost}, {Of: Liquid}, {Of: Drop},
			{Of: LapRing},
		},
		Allowed: all(
			valves(Valve.Titanium, "titanium valves are never lapped"),
			valves(func(v Valve) bool { return v.Coated }, "coated valves are never lapped"),
			valves(func(v Valve) bool { return v.Hollow }, "hollow valves are never lapped"),
			grades(FaceSeen, "a burnt or cracked valve is renewed", "burnt", "cracked"),
			grades(FaceSeen, "pits a nail catches, or a dished face, are ground, not lapped", "heavy_pits", "dished"),
			grades(StemSeen, "a bent valve is not lapped true", "bent"), trueValve,
			grades(SeatSeen, "pits that break the ring are cut, not lapped", "heavy_pits"),
			grades(SeatSeen, "a sunk, loose, cracked or burnt seat is not lapped", "sunk", "loose", "cracked",
				"burnt"),
			littleWidth, trueSeat, ringFilled),
	})
	_ = repair(Repair{
		Code:    "seat_cut",
		Name:    "Cut main, top and bottom",
		Choice:  "cut",
		Changes: "recession, stem and spring height, lash",
		Works:   SeatMetal,
		Does:    CutSeat,
		Order:   20,
		Answers: []Answer{
			{Of: SeatWidth}, {Of: SeatRunout}, {Of: SeatAngleAt}, {Of: Interference}, {Of: SeatPosition},
			{Of: Recession, Side: Low}, {Of: RecessionRow},
			{Of: ThroatShare, Side: Low},
			{Of: StemHeight, Side: Low}, {Of: SpringHeight, Side: Low}, {Of: VacuumLost}, {Of: Liquid}, {Of: Drop},
			{Of: LapRing}, {Part: SeatSeen},
		},
		Allowed: all(grades(SeatSeen, "a loose or cracked insert is renewed", "loose", "cracked"), roomLeft),
		Fits:    depthLeft,
	})
	_ = repair(Repair{
		Code:    "seat_insert",
		Name:    "New insert",
		Choice:  "insert",
		Changes: "restores depth; pressure test after",
		Works:   SeatMetal,
		Does:    FitInsert,
		Order:   40,
		Answers: []Answer{
			{Of: SeatWidth}, {Of: SeatRunout}, {Of: SeatAngleAt}, {Of: SeatPosition}, {Of: SeatRoom}, {Of: SeatFit},
			{Of: Recession},
			{Of: ThroatShare, Side: High},
			{Of: RecessionRow}, {Of: StemHeight}, {Of: LashDry}, {Of: SpringHeight}, {Of: VacuumLost}, {Of: Liquid},
			{Of: LapRing}, {Part: SeatSeen},
		},
	})
)

// lapTakes is how much over its limit a ring may be and still be lapped: trade practice.
const lapTakes = 100 * um

// littleWidth allows lapping a ring that is nearly wide or narrow enough.
func littleWidth(c Case) Ruling {
	if side, by := c.Out(); c.Finding() == SeatWidth.Code && side == High && by > lapTakes {
		return No("the ring is %s too wide: it is cut, not lapped", c.Text(by))
	}
	return Yes
}

// trueValve forbids lapping a valve that runs out, or whose leak turns with it.
func trueValve(c Case) Ruling {
	lo, _, u, read := c.Read(ValveRunout)
	_, high := c.Limit(ValveRunout)
	if most, ok := c.Figure(GrindRunout); high == nil && ok {
		high = &most
	}
	switch {
	case read && high != nil && lo-u > *high:
		return No("the valve runs out by %s: lapping does not make it true", c.Text(lo))
	case c.Suspect() == seating.SuspectValve:
		return No("the leak turns with the valve: lapping does not make it true")
	}
	return Yes
}

// trueSeat forbids lapping a seat that runs out.
func trueSeat(c Case) Ruling {
	lo, _, u, read := c.Read(SeatRunout)
	if _, high := c.Limit(SeatRunout); read && high != nil && lo-u > *high {
		return No("the seat runs out by %s: lapping does not make it true", c.Text(lo))
	}
	return Yes
}

// ringFilled forbids lapping on where lapping did not fill the ring.
func ringFilled(c Case) Ruling {
	if passes, full, known := c.Passed(); known && !full {
		return No("the ring was not full after %d passes: cut the seat", passes)
	}
	return Yes
}

// roomLeft forbids a cut where the insert has no room left.
func roomLeft(c Case) Ruling {
	_, hi, _, read := c.Read(SeatRoom)
	if low, _ := c.Limit(SeatRoom); read && low != nil && hi < *low {
		return No("only %s is left to the insert's edge, and %s is the least", c.Text(hi), c.Text(*low))
	}
	return Yes
}

// seatLeast is the least a seat is cut: what cleans it up, or the ring's own main cut where that is more.
func seatLeast(c Case) quantity.Amount {
	clean, _ := c.Figure(SeatClean)
	return max(clean, c.Ring())
}

// seatMost is how deep a seat may be cut: what the sheet allows, and no further than the top cut
// has room for to the insert's edge.
func seatMost(c Case) quantity.Amount {
	most, _ := c.Figure(SeatMost)
	room, _, _, read := c.Read(SeatRoom)
	if low, _ := c.Limit(SeatRoom); read && low != nil { // the top cut eats the room as the seat goes down
		angle, _ := c.Figure(TopAngle)
		deep := float64(room-*low) * math.Tan(angle.Float()*math.Pi/180)
		most = min(most, max(0, quantity.Amount(deep)))
	}
	return most
}

// depthLeft forbids a cut that would sink the valve past its limit, with the facing that is
// to come.
func depthLeft(c Case) Ruling {
	lo, _, _, read := c.Read(Recession)
	clean, _ := c.Figure(SeatClean)
	_, high := c.Limit(Recession)
	if c.Finding() == Recession.Code || c.Finding() == RecessionRow.Code {
		return Yes
	}
	if read && high != nil && lo+clean-c.FaceCut() > *high {
		return No("cutting it clean by %s would sink the valve to %s, and %s is the most", c.Text(clean),
			c.Text(lo+clean-c.FaceCut()), c.Text(*high))
	}
	return Yes
}
