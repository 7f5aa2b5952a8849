package quote_test

import (
	"encoding/json"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/head"
	"yatai/core/judge"
	"yatai/core/money"
	"yatai/core/plan"
	"yatai/core/price"
	"yatai/core/quote"
	"yatai/core/route"
	"yatai/core/words"
)

// scenarios are the whole heads that come with the core, by the name of their file.
func scenarios(t *testing.T) map[string]*head.Head {
	t.Helper()
	paths, err := filepath.Glob("../answer/testdata/*.json")
	require.NoError(t, err)
	out := map[string]*head.Head{}
	for _, p := range paths {
		text, err := os.ReadFile(p)
		require.NoError(t, err)
		var s struct{ Head json.RawMessage }
		require.NoError(t, json.Unmarshal(text, &s))
		if h, err := head.Decode(s.Head); err == nil { // some are there to be refused
			out[strings.TrimSuffix(filepath.Base(p), ".json")] = h
		}
	}
	require.Greater(t, len(out), 25)
	return out
}

// TestEveryQuoteAddsUpAndSaysWhy quotes every scenario's head by several terms.
func TestEveryQuoteAddsUpAndSaysWhy(t *testing.T) {
	for name, h := range scenarios(t) {
		for _, settings := range []map[string]string{nil, {
			"rate": "61.37", "discount": "7.5", "tax": "19", "minimum": "150.00",
		}, {"price.guide_new": "33.10+9.95"}} {
			own := map[string]string{}
			for k, v := range h.Settings {
				own[k] = v
			}
			for k, v := range settings {
				own[k] = v
			}
			again := *h
			again.Settings = own
			check(t, name, &again)
		}
	}
}

// check works a quote out again from its lines, and holds it against the plan.
func check(t *testing.T, name string, h *head.Head) {
	q, err := quote.Head(t.Context(), h)
	require.NoError(t, err, name)
	p, err := plan.Judged(t.Context(), h, judge.Head(h), h.Ask)
	require.NoError(t, err, name)

	var labour, parts int64
	done := map[string]string{}
	var must []string
	for _, l := range q.Lines {
		assert.Contains(t, quote.Groups, l.Group, name)
		said := l.Reason.In(words.German)
		assert.NotEmpty(t, strings.TrimSpace(said), "%s: %s says no reason", name, l.Code)
		assert.NotEmpty(t, strings.TrimSpace(l.Reason.String()), "%s: %s says no reason", name, l.Code)
		assert.GreaterOrEqual(t, l.Labour, int64(0), name)
		labour, parts = labour+l.Labour, parts+l.PartsCents()
		if l.Group == quote.Must {
			must = append(must, l.Code)
		}
		if l.With != "" {
			assert.Contains(t, quote.Groups, l.With, name)
		}
		if l.Group == quote.Could && l.With == "" || l.Group == quote.Must {
			for _, at := range l.Positions {
				key := l.Code + " " + at
				assert.Empty(t, done[key], "%s: %s is charged in %s and %s", name, key, done[key], l.Group)
				done[key] = l.Group
			}
		}
	}
	assert.Equal(t, labour+parts, q.Totals.Net, name)
	assert.Equal(t, price.TermsOf(h).Total(money.Charge{Labour: labour, Parts: parts}, q.Totals.Minutes), q.Totals, name)

	var planned []string
	for _, o := range p.Operations {
		planned = append(planned, o.Code)
	}
	assert.Equal(t, planned, must, "%s: what the plan does must be done", name)
	for _, u := range q.Unknown {
		assert.True(t, slices.ContainsFunc(q.Lines, func(l quote.Line) bool {
			return slices.ContainsFunc(l.Parts, func(x price.Use) bool { return !x.Known && x.Name() == u })
		}), "%s: %s has a price", name, u)
	}
}

// TestADearerShopCostsMore: the same work at a higher rate.
func TestADearerShopCostsMore(t *testing.T) {
	for name, h := range scenarios(t) {
		var last int64
		for _, rate := range []string{"40.00", "64.00", "120.00"} {
			again := *h
			again.Settings = map[string]string{"rate": rate, "minimum": "0"}
			for k, v := range h.Settings {
				if k != "rate" && k != "minimum" && !strings.HasPrefix(k, "price.") {
					again.Settings[k] = v
				}
			}
			j := judge.Head(&again)
			p, err := plan.Judged(t.Context(), h, j, h.Ask) // the plan of the one shop, priced by the other
			require.NoError(t, err, name)
			var ops []quote.Line
			for _, o := range p.Operations {
				ops = append(ops, quote.Of(&again, j, quote.Must, []route.Operation{o.Operation}, 0, nil)...)
			}
			got := quote.Total(price.TermsOf(&again), ops).Gross
			assert.GreaterOrEqual(t, got, last, "%s at %s an hour", name, rate)
			last = got
		}
	}
}
