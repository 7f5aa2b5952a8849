package shop

import (
	"context"
	"net/mail"
	"net/url"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	"yatai/core/field"
	"yatai/core/money"
	"yatai/core/schedule"
	"yatai/core/trade"
	"yatai/store"
)

// SettingKind is how a setting is typed and read.
type SettingKind string

// The kinds of settings: money is typed in whole currency with cents.
const (
	Money   SettingKind = "money"
	Percent SettingKind = "percent"
	Choose  SettingKind = "choice"
	Count   SettingKind = "count"
	Text    SettingKind = "text"
	Long    SettingKind = "long"   // text of several lines
	Secret  SettingKind = "secret" // never shown again; typed empty it stays
)

// SettingDef is a choice of the shop: what it may be and what it is until somebody says.
// A school is where good people differ; it can be overridden for a head.
type SettingDef struct {
	Name, Label, Default string
	Kind                 SettingKind
	Choices              []string
	School               bool
	Help                 string
}

// The papers that can be printed on.
const (
	A4Paper     = "A4"
	LetterPaper = "US Letter"
)

// SettingSection is a part of the settings' page.
type SettingSection struct {
	Name     string
	Settings []SettingDef
}

// own are the shop's settings that no rule of the job hangs on.
var own = []SettingSection{
	{"The shop", []SettingDef{
		{"shop_name", "Name of the shop", "Our head shop", Text, nil, false, "on quotes, reports and labels"},
		{"shop_address", "Its address", "", Text, nil, false, "on quotes and reports"},
		{"shop_phone", "Its telephone", "", Text, nil, false, "where a customer reaches you: on the quote's page"},
		{"shop_tax_no", "Its tax number", "", Text, nil, false, "on quotes, where it is wanted"},
		{"shop_country", "Its country", "", Text, nil, false, "two letters, like DE: on electronic invoices"},
		{"currency", "Currency", "EUR", Text, nil, false, "three letters, as on an invoice"},
		{
			"paper", "Paper", A4Paper, Choose, []string{A4Paper, LetterPaper}, false,
			"what quotes, reports and labels are printed on",
		},
		{
			"spreadsheets", "Files for a spreadsheet", commaPoint, Choose, []string{commaPoint, semicolonComma}, false,
			"how the spreadsheets of your country read a CSV file",
		},
		{
			"time_zone", "Time zone", "", Text, nil, false,
			"as Europe/Berlin; empty is this machine's. It holds from the next start of the program",
		},
		{
			"first_tag", "Tags are counted from", "1", Count, nil, false,
			"the first head of the shop; moves those of heads still to come",
		},
	}},
	{"Quotes and bills", []SettingDef{
		{"quote_days", "A quote holds, days", "21", Count, nil, false, ""},
		{
			"sooner_day", "An earlier day costs, for each day another head is late", "60.00", Money, nil, false,
			"what is offered beside a quote: taken before others, reckoned from what that makes late",
		},
		{"sooner_least", "And at least", "45.00", Money, nil, false, ""},
		{
			"deposit", "Deposit asked, percent", "0", Percent, nil, false,
			"of what a head must have, with tax, before the work begins; 0 asks for none",
		},
		{"bill_days", "A bill is due after, days", "14", Count, nil, false, ""},
		{
			"prices", "Customers read prices", store.BeforeTax, Choose, []string{store.BeforeTax, store.WithTax},
			false,
			"lines of quotes and bills, unless a customer has another way; sums say both",
		},
		{
			"bill_note", "What a bill says of its tax", "", Long, nil, false,
			"exempt, or owed by who receives it. Tax rules differ: have a bill looked at by whoever keeps your books",
		},
		{"threshold", "Ask whether to replace above", "70", Percent, nil, false, "of what a replacement costs"},
	}},
	{"Mail and links", []SettingDef{
		{
			"public", "Address customers reach", "", Text, nil, false,
			"stands in the links of quotes and in QR codes; empty: the address you have this page from",
		},
		{"mail_from", "Mail comes from", "shop@localhost", Text, nil, false, ""},
		{
			"smtp", "Mail server", "", Text, nil, false,
			"host:port, encrypted where it can be; empty keeps mail in the outbox",
		},
		{"smtp_user", "Name at the mail server", "", Text, nil, false, "if it wants one"},
		{"smtp_password", "Password at the mail server", "", Secret, nil, false, "empty keeps the one it has"},
		{"mail_subject", "A quote's mail is about", usualMailSubject, Text, nil, false,
			"{kind}, {version}, {tag}, {model}, {customer}, {until} and {shop} are filled in"},
		{
			"mail_text", "What it says", usualMailText, Long, nil, false,
			"the same, and the {link} that the customer answers by",
		},
		{
			"mails_kept", "Sent mails are kept, days", "0", Count, nil, false,
			"0 keeps them; how long they may and must be kept differs from country to country",
		},
		{"photos_kept", "Photographs are kept after a head has left, days", "0", Count, nil, false, "0 keeps them"},
		{
			"bills_kept", "Bills are kept, years", "10", Count, nil, false,
			"so long the name and address of a customer who is erased stay, where they were billed",
		},
	}},
	{"Hours and promises", []SettingDef{
		{
			"hours", "Working hours", UsualHours, Text, nil, false,
			"of people, where they have no others; stations have their own under Week. As on a door: Mo-Fr 8.00-16.30 too",
		},
		{
			"kept_share", "Dates are promised that so many of 10 keep", "8", Count, nil, false,
			"by the shop's own minutes and how they spread",
		},
		{
			"answer_days", "An answer is reckoned with after, days", "2", Count, nil, false,
			"in the week's plan, while a customer has not answered",
		},
		{"recheck_hours", "First lash check after, hours", "50", Count, nil, false, ""},
		{"recheck_days", "Remind of it after, days", "30", Count, nil, false, ""},
	}},
	{"Other programs", []SettingDef{
		{"supplier", "Supplier's price list", "", Text, nil, false,
			"an address like https://parts.example/offers in the format of docs/supplier.md; empty asks nobody"},
		{
			"supplier_key", "Key at the supplier", "", Secret, nil, false,
			"if it wants one; empty keeps the one it has",
		},
		{
			"open_api", "Calculations by other programs", "who is signed in", Choose,
			[]string{"who is signed in", "to all"}, false,
			"see the token below for a program of your own",
		},
		{
			"api_token", "Token of other programs", "", Secret, nil, false,
			"24 letters and digits or more; empty keeps the one it has",
		},
	}},
}

