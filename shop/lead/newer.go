package lead

import (
	"context"
	"fmt"
	"strings"

	"yatai/core/field"
	"yatai/core/judge"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

// SheetChange is a verdict that another version of the limit sheet would change.
type SheetChange struct {
	Was, Would judge.Feature
}

// NewerSheet is a version of a head's limit sheet that was made after the head came in.
type NewerSheet struct {
	Version int
	Note    string
	Changes []SheetChange
}

// Newer returns the newest version of the sheet that judges a head's model, with the verdicts
// it would change; nil when the head is judged by it.
func Newer(ctx context.Context, s *shop.Shop, f *headfile.File) (*NewerSheet, error) {
	return newer(s, s.Store.Read(ctx), f)
}

func newer(s *shop.Shop, db store.DB, f *headfile.File) (*NewerSheet, error) {
	sheets, err := db.Sheets(f.ModelID)
	if err != nil || len(sheets) == 0 || sheets[0].ID == f.SheetID || f.ClosedAt != nil {
		return nil, err
	}
	other := *f
	other.Sheet, other.ByStage = sheets[0], nil
	if other.Sheet.Limits, err = s.Cache.SheetLimits(db, sheets[0].ID); err != nil {
		return nil, err
	}
	other.Judge()
	out := &NewerSheet{Version: sheets[0].Version, Note: sheets[0].Note}
	seen := map[string]bool{}
	for _, x := range f.Now.All() {
		seen[x.Key()] = true
		y, _ := other.Now.Feature(x.Key())
		if x.Verdict != y.Verdict {
			out.Changes = append(out.Changes, SheetChange{x, y})
		}
	}
	for _, y := range other.Now.All() {
		if !seen[y.Key()] {
			out.Changes = append(out.Changes, SheetChange{judge.Feature{Label: y.Label, Position: y.Position}, y})
		}
	}
	return out, nil
}

// TakeNewerSheet has a head judged by the newest version of its sheet from now on. The lead
// does, with a reason; version is the one that was looked at.
func TakeNewerSheet(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag string, version int, reason string,
) error {
	if err := a.Must("decide a repair"); err != nil {
		return err
	}
	errs := field.Errors{}
	reason = shop.Required(errs, "newer", reason, "say why the newer limits hold for this head", 200)
	if err := errs.Err(); err != nil {
		return err
	}
	return headfile.OnHead(ctx, s, writeID, tag, func(tx store.DB, f *headfile.File) error {
		n, err := newer(s, tx, f)
		if err != nil {
			return err
		}
		if n == nil || n.Version != version {
			return shop.ErrStale
		}
		sheets, err := tx.Sheets(f.ModelID)
		if err != nil {
			return err
		}
		if err := tx.SetHeadSheet(f.ID, sheets[0].ID); err != nil {
			return err
		}
		return s.Note(tx, a, f.ID, "judged by a newer sheet",
			strings.TrimSpace(fmt.Sprintf("version %d: %s", version, reason)))
	})
}
