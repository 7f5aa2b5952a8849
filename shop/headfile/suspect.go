package headfile

import (
	"fmt"
	"slices"
	"time"

	"yatai/core/judge"
	"yatai/store"
)

// ToolLabel is the label of the tool with that id.
func ToolLabel(id uint) string { return fmt.Sprintf("TL-%d", id) }

// suspects finds the readings that count and were made between a tool's failed zero check
// and the last good one before it, unless the lead has released them.
func (f *File) suspects(db store.DB) error {
	if len(f.Readings) == 0 {
		f.Suspect = map[uint]store.ZeroCheck{}
		return nil
	}
	checks, err := db.ZeroChecksAfter(f.Readings[0].ID)
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
			if z.AfterReading < r.ID { // it was read after this check
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
		return x.ToolID == r.ToolID && x.AfterCheck >= failed.ID
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

// IsSuspect tells whether a reading is suspect.
func (f *File) IsSuspect(reading uint) bool { _, ok := f.Suspect[reading]; return ok }
