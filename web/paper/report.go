package paper

import (
	"bytes"
	"encoding/csv"
	"encoding/json"
	"fmt"
	"strings"
	"time"

	"github.com/xuri/excelize/v2"

	"yatai/core/gauge"
	"yatai/core/length"
	"yatai/core/trade"
	"yatai/shop/headfile"
	"yatai/shop/lead"
)

// Report writes a head's report as PDF, figures in u.
func Report(f *headfile.File, causes []lead.CauseRow, name string, u length.Unit) ([]byte, error) {
	s := newSheet("Head report, tag "+f.Tag, name)
	s.text(10, false, fmt.Sprintf("%s, %s. %s %s, marks %s. Judged by the %s limit sheet, version %d.", f.Job.Customer.Name, f.Job.Machine.Name, f.Model.Name, f.Bank, f.Marks, f.Model.Name, f.Sheet.Version))
	s.text(10, false, "In your words: "+f.Job.Story)
	s.face(f.Layout, now(f))
	s.text(11, true, "As received against final, "+u.Name)
	widths := []float64{14, 42, 27, 19, 27, 19, 30}
	s.row(widths, true, "", "", "Received", "", "Final", "", "Limit")
	for _, x := range f.Received.All() {
		n, _ := f.Now.Feature(x.Key())
		limit := ""
		if x.Limit != nil {
			limit = x.Limit.Text(u)
		}
		s.row(widths, false, x.Position, x.Label, x.Figure(u), x.Verdict.Label(), n.Figure(u), n.Verdict.Label(), limit)
	}
	if len(causes) > 0 {
		s.Ln(2)
		s.text(11, true, "Why it failed")
		for _, c := range causes {
			s.text(9.5, false, fmt.Sprintf("%s (%s, %s). Outside the head: %s %s", c.Name, c.Call.State, c.Call.Person.Name, c.Mend, c.Call.Note))
		}
	}
	s.Ln(2)
	s.text(11, true, "What was done")
	for _, o := range f.Operations {
		name, state := o.Code, o.State
		if k := trade.OperationNamed(o.Code); k != nil {
			name = k.Name
		}
		if o.SkipReason != "" {
			state += ": " + o.SkipReason
		}
		s.row([]float64{52, 76, 50}, false, name, o.Positions, state)
	}
	var not []string
	for _, q := range f.Approved.Quotes {
		for _, l := range q.Lines {
			if q.Approval != nil && !q.Answers[l.Seq] {
				not = append(not, strings.TrimSpace(l.Name+" "+l.Positions)+" ("+l.Reason+")")
			}
		}
	}
	if not != nil {
		s.Ln(2)
		s.text(11, true, "What was not approved")
		s.text(9.5, false, strings.Join(not, "; "))
	}
	if len(f.Signoffs) > 0 {
		s.Ln(2)
		s.text(11, true, "Deviations signed")
		for _, d := range f.Signoffs {
			s.text(9.5, false, fmt.Sprintf("%s: %s %s, %s, %s", d.Feature, d.Figure, d.Reason, d.Person.Name, day(d.At)))
		}
	}
	if f.Refit != "" {
		s.Ln(2)
		s.text(11, true, "At refit")
		s.text(9.5, false, f.Refit)
	}
	s.Ln(2)
	switch {
	case f.ClosedAt == nil:
		s.text(10, true, "The final check has not passed: this is not a release.")
	case f.Releaser != "":
		s.text(10, true, fmt.Sprintf("Final check passed %s. Regulated work (%s), released by %s, licence %s.", day(*f.ClosedAt), f.Job.Regulated, f.Releaser, f.Licence))
	default:
		s.text(10, true, "Final check passed "+day(*f.ClosedAt)+".")
	}
	s.text(8.5, false, "The maker's instructions and local rules go before this report; it is a record, not a permission.")
	return s.bytes()
}

func now(f *headfile.File) map[string]gauge.Verdict {
	out := map[string]gauge.Verdict{}
	for _, p := range f.Now.Positions {
		out[p.ID] = p.Worst
	}
	return out
}

// Row is one reading as it goes out of the shop. Value and U are in whole nanometres, or
// millionths of Unit for what is not a length.
type Row struct {
	Tag            string    `json:"tag"`
	Model          string    `json:"model"`
	Stage          string    `json:"stage"`
	Characteristic string    `json:"characteristic"`
	Position       string    `json:"position"`
	Place          string    `json:"place,omitempty"`
	Direction      string    `json:"direction,omitempty"`
	Typed          string    `json:"typed"`
	Unit           string    `json:"unit"`
	Value          int64     `json:"value_nm"`
	Go             int64     `json:"go_nm,omitempty"`
	NoGo           int64     `json:"nogo_nm,omitempty"`
	U              int64     `json:"u_nm"`
	Tool           string    `json:"tool"`
	Method         string    `json:"method"`
	Person         string    `json:"person"`
	At             time.Time `json:"at"`
	Corrects       bool      `json:"corrects,omitempty"`
	Why            string    `json:"why,omitempty"`
	Suspect        bool      `json:"suspect,omitempty"`
}

