package demo

import (
	"cmp"
	"context"
	"fmt"
	"slices"

	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/shop/intake"
)

// mended is how many heads of the years before are walked through the shop, one use case after
// the other; more than that are copies of them.
const mended = 96

// fleet are the machines whose heads came and went over the years.
var fleet = []struct{ model, customer, machine string }{
	{"Brindlow G4", "Mossfield Growers", "Pump house 1"}, {"Brindlow G4", "Mossfield Growers", "Pump house 3"}, {
		"Brindlow G4", "Lower Leat Water", "Lift station A",
	},
	{
		"Brindlow G4", "Lower Leat Water", "Lift station B",
	}, {"Brindlow G4", "Upper Fold Orchards", "Frost pump"},
	{"Brindlow G4", "Tarn Fire Watch", "Portable pump 4"},
	{"Brindlow G4", "Dale Nurseries", "Bore 2"}, {"Brindlow G4", "Highmoor Estate", "Fountain house"},
}

// FillHeads fills the shop as Fill does, and with so many heads of the years before, all of them
// mended, checked and given back: for trying the shop under load. told, when given, hears how
// far it has come.
func FillHeads(
	ctx context.Context, s *shop.Shop, here string, years, heads int, told func(done, of int),
) error {
	f, err := fill(ctx, s, here)
	if err != nil {
		return err
	}
	var history []job
	for range min(heads, mended) {
		m := fleet[f.rnd.IntN(len(fleet))]
		left := 400 + f.rnd.Float64()*float64(years)*365*24
		own := map[string]string{"valve.recession 2E1": fmt.Sprintf("%.2f", 0.55+0.3*f.rnd.Float64())}
		if f.rnd.IntN(3) == 0 {
			own["guide.bore 1E1.bottom.A"] = fmt.Sprintf("%.3f", 9.055+0.01*f.rnd.Float64())
		}
		history = append(history, job{model: m.model, ago: left + 60 + 100*f.rnd.Float64(), left: left,
			form: intake.IntakeForm{
				Customer: m.customer,
				Machine:  m.machine,
				Hours:    fmt.Sprint(500 + f.rnd.IntN(9000)),
				Kind:     "rebuild",
				Story:    "Season service.",
				CameWith: "Complete",
			},
			steps: []step{
				measure(headfile.AsReceived, 0, own), decide(true, nil), worked(99, false),
				measure(headfile.AfterRepair, 0, wornMended),
				passGate("Lash again after 50 hours."), handedOver("the customer"),
			}})
	}
	slices.SortFunc(history, func(a, b job) int { return cmp.Compare(b.ago, a.ago) })
	if err := f.walk(history, told); err != nil {
		return err
	}
	if err := f.longDone(""); err != nil {
		return err
	}
	if heads <= mended {
		return nil
	}
	gone, err := s.Store.Read(ctx).Delivered(mended)
	if err != nil {
		return err
	}
	var ids []uint
	for _, h := range gone {
		ids = append(ids, h.ID)
	}
	return s.Store.Multiply(ctx, ids, heads/mended-1, func(copies int) {
		if told != nil {
			told(mended+copies, heads)
		}
	})
}
