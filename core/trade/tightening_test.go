package trade_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/trade"
)

func TestStepsOfATightening(t *testing.T) {
	for text, want := range map[string][2]string{ // in millimetres and inches
		"30 Nm": {"30 Nm", "22.1 lbft (30 Nm)"}, "22lbft": {"29.8 Nm (22lbft)", "22lbft"},
		"265 lbin": {"29.9 Nm (265 lbin)", "22.1 lbft (265 lbin)"},
		"90 deg":   {"90 deg further", "90 deg further"}, "400 bar": {"400 bar", "400 bar"},
		"wait 10 min": {"wait 10 min", "wait 10 min"},
		"Wait 10":     {"wait 10 min", "wait 10 min"}, "slacken": {"slacken all", "slacken all"},
		" 8,5  Nm ": {"8,5 Nm", "6.3 lbft (8,5 Nm)"},
	} {
		s, err := trade.ParseStep(text)
		require.NoError(t, err, text)
		assert.Equal(t, want, [2]string{s.Words(false).String(), s.Words(true).String()}, text)
	}
	for _, text := range []string{
		"", "30", "30 ells", "-5 Nm", "0 deg", "wait", "wait 0 min", "wait 241 h", "wait 100000 min", "tight",
	} {
		_, err := trade.ParseStep(text)
		assert.Error(t, err, text)
	}
	assert.Equal(t, []string{"8,5 Nm", "20 Nm", "90 deg"}, trade.SplitSteps("8,5 Nm, 20 Nm;\n90 deg; "))
	assert.Empty(t, trade.SplitSteps("  "))
}

func TestWhatIsWrongWithATightening(t *testing.T) {
	good := trade.Tightening{
		Of: "head_bolts", Count: 10, Steps: []string{"30 Nm", "60 Nm", "slacken", "30 Nm", "90 deg"}, How: "oiled",
		Source: "sheet 5",
	}
	require.Empty(t, good.Check())
	assert.Equal(t, "Head bolts, 10, oiled: 30 Nm, 60 Nm, slacken all, 30 Nm, 90 deg further (sheet 5)", good.Text(false))
	for field, spoil := range map[string]func(*trade.Tightening){
		"of":     func(x *trade.Tightening) { x.Of = "nails" },
		"count":  func(x *trade.Tightening) { x.Count = 501 },
		"how":    func(x *trade.Tightening) { x.How = "wet" },
		"steps":  func(x *trade.Tightening) { x.Steps = []string{"30 Nm", "90 deg", "30 Nm"} },
		"order":  func(x *trade.Tightening) { x.Order = []string{"1", "2", "1"} },
		"source": func(x *trade.Tightening) { x.Source = " " },
	} {
		bad := good
		spoil(&bad)
		assert.Contains(t, bad.Check(), field)
		assert.Len(t, bad.Check(), 1, field)
	}
	for _, steps := range [][]string{nil, {"30 Nm", "much"}, {"60 Nm", "30 Nm"}} {
		bad := good
		bad.Steps = steps
		assert.Contains(t, bad.Check(), "steps", steps)
	}
}

func TestAssemblyTicksEachStep(t *testing.T) {
	caps := trade.Tightening{Of: "cam_caps", Steps: []string{"8 Nm", "20 Nm"}, Source: "sheet 5"}
	bolts := trade.Tightening{Of: "head_bolts", Steps: []string{"30 Nm"}, Source: "sheet 5"}
	form := trade.Assemble.RecordWith([]trade.Tightening{caps, bolts})
	base := trade.Assemble.Record
	require.Len(t, form.Fields, len(base.Fields)+2, "what is pulled down at refit is not ticked")
	assert.Same(t, base, trade.Assemble.RecordWith([]trade.Tightening{bolts}))
	assert.Same(t, trade.FinalWash.Record, trade.FinalWash.RecordWith([]trade.Tightening{caps}),
		"only where it is assembled")
	v := trade.Values{"cam_caps.1": "yes"}
	for _, f := range base.Fields {
		v[f.Name] = "yes"
	}
	said, err := form.Judge(v, nil)
	require.NoError(t, err)
	assert.False(t, said.OK)
	assert.Equal(t, "still to be done: Cam caps: 20 Nm", said.Says.String())
	assert.True(t, form.Ticked(), "what is not ticked has not failed")
	assert.False(t, trade.PressureTest.Record.Ticked())
	assert.False(t, trade.SealTest.Record.Ticked())
	v["cam_caps.2"] = "yes"
	said, err = form.Judge(v, nil)
	require.NoError(t, err)
	assert.True(t, said.OK)
	v[base.Fields[0].Name] = ""
	said, err = form.Judge(v, nil)
	require.NoError(t, err)
	assert.False(t, said.OK, "what every assembly asks stays")
}
