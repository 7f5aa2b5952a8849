// Package practising is where people practise on heads that were never built: begin one, read it, say what
// it is, open its truth. Of is a person's practice, Open one of their heads.
//
// Nothing of it touches the shop: no head, no stock, no figure of the shop knows that anybody practises. What
// a head hides is its key. The key is kept sealed with a secret of the shop and leaves this package only as
// what a tool shows, until the head is opened.
package practising

import (
	"context"
	"encoding/json"
	"slices"
	"strconv"

	"yatai/core/field"
	"yatai/core/gauge"
	"yatai/core/length"
	"yatai/core/practice"
	"yatai/core/quantity"
	"yatai/core/trade"
	"yatai/shop"
	"yatai/store"
)

// Bounds of what is done with one head, and of how many are looked at.
const (
	mostSteps = 2000
	mostHeads = 300
)

// ErrOpened is a practice head whose truth lies open: nothing is added to it.
var ErrOpened = field.Errorf("", "this head is open: its truth is told, begin another")

// Head is a practice head as its learner has it.
type Head struct {
	store.PracticeHead
	*practice.Head
	Done practice.Record
}

// Opened tells whether its truth lies open.
func (h Head) Opened() bool { return h.OpenedAt != nil }

// Mine tells whether it is the actor's own.
func (h Head) Mine(a shop.Actor) bool { return h.PersonID == a.ID }

// MayShare tells whether an actor may write it as a file: whoever chooses the word can open what it seals,
// so it is for who leads the shop, or for a head that is open.
func (h Head) MayShare(a shop.Actor) bool { return h.Opened() || leads(a) }

// leads tells whether an actor leads the shop.
func leads(a shop.Actor) bool { return a.Role == shop.Lead || a.Role == shop.Owner }

// Open returns a practice head of the actor's, or, once it is open, of anybody's to who leads the shop.
func Open(ctx context.Context, s *shop.Shop, a shop.Actor, id uint) (Head, error) {
	return open(s.Store.Read(ctx), a, id)
}

func open(db store.DB, a shop.Actor, id uint) (Head, error) {
	kept, err := db.PracticeHead(id)
	if err != nil {
		return Head{}, err
	}
	if kept.PersonID != a.ID && (!leads(a) || kept.OpenedAt == nil) {
		return Head{}, shop.ErrNotFound
	}
	key, err := unseal(db, kept.Sealed)
	if err != nil {
		return Head{}, err
	}
	return drawn(kept, key)
}

// drawn is a kept head with its key taken out.
func drawn(kept store.PracticeHead, key practice.Key) (Head, error) {
	h := Head{PracticeHead: kept}
	l, ok := practice.LessonNamed(kept.Lesson)
	if !ok {
		return h, shop.ErrNotFound
	}
	h.Head = practice.Draw(key, l, kept.Level, kept.Trouble)
	return h, json.Unmarshal([]byte(kept.Record), &h.Done)
}

// Spots are the places a characteristic is read at: of new valves, one for each that came.
func (h Head) Spots(c trade.Characteristic, fresh bool) []trade.Spot {
	if !fresh {
		return c.Spots(h.Told.Model.Layout)
	}
	var out []trade.Spot
	for _, v := range h.Told.Model.Layout.Valves {
		if h.NewFor(v.ID) {
			out = append(out, trade.Spot{Position: v.ID})
		}
	}
	return out
}

// Taken are the readings of a characteristic that were taken, by spot: the last of each stands.
func (h Head) Taken(code string, fresh bool) map[trade.Spot][]gauge.Value {
	out := map[trade.Spot][]gauge.Value{}
	for _, s := range h.Done.Steps {
		if s.Kind == practice.StepRead && s.Of == code && s.New == fresh {
			at := trade.SpotOf(s.At)
			out[at] = append(out[at], s.Value)
		}
	}
	return out
}

