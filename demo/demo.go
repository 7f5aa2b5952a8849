// Package demo fills an empty shop with the demo's scenario: an invented shop on the edge
// of a lake district, its head models and its jobs. It comes in through package shop only,
// so that the demo's data obeys the rules. Dates are relative to today. Fill is its door.
package demo

import (
	"context"
	"fmt"
	"math"
	"math/rand/v2"
	"strconv"
	"strings"
	"time"

	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/trade"
	"yatai/shop"
	"yatai/shop/bench"
	"yatai/shop/billing"
	"yatai/shop/customers"
	"yatai/shop/headfile"
	"yatai/shop/intake"
	"yatai/shop/lead"
	"yatai/shop/library"
	"yatai/shop/parts"
	"yatai/shop/people"
	"yatai/shop/quoting"
	"yatai/shop/week"
	"yatai/shop/work"
)

const password = "tarn-street-1"

// SignInHint tells who can sign in to the demo.
const SignInHint = "Demo of Tarn Street Head Works. Sign in as Maren (counter), Ilka (technician), Odo (lead) or Runa (owner); password " +
	password + ", PIN 2468 on an enrolled tablet."

// filler carries what filling needs.
type filler struct {
	ctx    context.Context
	now    *shop.Shop
	here   string // address of the shop's pages, in the links of its mails
	today  time.Time
	owner  shop.Actor
	lead   shop.Actor
	tech   shop.Actor
	front  shop.Actor
	models map[string]uint
	tools  map[string]uint // the first of each kind
	coarse uint            // the coarser of the bore gauges
	rnd    *rand.Rand
	ids    int
}

// Fill fills the shop, whose pages are at here. It must be empty.
func Fill(ctx context.Context, s *shop.Shop, here string) error {
	_, err := fill(ctx, s, here)
	return err
}

func fill(ctx context.Context, s *shop.Shop, here string) (*filler, error) {
	f := &filler{
		ctx: ctx, now: s, here: here, today: s.Now(), models: map[string]uint{}, tools: map[string]uint{},
		rnd: rand.New(rand.NewPCG(7, 24)),
	}
	for _, step := range []func() error{
		f.people, f.library, f.settings, f.stock, f.firstChecks, f.heads, f.returned, f.reached,
		f.yesterday, f.drop, f.practised,
	} {
		if err := step(); err != nil {
			return nil, err
		}
	}
	return f, nil
}

// id makes a client-made id.
func (f *filler) id() string {
	f.ids++
	return fmt.Sprintf("demo-%08d", f.ids)
}

// then is the time some hours ago, in the hours of the shop.
func (f *filler) then(hours float64) time.Time {
	return inHours(f.today.Add(-time.Duration(hours*float64(time.Hour))), f.today)
}

// at returns the shop some hours ago.
func (f *filler) at(hours float64) *shop.Shop { return f.now.At(f.then(hours)) }

func (f *filler) people() error {
	s := f.at(2000)
	var err error
	if f.owner, err = people.FirstOwner(f.ctx, s,
		people.PersonForm{Name: "Runa", Password: password, PIN: "2468"}); err != nil {
		return err
	}
	for _, p := range []struct{ name, role string }{
		{"Maren", shop.Counter}, {"Ilka", shop.Technician}, {"Odo", shop.Lead}, {"Neve", shop.Technician},
		{"Tavi", shop.Technician},
	} {
		if err := people.AddPerson(f.ctx, s, f.owner, people.PersonForm{
			WriteID: f.id(), Name: p.name, Role: p.role, Password: password, PIN: "2468",
		}); err != nil {
			return err
		}
	}
	people, err := people.People(f.ctx, s)
	for _, p := range people {
		a := shop.Actor{ID: p.ID, Name: p.Name, Role: p.Role, Unit: length.MM}
		switch p.Role {
		case shop.Counter:
			f.front = a
		case shop.Technician:
			if p.Name == "Ilka" {
				f.tech = a
			}
		case shop.Lead:
			f.lead = a
		}
	}
	return err
}

