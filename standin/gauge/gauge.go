// Package gauge is a simulated digital gauge: it measures a head that does not exist and
// sends each reading to a station over HTTP, one per press of its button or at a pace. A
// bridge for a real gauge does what Send does: one POST per value.
package gauge

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"math/rand/v2"
	"net/http"
	"strings"

	"yatai/core/length"
)

// Part is what is measured: readings scatter about Nominal by Noise (two standard
// deviations), and every so often a place is worn by up to Wear.
type Part struct {
	Nominal, Noise, Wear length.Length
}

// Gauge measures parts, repeatably for a seed.
type Gauge struct {
	part Part
	rnd  *rand.Rand
}

// New returns a gauge on a part. The same seed gives the same readings.
func New(p Part, seed uint64) *Gauge { return &Gauge{p, rand.New(rand.NewPCG(seed, 8417))} }

// Read takes the next reading, rounded to the micrometre the gauge shows.
func (g *Gauge) Read() length.Length {
	truth := g.part.Nominal
	if g.rnd.IntN(8) == 0 {
		truth += length.FromFloat(g.rnd.Float64() * float64(g.part.Wear))
	}
	return g.Measure(truth)
}

// Send posts one value to the shop at base with a station's key. The answer is an error
// unless a sweep at that station took it.
func Send(ctx context.Context, base, key string, value length.Length) error {
	body, err := json.Marshal(map[string]string{"value": value.MM() + "mm"})
	if err != nil {
		return err
	}
	r, err := http.NewRequestWithContext(ctx, http.MethodPost, strings.TrimSuffix(base, "/")+"/api/gauge",
		bytes.NewReader(body))
	if err != nil {
		return err
	}
	r.Header.Set("Authorization", "Bearer "+key)
	r.Header.Set("Content-Type", "application/json")
	res, err := http.DefaultClient.Do(r)
	if err != nil {
		return err
	}
	defer func() { _ = res.Body.Close() }()
	if res.StatusCode == http.StatusOK {
		return nil
	}
	said, err := io.ReadAll(io.LimitReader(res.Body, 1000))
	if err != nil {
		return err
	}
	return fmt.Errorf("%s: %s", res.Status, bytes.TrimSpace(said))
}
