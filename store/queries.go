package store

import (
	"database/sql"
	"slices"
	"strings"
	"time"
	"yatai/core/words"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"
)

// Answered returns what a client-made id was sent with before and answered, and whether it was.
func (d DB) Answered(clientID string) (Write, bool, error) {
	w, err := one[Write](d.g.Where("client_id = ?", clientID))
	if err == ErrNotFound {
		return w, false, nil
	}
	return w, err == nil, err
}

// UserNamed returns the active user of that name.
func (d DB) UserNamed(name string) (User, error) {
	return one[User](d.g.Where("name = ? AND active", name))
}

// User returns the user with that id.
func (d DB) User(id uint) (User, error) { return one[User](d.g.Where("id = ?", id)) }

// Users lists everybody by name.
func (d DB) Users() ([]User, error) { return many[User](d.g.Order("name")) }

// LetIn says whether a user may sign in.
func (d DB) LetIn(id uint, active bool) error {
	return d.set(&User{}, id, map[string]any{"active": active})
}

// SetRole keeps somebody's name and role.
func (d DB) SetRole(id uint, name, role string) error {
	return d.set(&User{}, id, map[string]any{"name": name, "role": role})
}

// SetPassword gives a user the password with that hash, and ends the sessions begun before.
func (d DB) SetPassword(id uint, hash string) error {
	return d.set(&User{}, id, map[string]any{"password_hash": hash, "epoch": gorm.Expr("epoch + 1")})
}

// SetPIN gives a user the PIN with that hash, unlocked, and ends the sessions begun before.
func (d DB) SetPIN(id uint, hash string) error {
	return d.set(&User{}, id, map[string]any{"pin_hash": hash, "pin_misses": 0, "epoch": gorm.Expr("epoch + 1")})
}

// MissedPIN counts a wrong PIN.
func (d DB) MissedPIN(id uint) error {
	return d.set(&User{}, id, map[string]any{"pin_misses": gorm.Expr("pin_misses + 1")})
}

// UnlockPIN forgets the wrong PINs.
func (d DB) UnlockPIN(id uint) error { return d.set(&User{}, id, map[string]any{"pin_misses": 0}) }

// SetUnit keeps the unit a user reads lengths in.
func (d DB) SetUnit(id uint, unit string) error {
	return d.set(&User{}, id, map[string]any{"unit": unit})
}

// StationByToken returns the station whose token has that hash.
func (d DB) StationByToken(hash string) (Station, error) {
	return one[Station](d.g.Where("token_hash = ? AND token_hash <> '' AND revoked_at IS NULL", hash))
}

// Stations lists the enrolled tablets.
func (d DB) Stations() ([]Station, error) {
	return many[Station](d.g.Where("revoked_at IS NULL").Order("name"))
}

// RevokeStation makes a tablet a station no more; its name is free again.
func (d DB) RevokeStation(id uint, at time.Time) error {
	return d.set(&Station{}, id, map[string]any{
		"revoked_at": at, "name": gorm.Expr("name || ' (revoked ' || id || ')'"),
	})
}

// Customers lists the customers by name.
func (d DB) Customers() ([]Customer, error) { return many[Customer](d.g.Order("name")) }

// CustomerNamed returns the customer of that name.
func (d DB) CustomerNamed(name string) (Customer, error) {
	return one[Customer](d.g.Where("name = ?", name))
}

// MachineNamed returns a customer's machine.
func (d DB) MachineNamed(customer uint, name string) (Machine, error) {
	return one[Machine](d.g.Where("customer_id = ? AND name = ?", customer, name))
}

// Models lists the head models by name.
func (d DB) Models() ([]HeadModel, error) { return many[HeadModel](d.g.Order("name")) }

// Model returns a head model.
func (d DB) Model(id uint) (HeadModel, error) { return one[HeadModel](d.g.Where("id = ?", id)) }

// Sheet returns a limit sheet without its limits.
func (d DB) Sheet(id uint) (LimitSheet, error) { return one[LimitSheet](d.g.Where("id = ?", id)) }

// Limits lists the limits of a sheet in the order they were written.
func (d DB) Limits(sheet uint) ([]Limit, error) {
	return many[Limit](d.g.Where("sheet_id = ?", sheet).Order("id"))
}

// Sheets lists a model's sheets with their limits, the newest first.
func (d DB) Sheets(model uint) ([]LimitSheet, error) {
	return many[LimitSheet](d.g.Preload("Limits").Where("model_id = ?", model).Order("version DESC"))
}

// AllSheets lists the sheets of all models without their limits, each model's newest first.
func (d DB) AllSheets() ([]LimitSheet, error) {
	return many[LimitSheet](d.g.Order("model_id, version DESC"))
}

// Tools lists the tools in the order they came into the register.
func (d DB) Tools() ([]Tool, error) { return many[Tool](d.g.Order("id")) }

// Head returns the head with that tag, with its job, customer, machine and model.
func (d DB) Head(tag string) (Head, error) {
	return one[Head](
		d.g.Joins("Job").Joins("Job.Customer").Joins("Job.Machine").Joins("Model").Where("heads.tag = ?", tag),
	)
}

// OpenHeads lists the heads that have not been handed over, oldest first.
func (d DB) OpenHeads() ([]Head, error) {
	return many[Head](d.g.Joins("Job").Joins("Job.Customer").Joins("Job.Machine").Joins("Model").
		Where("heads.handed_over_at IS NULL").Order("heads.id"))
}

// digits is a column without what people write between the digits of a telephone number.
func digits(column string) string {
	for _, c := range []string{" ", "-", "/", "(", ")", "+", "."} {
		column = "replace(" + column + ", '" + c + "', '')"
	}
	return column
}

// SearchHeads finds heads by tag, customer, how they are reached, machine, model, marks, story or notes,
// and by a run of a telephone number's digits or a part of a bill's number where one is given, the newest
// first.
func (d DB) SearchHeads(text, telephone, bill string, most int) ([]Head, error) {
	like, args := "%"+text+"%", []any{}
	var where []string
	for _, c := range []string{
		"heads.tag", "Job__Customer.name", "Job__Customer.contact", "Job__Customer.email", "Job__Machine.name",
		"Model.name", "heads.marks", "Job.story",
	} {
		where, args = append(where, c+" LIKE ?"), append(args, like)
	}
	where = append(where, "heads.id IN (SELECT head_id FROM notes WHERE text LIKE ?)")
	args = append(args, like)
	if telephone != "" {
		for _, c := range []string{"Job__Customer.telephone", "Job__Customer.contact"} {
			where, args = append(where, digits(c)+" LIKE ?"), append(args, "%"+telephone+"%")
		}
	}
	if bill != "" {
		where = append(where, `heads.id IN (SELECT CASE l.head_id WHEN 0 THEN b.head_id ELSE l.head_id END
			FROM bills b JOIN bill_lines l ON l.bill_id = b.id WHERE b.number LIKE ?)`)
		args = append(args, "%"+bill+"%")
	}
	return many[Head](d.g.Joins("Job").Joins("Job.Customer").Joins("Job.Machine").Joins("Model").
		Where(strings.Join(where, " OR "), args...).Order("heads.id DESC").Limit(most))
}

