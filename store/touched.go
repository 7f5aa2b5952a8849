package store

import (
	"cmp"
	"fmt"
	"maps"
	"slices"
	"time"
)

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

// wrote are the rows that a tool or a person stands in, by head: the table touches sums them up.
var wrote = map[string]string{
	"tool": "SELECT head_id, at FROM readings WHERE tool_id = @what AND head_id IN @heads",
	"person": `SELECT head_id, at FROM readings WHERE person_id = @what AND head_id IN @heads
		UNION ALL SELECT head_id, at FROM findings WHERE person_id = @what AND head_id IN @heads
		UNION ALL SELECT o.head_id, s.started_at FROM operations o JOIN stints s ON s.operation_id = o.id
		WHERE s.person_id = @what AND o.head_id IN @heads`,
}

// touching are the rows that the table touches sums up, those after one id: each is of a tool or a person.
// Rows are only ever added to these tables. They are found by their id alone, however many there are.
var touching = []struct{ source, kind, rows string }{
	{"readings", "tool", "SELECT tool_id AS what, head_id, at FROM readings NOT INDEXED WHERE id > ?"},
	{"readings", "person", "SELECT person_id AS what, head_id, at FROM readings NOT INDEXED WHERE id > ?"},
	{"findings", "person", "SELECT person_id AS what, head_id, at FROM findings NOT INDEXED WHERE id > ?"},
	{"stints", "person", `SELECT s.person_id AS what, o.head_id, s.started_at AS at
		FROM stints s NOT INDEXED JOIN operations o ON o.id = s.operation_id WHERE s.id > ?`},
}

// summedUpTo says up to which id each table is summed up, and how far it goes by now.
func (d DB) summedUpTo() (upTo, now map[string]uint, err error) {
	var rows []struct {
		Source string
		UpTo   uint
		Now    uint
	}
	err = d.g.Raw(`
		SELECT n.source, coalesce(t.up_to, 0) AS up_to, n.now FROM (
			SELECT 'readings' AS source, coalesce(max(id), 0) AS now FROM readings
			UNION ALL SELECT 'findings', coalesce(max(id), 0) FROM findings
			UNION ALL SELECT 'stints', coalesce(max(id), 0) FROM stints
		) n LEFT JOIN touches_summed t ON t.source = n.source`).Scan(&rows).Error
	upTo, now = map[string]uint{}, map[string]uint{}
	for _, r := range rows {
		upTo[r.Source], now[r.Source] = r.UpTo, r.Now
	}
	return upTo, now, err
}

// Unsummed tells whether anything was added since SumTouches.
func (d DB) Unsummed() (bool, error) {
	upTo, now, err := d.summedUpTo()
	return !maps.Equal(upTo, now), err
}

// SumTouches sums up what was added since it was done last. It is done when somebody asks, so that writing a
// reading costs nothing for it.
func (d DB) SumTouches() error {
	upTo, now, err := d.summedUpTo()
	if err != nil {
		return err
	}
	for _, t := range touching {
		if upTo[t.source] == now[t.source] {
			continue
		}
		err := d.g.Exec(`
			INSERT INTO touches
			SELECT ?, what, head_id, count(*), min(at), max(at) FROM (`+t.rows+`) GROUP BY what, head_id
			ON CONFLICT DO UPDATE SET n = n + excluded.n, first_at = min(first_at, excluded.first_at),
				last_at = max(last_at, excluded.last_at)`, t.kind, upTo[t.source]).Error
		if err != nil {
			return err
		}
	}
	for source, id := range now {
		err := d.g.Exec(`INSERT INTO touches_summed VALUES (?, ?)
			ON CONFLICT DO UPDATE SET up_to = excluded.up_to`, source, id).Error
		if err != nil {
			return err
		}
	}
	return nil
}

// summed is touched for what the table touches sums up. Heads that were touched outside of the time too are
// counted by their rows. What was added since SumTouches is not told.
func (d DB) summed(kind string, what uint, from, to time.Time) ([]Touched, error) {
	var out []Touched
	err := d.g.Raw(`
		SELECT head_id, n AS count, first_at AS first, last_at AS last FROM touches
		WHERE kind = ? AND what = ? AND first_at >= ? AND last_at < ?
		ORDER BY last_at DESC, head_id LIMIT ?`, kind, what, from.UTC(), to.UTC(), MostTouched+1).Scan(&out).Error
	if err != nil {
		return nil, err
	}
	var some []uint
	err = d.g.Raw(`
		SELECT head_id FROM touches WHERE kind = @kind AND what = @what AND first_at < @from AND +last_at >= @from
		UNION SELECT head_id FROM touches WHERE kind = @kind AND what = @what AND last_at >= @to AND +first_at < @to`,
		map[string]any{"kind": kind, "what": what, "from": from.UTC(), "to": to.UTC()}).Scan(&some).Error
	if err != nil {
		return nil, err
	}
	for heads := range slices.Chunk(some, 500) {
		counted, err := d.counted(kind, what, heads, from, to)
		if err != nil {
			return nil, err
		}
		out = append(out, counted...)
	}
	slices.SortFunc(out, func(a, b Touched) int {
		return cmp.Or(b.Last.Compare(a.Last), cmp.Compare(a.HeadID, b.HeadID))
	})
	return out[:min(len(out), MostTouched+1)], nil
}