func (f *filler) library() error {
	s := f.at(1990)
	for _, m := range models {
		m.form.WriteID = f.id()
		id, err := library.AddModel(f.ctx, s, f.owner, m.form)
		if err != nil {
			return fmt.Errorf("%s: %w", m.form.Name, err)
		}
		f.models[m.form.Name] = id
		version := 1
		for _, set := range []struct {
			code, note string
			rows       map[string]library.LimitEntry
		}{
			{"given", "figures of the engine", m.given}, {"target", "what we aim at", m.target},
			{"new", "what a new part has", m.fresh},
			{"class", "the class rule", m.class}, {"renew", "renewed always", m.renew},
			{"service", "from the book", m.limits},
		} {
			if set.rows == nil {
				continue
			}
			form := library.SheetForm{WriteID: f.id(), Version: version, Set: set.code, Note: set.note, Rows: set.rows}
			if version, err = library.EditSheet(f.ctx, s, f.owner, id, form); err != nil {
				return fmt.Errorf("%s, %s: %w", m.form.Name, set.code, err)
			}
		}
		if m.tightening != nil {
			if err := library.SetTightening(f.ctx, s, f.owner, id,
				library.TighteningForm{WriteID: f.id(), Rows: m.tightening}); err != nil {
				return fmt.Errorf("%s: %w", m.form.Name, err)
			}
		}
		if m.confirmed {
			if err := library.ConfirmSheet(f.ctx, s, f.lead, f.id(), id, version); err != nil {
				return err
			}
		}
	}
	tools, err := library.Tools(f.ctx, s)
	for _, t := range tools {
		if _, there := f.tools[t.Kind]; !there {
			f.tools[t.Kind] = t.ID
		}
		if t.Name == "Small-hole gauge and micrometer" {
			f.coarse = t.ID
		}
	}
	return err
}

// settings are the demo shop's own.
func (f *filler) settings() error {
	s := f.at(1980)
	stations, _, err := week.WorkStations(f.ctx, s)
	if err != nil {
		return err
	}
	forms := map[uint]week.StationForm{}
	// one works half days at the seat machine, and the surfacer's man comes at noon
	for _, st := range stations {
		if hours := map[string]string{
			"seat machine": "Mon-Fri 7:30-12:00", "surfacer": "Mon-Fri 12:30-16:30",
		}[st.Name]; hours != "" {
			forms[st.ID] = week.StationForm{Capacity: "1", Hours: hours}
		}
	}
	if err := week.SetStations(f.ctx, s, f.owner, f.id(), forms, ""); err != nil {
		return err
	}
	return s.SetSettings(f.ctx, f.owner, f.id(),
		map[string]string{"shop_name": "Tarn Street Head Works", "rate": "58.00", "first_tag": "401"}, nil)
}

// stock fills the shelves: parts by model and role, and the shim box.
func (f *filler) stock() error {
	s := f.at(1970)
	add := func(kind, name, size, model, role, price string, count, least int) error {
		id := ""
		if model != "" {
			id = strconv.Itoa(int(f.models[model]))
		}
		return parts.AddStock(f.ctx, s, f.tech, parts.StockForm{
			WriteID: f.id(),
			Kind:    kind,
			Name:    name,
			Size:    size,
			Model:   id,
			Role:    role,
			Price:   price,
			Count:   strconv.Itoa(count),
			Least:   strconv.Itoa(least),
		})
	}
	for _, p := range stocked {
		if err := add(p.kind, p.name, p.size, p.model, p.role, p.price, p.count, p.least); err != nil {
			return fmt.Errorf("%s: %w", p.name, err)
		}
	}
	for i := range 19 { // the shim box: 2.20 to 3.10 in steps of 0.05
		size := fmt.Sprintf("%.2f", 2.20+0.05*float64(i))
		if err := add(
			"lash shim", "Velderan shim "+size, size, "Velderan V8", "", "4.80",
			[]int{2, 0, 1, 3, 0, 2, 4, 1, 3, 2, 0, 2, 1, 0, 2, 1, 0, 1, 1}[i],
			1,
		); err != nil {
			return err
		}
	}
	return nil
}

// heads takes in every job of the scenario and walks it as far as it has come.
func (f *filler) heads() error { return f.walk(jobs, nil) }

