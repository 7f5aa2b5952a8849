package store

import (
	"math"
	"slices"
	"strconv"
	"strings"
	"time"

	"gorm.io/gorm"

	"yatai/core/head"
	"yatai/core/length"
	"yatai/core/money"
	"yatai/core/quantity"
	"yatai/core/trade"
	"yatai/core/words"
)

// User is a person of the shop. Role is counter, technician, lead or owner.
type User struct {
	ID           uint
	Name         string
	Role         string
	PasswordHash string
	PINHash      string `gorm:"column:pin_hash"`
	Unit         string
	Active       bool
	CreatedAt    time.Time
	Epoch        int // counts the passwords: a session begun with an older one has ended
	PINMisses    int `gorm:"column:pin_misses"` // wrong PINs since the last right one

	Skills  string // codes of what they can do, with spaces between; empty: as the role has it
	Hours   string // as schedule.ParseHours reads them; empty: the shop's
	DaysOff string // as 2031-12-24, with spaces between

	CalendarKey string // the secret in the address of their own calendar
	Language    string `gorm:"default:en"` // code of the one they read the bench in
	Comma       bool   // they read figures with a decimal comma
}

// Station is a shared bench tablet, known by a token only it has.
type Station struct {
	ID        uint
	Name      string
	TokenHash string
	CreatedAt time.Time
	RevokedAt *time.Time
}

// Customer owns machines.
type Customer struct {
	ID        uint
	Name      string
	Contact   string
	CreatedAt time.Time

	Address     string
	Telephone   string
	Email       string
	Note        string
	DiscountPPM int64      `gorm:"column:discount_ppm"` // of the labour, in place of the shop's; 0: the shop's
	Taxed       string     // Exempt or Reverse where they are charged no tax; empty: they are
	NoTax       string     // why, in the words that a bill says
	TaxNo       string     // with the two letters of its country, or as the tax office writes it
	Country     string     // two letters; empty: the shop's
	Prices      string     // how they read prices: WithTax or BeforeTax; empty: as the shop's customers do
	Weight      int        `gorm:"default:1"`  // how many times a day late of their heads counts
	Language    string     `gorm:"default:en"` // code of the one their page and mail are in
	Erased      *time.Time // when what was kept of them was erased; nil for never

	FleetHash  string     `json:"-"` // of the token in the link to their machines; empty for none
	FleetUntil *time.Time `json:"-"` // until when it leads there
}

// Why a customer is charged no tax, and how they read prices.
const (
	Exempt    = "exempt"
	Reverse   = "reverse charge" // they owe the tax themselves
	BeforeTax = "before tax"
	WithTax   = "with tax" // in them
)

// Machine is a customer's machine, by name.
type Machine struct {
	ID         uint
	CustomerID uint
	Name       string
}

// HeadModel is a kind of head. Layout is a layout.Layout in JSON.
type HeadModel struct {
	ID        uint
	Name      string
	About     string
	Material  string
	Drive     string
	Unit      string // what a bare number means on its sheets: mm or in
	Cooling   string
	Lifter    string
	Ignition  string
	Layout    string
	CreatedAt time.Time

	IntakeValve  string // what the valves of a role are: material, then coated and hollow
	ExhaustValve string

	OwnRepairs string     // codes of the shop's own, with spaces between: see trade.OwnRepair
	Tightening string     // how its fasteners are pulled down, as JSON: see trade.Tightening; empty: not said
	RetiredAt  *time.Time // no head of it is taken in any more
}

// LimitSheet is one version of a model's limits. It is never changed: an edit makes a
// new version, and a head keeps the one it was taken in with.
type LimitSheet struct {
	ID        uint
	ModelID   uint
	Version   int
	Note      string
	PersonID  uint
	CreatedAt time.Time
	Limits    []Limit `gorm:"foreignKey:SheetID"`

	ConfirmedBy *uint // the second person who held it against its documents
	ConfirmedAt *time.Time
}

// Limit is a line of a sheet. Kind is the limit set: service, target, new or class; or
// given, a figure of the engine that stands in Low; or renew, a part renewed always.
type Limit struct {
	ID             uint
	SheetID        uint
	Characteristic string
	Role           string
	Kind           string
	Low            *quantity.Amount
	High           *quantity.Amount
	Near           quantity.Amount
	Source         string
}

// OfLine tells whether another is of the same line of a sheet.
func (l Limit) OfLine(other Limit) bool {
	return l.Kind == other.Kind && l.Characteristic == other.Characteristic && l.Role == other.Role
}