// NotesLike returns the newest note of each of some heads that holds a text.
func (d DB) NotesLike(text string, heads ...uint) (map[uint]string, error) {
	return newest(d.g.Where("head_id IN ? AND text LIKE ?", heads, "%"+text+"%"))
}

// NewestNotes returns the newest note of a kind of each of some heads.
func (d DB) NewestNotes(kind string, heads ...uint) (map[uint]string, error) {
	return newest(d.g.Where("head_id IN ? AND kind = ?", heads, kind))
}

func newest(g *gorm.DB) (map[uint]string, error) {
	rows, err := many[Note](g.Select("head_id, text").Order("id"))
	out := map[uint]string{}
	for _, n := range rows {
		out[n.HeadID] = n.Text
	}
	return out, err
}

// LastHead returns the id of the newest head, 0 without one.
func (d DB) LastHead() (uint, error) {
	return d.newest(&Head{})
}

// SetSymptoms keeps what the owner of a job's heads tells.
func (d DB) SetSymptoms(job uint, codes string) error {
	return d.set(&Job{}, job, map[string]any{"symptoms": codes})
}

// SetPromise keeps the day an order is promised for, midnight in UTC.
func (d DB) SetPromise(job uint, day time.Time) error {
	return d.set(&Job{}, job, map[string]any{"promise": day})
}

// CorrectJob keeps what was put right of an order.
func (d DB) CorrectJob(j Job) error {
	return d.set(&Job{}, j.ID, map[string]any{
		"kind": j.Kind, "customer_id": j.CustomerID, "machine_id": j.MachineID, "story": j.Story,
		"came_with": j.CameWith, "hours": j.Hours,
		"promise": j.Promise, "symptoms": j.Symptoms, "regulated": j.Regulated,
	})
}

// CorrectHead keeps what was put right of how a head came in.
func (d DB) CorrectHead(h Head) error {
	return d.set(&Head{}, h.ID, map[string]any{
		"bank": h.Bank, "marks": h.Marks, "model_id": h.ModelID, "sheet_id": h.SheetID, "remodelled": h.Remodelled,
	})
}

// TakeBackOrder takes the order of a head's work back: what of it waits is no longer on its route.
func (d DB) TakeBackOrder(head uint) error {
	if err := d.set(&Head{}, head, map[string]any{"work_order_at": nil}); err != nil {
		return err
	}
	return d.g.Where("head_id = ? AND state = 'waiting'", head).Delete(&Operation{}).Error
}

// SetHeadSheet has a head judged by a limit sheet.
func (d DB) SetHeadSheet(head, sheet uint) error {
	return d.set(&Head{}, head, map[string]any{"sheet_id": sheet})
}

// OrderWork notes when the work on a head was ordered.
func (d DB) OrderWork(head uint, at time.Time) error {
	return d.set(&Head{}, head, map[string]any{"work_order_at": at})
}

// CloseHead closes a head: how it is to be fitted again, and who released it under which licence.
func (d DB) CloseHead(head uint, at time.Time, refit, releaser, licence string) error {
	return d.set(&Head{}, head, map[string]any{
		"closed_at": at, "refit": refit, "releaser": releaser, "licence": licence,
	})
}

// EndHead closes a head that goes back without its work, and leaves out what of it is not done.
func (d DB) EndHead(h Head, person uint, at time.Time) error {
	if err := d.set(&Head{}, h.ID, map[string]any{
		"closed_at": at, "ended": h.Ended, "ended_why": h.EndedWhy, "ended_state": h.EndedState,
		"owed_cents": h.OwedCents,
	}); err != nil {
		return err
	}
	return d.g.Model(&Operation{}).Where("head_id = ? AND state IN ('waiting', 'running', 'held')",
		h.ID).Updates(map[string]any{
		"state": "skipped", "skip_reason": "the head goes back: " + h.Ended, "finished_at": at,
		"finished_by": person,
	}).Error
}

// HandOver notes when a head left the shop, and with whom.
func (d DB) HandOver(head uint, at time.Time, to string) error {
	return d.set(&Head{}, head, map[string]any{"handed_over_at": at, "handed_to": to})
}

// SetTheirs keeps which kinds of parts a head's customer brings.
func (d DB) SetTheirs(head uint, kinds string) error {
	return d.set(&Head{}, head, map[string]any{"theirs": kinds})
}

// SetEarlier keeps the tag of a head's earlier visit.
func (d DB) SetEarlier(head uint, tag string) error {
	return d.set(&Head{}, head, map[string]any{"earlier": tag})
}

// SetUrgency keeps how far ahead of its turn a head is taken.
func (d DB) SetUrgency(head uint, urgency int) error {
	return d.set(&Head{}, head, map[string]any{"urgency": urgency})
}

// SetCalendarKey keeps the secret of somebody's own calendar.
func (d DB) SetCalendarKey(person uint, key string) error {
	return d.set(&User{}, person, map[string]any{"calendar_key": key})
}

// SetLanguage keeps the language a person reads in, and whether figures with a comma.
func (d DB) SetLanguage(person uint, code string, comma bool) error {
	return d.set(&User{}, person, map[string]any{"language": code, "comma": comma})
}

// UserByCalendarKey returns who has that secret and still works here; ok is false for nobody.
func (d DB) UserByCalendarKey(key string) (u User, ok bool, err error) {
	found, err := many[User](d.g.Where("calendar_key = ? AND calendar_key <> '' AND active", key).Limit(1))
	if err != nil || len(found) == 0 {
		return u, false, err
	}
	return found[0], true, nil
}

// HoldBack keeps until when an operation is held back; nil for no more.
func (d DB) HoldBack(head uint, seq int, until *time.Time) error {
	return d.g.Model(&Operation{}).Where("head_id = ? AND seq = ?", head, seq).Update("not_before", until).Error
}

// LastEvent is the id of the newest event, 0 without one.
func (d DB) LastEvent() (id uint, err error) {
	return id, d.g.Model(&Event{}).Select("coalesce(max(id), 0)").Scan(&id).Error
}

// LastWritten is when the newest event happened, the zero time when none has.
func (d DB) LastWritten() (at time.Time, err error) {
	var e Event
	err = d.g.Order("at DESC").Limit(1).Find(&e).Error
	return e.At, err
}

// EventsAfter lists the events with an id above after, newest first, most at most.
func (d DB) EventsAfter(after uint, most int) ([]Event, error) {
	return many[Event](d.g.Where("id > ?", after).Order("id DESC").Limit(most))
}

// TrailAsk is what is looked for in the audit trail. Times that are zero do not bind.
type TrailAsk struct {
	Text, About string
	From, To    time.Time // from, and before
	Before      uint      // ids below it; 0: all
	Most        int
}

// TrailLine is a line of the audit trail with whose it is and which head it is on, if any.
type TrailLine struct {
	Event
	Person, Tag string
}

// trailReach is how many of the newest lines a text is looked for in: one that stands nowhere does
// not read ten years.
const trailReach = 200_000

