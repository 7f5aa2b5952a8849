package lead

import (
	"context"

	"yatai/core/field"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

// SetSchools keeps a head's own schools, by name; an empty one follows the shop.
func SetSchools(ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag string, values map[string]string) error {
	if err := a.Must("decide a repair"); err != nil {
		return err
	}
	return headfile.OnHead(ctx, s, writeID, tag, func(tx store.DB, f *headfile.File) error {
		errs := field.Errors{}
		if f.WorkOrderAt != nil {
			errs.Addf("school.face", "the work is ordered by the schools as they were")
		}
		for _, d := range shop.SettingDefs {
			v, given := values[d.Name]
			if !d.School || !given {
				continue
			}
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
		if err := errs.Err(); err != nil {
			return err
		}
		return s.Note(tx, a, f.ID, "schools chosen", "")
	})
}