// walk takes in jobs and walks each as far as it has come. told, when given, hears of each.
func (f *filler) walk(jobs []job, told func(done, of int)) error {
	for i, j := range jobs {
		if told != nil {
			told(i, len(jobs))
		}
		form := j.form
		form.WriteID, form.Model = f.id(), strconv.Itoa(int(f.models[j.model]))
		if j.due != 0 {
			due := f.today.AddDate(0, 0, j.due)
			for ; len(hours[due.Local().Weekday()]) == 0; due = due.AddDate(0, 0, -1) { // no day it can leave on
			}
			form.Promise = due.Format(time.DateOnly)
		}
		form.Regulated = j.regulated
		if j.with > 0 {
			form.With = fmt.Sprintf("T%04d", j.with)
		}
		tag, err := intake.TakeIn(f.ctx, f.at(j.ago), f.front, form)
		if err != nil {
			return fmt.Errorf("%s: %w", j.model, err)
		}
		for _, step := range j.steps {
			if err := step(f, tag, &j); err != nil {
				return fmt.Errorf("%s %s: %w", tag, j.model, err)
			}
		}
	}
	return nil
}

// measure reads everything of a head at a stage: the model's usual figures with a little
// scatter, and the job's own where it has some. Only the first so many characteristics
// are read when upTo is not zero.
func measure(stage string, upTo int, own map[string]string) step {
	return func(f *filler, tag string, j *job) error {
		s := f.at(j.when(0.7))
		if stage != headfile.AsReceived {
			s = f.at(j.left + 1)
		}
		file, err := headfile.Open(f.ctx, s, tag)
		if err != nil {
			return err
		}
		if stage == headfile.AsReceived && upTo == 0 {
			if err := bench.TestCracks(
				f.ctx, f.at(j.when(0.8)), f.tech, f.id(), tag, "pressure, in water",
				"2 bar, 60 C, 20 min: what was seen is on the map",
			); err != nil {
				return err
			}
		}
		n := 0
		for _, p := range file.Progress(stage) {
			c := p.Characteristic
			if !p.Wanted && !reads(own, c.Code) {
				continue
			}
			if n++; upTo > 0 && n > upTo {
				break
			}
			form := bench.SweepForm{Characteristic: c.Code, Stage: stage, Tool: f.tools[c.ToolKind()]}
			coarse := form // the same sweep for the position that was read with the coarser tool
			coarse.Tool, coarse.Entries = f.coarse, nil
			for _, sp := range c.Spots(file.Layout) {
				text, ok := own[c.Code+" "+sp.Key()]
				if !ok {
					text, ok = own[c.Code+" "+sp.Position]
				}
				if !ok && own != nil && stage != headfile.AsReceived {
					continue
				}
				if !ok {
					text = f.usual(j.model, c, file.Layout, sp)
					if _, known := usualFigures[j.model][c.Code]; !known && !p.Wanted {
						continue // only looked at where there was something to see
					}
				}
				to := &form
				if c.Code == "guide.bore" && sp.Position == j.coarse {
					to = &coarse
				}
				if c.UnitFor(file.Unit).Customary() { // where loads are typed in pounds these say that they are none
					text += " " + c.Unit.Name
				}
				to.Entries = append(to.Entries, bench.Entry{ClientID: f.id(), Spot: sp, Text: text})
			}
			for _, form := range []bench.SweepForm{form, coarse} {
				if len(form.Entries) == 0 {
					continue
				}
				if _, err := bench.Record(f.ctx, s, f.tech, tag, form); err != nil {
					return err
				}
			}
		}
		return nil
	}
}

// reads tells whether a job has figures of its own for a characteristic.
func reads(own map[string]string, code string) bool {
	for k := range own {
		if strings.HasPrefix(k, code+" ") {
			return true
		}
	}
	return false
}

// usual makes a plausible sound figure.
func (f *filler) usual(model string, c trade.Characteristic, l layout.Layout, sp trade.Spot) string {
	base, known := usualFigures[model][c.Code]
	v, _ := l.Valve(sp.Position)
	if c.Bracket && known { // feelers: the two leaves a figure lies between
		if v.Role == layout.Exhaust && base.exhaust != 0 {
			base.intake = base.exhaust
		}
		leaf := math.Floor((base.intake+base.scatter*f.rnd.Float64())*50) / 50
		return strconv.FormatFloat(leaf, 'f', 2, 64) + " " + strconv.FormatFloat(leaf+0.02, 'f', 2, 64)
	}
	if c.Bracket {
		return []string{"0.03 mm 0.04 mm", "0.03 mm", "0.02 mm 0.03 mm"}[f.rnd.IntN(3)]
	}
	if c.Words != nil {
		return c.Words[1]
	}
	if v.Role == layout.Exhaust && base.exhaust != 0 {
		base.intake = base.exhaust
	}
	x := base.intake + base.scatter*f.rnd.Float64()
	return strconv.FormatFloat(math.Round(x*10000)/10000, 'f', base.places, 64)
}