// Trail lists lines of the audit trail, the newest first.
func (d DB) Trail(ask TrailAsk) ([]TrailLine, error) {
	q := d.g.Table("events").Select("events.*, users.name AS person, heads.tag AS tag").
		Joins("LEFT JOIN users ON users.id = events.person_id").Joins(
		"LEFT JOIN heads ON heads.id = events.head_id",
	).
		Order("events.id DESC").Limit(ask.Most)
	if ask.Before > 0 {
		q = q.Where("events.id < ?", ask.Before)
	}
	if ask.About != "" {
		q = q.Where("events.about = ?", ask.About)
	}
	if !ask.From.IsZero() {
		q = q.Where("events.at >= ?", ask.From.UTC())
	}
	if !ask.To.IsZero() {
		q = q.Where("events.at < ?", ask.To.UTC())
	}
	if ask.Text != "" {
		like := "%" + strings.NewReplacer(`\`, `\\`, "%", `\%`, "_", `\_`).Replace(ask.Text) + "%"
		q = q.Where("events.id > (SELECT coalesce(max(id), 0) FROM events) - ?", trailReach).Where(
			`events.what LIKE @t ESCAPE '\' OR events.detail LIKE @t ESCAPE '\' OR users.name LIKE @t ESCAPE '\' OR heads.tag LIKE @t ESCAPE '\'`,
			sql.Named("t", like),
		)
	}
	var rows []TrailLine
	return rows, q.Scan(&rows).Error
}

// KeepPlanDay keeps a day's plan, over one of the same day.
func (d DB) KeepPlanDay(p PlanDay) error {
	over := clause.OnConflict{
		Columns:   []clause.Column{{Name: "day"}},
		DoUpdates: clause.AssignmentColumns([]string{"last_event", "plan", "short", "at"}),
	}
	return d.g.Clauses(over).Create(&p).Error
}

// PlanDays lists the plans kept of the last days, the newest first.
func (d DB) PlanDays(most int) ([]PlanDay, error) {
	return many[PlanDay](d.g.Order("day DESC").Limit(most))
}

// PlanDayBefore is the newest plan kept of a day before one; ok is false without one.
func (d DB) PlanDayBefore(day string) (p PlanDay, ok bool, err error) {
	found, err := many[PlanDay](d.g.Where("day < ?", day).Order("day DESC").Limit(1))
	if err != nil || len(found) == 0 {
		return p, false, err
	}
	return found[0], true, nil
}

// Readings lists the readings of a head with an id above after, corrected ones too, oldest
// first, without their tools and people.
func (d DB) Readings(head, after uint) ([]Reading, error) {
	return many[Reading](d.g.Where("head_id = ? AND id > ?", head, after).Order("id"))
}

// Closed tells whether a head is closed.
func (d DB) Closed(head uint) (bool, error) {
	h, err := one[Head](d.g.Select("closed_at").Where("id = ?", head))
	return h.ClosedAt != nil, err
}

// ReadingByClient returns the reading with that client-made id.
func (d DB) ReadingByClient(id string) (Reading, error) {
	return one[Reading](d.g.Where("client_id = ?", id))
}

// WorkStations lists the stations of the work in the order they were set up.
func (d DB) WorkStations() ([]WorkStation, error) { return many[WorkStation](d.g.Order("id")) }

// SetWorkStation keeps how many heads a station takes at a time, and its hours.
func (d DB) SetWorkStation(id uint, capacity int, hours string) error {
	return d.set(&WorkStation{}, id, map[string]any{"capacity": capacity, "hours": hours})
}

// DecidedOn lists the decisions in force on heads, without their people.
func (d DB) DecidedOn(heads ...uint) ([]Decision, error) {
	return many[Decision](d.g.Where("head_id IN ? AND replaced_at IS NULL", heads).Order("id"))
}

// SetWork keeps what somebody can do, when they are there, and their days off.
func (d DB) SetWork(user uint, skills, hours, daysOff string) error {
	return d.set(&User{}, user, map[string]any{"skills": skills, "hours": hours, "days_off": daysOff})
}

// Stints lists the stretches of work at operations, in the order they were begun.
func (d DB) Stints(operations ...uint) ([]Stint, error) {
	return many[Stint](d.g.Where("operation_id IN ?", operations).Order("id"))
}

// OpenStints lists the stretches of work that go on.
func (d DB) OpenStints() ([]Stint, error) {
	return many[Stint](d.g.Where("ended_at IS NULL").Order("id"))
}

// EndStints ends the stretches of work that go on at an operation: of one person, or of all
// with 0. It returns how many there were.
func (d DB) EndStints(operation, person uint, at time.Time) (int, error) {
	g := d.g.Model(&Stint{}).Where("operation_id = ? AND ended_at IS NULL", operation)
	if person != 0 {
		g = g.Where("person_id = ?", person)
	}
	r := g.Update("ended_at", at)
	return int(r.RowsAffected), r.Error
}

// OperationByID returns an operation.
func (d DB) OperationByID(id uint) (Operation, error) {
	return one[Operation](d.g.Where("id = ?", id))
}

// Delivered lists the heads handed over last, with their jobs, the newest first.
func (d DB) Delivered(most int) ([]Head, error) {
	return many[Head](
		d.g.Joins("Job").Joins("Job.Customer").Joins("Model").Where("heads.handed_over_at IS NOT NULL").
			Order("heads.handed_over_at DESC").Limit(most),
	)
}

// Worked lists what operations of all heads were started and finished, and when, the newest
// first.
func (d DB) Worked(most int) ([]Operation, error) {
	return many[Operation](d.g.Select("id", "head_id", "code", "positions", "minutes", "started_at", "finished_at").
		Where("state = 'done' AND started_at IS NOT NULL").Order("finished_at DESC").Limit(most))
}

// WorkedUpTo says what of operations that are done was written last: when one was finished, and the newest
// stretch of work. As long as it is the same, so are Worked and the Stints of what is done.
type WorkedUpTo struct {
	Finished string
	Stint    uint
}

// WorkedUpTo returns it.
func (d DB) WorkedUpTo() (x WorkedUpTo, err error) {
	err = d.g.Raw(`
		SELECT coalesce((SELECT max(finished_at) FROM operations WHERE state = 'done' AND started_at IS NOT NULL), '') AS finished,
			coalesce((SELECT max(id) FROM stints), 0) AS stint`).Scan(&x).Error
	return x, err
}

// Decisions lists the decisions in force on a head.
func (d DB) Decisions(head uint) ([]Decision, error) {
	return many[Decision](d.g.Joins("Person").Where("decisions.head_id = ? AND decisions.replaced_at IS NULL",
		head).Order("decisions.id"))
}

// ReplaceDecision puts the decision in force on a feature out of force.
func (d DB) ReplaceDecision(head uint, feature string, at time.Time) error {
	return d.g.Model(&Decision{}).Where("head_id = ? AND feature = ? AND replaced_at IS NULL", head,
		feature).Update("replaced_at", at).Error
}

// Signoffs lists the deviations signed on a head.
func (d DB) Signoffs(head uint) ([]Signoff, error) {
	return many[Signoff](d.g.Joins("Person").Where("signoffs.head_id = ?", head).Order("signoffs.id"))
}

// Operations lists the operations of heads in route order.
func (d DB) Operations(heads ...uint) ([]Operation, error) {
	return many[Operation](d.g.Where("head_id IN ?", heads).Order("head_id, seq"))
}

