package paper

import (
	"encoding/json"
	"errors"
	"fmt"
	"reflect"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/xuri/excelize/v2"

	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/schema"
	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/headfile"
)

// Readings are a head's readings as they go out of the shop as JSON, with what was seen.
type Readings struct {
	Tag      string    `json:"tag"`
	Model    string    `json:"model"`
	Customer string    `json:"customer"`
	Sheet    int       `json:"sheet_version" doc:"of the model's limits"`
	Readings []Row     `json:"readings" doc:"corrected ones too, the oldest first"`
	Findings []Finding `json:"findings" doc:"the oldest first"`
}

// ReadingsSchema is the JSON Schema of a head's readings.
func ReadingsSchema() ([]byte, error) {
	return schema.Of(reflect.TypeFor[Readings](), schema.Write{}, "Readings of a head",
		"Every reading of a head and what was seen of it, as the shop exports them.", nil)
}

// Row is one reading as it goes out of the shop. Value and U are in whole nanometres, or
// millionths of Unit for what is not a length.
type Row struct {
	Tag            string    `json:"tag"`
	Model          string    `json:"model"`
	Stage          string    `json:"stage" doc:"received, new or after work"`
	Characteristic string    `json:"characteristic" doc:"its code, as in a head file"`
	Position       string    `json:"position" doc:"of a valve, a bore, a line; empty for the whole head"`
	Place          string    `json:"place,omitempty"`
	Direction      string    `json:"direction,omitempty"`
	Typed          string    `json:"typed" doc:"as it was written"`
	Unit           string    `json:"unit" doc:"mm for a length, else what the millionths below are of"`
	Value          int64     `json:"value_nm" doc:"nanometres, or millionths of the unit"`
	Go             int64     `json:"go_nm,omitempty" doc:"of a feeler or plug: the thickest that goes"`
	NoGo           int64     `json:"nogo_nm,omitempty" doc:"of a feeler or plug: the thinnest that does not"`
	U              int64     `json:"u_nm" doc:"expanded uncertainty of the tool, k = 2"`
	Tool           string    `json:"tool"`
	Method         string    `json:"method"`
	Person         string    `json:"person"`
	At             time.Time `json:"at"`
	Corrects       bool      `json:"corrects,omitempty" doc:"it stands instead of an earlier one"`
	Why            string    `json:"why,omitempty"`
	Suspect        bool      `json:"suspect,omitempty" doc:"its tool failed a zero check since"`

	unit  quantity.Unit // of what is not a length
	label string
}

// Finding is what was seen of a part, as it goes out of the shop.
type Finding struct {
	Part     string    `json:"part"`
	Grade    string    `json:"grade"`
	Position string    `json:"position"`
	Note     string    `json:"note"`
	Stage    string    `json:"stage"`
	Person   string    `json:"person"`
	X        int64     `json:"x_nm" doc:"on the face, nanometres from its left"`
	Y        int64     `json:"y_nm" doc:"on the face, nanometres from its front"`
	At       time.Time `json:"at"`
}

// Rows lists every reading of a head, corrected ones too, oldest first.
func Rows(f *headfile.File) []Row {
	out := []Row{}
	for _, r := range f.Readings {
		c, _ := f.Characteristic(r.Characteristic)
		unit := length.MM.Name
		if c.Unit.Size != 0 {
			unit = c.Unit.Name
		}
		out = append(out, Row{
			f.Tag, f.Model.Name, r.Stage, r.Characteristic, r.Position, r.Place, r.Dir, r.Typed, unit, int64(r.NM),
			int64(r.GoNM), int64(r.NoGoNM), int64(r.U), r.Tool.Name, r.Method, r.Person.Name, r.At.UTC(),
			r.Supersedes != nil, r.Why, f.IsSuspect(r.ID), c.Unit, c.Label,
		})
	}
	return out
}

// Reader is for whom a table of readings is: the language of its words, and the unit of its lengths.
type Reader struct {
	Words *words.Language
	Unit  length.Unit
}

// column is a column of a table of readings: its name, and what stands in it. A figure is a number to a
// spreadsheet; what was typed may begin with a plus.
type column struct {
	name   string
	of     func(Row, Reader) string
	figure bool
	typed  bool
}

