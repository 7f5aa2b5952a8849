package headfile

import (
	"slices"

	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/judge"
	"yatai/core/layout"
	"yatai/core/quantity"
	"yatai/core/trade"
	"yatai/store"
)

// Add puts later readings into the file.
func (f *File) Add(later ...store.Reading) {
	for _, r := range later {
		if t, ok := ToolWith(f.Tools, r.ToolID); ok {
			r.Tool = &t
		}
		f.Readings = append(f.Readings, r)
		f.Standing(r.Stage)[SpotKey(r)] = r
	}
}

// ToolsFor lists the shop's tools that can read a characteristic: the usual kinds first, then
// every other that reads its kind of quantity. What is retired is not among them.
func (f *File) ToolsFor(c trade.Characteristic) []store.Tool {
	var out []store.Tool
	for _, kind := range c.Tools {
		for _, t := range f.Tools {
			if t.Kind == kind && t.RetiredAt == nil {
				out = append(out, t)
			}
		}
	}
	for _, t := range f.Tools {
		k, ok := trade.ToolKindNamed(t.Kind)
		if ok && !k.Eye && k.Unit == c.Unit && c.Words == nil && t.RetiredAt == nil &&
			!slices.Contains(c.Tools, t.Kind) {
			out = append(out, t)
		}
	}
	return out
}

// ToolWith finds a tool by its id.
func ToolWith(tools []store.Tool, id uint) (store.Tool, bool) {
	i := slices.IndexFunc(tools, func(t store.Tool) bool { return t.ID == id })
	if i < 0 {
		return store.Tool{}, false
	}
	return tools[i], true
}

// JudgedAt returns the judgement readings of a stage are shown by: as received for
// itself, what stands now for the later ones.
func (f *File) JudgedAt(stage string) judge.Judgement {
	if stage == AsReceived {
		return f.Received
	}
	return f.Now
}

// SpotVerdict is what is said of one standing reading, for the row of a sweep: the worst
// of the features that speak for it.
func (f *File) SpotVerdict(c trade.Characteristic, r store.Reading) gauge.Verdict {
	if c.Where != trade.AtPosition {
		return f.Spot(c, r).Verdict
	}
	p, _ := f.JudgedAt(r.Stage).Position(r.Position)
	worst := gauge.Unread
	for _, x := range p.Speaks(c.Code) {
		worst = max(worst, x.Verdict)
	}
	return worst
}

// Spot is the feature that speaks for a reading of the head or of a line, a cylinder or a journal of it,
// as that reading alone stands to the limit. What is only made of several readings is the feature's.
func (f *File) Spot(c trade.Characteristic, r store.Reading) judge.Feature {
	j := f.JudgedAt(r.Stage)
	var x judge.Feature
	var ok bool
	if line, is := f.Layout.Line(r.Position); is && c.Where == trade.AtLine {
		x, ok = j.Feature(c.Code + "/" + line.Kind)
	} else if x, ok = j.Feature(c.Code); !ok && r.Position != "H" {
		x, ok = j.Feature(judge.Feature{Code: c.Code, Position: r.Position}.Key())
	}
	if !ok {
		x, _ = j.Feature(c.Feeds())
		return x
	}
	if x.Limit == nil {
		return x
	}
	v := gauge.Exact(r.NM)
	if r.Bracket {
		v = gauge.Between(r.GoNM, r.NoGoNM)
	}
	said := gauge.Judge(v, r.U, x.Limit.Gauge())
	spot := trade.Spot{Position: r.Position, Place: r.Place, Dir: r.Dir}
	if said.Verdict != gauge.Doubt || x.At != spot.At() {
		x.Settle = ""
	}
	x.Verdict, x.By, x.Side, x.At = said.Verdict, max(0, -said.Distance), said.Side, ""
	return x
}

// Shown is what a reading's field shows: what was typed, or the size that came of it.
func (f *File) Shown(r store.Reading) string {
	c, _ := f.Characteristic(r.Characteristic)
	if (r.Method == "direct" || r.Bracket) && !c.UnitFor(f.Unit).Customary() {
		return r.Typed
	}
	return c.Show(r.NM, f.Unit)
}

// Worked tells whether work that was begun since a reading after repair has changed what it read.
func (f *File) Worked(r store.Reading) bool {
	if r.Stage == AsReceived || len(f.Operations) == 0 {
		return false
	}
	h := head.Head{Model: head.Model{Layout: f.Layout}, Operations: f.operations()}
	return h.Stale(head.Reading{ID: r.ID, Of: r.Characteristic, Spot: spotOf(r), Stage: r.Stage})
}

// operations is the route as the core takes it.
func (f *File) operations() []head.Operation {
	var out []head.Operation
	for _, o := range f.Operations {
		out = append(out, head.Operation{
			Code: o.Code, At: o.At(), State: o.State, Begun: o.BegunAfter, Why: o.SkipReason,
			Turn: o.BegunTurn,
		})
	}
	return out
}

// Outlier finds the reading of a sweep that stands out of its row (its role's readings of
// the stage), worth reading once more; ok is false when none does.
func (f *File) Outlier(
	c trade.Characteristic, stage string,
) (r store.Reading, away quantity.Amount, ok bool) {
	if c.Where != trade.AtPosition {
		return r, 0, false
	}
	rows := map[layout.Role][]store.Reading{}
	standing := f.Standing(stage)
	for _, spot := range c.Spots(f.Layout) {
		if rd, read := standing[c.Code+" "+spot.Key()]; read {
			v, _ := f.Layout.Valve(spot.Position)
			rows[v.Role] = append(rows[v.Role], rd)
		}
	}
	for _, row := range rows {
		var ls []quantity.Amount
		for _, rd := range row {
			ls = append(ls, rd.NM)
		}
		if i, far, out := gauge.Outlier(ls, 3*row[0].Tool.U); out && far > away {
			r, away, ok = row[i], far, true
		}
	}
	return r, away, ok
}
