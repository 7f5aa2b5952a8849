// Package experience is the page of what the shop has learnt from its own heads, and of what the owner might
// change by it.
package experience

import (
	"context"
	"errors"
	"fmt"
	"html/template"
	"net/http"

	"github.com/go-chi/chi/v5"

	"yatai/core/field"
	"yatai/shop"
	"yatai/shop/experience"
	"yatai/web/draw"
	"yatai/web/page"
)

// shown is how many proposals stand open, the others fold.
const shown = 5

// data is what the shop knows, with what it proposes.
type data struct {
	experience.Known
	First, More []experience.Proposal
}

// Part draws how many of some heads are among others, of the most that any row of its table has.
func (d data) Part(part, whole []string, most int, alt string) template.HTML {
	return draw.Share(len(part), len(whole), most, fmt.Sprintf("%s: %d of %d", alt, len(part), len(whole)))
}

// Against draws what work took against what was planned.
func (d data) Against(w experience.Work) template.HTML {
	return draw.Against(w.Share(), fmt.Sprintf("%s, %s: %.0f %% of what was planned", w.Name, w.Person, 100*w.Share()))
}

// Spark draws a tool's checks.
func (d data) Spark(t experience.Tool) template.HTML {
	return draw.Spark(*t.Chart, "zero checks of "+t.Name)
}

// MostCalls, MostRepaired and MostRead are the longest bars of their tables.
func (d data) MostCalls() int {
	return longest(d.Causes, func(c experience.Cause) int { return len(c.Confirmed) + len(c.Ruled) })
}

func (d data) MostRepaired() int {
	return longest(d.Repairs, func(r experience.Repair) int { return len(r.Heads) })
}

func (d data) MostRead() int {
	return longest(d.Readings, func(r experience.Reading) int { return len(r.Heads) })
}

func longest[T any](rows []T, length func(T) int) (most int) {
	for _, r := range rows {
		most = max(most, length(r))
	}
	return most
}

// Page answers GET /knows.
func Page(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return show(s, w, r, req, nil)
}

func show(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, wrong field.Errors) error {
	known, err := experience.Of(r.Context(), s.Shop, req.Actor)
	if err != nil {
		return err
	}
	open := min(shown, len(known.Proposed))
	return s.Show(w, req, "knows", page.Page{
		Title: "What the shop knows", Place: "week", Errors: wrong,
		Data: data{known, known.Proposed[:open], known.Proposed[open:]},
	})
}

// Answer answers POST /knows/{verb}: "take" makes a proposal so, "leave" leaves it.
func Answer(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	answer, ok := map[string]func(
		ctx context.Context, s *shop.Shop, a shop.Actor, writeID, key, proposed string,
	) error{"take": experience.Take, "leave": experience.Leave}[chi.URLParam(r, "verb")]
	if !ok {
		return shop.ErrNotFound
	}
	f := r.PostForm
	err := answer(r.Context(), s.Shop, req.Actor, f.Get("write_id"), f.Get("key"), f.Get("proposed"))
	if errors.Is(err, shop.ErrStale) {
		return show(s, w, r, req, field.Only("proposal", "it proposes something else by now: look at it again"))
	}
	if errs, other := page.Wrong(err); errs != nil {
		return show(s, w, r, req, errs)
	} else if other != nil {
		return other
	}
	return page.Redirect(w, r, "/knows#proposals")
}
