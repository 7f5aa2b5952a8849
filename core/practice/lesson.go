package practice

import (
	"slices"

	"yatai/core/trade"
)

// Lesson is a practice head with a purpose: what of it is read, and what is asked.
type Lesson struct {
	Code      string
	Title     string
	Line      string // what it teaches
	Trouble   string // what is wrong with the head; "" when the key decides
	Level     int
	Cylinders int
	Reads     []string // codes of what is read; nil: all there is
	Looks     bool     // parts are looked at
	Plan      bool     // what is to be done is asked
	Cause     bool     // why it failed is asked
}

// judges tells whether a limit is held on the lesson's head: of what is read, or made of it.
func (l Lesson) judges(code string) bool {
	if l.Reads == nil || slices.Contains(l.Reads, code) {
		return true
	}
	c, _ := trade.ByCode(code)
	return len(c.From) > 0 && !slices.ContainsFunc(c.From, func(x *trade.Characteristic) bool {
		return !slices.Contains(l.Reads, x.Code)
	})
}

// Lessons are the ready ones in the order a beginner learns, the exam last.
var Lessons = []Lesson{
	{
		Code: "micrometer", Title: "Micrometer: stems", Trouble: "guides", Level: Easy, Cylinders: 2,
		Line: "Close it until the ratchet clicks, and no further. " +
			"A stem is worn where it runs in the guide: read it top, middle and bottom.",
		Reads: []string{trade.Stem.Code},
	},
	{
		Code: "bore", Title: "Bore gauge: guides", Trouble: "guides", Level: Easy, Cylinders: 2,
		Line: "A tilted gauge reads large: rock it, the least it shows is the bore. " +
			"Read along the rocker's sweep and across it.",
		Reads: []string{trade.Stem.Code, trade.GuideBore.Code},
	},
	{
		Code: "doubt", Title: "Doubt: which tool tells", Trouble: "guides", Level: Hard, Cylinders: 2,
		Line: "A reading closer to its limit than the tool's doubt says nothing yet. " +
			"Say so, or take the tool that tells.",
		Reads: []string{trade.Stem.Code, trade.GuideBore.Code, trade.ValveMargin.Code},
	},
	{
		Code: "feelers", Title: "Feelers and straightedge", Trouble: "overheated", Level: Usual, Cylinders: 3,
		Line: "Two leaves tell: the largest that goes and the smallest that does not. " +
			"A face is read along, across and from corner to corner.",
		Reads: []string{trade.FaceLine.Code, trade.Lash.Code, trade.Thickness.Code},
	},
	{
		Code: "seats", Title: "Seats: width, runout, recession, vacuum", Trouble: "sinking", Level: Usual,
		Cylinders: 2,
		Line: "The dial on its pilot goes round once and whole. " +
			"Turn the valve under vacuum: a leak that moves with it is the valve's.",
		Reads: []string{
			trade.SeatWidth.Code, trade.SeatRunout.Code, trade.Recession.Code, trade.ValveRunout.Code,
			trade.VacuumBlanked.Code, trade.VacuumTurned.Code, trade.Drop.Code,
		},
		Looks: true,
	},
	{
		Code: "zero", Title: "A tool that is off", Trouble: "tool", Level: Usual, Cylinders: 2,
		Line:  "Check a tool's zero before it is believed. What was read before a failed check is read again.",
		Reads: []string{trade.Stem.Code, trade.GuideBore.Code},
	},
	{
		Code: "plan", Title: "Plan: what is to be done", Trouble: "sinking", Level: Usual, Cylinders: 2,
		Looks: true, Line: "Every cut moves something else. The cheapest work that brings all inside, and no more.",
		Plan: true,
	},
	{
		Code: "causes", Title: "Causes: why it failed", Level: Usual, Cylinders: 2, Looks: true,
		Line:  "Signs of one cause lie at one valve. What would speak for it and is not there counts too.",
		Cause: true,
	},
	{
		Code: "exam", Title: "Exam: a whole head", Level: Hard, Cylinders: 3, Looks: true,
		Line: "Everything: read, look, judge, plan, and say why it failed. By number, so that two people get the same.",
		Plan: true, Cause: true,
	},
}

// whole is the lesson that reads everything.
func whole() Lesson { return Lessons[len(Lessons)-1] }

// LessonNamed returns the lesson with that code.
func LessonNamed(code string) (Lesson, bool) {
	i := slices.IndexFunc(Lessons, func(l Lesson) bool { return l.Code == code })
	if i < 0 {
		return Lesson{}, false
	}
	return Lessons[i], true
}
