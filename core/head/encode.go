package head

import (
	"bytes"
	"encoding/json"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"yatai/core/layout"
	"yatai/core/length"
	"yatai/core/money"
	"yatai/core/quantity"
	"yatai/core/trade"
)

// Encode writes a head as a file. Decode of it is the same head, but for ids: readings and
// findings are counted from 1.
func Encode(h *Head) File {
	f := File{
		Format: Format,
		Head: FileHead{
			Theirs:    h.Theirs,
			Tag:       h.Tag,
			Kind:      h.Kind,
			Unit:      h.Unit.Name,
			Story:     h.Story,
			Symptoms:  h.Symptoms,
			Hours:     h.Hours,
			Bank:      h.Bank,
			Marks:     h.Marks,
			Regulated: h.Regulated,
		},
		Model:    encodeModel(h.Model),
		Sheet:    encodeSheet(h.Sheet),
		Settings: h.Settings,
		Ask:      FileAsk{Alternative: h.Ask.Alternative, Tilt: h.Ask.Tilt, Hold: h.Ask.Hold},
	}
	if h.Released != "" {
		f.Head.Released = h.Released
	}
	if h.Ask.FaceCut != nil {
		f.Ask.FaceCut = h.Ask.FaceCut.String()
	}
	f.Tools = encodeTools(h.Tools)
	f.Readings = encodeReadings(h, f.Tools)
	f.Parts, f.Stock = encodeParts(h.Parts), encodeStock(h.Stock)
	ids := map[uint]uint{} // a finding's place in the file, by its id
	f.Findings = encodeFindings(h.Findings, ids)
	for _, d := range h.Decisions {
		d.Finding = MarkKey(d.Finding, ids)
		f.Decisions = append(f.Decisions, FileDecision(d))
	}
	for _, o := range h.Operations {
		f.Operations = append(f.Operations, FileOperation{
			Code: o.Code, At: o.At, State: o.State, Readings: h.readingsTo(o.Begun), Why: o.Why,
		})
	}
	for _, r := range h.Records {
		f.Records = append(f.Records, FileRecord{
			Operation: r.Operation, At: r.Position, Values: r.Values, Readings: h.readingsTo(r.After),
		})
	}
	for _, s := range h.Signoffs {
		s.Finding = MarkKey(s.Finding, ids)
		f.Signoffs = append(f.Signoffs, FileSignoff(s))
	}
	for _, l := range h.Approved {
		f.Approved = append(f.Approved, FileLine(l))
	}
	return f
}

// readingsTo counts the readings up to that id; nil for none before the first.
func (h *Head) readingsTo(id int) *int {
	if id < 0 {
		return nil
	}
	n := 0
	for _, r := range h.Readings {
		if int(r.ID) <= id {
			n++
		}
	}
	return &n
}

// encodeTools writes the tools, the first of each name.
func encodeTools(tools []Tool) []FileTool {
	var all []FileTool
	for _, t := range tools {
		if slices.ContainsFunc(all, func(o FileTool) bool { return o.Name == t.Name }) {
			continue
		}
		kind, _ := trade.ToolKindNamed(t.Kind)
		out := FileTool{Name: t.Name, Kind: t.Kind, U: written(t.U, kind.Unit)}
		if t.PPM > 0 && t.U == 0 {
			out.U = strconv.FormatFloat(float64(t.PPM)/10_000, 'f', -1, 64) + "%"
		}
		all = append(all, out)
	}
	return all
}

// encodeReadings writes the readings, with their tool where it is one of those.
func encodeReadings(h *Head, tools []FileTool) []FileReading {
	var all []FileReading
	for _, r := range h.Readings {
		c, _ := h.Sheet.Characteristic(r.Of)
		out := FileReading{Of: r.Of, At: r.Spot.Key(), Stage: r.Stage, Typed: r.Typed, Suspect: r.Suspect}
		if slices.ContainsFunc(tools, func(t FileTool) bool { return t.Name == r.Tool }) {
			out.Tool = r.Tool
		}
		if r.Value.Bracket {
			out.Go, out.NoGo = written(r.Value.Go, c.Unit), written(r.Value.NoGo, c.Unit)
		} else {
			out.Is = written(r.Value.At, c.Unit)
			if !r.Untold { // a doubt that nobody named is not known in the file either
				out.U = written(r.U, c.Unit)
			}
		}
		all = append(all, out)
	}
	return all
}

// encodeFindings writes the findings and notes their places in ids, counted from 1.
func encodeFindings(findings []Finding, ids map[uint]uint) []FileFinding {
	var all []FileFinding
	for i, x := range findings {
		ids[x.ID] = uint(i + 1)
		out := FileFinding{Part: x.Part, At: x.Position, Grade: x.Grade, Note: x.Note, Stage: x.Stage}
		if x.Part == trade.MarkCode {
			out.X, out.Y, out.Replaces = x.X.String(), x.Y.String(), int(ids[x.Replaces])
			out.Thread = x.Thread
		}
		all = append(all, out)
	}
	return all
}

func encodeParts(parts []Part) []FilePart {
	var all []FilePart
	for _, p := range parts {
		out := FilePart{Part: p.Part, At: p.Position, New: p.New, Missing: p.Missing}
		if p.Valve != nil {
			out.Material, out.Coated, out.Hollow = p.Valve.Material, p.Valve.Coated, p.Valve.Hollow
		}
		for code, v := range p.Is {
			if out.Is == nil {
				out.Is = map[string]string{}
			}
			c, _ := trade.ByCode(code)
			out.Is[code] = written(v, c.Unit)
		}
		all = append(all, out)
	}
	return all
}

