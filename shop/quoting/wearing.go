package quoting

import (
	"context"
	"slices"

	"yatai/core/judge"
	"yatai/core/quote"
	"yatai/core/trade"
	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/following"
	"yatai/shop/headfile"
)

// historyOf is what the visits of a head say; nothing where this is its first.
func historyOf(ctx context.Context, s *shop.Shop, tag string) (following.History, error) {
	h, err := s.Store.Read(ctx).Head(tag)
	if err != nil || h.Earlier == "" {
		return following.History{}, err
	}
	f, err := headfile.Open(ctx, s, tag)
	if err != nil {
		return following.History{}, err
	}
	return following.HistoryOf(ctx, s, f)
}

// waits says beside each line that could wait when what it answers will be past its limit, by how the head
// has worn over its visits: of several figures the soonest.
func waits(f *headfile.File, lines []quote.Line, h following.History) {
	for i := range lines {
		l := &lines[i]
		if l.Group == headfile.Must || l.With != "" {
			continue
		}
		for _, w := range h.Worn { // what nears its limit soonest first
			when := w.When(h.Unit)
			if when.Sentence == "" || !slices.Contains(l.Positions, w.Position) || !answers(f, w.Feature, l.Code) {
				continue
			}
			of := w.Named()
			of.Mid = true
			l.Reason = words.Join("; ", l.Reason, words.Of("%s %s at its rate so far past its limit %s", w.Position, of, when))
			break
		}
	}
}

// answers tells whether an operation answers a feature.
func answers(f *headfile.File, x judge.Feature, code string) bool {
	return slices.ContainsFunc(judge.Answers(f.Subject, x), func(r *trade.Repair) bool { return r.Code == code })
}
