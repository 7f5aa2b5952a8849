package store

import "time"

// Touched is a head that something touched: how often, and when first and last.
type Touched struct {
	HeadID uint
	Count  int
	First  time.Time
	Last   time.Time
}

// MostTouched bounds how many heads are told that one thing touched.
const MostTouched = 300

// touched counts rows of a table by head, of those that where picks between two times; the last
// touched first, one more than MostTouched where there are more.
func (d DB) touched(table, at, where string, what any, from, to time.Time) ([]Touched, error) {
	var out []Touched
	return out, d.g.Raw(`
		SELECT t.head_id, t.count, a.`+at+` AS first, b.`+at+` AS last
		FROM (
			SELECT head_id, count(*) AS count, min(id) AS lo, max(id) AS hi
			FROM `+table+`
			WHERE `+where+` AND head_id > 0 AND `+at+` >= ? AND `+at+` < ?
			GROUP BY head_id
		) t
		JOIN `+table+` a ON a.id = t.lo
		JOIN `+table+` b ON b.id = t.hi
		ORDER BY b.`+at+` DESC, t.head_id LIMIT ?`, what, from.UTC(), to.UTC(), MostTouched+1).Scan(&out).Error
}

// TouchedByTool lists the heads that a tool has read.
func (d DB) TouchedByTool(tool uint, from, to time.Time) ([]Touched, error) {
	return d.touched("readings", "at", "tool_id = ?", tool, from, to)
}

// TouchedByPart lists the heads that an item of the stock was used for.
func (d DB) TouchedByPart(item uint, from, to time.Time) ([]Touched, error) {
	return d.touched("movements", "at", "kind = 'use' AND item_id = ?", item, from, to)
}

// TouchedByWork lists the heads at which an operation was begun.
func (d DB) TouchedByWork(code string, from, to time.Time) ([]Touched, error) {
	return d.touched("operations", "started_at", "started_at IS NOT NULL AND code = ?", code, from, to)
}

// TouchedBySheet lists the heads that are held against a version of a model's limits, by when they came in.
func (d DB) TouchedBySheet(sheet uint, from, to time.Time) ([]Touched, error) {
	var out []Touched
	return out, d.g.Raw(`
		SELECT id AS head_id, 1 AS count, created_at AS first, created_at AS last
		FROM heads WHERE sheet_id = ? AND created_at >= ? AND created_at < ?
		ORDER BY id DESC LIMIT ?`, sheet, from.UTC(), to.UTC(), MostTouched+1).Scan(&out).Error
}

// HeadsOf returns heads with their model, customer and machine.
func (d DB) HeadsOf(ids []uint) ([]Head, error) {
	return many[Head](
		d.g.Joins("Job").Joins("Job.Customer").Joins("Job.Machine").Joins("Model").Where("heads.id IN ?", ids),
	)
}
