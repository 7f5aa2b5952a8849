package practice

import (
	"context"
	"slices"

	"yatai/core/cause"
	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/judge"
	"yatai/core/money"
	"yatai/core/plan"
	"yatai/core/price"
	"yatai/core/quantity"
	"yatai/core/trade"
	"yatai/core/words"
)

// Skill is one of what is practised, with how much of it was right.
type Skill struct {
	Code  string  `json:"code"`
	Share float64 `json:"share"` // 0 to 1
	Right int     `json:"right"`
	Of    int     `json:"of"` // 0 where it was not asked
}

// Skills names them in the order they are told.
var Skills = []struct{ Code, Label, Line string }{
	{"hand", "Using the tools", "readings that lie within the tool's doubt of the truth"},
	{"eye", "Looking at parts", "parts graded as they are"},
	{"find", "Finding", "what is out, and was read or looked at"},
	{"judge", "Judging", "verdicts that were right and no luck"},
	{"plan", "Planning", "the best plan's price as a share of theirs; nothing for one that does not do"},
	{"cause", "Cause", "why it failed"},
	{"care", "Care", "cautions kept"},
	{"time", "Time", "minutes of reading everything once, as a share of theirs, where half of it was read"},
}

// Verdict is a verdict with the truth beside it.
type Verdict struct {
	Truth  judge.Feature
	Read   *judge.Feature // as the learner read it; nil when it was not
	Theirs string         // one of the verdicts a learner can give, "" for none
	Right  bool
	Luck   bool // right, though the reading did not tell
	Misled bool // wrong, though the reading said so: the tool or the hand was off
	Missed bool // out, and never read
}

// Cost is what reading a characteristic took, and what it told.
type Cost struct {
	Of      trade.Characteristic
	Taken   int
	Seconds int
	Cents   int64 // of those at the shop's rate
	Out     int   // places that are out and were read
	// what that was worth: the price of a job for what it alone tells, had the head come back for it. 0 where
	// it told nothing that has a repair.
	Worth int64
	Wrong int // readings further from the truth than the tool's doubt
	Slips int // readings typed as something else than the tool showed
}

// Caution is something careful people do, and whether it was done.
type Caution struct {
	Line words.Text
	Kept bool
}

// Choice is what a learner planned, held against the truth.
type Choice struct {
	Feasible bool
	Cents    int64
	Blocked  []plan.Blocked // why it does not do
	None     bool           // they said that it cannot be mended
}

// Score is a finished practice head with the truth laid beside what its learner did.
type Score struct {
	Skills   []Skill
	Verdicts []Verdict // in the head's order
	Grades   []GradeScore
	Costs    []Cost
	Cautions []Caution
	Best     plan.Plan // the planner's on the truth
	Theirs   Choice
	Cause    bool // theirs is right
	Weighed  []cause.Weighed
	Minutes  quantity.Minutes
	Usual    quantity.Minutes // of reading and looking at everything once
}

// GradeScore is a part that was looked at, as it was graded and as it is.
type GradeScore struct {
	Part   trade.Part
	At     string
	Theirs trade.Grade
	Is     trade.Grade
}

// Right tells whether it was graded as it is.
func (g GradeScore) Right() bool { return g.Theirs.Code == g.Is.Code }

// Total is the mean of the skills that were asked, 0 to 1.
func (s Score) Total() float64 {
	sum, n := 0.0, 0
	for _, x := range s.Skills {
		if x.Of > 0 {
			sum, n = sum+x.Share, n+1
		}
	}
	if n == 0 {
		return 0
	}
	return sum / float64(n)
}

// Score lays the truth beside what a learner did and said. The only error is a caller that leaves.
func (p *Head) Score(ctx context.Context, rec Record) (Score, error) {
	s := Score{Minutes: p.Minutes(rec), Usual: p.usual()}
	truth, known := judge.Head(p.Truth), p.Known(rec)
	p.verdicts(&s, truth, judge.Head(known), rec.Answers)
	p.grades(&s, rec)
	if err := p.costs(ctx, &s, rec); err != nil {
		return s, err
	}
	s.Weighed = cause.Weigh(p.Truth, truth)
	s.Cause = rec.Answers.Cause == p.Trouble.Cause
	if p.Lesson.Plan {
		if err := p.planned(ctx, &s, rec.Answers); err != nil {
			return s, err
		}
	}
	s.Cautions = p.cautions(rec, known)
	s.Skills = p.skills(s)
	return s, nil
}

// verdicts holds the learner's against the truth.
func (p *Head) verdicts(s *Score, truth, read judge.Judgement, a Answers) {
	for _, f := range truth.All() {
		if f.Limit == nil || f.Finding != 0 || len(f.From) == 0 {
			continue
		}
		v := Verdict{Truth: f, Theirs: a.Verdicts[f.Key()]}
		out := f.Verdict >= gauge.Out
		g, ok := read.Feature(f.Key())
		if !ok || len(g.From) == 0 {
			v.Missed = out
			s.Verdicts = append(s.Verdicts, v)
			continue
		}
		v.Read = &g
		switch v.Theirs {
		case SaysIn:
			v.Right = !out
			v.Misled = out && g.Verdict < gauge.Doubt
		case SaysOut:
			v.Right = out
			v.Misled = !out && g.Verdict >= gauge.Out
		case SaysDoubt:
			v.Right = g.Verdict == gauge.Doubt
		}
		v.Luck = v.Right && v.Theirs != SaysDoubt && g.Verdict == gauge.Doubt
		s.Verdicts = append(s.Verdicts, v)
	}
}