// Same tells whether another says the same of its line.
func (l Limit) Same(other Limit) bool {
	same := func(a, b *quantity.Amount) bool { return a == nil && b == nil || a != nil && b != nil && *a == *b }
	return l.OfLine(other) && same(l.Low, other.Low) && same(l.High, other.High) && l.Near == other.Near &&
		l.Source == other.Source
}

// Tool is a measuring tool with its expanded uncertainty U (k = 2).
type Tool struct {
	ID             uint
	Name           string
	Kind           string
	Resolution     quantity.Amount
	U              quantity.Amount `gorm:"column:u"`
	UPPM           int64           `gorm:"column:u_ppm"` // doubt that grows with the reading, millionths of it
	CalibrationDue *time.Time
	Standard       quantity.Amount // size of the zero-check standard; 0 for a tool that has none
	Tolerance      quantity.Amount // how far off the standard it may read

	// what its certificate, or whoever knows it, says; U is made of it
	CalU      quantity.Amount `gorm:"column:cal_u"`
	StudyU    quantity.Amount `gorm:"column:study_u"` // what a study of people and parts said; 0 without one
	RetiredAt *time.Time      // it is offered no more
	Leaves    string          // of feelers: the leaves of the set, "0.05 0.1 mm"; empty when nobody said
}

// Set is the leaves of a set of feelers, the thinnest first; none of another tool.
func (t Tool) Set() trade.Leaves {
	leaves, _ := trade.ParseLeaves(t.Leaves, length.MM)
	return leaves
}

// Reads is the unit the tool reads in.
func (t Tool) Reads() quantity.Unit {
	k, _ := trade.ToolKindNamed(t.Kind)
	return k.Reads()
}

// Text writes a figure of the tool with its unit.
func (t Tool) Text(a quantity.Amount) string { return t.Reads().Text(a) }

// Told writes a figure of the tool for somebody who reads lengths in a unit.
func (t Tool) Told(a quantity.Amount, reader length.Unit) string {
	return t.ReadsFor(reader).Text(a)
}

// Roughly writes a figure of the tool as a doubt is written, to two figures.
func (t Tool) Roughly(a quantity.Amount, reader length.Unit) string {
	return t.ReadsFor(reader).Doubt(a)
}

// Parse reads a figure of the tool; a bare length is in u.
func (t Tool) Parse(text string, u length.Unit) (quantity.Amount, error) {
	k, _ := trade.ToolKindNamed(t.Kind)
	return k.Parse(text, u)
}

// Typed writes a figure of the tool as somebody who reads lengths in u types it, empty for none.
func (t Tool) Typed(a quantity.Amount, u length.Unit) string {
	k, _ := trade.ToolKindNamed(t.Kind)
	switch {
	case a == 0:
		return ""
	case k.Unit.Size == 0:
		return u.Typed(a.Length())
	}
	return k.Unit.Bare(a)
}

// ReadsFor is the unit the tool is told in to somebody who reads lengths in u.
func (t Tool) ReadsFor(u length.Unit) quantity.Unit {
	k, _ := trade.ToolKindNamed(t.Kind)
	return k.Unit.Or(u)
}

// Doubt is the expanded uncertainty (k = 2) of a reading with the tool as it is now.
func (t Tool) Doubt(at quantity.Amount) quantity.Amount {
	return head.Tool{U: t.U, PPM: t.UPPM}.Doubt(at)
}

// ZeroCheck is a standard read with a tool.
type ZeroCheck struct {
	ID       uint
	ToolID   uint
	Typed    string
	ReadNM   quantity.Amount `gorm:"column:read_nm"`
	OffNM    quantity.Amount `gorm:"column:off_nm"` // read less standard
	Passed   bool
	PersonID uint
	Person   User
	At       time.Time

	AfterReading uint // the newest reading of the shop then
}

// Release is the lead's word that a head's readings with a tool, suspect until then, hold.
type Release struct {
	ID       uint
	HeadID   uint
	ToolID   uint
	Reason   string
	PersonID uint
	Person   User
	At       time.Time

	AfterCheck uint // the newest zero check of the shop then
}

// Job is a customer's order. Kind is the intake kind.
type Job struct {
	ID         uint
	Kind       string
	CustomerID uint
	Customer   Customer
	MachineID  uint
	Machine    Machine
	Story      string
	CameWith   string
	Hours      string
	Promise    *time.Time
	Symptoms   string // codes of what the owner tells, with spaces between
	Regulated  string // why a licensed person has to release it; empty when nobody has to
	CreatedAt  time.Time
}