// operation moves an operation from one state to another; false when it was no longer there.
func (d DB) operation(id uint, was string, values map[string]any) (bool, error) {
	r := d.g.Model(&Operation{}).Where("id = ? AND state = ?", id, was).Updates(values)
	return r.RowsAffected == 1, r.Error
}

// StartOperation starts a waiting operation: begun is the newest reading of its head, after
// which everything is read that proves it. It returns false when it was not waiting.
func (d DB) StartOperation(id, person uint, at time.Time, begun uint) (bool, error) {
	return d.operation(id, "waiting", map[string]any{
		"state": "running", "started_at": at, "started_by": person, "begun_after": begun,
		"begun_turn": gorm.Expr("(SELECT COALESCE(MAX(id), 0) FROM events)"),
	})
}

// FinishOperation finishes an operation that was running, or held; false when it was not in that state any
// more.
func (d DB) FinishOperation(id, person uint, at time.Time, was string) (bool, error) {
	return d.operation(id, was, map[string]any{"state": "done", "finished_at": at, "finished_by": person})
}

// SkipOperation leaves a waiting operation out; false when it was not waiting.
func (d DB) SkipOperation(id, person uint, at time.Time, reason string) (bool, error) {
	return d.operation(id, "waiting", map[string]any{
		"state": "skipped", "skip_reason": reason, "finished_at": at, "finished_by": person,
	})
}

// HoldOperation stops a running operation; false when it was not running.
func (d DB) HoldOperation(id uint, why words.Text) (bool, error) {
	return d.operation(
		id, "running", map[string]any{"state": "held", "held": why.String(), "held_said": why.Kept()},
	)
}

// ResumeOperation lets a held operation go on; false when it was not held.
func (d DB) ResumeOperation(id uint, how string) (bool, error) {
	return d.operation(id, "held", map[string]any{"state": "running", "held": how})
}

// Notes lists what was kept on a head.
func (d DB) Notes(head uint) ([]Note, error) {
	return many[Note](d.g.Joins("Person").Where("notes.head_id = ?", head).Order("notes.id"))
}

// Events lists a head's audit trail, the newest first.
func (d DB) Events(head uint) ([]Event, error) {
	return many[Event](d.g.Where("head_id = ?", head).Order("id DESC"))
}

// KeepAnswer remembers the answer to a client-made id; a second one is a duplicate.
func (d DB) KeepAnswer(w Write) error {
	return d.g.Clauses(clause.Insert{}).Create(&w).Error
}

// CountReadings counts the spots read at a stage, by head and characteristic.
func (d DB) CountReadings(stage string, heads ...uint) (map[uint]map[string]int, error) {
	var rows []struct {
		HeadID         uint
		Characteristic string
		N              int
	}
	err := d.g.Model(&Reading{}).Select("head_id, characteristic, count(*) AS n").
		Where("head_id IN ? AND stage = ? AND +supersedes IS NULL", heads, stage).Group("head_id, characteristic").
		Scan(&rows).Error
	out := map[uint]map[string]int{}
	for _, r := range rows {
		if out[r.HeadID] == nil {
			out[r.HeadID] = map[string]int{}
		}
		out[r.HeadID][r.Characteristic] = r.N
	}
	return out, err
}

// LimitCodes returns which characteristics each sheet has limits for, by sheet.
func (d DB) LimitCodes() (map[uint]map[string]bool, error) {
	limits, err := many[Limit](
		d.g.Distinct("sheet_id", "characteristic").Where("kind NOT IN ('given', 'renew')"),
	)
	out := map[uint]map[string]bool{}
	for _, l := range limits {
		if out[l.SheetID] == nil {
			out[l.SheetID] = map[string]bool{}
		}
		out[l.SheetID][l.Characteristic] = true
	}
	return out, err
}

// Tool returns a tool.
func (d DB) Tool(id uint) (Tool, error) { return one[Tool](d.g.Where("id = ?", id)) }

// LastZeroChecks returns each tool's latest zero check, by tool.
func (d DB) LastZeroChecks() (map[uint]ZeroCheck, error) {
	last, err := many[ZeroCheck](
		d.g.Where("id IN (?)", d.g.Model(&ZeroCheck{}).Select("max(id)").Group("tool_id")),
	)
	out := map[uint]ZeroCheck{}
	for _, z := range last {
		out[z.ToolID] = z
	}
	return out, err
}

// ZeroChecksAfter lists the zero checks of every tool made after a reading of the shop was
// taken, oldest first.
func (d DB) ZeroChecksAfter(reading uint) ([]ZeroCheck, error) {
	return many[ZeroCheck](d.g.Where("after_reading >= ?", reading).Order("id"))
}

// LastReading returns the id of the newest reading of the shop, 0 without one.
func (d DB) LastReading() (uint, error) { return d.newest(&Reading{}) }

// LastZeroCheck returns the id of the newest zero check of the shop, 0 without one.
func (d DB) LastZeroCheck() (uint, error) { return d.newest(&ZeroCheck{}) }

func (d DB) newest(model any) (uint, error) {
	var id uint
	err := d.g.Model(model).Select("coalesce(max(id), 0)").Scan(&id).Error
	return id, err
}

// ZeroChecks lists a tool's zero checks, the newest first.
func (d DB) ZeroChecks(tool uint, most int) ([]ZeroCheck, error) {
	return many[ZeroCheck](
		d.g.Joins("Person").Where("zero_checks.tool_id = ?", tool).Order("zero_checks.id DESC").Limit(most),
	)
}

// Suspected is a head that has left with readings that count of a tool whose zero check failed afterwards.
type Suspected struct {
	Tag          string
	HandedOverAt time.Time
	Customer     string
	Contact      string
	Telephone    string
	ToolID       uint
	Tool         string
	CheckID      uint
	FailedAt     time.Time
	Count        int // of the readings
}

// mostDelivered bounds how many heads that have left are named.
const mostDelivered = 50

// DeliveredSuspect lists the heads that had left with readings made with a tool (0: with any) when a zero
// check of it failed, unless they were released since. The last that left come first, no more than
// mostDelivered.
func (d DB) DeliveredSuspect(tool uint) ([]Suspected, error) {
	var out []Suspected
	return out, d.g.Raw(`
		SELECT h.tag, h.handed_over_at, c.name AS customer, c.contact, c.telephone, z.tool_id, t.name AS tool, z.id AS check_id,
			z.at AS failed_at, s.count
		FROM suspects s
		JOIN zero_checks z ON z.id = s.check_id
		JOIN tools t ON t.id = z.tool_id
		JOIN heads h ON h.id = s.head_id
		JOIN jobs j ON j.id = h.job_id
		JOIN customers c ON c.id = j.customer_id
		WHERE (? = 0 OR z.tool_id = ?)
			AND NOT EXISTS (SELECT 1 FROM releases x WHERE x.head_id = h.id AND x.tool_id = z.tool_id AND x.after_check >= z.id)
		ORDER BY h.handed_over_at DESC, h.id, z.id LIMIT ?`, tool, tool, mostDelivered).Scan(&out).Error
}