func (p *Head) grades(s *Score, rec Record) {
	at := map[string]int{} // the last grade of a part stands
	for _, step := range rec.Steps {
		is, ok := p.Grade(step.Of, step.At)
		if step.Kind != StepLook || !ok {
			continue
		}
		part, _ := trade.PartNamed(step.Of)
		theirs, _ := part.Grade(step.Grade)
		g := GradeScore{Part: part, At: step.At, Theirs: theirs, Is: is}
		if i, again := at[step.Of+"@"+step.At]; again {
			s.Grades[i] = g
			continue
		}
		at[step.Of+"@"+step.At] = len(s.Grades)
		s.Grades = append(s.Grades, g)
	}
}

// costs sums up what reading took and was worth, by characteristic in the bench's order.
func (p *Head) costs(ctx context.Context, s *Score, rec Record) error {
	for _, c := range p.Reads() {
		x := Cost{Of: c}
		for i, step := range rec.Steps {
			if step.Kind != StepRead || step.Of != c.Code {
				continue
			}
			x.Taken++
			x.Seconds += p.tools[step.Tool].seconds
			x.Wrong += one(!p.within(step))
			x.Slips += one(p.slip(rec.Steps[:i], step))
		}
		for _, v := range s.Verdicts {
			if v.Read != nil && v.Truth.Verdict >= gauge.Out && tells(c, v.Truth.Code) {
				x.Out++
			}
		}
		if x.Taken == 0 {
			continue
		}
		x.Cents = money.Div(int64(x.Seconds)*price.Rate(p.Told), 3600)
		if x.Out > 0 {
			job, err := p.jobFor(ctx, c, rec.Steps)
			if err != nil {
				return err
			}
			if job.Feasible {
				x.Worth = job.Cents
			}
		}
		s.Costs = append(s.Costs, x)
	}
	return nil
}

// jobFor is the job for what a characteristic alone tells where it was read, all else being left as it is.
func (p *Head) jobFor(ctx context.Context, c trade.Characteristic, done []Step) (plan.Plan, error) {
	read := map[string]bool{} // positions
	for _, s := range done {
		if s.Kind == StepRead && s.Of == c.Code {
			read[trade.SpotOf(s.At).Position] = true
		}
	}
	h := *p.Planned()
	h.Findings = nil
	h.Readings = slices.DeleteFunc(slices.Clone(h.Readings), func(r head.Reading) bool {
		return !read[r.Spot.Position] || !slices.Contains(trade.Together(c.Code), r.Of)
	})
	x := h.Until(head.Stages...)
	return plan.Judged(ctx, x, judge.Head(x), head.Ask{})
}

// tells tells whether a characteristic speaks for a feature: its own, or made of it.
func tells(c trade.Characteristic, code string) bool {
	f, _ := trade.ByCode(code)
	return c.Code == code ||
		slices.ContainsFunc(f.From, func(x *trade.Characteristic) bool { return x.Code == c.Code })
}

// slip tells whether the reading a step took was typed as something else than its tool showed, by more than
// the tool's doubt: what a display rounds and a hand moves meanwhile is none.
func (p *Head) slip(before []Step, s Step) bool {
	shown, ok := p.Shows(s.Take(), before)
	if !ok {
		return false
	}
	if shown.Value.Bracket {
		return s.Value != shown.Value
	}
	return (s.Value.At - shown.Value.At).Abs() > p.tools[s.Tool].Doubt(shown.Value.At)
}

// within tells whether a reading lies within its tool's doubt of the truth, or has it between its leaves.
// What a display can show is given it.
func (p *Head) within(s Step) bool {
	is, ok := p.truthAt(Take{Of: s.Of, At: trade.SpotOf(s.At), New: s.New})
	if !ok {
		return false
	}
	if s.Value.Bracket {
		return s.Value.Go <= is && is < s.Value.NoGo
	}
	t := p.tools[s.Tool]
	return (s.Value.At - is).Abs() <= t.Doubt(is)+t.step/2
}

// Planned is the head a plan is made for: the truth, without new valves that came in a box, since those that
// are wrong are sent back.
func (p *Head) Planned() *head.Head {
	h := *p.Truth
	h.Parts = nil
	return h.Until(head.Stages...)
}