// Promised is the day a head was promised for, as it begins here; nil without a promise. A date
// is kept as midnight in UTC, and is the same date everywhere.
func (j Job) Promised() *time.Time {
	if j.Promise == nil {
		return nil
	}
	y, m, d := j.Promise.UTC().Date()
	day := time.Date(y, m, d, 0, 0, 0, 0, time.Local)
	return &day
}

// hourWords are the words for hours that people write, in small letters.
var hourWords = []string{"", "h", "hr", "hrs", "hour", "hours", "std", "std.", "stunden", "betriebsstunden"}

// Counter reads how long the machine has run, and in what that is counted: a bare number is hours. ok is
// false where nothing that can be counted was told.
func (j Job) Counter() (amount float64, unit string, ok bool) {
	number, unit, _ := strings.Cut(strings.TrimSpace(j.Hours), " ")
	if unit = strings.TrimSpace(unit); slices.Contains(hourWords, strings.ToLower(unit)) {
		unit = "h"
	}
	amount, err := strconv.ParseFloat(number, 64)
	return amount, unit, err == nil && amount >= 0 && amount <= math.MaxInt32
}

// comeback is the kind of a job that came back because earlier work did not hold.
const comeback = head.Comeback

// Comeback tells whether earlier work did not hold: a head that comes again for its next season is none.
func (j Job) Comeback() bool { return j.Kind == comeback }

// Ran is how long the machine has run, in words.
func (j Job) Ran() string {
	if _, unit, ok := j.Counter(); ok && !strings.Contains(strings.TrimSpace(j.Hours), " ") {
		return j.Hours + " " + unit
	}
	return j.Hours
}

// RanSince is how much further the machine has run than at an earlier job, both counted in one unit; ok is
// false where that is not known.
func (j Job) RanSince(earlier Job) (more float64, unit string, ok bool) {
	from, unit, ok1 := earlier.Counter()
	to, same, ok2 := j.Counter()
	return to - from, unit, ok1 && ok2 && unit == same && to > from
}

// Head is one cylinder head in the shop.
type Head struct {
	ID           uint
	Tag          string
	JobID        uint
	Job          Job
	ModelID      uint
	Model        HeadModel
	SheetID      uint
	Bank         string
	Marks        string
	CreatedAt    time.Time
	WorkOrderAt  *time.Time
	ClosedAt     *time.Time
	HandedOverAt *time.Time
	HandedTo     string
	Refit        string
	Earlier      string // tag of the earlier visit, of a comeback
	Releaser     string // who released regulated work, and with which licence
	Licence      string
	Urgency      int // how far ahead of its turn it is taken; 0 is by its promise

	Ended      string // how it ended without its work: a code of work.Ends; "" where the work was done
	EndedWhy   string
	EndedState string // in what state it goes back
	OwedCents  int64  // what is owed for what was done all the same

	Theirs     string // codes of the kinds of parts the customer brings, with commas between
	Remodelled bool   // it was taken in as another model: what this one does not have counts no more
}

// Which says which head of its engine it is: "left bank", "2 of 6"; "" for the only one.
func (h Head) Which() string {
	if h.Bank == "left" || h.Bank == "right" {
		return h.Bank + " bank"
	}
	return h.Bank
}

// WorkStation is a station of the work: how many heads it takes at a time, and its hours
// as schedule.ParseHours reads them.
type WorkStation struct {
	ID       uint
	Name     string
	Capacity int
	Hours    string
}

// Reading is one reading. It is never changed; a correction names what it supersedes.
type Reading struct {
	ID             uint
	ClientID       string
	HeadID         uint
	Characteristic string
	Position       string
	Place          string
	Dir            string
	Stage          string
	Typed          string
	NM             quantity.Amount `gorm:"column:nm"`
	GoNM           quantity.Amount `gorm:"column:go_nm"`
	NoGoNM         quantity.Amount `gorm:"column:nogo_nm"`
	Bracket        bool
	U              quantity.Amount `gorm:"column:u"` // doubt its tool had when it was taken
	ToolID         uint
	Tool           *Tool // filled in where it is asked for
	Method         string
	PersonID       uint
	Person         *User // filled in where it is asked for
	At             time.Time
	Supersedes     *uint
	Why            string
}

