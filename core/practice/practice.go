// Package practice makes heads to practise on: a head that was never built, with a truth that its learner
// does not see, tools that read it as tools do, and a score. Draw makes one; Head.Shows is what a tool in
// the learner's hand reads, Head.Known is the head as far as the learner has read it, and Head.Score lays
// the truth beside it.
//
// Nothing here is random twice: a key of 32 bytes decides the truth and every reading, so that two people
// with one key have the same head, and a reading asked for again is the same. Who has the key can work out
// the truth: it stays with the shop until the head is opened.
package practice

import (
	"cmp"
	"crypto/sha256"
	_ "embed"
	"encoding/json"
	"math/rand/v2"
	"slices"
	"strings"
	"sync"

	"yatai/core/head"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/trade"
)

// Key decides a practice head.
type Key [32]byte

// Levels of difficulty: at the first what is wrong is plainly wrong, at the third it lies close to its
// limit and a tool may be off as well.
const (
	Easy  = 1
	Usual = 2
	Hard  = 3
)

// Hardness is a level with its name.
type Hardness struct {
	Level int
	Label string
}

// Levels are all of them, easiest first.
var Levels = []Hardness{{Easy, "plain"}, {Usual, "as it comes"}, {Hard, "close to the limits"}}

// None is the answer that nothing the head shows made it fail.
const None = "none"

// bench is the head all practice heads are drawn from: a head file with nothing read.
//
//go:embed bench.json
var bench []byte

// Head is a practice head.
type Head struct {
	Lesson  Lesson
	Level   int
	Trouble *Trouble
	Told    *head.Head // what a learner is given: model, sheet, tools as their labels say, the story
	Truth   *head.Head // everything read without doubt and seen as it is

	key   Key
	tools []tool // as Told.Tools
	box   map[string]quantity.Amount
	reads map[string]quantity.Amount // the truth by characteristic and spot
}

// Draw makes the head of a key: of a lesson, at a level, with a trouble; where trouble is "" with the
// lesson's, or with one that the key decides.
func Draw(key Key, l Lesson, level int, trouble string) *Head {
	r := rand.New(rand.NewChaCha8(key))
	level = min(max(level, Easy), Hard)
	t := TroubleNamed(cmp.Or(trouble, l.Trouble))
	if drawn := Troubles[r.IntN(len(Troubles))]; t == nil {
		t = drawn
	}
	told := blank(l)
	d := &drawing{
		r: r, level: level, h: told, sheet: blank(whole()).Sheet, valves: map[string]*valve{}, off: -1,
		box: map[string]quantity.Amount{},
	}
	d.sound()
	t.draw(d)
	told.Symptoms, told.Story = codes(d.told), t.Story
	p := &Head{Lesson: l, Level: level, Trouble: t, Told: told, key: key, box: d.box}
	p.tools = d.tools(told.Tools)
	p.Truth, p.reads = d.truth(l), map[string]quantity.Amount{}
	for _, x := range p.Truth.Readings {
		p.reads[x.Of+" "+x.Spot.Key()] = max(x.Value.At, x.Value.Go)
	}
	return p
}

// blanks are the heads of the lessons with nothing read, by lesson: each is read from its file once.
var blanks sync.Map

// blank is the head of a lesson with nothing read.
func blank(l Lesson) *head.Head {
	kept, ok := blanks.Load(l.Code)
	if !ok {
		kept, _ = blanks.LoadOrStore(l.Code, decoded(l))
	}
	h := *kept.(*head.Head)
	return &h
}

// decoded is the head of a lesson, read from the file.
func decoded(l Lesson) *head.Head {
	var f head.File
	if err := json.Unmarshal(bench, &f); err != nil {
		panic(err) // the file is part of the program
	}
	f.Model.Cylinders = l.Cylinders
	f.Model.Patterns = slices.Repeat([]string{"IE"}, l.Cylinders)
	f.Head.Tag = "Practice"
	if l.Reads != nil {
		f.Sheet.Limits = slices.DeleteFunc(f.Sheet.Limits, func(x head.FileLimit) bool { return !l.judges(x.Of) })
	}
	h, err := f.Decode()
	if err != nil {
		panic(err)
	}
	return h
}

func codes(symptoms []*trade.Symptom) []string {
	var out []string
	for _, s := range symptoms {
		out = append(out, s.Code)
	}
	return out
}

// stream is a source of numbers of its own for whatever the words name.
func (p *Head) stream(words ...string) *rand.Rand {
	sum := sha256.Sum256(append(slices.Clone(p.key[:]), strings.Join(words, "\x00")...))
	return rand.New(rand.NewChaCha8(sum))
}

// Reads are the characteristics that can be read of the head, in the order of the bench.
func (p *Head) Reads() []trade.Characteristic {
	var out []trade.Characteristic
	for _, c := range p.Told.Sheet.Characteristics() {
		if slices.ContainsFunc(p.Truth.Readings, func(r head.Reading) bool { return r.Of == c.Code }) {
			out = append(out, c)
		}
	}
	return out
}

// Looks are the parts that can be looked at, in the order they are looked at.
func (p *Head) Looks() []trade.Part {
	if !p.Lesson.Looks {
		return nil
	}
	var out []trade.Part
	for _, x := range trade.Parts {
		if drawnParts[x.Code] {
			out = append(out, x)
		}
	}
	return out
}

// Box tells whether new valves came with the head, to be measured before any is fitted.
func (p *Head) Box() bool { return len(p.box) > 0 }

// NewFor tells whether one of them is for a position.
func (p *Head) NewFor(position string) bool {
	_, ok := p.box[position]
	return ok
}

// um is a thousandth of a millimetre.
const um = length.Micrometre

// index is the place of one of names, 0 for none.
func index(names []string, name string) int { return max(0, slices.Index(names, name)) }
