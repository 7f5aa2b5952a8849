package inout

import (
	"regexp"
	"slices"
	"strings"

	"yatai/core/field"
	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/table"
	"yatai/store"
)

// Kind is a kind of table. A table of it has to have the columns of Must; who takes it in has to have
// the Right.
type Kind struct {
	Code, Label string
	Right       shop.Action
	Columns     []Column
	Must        []string
	Most        int // rows at a time, where there are fewer than a table can have
	row         func(t *taking, row int) (Row, error)
}

// Column is what a column of a table can be.
type Column struct {
	Code  string
	Label string   // as a page and a template name it, in English; words has the other languages
	Also  []string // what people's own tables call it, in lower case
	Day   bool     // it holds days
	Sum   bool     // it holds sums or counts
	Size  bool     // it holds lengths, whose unit its name can say: "Size, mm"
	Like  string   // what can stand in it
}

// Kinds are the tables that can be taken in.
var Kinds = []Kind{
	{
		Code: "customers", Label: "Customers", Right: "take a table in", Must: []string{"name"},
		row: (*taking).customer,
		Columns: []Column{
			{Code: "name", Label: "Name", Also: []string{"customer", "company", "kunde", "firma"}},
			{
				Code: "contact", Label: "Contact", Like: "Jo Reed",
				Also: []string{"contact person", "person", "ansprechpartner"},
			},
			{
				Code: "telephone", Label: "Telephone", Like: "0117 496 0100",
				Also: []string{"phone", "tel", "tel.", "mobile", "telefonnummer", "fon", "handy", "mobil"},
			},
			{
				Code: "email", Label: "Email", Like: "jo@mill.example",
				Also: []string{"e-mail", "mail", "email address", "e-mail-adresse"},
			},
			{
				Code: "address", Label: "Address", Like: "3 Mill Lane",
				Also: []string{"street", "place", "anschrift", "straße", "ort"},
			},
			{
				Code: "note", Label: "Note",
				Also: []string{"notes", "remark", "remarks", "notiz", "hinweis"},
			},
			{
				Code: "discount", Label: "Discount on labour", Sum: true, Like: "7.5 %",
				Also: []string{"discount", "discount %", "rabatt", "rabatt %"},
			},
		},
	},
	{
		Code: "machines", Label: "Machines", Right: "take a table in", Must: []string{"customer", "machine"},
		row: (*taking).machine,
		Columns: []Column{
			{
				Code: "customer", Label: "Customer",
				Also: []string{"owner", "company", "firma", "besitzer"},
			},
			{
				Code: "machine", Label: "Machine or engine",
				Also: []string{"machine", "engine", "name", "maschine", "motor"},
			},
		},
	},
	{
		Code: "stock", Label: "Stock", Right: "take a table in", Must: []string{"kind", "name"},
		row: (*taking).stock,
		Columns: []Column{
			{
				Code: "kind", Label: "Kind of part", Like: "lash shim",
				Also: []string{"kind", "type", "part", "art", "typ"},
			},
			{
				Code: "name", Label: "Name",
				Also: []string{"item", "article", "description", "artikel", "bezeichnung"},
			},
			{
				Code: "size", Label: "Size", Like: "2.85", Size: true,
				Also: []string{"thickness", "length", "maß", "mass", "dicke", "größe"},
			},
			{Code: "model", Label: "Model", Also: []string{"head", "fits", "kopf", "passend für"}},
			{
				Code: "role", Label: "Intake or exhaust", Like: "intake",
				Also: []string{"role", "side", "seite", "rolle"},
			},
			{
				Code: "price", Label: "Price", Sum: true, Like: "12.50",
				Also: []string{"sale price", "vk", "verkaufspreis"},
			},
			{
				Code: "cost", Label: "What it costs the shop", Sum: true, Like: "8.20",
				Also: []string{"cost", "purchase price", "ek", "einkaufspreis"},
			},
			{
				Code: "count", Label: "How many are there", Sum: true, Like: "12",
				Also: []string{"count", "quantity", "qty", "stock", "on hand", "bestand", "menge", "anzahl", "stück"},
			},
			{
				Code: "least", Label: "Least to have", Sum: true, Like: "4",
				Also: []string{"least", "minimum", "min", "mindestbestand"},
			},
			{Code: "supplier", Label: "Supplier", Also: []string{"from", "vendor", "lieferant"}},
			{
				Code: "lead", Label: "Days to come", Sum: true, Like: "5",
				Also: []string{"days", "lead time", "lieferzeit", "tage"},
			},
			{Code: "dims", Label: "Measures", Also: []string{"dimensions", "abmessungen"}},
		},
	},
	{
		Code: "prices", Label: "Prices of parts", Right: "take a table in", Must: []string{"name"},
		row: (*taking).price,
		Columns: []Column{
			{
				Code: "name", Label: "Name",
				Also: []string{"item", "article", "part", "artikel", "bezeichnung"},
			},
			{
				Code: "price", Label: "Price", Sum: true, Like: "12.50",
				Also: []string{"sale price", "vk", "verkaufspreis"},
			},
			{
				Code: "cost", Label: "What it costs the shop", Sum: true, Like: "8.20",
				Also: []string{"cost", "purchase price", "ek", "einkaufspreis"},
			},
			{Code: "supplier", Label: "Supplier", Also: []string{"from", "vendor", "lieferant"}},
			{
				Code: "lead", Label: "Days to come", Sum: true, Like: "5",
				Also: []string{"days", "lead time", "lieferzeit", "tage"},
			},
		},
	},
	{
		Code: "jobs", Label: "Jobs of before the program", Right: "take a table in",
		Must: []string{"number", "customer", "date"}, row: (*taking).oldJob,
		Columns: []Column{
			{
				Code: "number", Label: "Number", Like: "A-1204",
				Also: []string{"job", "order", "no", "no.", "nr", "nr.", "auftrag", "rechnung"},
			},
			{Code: "customer", Label: "Customer", Also: []string{"name", "company", "firma"}},
			{
				Code: "machine", Label: "Machine or engine",
				Also: []string{"machine", "engine", "maschine", "motor"},
			},
			{Code: "model", Label: "Model", Also: []string{"head", "kopf"}},
			{
				Code: "marks", Label: "Marks", Like: "77-K",
				Also: []string{"mark", "serial", "casting", "nummer am kopf", "gussnummer"},
			},
			{Code: "date", Label: "Day", Like: "2019-05-20", Also: []string{"date", "datum"}, Day: true},
			{Code: "work", Label: "Work", Also: []string{"what", "done", "description", "beschreibung"}},
			{
				Code: "total", Label: "Sum", Sum: true, Like: "412.50",
				Also: []string{"total", "amount", "price", "betrag", "preis"},
			},
		},
	},
	{
		Code: "limits", Label: "Limits of a model", Right: "edit limits", Must: []string{"characteristic"}, Most: 2000,
		row: (*taking).limit,
		Columns: []Column{
			{
				Code: "characteristic", Label: "Characteristic", Like: "Stem clearance",
				Also: []string{"what", "dimension", "measurement", "name", "bezeichnung", "maß"},
			},
			{
				Code: "role", Label: "Intake or exhaust", Like: "intake",
				Also: []string{"role", "valve", "side", "ventil", "rolle", "seite"},
			},
			{
				Code: "low", Label: "From", Like: "0.03", Size: true,
				Also: []string{"low", "min", "min.", "minimum", "lower", "least"},
			},
			{
				Code: "high", Label: "To", Like: "0.08", Size: true,
				Also: []string{"high", "max", "max.", "maximum", "upper", "most", "limit"},
			},
			{Code: "near", Label: "Near it", Like: "0.01", Size: true, Also: []string{"near", "warning"}},
			{Code: "unit", Label: "Unit", Also: []string{"units"}},
			{
				Code: "set", Label: "Which limits", Like: "Service limits",
				Also: []string{"set", "kind", "art"},
			},
			{
				Code: "source", Label: "Where it is from", Like: "workshop manual, p. 12",
				Also: []string{"source", "page", "document", "quelle", "seite im buch"},
			},
		},
	},
}

