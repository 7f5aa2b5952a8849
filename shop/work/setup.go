package work

import (
	"context"
	"strings"

	"yatai/core/field"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

// usualSetUps is how many of what an operation was done with before are offered.
const usualSetUps = 20

// WithSetUp writes down what an operation that was begun is done with: a cutter, a machine, its setting.
// Several can be written. Spaces are one each, and capitals make no difference where it is looked up.
func WithSetUp(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag string, seq int, said string,
) error {
	errs := field.Errors{}
	at := headfile.OperationKey(seq)
	said = shop.Required(errs, at, strings.Join(strings.Fields(said), " "), "say what it is done with", 100)
	if err := errs.Err(); err != nil {
		return err
	}
	return change(ctx, s, a, "work an operation", writeID, tag, seq,
		func(tx store.DB, f *headfile.File, o store.Operation) (string, bool, error) {
			switch {
			case o.StartedAt == nil:
				return "", false, field.Only(at, "start it first")
			case f.ClosedAt != nil:
				return "", false, field.Only(at, "this head is closed: its records stand")
			}
			return "done with " + said, true, tx.Add(&store.SetUp{
				OperationID: o.ID, HeadID: f.ID, Code: o.Code, Said: said, PersonID: a.ID, At: s.Now(),
			})
		})
}