// UsualHours are the hours of a station and a person until somebody says otherwise.
const UsualHours = "Mon-Thu 7:30-12:00 12:30-16:30; Fri 7:30-13:00"

// SettingSections are all the settings by what they are about: money first, then the shop's own, then what
// the rules of the job hang on, with the schools last.
var SettingSections = func() []SettingSection {
	kinds := map[string]SettingKind{"money": Money, "percent": Percent, "count": Count, "choice": Choose}
	var money, rules, schools []SettingDef
	for _, t := range trade.Settings {
		kind, known := kinds[t.Kind]
		if !known {
			kind = Text
		}
		d := SettingDef{t.Name, t.Label, t.Usual, kind, t.Choices, t.School, t.Help}
		switch {
		case t.School:
			schools = append(schools, d)
		case kind == Money || kind == Percent && t.Name != "robust":
			money = append(money, d)
		default:
			rules = append(rules, d)
		}
	}
	work := []SettingSection{{"Tests and machines", rules}, {"Where good shops differ", schools}}
	return slices.Concat([]SettingSection{{"Money", money}}, own, work)
}()

// SettingDefs are the settings of all sections.
var SettingDefs = func() (all []SettingDef) {
	for _, s := range SettingSections {
		all = append(all, s.Settings...)
	}
	return all
}()

// IsSecret tells whether a setting opens a door, and is not for others to read.
func IsSecret(name string) bool {
	return name == CalendarKey || slices.ContainsFunc(SettingDefs,
		func(d SettingDef) bool { return d.Name == name && d.Kind == Secret })
}

// CalendarKey is the setting that holds the unguessable key of the shop's calendar.
const CalendarKey = "calendar_key"

// Settings are the shop's choices, with one head's overrides of the schools.
type Settings struct {
	values map[string]string
	tag    string
}

// SettingsFor returns the choices as they were saved, by name, for the head with the tag;
// without a tag for the shop.
func SettingsFor(saved map[string]string, tag string) Settings { return Settings{saved, tag} }

// Of returns the same choices as they are for the head with that tag.
func (s Settings) Of(tag string) Settings { return Settings{s.values, tag} }

