package plan

import (
	"math"
	"slices"

	"yatai/core/after"
	"yatai/core/head"
	"yatai/core/length"
	"yatai/core/trade"
)

// What a plan calls keeping a seat, a valve or a guide, and lapping a seat that is kept.
const (
	doKeep = head.Keep
	doLap  = "lap"
)

// mask is a set of operations: bit i is the i-th that the problem knows.
type mask uint32

// bit is the set of one operation.
func (p *problem) bit(o *trade.Operation) mask {
	i := slices.Index(p.ops, o)
	if i < 0 {
		i = len(p.ops)
		p.ops = append(p.ops, o)
	}
	return 1 << i
}

// bits is the set of an operation with all that it brings at its position and needs of the head.
func (p *problem) bits(o *trade.Operation) mask {
	set := p.bit(o)
	for _, n := range o.Needs {
		if n.Exists(p.h.Model.Kind) {
			set |= p.bit(n)
		}
	}
	for _, b := range o.Brings(p.h.Model.Kind, p.h.School()) {
		set |= p.bits(b)
	}
	return set
}

// option is a repair that may be done at a valve.
type option struct {
	repair      *trade.Repair
	least, most float64         // of its size
	choices     []length.Length // sizes that can be had of a part, nil for none that is chosen so
}

// free tells whether its size is chosen between bounds.
func (o *option) free() bool {
	return o.repair.Does.Size != nil && o.choices == nil && o.least < o.most
}

// sized is a size of a way that is still open.
type sized struct {
	repair      *trade.Repair
	least, most length.Length // multiples of the grid
	slopes      [after.Count]float64
}

// way is one way to treat a valve: repairs that work different metals. Its open sizes move the figures
// from where they are at nothing.
type way struct {
	after.Valve
	repairs []*trade.Repair
	sd      [after.Count]float64 // of the figures
	spans   [after.Count]span    // between which its open sizes bring them
	shim    length.Length        // under the spring
	grind   length.Length
	open    []sized
	ops     mask
	cents   int64 // at this valve, setting-up apart
	keep    bool  // nothing is done here but perhaps something about the lash
}

// span is between which a figure may end.
type span struct{ least, most float64 }

// span works out between which the open sizes bring the figures.
func (w *way) span() {
	for i := range w.spans {
		s := span{w.Figures[i].At, w.Figures[i].At}
		for k := range w.open {
			o := &w.open[k]
			a, b := o.slopes[i]*float64(o.least), o.slopes[i]*float64(o.most)
			s = span{s.least + min(a, b), s.most + max(a, b)}
		}
		w.spans[i] = s
	}
}

// choice is what the way does to a metal, in a plan's words.
func (w *way) choice(m trade.Metal) string {
	for _, r := range w.repairs {
		if r.Works == m {
			return r.Choice
		}
	}
	return doKeep
}

// tells whether what a way does answers every finding at the valve that its figures do not.
func (v *valve) answered(w *way, needs []need) bool {
	for _, n := range needs {
		if n.figure >= 0 {
			if f := &w.Figures[n.figure]; !f.Known && !f.Made && f.Changed && !v.forced(w) {
				return false // it would be unknown, which answers nothing
			}
		}
		if len(n.answers) == 0 || n.figure >= 0 && !n.decided {
			continue
		}
		if !slices.ContainsFunc(w.repairs, func(r *trade.Repair) bool {
			return slices.Contains(n.answers, r.Code) ||
				slices.ContainsFunc(r.Does.Implies, func(o *trade.Operation) bool {
					return slices.Contains(n.answers, o.Code)
				})
		}) {
			return false
		}
	}
	return true
}

// hides tells whether a new valve of unknown size leaves a figure unknown that was read and has a
// limit, though nothing that was found asks for one: what is not known makes nothing easier.
func (v *valve) hides(w *way) bool {
	fresh := slices.IndexFunc(w.repairs, func(r *trade.Repair) bool { return r.Does.Uses == trade.ValvePart })
	if fresh < 0 || v.forced(w) || slices.ContainsFunc(v.needs, func(n need) bool {
		return slices.Contains(n.answers, w.repairs[fresh].Code)
	}) {
		return false
	}
	for i := range w.Figures {
		f := &w.Figures[i]
		if !f.Known && !f.Made && f.Changed && v.now.Figures[i].Read && v.windows[i].limit != nil {
			return true
		}
	}
	return false
}