func encodeStock(stock []Stock) []FileStock {
	var all []FileStock
	for _, s := range stock {
		if trade.PartKindNamed(s.Kind) == nil {
			continue // exchange heads and the like are no part of this one
		}
		out := FileStock{Kind: s.Kind, Name: s.Name, Role: s.Role, Count: s.Count, Days: s.Lead}
		if s.Size != 0 {
			out.Size = s.Size.String()
		}
		if s.UpTo != 0 {
			out.UpTo = s.UpTo.String()
		}
		if s.Price != nil {
			out.Price = money.Text(*s.Price)
		}
		all = append(all, out)
	}
	return all
}

// MarkKey is the key of a finding where findings have other ids: the key of a mark on the map
// has its id in it, "mark.crack/m3". Other keys stay.
func MarkKey(key string, ids map[uint]uint) string {
	what, id, ok := strings.Cut(key, "/m")
	n, err := strconv.ParseUint(id, 10, 32)
	if to := ids[uint(n)]; ok && err == nil && to != 0 {
		return what + "/m" + strconv.FormatUint(uint64(to), 10)
	}
	return key
}

// JSON is the file as it is kept: indented, with a line's end at its end.
func (f File) JSON() ([]byte, error) {
	var b bytes.Buffer
	e := json.NewEncoder(&b)
	e.SetEscapeHTML(false)
	e.SetIndent("", " ")
	err := e.Encode(f)
	return b.Bytes(), err
}

// written writes a value exactly, with its unit.
func written(a quantity.Amount, unit quantity.Unit) string {
	if unit.Size == 0 {
		return a.Length().String()
	}
	return unit.Bare(a) + unit.Name
}

func encodeModel(m Model) FileModel {
	l := m.Layout
	out := FileModel{
		Name:      m.Name,
		About:     m.About,
		Material:  m.Kind.Material,
		Cooling:   m.Kind.Cooling,
		Drive:     m.Kind.Drive,
		Lifter:    m.Kind.Lifter,
		Ignition:  m.Kind.Ignition,
		Camshafts: l.Camshafts,
		Bridges:   l.Bridges,
		Cylinders: len(l.Chambers),
		Width:     l.Width.String(),
		Valves:    map[string]FileValve{},
	}
	if len(l.Chambers) == 0 {
		return out
	}
	spec := layout.SpecOf(l)
	spec.Injector, spec.AirCooled = m.Kind.Injectors(), m.Kind.AirCooled()
	out.Pitch, out.Bore, out.Patterns, out.FirstAt = spec.Pitch.String(), spec.Bore.String(), spec.Patterns, "left"
	if spec.FirstAtRight {
		out.FirstAt = "right"
	}
	for role, head := range map[layout.Role]length.Length{
		layout.Intake: spec.IntakeHead, layout.Exhaust: spec.ExhaustHead,
	} {
		v := m.Valves[role]
		out.Valves[string(role)] = FileValve{
			Head: head.String(), Material: v.Material, Coated: v.Coated, Hollow: v.Hollow, Plain: v.Plain,
		}
	}
	regular, err := layout.Inline(spec)
	if err != nil {
		return out
	}
	for _, p := range l.Differs(regular) {
		out.Moved = append(out.Moved, FilePlace{
			What: p.What, Name: p.Name, X: p.X.String(), Y: p.Y.String(), D: p.D.String(),
		})
	}
	return out
}

func encodeSheet(s Sheet) FileSheet {
	out := FileSheet{Renew: s.Renew}
	for _, l := range s.Limits {
		c, ok := s.Characteristic(l.Characteristic)
		if !ok {
			continue
		}
		x := FileLimit{Of: l.Characteristic, Role: l.Role, Set: l.Set, Source: l.Source}
		if l.Low != nil {
			x.Low = written(*l.Low, c.Unit)
		}
		if l.High != nil {
			x.High = written(*l.High, c.Unit)
		}
		if l.Near != 0 {
			x.Near = written(l.Near, c.Unit)
		}
		if x.Low != "" || x.High != "" {
			out.Limits = append(out.Limits, x)
		}
	}
	for name, v := range s.Figures {
		if out.Figures == nil {
			out.Figures = map[string]string{}
		}
		code, _, _ := strings.Cut(name, "/")
		if fig := trade.FigureNamed(code); fig != nil {
			out.Figures[name] = written(v, fig.Unit)
		}
	}
	for _, c := range s.Own {
		if c.Of != nil || len(c.From) > 0 {
			continue // made of another of them
		}
		own := FileOwn{
			Code: c.Code, Label: c.Label, Where: c.Where, Unit: c.Unit.Name, Tool: c.ToolKind(),
			Answers: c.Answers,
		}
		out.Own = append(out.Own, own)
	}
	for _, r := range s.Repairs {
		if o, err := trade.ParseOwnRepair(r.Code); err == nil {
			out.Repairs = append(out.Repairs, fileRepair(o))
		}
	}
	for _, t := range s.Tightening {
		out.Tightening = append(out.Tightening, FileTightening(t))
	}
	return out
}

// fileRepair writes a repair of the shop's own.
func fileRepair(o trade.OwnRepair) FileOwnRepair {
	x := FileOwnRepair{
		Name: o.Name, Works: string(o.Works), Station: o.Station, Minutes: fmt.Sprintf("%d+%d", o.Setup, o.Each),
		Part: o.Part, Code: o.Code(),
	}
	if o.Most > 0 {
		x.Least, x.Most = o.Least.String(), o.Most.String()
	}
	for _, m := range o.Moves {
		if x.Moves == nil {
			x.Moves = map[string]string{}
		}
		x.Moves[m.Of] = map[bool]string{true: "up", false: "down"}[m.Times > 0]
	}
	return x
}