// KindNamed returns the kind with that code.
func KindNamed(code string) (Kind, bool) {
	i := slices.IndexFunc(Kinds, func(k Kind) bool { return k.Code == code })
	if i < 0 {
		return Kind{}, false
	}
	return Kinds[i], true
}

// column returns the column with that code; nil when there is none.
func (k Kind) column(code string) *Column {
	i := slices.IndexFunc(k.Columns, func(c Column) bool { return c.Code == code })
	if i < 0 {
		return nil
	}
	return &k.Columns[i]
}

// needs tells whether a table has to have a column.
func (k Kind) needs(code string) bool { return slices.Contains(k.Must, code) }

// called returns the code of the column that has a name in one of the languages, or that people call so;
// empty where none is.
func (k Kind) called(name string, also bool) string {
	name, _ = cutUnit(name)
	name = strings.ToLower(name)
	for _, c := range k.Columns {
		switch {
		case also && slices.Contains(c.Also, name):
			return c.Code
		case !also && (name == c.Code || slices.ContainsFunc(words.All, func(l *words.Language) bool {
			return name == strings.ToLower(l.Say(c.Label))
		})):
			return c.Code
		}
	}
	return ""
}

// cutUnit cuts a unit of length off the name of a column: "Size, mm", "Size (in)", "Size [mm]".
func cutUnit(name string) (bare, unit string) {
	m := withUnit.FindStringSubmatch(name)
	if m == nil {
		return name, ""
	}
	return m[1], strings.ToLower(m[2])
}

var withUnit = regexp.MustCompile(`(?i)^(.*?)(?:,\s*|\s*[(\[])(mm|in)[)\]]?$`)

