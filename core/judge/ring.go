package judge

import (
	"math"

	"yatai/core/head"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/seating"
	"yatai/core/trade"
)

// SeatRing is one seat's ring as it is and as it is wanted, with the cuts between.
type SeatRing struct {
	ID   string
	In   seating.SeatInput
	Out  *seating.SeatOutput
	Room *length.Length // from the top cut's edge to the insert's edge, nil when not known
	Read bool           // the ring's place was read, not supposed
	Why  string         // why nothing can be worked out
}

// How far inside the valve's edge a ring is taken to lie where nobody read it (InsetNow), and is
// put where nobody says where it should be (insetWanted): trade practice.
const (
	InsetNow    = 300 * length.Micrometre
	insetWanted = 400 * length.Micrometre
)

// Ring works out a seat's cuts for a ring of a width and with its outer edge inset from the
// valve's edge: the middles of the sheet's limits where they are nil. The plan, the seats'
// page and the work sheet all show this.
func Ring(h *head.Head, v layout.Valve, width, inset *length.Length) SeatRing {
	row := SeatRing{ID: v.ID}
	at := func(c *trade.Characteristic) (length.Length, bool) {
		mean, read := h.Mean(c.Code, v.ID)
		return mean.Length(), read
	}
	now, ok := at(trade.SeatWidth)
	if !ok {
		row.Why = "its width was not read"
		return row
	}
	degrees := func(f *trade.Figure) quantity.Degrees {
		a, _, _ := h.Figure(f, v.Role)
		return a.Degrees()
	}
	edge := v.Head
	if m, ok := at(trade.ValveHead); ok {
		edge = m
	}
	place := InsetNow
	if m, ok := at(trade.SeatPosition); ok {
		place, row.Read = m, true
	}
	in := seating.SeatInput{
		Angle: degrees(trade.SeatAngle), Top: degrees(trade.TopAngle), Bottom: degrees(trade.BottomAngle),
		ValveHead: edge, Outer: edge - 2*place,
	}
	in.Inner = in.Outer - 2*seating.Slope(in.Angle, now)
	in.TargetWidth = middle(h.Limit(trade.SeatWidth.Code, string(v.Role)), now)
	if width != nil {
		in.TargetWidth = *width
	}
	want := middle(h.Limit(trade.SeatPosition.Code, string(v.Role)), insetWanted)
	if inset != nil {
		want = *inset
	}
	in.TargetOuter = edge - 2*want
	row.In = in
	out, err := seating.Seat(in)
	if err != nil {
		row.Why = err.Error()
		return row
	}
	row.Out = &out
	if read, ok := at(trade.SeatRoom); ok {
		row.Room = &read
	} else if outer, _, ok := h.Size(trade.InsertOuter, v.Role); ok {
		room := (outer - in.TargetOuter) / 2
		row.Room = &room
	}
	return row
}

// To is the ring with a main cut of at least so much, which a plan may want deeper than the ring alone:
// top and bottom follow by as much, so that the ring comes out as wanted all the same.
func (r SeatRing) To(main length.Length) SeatRing {
	if r.Out == nil || main <= r.Out.MainDepth {
		return r
	}
	out, more := *r.Out, main-r.Out.MainDepth
	out.MainDepth, out.TopDepth, out.BottomDepth, out.Sink = main, out.TopDepth+more, out.BottomDepth+more, main
	out.RoomUsed = length.FromFloat(float64(out.TopDepth) / math.Tan(r.In.Top.Float()*math.Pi/180))
	r.Out = &out
	return r
}

// middle is the middle of a limit with two ends, else what is usual.
func middle(l *head.Limit, usual length.Length) length.Length {
	if l == nil || l.Low == nil || l.High == nil {
		return usual
	}
	return ((*l.Low + *l.High) / 2).Length()
}
