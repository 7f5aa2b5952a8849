package store

import (
	"strings"
	"time"

	"headwright/core/length"
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
}

// Station is a shared bench tablet, known by a token only it has.
type Station struct {
	ID        uint
	Name      string
	TokenHash string
	CreatedAt time.Time
}

// Customer owns machines.
type Customer struct {
	ID        uint
	Name      string
	Contact   string
	CreatedAt time.Time
}

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
	Layout    string
	CreatedAt time.Time
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
}

// Limit is a line of a sheet. Kind is the limit set: service, target, new or class.
type Limit struct {
	ID             uint
	SheetID        uint
	Characteristic string
	Role           string
	Kind           string
	Low            *length.Length
	High           *length.Length
	Near           length.Length
	Source         string
}

// Tool is a measuring tool with its expanded uncertainty U (k = 2).
type Tool struct {
	ID             uint
	Name           string
	Kind           string
	Resolution     length.Length
	U              length.Length `gorm:"column:u"`
	CalibrationDue *time.Time
	Standard       length.Length // size of the zero-check standard; 0 for a tool that has none
	Tolerance      length.Length // how far off the standard it may read
}

// ZeroCheck is a standard read with a tool.
type ZeroCheck struct {
	ID       uint
	ToolID   uint
	Typed    string
	ReadNM   length.Length `gorm:"column:read_nm"`
	OffNM    length.Length `gorm:"column:off_nm"` // read less standard
	Passed   bool
	PersonID uint
	Person   User
	At       time.Time
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
	CreatedAt  time.Time
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
	NM             length.Length `gorm:"column:nm"`
	GoNM           length.Length `gorm:"column:go_nm"`
	NoGoNM         length.Length `gorm:"column:nogo_nm"`
	Bracket        bool
	ToolID         uint
	Tool           Tool
	Method         string
	PersonID       uint
	Person         User
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
	Minutes    int
	State      string
	SkipReason string
	StartedAt  *time.Time
	StartedBy  *uint
	FinishedAt *time.Time
	FinishedBy *uint
}

// At lists the operation's positions.
func (o Operation) At() []string { return strings.Fields(o.Positions) }

// Actual is how long the operation took, or has taken until now.
func (o Operation) Actual(now time.Time) time.Duration {
	if o.StartedAt == nil {
		return 0
	}
	if o.FinishedAt != nil {
		now = *o.FinishedAt
	}
	return now.Sub(*o.StartedAt)
}

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
}

// Write remembers a client-made id and its answer, so that sending twice writes once.
type Write struct {
	ClientID string `gorm:"primaryKey"`
	Answer   string
	At       time.Time
}