// Next is the first of some spots after one that was not read yet, or the one after it when all were.
func Next(spots []trade.Spot, after int, taken map[trade.Spot][]gauge.Value) trade.Spot {
	for i := range spots {
		if at := spots[(after+1+i)%len(spots)]; len(taken[at]) == 0 {
			return at
		}
	}
	return spots[(after+1)%len(spots)]
}

// Graded are the grades that a part was given, by position.
func (h Head) Graded(part string) map[string]string {
	out := map[string]string{}
	for _, s := range h.Done.Steps {
		if s.Kind == practice.StepLook && s.Of == part {
			out[s.At] = s.Grade
		}
	}
	return out
}

// LookedOver tells whether the face was looked over.
func (h Head) LookedOver() bool {
	return slices.ContainsFunc(h.Done.Steps, func(s practice.Step) bool { return s.Kind == practice.StepFace })
}

// BeginForm begins a practice head. Level and Trouble are the lesson's where they are empty; an Exam's number
// gives everybody who begins with it the same head.
type BeginForm struct {
	WriteID string
	Lesson  string
	Level   string
	Trouble string
	Exam    string
}

// Begin begins a practice head and returns its id.
func Begin(ctx context.Context, s *shop.Shop, a shop.Actor, f BeginForm) (string, error) {
	if err := a.Must("practise"); err != nil {
		return "", err
	}
	errs := field.Errors{}
	kept := store.PracticeHead{
		PersonID: a.ID, At: s.Now(), Lesson: f.Lesson, Trouble: f.Trouble,
		Exam: shop.Optional(errs, "exam", f.Exam, 20), Record: "{}", Skills: "[]",
	}
	l, ok := practice.LessonNamed(f.Lesson)
	if !ok {
		errs.Addf("lesson", "choose a lesson")
	}
	if kept.Level = l.Level; f.Level != "" {
		n, err := strconv.Atoi(f.Level)
		if kept.Level = n; err != nil || n < practice.Easy || n > practice.Hard {
			errs.Addf("level", "choose how hard it is")
		}
	}
	if f.Trouble != "" && practice.TroubleNamed(f.Trouble) == nil {
		errs.Addf("trouble", "choose what is wrong, or leave it to chance")
	}
	if len(errs) > 0 {
		return "", errs
	}
	return s.Once(ctx, f.WriteID, func(tx store.DB) (string, error) {
		key, err := keyOf(tx, kept)
		if err != nil {
			return "", err
		}
		return begin(tx, kept, key)
	})
}

// begin writes a practice head with its key sealed.
func begin(tx store.DB, kept store.PracticeHead, key practice.Key) (id string, err error) {
	if kept.Sealed, err = seal(tx, key); err != nil {
		return "", err
	}
	if err := tx.Add(&kept); err != nil {
		return "", err
	}
	return strconv.Itoa(int(kept.ID)), nil
}

// Move is one thing a learner does with a practice head, as it was sent. Nth is how many things had been
// done before it: the same sent twice is done once.
type Move struct {
	Nth   int
	ID    string // of a reading, made where it was typed: it takes the place of Nth
	Kind  string // one of practice's steps
	Tool  int
	Of    string // a characteristic, or the part that is looked at
	At    string // a spot's key, or a position
	New   bool   // the new valve that is to go there
	Hand  int
	Set   bool        // a tool's zero is set right
	Grade string      // of a part
	Typed string      // of a reading; empty: what the tool shows is taken over
	Unit  length.Unit // of a bare number that was typed; the head's where it is none
}

// done tells whether a move was made before.
func (m Move) done(steps []practice.Step) bool {
	if m.ID == "" {
		return m.Nth != len(steps)
	}
	return slices.ContainsFunc(steps, func(s practice.Step) bool { return s.ID == m.ID })
}

// Do does one thing with a practice head, and returns it as it then stands. What was done before, or sent
// twice, changes nothing.
func Do(ctx context.Context, s *shop.Shop, a shop.Actor, id uint, m Move) (Head, error) {
	return change(ctx, s, a, id, func(h *Head) error {
		if m.done(h.Done.Steps) {
			return nil
		}
		if len(h.Done.Steps) >= mostSteps {
			return field.Errorf("", "that is enough for one head: open it, or begin another")
		}
		step, err := h.step(m)
		if err != nil {
			return err
		}
		h.Done.Steps = append(h.Done.Steps, step)
		return nil
	})
}

