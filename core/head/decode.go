package head

import (
	"cmp"
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"
	"time"

	"yatai/core/field"
	"yatai/core/gauge"
	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/money"
	"yatai/core/quantity"
	"yatai/core/trade"
)

// Decode reads a head file. The error is a *field.Error that names what is wrong:
// "readings[12].at".
func Decode(data []byte) (*Head, error) {
	f, err := Parse(data)
	if err != nil {
		return nil, err
	}
	return f.Decode()
}

// Parse reads a head file as it is written, strictly, and checks its shape alone. The error is
// a *field.Error.
func Parse(data []byte) (File, error) {
	var f File
	err := fill(data, &f)
	return f, err
}

// decoding is a file being turned into a head. The first error stays.
type decoding struct {
	h   *Head
	err error
}

func (d *decoding) fail(path, format string, args ...any) {
	if d.err == nil {
		d.err = field.Errorf(path, format, args...)
	}
}

func (d *decoding) wrong(path string, err error) {
	if err != nil && d.err == nil {
		d.err = field.Under(path, err)
	}
}

// oneOf takes a text that must be one of some, usual when it is empty.
func (d *decoding) oneOf(path, text, usual string, some []string) string {
	if text == "" {
		return usual
	}
	if !slices.Contains(some, text) {
		d.fail(path, "must be one of %s", strings.Join(some, ", "))
	}
	return text
}

// length reads a length with its unit; an empty text is 0 where it may be left out.
func (d *decoding) length(path, text string) length.Length {
	l, err := length.Parse(text, d.h.Unit)
	d.wrong(path, err)
	return l
}

// quantity reads a value in the unit of a characteristic.
func (d *decoding) quantity(path, text string, unit quantity.Unit) quantity.Amount {
	a, err := trade.Characteristic{Unit: unit}.Parse(text, d.h.Unit)
	d.wrong(path, err)
	return a
}

// Decode turns a file into a head. The error is a *field.Error that names what is wrong.
func (f File) Decode() (*Head, error) {
	d := &decoding{
		h: &Head{
			Theirs:    f.Head.Theirs,
			Tag:       f.Head.Tag,
			Story:     f.Head.Story,
			Hours:     f.Head.Hours,
			Bank:      f.Head.Bank,
			Marks:     f.Head.Marks,
			Regulated: f.Head.Regulated,
			Released:  strings.TrimSpace(f.Head.Released),
		},
	}
	if f.Format != Format {
		d.fail("format", "this program reads %s", Format)
	}
	if strings.TrimSpace(f.Head.Tag) == "" || len(f.Head.Tag) > 40 {
		d.fail("head.tag", "a tag of 1 to 40 characters")
	}
	d.h.Kind = d.oneOf("head.kind", f.Head.Kind, Rebuild, Kinds)
	d.h.Unit = length.MM
	if d.oneOf("head.unit", f.Head.Unit, "", []string{"mm", "in"}) == "in" {
		d.h.Unit = length.In
	} else if f.Head.Unit == "" {
		d.fail("head.unit", "mm or in")
	}
	for i, code := range f.Head.Symptoms {
		if trade.SymptomNamed(code) == nil {
			d.fail(fmt.Sprintf("head.symptoms[%d]", i), "there is no such symptom")
		}
		d.h.Symptoms = append(d.h.Symptoms, code)
	}
	for _, step := range []func(*decoding){
		f.model, f.sheet, f.tools, f.readings, f.findings, f.parts, f.stock, f.settings, f.work, f.ask,
	} {
		if step(d); d.err != nil {
			return nil, d.err
		}
	}
	d.h.recordedReadings()
	return d.h, nil
}

