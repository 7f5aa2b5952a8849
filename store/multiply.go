package store

import (
	"context"
	"fmt"
	"slices"
	"strings"

	"gorm.io/gorm"
)

// headTables are the tables with the rows of a head, what others refer to first, with how the
// rows of a set of heads are found.
var headTables = []struct{ name, of string }{
	{"jobs", "id IN (SELECT job_id FROM heads WHERE id IN @heads)"}, {"heads", "id IN @heads"},
	{"readings", "head_id IN @heads"},
	{"decisions", "head_id IN @heads"}, {"signoffs", "head_id IN @heads"}, {"operations", "head_id IN @heads"},
	{"notes", "head_id IN @heads"},
	{"events", "head_id IN @heads"}, {"releases", "head_id IN @heads"}, {"findings", "head_id IN @heads"},
	{"places", "head_id IN @heads"},
	{"plans", "head_id IN @heads"}, {"cause_calls", "head_id IN @heads"}, {"quotes", "head_id IN @heads"},
	{"quote_lines", "quote_id IN (SELECT id FROM quotes WHERE head_id IN @heads)"},
	{"approvals", "quote_id IN (SELECT id FROM quotes WHERE head_id IN @heads)"},
	{"quote_links", "quote_id IN (SELECT id FROM quotes WHERE head_id IN @heads)"},
	{"op_records", "operation_id IN (SELECT id FROM operations WHERE head_id IN @heads)"},
	{"stints", "operation_id IN (SELECT id FROM operations WHERE head_id IN @heads)"},
	{"movements", "head_id IN @heads"},
	{"reminders", "head_id IN @heads"},
}

// own are the columns that refer to rows of a head, which are copied with it; what they refer
// to without saying so in the schema is here too.
var own = []string{"id", "job_id", "head_id", "supersedes", "quote_id", "operation_id"}

// Multiply copies heads with everything of theirs, so many times: for trying a shop under load. The
// copies have tags of their own and obey every rule the originals were written by; what parts
// they used is received again, so that the stock stays what it was. told, when given, hears how
// many heads there are.
func (s *Store) Multiply(ctx context.Context, heads []uint, copies int, told func(heads int)) error {
	var step int64
	for _, t := range headTables {
		var most int64
		if err := s.write.WithContext(ctx).Raw("SELECT coalesce(max(id), 0) FROM " + t.name).Scan(&most).
			Error; err != nil {
			return err
		}
		step = max(step, most+1)
	}
	for n := 1; n <= copies; n++ {
		err := s.write.WithContext(ctx).Transaction(
			func(tx *gorm.DB) error { return multiply(tx, heads, int64(n)*step, n) },
		)
		if err != nil {
			return fmt.Errorf("copy %d: %w", n, err)
		}
		if told != nil {
			told(n * len(heads))
		}
	}
	return nil
}

// multiply writes one copy: every id of a head's own rows is by more than the original's.
func multiply(tx *gorm.DB, heads []uint, by int64, n int) error {
	for _, t := range headTables {
		columns, err := tx.Migrator().ColumnTypes(t.name)
		if err != nil {
			return err
		}
		var names, values []string
		for _, c := range columns {
			name, value := c.Name(), c.Name()
			switch {
			case slices.Contains(own, name):
				value = name + " + @by"
			case name == "begun_after": // the id of a reading, or -1
				value = "CASE WHEN begun_after >= 0 THEN begun_after + @by ELSE -1 END"
			case name == "tag":
				value = "tag || '-' || @n"
			case name == "client_id":
				value = "client_id || '/' || @n"
			case name == "token_hash":
				value = "''" // a link belongs to one quote
			}
			names, values = append(names, name), append(values, value)
		}
		copied := "INSERT INTO " + t.name + " (" + strings.Join(names, ", ") + ") SELECT " +
			strings.Join(values, ", ") +
			" FROM " + t.name + " WHERE " + t.of
		args := map[string]any{"heads": heads, "by": by, "n": n}
		if err := tx.Exec(copied, args).Error; err != nil {
			return fmt.Errorf("%s: %w", t.name, err)
		}
	}
	const back = `INSERT INTO movements (item_id, count, kind, head_id, why, person_id, at)
		SELECT item_id, -sum(count), 'count', 0, 'bought for what was used', max(person_id), max(at) FROM movements
		WHERE head_id IN @heads AND kind <> 'reserve' GROUP BY item_id HAVING sum(count) <> 0`
	return tx.Exec(back, map[string]any{"heads": heads}).Error
}
