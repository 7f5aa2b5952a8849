package answer

import (
	"context"

	"yatai/core/head"
	"yatai/core/judge"
	"yatai/core/length"
	"yatai/core/plan"
	"yatai/core/price"
	"yatai/core/quantity"
	"yatai/core/trade"
)

// PlanAnswer is a whole-head plan.
type PlanAnswer struct {
	Feasible    bool              `json:"feasible"`
	Alternative string            `json:"alternative"`
	FaceCut     length.Length     `json:"face_cut_nm"`
	Tilt        *TiltAnswer       `json:"tilt,omitempty"` // without it the head is faced level
	Gasket      string            `json:"gasket,omitempty"`
	Cents       int64             `json:"price_cents"`
	Minutes     quantity.Minutes  `json:"minutes"`
	Ready       int               `json:"ready"`        // working days, started now
	PAll        *float64          `json:"p_all_inside"` // null where something with a limit is not known
	PRead       float64           `json:"p_read_inside"`
	Unread      []string          `json:"unread"`
	Preferred   []PreferredAnswer `json:"preferred"`
	Ratio       *RatioAnswer      `json:"ratio"`
	Valves      []ValveAnswer     `json:"valves"`
	Operations  []OperationAnswer `json:"operations"`
	Parts       []PartAnswer      `json:"parts"`
	Missing     []string          `json:"missing"`
	Assumed     []string          `json:"assumed"`
	Blocked     []BlockedAnswer   `json:"blocked"`
	Others      []OtherAnswer     `json:"alternatives"`
}

// RatioAnswer is the compression ratio before and after.
type RatioAnswer struct {
	Before  quantity.Decimal `json:"before"`
	After   quantity.Decimal `json:"after"`
	Restore length.Length    `json:"gasket_restore_nm"`
}

// ValveAnswer is what is planned for one valve and what it comes to. What is not known is
// null.
type ValveAnswer struct {
	ID        string         `json:"id"`
	Seat      string         `json:"seat"`
	SeatCut   length.Length  `json:"seat_cut_nm"`
	Lap       bool           `json:"lap"`
	Valve     string         `json:"valve"`
	Grind     length.Length  `json:"grind_nm"`
	Guide     string         `json:"guide"`
	Bore      *length.Length `json:"guide_bore_nm"`
	Stem      *length.Length `json:"stem_nm"`
	Tip       length.Length  `json:"tip_grind_nm"`
	Shim      length.Length  `json:"spring_shim_nm"`
	Pad       length.Length  `json:"pad_cut_nm"`
	LashShim  *length.Length `json:"lash_shim_nm"`
	LashFrom  string         `json:"lash_shim_from"`
	Pushrod   *length.Length `json:"pushrod_nm"`
	Recession *length.Length `json:"recession_nm"`
	StemH     *length.Length `json:"stem_height_nm"`
	SpringH   *length.Length `json:"spring_height_nm"`
	Margin    *length.Length `json:"margin_nm"`
	Clearance *length.Length `json:"clearance_nm"`
	Lash      *length.Length `json:"lash_nm"`
	Injector  *length.Length `json:"injector_nm,omitempty"`
	Own       []OwnAnswer    `json:"own,omitempty"`
	Figures   []FigureAnswer `json:"figures"`
	Says      string         `json:"says"`
}

// OwnAnswer is a repair of the shop's own that is done at a valve, and its size where it has one.
type OwnAnswer struct {
	Code string        `json:"code"`
	Size length.Length `json:"size_nm,omitempty"`
}

// FigureAnswer is how sure one figure is.
type FigureAnswer struct {
	Of      string        `json:"of"`
	After   length.Length `json:"after_nm"`
	SD      length.Length `json:"sd_nm"`
	PInside float64       `json:"p_inside"`
}

// OperationAnswer is a step of the route.
type OperationAnswer struct {
	Code    string           `json:"code"`
	Name    string           `json:"name"`
	At      []string         `json:"at"`
	Minutes quantity.Minutes `json:"minutes"`
	Station string           `json:"station"`
	Because string           `json:"because"`
}

// PartAnswer is a part that is needed.
type PartAnswer struct {
	Kind  string        `json:"kind"`
	Role  string        `json:"role,omitempty"`
	Size  length.Length `json:"size_nm,omitempty"`
	Count int           `json:"count"`
	From  string        `json:"from"`
	Cents *int64        `json:"cents"` // null when no price is known
}

// BlockedAnswer is what stands in the way.
type BlockedAnswer struct {
	ID    string `json:"id"`
	Limit string `json:"limit"`
	Why   string `json:"why"`
}

// TiltAnswer is how the head is tilted while it is faced.
type TiltAnswer struct {
	Along  quantity.Decimal `json:"along_um_per_m"`
	Across quantity.Decimal `json:"across_um_per_m"`
}

// PreferredAnswer is something that went before price, and what it costs more than the cheapest.
type PreferredAnswer struct {
	What  string `json:"what"`
	Cents int64  `json:"cents"`
}

// OtherAnswer is another way to weigh, in short.
type OtherAnswer struct {
	Alternative string        `json:"alternative"`
	Feasible    bool          `json:"feasible"`
	FaceCut     length.Length `json:"face_cut_nm"`
	Cents       int64         `json:"price_cents"`
	Ready       int           `json:"ready"`
	PAll        *float64      `json:"p_all_inside"`
}