// Suspect notes which heads had left with readings made with a tool between a failed zero check of it and
// the check before, that nothing superseded.
func (d DB) Suspect(failed ZeroCheck) error {
	return d.g.Exec(`
		INSERT INTO suspects (check_id, head_id, count)
		SELECT @check, r.head_id, count(*)
		FROM readings r INDEXED BY readings_tool
		JOIN heads h ON h.id = r.head_id AND h.handed_over_at IS NOT NULL
		WHERE r.tool_id = @tool AND r.id <= @last AND r.id > coalesce(
				(SELECT max(after_reading) FROM zero_checks WHERE tool_id = @tool AND id < @check), 0)
			AND NOT EXISTS (SELECT 1 FROM readings n WHERE n.supersedes = r.id)
		GROUP BY r.head_id`,
		sql.Named("check", failed.ID), sql.Named("tool", failed.ToolID),
		sql.Named("last", failed.AfterReading)).Error
}

// Releases lists what was released on a head.
func (d DB) Releases(head uint) ([]Release, error) {
	return many[Release](d.g.Joins("Person").Where("releases.head_id = ?", head).Order("releases.id"))
}

// Findings lists every finding of a head, oldest first, without their people.
func (d DB) Findings(head uint) ([]Finding, error) {
	return many[Finding](d.g.Where("head_id = ?", head).Order("id"))
}

// Photos lists a head's photos without their pictures.
func (d DB) Photos(head uint) ([]Photo, error) {
	return many[Photo](d.g.Omit("jpeg").Where("head_id = ?", head).Order("id"))
}

// Photo returns a photo with its picture.
func (d DB) Photo(id uint) (Photo, error) { return one[Photo](d.g.Where("id = ?", id)) }

// ShowPhoto says whether the customer sees a photo.
func (d DB) ShowPhoto(id uint, shown bool) error {
	return d.set(&Photo{}, id, map[string]any{"shown": shown})
}

// Places lists what was said of a head's parts, oldest first.
func (d DB) Places(head uint) ([]Place, error) {
	return many[Place](d.g.Joins("Person").Where("places.head_id = ?", head).Order("places.id"))
}

// OwnCharacteristics lists what a shop has added to a model's sheet.
func (d DB) OwnCharacteristics(models ...uint) ([]OwnCharacteristic, error) {
	return many[OwnCharacteristic](d.g.Where("model_id IN ?", models).Order("id"))
}

// ChangeTool keeps what is known of a tool; readings keep the doubt they were taken with.
func (d DB) ChangeTool(t Tool) error {
	return d.set(&Tool{}, t.ID, map[string]any{
		"name": t.Name, "kind": t.Kind, "resolution": t.Resolution, "u": t.U, "cal_u": t.CalU, "study_u": t.StudyU,
		"u_ppm":           t.UPPM,
		"calibration_due": t.CalibrationDue, "standard": t.Standard, "tolerance": t.Tolerance,
		"retired_at": t.RetiredAt, "leaves": t.Leaves,
	})
}

// ChangeModel keeps what a head model is called, what it is, its layout, and whether it is retired.
func (d DB) ChangeModel(m HeadModel) error {
	return d.set(&HeadModel{}, m.ID, map[string]any{
		"name": m.Name, "about": m.About, "layout": m.Layout, "intake_valve": m.IntakeValve,
		"exhaust_valve": m.ExhaustValve, "retired_at": m.RetiredAt,
		"material": m.Material, "drive": m.Drive, "lifter": m.Lifter, "ignition": m.Ignition, "cooling": m.Cooling,
		"own_repairs": m.OwnRepairs,
		"tightening":  m.Tightening,
	})
}

// SettledOfModel counts the heads of a model that stay what they are: their work was ordered, or they were
// measured and have left.
func (d DB) SettledOfModel(model uint) (int64, error) {
	var n int64
	measured := d.g.Model(&Reading{}).Select("1").Where("head_id = heads.id")
	err := d.g.Model(&Head{}).Where("model_id = ?", model).
		Where("work_order_at IS NOT NULL OR closed_at IS NOT NULL AND EXISTS (?)", measured).Count(&n).Error
	return n, err
}

// RemodelHeads notes of a model's heads that it was another when they were taken in.
func (d DB) RemodelHeads(model uint) error {
	return d.g.Model(&Head{}).Where("model_id = ?", model).Update("remodelled", true).Error
}

// HeadsOfModel counts the heads of a model.
func (d DB) HeadsOfModel(model uint) (int64, error) {
	var n int64
	err := d.g.Model(&Head{}).Where("model_id = ?", model).Count(&n).Error
	return n, err
}

// Returned are the heads of a model that are linked to an earlier visit, the newest first, n at most.
func (d DB) Returned(model uint, n int) ([]Head, error) {
	return many[Head](d.g.Where("model_id = ? AND earlier <> ''", model).Order("created_at DESC").Limit(n))
}

// MayBeEarlier are the heads that may be an earlier visit of h: of its model, here before it, with its
// marks or of its machine, those with its marks first, the newest first, n at most. None of them is
// linked to yet.
func (d DB) MayBeEarlier(h Head, n int) ([]Head, error) {
	return many[Head](d.g.Preload("Job.Machine").Joins("JOIN jobs ON jobs.id = heads.job_id").
		Where("heads.model_id = ? AND heads.created_at < ? AND heads.closed_at IS NOT NULL", h.ModelID, h.CreatedAt).
		Where("(heads.marks <> '' AND heads.marks = ?) OR (jobs.machine_id = ? AND (heads.marks = '' OR ? = ''))",
			h.Marks, h.Job.MachineID, h.Marks).
		Where("heads.tag NOT IN (SELECT earlier FROM heads WHERE earlier <> '')").
		Order(clause.Expr{SQL: "heads.marks = ? DESC, heads.created_at DESC", Vars: []any{h.Marks}}).Limit(n))
}

// LastDone are the heads of a model that were mended and closed last, the newest first, n at most.
func (d DB) LastDone(model uint, n int) ([]Head, error) {
	return many[Head](d.g.Joins("Job").
		Where("model_id = ? AND closed_at IS NOT NULL AND ended = '' AND NOT remodelled", model).
		Order("closed_at DESC").Limit(n))
}

// ReadAsReceived are a characteristic's readings of some heads as they came in, in the order they were
// taken: where, and what.
func (d DB) ReadAsReceived(heads []uint, characteristic string) ([]Reading, error) {
	return many[Reading](d.g.Select("head_id", "position", "place", "dir", "nm").
		Where("head_id IN ? AND stage = 'as received' AND characteristic = ?", heads, characteristic).Order("id"))
}

// DoneAt are the operations that were done on some heads.
func (d DB) DoneAt(heads []uint) ([]Operation, error) {
	return many[Operation](
		d.g.Select("head_id", "code", "positions").Where("head_id IN ? AND state = 'done'", heads),
	)
}

// QuotedLine is what a line of a head's quote costs.
type QuotedLine struct {
	HeadID  uint
	QuoteID uint
	Kind    string // of its quote
	Code    string
	Cents   int64
}

// QuotedLines are the lines of the quotes of some heads, those of the oldest version first.
func (d DB) QuotedLines(heads []uint) ([]QuotedLine, error) {
	return many[QuotedLine](
		d.g.Table("quotes q").Joins("JOIN quote_lines l ON l.quote_id = q.id").Where("q.head_id IN ?", heads).
			Select("q.head_id, q.id AS quote_id, q.kind, l.code, l.labour_cents + l.parts_cents AS cents").
			Order("q.version, l.seq"),
	)
}

