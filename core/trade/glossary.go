package trade

// Mistakes are what goes wrong most often when a characteristic is read, by its code; a section
// has one for all of it that have none of their own.
var mistakes = map[string]string{
	"guide.bore":       "Read along the sweep only: wear across it stays unseen. A small-hole gauge is felt, so two people feel it differently.",
	"stem.dia":         "Read above the wear, on the part that never ran in the guide: turn it, and read top, middle and bottom.",
	"guide.rock":       "The valve lifted more or less than the lift that is stated: the same rock is another clearance then.",
	"guide.height":     "Read from a chip or a burr beside the pad.",
	"seat.width":       "Read straight down instead of along the slope: it comes out narrower than it is.",
	"seat.position":    "Too much blue: the ring looks wider and further out than it is.",
	"seat.runout":      "A worn guide under the pilot: the guide's play is read as the seat's runout. Guides first.",
	"valve.recession":  "The bridge stands on carbon or on a burr, or the valve is not all the way down.",
	"stem.height":      "The valve does not sit: a chip on the seat, or the spring pushes it aside.",
	"spring.height":    "The height micrometer screwed down hard: it presses the retainer up.",
	"spring.load_seat": "Read at a height that is not the installed one of this very position.",
	"spring.pad":       "Read over a shim that was left in.",
	"face.line":        "Pressed down in the middle: a hollow face looks flat. Its own weight is enough.",
	"face.grid":        "The head rocks on three good points while the fourth is read.",
	"head.thickness":   "A warm head: aluminium grows by two hundredths of a millimetre over 90 mm in ten degrees.",
	"chamber.volume":   "Air left under the plate, or the valves not sealed with grease.",
	"lash":             "The cam not on its base circle, or the leaf pushed in by force.",
	"lash.dry":         "The lifter not bled: oil in it takes up what is read.",
	"cam.clearance":    "The caps not tightened as they are when it runs.",
	"test.vacuum":      "The day's own reading with the cup blanked was not taken: the pump is judged, not the valve.",
	"pushrod.length":   "Ball and cup read over their rims instead of where they touch.",
}

// Mistake is what goes wrong most often when the characteristic is read, "" when nobody has said.
func (c Characteristic) Mistake() string { return mistakes[c.Code] }

// MistakesSaid is how many characteristics have one said.
func MistakesSaid() int { return len(mistakes) }
