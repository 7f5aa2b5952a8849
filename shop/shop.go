// Package shop is the kernel under what people do in a cylinder head shop: who acts and what
// they may do, the shop's file and clock, one transaction, written once, the settings. The
// places of the shop are the packages beside it: intake, bench, lead, quoting, work, parts,
// week, library, people and following, over headfile, which opens all that is known of a head.
// There is one function per thing done; each takes the Shop, checks that the Actor may do it,
// checks what was typed, and writes in one transaction. Mistaken input comes back as
// field.Errors, keyed by the form's fields.
//
// Every writing function takes a client-made id. Sent twice, it writes once and answers
// the same.
package shop

import (
	"context"
	"errors"
	"fmt"
	"slices"
	"strings"
	"time"
	"unicode/utf8"

	"yatai/core/field"
	"yatai/core/length"
	"yatai/core/words"
	"yatai/store"
)

// Shop is the shop's file and clock.
type Shop struct {
	Store *store.Store
	now   func() time.Time
	Cache *Cache
}

// New returns a shop on st. The clock now is asked for every time that is written down.
func New(st *store.Store, now func() time.Time) *Shop {
	return &Shop{Store: st, Cache: newCache(), now: func() time.Time { return now().UTC() }}
}

// Date is the day of a time, by its own clock, as dates are kept: midnight in UTC, the same date everywhere.
func Date(t time.Time) time.Time {
	return time.Date(t.Year(), t.Month(), t.Day(), 0, 0, 0, 0, time.UTC)
}

// Now returns the shop's time, UTC.
func (s *Shop) Now() time.Time { return s.now() }

// Actor is the person who does something.
type Actor struct {
	ID   uint
	Name string
	Role string
	Unit length.Unit // the unit the person reads in
	From string      // from where: the station's name, or the address

	Language string // code of the one the person reads the bench in
	Comma    bool   // the person reads figures with a decimal comma

	Epoch int // which of the person's passwords this is by
}

// Roles a person can have.
const (
	Counter    = "counter"
	Technician = "technician"
	Lead       = "lead"
	Owner      = "owner"
)

// Roles lists the roles in order of reach.
var Roles = []string{Counter, Technician, Lead, Owner}

// Action is something a role may or may not do.
type Action string

// permissions says who may do what. A role that is not listed may only look.
var permissions = map[Action][]string{
	"add people":              {Owner},
	"change settings":         {Owner},
	"take a backup":           {Owner},
	"see the history":         {Lead, Owner},
	"see what quality costs":  {Lead, Owner},
	"see what the shop knows": {Lead, Owner},
	"practise":                {Counter, Technician, Lead, Owner},
	"enrol a station":         {Owner},
	"edit limits":             {Owner},
	"confirm limits":          {Lead, Owner},
	"add a tool":              {Owner},
	"check a tool":            {Technician, Lead, Owner},
	"release readings":        {Lead, Owner},
	"take in a head":          {Counter, Lead, Owner},
	"record a reading":        {Technician, Lead, Owner},
	"plan the week":           {Lead, Owner},
	"take a table in":         {Lead, Owner},
	"unlock a PIN":            {Lead, Owner},
	"keep a note":             {Technician, Lead, Owner},
	"bill":                    {Counter, Owner},
	"erase a customer":        {Owner},
	"write a note":            {Counter, Technician, Lead, Owner},
	"quote":                   {Counter, Lead, Owner},
	"keep the stock":          {Technician, Lead, Owner},
	"order parts":             {Counter, Lead, Owner},
	"add a photo":             {Counter, Technician, Lead, Owner},
	"decide a repair":         {Lead, Owner},
	"call a cause":            {Technician, Lead, Owner},
	"work an operation":       {Technician, Lead, Owner},
	"skip an operation":       {Lead, Owner},
	"sign a deviation":        {Lead, Owner},
	"close a head":            {Lead, Owner},
	"hand over a head":        {Counter, Lead, Owner},
}

// Errors that are not about a field.
var (
	ErrForbidden = errors.New("this is not yours to do")
	ErrNotFound  = store.ErrNotFound
	ErrStale     = errors.New("somebody else was faster: this is how it stands now")
)

// May tells whether the actor's role allows an action.
func (a Actor) May(what Action) bool { return slices.Contains(permissions[what], a.Role) }

// Must returns an error that wraps ErrForbidden and says who may, when the actor may not.
func (a Actor) Must(what Action) error {
	if !a.May(what) {
		return fmt.Errorf("%w: to %s takes %s", ErrForbidden, what, strings.Join(permissions[what], " or "))
	}
	return nil
}

// MinID and MaxID bound a client-made id.
const (
	MinID = 8
	MaxID = 64
)

// ErrNoID is a form that has lost the id it was made with.
var ErrNoID = field.Errorf("write_id", "the form has lost its id: load the page again")

// Once runs write in a transaction unless clientID was answered before, and keeps its
// answer. The answer is the same the second time.
func (s *Shop) Once(
	ctx context.Context, clientID string, write func(tx store.DB) (string, error),
) (string, error) {
	if len(clientID) < MinID || len(clientID) > MaxID {
		return "", ErrNoID
	}
	content, _ := ctx.Value(contentKey{}).(string)
	var answer string
	err := s.Store.Write(ctx, func(tx store.DB) error {
		kept, done, err := tx.Answered(clientID)
		if err != nil {
			return err
		}
		if done {
			if content != "" && kept.Content != "" && content != kept.Content {
				return field.Errorf(
					"write_id",
					"this form was sent before with something else in it, and that was kept: load the page again to see it",
				)
			}
			answer = kept.Answer
			return nil
		}
		if answer, err = write(tx); err != nil {
			return err
		}
		return tx.KeepAnswer(store.Write{ClientID: clientID, Content: content, Answer: answer, At: s.now()})
	})
	return answer, err
}

type contentKey struct{}

// WithContent returns a context for a form that was sent: content stands for who sent it and
// all that was typed. Once refuses a client-made id that comes again with other content.
func WithContent(ctx context.Context, content string) context.Context {
	return context.WithValue(ctx, contentKey{}, content)
}

// Note adds a line to the audit trail.
func (s *Shop) Note(tx store.DB, a Actor, head uint, what, detail string) error {
	return tx.Add(
		&store.Event{At: s.now(), PersonID: a.ID, HeadID: head, What: what, Detail: detail, Origin: a.From},
	)
}

// Required trims text and notes an error under name when it is empty, too long or not text.
func Required(errs field.Errors, name, text, message string, most int) string {
	text = Optional(errs, name, text, most)
	if text == "" {
		errs.Note(name, words.Of(message))
	}
	return text
}

// Optional trims text and notes an error under name when it is too long or not text.
func Optional(errs field.Errors, name, text string, most int) string {
	text = strings.TrimSpace(text)
	if utf8.RuneCountInString(text) > most {
		errs.Addf(name, "longer than %d characters", most)
	}
	if !utf8.ValidString(text) || strings.ContainsRune(text, 0) {
		errs.Addf(name, "this is not text")
	}
	return text
}

// UnitOf returns the unit of that name, millimetres for anything unknown.
func UnitOf(name string) length.Unit {
	if name == length.In.Name {
		return length.In
	}
	return length.MM
}

// At returns the same shop with its clock standing at t, for data about the past.
func (s *Shop) At(t time.Time) *Shop {
	then := New(s.Store, func() time.Time { return t })
	then.Cache = s.Cache
	return then
}
