package bench

import (
	"context"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"
	"time"

	"yatai/core/field"
	"yatai/core/gauge"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/trade"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/store"
)

// ToolPage is a tool with its zero checks, the newest first.
type ToolPage struct {
	store.Tool
	Checks  []store.ZeroCheck
	Studies []Studied
	Overdue bool // its calibration is past due
	Left    []store.Suspected
}

// Label is what the tool's label says: typed or scanned into a sweep it takes the tool up,
// into the search field it opens the tool.
func (t ToolPage) Label() string { return headfile.ToolLabel(t.ID) }

// Relative is the tool's doubt as a share of the reading.
func (t ToolPage) Relative() string { return "±" + t.percent() + " %" }

// LeavesText are a set's as somebody who reads in u types them: leaves are stamped in millimetres.
func (t ToolPage) LeavesText(u length.Unit) string {
	if t.Leaves == "" || u != length.In {
		return t.Leaves
	}
	return t.Leaves + " mm"
}

// Percent and DueText are the tool's figures as they are typed.
func (t ToolPage) Percent() string {
	if t.UPPM == 0 {
		return ""
	}
	return t.percent()
}

// percent is the tool's share of doubt without its sign.
func (t ToolPage) percent() string { return strconv.FormatFloat(float64(t.UPPM)/10_000, 'f', -1, 64) }

func (t ToolPage) DueText() string {
	if t.CalibrationDue == nil {
		return ""
	}
	return t.CalibrationDue.Format(time.DateOnly)
}

// Kinds are the kinds of tools.
func (t ToolPage) Kinds() []string {
	var out []string
	for _, k := range trade.ToolKinds {
		out = append(out, k.Name)
	}
	return out
}

// Blocked tells whether the tool failed its last zero check.
func (t ToolPage) Blocked() bool { return len(t.Checks) > 0 && !t.Checks[0].Passed }

// Tool returns a tool with its latest zero checks.
func Tool(ctx context.Context, s *shop.Shop, id uint) (ToolPage, error) {
	db := s.Store.Read(ctx)
	t, err := db.Tool(id)
	if err != nil {
		return ToolPage{}, err
	}
	checks, err := db.ZeroChecks(id, 50)
	if err != nil {
		return ToolPage{}, err
	}
	kept, err := db.Studies(id)
	if err != nil {
		return ToolPage{}, err
	}
	st, err := studied(t, kept)
	if err != nil {
		return ToolPage{}, err
	}
	left, err := db.DeliveredSuspect(id)
	return ToolPage{t, checks, st, Overdue(s, t), left}, err
}

// Charted are the zero checks since the tool was last set right, the oldest first, as a control chart; ok is
// false where they are too few to say anything.
func (t ToolPage) Charted() (c gauge.Chart, checks []store.ZeroCheck, ok bool) {
	for _, z := range t.Checks { // the newest first
		if !z.Passed {
			break
		}
		checks = append(checks, z)
	}
	slices.Reverse(checks)
	var off []quantity.Amount
	for _, z := range checks {
		off = append(off, z.OffNM)
	}
	c, ok = gauge.Charted(off)
	return c, checks, ok
}

// ChartSays is what the chart of a tool's zero checks says, for somebody who reads lengths in a unit: each of
// its signs with its days, and when it will be off by more than it may at the pace it moves.
func (t ToolPage) ChartSays(reader length.Unit) []string {
	c, checks, ok := t.Charted()
	if !ok {
		return nil
	}
	if len(c.Signs) == 0 {
		return []string{fmt.Sprintf("It varies by %s and does not move.", t.Roughly((c.High-c.Low)/2, reader))}
	}
	day := func(i int) string { return checks[i].At.Local().Format("2 January") }
	var out []string
	for _, s := range c.Signs {
		when := day(s.At[0])
		if last := day(s.At[len(s.At)-1]); last != when {
			when += " to " + last
		}
		out = append(out, fmt.Sprintf("%s: %s.", s.Says, when))
	}
	if left, moves := c.Left(t.Tolerance); moves {
		days := checks[len(checks)-1].At.Sub(checks[0].At).Hours() / 24 / float64(len(checks)-1)
		said := fmt.Sprintf("It moves by %s from check to check: ",
			t.Roughly(quantity.Amount(math.Round(math.Abs(c.Step))), reader))
		if left == 0 {
			said += "the next may fail. Set it right before it takes readings with it."
		} else {
			said += fmt.Sprintf("%s until it is off by more than it may, some %.0f days.",
				shop.Plural(left, "more check"), float64(left)*days)
		}
		out = append(out, said)
	}
	return out
}

