package web

import (
	"cmp"
	"net/http"
	"net/url"
	"slices"

	"yatai/core/judge"
	"yatai/core/trade"
	"yatai/shop/lead"
)

// choices reads what was chosen on the judge page: a group's answer, unless one of its
// findings has its own.
func choices(groups []judge.Group, form url.Values) map[string]lead.Choice {
	out := map[string]lead.Choice{}
	for _, g := range groups {
		for _, x := range g.Findings {
			key := x.Key()
			if own := form.Get("choice/" + key); own != "" {
				out[key] = lead.Choice{Choice: own, Reason: cmp.Or(form.Get("reason/"+key+"/own"), form.Get("reason/"+key))}
			} else if c := form.Get("group/" + g.Key); c != "" {
				out[key] = lead.Choice{Choice: c, Reason: form.Get("reason/" + g.Key)}
			}
		}
	}
	for key, c := range out {
		if c.Choice != trade.Leave {
			c.Reason = ""
			out[key] = c
		}
	}
	return out
}

// decide writes the decisions typed on the judge page.
func (s *Server) decide(w http.ResponseWriter, r *http.Request, req *request) error {
	f, err := s.openHead(r)
	if err != nil {
		return err
	}
	id := r.PostForm.Get("write_id")
	made := choices(f.Received.Groups(), r.PostForm)
	for key, c := range made {
		if d, ok := f.Decision(key); ok && c.Choice == trade.Planned && d.Choice == trade.Planned {
			delete(made, key) // the plan's own words stay with it
		}
	}
	err = lead.Decide(r.Context(), s.shop, req.actor, id, f.Tag, made)
	if err == nil && r.PostForm.Get("then") == "order" {
		err = lead.OrderWork(r.Context(), s.shop, req.actor, id+"-order", f.Tag)
	}
	if errs, err := wrong(err); errs != nil {
		if f, err = s.openHead(r); err != nil {
			return err
		}
		newer, err := lead.Newer(r.Context(), s.shop, f)
		if err != nil {
			return err
		}
		return s.showHead(w, req, f, "judge", newer, Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	if r.PostForm.Get("then") == "order" {
		return redirect(w, r, "/heads/"+f.Tag+"/work")
	}
	return redirect(w, r, "/heads/"+f.Tag+"/judge")
}

// GroupChoice is the answer ticked for a group: what was typed, what most of it is decided
// by, or else its usual answer. Findings that have another are exceptions.
func (d headData) GroupChoice(p Page, g judge.Group) string {
	if c := p.Val("group/" + g.Key); c != "" {
		return c
	}
	count, best := map[string]int{}, ""
	for _, x := range g.Findings {
		if c := d.Chosen(x); c != "" {
			if count[c]++; count[c] > count[best] {
				best = c
			}
		}
	}
	if best != "" {
		return best
	}
	return g.Usual()
}

// GroupReason is the reason typed or kept for leaving a group.
func (d headData) GroupReason(p Page, g judge.Group) string {
	if p.Values.Has("reason/" + g.Key) {
		return p.Val("reason/" + g.Key)
	}
	for _, x := range g.Findings {
		if d.Chosen(x) == trade.Leave {
			return d.Reason(x)
		}
	}
	return ""
}

// OwnChoice is the answer of a finding that differs from its group's, "" when it does not.
func (d headData) OwnChoice(p Page, x judge.Feature, group string) string {
	if p.Values.Has("choice/" + x.Key()) {
		return p.Val("choice/" + x.Key())
	}
	if c := d.Chosen(x); c != group {
		return c
	}
	return ""
}

// OwnReason is the reason typed or kept for leaving one finding.
func (d headData) OwnReason(p Page, x judge.Feature) string {
	if at := "reason/" + x.Key() + "/own"; p.Values.Has(at) {
		return p.Val(at)
	}
	if d.Chosen(x) == trade.Leave {
		return d.Reason(x)
	}
	return ""
}

// Differs tells whether the findings of a group were decided differently.
func (d headData) Differs(g judge.Group) bool {
	return slices.ContainsFunc(g.Findings, func(x judge.Feature) bool { return d.Chosen(x) != d.Chosen(g.Findings[0]) })
}

// Refused tells whether something typed for a group came back.
func (d headData) Refused(p Page, g judge.Group) bool {
	return slices.ContainsFunc(g.Findings, func(x judge.Feature) bool { return p.Err(x.Key()) != "" })
}

// NoAnswer says why nothing can be done about a finding.
func (d headData) NoAnswer(x judge.Feature) string { return judge.NoAnswer(x) }

// Undecided counts the findings without a decision.
func (d headData) Undecided() int {
	n := 0
	for _, x := range d.Received.Findings() {
		if d.Chosen(x) == "" {
			n++
		}
	}
	return n
}
