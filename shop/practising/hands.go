package practising

import (
	"cmp"
	"context"
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"yatai/core/gauge"
	"yatai/core/length"
	"yatai/core/practice"
	"yatai/core/quantity"
	"yatai/core/trade"
	"yatai/shop"
	"yatai/store"
)

// Row is a practice head in a list, with its skills once it was opened.
type Row struct {
	store.PracticeHead
	Lesson practice.Lesson
	Skills []practice.Skill
	Steps  int
	Again  bool // an exam they have opened elsewhere first: they knew its truth
}

// Skill is how much of a skill was right; asked is false where the head did not ask it.
func (r Row) Skill(code string) (share float64, asked bool) {
	i := slices.IndexFunc(r.Skills, func(x practice.Skill) bool { return x.Code == code })
	if i < 0 {
		return 0, false
	}
	return r.Skills[i].Share, r.Skills[i].Of > 0
}

// Hand is how a person repeats with a tool, in practice: twice the standard deviation of readings taken again
// at one place.
type Hand struct {
	Person string
	Tool   string
	Unit   quantity.Unit // of what is not a length
	Again  int           // readings taken again
	U      quantity.Amount
	Label  quantity.Amount // what the tool's label says
}

// Text writes a doubt in its unit, u being the reader's for lengths.
func (h Hand) Text(u length.Unit, a quantity.Amount) string { return h.Unit.Or(u).Doubt(a) }

// Studied is a study of people, places and trials out of exams that several people read again.
type Studied struct {
	Tool   string
	People []string
	Places int
	Trials int
	Unit   quantity.Unit
	Out    gauge.StudyOutput
}

// Text writes what it comes to, u being the reader's unit.
func (s Studied) Text(u length.Unit) string { return s.Unit.Or(u).Doubt(s.Out.U()) }

// Practice is what a person has practised; to who leads the shop, what everybody has.
type Practice struct {
	Mine    []Row // the newest first
	Others  []Row // opened, of other people; for who leads the shop
	Hands   []Hand
	Studies []Studied
}

// Best is the best share of a lesson so far; done is false where it was never opened.
func (p Practice) Best(lesson string) (share float64, done bool) {
	for _, r := range p.Mine {
		if r.PracticeHead.Lesson == lesson && r.OpenedAt != nil && !r.Again {
			share, done = max(share, r.Share), true
		}
	}
	return share, done
}

// Opened are the actor's own opened heads, the oldest first: their scores over time, without those whose
// truth they knew.
func (p Practice) Opened() []Row {
	out := slices.DeleteFunc(slices.Clone(p.Mine), func(r Row) bool { return r.OpenedAt == nil || r.Again })
	slices.Reverse(out)
	return out
}

// Of returns what a person has practised.
func Of(ctx context.Context, s *shop.Shop, a shop.Actor) (Practice, error) {
	var p Practice
	person := a.ID
	if leads(a) {
		person = 0
	}
	kept, err := s.Store.Read(ctx).PracticeHeads(person, mostHeads)
	if err != nil {
		return p, err
	}
	var all []taken
	for _, k := range kept {
		l, ok := practice.LessonNamed(k.Lesson)
		if !ok {
			continue
		}
		var rec practice.Record
		r := Row{PracticeHead: k, Lesson: l}
		err := cmp.Or(json.Unmarshal([]byte(k.Record), &rec), json.Unmarshal([]byte(k.Skills), &r.Skills))
		if err != nil {
			return p, err
		}
		r.Steps = len(rec.Steps)
		if k.PersonID == a.ID {
			p.Mine = append(p.Mine, r)
		} else if k.OpenedAt != nil {
			p.Others = append(p.Others, r)
		}
		all = append(all, takenIn(k, rec)...)
	}
	mark(p.Mine)
	mark(p.Others)
	p.Hands, p.Studies = hands(all), studies(all)
	return p, nil
}

// mark marks the exams whose truth somebody knew already: all but the one they opened first.
func mark(rows []Row) {
	first := map[string]Row{}
	for _, r := range rows {
		name := r.Person.Name + " " + examOf(r.PracticeHead)
		f, ok := first[name]
		if r.Exam != "" && r.OpenedAt != nil && (!ok || r.OpenedAt.Before(*f.OpenedAt)) {
			first[name] = r
		}
	}
	for i := range rows {
		f, ok := first[rows[i].Person.Name+" "+examOf(rows[i].PracticeHead)]
		rows[i].Again = ok && rows[i].Exam != "" && rows[i].ID != f.ID
	}
}

// examOf names what makes two exams the same head.
func examOf(k store.PracticeHead) string {
	return fmt.Sprintf("%s %d %s %s", k.Lesson, k.Level, k.Trouble, strings.ToLower(k.Exam))
}

