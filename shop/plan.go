package shop

import (
	"context"
	"encoding/json"
	"slices"
	"sync"
	"time"

	"yatai/core/engine"
	"yatai/core/gauge"
	"yatai/core/judge"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/plan"
	"yatai/store"
)

// Alternative is a way to weigh what a plan does. Each is an exact optimum of its own
// question.
type Alternative struct{ Code, Label, Says string }

// Alternatives are the ways to plan a head.
var Alternatives = []Alternative{
	{"keep", "Keep what can be kept", "parts weigh four times their price: metal goes before parts"},
	{"balanced", "Balanced", "what costs least"},
	{"renew", "Renew what wears", "what has used up half of its room is renewed while it is open"},
}

// PlanAsk is a question to the planner: an alternative, and what the lead holds fast. Cut is
// nil when the planner chooses; Seat and Valve are by position: keep, cut or insert, and
// keep, grind or new.
type PlanAsk struct {
	Alternative string
	Cut         *length.Length
	Seat, Valve map[string]string
	Brief       bool `json:"-"` // without the sensitivity
}

// Held tells whether anything is held fast.
func (a PlanAsk) Held() bool { return a.Cut != nil || len(a.Seat)+len(a.Valve) > 0 }

// Move is one figure of a position before and after.
type Move struct {
	Code, Label string
	Now, After  length.Length
	Known       bool
	U           length.Length
	Limit       *judge.Limit
	Target      *length.Length // what is aimed at, where that is not After itself
	Verdict     gauge.Verdict  // of After
}

// PlanRow is a position before and after.
type PlanRow struct {
	ID    string
	Role  layout.Role
	Done  plan.Done
	Moves []Move
	Why   []string // findings the plan has to answer here
}

// Move returns the row's move of a characteristic.
func (r PlanRow) Move(code string) Move {
	for _, m := range r.Moves {
		if m.Code == code {
			return m
		}
	}
	return Move{Code: code}
}

// CutOffer is a facing cut worth trying, and what it is for.
type CutOffer struct {
	Cut  length.Length
	Says string
}

// Planned is a worked-out plan with everything that hangs on it.
type Planned struct {
	Ask      PlanAsk
	In       plan.Input
	Out      plan.Output
	Missing  []string // readings without which nothing can be planned
	Refused  []string // why it cannot be done
	Rows     []PlanRow
	Offers   []CutOffer
	Lash     []LashRow
	Bought   int // shims to buy
	Ops      []Priced
	Cents    int64
	Minutes  int
	Ready    time.Time
	Life     string   // where the least room is left
	Changes  []string // sensitivity, in words
	Thick    Move
	Injector []Move
	Ratio    *engine.CompressionOutput
	Gasket   string   // the grade that restores the ratio
	Pair     []string // the other heads of the order
	School   []string
}

// Count tells at how many positions something is done: cut, insert, grind, new, tip.
func (p Planned) Count(what string) int {
	n := 0
	for _, d := range p.Out.Valves {
		if d.Seat == what || d.Valve == what || what == "tip" && d.TipGrind > 0 {
			n++
		}
	}
	return n
}

// Label names the plan's alternative.
func (p Planned) Label() string {
	for _, a := range Alternatives {
		if a.Code == p.Ask.Alternative {
			return a.Label
		}
	}
	return p.Ask.Alternative
}

// Feasible tells whether it can be done.
func (p Planned) Feasible() bool {
	return len(p.Missing) == 0 && p.Out.Feasible && len(p.Refused) == 0
}

// Plan works out an answer for a head. It writes nothing.
func (s *Shop) Plan(ctx context.Context, f *File, ask PlanAsk) (Planned, error) {
	db := s.st.Read(ctx)
	p, err := s.planner(db, f)
	if err != nil {
		return Planned{}, err
	}
	out := p.answer(ask)
	pair, err := db.HeadsOfJob(f.JobID)
	if err != nil {
		return out, err
	}
	for _, h := range pair {
		if h.ID == f.ID {
			continue
		}
		said := h.Tag + " " + h.Bank
		if plans, err := db.Plans(h.ID); err == nil && len(plans) > 0 {
			var a plan.Output
			if json.Unmarshal([]byte(plans[0].Answer), &a) == nil {
				said += ": its plan faces it by " + a.FaceCut.String()
				if (a.FaceCut - out.Out.FaceCut).Abs() > 50*length.Micrometre {
					said += ", a pair is faced alike"
				}
			}
		} else {
			said += ": no plan yet"
		}
		out.Pair = append(out.Pair, said)
	}
	return out, nil
}

// Compare works out every alternative for a head, side by side.
func (s *Shop) Compare(ctx context.Context, f *File) ([]Planned, error) {
	p, err := s.planner(s.st.Read(ctx), f)
	if err != nil {
		return nil, err
	}
	out := make([]Planned, len(Alternatives))
	var all sync.WaitGroup
	for i, a := range Alternatives { // a planner only reads: each answers by itself
		all.Go(func() { out[i] = p.answer(PlanAsk{Alternative: a.Code, Brief: true}) })
	}
	all.Wait()
	return out, nil
}

// Replacement is a head that could be had instead of mending this one.
type Replacement struct {
	store.StockItem
	Days  int
	Share int64 // the plan's price of its, percent
	Asks  bool  // above the shop's threshold: somebody has to answer
}

// Replacements lists what could be had instead, against what a plan costs.
func (s *Shop) Replacements(ctx context.Context, f *File, cents int64) ([]Replacement, error) {
	p, err := s.planner(s.st.Read(ctx), f)
	if err != nil {
		return nil, err
	}
	var out []Replacement
	for _, it := range p.stock.Items {
		if it.ModelID != f.ModelID || it.Kind != "exchange head" && it.Kind != "used head" || it.PriceCents == 0 {
			continue
		}
		r := Replacement{StockItem: it, Days: p.lead(it), Share: cents * 100 / it.PriceCents}
		r.Asks = it.Kind == "exchange head" && cents*1_000_000 > it.PriceCents*p.set.PPM("threshold")
		out = append(out, r)
	}
	return out, nil
}

// answer works a question out.
func (p *planner) answer(ask PlanAsk) Planned {
	if !slices.ContainsFunc(Alternatives, func(a Alternative) bool { return a.Code == ask.Alternative }) {
		ask.Alternative = "balanced"
	}
	out := Planned{Ask: ask}
	out.In, out.Missing = p.input(ask)
	out.Offers = p.offers(out.In)
	out.School = p.schools()
	if len(out.Missing) > 0 {
		return out
	}
	var err error
	if out.Out, err = p.solve(out.In); err != nil {
		out.Refused = append(out.Refused, err.Error())
		return out
	}
	if !out.Out.Feasible {
		for _, b := range out.Out.Blocked {
			out.Refused = append(out.Refused, p.words(b, out.In))
		}
		out.Rows = p.rows(out.In, nil, 0)
		return out
	}
	p.follow(&out)
	if !ask.Brief {
		out.Changes = p.sensitivity(out)
	}
	return out
}

// What is out that a seat has to be cut for, that only an insert answers, that a valve has
// to be ground for, that only a new valve answers.
var (
	seatCodes   = []string{"seat.width", "seat.runout", "seat.position", "seat.condition", "seat.angle", "guide.clearance", "guide.condition", "guide.form", "guide.play"}
	valveGrinds = []string{"valve.face", "valve.face_angle"}
	valveRenews = []string{"valve.margin", "valve.runout", "stem.dia", "stem.condition", "valve.head", "valve.length", "tip.condition", "groove.condition"}
)