func (f File) model(d *decoding) {
	m := f.Model
	d.h.Model = Model{Name: m.Name, About: m.About, Valves: map[layout.Role]trade.Valve{}, Kind: trade.Kind{
		Material: d.oneOf("model.material", m.Material, "iron", trade.Materials),
		Cooling:  d.oneOf("model.cooling", m.Cooling, "water", trade.Coolings),
		Drive:    d.oneOf("model.drive", m.Drive, trade.Rocker, trade.Drives),
		Lifter:   d.oneOf("model.lifter", m.Lifter, "solid", trade.Lifters), Ignition: d.oneOf(
			"model.ignition", m.Ignition, "plug", trade.Ignitions,
		),
	}}
	spec := layout.InlineSpec{
		Cylinders: m.Cylinders,
		Pitch: d.length(
			"model.pitch", m.Pitch,
		),
		Bore:      d.length("model.bore", m.Bore),
		Width:     d.length("model.width", m.Width),
		Injector:  d.h.Model.Kind.Injectors(),
		AirCooled: d.h.Model.Kind.AirCooled(),
		FirstAtRight: d.oneOf(
			"model.first_at", m.FirstAt, "left", []string{"left", "right"},
		) == "right",
	}
	spec.Camshafts, spec.Bridges = m.Camshafts, m.Bridges
	d.wrong("model.bridges", d.h.Model.Kind.CheckBridges(m.Bridges))
	d.wrong("model.camshafts", d.h.Model.Kind.CheckCamshafts(m.Camshafts))
	if len(m.Patterns) == 1 {
		spec.Pattern = m.Patterns[0]
	} else {
		spec.Patterns = m.Patterns
	}
	for role, v := range m.Valves {
		at := "model.valves." + role
		if role != string(layout.Intake) && role != string(layout.Exhaust) {
			d.fail(clip(at), "intake or exhaust")
			continue
		}
		head := d.length(at+".head", v.Head)
		if role == string(layout.Intake) {
			spec.IntakeHead = head
		} else {
			spec.ExhaustHead = head
		}
		d.h.Model.Valves[layout.Role(role)] = trade.Valve{
			Material: d.oneOf(at+".material", v.Material, "steel", trade.ValveMaterials), Coated: v.Coated,
			Hollow: v.Hollow, Plain: v.Plain,
		}
	}
	if d.err != nil {
		return
	}
	l, err := layout.Inline(spec)
	d.wrong("model", firstOf(err))
	d.h.Model.Layout = l
	for i, p := range m.Moved {
		at := fmt.Sprintf("model.moved[%d]", i)
		err := d.h.Model.Layout.Move(p.What, layout.Spot{
			Name: p.Name, X: d.length(at+".x", p.X), Y: d.length(at+".y", p.Y), D: d.length(at+".d", p.D),
		})
		d.wrong(at, err)
	}
}

// firstOf is the first error of a form's, as a field's error; heads have few.
func firstOf(err error) error {
	errs, ok := err.(field.Errors)
	if !ok {
		return err
	}
	names := make([]string, 0, len(errs))
	for name := range errs {
		names = append(names, name)
	}
	slices.Sort(names)
	rename := map[string]string{
		"pattern": "patterns[0]", "intake_head": "valves.intake.head",
		"exhaust_head": "valves.exhaust.head",
	}
	name := names[0]
	if to, ok := rename[name]; ok {
		name = to
	}
	return &field.Error{Field: name, Says: errs[names[0]]}
}

func (f File) sheet(d *decoding) {
	d.h.Sheet.Figures = map[string]quantity.Amount{}
	for _, part := range []func(*decoding) bool{
		f.repairs, f.tightening, f.own, f.limits, f.figures, f.renewals,
	} {
		if !part(d) {
			return
		}
	}
	d.h.Sheet = d.h.Sheet.Indexed()
}

