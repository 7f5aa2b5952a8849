package headfile

import (
	"encoding/json"
	"slices"
	"strings"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/trade"
	"yatai/store"
)

// TighteningOf is how a model's fasteners are pulled down, none where nobody has said.
func TighteningOf(m store.HeadModel) (out []trade.Tightening) {
	_ = json.Unmarshal([]byte(m.Tightening), &out) // damaged or empty: it says nothing
	kind := KindOf(m)
	return slices.DeleteFunc(out, func(t trade.Tightening) bool {
		of := trade.FastenerNamed(t.Of)
		return of == nil || !of.Exists(kind)
	})
}

// TighteningText is what a model keeps of how its fasteners are pulled down.
func TighteningText(all []trade.Tightening) (string, error) {
	if len(all) == 0 {
		return "", nil
	}
	text, err := json.Marshal(all)
	return string(text), err
}

// OwnRepairs are the repairs that a shop has declared itself for a model.
func OwnRepairs(m store.HeadModel) []*trade.Repair {
	var out []*trade.Repair
	for _, code := range strings.Fields(m.OwnRepairs) {
		if r := trade.RepairNamed(code); r != nil {
			out = append(out, r)
		}
	}
	return out
}

// OwnStats are what of a shop's own characteristic is held against its limits.
var OwnStats = []string{"each reading", "spread of all"}

// OwnCharacteristics turns a shop's own characteristics into ones that can be read. One
// judged by its spread has a second, derived one that carries the limit.
func OwnCharacteristics(own []store.OwnCharacteristic) []trade.Characteristic {
	var out []trade.Characteristic
	for _, o := range own {
		u := trade.Units[o.Unit]
		c := trade.Characteristic{
			Code:    o.Code,
			Label:   o.Label,
			Where:   o.Spot,
			Low:     -quantity.OfLength(length.Metre),
			High:    quantity.OfLength(length.Metre),
			Tools:   []string{o.ToolKind},
			Section: trade.Own,
			Unit:    u,
			Answers: strings.Fields(o.Repairs),
		}
		if u.Size != 0 {
			c.Low, c.High = 0, u.Of(1_000_000)
		}
		out = append(out, c)
		if o.Stat == OwnStats[1] {
			c.NoLimit = true
			out[len(out)-1] = c
			out = append(out, trade.Characteristic{
				Code: o.Code + ".spread", Label: o.Label + ", spread", Section: trade.Own, Where: o.Spot, Of: &c, Unit: u,
				Answers: c.Answers,
			})
		}
	}
	return out
}
