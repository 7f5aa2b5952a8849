package web

import (
	"go/ast"
	"go/parser"
	"go/token"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/gauge"
	"yatai/core/head"
	"yatai/core/plan"
	"yatai/core/practice"
	"yatai/core/trade"
	"yatai/core/words"
	"yatai/internal/demofile"
	"yatai/shop"
	"yatai/shop/bench"
	"yatai/shop/headfile"
	"yatai/shop/inout"
	"yatai/shop/intake"
	"yatai/shop/library"
	"yatai/shop/people"
	"yatai/store"
	"yatai/web/page"
	"yatai/web/paper"
)

// spokenViews are the views that every language has words for.
var spokenViews = []string{
	"layout", "partials", "sweep", "measure", "findings", "map", "tray", "newparts", "sheet", "customer", "ended",
	"search", "signin", "me", "failed", "customerfleet", "practice", "practicehead", "practiceread", "practicelook",
	"practicesay", "practicetruth",
}

// inTemplates finds what the templates say: {{t "Tool"}}, (t "%d of %d" .Read .Of).
var inTemplates = regexp.MustCompile("(?:[({]|\\{\\{- )t\\s+(\"(?:[^\"\\\\]|\\\\.)*\")")

// sentences lists what the bench, the work sheets and the customer's page say, by where it is said.
func sentences(t *testing.T) map[string]string {
	all := map[string]string{}
	add := func(where string, said ...string) {
		for _, s := range said {
			if strings.Trim(s, " %s.:;,") != "" {
				all[s] = where
			}
		}
	}
	for _, v := range spokenViews {
		text, err := files.ReadFile("views/" + v + ".html")
		require.NoError(t, err)
		for _, m := range inTemplates.FindAllStringSubmatch(string(text), -1) {
			s, err := strconv.Unquote(m[1])
			require.NoError(t, err, m[1])
			add(v+".html", s)
		}
	}
	script, err := files.ReadFile("static/bench.js")
	require.NoError(t, err)
	add("bench.js", page.ScriptSays(script)...)
	for _, path := range []string{
		"../core/judge/judge.go", "../core/head/head.go", "../core/quote/quote.go", "../core/length/parse.go",
		"../core/trade/typed.go", "../core/trade/entry.go",
		"../core/trade/record.go", "../core/trade/leaves.go", "../core/trade/tightening.go", "../core/quantity/quantity.go",
		"../core/layout/layout.go",
		"../core/newpart/newpart.go", "../core/tray/tray.go",
		"../shop/bench/bench.go", "../shop/bench/record.go", "../shop/bench/findings.go", "../shop/work/sheet.go",
		"../shop/headfile/record.go",
		"../shop/shop.go", "../store/store.go", "../shop/work/alike.go", "../shop/headfile/tray.go", "../shop/bench/tray.go", "../shop/bench/box.go",
		"../shop/bench/zero.go",
		"../shop/people/signin.go", "page/page.go", "draw/tray.go",
		"../shop/headfile/file.go", "../shop/headfile/money.go", "../shop/headfile/approved.go", "../shop/lead/plan.go",
		"../shop/quoting/approve.go", "../shop/work/stint.go", "../shop/work/setup.go", "../shop/parts/use.go", "../shop/quoting/quote.go",
		"../shop/inout/template.go",
		"../shop/quoting/send.go", "../shop/quoting/sooner.go",
		"../shop/people/people.go", "../shop/billing/remind.go", "../shop/billing/invoice.go", "../shop/quoting/wearing.go",
		"../shop/following/wear.go", "../shop/following/ahead.go",
		"bench/bench.go", "draw/headmap.go", "work/work.go", "paper/paper.go", "paper/bill.go",
		"../shop/practising/practising.go", "../shop/practising/seal.go", "../shop/practising/score.go",
		"../core/practice/score.go", "practising/read.go", "practising/say.go", "practising/practising.go",
		"paper/fleet.go", "customers/fleet.go", "../shop/fleet/fleet.go", "quoting/quote.go",
	} {
		add(path, literals(t, path)...)
	}
	add("a bill", "What was done until it went back")
	add("a quote", "An earlier day")
	mail := shop.SettingsFor(nil, "")
	add("the usual mail", mail.Get("mail_subject"), mail.Get("mail_text"))
	for _, c := range trade.Characteristics {
		add("a characteristic", c.Label)
		add("a characteristic's words", c.Words...)
		add("its tools", c.Tools...)
		for _, place := range append(c.Places, "") {
			for _, dir := range append(c.Dirs, "") {
				add("its places", strings.TrimSpace(place+" "+dir))
			}
		}
	}
	for _, p := range trade.Parts {
		add("a part", p.Label)
		for _, g := range p.Grades {
			add("a grade", g.Label, g.Line)
		}
	}
	for _, o := range trade.Operations() {
		add("an operation", o.Name, o.Because, o.Caution, o.Station)
		if o.Record != nil {
			for _, f := range o.Record.Fields {
				add("a record", f.Label, f.Hint)
			}
		}
		if o.Proof != nil {
			add("a proof", o.Proof.Datum, o.Proof.Tool)
		}
	}
	for _, c := range trade.Causes {
		add("a cause", c.Name)
	}
	for _, k := range inout.Kinds {
		for _, c := range k.Columns {
			add("a table's column", c.Label)
		}
	}
	add("a table of readings", paper.Columns()...)
	add("its sheet", "Readings")
	for _, set := range library.SetLabels {
		add("a set of limits", set.Label)
	}
	for _, x := range trade.Fasteners {
		add("a fastener", x.Label)
	}
	add("how it is tightened", trade.TightenedHow[1:]...)
	for _, s := range trade.Settings {
		if s.School {
			add("a school", append(s.Choices, s.Label)...)
		}
	}
	for _, m := range trade.Modes {
		add("a way of entering", m.Label, m.Hint)
	}
	for _, a := range plan.Alternatives {
		add("an alternative", a.Label)
	}
	for v := gauge.Unread; v <= gauge.Renew; v++ {
		add("a verdict", v.Label())
	}
	for _, k := range intake.IntakeKinds {
		add("a kind of job", k.Label)
	}
	for _, said := range trade.SuspectSays {
		add("a vacuum test", said)
	}
	add("a dropped valve", trade.ThudSays)
	add("a dropped valve", trade.BounceSays)
	st, err := store.Open(demofile.Path(t))
	require.NoError(t, err)
	t.Cleanup(func() { _ = st.Close() })
	f, err := headfile.Open(t.Context(), shop.New(st, time.Now), "T0401")
	require.NoError(t, err)
	for _, step := range f.Steps() {
		add("the route card", step.Name, step.State)
	}
	for _, x := range f.Received.Own {
		add("the head's own", x.Label)
	}
	for _, l := range practice.Lessons {
		add("a lesson", l.Title, l.Line)
	}
	for _, x := range practice.Troubles {
		add("a trouble", x.Name, x.Story, x.Care.Sentence)
	}
	for _, k := range practice.Skills {
		add("a skill", k.Label, k.Line)
	}
	for _, l := range practice.Levels {
		add("how hard", l.Label)
	}
	for _, x := range practice.Tools() {
		add("a practice tool", x.Name)
	}
	for _, s := range trade.Symptoms {
		add("a symptom", s.Label)
	}
	for _, s := range trade.Signs {
		add("a sign", s.Label)
	}
	for _, c := range practice.Draw(practice.Key{}, practice.Lessons[len(practice.Lessons)-1], 1, "").Reads() {
		add("what it is", c.Line)
	}
	for _, r := range trade.Repairs() {
		if r.Choice != "" {
			add("a choice", r.Name)
		}
	}
	add("a metal", "seat", "valve", "guide")
	add("what a hand does", "Tilt it: the least it shows is right", "Close it until it clicks",
		"Turn it the whole way round", "no click: it does not touch yet", "it clicks and holds",
		"pressed: it clicks and clicks")
	add("what is to be learnt", "out, and not read", "right by luck: the reading could not tell",
		"the reading said so: a tool or the hand was off", "read, and nothing said", "this reading could tell", "wrong",
		"nothing the head shows", "keep")
	add("a kind of quote", "Quote", "Supplement")
	add("a bank", store.Head{Bank: "left"}.Which(), store.Head{Bank: "right"}.Which())
	add("a decimal sign", people.Decimals...)
	add("a role", shop.Roles...)
	add("a stage", head.Stages...)
	for _, state := range headfile.PlaceStates {
		add("a part's place", state.Label, state.Code)
	}
	for _, drive := range trade.Drives {
		add("a part on the tray", headfile.TrayParts(drive)...)
	}
	add("how cracks are looked for", bench.CrackMethods...)
	add("a valve's back", "dry", "oily", "carbon")
	add("the one unit that is a word", "passes")
	for _, k := range trade.PartKinds() {
		add("a kind of part", k.Name)
	}
	add("a state", "waiting", "running", "done", "held", "skipped")
	return all
}