// repairs reads the sheet's own repairs. As of the other parts of a sheet, false means that
// the rest need not be read.
func (f File) repairs(d *decoding) bool {
	if len(f.Sheet.Repairs) > trade.MostOwnRepairs {
		d.fail("sheet.repairs", "more than a sheet has")
		return false
	}
	for i, x := range f.Sheet.Repairs {
		at := fmt.Sprintf("sheet.repairs[%d]", i)
		o := trade.OwnRepair{Name: x.Name, Works: trade.Metal(x.Works), Station: x.Station, Part: x.Part}
		var err error
		o.Setup, o.Each, err = trade.TwoMinutes(x.Minutes)
		d.wrong(at+".minutes", err)
		for _, size := range []struct {
			key, text string
			to        *length.Length
		}{{"least", x.Least, &o.Least}, {"most", x.Most, &o.Most}} {
			if size.text != "" {
				*size.to = d.length(at+"."+size.key, size.text)
			}
		}
		for _, of := range slices.Sorted(maps.Keys(x.Moves)) {
			times := map[string]int{"up": 1, "down": -1}[x.Moves[of]]
			if times == 0 {
				d.fail(at+".moves."+of, "up or down")
			}
			o.Moves = append(o.Moves, trade.OwnMove{Of: of, Times: times})
		}
		errs := o.Check()
		for _, key := range slices.Sorted(maps.Keys(errs)) {
			d.wrong(at+"."+key, &field.Error{Says: errs[key]})
		}
		if x.Code != "" && x.Code != o.Code() {
			d.fail(at+".code", "it is made of the rest: %s", o.Code())
		}
		if r := trade.RepairNamed(o.Code()); r != nil {
			d.h.Sheet.Repairs = append(d.h.Sheet.Repairs, r)
		}
	}
	return true
}

// tightening reads how the model's fasteners are pulled down.
func (f File) tightening(d *decoding) bool {
	for i, x := range f.Sheet.Tightening {
		at, t := fmt.Sprintf("sheet.tightening[%d]", i), trade.Tightening(x)
		errs := t.Check()
		for _, key := range slices.Sorted(maps.Keys(errs)) {
			d.wrong(at+"."+key, &field.Error{Says: errs[key]})
		}
		if slices.ContainsFunc(d.h.Sheet.Tightening, func(o trade.Tightening) bool { return o.Of == t.Of }) {
			d.fail(at+".of", "it is there twice")
		}
		if len(errs) == 0 {
			d.h.Sheet.Tightening = append(d.h.Sheet.Tightening, t)
		}
	}
	return len(f.Sheet.Tightening) <= len(trade.Fasteners)
}

// own reads the sheet's own characteristics.
func (f File) own(d *decoding) bool {
	for i, o := range f.Sheet.Own {
		at := fmt.Sprintf("sheet.own[%d]", i)
		unit, known := trade.Units[cmp.Or(o.Unit, "length")]
		if !known {
			d.fail(at+".unit", "there is no such unit")
		}
		if _, taken := d.h.Sheet.Characteristic(o.Code); taken || o.Code == "" {
			d.fail(at+".code", "a code of its own")
		}
		c := trade.Characteristic{
			Code:    o.Code,
			Label:   o.Label,
			Section: trade.Own,
			Where:   d.oneOf(at+".where", o.Where, "", trade.Wheres),
			Low:     -quantity.Max,
			High:    quantity.Max,
			Unit:    unit,
			OnSheet: true,
		}
		if o.Tool != "" {
			c.Tools = []string{o.Tool}
		}
		for k, code := range o.Answers {
			if trade.RepairNamed(code) == nil {
				d.fail(fmt.Sprintf("%s.answers[%d]", at, k), "there is no such repair")
			}
			c.Answers = append(c.Answers, code)
		}
		d.h.Sheet.Own = append(d.h.Sheet.Own, c)
	}
	return true
}

