// Package lead is the pages of the shop's lead: decisions, the plan, causes, schools, what stands behind them.
package lead

import (
	"cmp"
	"net/http"
	"net/url"
	"strconv"
	"strings"

	"yatai/core/trade"
	"yatai/shop/lead"
	"yatai/web/headpage"
	"yatai/web/page"
)

// choices reads what was chosen on the judge page: a group's answer, unless one of its
// findings has its own. Each knows the decisions the page was made with.
func choices(form url.Values) map[string]lead.Choice {
	out := map[string]lead.Choice{}
	for name := range form {
		in, group, ok := strings.Cut(name, "/")
		if !ok || in != "in" && in != "group" {
			continue
		}
		for _, key := range strings.Fields(cmp.Or(form.Get("in/"+group), group)) {
			if own := form.Get("choice/" + key); own != "" {
				out[key] = lead.Choice{Choice: own, Reason: cmp.Or(form.Get("reason/"+key+"/own"), form.Get("reason/"+key))}
			} else if c := form.Get("group/" + group); c != "" {
				out[key] = lead.Choice{Choice: c, Reason: form.Get("reason/" + group)}
			}
		}
	}
	var seen *uint
	if form.Has("seen") {
		id, _ := strconv.ParseUint(form.Get("seen"), 10, 32) // unreadable: none was seen
		seen = new(uint(id))
	}
	for key, c := range out {
		if c.Choice != trade.Leave {
			c.Reason = ""
		}
		c.Seen = seen
		out[key] = c
	}
	return out
}

// Decide writes the decisions typed on the judge page.
func Decide(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	f, err := headpage.OpenHead(s, r)
	if err != nil {
		return err
	}
	id := r.PostForm.Get("write_id")
	err = lead.Decide(r.Context(), s.Shop, req.Actor, id, f.Tag, choices(r.PostForm))
	if err == nil && r.PostForm.Get("then") == "order" {
		err = lead.OrderWork(r.Context(), s.Shop, req.Actor, id+"-order", f.Tag)
	}
	if errs, err := page.Wrong(err); errs != nil {
		if f, err = headpage.OpenHead(s, r); err != nil {
			return err
		}
		d, err := headpage.Deciding(r.Context(), s, f)
		if err != nil {
			return err
		}
		return headpage.ShowHead(s, w, req, f, "judge", d, page.Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	if r.PostForm.Get("then") == "order" {
		return page.Redirect(w, r, "/heads/"+f.Tag+"/work")
	}
	return page.Redirect(w, r, "/heads/"+f.Tag+"/judge")
}
