package practising

import (
	"net/http"
	"strconv"
	"strings"

	"yatai/core/field"
	"yatai/core/head"
	"yatai/core/judge"
	"yatai/core/practice"
	"yatai/core/trade"
	"yatai/core/words"
	"yatai/shop/practising"
	"yatai/web/page"
)

// sayData is what is asked of a head.
type sayData struct {
	headData
	Asked  []asked
	Holds  []head.Hold
	Valves []string
	Causes []*trade.Cause
	Given  practising.AnswerForm // what was said, as typed
}

// asked is a feature that was read, to be judged.
type asked struct {
	judge.Feature
	Figure string // what was read, with the tools' doubt
	Limit  string
	Says   string // the verdict that was given
}

// SayPage answers GET /practice/{id}/say: what the learner says of the head.
func SayPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	h, err := open(s, r, req)
	if err != nil {
		return err
	}
	return showSay(s, w, r, req, h, formOf(h.Done.Answers, req), nil)
}

// formOf is what was said of a head as its form has it.
func formOf(a practice.Answers, req *page.Request) practising.AnswerForm {
	f := practising.AnswerForm{Verdicts: a.Verdicts, Hold: a.Hold, GiveUp: a.GiveUp, Cause: a.Cause}
	if a.FaceCut > 0 {
		f.FaceCut = req.Actor.Unit.Typed(a.FaceCut)
	}
	return f
}

func showSay(
	s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, h practising.Head,
	said practising.AnswerForm, wrong field.Errors,
) error {
	if h.Opened() {
		return page.Redirect(w, r, "/practice/"+strconv.Itoa(int(h.ID))+"/truth")
	}
	d := sayData{headData: dataOf(h, req, "say"), Given: said, Holds: h.Head.Holds()}
	for _, f := range judge.Head(h.Known(h.Done)).All() {
		if f.Limit == nil || f.Finding != 0 || len(f.From) == 0 {
			continue
		}
		u := f.Unit.Or(req.Actor.Unit)
		x := asked{
			Feature: f, Limit: f.Limit.Said(req.Actor.Unit).In(d.In), Says: said.Verdicts[f.Key()],
			Figure: d.figure(f),
		}
		if f.U > 0 && !f.Bracket {
			x.Figure += " ±" + u.Doubt(f.U)
		}
		d.Asked = append(d.Asked, x)
	}
	for _, v := range h.Told.Model.Layout.Valves {
		d.Valves = append(d.Valves, v.ID)
	}
	for _, c := range trade.Causes {
		if c.On == nil || c.On(h.Told.Model.Kind) {
			d.Causes = append(d.Causes, c)
		}
	}
	return s.Show(w, req, "practicesay", page.Page{
		Title: "What is it?", Place: "reference", Data: d, Errors: wrong,
	})
}

// Held is what was chosen for a metal of a valve.
func (d sayData) Held(at string, of trade.Metal) string { return d.Given.Hold[at][string(of)] }

// Choice names what can be done to a metal.
func (d sayData) Choice(of trade.Metal, choice string) string {
	if choice == head.Keep {
		return "keep"
	}
	for _, r := range trade.Repairs() {
		if r.Works == of && r.Choice == choice {
			return r.Name
		}
	}
	return choice
}

// Say answers POST /practice/{id}/say: keeps what the learner says, and opens the head when that is asked.
func Say(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	h, err := open(s, r, req)
	if err != nil {
		return err
	}
	f := practising.AnswerForm{
		Verdicts: map[string]string{}, Hold: map[string]map[string]string{},
		FaceCut: strings.TrimSpace(r.PostForm.Get("face_cut")), Unit: req.Actor.Unit.Name,
		GiveUp: r.PostForm.Get("give_up") == "yes", Cause: r.PostForm.Get("cause"),
	}
	for name := range r.PostForm {
		if key, ok := strings.CutPrefix(name, "v."); ok {
			f.Verdicts[key] = r.PostForm.Get(name)
		}
		if key, ok := strings.CutPrefix(name, "hold."); ok {
			at, of, _ := strings.Cut(key, ".")
			if f.Hold[at] == nil {
				f.Hold[at] = map[string]string{}
			}
			f.Hold[at][of] = r.PostForm.Get(name)
		}
	}
	_, err = practising.Answer(r.Context(), s.Shop, req.Actor, h.ID, f)
	if errs, other := page.Wrong(err); errs != nil {
		return showSay(s, w, r, req, h, f, errs)
	} else if other != nil {
		return other
	}
	to := "/practice/" + strconv.Itoa(int(h.ID))
	if r.PostForm.Get("open") == "yes" {
		if err := practising.Finish(r.Context(), s.Shop, req.Actor, h.ID); err != nil {
			return err
		}
		return page.Redirect(w, r, to+"/truth")
	}
	return page.Redirect(w, r, to)
}