// SetOwnRepairs keeps what answers a shop's own characteristic.
func (d DB) SetOwnRepairs(id uint, repairs string) error {
	return d.set(&OwnCharacteristic{}, id, map[string]any{"repairs": repairs})
}

// ChangeStock keeps what is known of an item of the stock list.
func (d DB) ChangeStock(it StockItem) error {
	return d.set(&StockItem{}, it.ID, map[string]any{
		"name": it.Name, "size_nm": it.SizeNM, "up_to_nm": it.UpToNM, "model_id": it.ModelID, "role": it.Role,
		"price_cents": it.PriceCents, "cost_cents": it.CostCents, "least": it.Least, "dims": it.Dims,
		"supplier": it.Supplier, "lead_days": it.LeadDays,
	})
}

// SetOffer keeps what the supplier says of an item.
func (d DB) SetOffer(id uint, cents int64, days int, note string) error {
	return d.set(&StockItem{}, id, map[string]any{"offer_cents": cents, "offer_days": days, "offer_note": note})
}

// RemoveStock takes an item off the list that nothing has moved since its first count, nor
// ordered; otherwise it is an error of a foreign key.
func (d DB) RemoveStock(id uint) error {
	var n int64
	if err := d.g.Model(&Movement{}).Where("item_id = ?", id).Count(&n).Error; err != nil {
		return err
	}
	if n == 1 {
		if err := d.g.Where("item_id = ?", id).Delete(&Movement{}).Error; err != nil {
			return err
		}
	}
	return d.g.Delete(&StockItem{}, id).Error
}

// Customer returns a customer.
func (d DB) Customer(id uint) (Customer, error) { return one[Customer](d.g.Where("id = ?", id)) }

// ChangeCustomer keeps what is known of a customer.
func (d DB) ChangeCustomer(c Customer) error {
	return d.set(&Customer{}, c.ID, map[string]any{
		"name": c.Name, "contact": c.Contact, "address": c.Address, "telephone": c.Telephone, "email": c.Email,
		"note":         c.Note,
		"taxed":        c.Taxed,
		"no_tax":       c.NoTax,
		"tax_no":       c.TaxNo,
		"country":      c.Country,
		"prices":       c.Prices,
		"discount_ppm": c.DiscountPPM, "weight": max(1, c.Weight),
		"language": words.In(c.Language).Code,
		"erased":   nil, // who is known again is not erased
	})
}

// SetFleetLink keeps the token of the link to a customer's machines, and until when it leads there; "" and
// nil end it.
func (d DB) SetFleetLink(id uint, hash string, until *time.Time) error {
	return d.set(&Customer{}, id, map[string]any{"fleet_hash": hash, "fleet_until": until})
}

// CustomerByFleet returns the customer to whose machines a link leads.
func (d DB) CustomerByFleet(hash string) (Customer, error) {
	return one[Customer](d.g.Where("fleet_hash <> '' AND fleet_hash = ?", hash))
}

// RemoveCustomer takes away a customer who has no machine and no order.
func (d DB) RemoveCustomer(id uint) error { return d.g.Delete(&Customer{}, id).Error }

// OldJobs lists all jobs of before the program.
func (d DB) OldJobs() ([]OldJob, error) { return many[OldJob](d.g.Order("id")) }

// OldJobsOf lists a customer's jobs of before the program, the newest first.
func (d DB) OldJobsOf(customer uint, most int) ([]OldJob, error) {
	return many[OldJob](d.g.Where("customer_id = ?", customer).Order("day DESC, id DESC").Limit(most))
}

// OldJobsMarked lists jobs of before the program on a head with those marks, the newest first.
func (d DB) OldJobsMarked(marks string, most int) ([]OldJob, error) {
	return many[OldJob](d.g.Where("marks <> '' AND marks = ?", marks).Order("day DESC, id DESC").Limit(most))
}

// GiveOldJobs gives a customer's jobs of before the program to another.
func (d DB) GiveOldJobs(from, to uint) error {
	return d.g.Model(&OldJob{}).Where("customer_id = ?", from).Update("customer_id", to).Error
}

// RemoveOldJob takes away a job of before the program.
func (d DB) RemoveOldJob(id uint) error { return d.g.Delete(&OldJob{}, id).Error }

// RemindersOf lists what is to be done about a customer's heads that have left, the next first.
func (d DB) RemindersOf(customer uint) ([]Reminder, error) {
	return many[Reminder](
		d.g.Joins("JOIN heads ON heads.id = reminders.head_id").Joins("JOIN jobs ON jobs.id = heads.job_id").
			Where("reminders.done_at IS NULL AND jobs.customer_id = ?", customer).Order("reminders.due"),
	)
}

// RemoveMachine takes away a machine no head came from.
func (d DB) RemoveMachine(id uint) error { return d.g.Delete(&Machine{}, id).Error }

// Machines lists a customer's machines by name.
func (d DB) Machines(customer uint) ([]Machine, error) {
	return many[Machine](d.g.Where("customer_id = ?", customer).Order("name"))
}

// AllMachines lists the machines of all customers.
func (d DB) AllMachines() ([]Machine, error) { return many[Machine](d.g.Order("id")) }

// RenameMachine gives a machine another name.
func (d DB) RenameMachine(id uint, name string) error {
	return d.set(&Machine{}, id, map[string]any{"name": name})
}

// GiveMachine makes a machine another customer's, with the orders of its heads.
func (d DB) GiveMachine(id, customer uint) error {
	if err := d.set(&Machine{}, id, map[string]any{"customer_id": customer}); err != nil {
		return err
	}
	return d.g.Model(&Job{}).Where("machine_id = ?", id).Update("customer_id", customer).Error
}

// MergeMachine makes the orders of one machine those of another of the same customer.
func (d DB) MergeMachine(from, into, customer uint) error {
	if err := d.g.Model(&Job{}).Where("machine_id = ?", from).Updates(
		map[string]any{"machine_id": into, "customer_id": customer},
	).Error; err != nil {
		return err
	}
	return d.RemoveMachine(from)
}

// Quoting is how far the quoting of a head is: each only ever grows.
type Quoting struct {
	HeadID    uint
	Quotes    int
	Sent      int
	Approvals int
}

// QuotingOf tells of some heads how far their quoting is, of those that were quoted.
func (d DB) QuotingOf(heads []uint) ([]Quoting, error) {
	var out []Quoting
	return out, d.g.Raw(`
		SELECT q.head_id, count(*) AS quotes, count(q.sent_at) AS sent, count(a.id) AS approvals
		FROM quotes q LEFT JOIN approvals a ON a.quote_id = q.id
		WHERE q.head_id IN ? GROUP BY q.head_id`, heads).Scan(&out).Error
}

// HeadsOfCustomer lists a customer's heads, the newest first.
func (d DB) HeadsOfCustomer(customer uint, most int) ([]Head, error) {
	newest := d.g.Table("heads h").Select("h.id").Joins("JOIN jobs j ON j.id = h.job_id").
		Where("j.customer_id = ?", customer).Order("h.id DESC").Limit(most)
	return many[Head](d.g.Joins("Job").Joins("Job.Machine").Joins("Model").
		Where("heads.id IN (?)", newest).Order("heads.id DESC"))
}

