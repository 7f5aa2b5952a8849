package shop

import (
	"context"
	"fmt"
	"slices"
	"strconv"
	"strings"
	"time"

	"yatai/core/field"
	"yatai/core/judge"
	"yatai/core/length"
	"yatai/store"
)

// ToolPage is a tool with its zero checks, the newest first.
type ToolPage struct {
	store.Tool
	Checks  []store.ZeroCheck
	Studies []Studied
	Overdue bool // its calibration is past due
}

// Label is what the tool's label says: typed or scanned into a sweep it takes the tool up,
// into the search field it opens the tool.
func (t ToolPage) Label() string { return ToolLabel(t.ID) }

// Relative is the tool's doubt as a share of the reading.
func (t ToolPage) Relative() string { return "±" + length.Length(t.UPPM*100).MM() + " %" }

// ToolLabel is the label of the tool with that id.
func ToolLabel(id uint) string { return fmt.Sprintf("TL-%d", id) }

// Blocked tells whether the tool failed its last zero check.
func (t ToolPage) Blocked() bool { return len(t.Checks) > 0 && !t.Checks[0].Passed }

// Tool returns a tool with its latest zero checks.
func (s *Shop) Tool(ctx context.Context, id uint) (ToolPage, error) {
	db := s.st.Read(ctx)
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
	st, err := studied(kept)
	return ToolPage{t, checks, st, s.Overdue(t)}, err
}

// Overdue tells whether a tool's calibration is past due.
func (s *Shop) Overdue(t store.Tool) bool {
	return t.CalibrationDue != nil && s.now().After(t.CalibrationDue.Add(24*time.Hour))
}

// CheckZero records what a tool read on its standard. Off by more than its tolerance the
// check has failed: the tool is blocked until a good check, and the readings made with it
// since its last good check are suspect.
func (s *Shop) CheckZero(ctx context.Context, a Actor, writeID string, tool uint, typed string) (passed bool, err error) {
	if err := a.must("check a tool"); err != nil {
		return false, err
	}
	answer, err := s.once(ctx, writeID, func(tx store.DB) (string, error) {
		t, err := tx.Tool(tool)
		if err != nil {
			return "", err
		}
		if t.Standard == 0 {
			return "", field.Errors{"read": "this tool has no standard in the register"}
		}
		read, err := length.Parse(typed, length.MM)
		if err != nil {
			return "", field.Under("read", err)
		}
		off := read - t.Standard
		if off.Abs() > t.Standard/2 {
			return "", field.Errors{"read": fmt.Sprintf("its standard is %s: type the whole size the tool shows", t.Standard)}
		}
		z := store.ZeroCheck{ToolID: tool, Typed: strings.TrimSpace(typed), ReadNM: read, OffNM: off, Passed: off.Abs() <= t.Tolerance, PersonID: a.ID, At: s.now()}
		if err := tx.Add(&z); err != nil {
			return "", err
		}
		return strconv.FormatBool(z.Passed), s.note(tx, a, 0, "zero check", fmt.Sprintf("%s off by %s, passed %t", t.Name, off, z.Passed))
	})
	return answer == "true", err
}

// suspects finds the readings that count and were made between a tool's failed zero check
// and the last good one before it, unless the lead has released them.
func (f *File) suspects(db store.DB) error {
	checks, err := db.ZeroChecksSince(f.CreatedAt)
	if err != nil {
		return err
	}
	f.Suspect = map[uint]store.ZeroCheck{}
	if !slices.ContainsFunc(checks, func(z store.ZeroCheck) bool { return !z.Passed }) {
		return nil
	}
	if f.Releases, err = db.Releases(f.ID); err != nil { // there are none without a failed check
		return err
	}
	byTool := map[uint][]store.ZeroCheck{}
	for _, z := range checks {
		byTool[z.ToolID] = append(byTool[z.ToolID], z)
	}
	superseded := map[uint]bool{}
	for _, r := range f.Readings {
		if r.Supersedes != nil {
			superseded[*r.Supersedes] = true
		}
	}
	for _, r := range f.Readings {
		if superseded[r.ID] {
			continue
		}
		for _, z := range byTool[r.ToolID] {
			if z.At.Before(r.At) {
				continue
			}
			if z.Passed {
				break // good since: what was read before it holds
			}
			if !f.released(r, z) {
				f.Suspect[r.ID] = z
			}
			break
		}
	}
	return nil
}

func (f *File) released(r store.Reading, failed store.ZeroCheck) bool {
	return slices.ContainsFunc(f.Releases, func(x store.Release) bool {
		return x.ToolID == r.ToolID && !x.At.Before(failed.At)
	})
}

// SuspectTool is a tool whose failed zero check makes readings of a head suspect.
type SuspectTool struct {
	store.Tool
	Count  int // of the readings that count now
	Failed time.Time
}

// Suspects lists the tools with suspect readings among those that count now, in the
// register's order.
func (f *File) Suspects() []SuspectTool {
	if len(f.Suspect) == 0 {
		return nil
	}
	count, failed := map[uint]int{}, map[uint]time.Time{}
	for _, r := range f.Subject.Standing() {
		if z, suspect := f.Suspect[r.ID]; suspect {
			count[z.ToolID]++
			failed[z.ToolID] = z.At
		}
	}
	var out []SuspectTool
	for _, t := range f.Tools {
		if count[t.ID] > 0 {
			out = append(out, SuspectTool{t, count[t.ID], failed[t.ID]})
		}
	}
	return out
}

// SuspectAt returns the positions, lines and corners that have suspect readings among
// those that count now.
func (f *File) SuspectAt() map[string]bool {
	out := map[string]bool{}
	for _, r := range f.Subject.Standing() {
		if f.IsSuspect(r.ID) {
			out[r.Spot.Position] = true
		}
	}
	return out
}

// SuspectIn tells whether a feature rests on a suspect reading.
func (f *File) SuspectIn(x judge.Feature) bool {
	return slices.ContainsFunc(x.From, func(id uint) bool { _, ok := f.Suspect[id]; return ok })
}

// Release lets a head's suspect readings with a tool stand, with the lead's reason.
func (s *Shop) Release(ctx context.Context, a Actor, writeID, tag string, tool uint, reason string) error {
	if err := a.must("release readings"); err != nil {
		return err
	}
	errs := field.Errors{}
	at := "tool/" + strconv.Itoa(int(tool))
	reason = required(errs, at, reason, "say why they hold", 400)
	if err := errs.Err(); err != nil {
		return err
	}
	return s.onHead(ctx, writeID, tag, func(tx store.DB, f *File) error {
		if !slices.ContainsFunc(f.Readings, func(r store.Reading) bool { _, ok := f.Suspect[r.ID]; return ok && r.ToolID == tool }) {
			return ErrNotFound
		}
		if err := tx.Add(&store.Release{HeadID: f.ID, ToolID: tool, Reason: reason, PersonID: a.ID, At: s.now()}); err != nil {
			return err
		}
		return s.note(tx, a, f.ID, "readings released", reason)
	})
}

// IsSuspect tells whether a reading is suspect.
func (f *File) IsSuspect(reading uint) bool { _, ok := f.Suspect[reading]; return ok }
