package shop_test

import (
	"context"
	"errors"
	"fmt"
	"maps"
	"reflect"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/field"
	"yatai/core/head"
	"yatai/core/trade"
	"yatai/internal/sample"
	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/bench"
	"yatai/shop/customers"
	"yatai/shop/following"
	"yatai/shop/headfile"
	"yatai/shop/intake"
	"yatai/shop/lead"
	"yatai/shop/library"
	"yatai/shop/parts"
	"yatai/shop/people"
	"yatai/shop/quoting"
	"yatai/shop/week"
	"yatai/shop/work"
	"yatai/store"
)

// long is more than any field takes.
var long = strings.Repeat("long ", 2000)

// mistake is a field of a form, what is typed into it, and the field that is named: the form's own
// name of it.
type mistake struct{ in, typed, named string }

// with returns a form with one field typed otherwise.
func with[F any](form F, m mistake) F {
	v := reflect.ValueOf(&form).Elem().FieldByName(m.in)
	if v.Kind() == reflect.Slice {
		v.Set(reflect.ValueOf([]string{m.typed}))
	} else {
		v.SetString(m.typed)
	}
	return form
}

// named lists the fields that an error names.
func named(err error) []string {
	var many field.Errors
	var one *field.Error
	switch {
	case errors.As(err, &many):
		return slices.Sorted(maps.Keys(many))
	case errors.As(err, &one):
		return []string{one.Field}
	}
	return nil
}

// refuses makes each mistake on a form of its own: the field is named, with a sentence that goes
// on from its label, and nothing is written.
func refuses[F any](t *testing.T, f *shoptest.Fixture, form F, write func(F) error, mistakes ...mistake) {
	t.Helper()
	before := content(t, f.Path)
	for _, m := range mistakes {
		err := write(with(form, m))
		require.Error(t, err, "%s %.40q", m.in, m.typed)
		assert.Equal(t, []string{m.named}, named(err), "%s %.40q: %v", m.in, m.typed, err)
		var many field.Errors
		if errors.As(err, &many) {
			said := many.Message(m.named)
			assert.NotEmpty(t, said, m.in)
			assert.Less(t, len(said), 200, m.in)
			assert.NotContains(t, said, "strconv", "%s: what a person reads", m.in)
		}
	}
	assert.Equal(t, before, content(t, f.Path), "nothing is written")
}