// counted counts the rows of some heads between two times.
func (d DB) counted(kind string, what uint, heads []uint, from, to time.Time) ([]Touched, error) {
	var rows []struct {
		HeadID      uint
		Count       int
		First, Last string
	}
	err := d.g.Raw(`
		SELECT head_id, count(*) AS count, min(at) AS first, max(at) AS last FROM (`+wrote[kind]+`)
		WHERE at >= @from AND at < @to GROUP BY head_id`,
		map[string]any{"what": what, "heads": heads, "from": from.UTC(), "to": to.UTC()}).Scan(&rows).Error
	if err != nil {
		return nil, err
	}
	out := make([]Touched, len(rows))
	for i, r := range rows {
		out[i] = Touched{HeadID: r.HeadID, Count: r.Count}
		out[i].First, err = time.Parse(kept, r.First)
		if err == nil {
			out[i].Last, err = time.Parse(kept, r.Last)
		}
		if err != nil {
			return nil, err
		}
	}
	return out, nil
}

// kept is how a time stands in the shop's file.
const kept = "2006-01-02 15:04:05.999999999-07:00"

// TouchedByTool lists the heads that a tool has read.
func (d DB) TouchedByTool(tool uint, from, to time.Time) ([]Touched, error) {
	return d.summed("tool", tool, from, to)
}

// TouchedByPerson lists the heads that somebody read, looked at or worked on.
func (d DB) TouchedByPerson(person uint, from, to time.Time) ([]Touched, error) {
	return d.summed("person", person, from, to)
}

// TouchedByPart lists the heads that an item of the stock was used for.
func (d DB) TouchedByPart(item uint, from, to time.Time) ([]Touched, error) {
	return d.touched("movements", "at", "kind = 'use' AND item_id = ?", item, from, to)
}

// TouchedByWork lists the heads at which an operation was begun.
func (d DB) TouchedByWork(code string, from, to time.Time) ([]Touched, error) {
	return d.touched("operations", "started_at", "started_at IS NOT NULL AND code = ?", code, from, to)
}

// TouchedBySetUp lists the heads at which somebody wrote that something was done with it.
func (d DB) TouchedBySetUp(said string, from, to time.Time) ([]Touched, error) {
	return d.touched("set_ups", "at", "said = ?", said, from, to)
}

// PartOrder returns an order to the supplier.
func (d DB) PartOrder(id uint) (PartOrder, error) { return one[PartOrder](d.g.Where("id = ?", id)) }

// CameIn lists the deliveries that were booked in, the newest first.
func (d DB) CameIn(most int) ([]PartOrder, error) {
	return many[PartOrder](d.g.Where("received_at IS NOT NULL AND ok").Order("received_at DESC, id DESC").Limit(most))
}

// Named is what a delivery is called, of an item of that name.
func (o PartOrder) Named(item string) string {
	return fmt.Sprintf("%s, %d of %s", item, o.Count, o.ReceivedAt.Local().Format(time.DateOnly))
}

// Deliveries lists those of some items that were booked in, the oldest first, and all that moved them but
// what is set aside.
func (d DB) Deliveries(items []uint) (came []PartOrder, moves []Movement, err error) {
	came, err = many[PartOrder](
		d.g.Where("item_id IN ? AND ok AND received_at IS NOT NULL", items).Order("received_at, id"),
	)
	if err != nil {
		return nil, nil, err
	}
	moves, err = many[Movement](d.g.Where("item_id IN ? AND kind <> 'reserve'", items).Order("at, id"))
	return came, moves, err
}

// UsedUp is when the last piece of a delivery had left the stock at the latest: when nothing of its item was
// there for the first time since it came. ok is false while there was always some.
func (o PartOrder) UsedUp(moves []Movement) (at time.Time, ok bool) {
	n := 0
	for _, m := range moves {
		if m.ItemID != o.ItemID {
			continue
		}
		n += m.Count
		if n <= 0 && m.At.After(*o.ReceivedAt) {
			return m.At, true
		}
	}
	return time.Time{}, false
}

// MayHave tells whether what was used of its item at a moment may have been of a delivery: it had come, and
// some of it may have been left.
func (o PartOrder) MayHave(used time.Time, moves []Movement) bool {
	gone, all := o.UsedUp(moves)
	return !o.ReceivedAt.After(used) && (!all || !gone.Before(used))
}

// SetUpsOf lists what was written down that an operation was done with, the oldest first.
func (d DB) SetUpsOf(operation uint) ([]SetUp, error) {
	return many[SetUp](d.g.Joins("Person").Where("operation_id = ?", operation).Order("set_ups.id"))
}

// SetUpsAt lists what the operations of a head were done with, the oldest first.
func (d DB) SetUpsAt(headID uint) ([]SetUp, error) {
	return many[SetUp](d.g.Where("head_id = ?", headID).Order("id"))
}

// SetUpNames lists what operations were done with, each once, the newest first; of one code, or of all where
// it is empty.
func (d DB) SetUpNames(code string, most int) ([]string, error) {
	var out []string
	of := d.g.Model(&SetUp{}).Group("said").Order("max(id) DESC").Limit(most)
	if code != "" {
		of = of.Where("code = ?", code)
	}
	return out, of.Pluck("said", &out).Error
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
