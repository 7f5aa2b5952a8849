package trade

import (
	"slices"
	"strconv"
	"strings"
	"sync"

	"yatai/core/field"
	"yatai/core/length"
	"yatai/core/money"
	"yatai/core/quantity"
)

// Setting is a choice of the shop that the rules of the job hang on. Usual is what holds where
// nothing was chosen.
type Setting struct {
	Name    string
	Label   string
	Usual   string
	Kind    string   // money, percent, count, pressure, choice, length or share
	Choices []string // of a choice
	School  bool     // a head can have its own
	Help    string
}

// BlankedHours is the setting of how long the vacuum tester's best of the day stands.
const BlankedHours = "seal_hours"

// Own tells whether it is a shop's own figure of an operation: see Labour.
func (s Setting) Own() bool { return s.Kind == "minutes" || s.Kind == "price" || s.Kind == "hands" }

// Settings are the choices the rules of the job hang on.
var Settings = []Setting{
	{"rate", "Hourly rate", "64.00", "money", nil, false, ""},
	{"markup", "Markup on parts, percent", "25", "percent", nil, false, ""},
	{"tax", "Tax, percent", "20", "percent", nil, false, ""},
	{
		"tax_parts", "Tax on parts where it is another, percent", "", "percent", nil, false,
		"empty: the same; labour, discounts and the least charge are taxed as above",
	},
	{"discount", "Discount on labour, percent", "0", "percent", nil, false, ""},
	{"minimum", "Least charge", "90.00", "money", nil, false, ""},
	{
		"lap_limit", "Lapping passes worth a second look", "6", "count", nil, false,
		"a full ring passes whatever the count",
	},
	{"test_pressure.iron", "Pressure test, iron heads", "2bar", "pressure", nil, false, "3 bar at most"},
	{
		"test_pressure.aluminium", "Pressure test, aluminium heads", "1.5bar", "pressure", nil, false,
		"3 bar at most",
	},
	{"test_minutes", "Pressure test, minutes", "10", "count", nil, false, ""},
	{"seal_drop", "Vacuum a port may lose", "5kPa", "pressure", nil, false, "where the sheet has no limit"},
	{
		BlankedHours, "Vacuum: hours that the blanked cup's reading stands", "12", "count", nil, false,
		"older, the cup is blanked and read again before a port",
	},
	{"seal_liquid", "Minutes liquid is held", "2", "count", nil, false, "where the sheet has no limit"},
	{
		"scatter.seat", "Seat machine: scatter of a cut", "0.010mm", "length", nil, false,
		"standard deviation of what it makes",
	},
	{
		"scatter.grind", "Valve grinder: scatter of a cut", "0.005mm", "length", nil, false,
		"standard deviation of what it makes",
	},
	{
		"scatter.face", "Surfacer: scatter of a cut", "0.005mm", "length", nil, false,
		"standard deviation of what it makes",
	},
	{
		"scatter.tip", "Tip grinder: scatter of a cut", "0.005mm", "length", nil, false,
		"standard deviation of what it makes",
	},
	{"robust", "A robust plan ends inside in, percent", "95", "percent", nil, false, ""},

	{
		"school.face", "Face the head", "last", "choice", []string{"last", "first"}, true,
		"last: seats and guides first, their targets are larger by the cut. First: depths are measured from a finished face.",
	},
	{
		"school.angle", "Seat and valve angle", "same", "choice", []string{"same", "interference"}, true,
		"interference: the valve face half a degree flatter, contact at the outer edge; lapping rounds that line away.",
	},
	{
		"school.lapping", "Lapping", "as a test", "choice", []string{"as a test", "always"}, true,
		"always: every cut seat is lapped as a finish.",
	},
	{
		"school.clearance", "Guide clearance aimed at", "maker's middle", "choice",
		[]string{"maker's middle", "tight intake, loose exhaust"},
		true, "looser still when air-cooled.",
	},
	{
		"school.averaging", "Shown beside the worst reading", "worst only", "choice",
		[]string{"worst only", "mean as well"}, true,
		"limits are held against the worst reading either way.",
	},
	{
		"school.seal", "Seal test", "vacuum", "choice", []string{"vacuum", "liquid", "both", "drop"}, true,
		"one at least is required before hand-over.",
	},
	{
		"school.seal_when", "Seal test on", "bare valves", "choice", []string{"bare valves", "assembled valves"},
		true,
		"bare valves: before the springs go in. Assembled: with the springs in.",
	},
	{
		"school.depths", "Seat depths", "each its own", "choice", []string{"each its own", "all alike"}, true,
		"all alike: the plan keeps a row within 0.05 mm (0.002 in).",
	},
	{"school.springs", "Springs", "as a set", "choice", []string{"as a set", "the weak ones"}, true, ""},
}

// SettingNamed returns the setting of that name.
func SettingNamed(name string) (Setting, bool) {
	if s, ok := settingsByName()[name]; ok {
		return s, true
	}
	return workSetting(name)
}

var settingsByName = sync.OnceValue(func() map[string]Setting {
	all := map[string]Setting{}
	for _, s := range Settings {
		all[s.Name] = s
	}
	return all
})

// Check refuses what the setting cannot be.
func (s Setting) Check(v string) error {
	switch s.Kind {
	case "minutes", "price", "hands":
		return checkWork(s.Kind, v)
	case "money":
		_, err := money.Parse(v)
		return err
	case "percent":
		if v == "" && s.Usual == "" {
			return nil
		}
		c, err := money.Parse(v)
		if err == nil && c > 100_00 {
			err = field.Errorf("", "between 0 and 100 percent")
		}
		return err
	case "count":
		if n, err := strconv.Atoi(v); err != nil || n < 0 || n > 100_000 {
			return field.Errorf("", "a whole number")
		}
	case "pressure":
		p, err := quantity.Parse(v, quantity.Pressure)
		if err == nil && (p.Sign() < 0 || quantity.Float(p) > MostPressure) {
			err = field.Errorf("", "between 0 and %d kPa", MostPressure)
		}
		return err
	case "length":
		l, err := length.Parse(v, length.None)
		if err == nil && (l < 0 || l > length.Millimetre) {
			err = field.Errorf("", "between 0 and 1 mm")
		}
		return err
	case "choice":
		if !slices.Contains(s.Choices, v) {
			return field.Errorf("", "one of %s", strings.Join(s.Choices, ", "))
		}
	}
	return nil
}
