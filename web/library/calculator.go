package library

import (
	"encoding/json"
	"errors"
	"fmt"
	"html/template"
	"net/http"
	"net/url"
	"sort"
	"strconv"
	"strings"

	"github.com/go-chi/chi/v5"

	"yatai/core/calc"
	"yatai/core/field"
	"yatai/core/length"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/shop/lead"
	"yatai/shop/week"
	"yatai/web/draw"
	"yatai/web/page"
)

// node is a field of a calculator's form: an input, a group of fields, or a table with a
// row per object of a list.
type node struct {
	calc.Field
	Path   string
	Label  string
	Value  string
	Say    string
	Fields []node   // of a group
	Rows   [][]node // of a table
	Next   int      // rows when one is added
}

type calcData struct {
	calc.Calc
	Nodes   []node
	Steps   []calc.Step
	JSON    string
	Input   string
	Say     string // an error that belongs to no field
	Drawing template.HTML
	Fills   bool // it can take its figures from a head
}

// maxRows bounds the rows of a table on a page; longer lists go through the API.
const maxRows = 128

// nodes builds the form of fields under path from the values and errors of a page, as reader reads lengths.
func nodes(fs []calc.Field, path string, v url.Values, errs field.Errors, reader length.Unit) []node {
	var out []node
	for _, f := range fs {
		n := node{Field: f, Path: field.Join(path, f.Name), Label: strings.ReplaceAll(f.Name, "_", " ")}
		switch {
		case f.List && f.Fields != nil:
			rows, _ := strconv.Atoi(v.Get("rows." + n.Path))
			if v.Get("add") == n.Path {
				rows++
			}
			rows = min(max(rows, 1), maxRows)
			for i := range rows {
				n.Rows = append(n.Rows, flat(nodes(f.Fields, fmt.Sprintf("%s[%d]", n.Path, i), v, errs, reader), ""))
			}
			n.Next = rows
			n.Say = errs.Message(n.Path)
		case f.Fields != nil:
			n.Fields = nodes(f.Fields, n.Path, v, errs, reader)
			n.Say = errs.Message(n.Path)
		default:
			if l, err := length.Parse(f.Default, length.Unit{}); f.Type == "length" && err == nil {
				n.Default = reader.Text(l)
			}
			n.Value = v.Get(n.Path)
			n.Say = errs.Message(n.Path)
			for at, m := range errs { // an entry of a list typed into one input, or a bracket's leaf
				if n.Say == "" && (strings.HasPrefix(at, n.Path+"[") || strings.HasPrefix(at, n.Path+".")) {
					n.Say = m.String()
				}
			}
		}
		out = append(out, n)
	}
	return out
}

// flat lists the leaves of a row, each labelled with its way through groups.
func flat(ns []node, prefix string) []node {
	var out []node
	for _, n := range ns {
		n.Label = strings.TrimSpace(prefix + " " + n.Label)
		if n.Field.Fields != nil && !n.List {
			out = append(out, flat(n.Fields, n.Label)...)
			continue
		}
		out = append(out, n)
	}
	return out
}

// typedJSON builds the calculation's input from a form, bare lengths in unit. What is empty is
// left out.
func typedJSON(fs []calc.Field, path string, v url.Values, unit string) map[string]any {
	out := map[string]any{}
	for _, f := range fs {
		at := field.Join(path, f.Name)
		var val any
		switch {
		case f.List && f.Fields != nil:
			rows, _ := strconv.Atoi(v.Get("rows." + at))
			list := []any{}
			for i := range min(rows, maxRows) {
				if row := typedJSON(f.Fields, fmt.Sprintf("%s[%d]", at, i), v, unit); filled(row) {
					list = append(list, row)
				}
			}
			if len(list) > 0 || !f.Optional {
				val = list
			}
		case f.Fields != nil:
			if m := typedJSON(f.Fields, at, v, unit); filled(m) || !f.Optional {
				val = m
			}
		default:
			val = leafJSON(f, strings.TrimSpace(v.Get(at)), unit)
		}
		if val != nil {
			out[f.Name] = val
		}
	}
	return out
}