func (f File) limits(d *decoding) bool {
	for i, l := range f.Sheet.Limits {
		at := fmt.Sprintf("sheet.limits[%d]", i)
		c, ok := d.h.Sheet.Characteristic(l.Of)
		if !ok {
			d.fail(at+".of", "there is no such characteristic")
			return false
		}
		out := Limit{
			Characteristic: l.Of, Role: d.oneOf(at+".role", l.Role, "",
				[]string{"intake", "exhaust", "long", "cross", "diagonal"}),
			Set: d.oneOf(at+".set", l.Set, Service, []string{Service, Target, New, Class}), Source: l.Source,
			Unit: c.Unit,
		}
		for _, end := range []struct {
			name, text string
			to         **quantity.Amount
		}{{"low", l.Low, &out.Low}, {"high", l.High, &out.High}} {
			if end.text != "" {
				v := d.quantity(at+"."+end.name, end.text, c.Unit)
				*end.to = &v
			}
		}
		if l.Near != "" {
			out.Near = d.quantity(at+".near", l.Near, c.Unit)
		}
		if out.Low == nil && out.High == nil {
			d.fail(at+".low", "give a lower or an upper limit")
		}
		if out.Low != nil && out.High != nil && *out.Low > *out.High {
			d.fail(at+".low", "the lower limit is above the upper")
		}
		d.h.Sheet.Limits = append(d.h.Sheet.Limits, out)
	}
	return true
}

func (f File) figures(d *decoding) bool {
	for name, text := range f.Sheet.Figures {
		at := "sheet.figures." + name
		code, role, roled := strings.Cut(name, "/")
		fig := trade.FigureNamed(code)
		if fig == nil || roled && role != "intake" && role != "exhaust" {
			d.fail(clip(at), "there is no such figure")
			return false
		}
		v := d.quantity(at, text, fig.Unit)
		if v < 0 && !fig.Signed {
			d.fail(at, "must not be negative")
		}
		d.h.Sheet.Figures[name] = v
	}
	return true
}

func (f File) renewals(d *decoding) bool {
	for i, code := range f.Sheet.Renew {
		if _, ok := trade.RenewalNamed(code); !ok {
			d.fail(fmt.Sprintf("sheet.renew[%d]", i), "there is no such part to renew")
		}
		d.h.Sheet.Renew = append(d.h.Sheet.Renew, code)
	}
	return true
}

func (f File) tools(d *decoding) {
	for i, t := range f.Tools {
		at := fmt.Sprintf("tools[%d]", i)
		kind, known := trade.ToolKindNamed(t.Kind)
		if !known && t.U == "" {
			d.fail(at+".kind", "no tool of that kind is known: say how far it may be off, its u")
		}
		tool := Tool{Name: t.Name, Kind: t.Kind, U: kind.U, PPM: kind.PPM}
		if t.U != "" {
			tool.U, tool.PPM = d.doubt(at+".u", t.U, kind.Unit)
		}
		if slices.ContainsFunc(d.h.Tools, func(o Tool) bool { return o.Name == t.Name }) {
			d.fail(at+".name", "%s is there twice", t.Name)
		}
		d.h.Tools = append(d.h.Tools, tool)
	}
}

// judged tells whether anything is judged by a code: a characteristic, a part, or a mark on the map.
func (d *decoding) judged(code string) bool {
	_, measured := d.h.Sheet.Characteristic(code)
	_, seen := trade.PartNamed(code)
	return measured || seen || code == ByPlan || strings.HasPrefix(code, trade.MarkCode+".")
}

// doubt reads an expanded uncertainty: a size, or a share of the reading ("2%").
func (d *decoding) doubt(path, text string, unit quantity.Unit) (u quantity.Amount, ppm int64) {
	if share, ok := strings.CutSuffix(strings.TrimSpace(text), "%"); ok {
		n, err := strconv.ParseFloat(strings.TrimSpace(share), 64)
		if err != nil || n < 0 || n > 100 {
			d.fail(path, "a share between 0 and 100 %%")
		}
		return 0, int64(n * 10_000)
	}
	if u = d.quantity(path, text, unit); u < 0 {
		d.fail(path, "must not be negative")
	}
	return u, 0
}

