package billing

import (
	"context"
	"slices"

	"yatai/core/bill"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

// Other is what can be billed of another head of the same order. Net is its sum before tax, in cents.
type Other struct {
	Head uint
	Tag  string
	Next []bill.Line
	Net  int64
}

// Others lists the other heads of an order of which something can go on the next bill of one of them.
func Others(ctx context.Context, s *shop.Shop, f *headfile.File, a Account) ([]Other, error) {
	return setIn(s, s.Store.Read(ctx), f, a)
}

// setIn lists what can be billed of the other heads of an order beside one of them: at the same tax, and only
// where no price of theirs is to follow.
func setIn(s *shop.Shop, db store.DB, f *headfile.File, a Account) (out []Other, err error) {
	for _, h := range a.Heads {
		if h.ID == f.ID || len(a.Next) == 0 {
			continue
		}
		other, err := headfile.OpenIn(s, db, h.Tag)
		if err != nil {
			return nil, err
		}
		b := a.beside(other, s.Now())
		if len(b.Next) == 0 || b.Tax != a.Tax || b.Currency != a.Currency ||
			slices.ContainsFunc(b.Rows, Row.Follows) {
			continue
		}
		out = append(out, Other{h.ID, h.Tag, b.Next, b.Totals.Net})
	}
	return out, nil
}

// with puts lines of a head on a bill, and reckons it up anew.
func with(b *store.Bill, head uint, lines []bill.Line) {
	for _, l := range lines {
		b.Lines = append(b.Lines, store.BillLine{
			HeadID: head, Seq: len(b.Lines) + 1, Kind: string(l.Kind), Quote: l.Quote, Line: l.Line, Name: l.Name,
			Positions: l.Positions, LabourCents: l.Labour, Service: l.Service, Cents: l.Cents,
		})
	}
	sum := bill.Sum(linesOf(*b), b.Tax())
	b.NetCents, b.TaxCents = sum.Net, sum.Tax
}

// linesOf are the lines of a bill.
func linesOf(b store.Bill) []bill.Line {
	out := make([]bill.Line, len(b.Lines))
	for i, l := range b.Lines {
		out[i] = bill.Line{
			Kind: bill.Kind(l.Kind), Quote: l.Quote, Line: l.Line, Name: l.Name, Positions: l.Positions,
			Labour: l.LabourCents, Service: l.Service, Cents: l.Cents,
		}
	}
	return out
}

// Of names the heads that a bill of the order is of, in their order.
func (a Account) Of(b store.Bill) (tags []string) {
	for _, h := range a.Heads {
		if slices.ContainsFunc(b.Lines, func(l store.BillLine) bool { return b.Of(l) == h.ID }) {
			tags = append(tags, h.Tag)
		}
	}
	return tags
}