// filled tells whether anything but unticked boxes was typed.
func filled(m map[string]any) bool {
	for _, v := range m {
		switch v := v.(type) {
		case bool:
			if v {
				return true
			}
		case map[string]any:
			if filled(v) {
				return true
			}
		default:
			return true
		}
	}
	return false
}

func leafJSON(f calc.Field, text, unit string) any {
	if f.Type != "length" && f.Type != "value" {
		unit = ""
		if len(f.Units) > 0 {
			unit = f.Units[0]
		}
	}
	switch {
	case f.Type == "yes/no":
		return text != ""
	case text == "":
		return nil
	case f.List:
		return listOf(text, separators[f.Depth], unit)
	case f.Type == "value" && strings.Contains(text, ";"):
		goes, nogo, _ := strings.Cut(text, ";")
		return map[string]any{"go": withUnit(goes, unit), "nogo": withUnit(nogo, unit)}
	case (f.Type == "number" || f.Type == "integer") && json.Valid([]byte(text)):
		return json.RawMessage(text)
	}
	return withUnit(text, unit)
}

// withUnit gives a bare number its unit, which the page shows beside it; what is no number stays
// as it was typed.
func withUnit(text, unit string) string {
	text = strings.TrimSpace(text)
	if _, rest, err := length.Number(text); err == nil && rest == "" && unit != "" {
		return text + " " + unit
	}
	return text
}

// separators set the entries of a list apart, by how many lists lie in each other. Of three:
// a line for each person, a semicolon between the parts, a slash between the readings.
var separators = map[int][]string{1: {";"}, 2: {"\n", ";"}, 3: {"\n", ";", "/"}}

// listOf cuts text into lists in lists.
func listOf(text string, by []string, unit string) []any {
	var list []any
	for t := range strings.SplitSeq(strings.TrimSpace(text), by[0]) {
		if len(by) > 1 {
			list = append(list, listOf(t, by[1:], unit))
		} else {
			list = append(list, withUnit(t, unit))
		}
	}
	return list
}

// listText writes lists in lists as listOf reads them.
func listText(list []any, by []string) string {
	var out []string
	for _, e := range list {
		if inner, ok := e.([]any); ok && len(by) > 1 {
			out = append(out, listText(inner, by[1:]))
		} else {
			out = append(out, fmt.Sprint(e))
		}
	}
	join := by[0]
	if join != "\n" {
		join += " "
	}
	return strings.Join(out, join)
}

// depth is how many lists lie in each other.
func depth(x any) int {
	if list, ok := x.([]any); ok && len(list) > 0 {
		return 1 + depth(list[0])
	}
	return 0
}

// spread turns an input in JSON into a form's values.
func spread(v url.Values, path string, x any) {
	switch x := x.(type) {
	case map[string]any:
		if goes, ok := x["go"].(string); ok && len(x) == 2 && x["nogo"] != nil && !strings.HasSuffix(path, "]") {
			v.Set(path, goes+"; "+fmt.Sprint(x["nogo"]))
			return
		}
		for k, e := range x {
			spread(v, field.Join(path, k), e)
		}
	case []any:
		rows := false
		for i, e := range x {
			if _, object := e.(map[string]any); object {
				spread(v, fmt.Sprintf("%s[%d]", path, i), e)
				rows = true
			}
		}
		if by := separators[depth(x)]; by != nil && !rows {
			v.Set(path, listText(x, by))
		}
		v.Set("rows."+path, strconv.Itoa(len(x)))
	case bool:
		if x {
			v.Set(path, "yes")
		}
	case nil:
	default:
		v.Set(path, fmt.Sprint(x))
	}
}