func (f File) readings(d *decoding) {
	spots := map[string]map[trade.Spot]bool{}
	for i, r := range f.Readings {
		at := fmt.Sprintf("readings[%d]", i)
		c, ok := d.h.Sheet.Characteristic(r.Of)
		switch {
		case !ok:
			d.fail(at+".of", "there is no such characteristic")
			return
		case c.Derived():
			d.fail(at+".of", "it follows from other readings")
			return
		case !c.Exists(d.h.Model.Kind):
			d.fail(at+".of", "this head has no %s", strings.ToLower(c.Label))
			return
		}
		if spots[r.Of] == nil {
			spots[r.Of] = map[trade.Spot]bool{}
			for _, s := range c.Spots(d.h.Model.Layout) {
				spots[r.Of][s], spots[r.Of][trade.Spot{Position: s.Position}] = true, true
			}
		}
		out := Reading{
			ID:      uint(i + 1),
			Of:      r.Of,
			Spot:    trade.SpotOf(r.At),
			Tool:    r.Tool,
			Stage:   d.oneOf(at+".stage", r.Stage, AsReceived, Stages),
			Typed:   r.Typed,
			Suspect: r.Suspect,
		}
		if !spots[r.Of][out.Spot] {
			d.fail(at+".at", "%s has no such place on this head", c.Label)
		}
		out.Value = d.value(at, c, r)
		out.At = d.time(at+".at_time", r.AtTime)
		tool := slices.IndexFunc(d.h.Tools, func(t Tool) bool { return t.Name == r.Tool })
		switch {
		case r.U != "":
			u, ppm := d.doubt(at+".u", r.U, c.Unit)
			out.U = Tool{U: u, PPM: ppm}.Doubt(out.Value.At)
		case r.Tool != "" && tool < 0:
			d.fail(at+".tool", "there is no tool of that name in the file")
		case tool >= 0:
			out.U = d.h.Tools[tool].Doubt(out.Value.At)
		default:
			k, _ := trade.ToolKindNamed(c.ToolKind())
			out.U = Tool{U: k.U, PPM: k.PPM}.Doubt(out.Value.At)
			out.Untold = !k.Eye && c.Words == nil && !out.Value.Bracket
		}
		if out.Value.Bracket {
			out.U = 0 // the bracket itself is the doubt
		}
		if d.err != nil {
			return
		}
		d.h.Readings = append(d.h.Readings, out)
	}
}

// value is what a reading says.
func (d *decoding) value(at string, c trade.Characteristic, r FileReading) gauge.Value {
	inside := func(path string, v quantity.Amount) {
		if v < c.Low || v > c.High {
			d.fail(
				path, "%s is no size for this: it lies between %s and %s", c.UnitFor(d.h.Unit).Text(v),
				c.UnitFor(d.h.Unit).Text(c.Low),
				c.UnitFor(d.h.Unit).Text(c.High),
			)
		}
	}
	if r.Is != "" && (r.Go != "" || r.NoGo != "") {
		d.fail(at+".is", "give one figure or two leaves, not both")
		return gauge.Value{}
	}
	if r.Is != "" {
		if c.Words != nil {
			v, err := c.Read(r.Is, d.h.Unit)
			d.wrong(at+".is", err)
			return v
		}
		v := d.quantity(at+".is", r.Is, c.Unit)
		inside(at+".is", v)
		return gauge.Exact(v)
	}
	if r.NoGo == "" {
		d.fail(at+".is", "nothing was read")
		return gauge.Value{}
	}
	var goes quantity.Amount
	if r.Go != "" {
		goes = d.quantity(at+".go", r.Go, c.Unit)
	}
	nogo := d.quantity(at+".nogo", r.NoGo, c.Unit)
	inside(at+".nogo", nogo)
	if nogo <= goes && d.err == nil {
		d.fail(at+".nogo", "the leaf that does not go must be thicker than the one that goes")
	}
	return gauge.Between(goes, nogo)
}

