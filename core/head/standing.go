package head

import (
	"slices"

	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/trade"
)

// reads are a head's readings by what and where.
type reads struct {
	at  map[string]map[string][]Reading // code, position: what stands, by spot, in order
	all map[string][]Reading            // code: every reading of it, in order
}

// Until returns the head as it was when the readings and findings of the stages given were
// the only ones: as it was received.
func (h *Head) Until(stages ...string) *Head {
	out := *h
	out.reads = nil
	out.Readings = slices.DeleteFunc(slices.Clone(h.Readings),
		func(r Reading) bool { return !slices.Contains(stages, r.Stage) })
	out.Findings = slices.DeleteFunc(slices.Clone(h.Findings),
		func(f Finding) bool { return !slices.Contains(stages, f.Stage) })
	return &out
}

// standing makes the readings by what and where, in the order of their places. A reading replaces
// only the reading of its own spot: what stands there is the latest of any stage.
func (h *Head) standing() *reads {
	if h.reads != nil {
		return h.reads
	}
	r := &reads{map[string]map[string][]Reading{}, map[string][]Reading{}}
	for _, x := range h.Readings {
		r.all[x.Of] = append(r.all[x.Of], x)
		at := r.at[x.Of]
		if at == nil {
			at = map[string][]Reading{}
			r.at[x.Of] = at
		}
		row := at[x.Spot.Position]
		if i := slices.IndexFunc(row, func(y Reading) bool { return y.Spot == x.Spot }); i >= 0 {
			row[i] = x
		} else {
			at[x.Spot.Position] = append(row, x)
		}
	}
	for code, at := range r.at {
		c, known := h.Sheet.Characteristic(code)
		for _, row := range at {
			if known && len(row) > 1 {
				slices.SortStableFunc(row, func(a, b Reading) int { return c.Rank(a.Spot) - c.Rank(b.Spot) })
			}
		}
	}
	h.reads = r
	return r
}

// Reads returns what stands of a characteristic at a position, one reading a spot. The slice
// is the head's own: do not change it. Where a few of a characteristic's places are enough,
// those read since the last work that changed it stand alone.
func (h *Head) Reads(code, position string) []Reading {
	rows := h.standing().at[code][position]
	if code != trade.VacuumTurned.Code || len(rows) <= trade.VacuumTurned.Least {
		return rows
	}
	o := h.Voider(code, position)
	if o == nil {
		return rows
	}
	fresh := slices.DeleteFunc(slices.Clone(rows), func(r Reading) bool { return !o.since(r.ID, r.Stage) })
	if len(fresh) < trade.VacuumTurned.Least {
		return rows
	}
	return fresh
}

// Standing returns the readings that stand, in the order of writing.
func (h *Head) Standing() []Reading {
	at := h.standing().at
	var out []Reading
	for _, r := range h.Readings {
		if slices.ContainsFunc(at[r.Of][r.Spot.Position], func(x Reading) bool { return x.ID == r.ID }) {
			out = append(out, r)
		}
	}
	return out
}

// Read tells whether anything was read of a characteristic, anywhere.
func (h *Head) Read(code string) bool { return len(h.standing().all[code]) > 0 }

// Ever returns every reading of a characteristic in the order of writing, corrected ones too.
func (h *Head) Ever(code string) []Reading { return h.standing().all[code] }

// Seen returns the findings that stand: of a part at a position the latest, and every mark
// that none replaces.
func (h *Head) Seen() []Finding {
	var out []Finding
	for i, f := range h.Findings {
		replaced := slices.ContainsFunc(h.Findings[i+1:], func(g Finding) bool {
			if f.Part == trade.MarkCode {
				return g.Replaces == f.ID && f.ID != 0
			}
			return g.Part == f.Part && g.Position == f.Position
		})
		if !replaced {
			out = append(out, f)
		}
	}
	return out
}

// Grade is what stands of a part at a position, "" when it was not looked at.
func (h *Head) Grade(part, position string) string {
	for _, f := range slices.Backward(h.Findings) {
		if f.Part == part && f.Position == position {
			return f.Grade
		}
	}
	return ""
}

// does tells whether an operation works at a position: one without positions works on the
// whole head, and a place that is no valve is reached by every one.
func (h *Head) does(o Operation, position string) bool {
	return len(o.At) == 0 || h.Role(position) == "" || slices.Contains(o.At, position)
}

// Voider returns the last operation that was begun and changes a characteristic at a
// position, nil when none was: what was read there before counts as received only.
func (h *Head) Voider(code, position string) *Operation {
	var last *Operation
	for i := range h.Operations {
		o := &h.Operations[i]
		k := trade.OperationNamed(o.Code)
		if k == nil || !o.Started() || !h.does(*o, position) {
			continue
		}
		if k.Voided(code) && (last == nil || o.Begun >= last.Begun) {
			last = o
		}
	}
	return last
}