// looked grades parts: position or * for all the rest, part by part.
func looked(stage string, grades map[string]map[string]string) step {
	return func(f *filler, tag string, j *job) error {
		s := f.at(j.when(0.65))
		if stage != headfile.AsReceived {
			s = f.at(j.left + 1)
		}
		file, err := headfile.Open(f.ctx, s, tag)
		if err != nil {
			return err
		}
		for part, at := range grades {
			rows, notes := map[string]string{}, map[string]string{}
			for _, v := range file.Layout.Valves {
				text, ok := at[v.ID]
				if !ok {
					text = at["*"]
				}
				if text != "" {
					rows[v.ID], notes[v.ID], _ = strings.Cut(text, ": ")
				}
			}
			if err := bench.Grade(f.ctx, s, f.tech, f.id(), tag, part, stage, rows, notes); err != nil {
				return fmt.Errorf("%s: %w", part, err)
			}
		}
		return nil
	}
}

// marked places marks on the map: grade, along and across in millimetres, note.
func marked(marks ...[4]string) step {
	return func(f *filler, tag string, j *job) error {
		for _, m := range marks {
			form := bench.MarkForm{
				WriteID: f.id(), Grade: m[0], X: m[1], Y: m[2], Note: m[3], Stage: headfile.AsReceived,
			}
			if err := bench.Mark(f.ctx, f.at(j.when(0.68)), f.tech, tag, form); err != nil {
				return err
			}
		}
		return nil
	}
}

// placed says what is known of parts on the tray.
func placed(evidence string, states map[string]string) step {
	return func(f *filler, tag string, j *job) error {
		return bench.PlaceParts(f.ctx, f.at(j.when(0.66)), f.tech, f.id(), tag, states, evidence)
	}
}

// earlierOf links a later head, a comeback, to this visit of it.
func earlierOf(later string) step {
	return func(f *filler, tag string, _ *job) error {
		return intake.LinkEarlier(f.ctx, f.now, f.lead, f.id(), later, tag)
	}
}

// planned keeps the balanced plan and releases what is in doubt.
func planned(f *filler, tag string, j *job) error {
	s := f.at(j.when(0.5))
	if err := lead.KeepPlan(f.ctx, s, f.lead, f.id(), tag,
		headfile.PlanAsk{Alternative: "balanced"}); err != nil {
		return err
	}
	file, err := headfile.Open(f.ctx, s, tag)
	if err != nil {
		return err
	}
	choices := map[string]lead.Choice{}
	for _, x := range file.Received.Findings() {
		if _, done := file.Decision(x.Key()); !done {
			choices[x.Key()] = lead.Choice{
				Choice: trade.Leave, Reason: "read twice; inside as far as any gauge here tells",
			}
		}
	}
	return lead.Decide(f.ctx, s, f.lead, f.id(), tag, choices, headfile.PlanAsk{})
}

// quoted sends the quote and lets the customer say yes to what must be and to the first of
// the rest: half approved.
func quoted(f *filler, tag string, j *job) error {
	s := f.at(j.when(0.4))
	version, err := quoting.MakeQuote(f.ctx, s, f.front, f.id(), tag,
		quoting.Draft{Note: "Two springs were weak; the seats would not have taken another cut."})
	if err != nil {
		return err
	}
	if err := quoting.SendQuote(f.ctx, s, f.front, tag, quoting.SendForm{
		WriteID: f.id(), Version: version, To: "workshop at High Pistes", Here: f.here,
		Follow: true,
	}); err != nil {
		return err
	}
	file, err := headfile.Open(f.ctx, s, tag)
	if err != nil {
		return err
	}
	said := quoting.Answer{Name: "Bran", Must: true}
	for _, l := range file.Approved.Quotes[0].Lines {
		if l.Grp != headfile.Must && len(said.Yes) == 0 {
			said.Yes = []quoting.Line{{Tag: tag, Seq: l.Seq}}
		}
	}
	return quoting.ApproveVerbally(f.ctx, f.at(j.when(0.3)), f.front, f.id(), tag, version, said, "by telephone")
}

