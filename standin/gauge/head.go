package gauge

import (
	"encoding/json"
	"fmt"
	"io"

	"yatai/core/length"
)

// Head reads the true values of a head from the readings file a shop exports of it
// (readings.json): those of one characteristic, in the order they were read, the last one
// of each place.
func Head(r io.Reader, characteristic string) ([]length.Length, error) {
	var file struct {
		Readings []struct {
			Characteristic, Position, Place, Direction string
			Value                                      int64 `json:"value_nm"`
		}
	}
	if err := json.NewDecoder(r).Decode(&file); err != nil {
		return nil, fmt.Errorf("not a readings file: %w", err)
	}
	at := map[string]int{}
	var out []length.Length
	for _, x := range file.Readings {
		if x.Characteristic != characteristic {
			continue
		}
		place := x.Position + "." + x.Place + "." + x.Direction
		if i, again := at[place]; again {
			out[i] = length.Length(x.Value)
			continue
		}
		at[place] = len(out)
		out = append(out, length.Length(x.Value))
	}
	if out == nil {
		return nil, fmt.Errorf("the head has no readings of %q", characteristic)
	}
	return out, nil
}

// Measure reads a true value with the gauge's noise, rounded to the micrometre.
func (g *Gauge) Measure(truth length.Length) length.Length {
	l := float64(truth) + g.rnd.NormFloat64()*float64(g.part.Noise)/2
	return length.Div(length.FromFloat(l), int64(length.Micrometre)) * length.Micrometre
}