func TestMistakesAtTheCounterAreNamed(t *testing.T) {
	f := shoptest.Open(t)
	ctx, front := t.Context(), f.People[shop.Counter]
	refuses(
		t, f,
		intake.IntakeForm{WriteID: shoptest.ID(), Customer: "Somebody new", Machine: "A loader", Model: "1", Kind: "rebuild"},
		func(form intake.IntakeForm) error { return only(intake.TakeIn(ctx, f.Shop, front, form)) },
		mistake{"Customer", " ", "customer"}, mistake{"Customer", long, "customer"},
		mistake{"Machine", "", "machine"}, mistake{"Kind", "toy", "kind"}, mistake{"Model", "x", "model"},
		mistake{"Model", "9999", "model"}, mistake{"Heads", "0", "heads"}, mistake{"Heads", "99", "heads"},
		mistake{"Promise", "tomorrow", "promise"}, mistake{"Promise", "1931-05-20", "promise"},
		mistake{"Regulated", "perhaps", "regulated"}, mistake{"Story", long, "story"},
		mistake{"Marks", "\x00", "marks"}, mistake{"With", "T9999", "with"}, mistake{"Symptoms", "sings", "symptoms"},
		mistake{"WriteID", "x", "write_id"},
	)
	refuses(t, f, customers.Form{WriteID: shoptest.ID(), Name: "Mossfield & Daughter"},
		func(form customers.Form) error { return customers.Change(ctx, f.Shop, front, 1, form) },
		mistake{"Name", "", "name"}, mistake{"Name", long, "name"}, mistake{"Email", "somebody", "email"},
		mistake{"Discount", "much", "discount"},
		mistake{"Discount", "101", "discount"}, mistake{"Weight", "0", "weight"}, mistake{"Weight", "12", "weight"},
		mistake{"Language", "xx", "language"}, mistake{"Note", long, "note"}, mistake{"Taxed", "never", "taxed"},
		mistake{"Taxed", store.Exempt, "no_tax"}, mistake{"Taxed", store.Reverse, "tax_no"},
		mistake{"NoTax", "a farm", "taxed"}, mistake{"Country", "Elsewhere", "country"},
		mistake{"Prices", "round", "prices"}, mistake{"TaxNo", long, "tax_no"},
	)
	refuses(t, f, customers.EraseForm{WriteID: shoptest.ID(), Name: "Mossfield Growers", Why: "their letter"},
		func(form customers.EraseForm) error {
			return customers.Erase(ctx, f.Shop, f.People[shop.Owner], 1, form)
		},
		mistake{"Name", "Mossfield", "erase_name"}, mistake{"Why", "", "erase_why"}, mistake{"Why", long, "erase_why"},
	)
	type reminder struct{ Day, What, Tag string }
	refuses(t, f, reminder{"2031-05-20", "torque again", "T0401"},
		func(r reminder) error {
			return following.Remind(ctx, f.Shop, front, shoptest.ID(), r.Tag, r.Day, r.What)
		},
		mistake{"Day", "soon", "day"}, mistake{"Day", "2031-13-01", "day"}, mistake{"What", "", "what"},
		mistake{"What", long, "what"},
	)
	refuses(
		t, f,
		parts.StockForm{WriteID: shoptest.ID(), Kind: "gasket", Name: "A spare gasket", Price: "12.50", Count: "2"},
		func(form parts.StockForm) error { return parts.AddStock(ctx, f.Shop, f.People[shop.Lead], form) },
		mistake{"Kind", "toy", "kind"}, mistake{"Name", "", "name"}, mistake{"Price", "dear", "price"},
		mistake{"Price", "-1", "price"}, mistake{"Count", "two", "count"}, mistake{"Count", "-3", "count"},
		mistake{"Role", "third", "role"}, mistake{"Size", "big", "size"}, mistake{"Least", "-1", "least"},
		mistake{"Lead", "soon", "lead"}, mistake{"Model", "9999", "model"},
	)
	row, err := firstStock(ctx, f)
	require.NoError(t, err)
	at := fmt.Sprintf("count/%d", row.ID)
	type counted struct{ Count, Why string }
	refuses(t, f, counted{"4", "counted"},
		func(c counted) error {
			return parts.CountStock(ctx, f.Shop, f.People[shop.Lead], shoptest.ID(), row.ID, c.Count, c.Why)
		},
		mistake{"Count", "many", at}, mistake{"Count", "-1", at},
	)
}