// ordered orders a part for the head some hours ago.
func ordered(name, count string, hours float64) step {
	return func(f *filler, tag string, _ *job) error {
		page, err := parts.Stock(f.ctx, f.now)
		if err != nil {
			return err
		}
		for _, it := range page.Rows {
			if it.Name == name {
				return parts.Order(f.ctx, f.at(hours), f.lead, f.id(), it.ID, count, tag)
			}
		}
		return fmt.Errorf("no part %s", name)
	}
}

// handedOver gives the head back when it left, with its bill, which is paid after some days.
func handedOver(to string) step {
	return func(f *filler, tag string, j *job) error {
		if err := work.HandOver(f.ctx, f.at(j.left), f.front, f.id(), tag, to); err != nil {
			return err
		}
		form := billing.IssueForm{WriteID: f.id()}
		if err := billing.Issue(f.ctx, f.at(j.left-0.2), f.front, tag, form); err != nil {
			return err
		}
		const days, most = 9, 32 // in which most pay, and one has paid half
		file, err := headfile.Open(f.ctx, f.now, tag)
		if err != nil {
			return err
		}
		account, err := billing.AccountOf(f.ctx, f.now, file, nil)
		if err != nil {
			return err
		}
		after, sum := days*24.0, account.Open()
		if j.late {
			after, sum = most*24, sum/2
		}
		if sum <= 0 || j.left < after {
			return nil
		}
		return billing.Pay(f.ctx, f.at(j.left-after), f.front, tag, billing.PayForm{
			WriteID: f.id(), Sum: shop.Cash(sum), How: "transfer",
		})
	}
}

// telephones are those of the customers; who has none is reached otherwise.
var telephones = map[string]string{
	"Dale Nurseries": "0117 496 0112", "Dale Plant Breakers": "0117 496 0144", "Fellside Clinic": "0117 496 0170",
	"High Pistes": "0117 496 0121", "Hollin Light Railway": "0117 496 0158", "Lower Leat Water": "0117 496 0136",
	"Northern Railcars": "0117 496 0163", "Tarn Fire Watch": "0117 496 0199", "Upper Fold Orchards": "0117 496 0187",
	"Valley Surgery": "0117 496 0105",
}

// reached writes down how customers are reached.
func (f *filler) reached() error {
	all, err := customers.List(f.ctx, f.now, "")
	if err != nil {
		return err
	}
	for _, c := range all {
		if telephones[c.Name] == "" {
			continue
		}
		if err := customers.Change(f.ctx, f.at(30), f.front, c.ID, customers.Form{
			WriteID: f.id(), Name: c.Name, Contact: c.Contact, Address: c.Address, Email: c.Email, Note: c.Note,
			Telephone: telephones[c.Name],
		}); err != nil {
			return err
		}
	}
	return nil
}

// decide decides the findings: the job's own choice where it has one, else the usual
// repair; order makes the work order as well.
func decide(order bool, own map[string]lead.Choice) step {
	return func(f *filler, tag string, j *job) error {
		s := f.at(j.when(0.5))
		file, err := headfile.Open(f.ctx, s, tag)
		if err != nil {
			return err
		}
		choices := map[string]lead.Choice{}
		for _, x := range file.Received.Findings() {
			c, ok := own[x.Key()]
			if !ok {
				c, ok = own["*"+x.Code]
			}
			if r := file.Received.Usual(x); !ok && r != nil {
				c = lead.Choice{Choice: r.Code}
			}
			choices[x.Key()] = c
		}
		if err := lead.Decide(f.ctx, s, f.lead, f.id(), tag, choices, headfile.PlanAsk{}); err != nil || !order {
			return err
		}
		version, err := quoting.MakeQuote(f.ctx, s, f.front, f.id(), tag, quoting.Draft{})
		if err != nil {
			return err
		}
		said := quoting.Answer{Name: j.form.Customer, Must: true}
		if err := quoting.ApproveVerbally(f.ctx, s, f.front, f.id(), tag, version, said,
			"by telephone"); err != nil {
			return err
		}
		return lead.OrderWork(f.ctx, s, f.lead, f.id(), tag)
	}
}

