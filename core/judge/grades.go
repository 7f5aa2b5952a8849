package judge

import (
	"slices"
	"strconv"
	"strings"

	"yatai/core/gauge"
	"yatai/core/layout"
	"yatai/core/length"
)

// Grade is one thing eyes can see on a part, with the verdict it carries and a line that
// tells it from its neighbours.
type Grade struct {
	Code    string
	Label   string
	Line    string
	Verdict gauge.Verdict
}

// Part is a part of a position that is looked at and graded, its grades from best to worst.
type Part struct {
	Code   string
	Label  string
	Grades []Grade
}

// Mark is the part code of what is placed on the map of the face: cracks, leaks and the
// like. A head can have any number of them.
const Mark = "mark"

// Parts are the parts that are graded, in the order they are looked at.
var Parts = []Part{
	{"valve.face", "Valve face", []Grade{
		{"clean", "clean", "a matte ring all round, no marks", gauge.Sound},
		{"light_pits", "light pits", "specks a nail does not catch", gauge.Near},
		{"heavy_pits", "heavy pits", "pits a nail catches, across the ring", gauge.Out},
		{"dished", "dished", "hollow where the seat has beaten it", gauge.Out},
		{"burnt", "burnt", "a sector melted or channelled", gauge.Renew},
		{"cracked", "cracked", "a line from the rim inwards", gauge.Renew},
	}},
	{"stem.condition", "Stem", []Grade{
		{"clean", "clean", "even, no marks", gauge.Sound},
		{"polished", "polished wear", "bright where the guide runs", gauge.Near},
		{"ridge", "ridge", "a step at the guide's edge", gauge.Out},
		{"transfer", "metal transfer", "guide metal smeared on the stem", gauge.Renew},
		{"bent", "bent", "rolls out of true on the plate", gauge.Renew},
		{"corroded", "corroded", "pitted from standing or acid", gauge.Out},
	}},
	{"tip.condition", "Tip", []Grade{
		{"clean", "clean", "flat, a centred mark", gauge.Sound},
		{"offcentre", "worn off centre", "the rocker's mark lies to one side", gauge.Near},
		{"dented", "dented", "a hollow where the rocker strikes", gauge.Out},
		{"mushroomed", "mushroomed", "spread over the stem's edge", gauge.Renew},
	}},
	{"groove.condition", "Keeper groove", []Grade{
		{"sharp", "sharp", "edges square", gauge.Sound},
		{"worn", "worn", "edges rounded or stepped", gauge.Renew},
	}},
	{"seat.condition", "Seat", []Grade{
		{"clean", "clean", "an even ring", gauge.Sound},
		{"light_pits", "light pits", "specks, the ring unbroken", gauge.Near},
		{"heavy_pits", "heavy pits", "pits that break the ring", gauge.Out},
		{"gaps", "gaps in the ring", "blue shows through in places", gauge.Out},
		{"sunk", "sunk", "beaten below its land", gauge.Out},
		{"loose", "loose", "the insert moves or rings dull", gauge.Renew},
		{"cracked", "cracked", "a line across the seat", gauge.Renew},
		{"burnt", "burnt", "a channel through the ring", gauge.Renew},
	}},
	{"guide.condition", "Guide", []Grade{
		{"clean", "clean", "smooth", gauge.Sound},
		{"scored", "scored", "lines along the bore", gauge.Out},
		{"cracked", "cracked", "a line at an end", gauge.Renew},
		{"loose", "loose in the head", "moves by hand or tap", gauge.Renew},
	}},
	{"spring.condition", "Spring", []Grade{
		{"sound", "sound", "no marks", gauge.Sound},
		{"rust_pits", "rust pits", "pits in the wire", gauge.Renew},
		{"rubbed", "rubbed", "flats where coils or pocket touch", gauge.Out},
		{"leaning", "leaning", "out of square by eye", gauge.Out},
		{"broken", "broken", "in two", gauge.Renew},
	}},
	{"bucket.condition", "Bucket", []Grade{
		{"clean", "clean", "even sheen", gauge.Sound},
		{"galled", "galled", "torn along the skirt", gauge.Renew},
	}},
	{"rocker.condition", "Rocker", []Grade{
		{"sound", "sound", "pad smooth, bush free", gauge.Sound},
		{"pad_worn", "pad worn", "a hollow in the pad", gauge.Out},
		{"pad_through", "pad worn through its hardening", "bright and soft in the hollow", gauge.Renew},
		{"cracked", "cracked", "a line at the arm or bore", gauge.Renew},
		{"bush_worn", "bush worn", "rocks on its shaft", gauge.Out},
	}},
	{"keeper.condition", "Keepers", []Grade{
		{"sound", "sound", "grip all round", gauge.Sound},
		{"worn", "worn", "stepped or turning on the stem", gauge.Renew},
	}},
	{"rotator.condition", "Rotator", []Grade{
		{"free", "turns freely", "by hand, both ways as made", gauge.Sound},
		{"sticks", "sticks", "does not turn, or in jerks", gauge.Renew},
	}},
	{"port.condition", "Port", []Grade{
		{"dry", "dry", "dull grey or brown", gauge.Sound},
		{"oily", "oil-wet", "wet with oil, or oil coke on the valve's back", gauge.Near},
		{"carbon", "choked with carbon", "thick dry carbon", gauge.Near},
	}},
	{Mark, "Mark on the map", []Grade{
		{"stamp", "stamp or old work", "an earlier facing's stamp, a repair", gauge.Sound},
		{"erosion", "erosion", "washed or etched away", gauge.Near},
		{"crack", "crack", "a line that dye or powder shows", gauge.Out},
		{"leak", "leak", "bubbles under pressure", gauge.Out},
		{"thread", "thread damaged", "stripped or pulled", gauge.Out},
		{"stud", "broken stud", "left in its hole", gauge.Out},
		{"mended", "mended", "welded, stitched or plugged, and tested", gauge.Sound},
	}},
}

