package answer

import (
	"context"

	"yatai/core/head"
	"yatai/core/quantity"
	"yatai/core/quote"
)

// QuoteAnswer is lines and money. The lines, the discount (negative), what is missing to the
// least charge and the tax add up to the total.
type QuoteAnswer struct {
	Lines    []LineAnswer `json:"lines"`
	Discount int64        `json:"discount_cents"`
	Minimum  int64        `json:"minimum_cents"`
	Tax      int64        `json:"tax_cents"`
	Total    int64        `json:"total_cents"`
	Unknown  []string     `json:"unknown"` // parts whose price is not known and not in the total
}

// LineAnswer is one line.
type LineAnswer struct {
	Code    string           `json:"code"`
	Name    string           `json:"name"`
	At      []string         `json:"at"`
	Group   string           `json:"group"`
	Minutes quantity.Minutes `json:"minutes"`
	Labour  int64            `json:"labour_cents"`
	Parts   int64            `json:"parts_cents"`
	Cents   int64            `json:"cents"`
	Reason  string           `json:"reason"`
}

// Quote answers what a head's plan costs, line by line.
func Quote(ctx context.Context, h *head.Head) (QuoteAnswer, error) {
	q, err := quote.Head(ctx, h)
	if err != nil {
		return QuoteAnswer{}, err
	}
	out := QuoteAnswer{
		Lines:    []LineAnswer{},
		Discount: -q.Totals.Discount,
		Minimum:  q.Totals.Minimum,
		Tax:      q.Totals.Tax,
		Total:    q.Totals.Gross,
		Unknown:  some(q.Unknown),
	}
	for _, l := range q.Lines {
		out.Lines = append(out.Lines, LineAnswer{
			l.Code, l.Name, some(l.Positions), l.Group, l.Minutes, l.Labour, l.PartsCents(), l.Cents(),
			l.Reason.String(),
		})
	}
	return out, nil
}