// forced tells whether a repair of the way that leaves figures unknown has to be done whatever they
// are: it is held, wanted, or the one answer to a finding of its own.
func (v *valve) forced(w *way) bool {
	return slices.ContainsFunc(w.repairs, func(r *trade.Repair) bool {
		if r.Does.Uses != trade.ValvePart {
			return false
		}
		return v.held[string(trade.ValveMetal)] == r.Choice || len(v.must[r.Works]) > 0 ||
			slices.ContainsFunc(v.needs, func(n need) bool {
				return n.figure < 0 && len(n.answers) == 1 && n.answers[0] == r.Code
			})
	})
}

// allowed lists what may be done to a metal of a valve: nil among the options is nothing.
func (v *valve) allowed(m trade.Metal) []*option {
	held, must := v.held[string(m)], v.must[m]
	var out []*option
	if len(must) == 0 && (held == "" || held == doKeep) {
		out = append(out, nil)
	}
	for i := range v.options {
		o := &v.options[i]
		if o.repair.Works != m || len(must) > 0 && !slices.Contains(must, o.repair.Code) {
			continue
		}
		if held == "" || held == o.repair.Choice || held == doKeep && o.repair.Choice == doLap {
			out = append(out, o)
		}
	}
	return out
}

// ways lists what can be done with a valve, before any limit is looked at: of each metal nothing or
// one repair.
func (p *problem) ways(v *valve) []way {
	out := slices.DeleteFunc(p.treatments(v),
		func(w way) bool { return !v.answered(&w, v.needs) || v.hides(&w) })
	for i := range out {
		w := &out[i]
		for k := range w.Figures {
			w.sd[k] = w.Figures[k].SD()
		}
		w.span()
	}
	return out
}

// treatments lists them whether they answer what was found or not.
func (p *problem) treatments(v *valve) []way {
	var metals []trade.Metal
	for _, o := range v.options {
		if !slices.Contains(metals, o.repair.Works) {
			metals = append(metals, o.repair.Works)
		}
	}
	for m, h := range v.held { // what is held and may not be done leaves no way
		if h != "" && h != doKeep && !slices.Contains(metals, trade.Metal(m)) {
			return nil
		}
	}
	out := []way{{Valve: v.now, keep: true}}
	if v.pad > 0 {
		out[0].Do(trade.RepairNamed(trade.LevelPads.Code), float64(v.pad))
	}
	for _, m := range metals {
		var next []way
		for _, w := range out {
			for _, o := range v.allowed(m) {
				if o == nil {
					next = append(next, w)
					continue
				}
				for _, size := range o.fixed() {
					next = append(next, p.with(v, w, o, size))
				}
			}
		}
		out = next
	}
	return slices.DeleteFunc(out, func(w way) bool { return !w.complete() })
}

// fixed are the sizes that are tried each for itself: of parts that come in sizes all that can be had;
// nothing of one that is chosen by what it comes to.
func (o *option) fixed() []length.Length {
	switch {
	case o.choices != nil:
		return o.choices
	case o.free():
		return []length.Length{0}
	}
	return []length.Length{length.FromFloat(o.least)}
}

// with is a way with one more repair.
func (p *problem) with(v *valve, w way, o *option, size length.Length) way {
	r := o.repair
	w.Do(r, float64(size))
	w.repairs = append(slices.Clip(w.repairs), r)
	set := p.bits(r.Does)
	for i, x := range p.ops {
		if set&^w.ops&(1<<i) != 0 && x.Each > 0 {
			w.cents += p.costs.each(x, v.Role)
		}
	}
	w.ops |= set
	switch {
	case o.choices != nil:
		w.cents += p.costs.sized(r.Does.Uses, size)
		w.shim = size
	case o.free():
		w.open = append(slices.Clip(w.open), sized{
			r, ceil(length.Length(math.Ceil(o.least)), grid), floor(length.Length(math.Floor(o.most)), grid),
			w.Slopes(r.Does),
		})
	case r.Works == trade.ValveMetal:
		w.grind = size
	}
	w.keep = false
	return w
}

// complete tells whether what each repair of a way implies is done by it or by another: a new guide's
// seat is cut on it, an oversize stem takes a new valve. Open sizes must have something to choose.
func (w *way) complete() bool {
	for _, s := range w.open {
		if s.least > s.most {
			return false
		}
	}
	for _, r := range w.repairs {
		for _, o := range r.Does.Implies {
			as := trade.RepairNamed(o.Code)
			if as == nil || o.Size == nil && len(o.Moves) == 0 {
				continue // it moves nothing: the route adds it
			}
			if !slices.ContainsFunc(w.repairs, func(q *trade.Repair) bool {
				return q.Does == o || q.Works == as.Works && slices.Contains(q.Does.Implies, o)
			}) {
				return false
			}
		}
	}
	return true
}