// planned plans the truth, and holds what the learner chose against it.
func (p *Head) planned(ctx context.Context, s *Score, a Answers) error {
	h := p.Planned()
	truth := judge.Head(h)
	var err error
	if s.Best, err = plan.Judged(ctx, h, truth, head.Ask{}); err != nil {
		return err
	}
	if s.Theirs.None = a.GiveUp; a.GiveUp {
		return nil
	}
	cut := a.FaceCut
	theirs, err := plan.Judged(ctx, h, truth, head.Ask{Hold: a.Hold, FaceCut: &cut})
	if err != nil {
		return err
	}
	s.Theirs = Choice{Feasible: theirs.Feasible, Cents: theirs.Cents, Blocked: theirs.Blocked}
	return nil
}

// usual is how long it takes to read and look at everything once.
func (p *Head) usual() quantity.Minutes {
	var rec Record
	for _, r := range p.Truth.Readings {
		c, _ := trade.ByCode(r.Of)
		if tools := p.ToolsFor(c); len(tools) > 0 {
			rec.Steps = append(rec.Steps, Step{Kind: StepRead, Tool: tools[0]})
		}
	}
	for range p.Truth.Findings {
		rec.Steps = append(rec.Steps, Step{Kind: StepLook})
	}
	return p.Minutes(rec)
}

// cautions are those of the head, and whether they were kept.
func (p *Head) cautions(rec Record, known *head.Head) []Caution {
	out := []Caution{{words.Of("Every tool's zero was checked before its first reading."), p.checkedFirst(rec.Steps)}}
	if !p.Lesson.Plan {
		return out
	}
	if rec.Answers.FaceCut > 0 || p.Truth.Sheet.LimitOf(head.Service, trade.Thickness.Code, "") != nil {
		out = append(out, Caution{
			words.Of("The thickness was read before the face was decided."), known.Read(trade.Thickness.Code),
		})
	}
	if slices.Contains(p.Told.Symptoms, trade.RanHot.Code) {
		looked := slices.ContainsFunc(rec.Steps, func(s Step) bool { return s.Kind == StepFace })
		out = append(out, Caution{words.Of("The face was looked over for cracks: it ran hot."), looked})
	}
	if p.Box() {
		measured := 0
		for _, x := range known.Parts {
			if x.New {
				measured++
			}
		}
		out = append(out, Caution{words.Of("Every new valve in the box was measured."), measured == len(p.box)})
	}
	return out
}

// checkedFirst tells whether every tool that has a zero was checked before anything was read with it.
func (p *Head) checkedFirst(steps []Step) bool {
	checked := map[int]bool{}
	for _, s := range steps {
		switch {
		case s.Kind == StepZero:
			checked[s.Tool] = true
		case s.Kind == StepRead && !checked[s.Tool] && p.Zeroed(s.Tool):
			return false
		}
	}
	return true
}

// Zeroed tells whether a tool has a zero that can be checked.
func (p *Head) Zeroed(n int) bool { return n >= 0 && n < len(p.tools) && p.tools[n].U > 0 }

// skills sums up.
func (p *Head) skills(s Score) []Skill {
	count := map[string][2]int{} // right and of
	add := func(code string, right, of int) {
		c := count[code]
		count[code] = [2]int{c[0] + right, c[1] + of}
	}
	for _, c := range s.Costs {
		add("hand", c.Taken-c.Wrong, c.Taken)
	}
	for _, g := range s.Grades {
		add("eye", one(g.Right()), 1)
	}
	for _, v := range s.Verdicts {
		out := v.Truth.Verdict >= gauge.Out
		add("find", one(out && v.Read != nil), one(out))
		if v.Read != nil {
			add("judge", one(v.Right && !v.Luck), 1)
		}
	}
	for _, c := range s.Cautions {
		add("care", one(c.Kept), 1)
	}
	if p.Lesson.Cause {
		add("cause", one(s.Cause), 1)
	}
	var out []Skill
	for _, x := range Skills {
		c := count[x.Code]
		k := Skill{Code: x.Code, Right: c[0], Of: c[1]}
		if k.Of > 0 {
			k.Share = float64(k.Right) / float64(k.Of)
		}
		switch {
		case x.Code == "plan" && p.Lesson.Plan:
			k.Share, k.Of = s.price(), 1
			k.Right = one(k.Share == 1)
		case x.Code == "time" && s.Minutes > 0 && 2*s.read() >= len(s.Verdicts):
			k.Share, k.Of = min(1, float64(s.Usual)/float64(s.Minutes)), int(s.Minutes)
			k.Right = int(s.Usual)
		}
		out = append(out, k)
	}
	return out
}

// read counts the figures that were read.
func (s Score) read() (n int) {
	for _, v := range s.Verdicts {
		n += one(v.Read != nil)
	}
	return n
}

// price is how good a plan is: the best one's price as a share of theirs. Where nothing can be done, saying
// so is right and all else wrong.
func (s Score) price() float64 {
	switch {
	case !s.Best.Feasible || s.Theirs.None:
		return float64(one(!s.Best.Feasible && s.Theirs.None))
	case !s.Theirs.Feasible:
		return 0
	case s.Theirs.Cents <= s.Best.Cents:
		return 1
	}
	return float64(s.Best.Cents) / float64(s.Theirs.Cents)
}

func one(yes bool) int {
	if yes {
		return 1
	}
	return 0
}