// Delivered lists the heads that have left with readings of a tool whose zero check failed
// afterwards: whoever leads calls their customers, and releases what holds all the same.
func Delivered(ctx context.Context, s *shop.Shop) ([]store.Suspected, error) {
	return s.Store.Read(ctx).DeliveredSuspect(0)
}

// Overdue tells whether a tool's calibration is past due.
func Overdue(s *shop.Shop, t store.Tool) bool {
	return t.CalibrationDue != nil && s.Now().After(t.CalibrationDue.Add(24*time.Hour))
}

// CheckZero records what a tool read on its standard. Off by more than its tolerance the
// check has failed: the tool is blocked until a good check, and the readings made with it
// since its last good check are suspect.
func CheckZero(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID string, tool uint, typed string,
) (passed bool, err error) {
	if err := a.Must("check a tool"); err != nil {
		return false, err
	}
	answer, err := s.Once(ctx, writeID, func(tx store.DB) (string, error) {
		t, err := tx.Tool(tool)
		if err != nil {
			return "", err
		}
		if t.Standard == 0 {
			return "", field.Only("read", "this tool has no standard in the register")
		}
		read, err := t.Parse(typed, shop.UnitOf(a.Unit.Name))
		if err != nil {
			return "", field.Under("read", err)
		}
		off := read - t.Standard
		if off.Abs() > t.Standard/2 {
			return "", field.Only("read", "its standard is %s: type the whole size the tool shows", t.Text(t.Standard))
		}
		last, err := tx.LastReading()
		if err != nil {
			return "", err
		}
		z := store.ZeroCheck{
			AfterReading: last,
			ToolID:       tool,
			Typed:        strings.TrimSpace(typed),
			ReadNM:       read,
			OffNM:        off,
			Passed:       off.Abs() <= t.Tolerance,
			PersonID:     a.ID,
			At:           s.Now(),
		}
		if err := tx.Add(&z); err != nil {
			return "", err
		}
		if !z.Passed {
			if err := tx.Suspect(z); err != nil {
				return "", err
			}
		}
		said := map[bool]string{true: "passed", false: "failed"}[z.Passed]
		return strconv.FormatBool(z.Passed), s.NoteAbout(
			tx, a, shop.About(shop.OfTool, t.ID), "zero check",
			fmt.Sprintf("%s off by %s: %s", t.Name, t.Text(off), said),
		)
	})
	return answer == "true", err
}

// Release lets a head's suspect readings with a tool stand, with the lead's reason.
func Release(
	ctx context.Context, s *shop.Shop, a shop.Actor, writeID, tag string, tool uint, reason string,
) error {
	if err := a.Must("release readings"); err != nil {
		return err
	}
	errs := field.Errors{}
	at := "tool/" + strconv.Itoa(int(tool))
	reason = shop.Required(errs, at, reason, "say why they hold", 400)
	if err := errs.Err(); err != nil {
		return err
	}
	return headfile.OnHead(ctx, s, writeID, tag, func(tx store.DB, f *headfile.File) error {
		if !slices.ContainsFunc(
			f.Readings, func(r store.Reading) bool { _, ok := f.Suspect[r.ID]; return ok && r.ToolID == tool },
		) {
			return shop.ErrNotFound
		}
		last, err := tx.LastZeroCheck()
		if err != nil {
			return err
		}
		if err := tx.Add(
			&store.Release{HeadID: f.ID, AfterCheck: last, ToolID: tool, Reason: reason, PersonID: a.ID, At: s.Now()},
		); err != nil {
			return err
		}
		return s.Note(tx, a, f.ID, "readings released", reason)
	})
}