// Imports lists the tables that were taken in, the newest first, without what takes them back; of the
// rows that were left it says only whether there are any.
func (d DB) Imports(most int) ([]Import, error) {
	return many[Import](d.g.Select("imports.id", "imports.kind", "imports.name", "imports.said",
		"imports.person_id", "imports.at", "imports.undone_at", "substr(left_rows, 1, 1) AS left_rows").
		Joins("Person").Order("imports.id DESC").Limit(most))
}

// Import returns a table that was taken in.
func (d DB) Import(id uint) (Import, error) { return one[Import](d.g.Where("id = ?", id)) }

// Logo returns the picture on the shop's papers.
func (d DB) Logo() (Logo, error) { return one[Logo](d.g) }

// SetLogo keeps the picture on the shop's papers; one without bytes takes it away.
func (d DB) SetLogo(l Logo) error {
	if err := d.g.Where("1 = 1").Delete(&Logo{}).Error; err != nil || len(l.JPEG) == 0 {
		return err
	}
	l.ID = 1
	return d.g.Create(&l).Error
}

// ColumnNames returns what was said of the columns of a kind of table, by their names.
func (d DB) ColumnNames(kind string) (map[string]ColumnName, error) {
	all, err := many[ColumnName](d.g.Where("kind = ?", kind))
	out := map[string]ColumnName{}
	for _, c := range all {
		out[c.Name] = c
	}
	return out, err
}

// NameColumn notes what a column was said to be, over what was said before.
func (d DB) NameColumn(c ColumnName) error { return d.g.Save(&c).Error }

// ForgetLeftRows removes rows that were left to be mended before a moment.
func (d DB) ForgetLeftRows(before time.Time) error {
	return d.g.Model(&Import{}).Where("left_rows <> '' AND at < ?", before.UTC()).Update("left_rows", "").Error
}

// UndoImport notes when a table was taken back.
func (d DB) UndoImport(id uint, at time.Time) error {
	return d.set(&Import{}, id, map[string]any{"undone_at": at})
}

// Studies lists a tool's studies, the newest first.
func (d DB) Studies(tool uint) ([]Study, error) {
	return many[Study](d.g.Joins("Person").Where("studies.tool_id = ?", tool).Order("studies.id DESC"))
}

// TakeStudy notes when the register took a study's doubt.
func (d DB) TakeStudy(id uint, at time.Time) error {
	return d.set(&Study{}, id, map[string]any{"taken_at": at})
}

// ConfirmSheet notes who held a limit sheet against its documents, and when.
func (d DB) ConfirmSheet(id, person uint, at time.Time) error {
	return d.set(&LimitSheet{}, id, map[string]any{"confirmed_by": person, "confirmed_at": at})
}

// Settings returns the shop's choices by name.
func (d DB) Settings() (map[string]string, error) {
	all, err := many[Setting](d.g)
	out := map[string]string{}
	for _, s := range all {
		out[s.Name] = s.Value
	}
	return out, err
}

// Set keeps a choice of the shop.
func (d DB) Set(name, value string) error {
	return d.g.Save(&Setting{name, value}).Error
}

// Unset takes back a choice of the shop.
func (d DB) Unset(name string) error {
	return d.g.Where("name = ?", name).Delete(&Setting{}).Error
}

// Plans lists a head's plans, the newest first.
func (d DB) Plans(head uint) ([]Plan, error) {
	return many[Plan](d.g.Joins("Person").Where("plans.head_id = ?", head).Order("plans.version DESC"))
}

// CauseCalls lists what people said of heads' causes, oldest first.
func (d DB) CauseCalls(heads ...uint) ([]CauseCall, error) {
	return many[CauseCall](d.g.Joins("Person").Where("cause_calls.head_id IN ?", heads).Order("cause_calls.id"))
}

// StockItem returns an item of the stock.
func (d DB) StockItem(id uint) (StockItem, error) { return one[StockItem](d.g.Where("id = ?", id)) }

// StockItems lists the stock by kind and name.
func (d DB) StockItems() ([]StockItem, error) {
	return many[StockItem](d.g.Order("kind, size_nm, name"))
}

// StockCounts returns how many of each item are there, and how many of them are reserved.
func (d DB) StockCounts() (count, reserved map[uint]int, err error) {
	var rows []struct {
		ItemID   uint
		N        int
		Reserved int
	}
	err = d.g.Table("stock_sums").Scan(&rows).Error
	count, reserved = map[uint]int{}, map[uint]int{}
	for _, r := range rows {
		count[r.ItemID], reserved[r.ItemID] = r.N, r.Reserved
	}
	return count, reserved, err
}

// Reserved is how many of an item are set aside for a head.
type Reserved struct {
	ItemID, HeadID uint
	N              int
}

// ReservedFor lists what is set aside for which head.
func (d DB) ReservedFor() ([]Reserved, error) {
	var rows []Reserved
	err := d.g.Table("stock_reserved").Where("n > 0").Order("item_id, head_id").Scan(&rows).Error
	return rows, err
}

// ReservedBy counts what is set aside for a head, by item.
func (d DB) ReservedBy(head uint) (map[uint]int, error) {
	var rows []Reserved
	err := d.g.Table("stock_reserved").Where("head_id = ?", head).Scan(&rows).Error
	out := map[uint]int{}
	for _, r := range rows {
		out[r.ItemID] = r.N
	}
	return out, err
}

// HeadsOfJob lists the heads of an order.
func (d DB) HeadsOfJob(job uint) ([]Head, error) {
	return many[Head](d.g.Joins("Model").Where("heads.job_id = ?", job).Order("heads.id"))
}

// PartOrders lists the orders, the open ones first, then the newest.
func (d DB) PartOrders() ([]PartOrder, error) {
	return many[PartOrder](d.g.Order("received_at IS NOT NULL, id DESC").Limit(200))
}

// OrdersCame lists the orders that came from a moment on, before another, the oldest first.
func (d DB) OrdersCame(from, to time.Time) ([]PartOrder, error) {
	return many[PartOrder](
		d.g.Where("received_at >= ? AND received_at < ?", from.UTC(), to.UTC()).Order("id"),
	)
}

// UsedOn lists the parts that were used on heads.
func (d DB) UsedOn(heads ...uint) ([]Movement, error) {
	return many[Movement](d.g.Where("kind = 'use' AND head_id IN ?", heads).Order("id"))
}

// ComebacksBetween lists the heads that came in from a moment on, before another, because earlier work did
// not hold, the newest first.
func (d DB) ComebacksBetween(from, to time.Time) ([]Head, error) {
	return many[Head](
		d.g.Joins("Job").Joins("Job.Customer").Joins("Model").Where("Job.kind = ?", comeback).
			Where("heads.created_at >= ? AND heads.created_at < ?", from.UTC(), to.UTC()).Order("heads.id DESC"),
	)
}

// CountCame counts the heads that came in from a moment on, before another.
func (d DB) CountCame(from, to time.Time) (n int64, err error) {
	err = d.g.Model(&Head{}).Where("created_at >= ? AND created_at < ?", from.UTC(), to.UTC()).Count(&n).Error
	return n, err
}

