package answer_test

import (
	"context"
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/answer"
	"yatai/core/head"
)

// worn is a bucket head of which half the seats are pitted, a quarter sunk and a third short of lash, with
// thirty sizes of shims in the box.
func worn(r *rand.Rand, patterns ...string) *kit {
	k := newKit("bucket", "water", patterns...)
	for _, at := range k.ids {
		if r.IntN(2) == 0 {
			k.see("seat.condition", at, "heavy_pits")
		}
		if r.IntN(3) == 0 {
			k.gap("lash", at, 60+10*r.IntN(30))
		}
		if r.IntN(4) == 0 {
			k.read("valve.recession", at, recessions[roleOf(at)][1]-100+r.IntN(300), "dial on bridge")
		}
	}
	for i := range 30 {
		k.Stock = append(k.Stock, head.FileStock{
			Kind: "lash shim", Name: fmt.Sprint("shim ", i), Size: um(2000 + 50*i), Count: 1 + r.IntN(3), Price: "3.20",
		})
	}
	return k
}

// TestWhatCostsTheSameIsAsSure: where the plan that is to be surest costs no more than the cheapest, the cheapest
// is as sure.
func TestWhatCostsTheSameIsAsSure(t *testing.T) {
	same := 0
	for seed := range uint64(8) {
		k := worn(rand.New(rand.NewPCG(seed, 77)), "IE", "IE", "IE", "IE")
		k.Settings["school.depths"] = "all alike"
		raw, err := answer.Run(t.Context(), "plan", k.sorted())
		require.NoError(t, err)
		var is answer.PlanAnswer
		require.NoError(t, json.Unmarshal(raw, &is))
		for _, a := range is.Others {
			if is.Feasible && a.Feasible && a.Alternative == "robust" && a.Cents == is.Cents && a.PAll != nil {
				assert.GreaterOrEqual(t, *is.PAll, *a.PAll-0.01, "seed %d", seed)
				same++
			}
		}
	}
	assert.Greater(t, same, 2)
}

// BenchmarkWornHead judges and plans a worn head of 24 valves, its depths each for itself, or alike.
func BenchmarkWornHead(b *testing.B) {
	k := worn(rand.New(rand.NewPCG(0, 3)), "IIEE", "IIEE", "IIEE", "IIEE", "IIEE", "IIEE")
	for _, depths := range []string{"each its own", "all alike"} {
		k.Settings["school.depths"] = depths
		file := k.sorted()
		for _, question := range []string{"judge", "plan"} {
			b.Run(depths+"/"+question, func(b *testing.B) {
				for b.Loop() {
					if _, err := answer.Run(context.Background(), question, file); err != nil {
						b.Fatal(err)
					}
				}
			})
		}
	}
}