// Plan plans a head by what its file asks, and the other alternatives in short.
func Plan(ctx context.Context, h *head.Head) (PlanAnswer, error) {
	j := judge.Head(h)
	p, err := plan.Judged(ctx, h, j, h.Ask)
	if err != nil {
		return PlanAnswer{}, err
	}
	a := OfPlan(h, p)
	for _, alt := range plan.Alternatives {
		if alt.Code == p.Ask.Alternative || h.Inspection() {
			continue
		}
		ask := h.Ask
		ask.Alternative = alt.Code
		o, err := plan.Judged(ctx, h, j, ask)
		if err != nil {
			return a, err
		}
		a.Others = append(a.Others, OtherAnswer{alt.Code, o.Feasible, o.FaceCut, o.Cents, o.Days, certain(o)})
	}
	return a, nil
}

// OfPlan is a plan as it is answered, without the other alternatives.
func OfPlan(h *head.Head, p plan.Plan) PlanAnswer {
	a := PlanAnswer{
		Feasible:    p.Feasible,
		Alternative: p.Ask.Alternative,
		FaceCut:     p.FaceCut,
		Gasket:      p.Gasket,
		Cents:       p.Cents,
		Minutes:     p.Minutes,
		Ready:       p.Days,
		PAll:        certain(p),
		PRead:       share(p.PAll),
		Unread:      some(p.Unread),
		Preferred:   []PreferredAnswer{},
		Valves:      []ValveAnswer{},
		Operations:  []OperationAnswer{},
		Parts:       []PartAnswer{},
		Missing:     some(p.Missing),
		Assumed:     some(p.Assumed),
		Blocked:     []BlockedAnswer{},
		Others:      []OtherAnswer{},
	}
	for _, x := range p.Preferred {
		a.Preferred = append(a.Preferred, PreferredAnswer(x))
	}
	if p.Tilt != nil {
		a.Tilt = &TiltAnswer{p.Tilt.Along, p.Tilt.Across}
	}
	if p.Ratio != nil {
		a.Ratio = &RatioAnswer{p.Ratio.Before, p.Ratio.After, p.Ratio.GasketRestore}
	}
	for _, v := range p.Valves {
		a.Valves = append(a.Valves, valveAnswer(h, p, v))
	}
	for _, o := range p.Operations {
		a.Operations = append(a.Operations, OperationAnswer{
			o.Code, o.Name, some(o.Positions), o.Minutes, o.Station, p.Because[o.Code],
		})
		a.Parts = append(a.Parts, partAnswers(o)...)
	}
	for _, b := range p.Blocked {
		a.Blocked = append(a.Blocked, BlockedAnswer(b))
	}
	return a
}

// certain is how likely all ends inside, nil where something with a limit was not read.
func certain(p plan.Plan) *float64 {
	if len(p.Unread) > 0 || !p.Feasible {
		return nil
	}
	x := share(p.PAll)
	return &x
}

func partAnswers(o price.Priced) []PartAnswer {
	var out []PartAnswer
	for _, u := range o.Parts {
		x := PartAnswer{Kind: u.Kind.Code, Role: u.Role, Size: u.Size, Count: u.Count, From: u.From()}
		if u.Item != nil && u.Role == "" {
			x.Role = u.Item.Role
		}
		if u.Known {
			x.Cents = &u.Cents
		}
		out = append(out, x)
	}
	return out
}

func some[T any](xs []T) []T {
	if xs == nil {
		return []T{}
	}
	return xs
}

func valveAnswer(h *head.Head, p plan.Plan, v plan.Valve) ValveAnswer {
	a := ValveAnswer{
		ID:      v.ID,
		Seat:    v.Seat,
		SeatCut: v.SeatCut,
		Lap:     v.Lap,
		Valve:   v.Valve,
		Grind:   v.Grind,
		Guide:   v.Guide,
		Bore:    v.Bore,
		Stem:    v.Stem,
		Tip:     v.TipGrind,
		Shim:    v.SpringShim,
		Pad:     v.PadCut,
		Figures: []FigureAnswer{},
		Says:    v.Says,
	}
	for _, code := range v.Repairs {
		if r := trade.RepairNamed(code); r.Own() {
			size, _ := v.SizeOf(r.Does)
			a.Own = append(a.Own, OwnAnswer{code, size})
		}
	}
	if h.Model.Kind.Pushrods() {
		a.Pushrod = v.Size
	} else if h.Model.Kind.Buckets() {
		a.LashShim, a.LashFrom = v.Size, v.From
	}
	after := func(c *trade.Characteristic) *length.Length {
		f := v.Figure(c.Code)
		if f == nil || !f.Known {
			return nil
		}
		return quantity.AsLength(&f.After)
	}
	a.Recession, a.StemH, a.SpringH = after(trade.Recession), after(trade.StemHeight), after(trade.SpringHeight)
	a.Margin, a.Clearance = after(trade.ValveMargin), after(trade.GuideClearance)
	if a.Lash = after(trade.Lash); h.Model.Kind.Hydraulic() {
		a.Lash = after(trade.LashDry)
	}
	lv, _ := h.Model.Layout.Valve(v.ID)
	for _, f := range p.Own {
		if f.Code == trade.Injector.Code && f.Position == "C"+itoa(lv.Cylinder) {
			a.Injector = quantity.AsLength(&f.After)
		}
	}
	for _, f := range v.Figures {
		if f.Known && f.Limit != nil {
			a.Figures = append(a.Figures, FigureAnswer{f.Code, f.After.Length(), length.FromFloat(f.SD), share(f.P)})
		}
	}
	return a
}
