// Package tray works out where parts belong that came mixed in a box. Parts that have run
// together have marked each other: a wet port matches a wet valve, a ring worn wide sits in
// a wide seat, a valve's size tells its role. Infer is its door. What it finds is inferred,
// and has to be shown as inferred.
package tray

import (
	"slices"

	"yatai/core/length"
	"yatai/core/match"
	"yatai/core/words"
)

// Place is an empty place of the head with what it shows.
type Place struct {
	ID    string
	Head  length.Length // valve head diameter of the layout
	Ring  length.Length // width of the seat's ring; 0 when not read
	State string        // port: dry, oily, carbon; "" when not looked at
}

// Loose is a valve of unknown place with what it shows.
type Loose struct {
	Name  string
	Head  length.Length
	Ring  length.Length // width of the ring on its face; 0 when not read
	State string        // back of the valve, as Place.State
}

// Guess is where a loose valve most likely belongs. Sure is false when another place would
// fit it as well, and Rivals then lists them.
type Guess struct {
	Name, Place string
	Evidence    []words.Text
	Against     []words.Text
	Sure        bool
	Rivals      []string
}

// For is the evidence in one sentence, Not what speaks against the place.
func (g Guess) For() words.Text { return words.Join("; ", g.Evidence...) }

// Not is what speaks against the place in one sentence.
func (g Guess) Not() words.Text { return words.Join("; ", g.Against...) }

// The costs of what does not match. A head of the wrong size cannot be; the rest are
// signs, a deposit weighing as much as a fifth of a millimetre of ring.
const (
	impossible  = int64(1) << 40
	perMicron   = 1
	wrongState  = 200
	unreadRing  = int64(alike / length.Micrometre) // a place that shows nothing fits better than one that
	unreadState = wrongState / 2                   // speaks against it, and worse than one that speaks for it
)

// alike is how far two rings may differ and still speak for each other.
const alike = 100 * length.Micrometre

// headSlack is how much a valve's head may differ from its place's and still belong.
const headSlack = 700 * length.Micrometre

func cost(l Loose, p Place) int64 {
	if l.Head != 0 && (l.Head-p.Head).Abs() > headSlack {
		return impossible
	}
	var c int64
	switch {
	case l.Ring == 0:
	case p.Ring == 0:
		c += unreadRing
	default:
		c += int64((l.Ring-p.Ring).Abs()/length.Micrometre) * perMicron
	}
	switch {
	case l.State == "" || l.State == p.State:
	case p.State == "":
		c += unreadState
	default:
		c += wrongState
	}
	return c
}

// Infer places every loose valve so that together they contradict the evidence least. There
// must be no more valves than places. A valve no place can take has an empty Place. The
// answer is in the order of loose.
func Infer(loose []Loose, places []Place) []Guess {
	at := assign(loose, places)
	out := make([]Guess, len(loose))
	for i, l := range loose {
		g := Guess{Name: l.Name, Sure: true}
		if at[i] < 0 || cost(l, places[at[i]]) >= impossible {
			g.Sure = false
			g.Against = []words.Text{words.Of("no empty place takes a head of %s", l.Head.String())}
			out[i] = g
			continue
		}
		p := places[at[i]]
		g.Place = p.ID
		g.Evidence, g.Against = signs(l, p)
		for k, other := range places {
			if k == at[i] {
				continue
			}
			if swapped := swap(loose, places, at, i, k); swapped <= tolerance {
				g.Sure = false
				g.Rivals = append(g.Rivals, other.ID)
			}
		}
		out[i] = g
	}
	return out
}

// tolerance is how much worse a swap may be and still be a rival.
const tolerance = 60

// swap returns how much worse the whole gets when loose i goes to place k and whoever is
// there takes its place.
func swap(loose []Loose, places []Place, at []int, i, k int) int64 {
	before, after := cost(loose[i], places[at[i]]), cost(loose[i], places[k])
	if other := slices.Index(at, k); other >= 0 {
		before += cost(loose[other], places[k])
		after += cost(loose[other], places[at[i]])
	}
	return after - before
}

func signs(l Loose, p Place) (evidence, against []words.Text) {
	if l.Head != 0 {
		evidence = append(evidence, words.Of("head %s fits %s", l.Head.String(), p.Head.String()))
	}
	if l.Ring != 0 && p.Ring != 0 {
		said := words.Of("ring %s on the valve, %s on the seat", l.Ring.String(), p.Ring.String())
		if (l.Ring - p.Ring).Abs() <= alike {
			evidence = append(evidence, said)
		} else {
			against = append(against, said)
		}
	}
	if l.State != "" && p.State != "" {
		said := words.Of("%s valve, %s port", words.Of(l.State), words.Of(p.State))
		if l.State == p.State {
			evidence = append(evidence, said)
		} else {
			against = append(against, said)
		}
	}
	return evidence, against
}

// assign returns the place of each valve, -1 for one that is left over.
func assign(loose []Loose, places []Place) []int {
	if len(loose) == 0 {
		return nil
	}
	costs := make([][]int64, len(loose))
	for i, l := range loose {
		costs[i] = make([]int64, max(len(places), len(loose)))
		for k := range costs[i] {
			costs[i][k] = impossible // a place that is not there
			if k < len(places) {
				costs[i][k] = cost(l, places[k])
			}
		}
	}
	at, _ := match.Assign(costs)
	for i, k := range at {
		if k >= len(places) {
			at[i] = -1
		}
	}
	return at
}
