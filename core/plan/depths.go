package plan

import (
	"math"

	"yatai/core/after"
)

// depths finds between which depths of its seat a way may bring a valve, by how its lash is set.
type depths struct {
	*problem
	v     *valve
	w     *way
	shims bool // settings differ in what they add to the lash alone

	bound *setting // that the figures are bound with, which adds something; nil for none yet
	moves []move
	ok    bool
}

// with is between which depths of its seat, the face uncut, the way and a setting may bring every figure of
// the valve inside, each figure taken for itself: outside of it nothing fits, inside perhaps. ok is false
// when nothing fits anywhere.
func (d *depths) with(set *setting) (from, to float64, ok bool) {
	f := &d.w.Figures[after.Recession]
	if !f.Known || f.Made {
		return math.Inf(-1), math.Inf(1), true
	}
	if d.bind(set); !d.ok {
		return 0, 0, false
	}
	return between(d.w, d.moves)
}

// bind lists the figures with a setting. One that adds to the lash as another did moves the lash alone.
func (d *depths) bind(set *setting) {
	if d.shims && d.bound != nil && set.add != 0 {
		for n := range d.moves {
			if m := &d.moves[n]; m.figure == after.Lash {
				m.at += set.add - d.bound.add
			}
		}
	} else {
		d.moves, _, _, d.ok = d.problem.bound(d.v, d.w, &common{}, set)
	}
	if d.bound = nil; set.add != 0 {
		d.bound = set
	}
}

// between is between which depths a way may bring its figures inside, each taken for itself.
func between(w *way, figures []move) (from, to float64, ok bool) {
	for n := range figures {
		if least, most := figures[n].span(w, -1, len(w.open)); most < figures[n].least || least > figures[n].most {
			return 0, 0, false
		}
	}
	from, to = w.spans[after.Recession].least, w.spans[after.Recession].most
	moves := -1
	for k := range w.open {
		switch {
		case w.open[k].slopes[after.Recession] == 0:
		case moves >= 0: // two sizes move it
			return from, to, true
		default:
			moves = k
		}
	}
	if moves < 0 {
		return from, to, true
	}
	least, most := reachOf(w, figures, moves, len(w.open))
	if ok = least <= most; ok && len(w.open) == 2 {
		least, most, ok = roomy(w, figures, moves, least, most)
	}
	at, slope := w.Figures[after.Recession].At, w.open[moves].slopes[after.Recession]
	a, b := slope*float64(least), slope*float64(most)
	return at + min(a, b), at + max(a, b), ok
}
