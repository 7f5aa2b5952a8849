package store

import (
	"database/sql"
	"time"
)

// MailsOf lists the mails about heads, the oldest first.
func (d DB) MailsOf(heads ...uint) ([]Mail, error) {
	return many[Mail](d.g.Where("head_id IN ?", heads).Order("id"))
}

// PhotosOf lists the photographs of heads, the oldest first, without the pictures themselves.
func (d DB) PhotosOf(heads ...uint) ([]Photo, error) {
	return many[Photo](d.g.Omit("jpeg").Where("head_id IN ?", heads).Order("id"))
}

// EventsAbout lists what happened to something beside a head, the oldest first.
func (d DB) EventsAbout(about string) ([]Event, error) {
	return many[Event](d.g.Where("about = ?", about).Order("id"))
}

// Noted tells whether a person noted something about something since a moment.
func (d DB) Noted(about, what string, person uint, since time.Time) (bool, error) {
	var n int64
	err := d.g.Model(&Event{}).
		Where("about <> '' AND about = ? AND what = ? AND person_id = ? AND at >= ?", about, what, person, since.UTC()).
		Count(&n).Error
	return n > 0, err
}

// EventsOf lists what happened to heads, the oldest first.
func (d DB) EventsOf(heads ...uint) ([]Event, error) {
	return many[Event](d.g.Where("head_id IN ?", heads).Order("id"))
}

// EraseCustomer leaves of a customer a name and an address, and says since when.
func (d DB) EraseCustomer(id uint, name, address string, at time.Time) error {
	return d.set(&Customer{}, id, map[string]any{
		"name": name, "address": address, "contact": "", "telephone": "", "email": "", "note": "", "taxed": "", "no_tax": "",
		"tax_no": "", "country": "", "prices": "", "fleet_hash": "", "fleet_until": nil,
		"erased": at,
	})
}

// EraseOf removes the mails and photographs of heads and with whom they left, ends the links of their quotes,
// and settles what was to be reminded of.
func (d DB) EraseOf(heads []uint, now time.Time) error {
	for _, what := range []any{&Mail{}, &Photo{}} {
		if err := d.g.Where("head_id IN ?", heads).Delete(what).Error; err != nil {
			return err
		}
	}
	if err := d.g.Model(&Quote{}).Where("head_id IN ? AND expires_at > ?", heads, now.UTC()).
		Update("expires_at", now.UTC()).Error; err != nil {
		return err
	}
	if err := d.g.Model(&Head{}).Where("id IN ?", heads).Update("handed_to", "").Error; err != nil {
		return err
	}
	return d.g.Model(&Reminder{}).Where("head_id IN ? AND done_at IS NULL", heads).Update("done_at", now).Error
}

// EraseOldJobs removes a customer's jobs of before the program.
func (d DB) EraseOldJobs(customer uint) error {
	return d.g.Where("customer_id = ?", customer).Delete(&OldJob{}).Error
}

// Silence takes from the trail what it says about something beside a head, and what it says of heads that
// holds one of some words; that it happened, when, and who did it stay.
func (d DB) Silence(about string, heads []uint, words []string) error {
	if err := d.g.Model(&Event{}).Where("about = ?", about).Update("detail", "").Error; err != nil {
		return err
	}
	for _, w := range words {
		if err := d.g.Model(&Event{}).Where("head_id IN ? AND instr(detail, ?) > 0", heads, w).
			Update("detail", "").Error; err != nil {
			return err
		}
	}
	return nil
}

// EraseFromTables takes a customer out of what takes tables back, and lets the rows go that were left to
// be mended and hold the name.
func (d DB) EraseFromTables(customer uint, name string) error {
	for _, list := range []string{"$.was", "$.made"} {
		err := d.g.Exec(`UPDATE imports SET back = json_set(back, @list, json((
			SELECT json_group_array(json(value)) FROM json_each(back, @list) WHERE json_extract(value, '$.ID') <> @id
		))) WHERE json_extract(back, @list) IS NOT NULL`, sql.Named("list", list), sql.Named("id", customer)).Error
		if err != nil {
			return err
		}
	}
	return d.g.Model(&Import{}).Where("instr(left_rows, ?) > 0", name).Update("left_rows", "").Error
}

// Erased lists the customers who asked to be erased.
func (d DB) Erased() ([]Customer, error) {
	return many[Customer](d.g.Where("erased IS NOT NULL").Order("id"))
}

// DropMails removes mails that were sent before a moment; how many they were.
func (d DB) DropMails(before time.Time) (int64, error) {
	r := d.g.Where("sent_at < ?", before.UTC()).Delete(&Mail{})
	return r.RowsAffected, r.Error
}

// DropPhotos removes the photographs of heads that left before a moment; how many they were.
func (d DB) DropPhotos(before time.Time) (int64, error) {
	r := d.g.Where("head_id IN (SELECT id FROM heads WHERE handed_over_at < ?)", before.UTC()).Delete(&Photo{})
	return r.RowsAffected, r.Error
}
