package head_test

import (
	"encoding/json"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/head"
	"yatai/core/head/headtest"
	"yatai/core/trade"
)

// TestAFileComesBackAsItWent decodes every scenario's head, writes it, and reads that again.
func TestAFileComesBackAsItWent(t *testing.T) {
	files, err := filepath.Glob("../answer/testdata/*.json")
	require.NoError(t, err)
	require.NotEmpty(t, files)
	for _, name := range files {
		data, err := os.ReadFile(name)
		require.NoError(t, err)
		var s struct{ Head json.RawMessage }
		require.NoError(t, json.Unmarshal(data, &s))
		was, err := head.Decode(s.Head)
		require.NoError(t, err, name)
		text, err := head.Encode(was).JSON()
		require.NoError(t, err)
		is, err := head.Decode(text)
		require.NoError(t, err, "%s\n%s", name, text)
		again, err := head.Encode(is).JSON()
		require.NoError(t, err)
		assert.Equal(t, string(text), string(again), name)
		assert.Equal(t, was.Model, is.Model, name)
		assert.Equal(t, was.Sheet.Limits, is.Sheet.Limits, name)
		require.Len(t, is.Readings, len(was.Readings), name)
		for i := range was.Readings {
			w, b := was.Readings[i], is.Readings[i]
			assert.Equal(t, []any{w.Of, w.Spot, w.Value, w.U, w.Stage}, []any{b.Of, b.Spot, b.Value, b.U, b.Stage}, "%s %d", name, i)
		}
	}
}

// TestEveryCharacteristicIsWrittenExactly writes a value of every characteristic there is.
func TestEveryCharacteristicIsWrittenExactly(t *testing.T) {
	for _, c := range trade.Characteristics {
		if c.Derived() {
			continue
		}
		h := headtest.New(t, 2, "IE")
		h.Model.Kind = kindWith(c)
		for _, s := range c.Spots(h.Model.Layout) {
			text := c.Show((c.Low+c.High)/2, h.Unit)
			switch {
			case c.Words != nil:
				text = "+"
			case c.Bracket:
				text = "0.05 0.06"
			}
			h.Read(c.Code, s.Key()+" "+text)
		}
		text, err := head.Encode(h.Head).JSON()
		require.NoError(t, err)
		back, err := head.Decode(text)
		require.NoError(t, err, "%s\n%.600s", c.Code, text)
		require.Len(t, back.Readings, len(h.Readings), c.Code)
		for i := range h.Readings {
			assert.Equal(t, h.Readings[i].Value, back.Readings[i].Value, c.Code)
		}
	}
}

// kindWith is a sort of head that has the characteristic.
func kindWith(c trade.Characteristic) trade.Kind {
	for _, d := range trade.Drives {
		for _, l := range trade.Lifters {
			for _, w := range trade.Coolings {
				for _, i := range trade.Ignitions {
					if k := (trade.Kind{Drive: d, Lifter: l, Cooling: w, Material: "iron", Ignition: i}); c.Exists(k) {
						return k
					}
				}
			}
		}
	}
	return trade.Kind{}
}

// TestWrongFilesNameTheField spoils a good file in many ways.
func TestWrongFilesNameTheField(t *testing.T) {
	good := `{"format":"yatai-head/1","head":{"tag":"S1","unit":"mm"},
	 "model":{"name":"m","cylinders":1,"patterns":["IE"],"pitch":"110mm","bore":"95mm","width":"160mm",
	 "valves":{"intake":{"head":"40mm"},"exhaust":{"head":"36mm"}}}`
	_, err := head.Decode([]byte(good + "}"))
	require.NoError(t, err)
	for more, where := range map[string]string{
		`,"readings":[{"of":"guide.bore","at":"9X9","is":"8mm"}]}`:                  "readings[0].at",
		`,"readings":[{"of":"guide.bore","at":"1E1.top.A","is":"80mm"}]}`:           "readings[0].is",
		`,"readings":[{"of":"guide.clearance","at":"1E1","is":"0.05mm"}]}`:          "readings[0].of",
		`,"readings":[{"of":"guide.bore","at":"1E1.top.A","is":"8mm","tool":"x"}]}`: "readings[0].tool",
		`,"findings":[{"part":"valve.face","at":"1E1","grade":"melted"}]}`:          "findings[0].grade",
		`,"sheet":{"limits":[{"of":"lash","low":"0.4mm","high":"0.1mm"}]}}`:         "sheet.limits[0].low",
		`,"sheet":{"figures":{"moon":"1mm"}}}`:                                      "sheet.figures.moon",
		`,"operations":[{"code":"polish"}]}`:                                        "operations[0].code",
		`,"records":[{"operation":"pressure_test","values":{"colour":"red"}}]}`:     "records[0].values.colour",
		`,"ask":{"alternative":"cheap"}}`:                                           "ask.alternative",
		`,"settings":{"luck":"yes"}}`:                                               "settings.luck",
		`,"head":{"tag":"S2","unit":"mm"}}`:                                         "head",
		`,"extra":1}`:                                                               "extra",
		`,"stock":[{"kind":"valve","count":-1}]}`:                                   "stock[0].count",
	} {
		_, err := head.Decode([]byte(good + more))
		require.Error(t, err, more)
		assert.Contains(t, err.Error(), where, more)
	}
}