// work does the first n operations; half starts the next one as well.
func worked(n int, half bool) step {
	return func(f *filler, tag string, j *job) error {
		file, err := headfile.Open(f.ctx, f.now, tag)
		if err != nil {
			return err
		}
		at, last := f.then(j.when(0.45)), f.then(j.left+1.1) // before it is read again
		for _, o := range file.Operations {
			if o.Seq > n && !(half && o.Seq == n+1) {
				break
			}
			long := time.Duration(o.Minutes) * time.Minute * 11 / 10
			at = earlier(fits(at, long), last)
			if o.Seq > n { // what is at work now was begun not long ago
				at = later(at, f.then(0.6))
			}
			if err := work.Start(f.ctx, f.now.At(at), f.tech, f.id(), tag, o.Seq, work.Pauses); err != nil {
				return err
			}
			if o.Seq > n {
				break
			}
			at = earlier(at.Add(long), last)
			if err := f.record(f.now.At(at), tag, o.Seq, o.Code, o.At()); err != nil {
				return err
			}
			if err := work.Finish(f.ctx, f.now.At(at), f.tech, f.id(), tag, o.Seq, "",
				"from the supplier's van"); err != nil {
				return err
			}
		}
		return nil
	}
}

func earlier(a, b time.Time) time.Time {
	if a.Before(b) {
		return a
	}
	return b
}

func later(a, b time.Time) time.Time {
	if a.After(b) {
		return a
	}
	return b
}

// recorded is what is written down in the fields of the records, all of it good.
var recorded = trade.Values{
	"guides": "yes", "threads": "yes", "ways": "yes", "places": "yes", "seals": "yes", "order": "yes",
	"keepers":  "yes",
	"pressure": "2bar", "water": "60C", "minutes": "20", "leaks": "0",
	"how": "stitched cold with 6 mm pins", "by": "Odo, certificate on the wall",
	"thread": "M10 x 1.5", "insert": "2 D long", "drill": "10.4 mm",
	"baseline": "84kPa", "vacuum": "82 82 81 82 kPa",
	"paste": "fine", "passes": "3", "ring": "yes",
}

// record writes down what an operation's record asks for.
func (f *filler) record(s *shop.Shop, tag string, seq int, code string, at []string) error {
	k := trade.OperationNamed(code)
	if k == nil || k.Record == nil {
		return nil
	}
	if !k.Record.Each {
		at = []string{""}
	}
	rows := map[string]map[string]string{}
	for _, id := range at {
		rows[id] = map[string]string{}
		for _, x := range k.Record.Fields {
			if v := recorded[x.Name]; v != "" {
				rows[id][x.Name] = v
			}
		}
	}
	return bench.RecordWork(f.ctx, s, f.tech, f.id(), tag, seq, rows)
}

// passGate passes the final check.
func passGate(refit string) step {
	return func(f *filler, tag string, j *job) error {
		return work.CloseHead(f.ctx, f.at(min(j.left+0.8, j.ago)), f.lead, tag,
			work.CloseForm{WriteID: f.id(), Refit: refit})
	}
}

// drifting is how far off a bore gauge was at its checks of a year, a fortnight apart, in tenths of a
// micrometre: it wears, and is not over what it may be off by yet.
var drifting = []quantity.Amount{
	3, -4, 5, 0, -3, 4, -5, 2, 6, -2, 3, -4, 5, 1, -3, 4, 2, 5, 7, 8, 10, 12, 14, 16,
}

// firstChecks checks every tool that has a standard, all good, before anything is read with it; one of them a
// year long.
func (f *filler) firstChecks() error {
	tools, err := library.Tools(f.ctx, f.now)
	if err != nil {
		return err
	}
	worn := false
	for _, t := range tools {
		if t.Standard == 0 {
			continue
		}
		if t.Kind == "bore gauge" && t.ID != f.coarse && !worn {
			worn = true
			for i, off := range drifting {
				back := 1980 + float64(len(drifting)-1-i)*14*24
				if _, err := bench.CheckZero(f.ctx, f.at(back), f.tech, f.id(), t.ID,
					t.Text(t.Standard+100*off)); err != nil {
					return err
				}
			}
			continue
		}
		if _, err := bench.CheckZero(f.ctx, f.at(1980), f.tech, f.id(), t.ID, t.Text(t.Standard)); err != nil {
			return err
		}
	}
	return nil
}

// yesterday keeps the week's plan as it was in the afternoon before.
func (f *filler) yesterday() error { return week.Remember(f.ctx, f.at(20)) }

// drop fails the coarser bore gauge's zero check, two hours ago: somebody dropped it.
func (f *filler) drop() error {
	_, err := bench.CheckZero(f.ctx, f.at(2), f.tech, f.id(), f.coarse, "8.011")
	return err
}
