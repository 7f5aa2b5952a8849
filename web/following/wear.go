package following

import (
	"fmt"
	"html/template"
	"math"
	"net/http"
	"strconv"
	"strings"
	"time"

	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/shop"
	"yatai/shop/following"
	"yatai/web/draw"
	"yatai/web/headpage"
	"yatai/web/page"
)

// EarlierPage tells what a head did over its visits, and when what wears will be past its limit.
func EarlierPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return showEarlier(s, w, r, req, page.Page{})
}

// earlierData is what the visits of a head say, and jobs of before the program.
type earlierData struct {
	following.History
	Rows []wornRow
	All  bool
	Old  []shop.OldJob
}

// mostDrawn is how many figures are drawn, mostRows how many are listed before the rest is offered.
const (
	mostDrawn = 3
	mostRows  = 12
)

// Listed are the rows that are listed: all when that is asked for.
func (d earlierData) Listed() []wornRow {
	if d.All {
		return d.Rows
	}
	return d.Rows[:min(len(d.Rows), mostRows)]
}

// LookAgain proposes a reminder: the day and what for; nil where nothing is to be proposed.
func (d earlierData) LookAgain() map[string]string {
	day, w, ok := d.Look()
	if !ok || len(d.Rows) == 0 {
		return nil
	}
	row := wornRow{w, d.Unit, d.Per(), d.Rows[0].U}
	return map[string]string{
		"day":  day.Local().Format(time.DateOnly),
		"what": strings.TrimSpace(fmt.Sprintf("look at it: %s %s past its limit %s", w.Label, w.Position, row.Reaches())),
	}
}

// Drawn are those that are drawn: what nears a limit soonest.
func (d earlierData) Drawn() (out []wornRow) {
	for _, row := range d.Rows {
		if row.HasLimit && !math.IsInf(row.Early, 1) && len(out) < mostDrawn {
			out = append(out, row)
		}
	}
	return out
}

func showEarlier(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, p page.Page) error {
	f, err := headpage.ReadHead(s, r, req)
	if err != nil {
		return err
	}
	history, err := following.HistoryOf(r.Context(), s.Shop, f)
	if err != nil {
		return err
	}
	d := earlierData{History: history, All: r.Form.Get("all") != ""}
	if d.Old, err = following.Before(r.Context(), s.Shop, f); err != nil {
		return err
	}
	for _, x := range history.Worn {
		d.Rows = append(d.Rows, wornRow{x, history.Unit, history.Per(), req.Actor.Unit})
	}
	return headpage.ShowHead(s, w, req, f, "earlier", d, p)
}

// wornRow is a figure over the visits, as a person reads it.
type wornRow struct {
	following.Worn
	Run string      // what is counted: h
	Of  int         // how much of it the rate is told for
	U   length.Unit // of the person
}

// write writes a figure without its unit.
func (w wornRow) write(a quantity.Amount) string {
	in := w.Unit.Or(w.U)
	return in.In(a, in.Places())
}

// In names the unit of its figures.
func (w wornRow) In() string { return w.Unit.Or(w.U).Name }

// Per is the change in so much.
func (w wornRow) Per() string { return w.write(w.Over(w.Of)) }

// Between is between what that lies.
func (w wornRow) Between() string {
	low, high := w.OverWithin(w.Of)
	return w.write(low) + " to " + w.write(high)
}

// Reaches says when it will be past its limit: between what eight of ten cases lie.
func (w wornRow) Reaches() string {
	switch when := w.When(w.Run); {
	case when.Sentence != "":
		return when.String()
	case !w.HasLimit:
		return ""
	case w.Late() == 0:
		return "it is past it"
	}
	return "does not near it"
}

// Nears is the limit that it nears.
func (w wornRow) Nears() string {
	if !w.HasLimit {
		return ""
	}
	return w.write(w.Limit)
}

// Drawing draws it.
func (w wornRow) Drawing() template.HTML {
	d := draw.Worn{
		Early: w.Early, Late: w.Late(),
		Write: func(v float64) string { return w.write(quantity.Amount(math.Round(v))) },
		Hours: func(h float64) string { return strconv.Itoa(int(h)) + " " + w.Run },
		Alt:   fmt.Sprintf("%s %s over its visits. %s", w.Label, w.Position, w.Reaches()),
	}
	if w.HasLimit {
		at := float64(w.Limit)
		d.Limit = &at
	}
	for _, v := range w.Visits {
		if v.Came != nil {
			at := w.Nearing(*v.Came)
			d.Read = append(d.Read, draw.WornAt{Hours: v.Hours, Value: at.At, SD: at.SD})
		}
		if v.Left != nil {
			at := w.Nearing(*v.Left)
			d.Read = append(d.Read, draw.WornAt{Hours: v.Hours, Value: at.At, SD: at.SD, Left: true})
		}
	}
	d.Slopes[0], d.Slopes[1] = w.Rate.Within(0.8)
	return draw.Wear(d)
}