func TestMistakesAtTheBenchAreNamed(t *testing.T) {
	f := shoptest.Open(t)
	ctx, tech := t.Context(), f.People[shop.Technician]
	refuses(t, f, bench.MarkForm{WriteID: shoptest.ID(), Grade: "crack", X: "50", Y: "40", Stage: head.AsReceived},
		func(m bench.MarkForm) error { return bench.Mark(ctx, f.Shop, tech, "T0407", m) },
		mistake{"Grade", "toy", "grade"}, mistake{"X", "far", "x"}, mistake{"X", "5000", "x"}, mistake{"Y", "-2", "y"},
		mistake{"Stage", "later", "stage"},
		mistake{"Note", long, "note"}, mistake{"Thread", "M10x1.25", "thread"},
	)
	refuses(
		t, f,
		bench.MarkForm{WriteID: shoptest.ID(), Grade: "thread", X: "50", Y: "40", Stage: head.AsReceived, Thread: "M10x1.25"},
		func(m bench.MarkForm) error { return bench.Mark(ctx, f.Shop, tech, "T0407", m) },
		mistake{"Thread", "ten", "thread"}, mistake{"Thread", "M10x9", "thread"},
	)
	form := bench.SweepForm{
		Characteristic: "valve.margin", Stage: head.AsReceived, Tool: 3,
		Entries: []bench.Entry{{ClientID: shoptest.ID(), Spot: trade.Spot{Position: "1I1"}, Text: "1.71"}},
	}
	refuses(t, f, form,
		func(s bench.SweepForm) error { return f.Typed(ctx, tech, "T0407", s) },
		mistake{"Stage", "later", "stage"}, mistake{"Mode", "by ear", "mode"}, mistake{"Warm", "warm", "warm"},
		mistake{"Warm", "900", "warm"},
	)
	type entry struct{ Typed, Place, ID string }
	refuses(t, f, entry{"1.71", "1I1", "a-client-made-id"},
		func(e entry) error {
			again := form
			again.Entries = []bench.Entry{{ClientID: e.ID, Spot: trade.Spot{Position: e.Place}, Text: e.Typed}}
			return f.Typed(ctx, tech, "T0407", again)
		},
		mistake{"Typed", "blue", "1I1"}, mistake{"Typed", "85", "1I1"}, mistake{"Typed", "-1.7", "1I1"},
		mistake{"Typed", "1.7 ell", "1I1"},
		mistake{"Typed", long, "1I1"}, mistake{"Place", "9E9", "9E9"}, mistake{"ID", "x", "1I1"},
	)
	refuses(t, f, study(shoptest.ID()), func(s bench.StudyForm) error {
		return bench.KeepStudy(ctx, f.Shop, f.People[shop.Lead], 3, s)
	},
		mistake{"People", "Ilka", "person/1"})
	type test struct{ Method, Seen string }
	refuses(t, f, test{bench.CrackMethods[0], "nothing"},
		func(c test) error {
			return bench.TestCracks(ctx, f.Shop, tech, shoptest.ID(), "T0407", c.Method, c.Seen)
		},
		mistake{"Method", "by smell", "method"}, mistake{"Seen", "", "seen"}, mistake{"Seen", long, "seen"},
	)
	before := content(t, f.Path)
	for state, names := range map[string][]string{"lost": {"1I1/valve"}, "inferred": {"evidence"}} {
		err := bench.PlaceParts(ctx, f.Shop, tech, shoptest.ID(), "T0407", map[string]string{"1I1/valve": state}, "")
		assert.Equal(t, names, named(err), state)
	}
	err := bench.PlaceParts(ctx, f.Shop, tech, shoptest.ID(), "T0407", map[string]string{"1I1/engine": "own"}, "")
	assert.Equal(t, []string{"1I1/engine"}, named(err))
	err = bench.Grade(ctx, f.Shop, tech, shoptest.ID(), "T0407", "valve.face", head.AsReceived,
		map[string]string{"1I1": "toy", "9E9": "clean"}, nil)
	assert.Equal(t, []string{"1I1", "9E9"}, named(err), "each in its own row")
	assert.Equal(t, before, content(t, f.Path))
}