// Rows lists every reading of a head, corrected ones too, oldest first.
func Rows(f *headfile.File) []Row {
	out := []Row{}
	for _, r := range f.Readings {
		c, _ := f.Characteristic(r.Characteristic)
		unit := "mm"
		if c.Unit.Size != 0 {
			unit = c.Unit.Name
		}
		out = append(out, Row{f.Tag, f.Model.Name, r.Stage, r.Characteristic, r.Position, r.Place, r.Dir, r.Typed, unit, int64(r.NM), int64(r.GoNM), int64(r.NoGoNM), int64(r.U), r.Tool.Name, r.Method, r.Person.Name, r.At.UTC(), r.Supersedes != nil, r.Why, f.IsSuspect(r.ID)})
	}
	return out
}

var columns = []string{"tag", "model", "stage", "characteristic", "position", "place", "direction", "typed", "unit", "value", "go", "nogo", "doubt", "tool", "method", "person", "at", "corrects", "why", "suspect"}

func (r Row) cells() []string {
	mm := func(n int64) string { return length.Length(n).MM() }
	yes := map[bool]string{true: "yes"}
	out := []string{r.Tag, r.Model, r.Stage, r.Characteristic, r.Position, r.Place, r.Direction, r.Typed, r.Unit, mm(r.Value), "", "", mm(r.U), r.Tool, r.Method, r.Person, r.At.Format(time.RFC3339), yes[r.Corrects], r.Why, yes[r.Suspect]}
	if r.NoGo != 0 {
		out[9], out[10], out[11] = "", mm(r.Go), mm(r.NoGo)
	}
	return out
}

// plain keeps a spreadsheet from reading what was typed as a formula.
func plain(cells []string) []string {
	for i, c := range cells {
		if c != "" && strings.ContainsAny(c[:1], "=@\t\r") || strings.HasPrefix(c, "+") && i != 7 {
			cells[i] = "'" + c
		}
	}
	return cells
}

// CSV writes a head's readings as comma-separated values, lengths in millimetres.
func CSV(f *headfile.File) ([]byte, error) {
	var b bytes.Buffer
	w := csv.NewWriter(&b)
	rows := [][]string{columns}
	for _, r := range Rows(f) {
		rows = append(rows, plain(r.cells()))
	}
	err := w.WriteAll(rows)
	return b.Bytes(), err
}

// JSON writes a head's readings and findings.
func JSON(f *headfile.File) ([]byte, error) {
	type finding struct {
		Part, Grade, Position, Note, Stage, Person string
		X, Y                                       int64
		At                                         time.Time
	}
	var seen []finding
	for _, x := range f.Findings {
		seen = append(seen, finding{x.Part, x.Grade, x.Position, x.Note, x.Stage, x.Person.Name, int64(x.X), int64(x.Y), x.At.UTC()})
	}
	return json.MarshalIndent(map[string]any{"tag": f.Tag, "model": f.Model.Name, "customer": f.Job.Customer.Name, "sheet_version": f.Sheet.Version, "readings": Rows(f), "findings": seen}, "", " ")
}

// XLSX writes a head's readings as a spreadsheet, values as numbers.
func XLSX(f *headfile.File) ([]byte, error) {
	x := excelize.NewFile()
	defer func() { _ = x.Close() }()
	const name = "Readings"
	if err := x.SetSheetName("Sheet1", name); err != nil {
		return nil, err
	}
	head := make([]any, len(columns))
	for i, c := range columns {
		head[i] = c
	}
	if err := x.SetSheetRow(name, "A1", &head); err != nil {
		return nil, err
	}
	for i, r := range Rows(f) {
		cells := r.cells()
		row := make([]any, len(cells))
		for k, c := range cells {
			row[k] = c
		}
		if r.NoGo == 0 {
			row[9] = length.Length(r.Value).Millimetres()
		} else {
			row[10], row[11] = length.Length(r.Go).Millimetres(), length.Length(r.NoGo).Millimetres()
		}
		row[12] = length.Length(r.U).Millimetres()
		if err := x.SetSheetRow(name, fmt.Sprintf("A%d", i+2), &row); err != nil {
			return nil, err
		}
	}
	b, err := x.WriteToBuffer()
	if err != nil {
		return nil, err
	}
	return b.Bytes(), nil
}
