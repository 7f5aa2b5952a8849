// Package lead is the pages of the shop's lead: decisions with the plan of the whole head, causes, schools,
// what stands behind them.
package lead

import (
	"cmp"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"

	"yatai/core/field"
	"yatai/core/trade"
	"yatai/shop/headfile"
	"yatai/shop/lead"
	"yatai/shop/quoting"
	"yatai/web/headpage"
	"yatai/web/page"
)

// typed is what was chosen on the page of decisions: all that is ticked, and the keys of what differs from
// what the page had ticked.
type typed struct {
	choices map[string]lead.Choice
	bound   []string
}

// typedIn reads it: a group's answer, unless one of its findings has its own. Each choice knows the
// decisions the page was made with.
func typedIn(form url.Values) typed {
	out := typed{choices: map[string]lead.Choice{}}
	var seen *uint
	if form.Has("seen") {
		id, _ := strconv.ParseUint(form.Get("seen"), 10, 32) // unreadable: none was seen
		seen = new(uint(id))
	}
	for name := range form {
		in, group, ok := strings.Cut(name, "/")
		if !ok || in != "in" && in != "group" {
			continue
		}
		for _, key := range strings.Fields(cmp.Or(form.Get("in/"+group), group)) {
			c := lead.Choice{Choice: form.Get("group/" + group), Reason: form.Get("reason/" + group), Seen: seen}
			own := form.Get("choice/" + key)
			changed := own != form.Get("was/"+key+"/own") || own == "" && c.Choice != form.Get("was/"+group)
			if own != "" {
				c.Choice, c.Reason = own, cmp.Or(form.Get("reason/"+key+"/own"), form.Get("reason/"+key))
			}
			if c.Choice == "" {
				continue
			}
			if c.Choice != trade.Leave {
				c.Reason = ""
			}
			if changed || slices.Contains(form["bound"], key) {
				out.bound = append(out.bound, key)
			} else {
				c.Advised = true
			}
			out.choices[key] = c
		}
	}
	slices.Sort(out.bound)
	out.bound = slices.Compact(out.bound)
	return out
}

// changed are the choices that differ from what the page had ticked.
func (t typed) changed() map[string]lead.Choice {
	out := map[string]lead.Choice{}
	for _, key := range t.bound {
		if c, ok := t.choices[key]; ok {
			out[key] = c
		}
	}
	return out
}

// JudgePage answers GET /heads/{tag}/judge: the head as it is decided, with what the query holds.
func JudgePage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	f, err := headpage.ReadHead(s, r, req)
	if err != nil {
		return err
	}
	ask, errs := askOf(r.Form, f)
	if ask.Alternative != "" || ask.Held() { // what a kept plan decided gives way to what is asked now
		f, _ = lead.Try(f, nil)
	}
	return showDecisions(s, w, r, req, f, ask, nil, page.Page{Errors: errs})
}

func showDecisions(
	s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, f *headfile.File,
	ask headfile.PlanAsk, bound []string, p page.Page,
) error {
	d, err := deciding(r.Context(), s, f, ask, bound)
	if err != nil {
		return err
	}
	return headpage.ShowHead(s, w, req, f, "judge", d, p)
}

// Decide writes the decisions of the page, and orders the work where that is asked for too; or it only
// tries them: works out what they come to.
func Decide(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	f, err := headpage.ReadHead(s, r, req)
	if err != nil {
		return err
	}
	form, got := r.PostForm, typedIn(r.PostForm)
	ask, errs := askOf(form, f)
	again := page.Page{
		Values: url.Values{"with": form["with"], "seen": form["seen"], "said": form["said"], "tried": {"yes"}},
	}
	if form.Get("then") == "try" {
		tried, wrong := lead.Try(f, got.changed())
		again.Errors = joined(wrong, errs)
		return showDecisions(s, w, r, req, tried, ask, got.bound, again)
	}
	kept := false
	if len(errs) == 0 {
		id := form.Get("write_id")
		err = lead.Decide(r.Context(), s.Shop, req.Actor, id, f.Tag, got.choices, ask)
		kept = err == nil
		if kept && form.Get("then") == "order" {
			err = lead.OrderWork(r.Context(), s.Shop, req.Actor, id+"-order", f.Tag, form["with"]...)
		}
		if errs, err = page.Wrong(err); err != nil {
			return err
		}
	}
	if len(errs) > 0 {
		if f, err = headpage.ReadHead(s, r, req); err != nil {
			return err
		}
		tried := f // what was decided is kept, and the order alone was refused
		if !kept {
			tried, _ = lead.Try(f, got.choices)
		}
		again.Errors = errs
		// what was decided meanwhile is told
		again.Values.Set("seen", strconv.FormatUint(uint64(f.NewestDecision()), 10))
		return showDecisions(s, w, r, req, tried, ask, got.bound, again)
	}
	if form.Get("then") == "order" {
		return page.Redirect(w, r, "/heads/"+f.Tag+ordered(s, r, req, f.Tag))
	}
	return page.Redirect(w, r, "/heads/"+f.Tag+"/judge")
}

// ordered is where it goes on once the work is ordered: to the work, with the customer's yes written down
// where they are here to give it; to the quote where that could not be.
func ordered(s *page.Site, r *http.Request, req *page.Request, tag string) string {
	name := strings.TrimSpace(r.PostForm.Get("said"))
	if name == "" {
		return "/work"
	}
	if err := quoting.YesAtOnce(r.Context(), s.Shop, req.Actor, r.PostForm.Get("write_id"), tag,
		name); err != nil {
		return "/quote"
	}
	return "/work"
}

// joined puts mistakes together; the first of a field stays.
func joined(all ...field.Errors) field.Errors {
	out := field.Errors{}
	for _, errs := range all {
		for key, text := range errs {
			if _, has := out[key]; !has {
				out[key] = text
			}
		}
	}
	return out
}