func TestMistakesInTheLibraryAreNamed(t *testing.T) {
	f := shoptest.Open(t)
	ctx, owner := t.Context(), f.People[shop.Owner]
	refuses(t, f, library.ModelForm{
		WriteID: shoptest.ID(), Name: "Test 4", Material: "iron", Drive: "rocker", Unit: "mm", Cylinders: "4", Pattern: "IE",
		Pitch: "110", Bore: "95",
		Width: "160", IntakeHead: "40", ExhaustHead: "36", Ignition: "plug", Cooling: "water", FirstAt: "left",
	}, func(form library.ModelForm) error { return only(library.AddModel(ctx, f.Shop, owner, form)) },
		mistake{"Name", "", "name"}, mistake{"Name", "Brindlow G4", "name"}, mistake{"Material", "wood", "material"},
		mistake{"Drive", "belt", "drive"},
		mistake{"Unit", "ell", "unit"}, mistake{"Cylinders", "four", "cylinders"}, mistake{"Cylinders", "40", "cylinders"},
		mistake{"Pattern", "XX", "pattern"}, mistake{"Pattern", "IE IE", "pattern"}, mistake{"Pitch", "wide", "pitch"},
		mistake{"Pitch", "9 m", "pitch"},
		mistake{"Bore", "-95", "bore"}, mistake{"IntakeHead", "400", "intake_head"}, mistake{"Ignition", "match", "ignition"},
		mistake{"Cooling", "oil", "cooling"}, mistake{"FirstAt", "top", "first_at"}, mistake{"About", long, "about"},
	)
	refuses(
		t, f,
		library.ToolForm{
			WriteID: shoptest.ID(), Name: "Spare", Kind: library.ToolKinds()[0], Resolution: "0.001", U: "0.004",
		},
		func(form library.ToolForm) error { return library.AddTool(ctx, f.Shop, owner, form) },
		mistake{"Name", "", "name"}, mistake{"Kind", "spoon", "kind"}, mistake{"Resolution", "fine", "resolution"},
		mistake{"Resolution", "", "resolution"}, mistake{"U", "small", "u"}, mistake{"Due", "soon", "due"},
		mistake{"Standard", "round", "standard"},
	)
	refuses(t, f, library.OwnForm{
		WriteID: shoptest.ID(), Label: "Depth of the relief", Spot: trade.Wheres[0], Unit: "length",
		Stat: headfile.OwnStats[0], ToolKind: library.ToolKinds()[0],
	}, func(form library.OwnForm) error { return library.AddOwn(ctx, f.Shop, owner, 1, form) },
		mistake{"Label", "", "label"}, mistake{"Label", long, "label"}, mistake{"Spot", "somewhere", "spot"},
		mistake{"Unit", "ells", "unit"},
		mistake{"Stat", "luck", "stat"}, mistake{"ToolKind", "spoon", "tool_kind"}, mistake{"Repairs", "pray", "repairs"},
	)
	refuses(
		t, f, capTips(shoptest.ID()),
		func(form library.OwnRepairForm) error { return library.AddRepair(ctx, f.Shop, owner, 1, form) },
		mistake{"Name", "", "repair_name"}, mistake{"Name", long, "repair_name"}, mistake{"Works", "guide", "works"},
		mistake{"Station", "attic", "station"}, mistake{"Minutes", "soon", "minutes"},
		mistake{"Minutes", "5", "minutes"}, mistake{"Most", "thick", "most"}, mistake{"Most", "", "most"},
		mistake{"Most", "21", "most"}, mistake{"Least", "thin", "least"},
	)
	refuses(t, f, tightened(shoptest.ID()).Rows["head_bolts"],
		func(row library.TighteningRow) error {
			form := library.TighteningForm{WriteID: shoptest.ID(), Rows: map[string]library.TighteningRow{"head_bolts": row}}
			return library.SetTightening(ctx, f.Shop, owner, 1, form)
		},
		mistake{"Count", "many", "count/head_bolts"}, mistake{"Steps", "tight", "steps/head_bolts"},
		mistake{"How", "wet", "how/head_bolts"},
		mistake{"Order", "1 99", "order/head_bolts"}, mistake{"Source", "", "source/head_bolts"},
	)
	m, err := library.ModelOf(ctx, f.Shop, 1)
	require.NoError(t, err)
	refuses(t, f, library.LimitEntry{Low: "1.1", High: "1.9", Source: "leaflet"},
		func(e library.LimitEntry) error {
			rows := map[string]library.LimitEntry{"valve.margin/intake": e}
			return only(library.EditSheet(ctx, f.Shop, owner, 1, library.SheetForm{
				WriteID: shoptest.ID(), Version: m.Sheet.Version, Set: head.Service, Note: "found", Rows: rows,
			}))
		},
		mistake{"Low", "thin", "valve.margin/intake/low"}, mistake{"High", "thick", "valve.margin/intake/high"},
		mistake{"High", "1.0", "valve.margin/intake/low"}, mistake{"Source", "", "valve.margin/intake/source"},
		mistake{"Near", "-1", "valve.margin/intake/near"}, mistake{"Source", long, "valve.margin/intake/source"},
	)
	refuses(t, f, library.SheetForm{
		WriteID: shoptest.ID(), Version: m.Sheet.Version, Set: head.Service, Note: "found", Source: "leaflet",
	},
		func(form library.SheetForm) error { return only(library.EditSheet(ctx, f.Shop, owner, 1, form)) },
		mistake{"Source", long, "source"}, mistake{"Note", long, "note"},
	)
	type spot struct{ What, Name, X string }
	refuses(t, f, spot{"bolt", "1", "20"},
		func(p spot) error {
			return library.MoveOnFace(ctx, f.Shop, owner, shoptest.ID(), 1, p.What, p.Name, p.X, "20", "12")
		},
		mistake{"X", "left", "x"},
	)
}