// Decision is what was decided about a finding; a new one replaces it.
type Decision struct {
	ID         uint
	HeadID     uint
	Feature    string // judge.Feature.Key
	Position   string
	Choice     string // a repair's code, or judge.Leave
	Reason     string
	Figure     string // the figures of that moment
	PersonID   uint
	Person     User
	At         time.Time
	ReplacedAt *time.Time
}

// Signoff is a deviation signed by the lead, with the figures of that moment.
type Signoff struct {
	ID       uint
	HeadID   uint
	Feature  string
	Figure   string
	Reason   string
	PersonID uint
	Person   User
	At       time.Time
}

// Operation is a step of a head's route. State is waiting, running, done or skipped.
type Operation struct {
	ID         uint
	HeadID     uint
	Seq        int
	Code       string
	Positions  string // ids with spaces between
	Minutes    quantity.Minutes
	State      string
	SkipReason string
	StartedAt  *time.Time
	StartedBy  *uint
	FinishedAt *time.Time
	FinishedBy *uint
	Held       string     // why it was stopped, in English: a proof outside its target
	HeldSaid   string     // the same as a sentence and what fills it, in JSON; empty on older ones
	Added      string     // why the lead added it
	BegunAfter int        // id of the newest reading of the head when it was started; -1 before
	BegunTurn  uint       // id of the newest event of the shop when it was started
	NotBefore  *time.Time // held back until then by somebody's hand
}

// SetUp is what an operation was done with, as somebody wrote it down: a cutter, a machine, its setting.
type SetUp struct {
	ID          uint
	OperationID uint
	HeadID      uint
	Code        string // of the operation
	Said        string
	PersonID    uint
	Person      User
	At          time.Time
}

// HeldFor is why it was stopped, for any language.
func (o Operation) HeldFor() words.Text { return words.Back(o.HeldSaid, o.Held) }

// PlanDay is what the week's plan was on a day.
type PlanDay struct {
	ID        uint
	Day       string
	LastEvent uint
	Plan      string
	Short     string // minutes that heads stood in it for a machine or for hands, by its name, in JSON
	At        time.Time
}

// Stint is a stretch of somebody's time at an operation; it goes on while EndedAt is nil.
type Stint struct {
	ID          uint
	OperationID uint
	PersonID    uint
	StartedAt   time.Time
	EndedAt     *time.Time
}

// longestStint bounds what a stint counts: one left open over night says nothing more.
const longestStint = 12 * time.Hour

// Worked is how long it was worked; nothing while it is open.
func (s Stint) Worked() time.Duration {
	if s.EndedAt == nil {
		return 0
	}
	return min(longestStint, s.EndedAt.Sub(s.StartedAt))
}

// At lists the operation's positions.
func (o Operation) At() []string { return strings.Fields(o.Positions) }

// Note is something kept on a head: a calculation with its input and output.
type Note struct {
	ID       uint
	HeadID   uint
	Kind     string
	Input    string
	Output   string
	Text     string
	PersonID uint
	Person   User
	At       time.Time
}

// Event is a line of the audit trail.
type Event struct {
	ID       uint
	At       time.Time
	PersonID uint
	HeadID   uint
	What     string
	Detail   string
	Origin   string // the station's name, or the address
	About    string // beside a head: "customer/12", "settings"
}

// Write remembers a client-made id, what was sent with it and the answer, so that sending
// twice writes once.
type Write struct {
	ClientID string `gorm:"primaryKey"`
	Content  string
	Answer   string
	At       time.Time
}

// Finding is what eyes saw: a grade of a part at a position, or a mark on the map.
type Finding struct {
	ID         uint
	HeadID     uint
	Part       string
	Grade      string
	Position   string
	X          length.Length
	Y          length.Length
	Note       string
	Thread     string // of the hole a mark is at: M10x1.25; empty: not said
	Stage      string
	PersonID   uint
	Person     User
	At         time.Time
	Supersedes *uint
	Turn       uint // id of the newest event of the shop when it was written
}

// BeforeCreate notes the turn.
func (f *Finding) BeforeCreate(tx *gorm.DB) error { return turn(tx, &f.Turn) }

// Photo is a picture of a head, encoded anew when it came in.
type Photo struct {
	ID       uint
	HeadID   uint
	Position string
	Caption  string
	Width    int
	Height   int
	JPEG     []byte `gorm:"column:jpeg"`
	Shown    bool   // to the customer
	PersonID uint
	At       time.Time
}