// PartNamed returns the part with that code.
func PartNamed(code string) (Part, bool) {
	i := slices.IndexFunc(Parts, func(p Part) bool { return p.Code == code })
	if i < 0 {
		return Part{}, false
	}
	return Parts[i], true
}

// Grade returns the part's grade with that code.
func (p Part) Grade(code string) (Grade, bool) {
	i := slices.IndexFunc(p.Grades, func(g Grade) bool { return g.Code == code })
	if i < 0 {
		return Grade{}, false
	}
	return p.Grades[i], true
}

// Finding is something seen that stands: a grade of a part at a position, or a mark on
// the map at X, Y of the layout.
type Finding struct {
	ID       uint
	Part     string
	Grade    string
	Position string
	X, Y     length.Length
	Note     string
}

// feature is the finding as something judged.
func (x Finding) feature(role layout.Role) Feature {
	p, _ := PartNamed(x.Part)
	g, _ := p.Grade(x.Grade)
	f := Feature{Code: x.Part, Label: p.Label + ": " + g.Label, Position: x.Position, Role: string(role), Verdict: g.Verdict, Note: g.Line, Finding: x.ID}
	if x.Note != "" {
		f.Note = x.Note + " (" + g.Line + ")"
	}
	if x.Part == Mark {
		f.Code, f.Label, f.Position = Mark+"."+x.Grade, g.Label, ""
		f.Role = markRole(x.ID)
	}
	return f
}

// markRole tells one mark's key from another's.
func markRole(id uint) string { return "m" + strconv.FormatUint(uint64(id), 10) }

// IsFinding tells whether a feature's code is of something seen, not measured.
func IsFinding(code string) bool {
	_, ok := PartNamed(code)
	return ok || strings.HasPrefix(code, Mark+".")
}