// time checks an instant; order, not time, decides what stands.
func (d *decoding) time(path, text string) (at time.Time) {
	at, err := time.Parse(time.RFC3339, text)
	if text != "" && err != nil {
		d.fail(path, "a time in UTC like 2026-03-02T08:00:00Z")
	}
	return at
}

func (f File) findings(d *decoding) {
	for i, x := range f.Findings {
		at := fmt.Sprintf("findings[%d]", i)
		p, ok := trade.PartNamed(x.Part)
		if !ok {
			d.fail(at+".part", "there is no such part to look at")
			return
		}
		if !p.Exists(d.h.Model.Kind) {
			d.fail(at+".part", "this head has no %s", strings.ToLower(p.Label))
		}
		if _, ok := p.Grade(x.Grade); !ok {
			d.fail(at+".grade", "there is no such grade")
		}
		out := Finding{
			ID:       uint(i + 1),
			Part:     x.Part,
			Grade:    x.Grade,
			Position: x.At,
			Note:     x.Note,
			Stage:    d.oneOf(at+".stage", x.Stage, AsReceived, Stages),
			Replaces: uint(max(0, x.Replaces)),
		}
		switch p.Where {
		case trade.AtPosition:
			d.position(at+".at", x.At)
		case trade.AtJournal, trade.AtShaft:
			if !slices.Contains(p.Positions(d.h.Model.Layout), x.At) {
				d.fail(at+".at", "this head has no such %s", p.Where)
			}
		}
		if x.X != "" || x.Y != "" {
			out.X, out.Y = d.length(at+".x", x.X), d.length(at+".y", x.Y)
		}
		var err error
		if out.Thread, err = trade.HoleThread(x.Grade, x.Thread); err != nil {
			d.wrong(at+".thread", err)
		}
		d.h.Findings = append(d.h.Findings, out)
	}
}

// position checks that a position is one of the head's.
func (d *decoding) position(path, id string) {
	if _, ok := d.h.Model.Layout.Valve(id); !ok {
		d.fail(path, "%s is no position of this head", id)
	}
}

func (f File) parts(d *decoding) {
	for i, p := range f.Parts {
		at := fmt.Sprintf("parts[%d]", i)
		if trade.PartKindNamed(p.Part) == nil {
			d.fail(at+".part", "there is no such kind of part")
			return
		}
		if p.At != "" {
			d.position(at+".at", p.At)
		}
		out := Part{Part: p.Part, Position: p.At, New: p.New, Missing: p.Missing, Is: map[string]quantity.Amount{}}
		if p.Material != "" || p.Coated || p.Hollow {
			out.Valve = &trade.Valve{Material: d.oneOf(at+".material", p.Material, "steel",
				trade.ValveMaterials), Coated: p.Coated, Hollow: p.Hollow}
		}
		for code, text := range p.Is {
			c, ok := trade.ByCode(code)
			if !ok {
				d.fail(clip(at+".is."+code), "there is no such characteristic")
				return
			}
			out.Is[code] = d.quantity(at+".is."+code, text, c.Unit)
		}
		d.h.Parts = append(d.h.Parts, out)
	}
}

// maxCount bounds how many of a part a file can have.
const maxCount = 100_000

func (f File) stock(d *decoding) {
	for i, s := range f.Stock {
		at := fmt.Sprintf("stock[%d]", i)
		if trade.PartKindNamed(s.Kind) == nil {
			d.fail(at+".kind", "there is no such kind of part")
		}
		if s.Count < 0 || s.Count > maxCount || s.Days < 0 || s.Days > 1000 {
			d.fail(at+".count", "a number of ordinary size")
		}
		out := Stock{ID: uint(i + 1), Kind: s.Kind, Name: s.Name, Role: d.oneOf(at+".role", s.Role, "",
			[]string{"intake", "exhaust"}), Count: s.Count, Lead: s.Days}
		if s.Size != "" {
			out.Size = d.length(at+".size", s.Size)
		}
		if s.UpTo != "" {
			if out.UpTo = d.length(at+".up_to", s.UpTo); s.Kind != trade.GasketPart.Code || out.UpTo <= 0 ||
				out.Size <= 0 {
				d.fail(at+".up_to", "more than nothing, of a gasket with its size")
			}
		}
		if s.Price != "" {
			cents, err := money.Parse(s.Price)
			d.wrong(at+".price", err)
			out.Price = &cents
		}
		d.h.Stock = append(d.h.Stock, out)
	}
}

