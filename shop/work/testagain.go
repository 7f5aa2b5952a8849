package work

import (
	"slices"

	"yatai/core/route"
	"yatai/core/trade"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

// TestsAgain are what can be put on a route once more, where something that touched a head turned out to be
// off.
var TestsAgain = []*trade.Operation{trade.MeasureHead, trade.PressureTest, trade.SealTest}

// TestAgain puts one of TestsAgain on the route of a head that is being worked on, within a transaction; ok
// is false where it is not worked on, has nothing of the kind, or waits for that test already.
func TestAgain(
	s *shop.Shop, tx store.DB, a shop.Actor, f *headfile.File, test *trade.Operation, reason string,
) (ok bool, err error) {
	if err := a.Must("skip an operation"); err != nil {
		return false, err
	}
	if !slices.Contains(TestsAgain, test) || f.WorkOrderAt == nil || f.ClosedAt != nil ||
		!test.Exists(headfile.KindOf(f.Model)) {
		return false, nil
	}
	op := route.Operation{Operation: test}
	if test.Every {
		op.Positions = f.Subject.Positions()
	}
	op.Minutes = f.Subject.Labour(test).Minutes(len(op.Positions))
	added, err := insert(s, tx, a, f, reason, op)
	return added > 0, err
}
