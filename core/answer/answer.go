// Package answer is the one door to the questions that can be asked of a whole head: judge,
// plan, check, causes and quote, head file in, JSON out. The command line and the HTTP form
// both come through Run, so they give the same answer.
package answer

import (
	"context"
	"encoding/json"
	"reflect"

	"yatai/core/field"
	"yatai/core/head"
	"yatai/core/schema"
)

// Question is something that can be asked of a head file.
type Question struct {
	Name, Purpose string

	answer reflect.Type
	ask    func(context.Context, *head.Head) (any, error)
}

// Schema is the JSON Schema of its answer.
func (q Question) Schema() ([]byte, error) {
	return schema.Of(q.answer, schema.Write{}, "Answer: "+q.Name, "What a head file is answered: "+q.Purpose+".", nil)
}

// Questions are all of them.
var Questions = []Question{
	{
		"judge", "what every reading and finding says, and what may be done about it",
		reflect.TypeFor[JudgeAnswer](),
		func(ctx context.Context, h *head.Head) (any, error) { return Judge(ctx, h) },
	},
	{"plan", "the whole-head plan", reflect.TypeFor[PlanAnswer](), func(ctx context.Context, h *head.Head) (any, error) {
		return Plan(ctx, h)
	}},
	{
		"check", "the final gate: what is still open, and why", reflect.TypeFor[CheckAnswer](),
		func(_ context.Context, h *head.Head) (any, error) { return Check(h), nil },
	},
	{
		"causes", "why it failed, sign by sign", reflect.TypeFor[CausesAnswer](),
		func(_ context.Context, h *head.Head) (any, error) { return Causes(h), nil },
	},
	{"quote", "lines, groups, money", reflect.TypeFor[QuoteAnswer](), func(ctx context.Context, h *head.Head) (any, error) {
		return Quote(ctx, h)
	}},
}

// Named returns the question of that name.
func Named(name string) (Question, bool) {
	for _, q := range Questions {
		if q.Name == name {
			return q, true
		}
	}
	return Question{}, false
}

// Run answers a question about a head file, as indented JSON. Errors of the file are
// *field.Error and name the field; a caller that leaves, by ctx, stops the work.
func Run(ctx context.Context, name string, file []byte) ([]byte, error) {
	q, ok := Named(name)
	if !ok {
		return nil, field.Errorf("question", "there is no question of that name")
	}
	h, err := head.Decode(file)
	if err != nil {
		return nil, err
	}
	a, err := q.ask(ctx, h)
	if err != nil {
		return nil, err
	}
	b, err := json.MarshalIndent(a, "", "  ")
	if err != nil {
		return nil, err
	}
	return append(b, '\n'), nil
}
