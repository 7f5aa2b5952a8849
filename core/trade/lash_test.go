package trade

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
)

// TestWhatTakesTheLashAwayHasItSet: whatever is done that leaves the lash unknown, or moves it, it is set after.
func TestWhatTakesTheLashAwayHasItSet(t *testing.T) {
	sets := []*Operation{SetLash, NewPushrod, SetBridges} // the lash is set by them
	for _, drive := range Drives {
		k := Kind{Drive: drive, Lifter: "solid"}
		for _, o := range Operations() {
			if slices.Contains(sets, o) || !o.Exists(k) || !o.Voided(Lash.Code) && !o.Moved(Lash, k) {
				continue
			}
			brought := slices.ContainsFunc(o.Brings(k, School{}), func(b *Operation) bool {
				return b == SetLash || b == SetBridges
			})
			assert.True(t, brought || o.Drives, "%s on a %s head", o.Code, drive)
		}
	}
}