func TestMistakesOfTheOwnerAreNamed(t *testing.T) {
	f := shoptest.Open(t)
	ctx, owner := t.Context(), f.People[shop.Owner]
	refuses(
		t, f,
		people.PersonForm{
			WriteID: shoptest.ID(), Name: "Tam", Role: shop.Technician, Password: "quiet-river-9", PIN: "2468",
			Unit: "mm",
		},
		func(p people.PersonForm) error { return people.AddPerson(ctx, f.Shop, owner, p) },
		mistake{"Name", "", "name"}, mistake{"Name", "Ilka", "name"}, mistake{"Role", "king", "role"},
		mistake{"Password", "short", "password"}, mistake{"PIN", "12", "pin"}, mistake{"PIN", "12ab", "pin"},
		mistake{"Unit", "ell", "unit"},
	)
	refuses(t, f, people.WorkForm{WriteID: shoptest.ID(), Hours: "Mon-Fri 8:00-12:00", Skills: []string{"wash"}},
		func(w people.WorkForm) error {
			return people.SetWork(ctx, f.Shop, owner, f.People[shop.Technician].ID, w,
				func(code string) bool { return trade.OperationNamed(code) != nil })
		},
		mistake{"Hours", "mornings", "hours"}, mistake{"Hours", "Mon 12:00-8:00", "hours"},
		mistake{"DaysOff", "easter", "days_off"},
		mistake{"Skills", "singing", "skills"},
	)
	refuses(t, f, week.StationForm{Capacity: "2", Hours: "Mon-Fri 8:00-16:00"},
		func(st week.StationForm) error {
			return week.SetStations(ctx, f.Shop, owner, shoptest.ID(), map[uint]week.StationForm{1: st}, "")
		},
		mistake{"Capacity", "many", "capacity/1"}, mistake{"Capacity", "0", "capacity/1"},
		mistake{"Hours", "always", "hours/1"},
	)
	before := content(t, f.Path)
	for name, values := range map[string][]string{
		"rate": {"much", "-1"}, "tax": {"101", "x"}, "lap_limit": {"often"}, "test_pressure.iron": {"9 bar", "2"},
		"school.seal": {"by ear"},
		"time_zone":   {"Middle Earth"}, "mail_text": {long},
	} {
		for _, v := range values {
			err := f.SetSettings(ctx, owner, shoptest.ID(), map[string]string{name: v}, nil)
			assert.Equal(t, []string{name}, named(err), "%s %.20q: %v", name, v, err)
		}
	}
	for name, v := range map[string]string{
		trade.MinutesOf + "wash": "long", trade.PriceOf + "wash": "dear", trade.HandsOf + "wash": "9",
	} {
		err := library.SetLabour(ctx, f.Shop, owner, shoptest.ID(), map[string]string{name: v})
		assert.Equal(t, []string{name}, named(err), "%s %q", name, v)
	}
	assert.Equal(t, before, content(t, f.Path))
}