// Place says what is known of a part of a position. State is a shop.PlaceStates code.
type Place struct {
	ID       uint
	HeadID   uint
	Position string
	Part     string
	State    string
	Evidence string
	PersonID uint
	Person   User
	At       time.Time
}

// OwnCharacteristic is one a shop has added to a model's sheet.
type OwnCharacteristic struct {
	ID       uint
	ModelID  uint
	Code     string
	Label    string
	Spot     string
	Unit     string
	Stat     string
	ToolKind string
	Repairs  string // codes of what answers it, with spaces between
}

// Study is a repeatability study of a tool. Data is a gauge.StudyInput in JSON.
type Study struct {
	ID       uint
	ToolID   uint
	What     string
	Data     string
	UNM      quantity.Amount `gorm:"column:u_nm"`
	PersonID uint
	Person   User
	At       time.Time
	TakenAt  *time.Time // when the register took its U
}

// Setting is a choice of the shop.
type Setting struct {
	Name  string `gorm:"primaryKey"`
	Value string
}

// Plan is a version of a head's plan. Input and Answer are JSON; Prints are the readings
// it was made from.
type Plan struct {
	ID       uint
	HeadID   uint
	Version  int
	Name     string
	Input    string
	Answer   string
	Prints   string
	Cents    int64
	PersonID uint
	Person   User
	At       time.Time
}

// CauseCall is a person's word on a cause: confirmed or rejected.
type CauseCall struct {
	ID       uint
	HeadID   uint
	Cause    string
	State    string
	Note     string
	PersonID uint
	Person   User
	At       time.Time
}

// Quote is a version of a head's quote, or a supplement to one.
type Quote struct {
	ID           uint
	HeadID       uint
	Version      int
	Kind         string
	Note         string
	Currency     string
	TaxPPM       int64  `gorm:"column:tax_ppm"` // of the labour
	PartsTax     int64  `gorm:"column:parts_tax_ppm"`
	Prices       string // how its customer reads them: WithTax; else before tax
	MinimumCents int64
	DiscountPPM  int64 `gorm:"column:discount_ppm"` // of the labour
	DepositPPM   int64 `gorm:"column:deposit_ppm"`  // of its sum with tax, asked for before the work begins
	Ready        *time.Time
	PersonID     uint
	Person       User
	At           time.Time
	SentAt       *time.Time
	TokenHash    string
	ExpiresAt    *time.Time
	Lines        []QuoteLine
	Follow       bool // it was sent saying that some prices follow

	GoodwillPPM int64  `gorm:"column:goodwill_ppm"` // what the shop takes on itself of what must be done
	GoodwillWhy string // and why
	ChargedTo   string // and to what of the earlier visit it is charged
}

// Tax is at which rates it is taxed.
func (q Quote) Tax() money.Tax { return money.Tax{LabourPPM: q.TaxPPM, PartsPPM: q.PartsTax} }

// Shown is what a line comes to as its customer reads it, in cents: with its tax in it where they read
// prices so.
func (q Quote) Shown(l QuoteLine) int64 {
	if q.Prices != WithTax {
		return l.Cents()
	}
	c := l.Charge()
	return c.Cents() + q.Tax().Of(c.Labour+c.Service, c.Parts)
}

// Goodwill is what the shop takes on itself, in percent.
func (q Quote) Goodwill() int64 { return q.GoodwillPPM / 10_000 }

// QuoteLine is a line of a quote. Grp is must, should or could; Code is a route.Kind's.
type QuoteLine struct {
	ID          uint
	QuoteID     uint
	Seq         int
	Grp         string
	Code        string
	Name        string
	Positions   string
	Reason      string // in English
	Said        string // the reason as a sentence and what fills it, in JSON; empty on older lines
	Minutes     quantity.Minutes
	LabourCents int64
	Parts       string
	PartsCents  int64
	Unpriced    int // how many of its parts had no known price: it is charged for none of them

	Sooner *time.Time // of an earlier day for a surcharge: by when it would be done; nil for all else
	Held   *time.Time // until when that day is held
}

// Because is why the line is quoted, for any language.
func (l QuoteLine) Because() words.Text { return words.Back(l.Said, l.Reason) }

// Charge is what the line charges for: of no operation it is done beside the labour.
func (l QuoteLine) Charge() money.Charge {
	if l.Code == "" {
		return money.Charge{Labour: l.LabourCents, Service: l.PartsCents}
	}
	return money.Charge{Labour: l.LabourCents, Parts: l.PartsCents}
}

// Cents is what the line costs.
func (l QuoteLine) Cents() int64 { return l.LabourCents + l.PartsCents }

