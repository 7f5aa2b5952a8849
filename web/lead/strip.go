package lead

import (
	"cmp"
	"slices"

	"yatai/core/head"
	"yatai/core/plan"
	"yatai/core/trade"
	"yatai/core/words"
)

// held is a metal of a valve in the plan's table: what is done to it, and what it can be held to.
type held struct {
	Field   string // of the form
	Metal   trade.Metal
	ID      string // the valve's position
	Now     string // what the plan does, "" where it says nothing
	To      string // what it is held to, "" where the planner chooses
	Choices []string
	Sizes   []string // what its repairs make, take off or put in, without the unit
}

// usualHolds are the columns of every plan, and those first.
var usualHolds = []trade.Metal{trade.SeatMetal, trade.ValveMetal, trade.GuideMetal}

// columns are what can be held of a head, in the order of the plan's table.
func columns(h *head.Head) []head.Hold {
	all := h.Holds()
	place := func(h head.Hold) int {
		if i := slices.Index(usualHolds, h.Of); i >= 0 {
			return i
		}
		return len(usualHolds)
	}
	slices.SortStableFunc(all, func(a, b head.Hold) int { return cmp.Compare(place(a), place(b)) })
	return all
}

// Held are a valve's cells under those columns. What is done to metals that have none stands with the valve.
func (d decisions) Held(v plan.Valve) (out []held) {
	u := d.file.Subject.Unit
	usual := map[trade.Metal]string{
		trade.SeatMetal: v.Seat, trade.ValveMetal: v.Valve, trade.GuideMetal: v.Guide,
	}
	for _, h := range d.Holds {
		x := held{
			Field: string(h.Of) + "." + v.ID, Metal: h.Of, ID: v.ID, Now: usual[h.Of],
			To: d.P.Ask.Hold[v.ID][string(h.Of)], Choices: h.Choices,
		}
		for _, code := range append(slices.Clone(v.Repairs), trade.LevelPads.Code) {
			r, name := trade.RepairNamed(code), ""
			switch {
			case r.Works == h.Of:
				x.Now = cmp.Or(x.Now, r.Choice, words.Lower(r.Name))
			case h.Of == trade.ValveMetal && !slices.ContainsFunc(d.Holds,
				func(o head.Hold) bool { return o.Of == r.Works }):
				name = string(r.Works) + " "
			default:
				continue
			}
			// a guide's bore stands in its sentence
			if size, ok := v.SizeOf(r.Does); ok && size != 0 && h.Of != trade.GuideMetal {
				x.Sizes = append(x.Sizes, name+u.In(size, u.Places()))
			}
		}
		out = append(out, x)
	}
	return out
}