// change changes what was done with a head that is not open.
func change(
	ctx context.Context, s *shop.Shop, a shop.Actor, id uint, how func(*Head) error,
) (h Head, err error) {
	err = s.Store.Write(ctx, func(tx store.DB) error {
		if h, err = open(tx, a, id); err != nil {
			return err
		}
		if !h.Mine(a) {
			return shop.ErrNotFound
		}
		if h.Opened() {
			return ErrOpened
		}
		if err = how(&h); err != nil {
			return err
		}
		raw, err := json.Marshal(h.Done)
		if err != nil {
			return err
		}
		return tx.SetPractice(id, string(raw))
	})
	return h, err
}

// step is what a move comes to.
func (h Head) step(m Move) (practice.Step, error) {
	step := practice.Step{
		Kind: m.Kind, ID: m.ID, Tool: m.Tool, Of: m.Of, At: m.At, New: m.New, Hand: m.Hand, Set: m.Set,
	}
	switch m.Kind {
	case practice.StepRead:
		return h.read(step, m)
	case practice.StepLook:
		part, ok := trade.PartNamed(m.Of)
		if _, there := h.Grade(m.Of, m.At); !ok || !there {
			return step, shop.ErrNotFound
		}
		if _, ok := part.Grade(m.Grade); !ok {
			return step, field.Errorf("grade", "say what you see")
		}
		step.Grade = m.Grade
		return step, nil
	case practice.StepZero:
		if !h.Zeroed(m.Tool) {
			return step, field.Errorf("tool", "this has no zero")
		}
		return step, nil
	case practice.StepFace:
		return practice.Step{Kind: m.Kind}, nil
	}
	return step, shop.ErrNotFound
}

// read takes a reading: as it was typed, or what the tool shows. What is heard is typed. Errors are keyed by
// the spot, or "tool", "hand".
func (h Head) read(step practice.Step, m Move) (practice.Step, error) {
	c, ok := trade.ByCode(step.Of)
	shown, there := h.Shows(step.Take(), h.Done.Steps)
	switch {
	case !ok:
		return step, shop.ErrNotFound
	case !slices.Contains(h.ToolsFor(c), step.Tool):
		return step, field.Errorf("tool", "it is not read with this")
	case step.Hand < -practice.HandMost || step.Hand > practice.HandMost:
		return step, field.Errorf("hand", "no hand goes there")
	case !there:
		return step, shop.ErrNotFound
	}
	if m.Typed != "" && (len(m.ID) < 8 || len(m.ID) > shop.MaxID) {
		return step, field.Errorf(step.At, "the form has lost its id: load the page again")
	}
	step.Value = shown.Value
	if m.Typed == "" && c.Words == nil {
		return step, nil
	}
	unit := m.Unit
	if unit == length.None {
		unit = h.Told.Unit
	}
	leaves := shownIn(unit)
	v, err := c.ReadAs(trade.Entry{Leaves: leaves}, m.Typed, unit)
	if err != nil {
		return step, field.Under(step.At, err)
	}
	if step.Value = v; v.Bracket {
		step.Value = gauge.Between(meant(leaves, v.Go), meant(leaves, v.NoGo))
	}
	return step, nil
}

// shownIn are the leaves of the feelers as who reads in a unit has them before their eyes.
func shownIn(u length.Unit) trade.Leaves {
	out := practice.Leaves()
	for i, leaf := range out {
		if l, err := length.Parse(u.In(leaf, u.Places()), u); err == nil {
			out[i] = l
		}
	}
	return out
}

// meant is the leaf that was typed as it is shown.
func meant(shown trade.Leaves, typed quantity.Amount) quantity.Amount {
	if i := slices.Index(shown, typed.Length()); i >= 0 {
		return quantity.OfLength(practice.Leaves()[i])
	}
	return typed
}