func (f File) settings(d *decoding) {
	d.h.Settings = map[string]string{}
	for name, v := range f.Settings {
		s, ok := trade.SettingNamed(name)
		if !ok {
			d.fail(clip("settings."+name), "there is no such setting")
			return
		}
		d.wrong("settings."+name, s.Check(v))
		d.h.Settings[name] = v
	}
}

func (f File) work(d *decoding) {
	f.decisions(d)
	if f.operations(d) {
		f.records(d)
	}
	for i, s := range f.Signoffs {
		left, out := strings.CutPrefix(s.Finding, LeftOut)
		code, _, _ := strings.Cut(strings.ReplaceAll(s.Finding, "/", "@"), "@")
		if out && trade.OperationNamed(left) == nil || !out && !d.judged(code) {
			d.fail(fmt.Sprintf("signoffs[%d].finding", i), "nothing is judged or left out by that name")
		}
		d.h.Signoffs = append(d.h.Signoffs, Signoff(s))
	}
	for i, l := range f.Approved {
		if trade.OperationNamed(l.Code) == nil {
			d.fail(fmt.Sprintf("approved[%d].code", i), "there is no such operation")
		}
		d.h.Approved = append(d.h.Approved, Line(l))
	}
}

// decisions reads what was decided.
func (f File) decisions(d *decoding) {
	for i, x := range f.Decisions {
		at := fmt.Sprintf("decisions[%d]", i)
		if code, _, _ := strings.Cut(strings.ReplaceAll(x.Finding, "/", "@"), "@"); !d.judged(code) {
			d.fail(at+".finding", "nothing is judged by that name")
		}
		// a plan names its work
		known := trade.RepairNamed(x.Choice) != nil || trade.OperationNamed(x.Choice) != nil
		if !known && x.Choice != trade.Leave && x.Choice != trade.Planned {
			d.fail(at+".choice", "there is no such repair")
		}
		d.h.Decisions = append(d.h.Decisions, Decision(x))
	}
}

// operations reads the route; false means that the records of its work need not be read.
func (f File) operations(d *decoding) bool {
	for i, o := range f.Operations {
		at := fmt.Sprintf("operations[%d]", i)
		k := trade.OperationNamed(o.Code)
		if k == nil {
			d.fail(at+".code", "there is no such operation")
			return false
		}
		for n, id := range o.At {
			d.position(fmt.Sprintf("%s.at[%d]", at, n), id)
		}
		d.time(at+".started", o.Started)
		d.time(at+".finished", o.Finished)
		out := Operation{
			Code: o.Code, At: o.At, State: d.oneOf(at+".state", o.State, Waiting,
				[]string{Waiting, Running, Held, Done, Skipped}), Begun: -1,
			Why: o.Why,
		}
		if o.Readings != nil {
			out.Begun = *o.Readings
		}
		d.h.Operations = append(d.h.Operations, out)
	}
	return true
}