// columns are what a table of readings holds. Figures stand in the reader's unit and, beside it, exactly
// in millimetres or the unit they are kept in.
var columns = []column{
	{name: "Tag", of: func(r Row, _ Reader) string { return r.Tag }},
	{name: "Model", of: func(r Row, _ Reader) string { return r.Model }},
	{name: "Measured", of: func(r Row, to Reader) string { return to.Words.Say(r.Stage) }},
	{name: "Characteristic", of: func(r Row, to Reader) string { return to.Words.Say(r.label) }},
	{name: "Position", of: func(r Row, _ Reader) string { return r.Position }},
	{name: "Place", of: func(r Row, to Reader) string { return to.Words.Say(r.Place) }},
	{name: "Direction", of: func(r Row, to Reader) string { return to.Words.Say(r.Direction) }},
	{name: "As it was typed", of: func(r Row, _ Reader) string { return r.Typed }, typed: true},
	{name: "Value", of: func(r Row, to Reader) string { return r.shown(r.Value, r.NoGo == 0, to) }, figure: true},
	{name: "Goes", of: func(r Row, to Reader) string { return r.shown(r.Go, r.NoGo != 0, to) }, figure: true},
	{name: "Does not go", of: func(r Row, to Reader) string { return r.shown(r.NoGo, r.NoGo != 0, to) }, figure: true},
	{name: "Doubt", of: Row.doubt, figure: true},
	{name: "Unit", of: func(r Row, to Reader) string { return r.unit.Or(to.Unit).Name }},
	{name: "Exact value", of: func(r Row, _ Reader) string { return r.exact(r.Value, r.NoGo == 0) }, figure: true},
	{name: "Exactly goes", of: func(r Row, _ Reader) string { return r.exact(r.Go, r.NoGo != 0) }, figure: true},
	{name: "Exactly does not go", of: func(r Row, _ Reader) string { return r.exact(r.NoGo, r.NoGo != 0) }, figure: true},
	{name: "Exact in", of: func(r Row, _ Reader) string { return r.Unit }},
	{name: "Tool", of: func(r Row, _ Reader) string { return r.Tool }},
	{name: "Method", of: func(r Row, to Reader) string { return to.Words.Say(r.Method) }},
	{name: "Person", of: func(r Row, _ Reader) string { return r.Person }},
	{name: "Time", of: func(r Row, _ Reader) string { return r.At.Format(time.RFC3339) }},
	{name: "Corrects an earlier one", of: func(r Row, to Reader) string { return yes(r.Corrects, to) }},
	{name: "Why", of: func(r Row, _ Reader) string { return r.Why }},
	{name: "Suspect", of: func(r Row, to Reader) string { return yes(r.Suspect, to) }},
}

// Columns are the names of what a table of readings holds, in English.
func Columns() []string {
	var out []string
	for _, c := range columns {
		out = append(out, c.name)
	}
	return out
}

func yes(is bool, to Reader) string {
	if !is {
		return ""
	}
	return to.Words.Say("yes")
}

func (to Reader) names() []string {
	out := Columns()
	for i, name := range out {
		out[i] = to.Words.Say(name)
	}
	return out
}

// shown is a figure as its reader reads it; empty where it has none.
func (r Row) shown(v int64, has bool, to Reader) string {
	if !has {
		return ""
	}
	u := r.unit.Or(to.Unit)
	return strings.TrimSpace(strings.TrimSuffix(u.Usual(quantity.Amount(v)), u.Name))
}

func (r Row) doubt(to Reader) string {
	u := r.unit.Or(to.Unit)
	return strings.TrimSpace(strings.TrimSuffix(u.Doubt(quantity.Amount(r.U)), u.Name))
}

// exact is a figure in millimetres, or the unit that is no length's.
func (r Row) exact(v int64, has bool) string {
	if !has {
		return ""
	}
	return r.unit.Or(length.MM).Bare(quantity.Amount(v))
}

// CSV writes a head's readings as the shop's spreadsheets read them.
func CSV(f *headfile.File, set shop.Settings, to Reader) ([]byte, error) {
	rows := [][]string{to.names()}
	typed := slices.IndexFunc(columns, func(c column) bool { return c.typed })
	for _, r := range Rows(f) {
		var row []string
		for _, c := range columns {
			row = append(row, c.of(r, to))
		}
		rows = append(rows, shop.Plain(row, typed))
	}
	return shop.CSV(set, rows)
}

// JSON writes a head's readings and findings.
func JSON(f *headfile.File) ([]byte, error) {
	out := Readings{
		Tag: f.Tag, Model: f.Model.Name, Customer: f.Job.Customer.Name, Sheet: f.Sheet.Version, Readings: Rows(f),
		Findings: []Finding{},
	}
	for _, x := range f.Findings {
		out.Findings = append(out.Findings, Finding{
			x.Part, x.Grade, x.Position, x.Note, x.Stage, x.Person.Name, int64(x.X), int64(x.Y), x.At.UTC(),
		})
	}
	return json.MarshalIndent(out, "", " ")
}

// XLSX writes a head's readings as a spreadsheet, figures as numbers.
func XLSX(f *headfile.File, to Reader) (b []byte, err error) {
	x := excelize.NewFile()
	defer func() { err = errors.Join(err, x.Close()) }()
	name := to.Words.Say("Readings")
	if err := x.SetSheetName("Sheet1", name); err != nil {
		return nil, err
	}
	head := to.names()
	if err := x.SetSheetRow(name, "A1", &head); err != nil {
		return nil, err
	}
	for i, r := range Rows(f) {
		row := make([]any, len(columns))
		for k, c := range columns {
			text := c.of(r, to)
			row[k] = text
			if v, err := strconv.ParseFloat(text, 64); err == nil && c.figure {
				row[k] = v
			}
		}
		if err := x.SetSheetRow(name, fmt.Sprintf("A%d", i+2), &row); err != nil {
			return nil, err
		}
	}
	out, err := x.WriteToBuffer()
	if err != nil {
		return nil, err
	}
	return out.Bytes(), nil
}