func TestMistakesOfTheLeadAndAtWorkAreNamed(t *testing.T) {
	f := shoptest.Open(t)
	ctx, chief := t.Context(), f.People[shop.Lead]
	file := f.File(t, "T0401")
	key := file.Received.Findings()[0].Key()
	refuses(t, f, lead.Choice{Choice: trade.Leave, Reason: "read twice"},
		func(c lead.Choice) error {
			return lead.Decide(ctx, f.Shop, chief, shoptest.ID(), "T0401", map[string]lead.Choice{key: c}, headfile.PlanAsk{})
		},
		mistake{"Choice", "pray", key}, mistake{"Choice", "", key}, mistake{"Reason", "", key},
	)
	rows, err := lead.Causes(ctx, f.Shop, file)
	require.NoError(t, err)
	type call struct{ State, Note string }
	refuses(t, f, call{"confirmed", "seen"},
		func(c call) error {
			return lead.CallCause(ctx, f.Shop, chief, shoptest.ID(), "T0401", rows[0].Code, c.State, c.Note)
		},
		mistake{"State", "maybe", "note/" + rows[0].Code},
	)
	type reason struct{ Why string }
	refuses(t, f, reason{"cracked"}, func(r reason) error {
		return lead.Scrap(ctx, f.Shop, chief, shoptest.ID(), "T0401", r.Why)
	},
		mistake{"Why", " ", "scrap"}, mistake{"Why", long, "scrap"})
	type added struct{ Code, At, Why string }
	refuses(t, f, added{trade.FitGuide.Code, "1I1", "it came loose"},
		func(x added) error {
			return work.AddOperation(ctx, f.Shop, chief, shoptest.ID(), "T0415", x.Code, x.At, x.Why)
		},
		mistake{"Code", "pray", "add"}, mistake{"At", "9E9", "add"}, mistake{"Why", "", "add"},
	)
	require.NoError(t, decided(ctx, f, chief, "T0401"))
	type draft struct{ Note, Free string }
	refuses(t, f, draft{},
		func(d draft) error {
			q := quoting.Draft{Note: d.Note, Free: d.Free}
			return only(quoting.MakeQuote(ctx, f.Shop, f.People[shop.Counter], shoptest.ID(), "T0401", q))
		},
		mistake{"Note", long, "note"}, mistake{"Free", "fetched", "free"},
		mistake{"Free", strings.Repeat("fetched = 1.00\n", 30), "free"},
	)
	version, err := quoting.MakeQuote(ctx, f.Shop, f.People[shop.Counter], shoptest.ID(), "T0401", quoting.Draft{})
	require.NoError(t, err)
	refuses(t, f, quoting.Answer{Name: "The grower", Must: true},
		func(a quoting.Answer) error {
			return quoting.ApproveVerbally(ctx, f.Shop, f.People[shop.Counter], shoptest.ID(), "T0401", version, a,
				"by telephone")
		},
		mistake{"Name", "", "name"}, mistake{"Name", long, "name"},
	)
}

// TestNobodyDoesWhatIsNotTheirs tries every write as each role: it is refused before anything is
// looked at, or done as by the one it is for.
func TestNobodyDoesWhatIsNotTheirs(t *testing.T) {
	ctx := context.Background()
	own := []string{"people.ChangeOwn", "library.EditSheet"} // one's own password; done by the owner in any case
	prepared := []string{                                    // something has to be done before by who may
		"quoting.MakeQuote", "quoting.SendQuote", "quoting.ApproveVerbally", "library.ConfirmSheet", "lead.TakeNewerSheet",
		"work.Join",
		"library.DropRepair", "customers.Erase",
	}
	for _, w := range sample.Every(3, writings) {
		if slices.Contains(own, w.name) {
			continue
		}
		f := shoptest.Open(t)
		before := content(t, f.Path)
		nobody := shop.Actor{ID: 999, Name: "a stranger", Role: "visitor"}
		err := w.do(ctx, f, nobody, "stranger-write")
		if assert.Error(t, err, w.name) {
			assert.ErrorIs(t, err, shop.ErrForbidden, w.name)
		}
		if !slices.Contains(prepared, w.name) {
			assert.Equal(t, before, content(t, f.Path), w.name)
		}
	}
}