// Stale tells whether work that was begun since a reading has changed what it read: the place is read again,
// whatever it reads then.
func (h *Head) Stale(r Reading) bool {
	o := h.Voider(r.Of, r.Spot.Position)
	return o != nil && !o.since(r.ID, r.Stage)
}

// since tells whether something written at id, in a stage, came after an operation was begun.
func (o Operation) since(id uint, stage string) bool {
	if o.Begun < 0 {
		return stage != AsReceived
	}
	return int(id) > o.Begun
}

// Proven tells whether a characteristic at a position was read again at every one of its
// spots since the last work that changed it; true when nothing changed it. A guide taken
// short, one figure for the whole of it, is read by that figure.
func (h *Head) Proven(c *trade.Characteristic, position string) bool {
	o := h.Voider(c.Code, position)
	if o == nil {
		return true
	}
	rows := h.Reads(c.Code, position)
	spots, again := 0, 0
	for _, s := range c.Spots(h.Model.Layout) {
		if s.Position != position {
			continue
		}
		spots++
		if slices.ContainsFunc(rows, func(r Reading) bool {
			return (r.Spot == s || r.Spot.Place == "" && r.Spot.Dir == "") && o.since(r.ID, r.Stage)
		}) {
			again++
		}
	}
	if c.Least > 0 {
		return again >= c.Least
	}
	return again == spots
}

// LookedAgain tells whether a part at a position was looked at again since the last work that
// changed it; true when nothing changed it.
func (h *Head) LookedAgain(part, position string) bool {
	for i := range h.Operations {
		o := &h.Operations[i]
		k := trade.OperationNamed(o.Code)
		if k == nil || !o.Started() || !h.does(*o, position) ||
			!slices.ContainsFunc(k.Looks, func(p *trade.Part) bool { return p.Code == part }) {
			continue
		}
		if !slices.ContainsFunc(h.Findings, func(f Finding) bool {
			later := f.Turn == 0 || o.Turn == 0 || f.Turn >= o.Turn
			return f.Part == part && f.Position == position && f.Stage != AsReceived && later
		}) {
			return false
		}
	}
	return true
}

// Undone returns the operation that took a proof away since it was made: one that undoes it, begun
// later and at the same place. Nil when the proof stands, or was never made. What was written later is
// known by the turns, else by how many readings there were, else by the order of the operations.
func (h *Head) Undone(proof *trade.Operation, position string) *Operation {
	r := h.Recorded(proof.Code, position)
	if r == nil {
		return nil
	}
	made := -1 // the operation it was recorded for
	for i, o := range h.Operations {
		if o.Code == proof.Code && h.does(o, position) && (r.After < 0 || o.Begun <= r.After) {
			made = i
		}
	}
	for i := range h.Operations {
		o := &h.Operations[i]
		k := trade.OperationNamed(o.Code)
		if k == nil || !o.Started() || !slices.Contains(k.Undoes, proof) ||
			position != "" && !h.does(*o, position) {
			continue
		}
		later := i > made
		switch {
		case o.Turn > 0 && r.Turn > 0:
			later = o.Turn > r.Turn
		case o.Begun >= 0 && r.After >= 0 && o.Begun != r.After:
			later = o.Begun > r.After
		}
		if later {
			return o
		}
	}
	return nil
}

// Mean is the mean of what stands of a characteristic at a position, of a bracket its middle; read is
// false where nothing was read there.
func (h *Head) Mean(code, position string) (mean quantity.Amount, read bool) {
	var all []quantity.Amount
	for _, r := range h.Reads(code, position) {
		at := r.Value.At
		if r.Value.Bracket {
			at = (r.Value.Go + r.Value.NoGo) / 2
		}
		all = append(all, at)
	}
	if all == nil {
		return 0, false
	}
	return length.Mean(all), true
}

// Recorded returns the last record of an operation at a position, nil when there is none.
func (h *Head) Recorded(operation, position string) *Record {
	for i := range slices.Backward(h.Records) {
		if r := &h.Records[i]; r.Operation == operation && r.Position == position {
			return r
		}
	}
	return nil
}

// ReadsOf are readings as the trade's calculations take them.
func ReadsOf(rs []Reading) []trade.Read {
	out := make([]trade.Read, len(rs))
	for i, r := range rs {
		out[i] = trade.Read{ID: r.ID, Spot: r.Spot, Value: r.Value, U: r.U, At: r.At}
	}
	return out
}