// Settings returns the shop's choices; with a tag, that head's schools.
func (s *Shop) Settings(ctx context.Context, tag string) (Settings, error) {
	v, err := s.Store.Read(ctx).Settings()
	return Settings{v, tag}, err
}

// Get returns a setting as it was typed.
func (s Settings) Get(name string) string {
	if v, ok := s.values[s.tag+":"+name]; ok && s.tag != "" {
		return v
	}
	if v, ok := s.values[name]; ok {
		return v
	}
	for _, d := range SettingDefs {
		if d.Name == name {
			return d.Default
		}
	}
	return ""
}

// Said tells whether the shop has made the choice itself: else it is as usual.
func (s Settings) Said(name string) bool { return s.values[name] != "" }

// Overridden tells whether the head has its own choice of a school.
func (s Settings) Overridden(name string) bool {
	_, ok := s.values[s.tag+":"+name]
	return ok && s.tag != ""
}

// Cents returns a setting of money in whole cents.
func (s Settings) Cents(name string) int64 {
	c, _ := ParseCents(s.Get(name))
	return c
}

// PPM returns a percentage in millionths.
func (s Settings) PPM(name string) int64 {
	c, _ := ParseCents(s.Get(name))
	return c * 100
}

// Int returns a count.
func (s Settings) Int(name string) int {
	n, _ := strconv.Atoi(s.Get(name))
	return n
}

// ParseCents reads an amount of money, "1,250.00" or "1250,5", in whole cents, not negative.
func ParseCents(text string) (int64, error) { return money.Parse(text) }

// Cash writes whole cents: "1250.50".
func Cash(cents int64) string { return money.Text(cents) }

// Country refuses what is no country as electronic invoices name it.
func Country(v string) error {
	if !twoLetters.MatchString(v) {
		return field.Errorf("", "two capital letters, like DE, or nothing")
	}
	return nil
}

// Check refuses what a setting cannot be.
func (d SettingDef) Check(v string) error {
	if t, ok := trade.SettingNamed(d.Name); ok {
		return t.Check(v)
	}
	if check, ok := checks[d.Name]; ok && v != "" {
		return check(v)
	}
	switch d.Kind {
	case Percent:
		c, err := ParseCents(v)
		if err == nil && c > 100_00 {
			err = field.Errorf("", "between 0 and 100 percent")
		}
		return err
	case Money:
		_, err := ParseCents(v)
		return err
	case Count:
		if n, err := strconv.Atoi(v); err != nil || n < 0 || n > 100_000 {
			return field.Errorf("", "a whole number")
		}
	case Choose:
		if !slices.Contains(d.Choices, v) {
			return field.Errorf("", "choose one")
		}
	}
	return nil
}

var (
	twoLetters   = regexp.MustCompile(`^([A-Z]{2})?$`)
	threeLetters = regexp.MustCompile(`^[A-Z]{3}$`)
	hostAndPort  = regexp.MustCompile(`^[A-Za-z0-9.\-]+:[0-9]{1,5}$`)
)

// checks refuse what a setting cannot be where its kind does not say enough.
var checks = map[string]func(string) error{
	"mail_subject": checkMailSubject,
	"mail_text":    checkMailBody,
	"currency": func(v string) error {
		if !threeLetters.MatchString(v) {
			return field.Errorf("", "three capital letters, like EUR")
		}
		return nil
	},
	"shop_country": Country,
	"supplier": func(v string) error {
		u, err := url.Parse(v)
		if err != nil || u.Scheme != "http" && u.Scheme != "https" || u.Host == "" || u.User != nil {
			return field.Errorf("", "an address like https://parts.example/offers")
		}
		return nil
	},
	"public": func(v string) error {
		u, err := url.Parse(v)
		if err != nil || u.Scheme != "http" && u.Scheme != "https" || u.Host == "" || u.RawQuery != "" ||
			u.User != nil {
			return field.Errorf("", "an address like https://shop.example.org")
		}
		return nil
	},
	"smtp": func(v string) error {
		if !hostAndPort.MatchString(v) {
			return field.Errorf("", "a host and a port, like mail.example.org:587")
		}
		return nil
	},
	"mail_from": func(v string) error {
		if _, err := mail.ParseAddress(v); err != nil {
			return field.Errorf("", "an address like shop@example.org")
		}
		return nil
	},
	"time_zone": func(v string) error {
		if _, err := time.LoadLocation(v); err != nil {
			return field.Errorf("", "a zone like Europe/Berlin")
		}
		return nil
	},
	"hours": func(v string) error { _, err := schedule.ParseHours(v); return err },
	"kept_share": func(v string) error {
		if n, err := strconv.Atoi(v); err != nil || n < 5 || n > 9 {
			return field.Errorf("", "from 5 to 9 of 10")
		}
		return nil
	},
}