// ReceiveOrder notes when an order came, what was measured, and whether it was what was ordered.
func (d DB) ReceiveOrder(id uint, at time.Time, measured string, ok bool) error {
	return d.set(&PartOrder{}, id, map[string]any{"received_at": at, "measured": measured, "ok": ok})
}

// CountOrder keeps how many an order is of.
func (d DB) CountOrder(id uint, count int) error {
	return d.set(&PartOrder{}, id, map[string]any{"count": count})
}

// DueOrder keeps when an order is due.
func (d DB) DueOrder(id uint, due time.Time) error {
	return d.set(&PartOrder{}, id, map[string]any{"due": due})
}

// ReturnOrder keeps how many of what came went back.
func (d DB) ReturnOrder(id uint, returned int) error {
	return d.set(&PartOrder{}, id, map[string]any{"returned": returned})
}

// CancelOrder notes that an order was called off, and why.
func (d DB) CancelOrder(id uint, at time.Time, why string) error {
	return d.set(&PartOrder{}, id, map[string]any{
		"received_at": at, "measured": why, "ok": false, "cancelled": true,
	})
}

// Movements lists all movements of the stock, the oldest first.
func (d DB) Movements() ([]Movement, error) { return many[Movement](d.g.Order("id")) }

// Tags returns the tags of all heads, the oldest first.
func (d DB) Tags() (tags []string, err error) {
	return tags, d.g.Model(&Head{}).Order("id").Pluck("tag", &tags).Error
}

// TagsOf returns the tags of some heads by id.
func (d DB) TagsOf(ids []uint) (map[uint]string, error) {
	out := map[uint]string{}
	for some := range slices.Chunk(ids, 500) {
		var rows []struct {
			ID  uint
			Tag string
		}
		if err := d.g.Table("heads").Select("id", "tag").Where("id IN ?", some).Scan(&rows).Error; err != nil {
			return nil, err
		}
		for _, h := range rows {
			out[h.ID] = h.Tag
		}
	}
	return out, nil
}

// Quotes lists the quotes of heads with their lines, the oldest of each first.
func (d DB) Quotes(heads ...uint) ([]Quote, error) {
	return many[Quote](d.g.Joins("Person").Preload("Lines", func(g *gorm.DB) *gorm.DB { return g.Order("seq") }).
		Where("quotes.head_id IN ?", heads).Order("quotes.head_id, quotes.version"))
}

// QuoteLinks lists the links sent of the quote that one of them has that hash of, the oldest first.
func (d DB) QuoteLinks(hash string) ([]QuoteLink, error) {
	return many[QuoteLink](d.g.Where("quote_id IN (?)",
		d.g.Model(&QuoteLink{}).Select("quote_id").Where("token_hash = ?", hash)).Order("id"))
}

// QuoteNumbered returns a quote without its lines.
func (d DB) QuoteNumbered(id uint) (Quote, error) { return one[Quote](d.g.Where("id = ?", id)) }

// QuotesSent lists the quotes whose newest link has that hash, by head: one, or those that went out together.
func (d DB) QuotesSent(tokenHash string) ([]Quote, error) {
	return many[Quote](d.g.Where("token_hash = ?", tokenHash).Order("head_id"))
}

// ShareLeast notes what is left of the least charge of a quote that is answered with others.
func (d DB) ShareLeast(id uint, cents int64) error {
	return d.set(&Quote{}, id, map[string]any{"minimum_cents": cents})
}

// SendQuote notes when a quote was sent, the hash of its link's token, until when it holds, and that some
// prices follow.
func (d DB) SendQuote(id uint, at time.Time, tokenHash string, until time.Time, follow bool) error {
	return d.set(&Quote{}, id, map[string]any{
		"sent_at": at, "token_hash": tokenHash, "expires_at": until, "follow": follow,
	})
}

// Approvals returns the answers to the quotes of heads, by quote.
func (d DB) Approvals(heads ...uint) (map[uint]Approval, error) {
	rows, err := many[Approval](
		d.g.Where("quote_id IN (?)", d.g.Model(&Quote{}).Select("id").Where("head_id IN ?", heads)),
	)
	out := map[uint]Approval{}
	for _, a := range rows {
		out[a.QuoteID] = a
	}
	return out, err
}

// AnsweredHeads returns which heads have a quote that waits for an answer, and which have
// one that was answered.
func (d DB) AnsweredHeads(heads ...uint) (waiting, answered map[uint]bool, err error) {
	var rows []struct {
		HeadID   uint
		Answered bool
	}
	err = d.g.Model(&Quote{}).Select("quotes.head_id, approvals.id IS NOT NULL AS answered").
		Joins("LEFT JOIN approvals ON approvals.quote_id = quotes.id").Where("quotes.head_id IN ?", heads).
		Scan(&rows).Error
	waiting, answered = map[uint]bool{}, map[uint]bool{}
	for _, r := range rows {
		if r.Answered {
			answered[r.HeadID] = true
		} else {
			waiting[r.HeadID] = true
		}
	}
	return waiting, answered, err
}

// TagOf returns a head's tag.
func (d DB) TagOf(head uint) (string, error) {
	h, err := one[Head](d.g.Select("tag").Where("id = ?", head))
	return h.Tag, err
}

// Mails lists the outbox, the newest first.
func (d DB) Mails() ([]Mail, error) { return many[Mail](d.g.Order("id DESC").Limit(200)) }

// UnsentMails lists the mails that wait, oldest first, but for those that failed too often.
func (d DB) UnsentMails(mostTries int) ([]Mail, error) {
	return many[Mail](d.g.Where("sent_at IS NULL AND tries < ?", mostTries).Order("id"))
}

// MailSent notes that a mail was sent.
func (d DB) MailSent(id uint, at time.Time) error {
	return d.set(&Mail{}, id, map[string]any{"sent_at": at, "failed": ""})
}

// MailFailed notes that a try to send a mail failed, and why.
func (d DB) MailFailed(id uint, why string) error {
	return d.set(&Mail{}, id, map[string]any{"failed": why, "tries": gorm.Expr("tries + 1")})
}

// OpRecords lists what was written down while a head's operations were done, oldest first.
func (d DB) OpRecords(head uint) ([]OpRecord, error) {
	return many[OpRecord](d.g.Joins("Person").
		Where("op_records.operation_id IN (?)",
			d.g.Model(&Operation{}).Select("id").Where("head_id = ?", head)).Order("op_records.id"))
}

// Reminders lists what is to be done about heads that have left, the next first.
func (d DB) Reminders() ([]Reminder, error) {
	return many[Reminder](d.g.Where("done_at IS NULL").Order("due"))
}

// Reminded notes that a reminder is done; false when there is none, or it was.
func (d DB) Reminded(id uint, at time.Time) (bool, error) {
	r := d.g.Model(&Reminder{}).Where("id = ? AND done_at IS NULL", id).Update("done_at", at)
	return r.RowsAffected == 1, r.Error
}

// NumberOperation puts an operation at a place of its route.
func (d DB) NumberOperation(id uint, seq int) error {
	return d.set(&Operation{}, id, map[string]any{"seq": seq})
}
