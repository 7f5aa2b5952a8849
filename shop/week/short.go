package week

import (
	"cmp"
	"encoding/json"
	"maps"
	"slices"
	"strings"
	"time"

	"yatai/core/quantity"
	"yatai/core/schedule"
	"yatai/store"
)

// Short is a machine, or hands for some work, that heads waited for on some of the days whose plan was kept.
type Short struct {
	Name string
	Days int           // on which heads had to wait for it, by the plan of the day
	Mean time.Duration // open hours that they had to, all heads together, on average of these days
}

// Bounds of what is called short: so much of a day's plan, looked at over so many of the last days.
const (
	leastShort = time.Hour
	shortDays  = 30
)

// ofHands begins the name of what is short of people instead of a machine: the code of what they do follows.
const ofHands = "hands: "

// short is for how many minutes heads stand in the plan because their station, or hands for their work, are
// busy with others, by the name of the one or the code of the other; the station's open hours count.
func (w Week) short() map[string]quantity.Minutes {
	hours := map[string]schedule.Hours{}
	for _, st := range w.Stations {
		hours[st.Name] = st.Hours
	}
	out := map[string]quantity.Minutes{}
	for _, b := range w.Bars {
		for _, x := range b.Waits {
			name := b.Station
			switch x.For {
			case "people":
				name = ofHands + b.Skill
			case "station":
			default:
				continue
			}
			out[name] += quantity.Minutes(hours[b.Station].Between(x.Start, x.End).Minutes())
		}
	}
	return out
}

// called is what is short in words: a station by its name, hands by what they do.
func called(name string) string {
	code, of := strings.CutPrefix(name, ofHands)
	if i := slices.IndexFunc(Skills(), func(s Skill) bool { return s.Code == code }); of && i >= 0 {
		return "hands to do: " + Skills()[i].Name
	}
	return name
}

// shortOf reads what was short on the last days whose plan was kept, on most days first; of is how many days
// these are.
func shortOf(db store.DB) (out []Short, of int, err error) {
	days, err := db.PlanDays(shortDays)
	if err != nil {
		return nil, 0, err
	}
	by := map[string]Short{}
	for _, d := range days {
		var kept map[string]quantity.Minutes
		if err := json.Unmarshal([]byte(d.Short), &kept); err != nil {
			return nil, 0, err
		}
		for name, minutes := range kept {
			if long := minutes.Duration(); long >= leastShort {
				s := by[name]
				by[name] = Short{called(name), s.Days + 1, s.Mean + long}
			}
		}
	}
	for s := range maps.Values(by) {
		s.Mean /= time.Duration(s.Days)
		out = append(out, s)
	}
	slices.SortFunc(out, func(a, b Short) int {
		return cmp.Or(cmp.Compare(b.Days, a.Days), cmp.Compare(b.Mean, a.Mean), cmp.Compare(a.Name, b.Name))
	})
	return out, len(days), nil
}
