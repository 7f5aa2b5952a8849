package store

import (
	"time"

	"yatai/core/bill"
)

// Left is a head whose work was done, and whether it has left the shop.
type Left struct {
	ID           uint
	Tag          string
	HandedOverAt *time.Time
}

// LastLeft lists the heads whose work was done last, the newest first, n at most.
func (d DB) LastLeft(n int) ([]Left, error) {
	return many[Left](d.g.Table("heads").Where("closed_at IS NOT NULL AND ended = ''").
		Order("closed_at DESC").Limit(n))
}

// Priced is what an operation's lines on a head's bills were quoted at, and what was billed for them at last,
// with what is given taken off, in cents before tax.
type Priced struct {
	HeadID uint
	Code   string
	Quoted int64
	Billed int64
}

// Priced sums up the lines of some heads' bills by operation. Bills that were credited count for nothing.
func (d DB) Priced(heads []uint) ([]Priced, error) {
	var out []Priced
	return out, d.g.Raw(`
		SELECT q.head_id, ql.code,
			sum(CASE WHEN bl.kind = @work THEN ql.labour_cents + ql.parts_cents ELSE 0 END) AS quoted,
			sum(bl.cents) AS billed
		FROM bills b
		JOIN bill_lines bl ON bl.bill_id = b.id
		JOIN quotes q ON q.head_id = coalesce(nullif(bl.head_id, 0), b.head_id) AND q.version = bl.quote
		JOIN quote_lines ql ON ql.quote_id = q.id AND ql.seq = bl.line
		WHERE ql.code <> '' AND b.credits IS NULL
			AND NOT EXISTS (SELECT 1 FROM bills c WHERE c.credits = b.id)
			AND (b.head_id IN @heads OR b.id IN (SELECT bill_id FROM bill_lines WHERE head_id IN @heads))
			AND q.head_id IN @heads
		GROUP BY q.head_id, ql.code`, map[string]any{"heads": heads, "work": string(bill.Done)}).Scan(&out).Error
}

// CameBack is a head that came back because earlier work did not hold.
type CameBack struct {
	Tag       string
	Earlier   string // tag of the earlier visit
	ChargedTo string // what its newest quote charges it to; empty while nobody said
}

// CameBack lists the comebacks of some heads.
func (d DB) CameBack(heads []uint) ([]CameBack, error) {
	var out []CameBack
	return out, d.g.Raw(`
		SELECT b.tag, b.earlier, coalesce((
			SELECT q.charged_to FROM quotes q WHERE q.head_id = b.id AND q.charged_to <> '' ORDER BY q.id DESC LIMIT 1
		), '') AS charged_to
		FROM heads h CROSS JOIN heads b ON b.earlier = h.tag AND b.earlier <> '' JOIN jobs j ON j.id = b.job_id
		WHERE j.kind = 'comeback' AND h.id IN ? ORDER BY b.id`, heads).Scan(&out).Error
}

// ReadCount is how often a characteristic was read on a head.
type ReadCount struct {
	HeadID         uint
	Characteristic string
	Count          int
}

// ReadCounts counts the readings of some heads, by head and characteristic.
func (d DB) ReadCounts(heads []uint) ([]ReadCount, error) {
	var out []ReadCount
	return out, d.g.Raw(`
		SELECT head_id, characteristic, count(*) AS count FROM readings WHERE head_id IN ?
		GROUP BY head_id, characteristic`, heads).Scan(&out).Error
}

// DecisionsOf lists the decisions in force on some heads.
func (d DB) DecisionsOf(heads []uint) ([]Decision, error) {
	return many[Decision](d.g.Where("head_id IN ? AND replaced_at IS NULL", heads).Order("id"))
}

// ZeroChecksSince lists the zero checks of all tools since a moment, the newest first.
func (d DB) ZeroChecksSince(at time.Time) ([]ZeroCheck, error) {
	return many[ZeroCheck](d.g.Where("at >= ?", at.UTC()).Order("id DESC"))
}

// UsedUp is how many of an item of the stock were used, and on how many heads.
type UsedUp struct {
	ItemID uint
	Count  int
	Heads  int
}

// mostUsed bounds how many uses are summed up: in a large shop they are of less time.
const mostUsed = 4000

// UsedSince sums up what was used since a moment, by item, and says since when: later than asked for where
// more was used than is looked at.
func (d DB) UsedSince(at time.Time) (used []UsedUp, since time.Time, err error) {
	var oldest Movement
	last := d.g.Model(&Movement{}).Where("kind = 'use' AND at >= ?", at.UTC()).Order("at DESC").Limit(1).Offset(mostUsed)
	if since = at; last.Take(&oldest).Error == nil {
		since = oldest.At
	}
	return used, since, d.g.Raw(`
		SELECT item_id, -sum(count) AS count, count(DISTINCT head_id) AS heads FROM movements
		WHERE kind = 'use' AND at >= ? GROUP BY +item_id`, since.UTC()).Scan(&used).Error
}

// ModelsReturned lists the models that heads came back of.
func (d DB) ModelsReturned() ([]uint, error) {
	var ids []uint
	return ids, d.g.Model(&Head{}).Distinct("model_id").Where("earlier <> ''").Order("model_id").
		Pluck("model_id", &ids).Error
}

// SetLeast sets how many of an item are to be there at least.
func (d DB) SetLeast(item uint, least int) error {
	return d.set(&StockItem{}, item, map[string]any{"least": least})
}

// LeftProposal is a proposal that the owner has left.
type LeftProposal struct {
	Key      string `gorm:"primaryKey"`
	Proposed string // what it proposed then: another proposal of that key is a new one
	PersonID uint
	At       time.Time
}

// LeftProposals lists what the owner has left, by key.
func (d DB) LeftProposals() (map[string]string, error) {
	rows, err := many[LeftProposal](d.g.Order("key"))
	out := map[string]string{}
	for _, r := range rows {
		out[r.Key] = r.Proposed
	}
	return out, err
}

// LeaveProposal keeps that a proposal was left.
func (d DB) LeaveProposal(p LeftProposal) error { return d.g.Save(&p).Error }
