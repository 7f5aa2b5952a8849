package headfile_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"yatai/internal/shoptest"
	"yatai/shop/headfile"
	"yatai/store"
)

// TestAReportTellsWhatBecameOfWork: what failed stays failed, what was left out says why, and what was only
// ordered is not told as done.
func TestAReportTellsWhatBecameOfWork(t *testing.T) {
	leaked := store.OpRecord{
		OperationID: 7, Kind: "pressure_test", Data: `{"pressure":"2bar","water":"60C","minutes":"20","leaks":"2"}`,
	}
	f := shoptest.Open(t).File(t, "T0405")
	f.Records = []store.OpRecord{leaked}
	for want, o := range map[string]store.Operation{
		"done":               {ID: 6, Code: "wash", State: "done"},
		"done, failed":       {ID: 7, Code: "pressure_test", State: "done"},
		"left out: declined": {Code: "lap", State: "skipped", SkipReason: "declined"},
		"not done":           {Code: "lap", State: "waiting"},
	} {
		assert.Equal(t, want, f.Became(o))
	}
	assert.Equal(t, "not done", f.Became(store.Operation{Code: "lap", State: "running"}))
}

// TestAReportTellsEveryOperationWithItsPlaces and every feature that was judged.
func TestAReportTellsEveryOperationWithItsPlaces(t *testing.T) {
	f := shoptest.Open(t).File(t, "T0405")
	told := f.Told()
	assert.Len(t, told.Rows, len(f.Received.All()))
	assert.Len(t, told.Work, len(f.Operations))
	for i, o := range f.Operations {
		assert.Equal(t, headfile.OperationName(o.Code), told.Work[i].Name)
		assert.Equal(t, o.Positions == "", told.Work[i].At.String() == "", o.Code)
	}
	decided := 0
	for _, r := range told.Rows {
		if r.Decision != "" {
			decided++
		}
	}
	assert.Positive(t, decided)
	assert.NotEmpty(t, told.Closing)
}
