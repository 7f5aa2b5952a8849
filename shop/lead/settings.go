package lead

import (
	"cmp"
	"context"

	"yatai/core/field"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

// SetSchools keeps a head's own schools, by name; an empty one follows the shop. seen holds what each
// was when it was shown, nil when nothing was: one that another person changed meanwhile is not
// changed without a word, and nothing is written.
func SetSchools(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag string, values, seen map[string]string,
) error {
	if err := a.Must("decide a repair"); err != nil {
		return err
	}
	return headfile.OnHead(ctx, s, writeID, tag, func(tx store.DB, f *headfile.File) error {
		errs := field.Errors{}
		if f.WorkOrderAt != nil {
			errs.Addf("school.face", "the work is ordered by the schools as they were")
		}
		saved, err := tx.Settings()
		if err != nil {
			return err
		}
		var changed []shop.Change
		for _, d := range shop.SettingDefs {
			v, given := values[d.Name]
			is := saved[tag+":"+d.Name]
			if !d.School || !given || v == is {
				continue
			}
			if was, shown := seen[d.Name]; shown && was != is {
				if v != was {
					errs.Addf(d.Name, "another person made it %q meanwhile; keep once more to put yours in its place",
						cmp.Or(is, "as the shop"))
				}
				continue
			}
			changed = append(
				changed, shop.Change{What: d.Label, Was: cmp.Or(is, "as the shop"), Is: cmp.Or(v, "as the shop")},
			)
			if v != "" {
				errs.Add(d.Name, d.Check(v))
			}
			if len(errs) > 0 {
				continue
			}
			var err error
			if v == "" {
				err = tx.Unset(tag + ":" + d.Name)
			} else {
				err = tx.Set(tag+":"+d.Name, v)
			}
			if err != nil {
				return err
			}
		}
		if err := errs.Err(); err != nil || len(changed) == 0 {
			return err
		}
		return s.Note(tx, a, f.ID, "schools chosen", shop.Changes(changed...))
	})
}
