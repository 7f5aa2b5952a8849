package library

import (
	"context"
	"slices"
	"strconv"
	"strings"

	"yatai/core/field"
	"yatai/core/layout"
	"yatai/core/trade"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

// TighteningRow is how fasteners of one kind are pulled down, as typed.
type TighteningRow struct{ Count, Steps, How, New, Order, Source string }

// TighteningForm is how a model's fasteners are pulled down, as typed, by the fastener's code. Those without
// steps are not said.
type TighteningForm struct {
	WriteID string
	Rows    map[string]TighteningRow
}

// SetTightening keeps how a model's fasteners are pulled down: what is pulled down where a head is assembled
// is ticked there step by step, the rest is told at refit. Errors are keyed "steps/head_bolts".
func SetTightening(ctx context.Context, s *shop.Shop, a shop.Actor, model uint, f TighteningForm) error {
	return onModel(ctx, s, a, f.WriteID, model, func(_ store.DB, m *store.HeadModel) (string, error) {
		kind, errs := headfile.KindOf(*m), field.Errors{}
		lay, err := s.Cache.Layout(*m)
		if err != nil {
			return "", err
		}
		var all []trade.Tightening
		for _, fastener := range trade.Fasteners {
			row := f.Rows[fastener.Code]
			if !fastener.Exists(kind) || strings.TrimSpace(row.Steps) == "" {
				continue
			}
			t := row.read(errs, fastener)
			for _, name := range t.Order {
				if !slices.ContainsFunc(lay.Bolts, func(b layout.Spot) bool { return b.Name == name }) {
					errs.Addf("order/"+fastener.Code, "there is no bolt %q on the face", name)
				}
			}
			all = append(all, t)
		}
		if err := errs.Err(); err != nil {
			return "", err
		}
		was := said(headfile.TighteningOf(*m))
		m.Tightening, err = headfile.TighteningText(all)
		return shop.Changes(shop.Change{What: "tightening", Was: was, Is: said(all)}), err
	})
}

// read reads a row of the form.
func (r TighteningRow) read(errs field.Errors, of *trade.Fastener) trade.Tightening {
	t := trade.Tightening{
		Of: of.Code, Steps: trade.SplitSteps(r.Steps), How: r.How, New: r.New == "yes",
		Order: strings.Fields(r.Order), Source: strings.TrimSpace(r.Source),
	}
	if count := strings.TrimSpace(r.Count); count != "" {
		n, err := strconv.Atoi(count)
		if t.Count = n; err != nil || n < 1 {
			errs.Addf("count/"+of.Code, "a whole number")
		}
	}
	for name, says := range t.Check() {
		errs.Note(name+"/"+of.Code, says)
	}
	return t
}

// said is a tightening in words, for the history.
func said(all []trade.Tightening) string {
	var out []string
	for _, t := range all {
		out = append(out, t.Head().String()+": "+strings.Join(t.Steps, "; "))
	}
	return strings.Join(out, "; ")
}
