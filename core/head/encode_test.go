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
	"yatai/core/layout"
	"yatai/core/quantity"
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
			assert.Equal(t, []any{w.Of, w.Spot, w.Value, w.U, w.Stage}, []any{b.Of, b.Spot, b.Value, b.U, b.Stage}, "%s %d",
				name, i)
		}
	}
}

// TestEveryCharacteristicIsWrittenExactly writes a value of every characteristic there is.
func TestEveryCharacteristicIsWrittenExactly(t *testing.T) {
	for _, c := range trade.Characteristics {
		if c.Derived() {
			continue
		}
		h := headtest.Having(t, c.Positions)
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

// TestAReadingIsOneThatAHeadCanHave reads every characteristic at both ends of what there is, and a
// nanometre beyond.
func TestAReadingIsOneThatAHeadCanHave(t *testing.T) {
	for _, c := range trade.Characteristics {
		if c.Derived() || c.Words != nil {
			continue
		}
		h := headtest.Having(t, c.Positions)
		h.Model.Kind = kindWith(c)
		f := head.Encode(h.Head)
		f.Sheet.Figures = nil
		at := c.Spots(h.Model.Layout)[0].Key()
		for _, x := range []struct {
			value quantity.Amount
			taken bool
		}{{c.Low, true}, {c.Low - 1, false}, {c.High, true}, {c.High + 1, false}} {
			r := head.FileReading{Of: c.Code, At: at, Is: c.UnitFor(h.Unit).Text(x.value)}
			if c.Unit.Size == 0 { // lengths are exact, others are written in millionths
				r.Is = quantity.AsLength(&x.value).MM() + "mm"
			}
			f.Readings = []head.FileReading{r}
			text, err := f.JSON()
			require.NoError(t, err)
			_, err = head.Decode(text)
			if c.Unit.Size == 0 {
				assert.Equal(t, x.taken, err == nil, "%s %s: %v", c.Code, r.Is, err)
			}
		}
	}
}

// TestADoubtThatNobodyNamedStaysUnnamed: a reading without a tool is without one in its file too.
func TestADoubtThatNobodyNamedStaysUnnamed(t *testing.T) {
	h := headtest.New(t, 1, "IE").Read("valve.recession", "1I1 0.70", "1E1 0.80")
	h.Readings[0].Untold, h.Readings[0].U, h.Readings[1].U = true, 20_000, 20_000
	text, err := head.Encode(h.Head).JSON()
	require.NoError(t, err)
	back, err := head.Decode(text)
	require.NoError(t, err)
	assert.True(t, back.Readings[0].Untold)
	assert.False(t, back.Readings[1].Untold)
	assert.EqualValues(t, 20_000, back.Readings[1].U)
}

// TestARepairOfTheShopsOwnComesBack: with a size and without.
func TestARepairOfTheShopsOwnComesBack(t *testing.T) {
	h := headtest.New(t, 1, "IE")
	for _, o := range []trade.OwnRepair{
		{
			Name: "Cap the tips", Works: trade.TipMetal, Station: trade.Assembly, Setup: 5, Each: 4, Least: 100_000,
			Most:  800_000,
			Moves: []trade.OwnMove{{Of: "lash", Times: -1}, {Of: "stem.height", Times: 1}},
		},
		{Name: "Etch a number", Works: trade.OtherMetal, Station: trade.Press, Each: 2, Part: "brass tag"},
	} {
		h.Sheet.Repairs = append(h.Sheet.Repairs, trade.RepairNamed(o.Code()))
	}
	f := head.Encode(h.Head)
	assert.Equal(t, []string{"0.1 mm", "0.8 mm"}, []string{f.Sheet.Repairs[0].Least, f.Sheet.Repairs[0].Most})
	assert.Equal(t, map[string]string{"lash": "down", "stem.height": "up"}, f.Sheet.Repairs[0].Moves)
	plain := head.FileOwnRepair{
		Name: "Etch a number", Works: "something else", Station: trade.Press, Minutes: "0+2", Part: "brass tag",
		Code: f.Sheet.Repairs[1].Code,
	}
	assert.Equal(t, plain, f.Sheet.Repairs[1])
	text, err := f.JSON()
	require.NoError(t, err)
	back, err := head.Decode(text)
	require.NoError(t, err)
	assert.Equal(t, h.Sheet.Repairs, back.Sheet.Repairs)
	for field, change := range map[string]func(*head.FileOwnRepair){
		"sheet.repairs[0].name":       func(r *head.FileOwnRepair) { r.Name = "" },
		"sheet.repairs[0].works":      func(r *head.FileOwnRepair) { r.Works = "guide" },
		"sheet.repairs[0].minutes":    func(r *head.FileOwnRepair) { r.Minutes = "soon" },
		"sheet.repairs[0].most":       func(r *head.FileOwnRepair) { r.Most = "thick" },
		"sheet.repairs[0].least":      func(r *head.FileOwnRepair) { r.Least = "thin" },
		"sheet.repairs[0].code":       func(r *head.FileOwnRepair) { r.Code = "shop.x" },
		"sheet.repairs[0].moves.lash": func(r *head.FileOwnRepair) { r.Moves["lash"] = "sideways" },
		"sheet.repairs[0].part":       func(r *head.FileOwnRepair) { r.Part = "a, b" },
	} {
		f := head.Encode(h.Head)
		change(&f.Sheet.Repairs[0])
		text, err := f.JSON()
		require.NoError(t, err)
		_, err = head.Decode(text)
		assert.ErrorContains(t, err, field)
	}
	f = head.Encode(h.Head)
	f.Sheet.Repairs[0].Code = ""
	for i := range 20 {
		r := f.Sheet.Repairs[1]
		r.Name, r.Code = r.Name+string(rune('a'+i)), ""
		f.Sheet.Repairs = append(f.Sheet.Repairs, r)
	}
	text, err = f.JSON()
	require.NoError(t, err)
	_, err = head.Decode(text)
	assert.ErrorContains(t, err, "more than a sheet has")
}

// TestBridgesComeBack with their model; none are on a head without rockers.
func TestBridgesComeBack(t *testing.T) {
	h := headtest.New(t, 1, "IIEE")
	h.Model.Layout.Bridges = layout.Floating
	f := head.Encode(h.Head)
	assert.Equal(t, "floating", f.Model.Bridges)
	text, err := f.JSON()
	require.NoError(t, err)
	back, err := head.Decode(text)
	require.NoError(t, err)
	assert.Equal(t, layout.Floating, back.Model.Layout.Bridges)
	for field, change := range map[string]func(*head.File){
		"model.bridges": func(f *head.File) { f.Model.Drive = trade.Bucket },
		"bridges":       func(f *head.File) { f.Model.Bridges = "hinged" },
	} {
		f := head.Encode(h.Head)
		change(&f)
		text, err := f.JSON()
		require.NoError(t, err)
		_, err = head.Decode(text)
		assert.ErrorContains(t, err, field)
	}
}
