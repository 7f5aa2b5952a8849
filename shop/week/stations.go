package week

import (
	"context"
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"

	"yatai/core/field"
	"yatai/core/schedule"
	"yatai/shop"
	"yatai/store"
)

// usualPlaces are the stations that take more than one head at a time to begin with.
var usualPlaces = map[string]int{
	"inspection bench": 2, "press and fitting bench": 2, "assembly bench": 2, "dispatch": 4,
	"counter": 2,
}

// SetUpStations gives a shop the stations it has not got: a new one all of them, an older one
// those that a later version added.
func SetUpStations(s *shop.Shop, tx store.DB) error {
	have, err := tx.WorkStations()
	if err != nil {
		return err
	}
	var rows []store.WorkStation
	for _, name := range FloorStations {
		if !slices.ContainsFunc(have, func(w store.WorkStation) bool { return w.Name == name }) {
			rows = append(
				rows, store.WorkStation{Name: name, Capacity: max(1, usualPlaces[name]), Hours: shop.UsualHours},
			)
		}
	}
	if len(rows) == 0 {
		return nil
	}
	return tx.Add(&rows)
}

// WorkStations lists the stations of the work, and the days nobody works.
func WorkStations(ctx context.Context, s *shop.Shop) ([]store.WorkStation, []string, error) {
	db := s.Store.Read(ctx)
	rows, err := db.WorkStations()
	if err != nil {
		return nil, nil, err
	}
	set, err := db.Settings()
	return rows, strings.Fields(set[shop.ClosedDays]), err
}

// StationForm is a station as typed.
type StationForm struct{ Capacity, Hours string }

// SetStations keeps how many heads each station takes and its hours, by the station's id,
// and the days nobody works. Errors are keyed "capacity/3", "hours/3" and "closed".
func SetStations(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID string, forms map[uint]StationForm,
	closed string,
) error {
	if err := a.Must("change settings"); err != nil {
		return err
	}
	errs := field.Errors{}
	days, bad := shop.ParseDays(shop.Optional(errs, "closed", closed, 2000))
	if bad != "" {
		errs.Addf("closed", "%s: write days like 2031-12-24, apart by spaces", bad)
	}
	_, err := s.Once(ctx, writeID, func(tx store.DB) (string, error) {
		rows, err := tx.WorkStations()
		if err != nil {
			return "", err
		}
		set, err := tx.Settings()
		if err != nil {
			return "", err
		}
		changed := []shop.Change{{What: "days closed", Was: set[shop.ClosedDays], Is: strings.Join(days, " ")}}
		for _, id := range slices.Sorted(maps.Keys(forms)) {
			f := forms[id]
			i := slices.IndexFunc(rows, func(r store.WorkStation) bool { return r.ID == id })
			if i < 0 {
				return "", shop.ErrNotFound
			}
			was := rows[i]
			n, err := strconv.Atoi(strings.TrimSpace(f.Capacity))
			if err != nil || n < 1 || n > 20 {
				errs.Addf(fmt.Sprintf("capacity/%d", id), "from 1 to 20 heads at a time")
			}
			h, err := schedule.ParseHours(f.Hours)
			if err != nil {
				errs.Add(fmt.Sprintf("hours/%d", id), err)
			}
			if len(errs) > 0 {
				continue
			}
			if err := tx.SetWorkStation(id, n, h.String()); err != nil {
				return "", err
			}
			changed = append(changed,
				shop.Change{What: was.Name + ", heads at a time", Was: strconv.Itoa(was.Capacity), Is: strconv.Itoa(n)},
				shop.Change{What: was.Name + ", hours", Was: was.Hours, Is: h.String()},
			)
		}
		if err := errs.Err(); err != nil {
			return "", err
		}
		if err := tx.Set(shop.ClosedDays, strings.Join(days, " ")); err != nil {
			return "", err
		}
		said := shop.Changes(changed...)
		if said == "" {
			return "", nil
		}
		return "", s.NoteAbout(tx, a, shop.OfWeek, "stations changed", said)
	})
	return err
}