// SetSettings keeps the shop's choices, by name. seen holds what each was when it was shown,
// nil when nothing was shown: a choice left as it was seen keeps what another person has made
// of it meanwhile; one that both changed is refused, and nothing is written. Of the sections that are
// confirmed also what is as usual is kept: it has been said. Errors are keyed by name.
func (s *Shop) SetSettings(
	ctx context.Context, a Actor, writeID string, values, seen map[string]string, confirmed ...string,
) error {
	if err := a.Must("change settings"); err != nil {
		return err
	}
	errs := field.Errors{}
	for _, d := range SettingDefs {
		if v, ok := values[d.Name]; ok {
			most := 200
			if d.Kind == Long {
				most = 2000
			}
			values[d.Name] = Optional(errs, d.Name, lines(v), most)
			errs.Add(d.Name, d.Check(values[d.Name]))
		}
	}
	if err := errs.Err(); err != nil {
		return err
	}
	_, err := s.Once(ctx, writeID, func(tx store.DB) (string, error) {
		saved, err := tx.Settings()
		if err != nil {
			return "", err
		}
		now, errs := SettingsFor(saved, ""), field.Errors{}
		changed, err := confirm(tx, now, values, confirmed)
		if err != nil {
			return "", err
		}
		for _, d := range SettingDefs {
			v, typed := values[d.Name]
			is := now.Get(d.Name)
			if !typed || v == is || d.Kind == Secret && v == "" {
				continue
			}
			if was, shown := seen[d.Name]; shown && d.Kind != Secret && lines(was) != is {
				if v != lines(was) {
					errs.Addf(d.Name, "another person made it %q meanwhile; keep once more to put yours in its place", is)
				}
				continue
			}
			if err := tx.Set(d.Name, v); err != nil {
				return "", err
			}
			if d.Kind == Secret {
				changed = append(changed, d.Label+": another")
			} else {
				changed = append(changed, Changes(Change{d.Label, is, v}))
			}
		}
		if err := errs.Err(); err != nil || len(changed) == 0 {
			return "", err
		}
		return "", s.NoteAbout(tx, a, OfSettings, "settings changed", strings.Join(changed, "; "))
	})
	return err
}

// confirm keeps what is as usual in sections that were confirmed, and says what.
func confirm(
	tx store.DB, now Settings, values map[string]string, sections []string,
) (said []string, err error) {
	for _, s := range SettingSections {
		if !slices.Contains(sections, s.Name) {
			continue
		}
		for _, d := range s.Settings {
			if v, typed := values[d.Name]; !typed || now.Said(d.Name) || v == "" || v != d.Default {
				continue
			}
			if err := tx.Set(d.Name, d.Default); err != nil {
				return nil, err
			}
			said = append(said, d.Label+" stays "+d.Default)
		}
	}
	return said, nil
}

// lines ends lines as Go does: a browser sends them ended by two signs.
func lines(text string) string { return strings.ReplaceAll(text, "\r\n", "\n") }

// ClosedDays is the setting that holds the days nobody works, as 2031-12-24, with spaces between.
const ClosedDays = "closed_days"

// Days are when the shop is open: its hours as schedule.ParseHours reads them, and the days it is closed,
// as 2031-12-24.
type Days struct {
	Hours  string
	Closed []string
}

// HeadSettings are the choices that the rules of the job hang on, as they are for a head, and the
// days nobody works.
func (s *Shop) HeadSettings(db store.DB, tag string) (settings map[string]string, days Days, err error) {
	v, err := db.Settings()
	if err != nil {
		return nil, days, err
	}
	set, out := Settings{v, tag}, map[string]string{}
	for _, t := range trade.Settings {
		out[t.Name] = set.Get(t.Name)
	}
	for name, own := range v { // the shop's own minutes and prices
		if s, ok := trade.SettingNamed(name); ok && s.Own() {
			out[name] = own
		}
	}
	return out, Days{Hours: set.Get("hours"), Closed: strings.Fields(v[ClosedDays])}, nil
}