// taken are the readings of a person at one place of one practice head, in the order they were taken.
type taken struct {
	person string
	head   string // the exam, or the head where it was nobody else's
	tool   int
	place  string
	unit   quantity.Unit
	values []quantity.Amount
}

// takenIn groups a head's readings by tool and place. Setting a tool right begins anew.
func takenIn(k store.PracticeHead, rec practice.Record) []taken {
	name := "#" + strconv.Itoa(int(k.ID))
	if k.Exam != "" {
		name = examOf(k)
	}
	set := map[int]int{}
	at := map[string]int{}
	var out []taken
	for _, s := range rec.Steps {
		if s.Kind == practice.StepZero && s.Set {
			set[s.Tool]++
		}
		c, ok := trade.ByCode(s.Of)
		if s.Kind != practice.StepRead || s.Value.Bracket || !ok || c.Words != nil {
			continue
		}
		place := s.Of + " " + s.At + " " + strconv.FormatBool(s.New)
		key := strconv.Itoa(s.Tool) + " " + strconv.Itoa(set[s.Tool]) + " " + place
		i, ok := at[key]
		if !ok {
			i, at[key] = len(out), len(out)
			out = append(out, taken{person: k.Person.Name, head: name, tool: s.Tool, place: place, unit: c.Unit})
		}
		out[i].values = append(out[i].values, s.Value.At)
	}
	return out
}

// hands pools what people read again, by person and tool.
func hands(all []taken) []Hand {
	type pool struct {
		squares float64
		free    int
		unit    quantity.Unit
	}
	type of struct {
		person string
		tool   int
	}
	pools := map[of]pool{}
	for _, t := range all {
		if len(t.values) < 2 {
			continue
		}
		mean, k := 0.0, of{t.person, t.tool}
		for _, v := range t.values {
			mean += float64(v-t.values[0]) / float64(len(t.values))
		}
		x := pools[k]
		for _, v := range t.values {
			d := float64(v-t.values[0]) - mean
			x.squares += d * d
		}
		x.free += len(t.values) - 1
		x.unit = t.unit
		pools[k] = x
	}
	tools := practice.Tools()
	var out []Hand
	for k, x := range pools {
		if k.tool < 0 || k.tool >= len(tools) {
			continue
		}
		u := quantity.Amount(math.Round(2 * math.Sqrt(x.squares/float64(x.free))))
		out = append(out, Hand{k.person, tools[k.tool].Name, x.unit, x.free, u, tools[k.tool].U})
	}
	slices.SortFunc(out, func(a, b Hand) int {
		return cmp.Or(cmp.Compare(a.Person, b.Person), cmp.Compare(a.Tool, b.Tool))
	})
	return out
}

// studies finds exams that two people or more read again with one tool at the same places, and works each out
// as a study of that tool.
func studies(all []taken) []Studied {
	type of struct {
		head string
		tool int
	}
	by := map[of]map[string]map[string][]quantity.Amount{} // by person and place
	for _, t := range all {
		if len(t.values) < 2 {
			continue
		}
		k := of{t.head, t.tool}
		if by[k] == nil {
			by[k] = map[string]map[string][]quantity.Amount{}
		}
		if by[k][t.person] == nil {
			by[k][t.person] = map[string][]quantity.Amount{}
		}
		by[k][t.person][t.place] = t.values
	}
	tools := practice.Tools()
	var out []Studied
	for k, people := range by {
		x, in := crossed(people)
		o, err := gauge.Study(in)
		if err != nil || k.tool < 0 || k.tool >= len(tools) {
			continue
		}
		kind, _ := trade.ToolKindNamed(tools[k.tool].Kind)
		x.Tool, x.Unit, x.Out = tools[k.tool].Name, kind.Unit, o
		out = append(out, x)
	}
	slices.SortFunc(out, func(a, b Studied) int {
		return cmp.Or(cmp.Compare(a.Tool, b.Tool), cmp.Compare(b.Places, a.Places))
	})
	return out
}

// crossed keeps the places that all of some people read again, and as many trials as each has.
func crossed(people map[string]map[string][]quantity.Amount) (Studied, gauge.StudyInput) {
	var x Studied
	var in gauge.StudyInput
	count := map[string]int{}
	x.Trials = math.MaxInt
	for name, places := range people {
		x.People = append(x.People, name)
		for place := range places {
			count[place]++
		}
	}
	slices.Sort(x.People)
	var places []string
	for place, n := range count {
		if n == len(people) {
			places = append(places, place)
		}
	}
	slices.Sort(places)
	for _, name := range x.People {
		for _, place := range places {
			x.Trials = min(x.Trials, len(people[name][place]))
		}
	}
	x.Places = len(places)
	for _, name := range x.People {
		var rows [][]quantity.Amount
		for _, place := range places {
			rows = append(rows, people[name][place][:x.Trials])
		}
		in.Readings = append(in.Readings, rows)
	}
	return x, in
}