// Share answers POST /practice/{id}/share: the head as a file, sealed with a word.
func Share(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	h, err := open(s, r, req)
	if err != nil {
		return err
	}
	file, err := practising.Share(r.Context(), s.Shop, req.Actor, h.ID, r.PostForm.Get("word"))
	if errs, other := page.Wrong(err); errs != nil {
		d := dataOf(h, req, "head")
		d.fill()
		return s.Show(w, req, "practicehead", page.Page{
			Title: "Practice head", Place: "reference", Data: d, Errors: errs,
		})
	} else if other != nil {
		return other
	}
	w.Header().Set("Content-Type", "application/json")
	w.Header().Set("Content-Disposition", `attachment; filename="practice-`+strconv.Itoa(int(h.ID))+`.json"`)
	_, err = w.Write(file)
	return err
}

// truthData is an opened head with its score.
type truthData struct {
	headData
	practice.Score
	Labels   map[string]string // of the skills
	Verdicts []verdictRow      // where something is to be told
	Fine     int               // that were right, and are not told one by one
	Grades   []practice.GradeScore
	Costs    []costRow
	Cause    string // why it failed
	Theirs   string // and what was said
	Signs    []string
}

// verdictRow is a verdict with the truth beside it.
type verdictRow struct {
	practice.Verdict
	True   string // the figure as it is
	Read   string // and as it was read
	Chance string // how likely the reading said it is inside
	Word   string // what is to be learnt of it
}

// costRow is what reading a characteristic took.
type costRow struct {
	practice.Cost
	Took string
}

// TruthPage answers GET /practice/{id}/truth: the truth, laid beside what was done. It is told only once the
// head is open.
func TruthPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	h, err := open(s, r, req)
	if err != nil {
		return err
	}
	if !h.Opened() {
		return page.Redirect(w, r, "/practice/"+strconv.Itoa(int(h.ID)))
	}
	score, err := practising.Truth(r.Context(), s.Shop, h)
	if err != nil {
		return err
	}
	d := truthData{headData: dataOf(h, req, "truth"), Score: score, Labels: map[string]string{}}
	for _, k := range practice.Skills {
		d.Labels[k.Code] = k.Label
	}
	for _, v := range score.Verdicts {
		row := d.verdict(v)
		if row.Word == "" {
			d.Fine++
			continue
		}
		d.Verdicts = append(d.Verdicts, row)
	}
	for _, g := range score.Grades {
		if !g.Right() {
			d.Grades = append(d.Grades, g)
		}
	}
	for _, c := range score.Costs {
		d.Costs = append(d.Costs, costRow{c, d.In.Say("%d min", (c.Seconds+59)/60)})
	}
	d.Cause, d.Theirs = causeName(h.Head.Trouble.Cause), causeName(h.Done.Answers.Cause)
	for _, w := range score.Weighed {
		if w.Code == h.Head.Trouble.Cause {
			for _, f := range w.For {
				d.Signs = append(d.Signs, f.Label)
			}
		}
	}
	return s.Show(w, req, "practicetruth", page.Page{Title: "The truth", Place: "reference", Data: d})
}

func causeName(code string) string {
	switch c := trade.CauseNamed(code); {
	case c != nil:
		return c.Name
	case code == practice.None:
		return "nothing the head shows"
	}
	return ""
}

// verdict is a verdict as it is told; its Word is empty where it was right and no luck.
func (d truthData) verdict(v practice.Verdict) verdictRow {
	truth := v.Truth
	if truth.Bracket { // a gap that is known lies at its lower leaf
		truth.Bracket, truth.High = false, truth.Low
	}
	row := verdictRow{Verdict: v, True: d.figure(truth)}
	if v.Read != nil {
		if row.Read = d.figure(*v.Read); v.Read.Words == nil {
			row.Chance = d.In.Say("%.0f %% inside", 100*v.Read.PInside)
		}
	}
	switch {
	case v.Missed:
		row.Word = "out, and not read"
	case v.Luck:
		row.Word = "right by luck: the reading could not tell"
	case v.Misled:
		row.Word = "the reading said so: a tool or the hand was off"
	case v.Read != nil && v.Theirs == "":
		row.Word = "read, and nothing said"
	case v.Read != nil && !v.Right && v.Theirs == practice.SaysDoubt:
		row.Word = "this reading could tell"
	case v.Read != nil && !v.Right:
		row.Word = "wrong"
	}
	return row
}

// figure writes what was read of a feature, or what it is: one figure, from the least to the most, two
// leaves, or a word.
func (d headData) figure(f judge.Feature) string {
	u := f.Unit.Or(d.Actor.Unit)
	switch {
	case f.Bracket:
		return d.In.Say("%s goes, %s does not", u.Usual(f.Low), u.Usual(f.High))
	case f.Words != nil:
		return d.In.Say(f.Words[min(1, max(0, f.Low.Whole()))])
	case f.Low == f.High:
		return u.Usual(f.Low)
	}
	return d.In.Say("%s to %s", strings.TrimSuffix(u.Usual(f.Low), " "+u.Name), u.Usual(f.High))
}

// Care is the caution of what was wrong.
func (d truthData) Care() words.Text { return d.Trouble().Care }

// Trouble is what was wrong.
func (d truthData) Trouble() *practice.Trouble { return d.headData.Head.Head.Trouble }