// Approval is a customer's answer to a quote, frozen. Answers is yes or no by line in JSON.
type Approval struct {
	ID       uint
	QuoteID  uint
	Name     string
	How      string
	Answers  string
	Frozen   string
	PersonID uint
	At       time.Time
}

// Mail is a message in the outbox.
type Mail struct {
	ID        uint
	HeadID    uint
	Recipient string
	Subject   string
	Body      string
	At        time.Time
	SentAt    *time.Time
	Failed    string // why the last try failed
	Tries     int    // that failed
}

// OpRecord is what was written down while an operation was done. Data is its fields in
// JSON. Said is what they come to, a sentence and what fills it, in JSON; older ones have it in
// English, as "says" in Data.
type OpRecord struct {
	ID          uint
	OperationID uint
	Kind        string
	Position    string
	Data        string
	Said        string
	OK          bool
	PersonID    uint
	Person      User
	At          time.Time
	Turn        uint // id of the newest event of the shop when it was written
}

// BeforeCreate notes the turn.
func (r *OpRecord) BeforeCreate(tx *gorm.DB) error { return turn(tx, &r.Turn) }

// turn is the id of the newest event of the shop: what orders what happened, whatever a clock says.
func turn(tx *gorm.DB, to *uint) error {
	return tx.Session(&gorm.Session{NewDB: true}).Raw("SELECT COALESCE(MAX(id), 0) FROM events").Scan(to).Error
}

// StockItem is a part the shop keeps or buys. Dims are what a new one should measure.
type StockItem struct {
	ID     uint
	Kind   string
	Name   string
	SizeNM length.Length `gorm:"column:size_nm"`
	// of a gasket: how far pistons may stand out under it; 0: nobody says
	UpToNM     length.Length `gorm:"column:up_to_nm"`
	ModelID    uint
	Role       string
	PriceCents int64
	CostCents  int64
	Least      int
	Dims       string
	Supplier   string
	LeadDays   int // how long the supplier takes; 0: not known

	OfferCents int64 // what the supplier's list says it costs; 0: nothing
	OfferDays  int   // and how long it takes; 0: nothing
	OfferNote  string
}

// OldJob is a job of before the program: what a list said of it.
type OldJob struct {
	ID         uint
	CustomerID uint
	Number     string
	OfMachine  string
	OfModel    string
	Marks      string
	Day        string // 2006-01-02
	Work       string
	Cents      int64
}

// Import is a table that was taken in. Back is what takes it back, and LeftRows the rows that were left
// to be mended under their columns' names, both in JSON; no rows are empty.
type Import struct {
	ID       uint
	Kind     string
	Name     string // of the file
	Said     string // what came of it
	Back     string
	LeftRows string
	PersonID uint
	Person   User
	At       time.Time
	UndoneAt *time.Time
}

// Logo is the picture on the shop's papers, upright, on white. Width and Height are in dots.
type Logo struct {
	ID     uint
	JPEG   []byte `gorm:"column:jpeg"`
	Width  int
	Height int
}

// ColumnName is what a column called Name, in lower case, was said to be in a table of a kind. Written
// is how: in which order its days, or with which sign before their decimals its figures; empty for neither.
type ColumnName struct {
	Kind    string `gorm:"primaryKey"`
	Name    string `gorm:"primaryKey"`
	Means   string
	Written string
}

// Movement is stock coming or going. Kind is count, receipt, use or reserve.
type Movement struct {
	ID       uint
	ItemID   uint
	Count    int
	Kind     string
	HeadID   uint
	Why      string
	PersonID uint
	Person   User
	At       time.Time
}

// PartOrder is an order to the supplier.
type PartOrder struct {
	ID         uint
	ItemID     uint
	Count      int
	HeadID     uint
	Due        time.Time
	PersonID   uint
	At         time.Time
	ReceivedAt *time.Time
	Measured   string
	OK         bool
	Cancelled  bool // it was called off before it came
	Returned   int  // how many of what came went back to the supplier afterwards
}

// QuoteLink is a link that was sent of a quote: the newest of a quote is the one that counts.
type QuoteLink struct {
	ID        uint
	QuoteID   uint
	TokenHash string
	Recipient string // whom it was sent to; empty on older ones
	At        time.Time
}

// Reminder is something to do about a head after it has left.
type Reminder struct {
	ID     uint
	HeadID uint
	Due    time.Time
	What   string
	DoneAt *time.Time
}
