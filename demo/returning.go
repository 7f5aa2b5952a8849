package demo

import (
	"fmt"
	"math/rand/v2"
	"time"

	"yatai/shop/following"
	"yatai/shop/headfile"
	"yatai/shop/intake"
)

// returning are machines whose head comes every season, and how fast it wears: micrometres in 1000 hours
// at its exhaust guides, its seats and its margins.
var returning = []struct {
	customer, machine, marks string
	guide, seat, margin      float64
}{
	{"Upper Fold Orchards", "Frost pump", "G4-4 1120", 2, 40, 30},
	{"Tarn Fire Watch", "Portable pump 4", "G4-4 1164", 2.6, 50, 40},
	{"Dale Nurseries", "Bore 2", "G4-5 0032", 3.4, 58, 48}, // dry, and sandy
}

const (
	seasons   = 4
	seasonRan = 1100 // hours a season
	seasonAgo = 8700 // hours between two visits
)

// returned takes each of them in, season after season, measures it, finds nothing to mend, and gives it back.
func (f *filler) returned() error {
	var visits []job
	for n, m := range returning {
		r := rand.New(rand.NewPCG(uint64(n), 4))
		hard := map[string]float64{} // how much harder than usual each valve's place is worked
		for cyl := 1; cyl <= 4; cyl++ {
			for _, role := range []string{"I", "E"} {
				hard[fmt.Sprintf("%d%s1", cyl, role)] = 0.7 + 0.6*r.Float64()
			}
		}
		for season := range seasons {
			ran := float64(700 + seasonRan*season + 130*n)
			own := map[string]string{}
			for id, by := range hard {
				wear, bore := by*ran/1e6, 9.010
				if id[1] == 'I' {
					wear, bore = wear/2, 9.006
				}
				own["guide.bore "+id] = fmt.Sprintf("%.3f", bore+m.guide*wear)
				own["valve.recession "+id] = fmt.Sprintf("%.2f", 0.55+m.seat*wear)
				own["valve.margin "+id] = fmt.Sprintf("%.2f", 1.55-m.margin*wear)
			}
			left := float64(seasons-season)*seasonAgo - 700*float64(n) - 6000
			visits = append(visits, job{
				model: "Brindlow G4", ago: left + 90, left: left, late: n == len(returning)-1 && season == seasons-1,
				form: intake.IntakeForm{
					Customer: m.customer, Machine: m.machine, Marks: m.marks, Hours: fmt.Sprint(ran), Kind: "rebuild",
					Story: "To be looked at before the season.", CameWith: "Complete",
				},
				steps: []step{
					visitBefore(season > 0), measure(headfile.AsReceived, 0, own), decide(true, nil), worked(99, false),
					passGate("Lash again after 50 hours."), handedOver("the customer"),
				},
			})
		}
	}
	if err := f.walk(visits, nil); err != nil {
		return err
	}
	return f.longDone("T0417")
}

// visitBefore links a head to the one that was taken in before it.
func visitBefore(is bool) step {
	return func(f *filler, tag string, j *job) error {
		if !is {
			return nil
		}
		var n int
		if _, err := fmt.Sscanf(tag, "T%04d", &n); err != nil {
			return err
		}
		return intake.LinkEarlier(f.ctx, f.at(j.when(0.9)), f.front, f.id(), tag, fmt.Sprintf("T%04d", n-1))
	}
}

// longDone takes reminders off the list that are of long ago, of the heads from a tag on.
func (f *filler) longDone(from string) error {
	due, err := following.FollowUps(f.ctx, f.now)
	if err != nil {
		return err
	}
	for _, r := range due {
		if r.Tag >= from && r.Due.Before(f.today.Add(-7*24*time.Hour)) {
			if err := following.Reminded(f.ctx, f.now, f.front, f.id(), r.ID); err != nil {
				return err
			}
		}
	}
	return nil
}