// speaks are the functions whose first argument is a sentence, and those with a message further on.
var speaks = map[string]int{
	"Of": 0, "Mid": 0, "Say": 0, "t": 0, "New": 0, "Addf": 1, "Errorf": 1, "Only": 1, "Required": 3,
}

// literals lists the sentences in a file.
func literals(t *testing.T, path string) []string {
	file, err := parser.ParseFile(token.NewFileSet(), path, nil, 0)
	require.NoError(t, err)
	var out []string
	keep := func(e ast.Expr) {
		if lit, ok := e.(*ast.BasicLit); ok && lit.Kind == token.STRING {
			s, err := strconv.Unquote(lit.Value)
			require.NoError(t, err)
			out = append(out, s)
		}
	}
	ast.Inspect(file, func(n ast.Node) bool {
		if all, ok := n.(*ast.CompositeLit); ok && named(all.Type) == "field.Errors" {
			for _, e := range all.Elts {
				keep(e.(*ast.KeyValueExpr).Value)
			}
		}
		call, ok := n.(*ast.CallExpr)
		if !ok {
			return true
		}
		sel, ok := call.Fun.(*ast.SelectorExpr)
		if !ok {
			return true
		}
		at, ok := speaks[sel.Sel.Name]
		if !ok || len(call.Args) <= at {
			return true
		}
		if sel.Sel.Name != "New" || named(call.Fun) == "errors.New" {
			keep(call.Args[at])
		}
		return true
	})
	return out
}

// named writes what an expression names: "errors.New".
func named(e ast.Expr) string {
	sel, ok := e.(*ast.SelectorExpr)
	if !ok {
		return ""
	}
	x, ok := sel.X.(*ast.Ident)
	if !ok {
		return ""
	}
	return x.Name + "." + sel.Sel.Name
}

func TestGermanHasWordsForTheBenchTheSheetAndTheCustomer(t *testing.T) {
	all := sentences(t)
	var lacking []string
	for s, where := range all {
		if _, own := words.German.Own(s); !own {
			lacking = append(lacking, where+": "+s)
		}
	}
	slices.Sort(lacking)
	assert.Empty(t, lacking)
	unsaid := slices.DeleteFunc(words.German.Sentences(), func(s string) bool { return all[s] != "" })
	assert.Empty(t, unsaid, "nobody says these any more")
}

// TestWordsAreFilledAlike holds each sentence's fillings against those of the original.
