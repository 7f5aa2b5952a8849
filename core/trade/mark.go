package trade

import (
	"slices"
	"strings"

	"yatai/core/engine"
	"yatai/core/field"
	"yatai/core/gauge"
)

// MarkSeen is what is placed on the map of the head.
var MarkSeen = part(Part{
	Code:  MarkCode,
	Label: "Mark on the map",
	Where: AtHead,
	Grades: []Grade{
		{"stamp", "stamp or old work", "an earlier facing's stamp, a repair", gauge.Sound},
		{"erosion", "erosion", "washed or etched away", gauge.Near},
		{"crack", "crack", "a line that dye or powder shows", gauge.Out},
		{"leak", "leak", "bubbles under pressure", gauge.Out},
		{"thread", "thread damaged", "stripped or pulled", gauge.Out},
		{"stud", "broken stud", "left in its hole", gauge.Out},
		{"mended", "mended", "welded, stitched or plugged, and tested", gauge.Sound},
	},
})

// Threaded tells whether a mark of the grade is at a threaded hole.
func Threaded(grade string) bool { return slices.Contains([]string{"thread", "stud"}, grade) }

// HoleThread reads the thread of the hole that a mark of the grade is at, as engine.Thread names it; ""
// where nothing was said.
func HoleThread(grade, text string) (string, error) {
	text = strings.TrimSpace(text)
	if text == "" {
		return "", nil
	}
	if !Threaded(grade) {
		return "", field.Errorf("", "a thread belongs to a damaged thread or a broken stud")
	}
	if _, err := engine.Thread(engine.ThreadInput{Thread: text}); err != nil {
		return "", &field.Error{Says: field.Text(err)}
	}
	return text, nil
}

// Parts for what is marked.
var (
	ThreadInsertPart = partKind(PartKind{Code: "thread insert", Name: "thread insert", Usual: 450})
	CorePlugPart     = partKind(PartKind{Code: "core plug", Name: "core plug", Usual: 320})
)

// The work on what is marked.
var (
	Weld = operation(Operation{
		Code:    "weld",
		Name:    "Weld or stitch",
		Station: Press,
		Stage:   Heat,
		Setup:   180,
		Alone:   60,
		Last:    20,
		Needs: []*Operation{
			Retest,
		},
		Whole:   true,
		Marks:   true,
		Caution: "Fumes, burns: a qualified welder, ventilation. Sodium-filled valves out of the head. Test again after.",
		Record: given(
			Field{Name: "how", Label: "How it was mended", Kind: "text", Hint: "stitched with 6 mm pins"},
			Field{Name: "by", Label: "Who welded, qualified as", Kind: "text"},
		),
	})
	NewPlug = operation(Operation{
		Code:    "plug_new",
		Name:    "New core plug",
		Station: Press,
		Stage:   Heat,
		Setup:   20,
		Needs:   []*Operation{Retest},
		On:      Kind.WaterCooled,
		Marks:   true,
		Uses:    CorePlugPart,
		Caution: "Eye protection.",
	})
	ChaseThread = operation(Operation{
		Code:    "thread_chase",
		Name:    "Chase threads",
		Station: Press,
		Stage:   Threading,
		Setup:   15,
		Marks:   true,
		Caution: "Eye protection.",
	})
	PullStud = operation(Operation{
		Code:    "stud_out",
		Name:    "Extract studs",
		Station: Press,
		Stage:   Threading,
		Setup:   40,
		Marks:   true,
		Caution: "Eye protection; a heated stud burns.",
	})
	InsertThread = operation(Operation{
		Code:    "thread_insert",
		Name:    "Thread inserts",
		Station: Press,
		Stage:   Threading,
		Setup:   30,
		Marks:   true,
		Uses:    ThreadInsertPart,
		Caution: "Eye protection.",
		Record: given(
			Field{Name: "thread", Label: "Thread", Kind: "text", Hint: "M10 x 1.5"},
			Field{Name: "insert", Label: "Insert", Kind: "text", Hint: "2 D long"},
			Field{Name: "drill", Label: "Drill", Kind: "text", Hint: "10.4 mm"},
		),
	})
)

// What can be done about marks.
var (
	_ = repair(Repair{
		Code:    "weld",
		Name:    "Weld or stitch, and pressure test",
		Changes: "everything near it: before all machining",
		Works:   MarkMetal,
		Does:    Weld,
		Order:   20,
		Answers: []Answer{
			{Part: MarkSeen, Mark: "crack"}, {Part: MarkSeen, Mark: "leak"}, {Of: Register, Side: High},
		},
	})
	_ = repair(Repair{
		Code:    "plug_new",
		Name:    "New core plug",
		Changes: "nothing else",
		Works:   MarkMetal,
		Does:    NewPlug,
		Order:   10,
		Answers: []Answer{{Part: MarkSeen, Mark: "leak"}},
	})
	_ = repair(Repair{
		Code:    "thread_chase",
		Name:    "Chase the thread",
		Changes: "nothing else",
		Works:   MarkMetal,
		Does:    ChaseThread,
		Order:   10,
		Answers: []Answer{{Part: MarkSeen, Mark: "thread"}},
	})
	_ = repair(Repair{
		Code:    "stud_out",
		Name:    "Extract the stud",
		Changes: "nothing else",
		Works:   MarkMetal,
		Does:    PullStud,
		Order:   10,
		Answers: []Answer{{Part: MarkSeen, Mark: "stud"}},
	})
	_ = repair(Repair{
		Code:    "thread_insert",
		Name:    "Drill out, thread insert",
		Changes: "nothing else",
		Works:   MarkMetal,
		Does:    InsertThread,
		Order:   20,
		Answers: []Answer{{Part: MarkSeen, Mark: "thread"}, {Part: MarkSeen, Mark: "stud"}},
	})
)