// records reads what was written down at the work.
func (f File) records(d *decoding) {
	for i, r := range f.Records {
		at := fmt.Sprintf("records[%d]", i)
		k := trade.OperationNamed(r.Operation)
		if k == nil || k.Record == nil {
			d.fail(at+".operation", "there is no such record")
			return
		}
		form := d.h.Sheet.Record(k)
		for name := range r.Values {
			if !slices.ContainsFunc(form.Fields, func(f trade.Field) bool { return f.Name == name }) {
				d.fail(clip(at+".values."+name), "the record has no such field")
			}
		}
		if r.At != "" {
			d.position(at+".at", r.At)
		}
		out := Record{Operation: r.Operation, Position: r.At, Values: r.Values, After: -1}
		if r.Readings != nil {
			out.After = *r.Readings
		}
		d.h.Records = append(d.h.Records, out)
	}
}

func (f File) ask(d *decoding) {
	d.h.Ask = Ask{Alternative: d.oneOf("ask.alternative", f.Ask.Alternative, "balanced",
		[]string{"keep", "balanced", "renew", "robust"}), Hold: f.Ask.Hold}
	if f.Ask.Tilt != "" {
		d.h.Ask.Tilt = d.oneOf("ask.tilt", f.Ask.Tilt, "", []string{Level, Tilted})
	}
	if f.Ask.FaceCut != "" {
		c := d.length("ask.face_cut", f.Ask.FaceCut)
		if c < 0 {
			d.fail("ask.face_cut", "must not be negative")
		}
		d.h.Ask.FaceCut = &c
	}
	holds := d.h.Holds()
	for id, held := range f.Ask.Hold {
		d.position(clip("ask.hold."+id), id)
		for what, v := range held {
			i := slices.IndexFunc(holds, func(h Hold) bool { return string(h.Of) == what })
			if i < 0 {
				d.fail(clip("ask.hold."+id+"."+what), "seat, valve or guide, or what a repair of the shop's own works on")
				return
			}
			d.oneOf("ask.hold."+id+"."+what, v, "", holds[i].Choices)
		}
	}
}

// recordedReadings turns what records say into readings: both are one and the same data.
func (h *Head) recordedReadings() {
	for _, r := range h.Records {
		k := trade.OperationNamed(r.Operation)
		if k == nil || k.Record == nil {
			continue
		}
		for _, x := range FieldReadings(k.Record, r) {
			if slices.ContainsFunc(h.Readings, func(y Reading) bool {
				return y.Of == x.Of && y.Spot == x.Spot && y.Value == x.Value && y.Stage == x.Stage
			}) {
				continue // a shop writes what is recorded as a reading too
			}
			x.ID = uint(len(h.Readings) + 1)
			c, _ := trade.ByCode(x.Of)
			x.U = h.ToolU(c.ToolKind())
			h.Readings = append(h.Readings, x)
		}
	}
	h.reads = nil
}

// FieldReadings are the readings a record stands for, without ids and doubt: what is recorded
// of a test is the same data as what is read of it.
func FieldReadings(form *trade.Record, r Record) []Reading {
	var out []Reading
	for _, f := range form.Fields {
		out = append(out, fieldReadings(f, r)...)
	}
	return out
}

// fieldReadings are the readings a record's field stands for.
func fieldReadings(f trade.Field, r Record) []Reading {
	text := strings.TrimSpace(r.Values[f.Name])
	if f.Reads == nil || text == "" {
		return nil
	}
	at := Reading{Of: f.Reads.Code, Spot: trade.Spot{Position: r.Position}, Stage: AfterRepair, Typed: text}
	if f.Reads.Where == trade.AtHead {
		at.Spot.Position = "H"
	}
	if f.Kind == "pressures" {
		var out []Reading
		all, err := trade.Pressures(text)
		if err != nil {
			return nil
		}
		for i, p := range all {
			if i < len(f.Reads.Places) {
				one := at
				one.Spot.Place, one.Value = f.Reads.Places[i], gauge.Exact(p.Amount())
				out = append(out, one)
			}
		}
		return out
	}
	if f.Kind == "yes" {
		text = map[string]string{"yes": "+", "no": "-"}[text]
	}
	v, err := f.Reads.Read(text, length.MM)
	if err != nil {
		return nil
	}
	at.Value = v
	return []Reading{at}
}