// CalcPage shows a calculator, with its example filled in when asked for.
func CalcPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	c, ok := calc.Named(chi.URLParam(r, "name"))
	if !ok {
		return shop.ErrNotFound
	}
	v := url.Values{}
	if tag := strings.ToUpper(strings.TrimSpace(r.Form.Get("head"))); tag != "" {
		return fillFrom(s, w, r, req, c, tag)
	}
	if r.Form.Get("example") != "" {
		var x any
		d := json.NewDecoder(strings.NewReader(c.Example))
		d.UseNumber()
		if err := d.Decode(&x); err != nil {
			return err
		}
		spread(v, "", x)
	}
	return showCalc(s, w, req, c, page.Page{Values: v}, calcData{})
}

// fillFrom shows a calculator with what a head has of its figures.
func fillFrom(
	s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, c calc.Calc, tag string,
) error {
	at := strings.ToUpper(strings.TrimSpace(r.Form.Get("at")))
	p := page.Page{Values: url.Values{"head": {tag}, "at": {at}, "keep_tag": {tag}}, Errors: field.Errors{}}
	f, err := headfile.Open(r.Context(), s.Shop, tag)
	switch {
	case errors.Is(err, shop.ErrNotFound):
		p.Errors.Addf("head", "no head has that tag")
	case err != nil:
		return err
	default:
		in := lead.Fill(f, c.Name, at)
		if !filled(in) {
			p.Errors.Addf("at", "nothing of it was read there")
		}
		spread(p.Values, "", in)
	}
	return showCalc(s, w, req, c, p, calcData{})
}

func showCalc(
	s *page.Site, w http.ResponseWriter, req *page.Request, c calc.Calc, p page.Page, d calcData,
) error {
	d.Calc, d.Fills = c, lead.Fills[c.Name] != nil
	d.Nodes = nodes(c.Fields(), "", p.Values, p.Errors, req.Actor.Unit)
	p.Title, p.Place, p.Data = c.Title, "reference", d
	return s.Show(w, req, "calc", p)
}

// CalcAnswer answers a calculator's form, and keeps the answer on a head when asked to.
func CalcAnswer(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	c, ok := calc.Named(chi.URLParam(r, "name"))
	if !ok {
		return shop.ErrNotFound
	}
	if r.PostForm.Get("add") != "" {
		return showCalc(s, w, req, c, page.Page{Values: r.PostForm}, calcData{})
	}
	input, err := json.Marshal(typedJSON(c.Fields(), "", r.PostForm, req.Actor.Unit.Name))
	if err != nil {
		return err
	}
	p, d := page.Page{Values: r.PostForm}, calcData{Input: string(input)}
	res, err := c.Run(input)
	if err == nil && r.PostForm.Get("keep") != "" {
		tag := strings.ToUpper(strings.TrimSpace(r.PostForm.Get("keep_tag")))
		err = week.KeepCalc(r.Context(), s.Shop, req.Actor, r.PostForm.Get("write_id"), tag, c.Name, string(input),
			r.PostForm.Get("keep_text"))
		if err == nil {
			return page.Redirect(w, r, "/heads/"+url.PathEscape(tag)+"/intake")
		}
	}
	if p.Errors, err = page.Wrong(err); err != nil {
		return err
	}
	if res.Value != nil {
		out, err := res.JSON()
		if err != nil {
			return err
		}
		d.JSON, d.Steps, d.Drawing = string(out), res.Steps, draw.Calc(c.Name, draw.BesideTable, res.Input,
			res.Value)
	}
	d.Say = unplaced(nodes(c.Fields(), "", p.Values, p.Errors, req.Actor.Unit), p.Errors)
	return showCalc(s, w, req, c, p, d)
}

// unplaced returns the messages that stand beside no field of the form.
func unplaced(ns []node, errs field.Errors) string {
	shown := map[string]bool{errs.Message("tag"): true, errs.Message("text"): true}
	var walk func([]node)
	walk = func(ns []node) {
		for _, n := range ns {
			shown[n.Say] = true
			walk(n.Fields)
			for _, row := range n.Rows {
				walk(row)
			}
		}
	}
	walk(ns)
	var out []string
	for at, m := range errs {
		if !shown[m.String()] {
			out = append(out, strings.TrimSpace(at+" "+m.String()))
		}
	}
	sort.Strings(out)
	return strings.Join(out, ". ")
}
