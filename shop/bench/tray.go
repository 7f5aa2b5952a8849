package bench

import (
	"context"
	"slices"
	"strings"

	"yatai/core/field"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

// PlaceParts writes the state of parts, keyed "2E1/valve", with the evidence for an
// inferred place. Errors have the same keys.
func PlaceParts(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag string, states map[string]string,
	evidence string,
) error {
	if err := a.Must("record a reading"); err != nil {
		return err
	}
	return headfile.OnHead(ctx, s, writeID, tag, func(tx store.DB, f *headfile.File) error {
		errs := field.Errors{}
		evidence = shop.Optional(errs, "evidence", evidence, 300)
		for key, state := range states {
			position, part, _ := strings.Cut(key, "/")
			_, valve := f.Layout.Valve(position)
			switch {
			case !valve || !slices.Contains(headfile.TrayParts(f.Model.Drive), part):
				errs.Addf(key, "the tray has no such place")
			case !slices.ContainsFunc(headfile.PlaceStates,
				func(p headfile.PlaceState) bool { return p.Code == state }):
				errs.Addf(key, "choose what is known of it")
			case state == "inferred" && evidence == "":
				errs.Addf("evidence", "say what its place is inferred from")
			case len(errs) == 0:
				if err := tx.Add(&store.Place{
					HeadID: f.ID, Position: position, Part: part, State: state, Evidence: evidence, PersonID: a.ID,
					At: s.Now(),
				}); err != nil {
					return err
				}
			}
		}
		return errs.Err()
	})
}
