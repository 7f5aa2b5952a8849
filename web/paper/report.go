package paper

import (
	"fmt"
	"slices"
	"strings"

	"yatai/core/gauge"
	"yatai/core/judge"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/words"
	"yatai/shop/headfile"
	"yatai/shop/lead"
)

// Report writes a head's report as PDF, figures in u: what changed first, each with its window, what
// stayed after it.
func Report(f *headfile.File, causes []lead.CauseRow, h House, u length.Unit) ([]byte, error) {
	s := newSheet("Head report, tag "+f.Tag, h.Name, h, words.English)
	what := strings.TrimSpace(f.Model.Name + " " + f.Which())
	if f.Marks != "" {
		what += ", marks " + f.Marks
	}
	s.text(10, false, fmt.Sprintf(
		"%s, %s. %s. Judged by the %s limit sheet, version %d.", f.Job.Customer.Name, f.Job.Machine.Name, what,
		f.Model.Name, f.Sheet.Version,
	))
	s.text(10, false, "In your words: "+f.Job.Story)
	s.face(f.Layout, now(f))
	s.figures(f, u)
	if len(causes) > 0 {
		s.heading("Why it failed")
		for _, c := range causes {
			s.text(9.5, false, fmt.Sprintf("%s (%s, %s). Outside the head: %s %s", c.Name, c.Call.State,
				c.Call.Person.Name, c.Mend, c.Call.Note))
		}
	}
	told := f.Told()
	s.became(told)
	s.heading("What was done")
	for _, o := range told.Work {
		s.row([]float64{52, 76, 50}, false, o.Name, o.At.String(), o.State)
	}
	if told.Declined != nil {
		s.heading("What was not approved")
		s.text(9.5, false, strings.Join(told.Declined, "; "))
	}
	if len(told.Deviations) > 0 {
		s.heading("Deviations signed")
		for _, d := range told.Deviations {
			s.text(9.5, false, fmt.Sprintf("%s: %s %s, %s, %s", headfile.SignedFor(d.Feature), d.Figure, d.Reason,
				d.Person.Name, day(d.At)))
		}
	}
	if refit := slices.DeleteFunc(append(told.Tightening, told.Refit),
		func(t string) bool { return t == "" }); len(refit) > 0 {
		s.heading("At refit")
		for _, t := range refit {
			s.text(9.5, false, t)
		}
	}
	s.Ln(2)
	s.text(10, true, told.Closing)
	s.text(
		8.5, false,
		"The maker's instructions and local rules go before this report; it is a record, not a permission.",
	)
	return s.bytes()
}

// became writes what became of what was decided.
func (s *sheet) became(told headfile.Told) {
	first := true
	for _, r := range told.Rows {
		if r.Decision == "" {
			continue
		}
		if first {
			s.heading("What was found, and what became of it")
			first = false
		}
		s.row([]float64{22, 56, 100}, false, r.Received.Position, r.Received.Label, r.Decision)
	}
}

// figures writes what was read as received against what stands in the end.
func (s *sheet) figures(f *headfile.File, u length.Unit) {
	var changed, stayed []judge.Feature
	for _, x := range f.Received.All() {
		n, _ := f.Now.Feature(x.Key())
		switch {
		case len(x.From) == 0 && len(n.From) == 0 && x.Verdict == gauge.Unread && n.Verdict == gauge.Unread:
		case x.Figure(u) != n.Figure(u) || x.Verdict != n.Verdict:
			changed = append(changed, x)
		default:
			stayed = append(stayed, x)
		}
	}
	if len(changed) > 0 {
		s.heading("What changed, as received against final, " + u.Name)
		widths := []float64{16, 40, 25, 17, 25, 17, 38}
		s.row(widths, true, "At", "What", "Received", "It said", "Final", "It says", "Limit")
		s.under = 2.2
		for _, x := range changed {
			n, _ := f.Now.Feature(x.Key())
			s.row(widths, false, x.Position, x.Label, x.Figure(u), x.Verdict.Label(), n.Figure(u), n.Verdict.Label(),
				limitOf(x, u))
			s.window(x, n, 16+140, 36)
		}
		s.under = 0
	}
	if len(stayed) > 0 {
		s.heading("What stayed, " + u.Name)
		widths := []float64{34, 56, 36, 18, 34}
		s.row(widths, true, "At", "What", "Reads", "It says", "Limit")
		for _, g := range alike(stayed, u) {
			s.row(widths, false, headfile.AllOf(f.Layout, strings.Join(g.at, " ")).String(), g.Label, g.Figure(u),
				g.Verdict.Label(), limitOf(g.Feature, u))
		}
	}
}

// likes are places of one characteristic with one verdict by one limit, its figures from their least
// to their most.
type likes struct {
	judge.Feature
	at []string
}

// alike puts together what reads alike, in the order of the first.
func alike(features []judge.Feature, u length.Unit) []likes {
	var out []likes
	at := map[string]int{}
	for _, x := range features {
		key := strings.Join([]string{x.Code, x.Role, x.Verdict.Label(), limitOf(x, u), x.Label}, "|")
		if x.Words != nil {
			key += x.Figure(u)
		}
		i, ok := at[key]
		if !ok {
			at[key] = len(out)
			out = append(out, likes{x, []string{x.Position}})
			continue
		}
		g := &out[i]
		g.Low, g.High, g.at = min(g.Low, x.Low), max(g.High, x.High), append(g.at, x.Position)
	}
	return out
}

func limitOf(x judge.Feature, u length.Unit) string {
	if x.Limit == nil {
		return ""
	}
	return x.Limit.Text(u)
}

// window draws under the row that was written last where a figure lay between its limits and where it
// lies now: posts for the limits, a ring for then, a dot for now.
func (s *sheet) window(then, now judge.Feature, x, w float64) {
	l := then.Limit
	if l == nil || len(then.From) == 0 || len(now.From) == 0 {
		return
	}
	ends := []float64{float64(then.High), float64(now.High)}
	for _, e := range []*quantity.Amount{l.Low, l.High} {
		if e != nil {
			ends = append(ends, float64(*e))
		}
	}
	from, to := slices.Min(ends), slices.Max(ends)
	if from == to {
		return
	}
	y, k := s.GetY()-0.9, (w-6)/(to-from)
	at := func(a quantity.Amount) float64 { return x + 3 + (float64(a)-from)*k }
	s.RawWriteStr("/Artifact BMC") // the row says it
	defer s.RawWriteStr("EMC")
	s.SetDrawColor(134, 137, 138)
	s.Line(x+1, y, x+w-1, y)
	s.SetDrawColor(30, 42, 54)
	for _, e := range []*quantity.Amount{l.Low, l.High} {
		if e != nil {
			s.Line(at(*e), y-0.9, at(*e), y+0.9)
		}
	}
	s.Circle(at(then.High), y, 0.6, "D")
	s.SetFillColor(31, 78, 140)
	s.Circle(at(now.High), y, 0.6, "F")
}

func now(f *headfile.File) map[string]gauge.Verdict {
	out := map[string]gauge.Verdict{}
	for _, p := range f.Now.Positions {
		out[p.ID] = p.Worst
	}
	return out
}