// guesses are what a file's columns seem to be, each once: by its name, else by what people call it.
func (k Kind) guesses(names []string) []string {
	out := make([]string, len(names))
	for _, also := range []bool{false, true} {
		for i, name := range names {
			if code := k.called(name, also); out[i] == "" && !slices.Contains(out, code) {
				out[i] = code
			}
		}
	}
	return out
}

// LeftOut is what is said of a column that is not read.
const LeftOut = "-"

// Said is what a person says of a file's columns, by their number from 0. What nobody says is as it
// was said of a column called so before, or as it is called.
type Said struct {
	As     map[int]string      // the code of what it is, or LeftOut
	Orders map[int]table.Order // of its days
	Signs  map[int]string      // before the decimals of its figures: a point or a comma
	Lines  map[int]string      // which line of a sheet a row is, by its line in the file: "stem.dia/intake"
}

// Found is a column of a file: what it is called, what stands first in it, and what it is read as.
type Found struct {
	Name   string
	First  []string    // up to three cells of it that are not blank
	As     string      // the code of what it is, LeftOut where it is not read
	Before bool        // so it was said before of a column called so
	Asked  bool        // its days can be read in two orders
	Order  table.Order // of its days
	Parts  string      // the sign of its figures that can part thousands or stand before decimals
	Sign   string      // that stands before their decimals
	Unit   string      // of its lengths, as its name says it
	Wrong  string      // what is wrong with what was said of it
}

// firsts is how many cells of a column are shown.
const firsts = 3

// found finds what a file's columns are. Two that are the same are wrong.
func (k Kind) found(t table.Table, said Said, before map[string]store.ColumnName) []Found {
	var out []Found
	taken := map[string]bool{}
	guesses := k.guesses(t.Columns)
	for i, name := range t.Columns {
		f := Found{Name: name, As: LeftOut}
		cells := t.Column(i)
		for _, cell := range cells {
			if len(f.First) < firsts && cell != "" && !slices.Contains(f.First, cell) {
				f.First = append(f.First, cell)
			}
		}
		was, known := before[strings.ToLower(name)]
		switch as, saidSo := said.As[i]; {
		case saidSo && as != LeftOut && k.column(as) == nil:
			f.Wrong = "choose one of the list"
		case saidSo && taken[as]:
			f.As, f.Wrong = as, "another column is that already"
		case saidSo:
			f.As = as
		case known && !taken[was.Means]:
			f.As, f.Before = was.Means, true
		case guesses[i] != "" && !taken[guesses[i]]:
			f.As = guesses[i]
		}
		taken[f.As] = f.As != LeftOut
		c := k.column(f.As)
		if c != nil && c.Size {
			_, f.Unit = cutUnit(name)
		}
		if c != nil && c.Day {
			f.Order, f.Asked = table.OrderOf(cells)
			if f.Asked {
				f.Order = oneSaid(table.Orders, said.Orders[i], table.Order(was.Written))
			}
		}
		if c != nil && c.Sum {
			if f.Sign, f.Parts = table.DecimalOf(cells); f.Parts != "" {
				f.Sign = oneSaid(table.Signs, said.Signs[i], was.Written)
			}
		}
		out = append(out, f)
	}
	otherwise(out)
	return out
}

// oneSaid is the first that was said and is one of what can be; nothing where none is.
func oneSaid[T comparable](can []T, said ...T) (one T) {
	i := slices.IndexFunc(said, func(x T) bool { return slices.Contains(can, x) })
	if i < 0 {
		return one
	}
	return said[i]
}

// otherwise reads figures that their own column does not tell how to read as those of the others are, where
// they all tell the same. A person sees it and can say otherwise.
func otherwise(columns []Found) {
	told := ""
	for _, f := range columns {
		switch {
		case f.Parts != "" || f.Sign == "" || f.Sign == told:
		case told != "":
			return
		default:
			told = f.Sign
		}
	}
	for i := range columns {
		if f := &columns[i]; f.Parts != "" && f.Sign == "" {
			f.Sign = told
		}
	}
}

// wrong is what is wrong with what was said of columns, and which are missing.
func (k Kind) wrong(columns []Found) error {
	errs := field.Errors{}
	has := map[string]bool{}
	for i, f := range columns {
		has[f.As] = true
		if f.Wrong != "" {
			errs.Addf("as."+itoa(i), "%s", f.Wrong)
		}
	}
	for _, must := range k.Must {
		if !has[must] {
			errs.Addf("columns", "which column is it that holds: %s?", k.column(must).Label)
		}
	}
	return errs.Err()
}

// Names are what a template calls a kind's columns in a language, with the unit of its lengths.
func (k Kind) Names(l *words.Language, unit string) []string {
	var out []string
	for _, c := range k.Columns {
		name := l.Say(c.Label)
		if c.Size && unit != "" {
			name += ", " + unit
		}
		out = append(out, name)
	}
	return out
}
