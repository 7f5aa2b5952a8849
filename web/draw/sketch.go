package draw

import "html/template"

// bases are the parts of the findings as line drawings in a box of 48 by 36.
var bases = map[string]string{
	"valve.face":        "M21 3v13q0 6-13 11v4h32v-4q-13-5-13-11v-13",
	"stem.condition":    "M17 2v32M31 2v32",
	"tip.condition":     "M16 34v-22h16v22M16 12q0-3 3-3h10q3 0 3 3",
	"groove.condition":  "M16 34v-12h3v-6h-3v-12h16v12h-3v6h3v12",
	"seat.condition":    "M10 18a14 14 0 1 0 28 0a14 14 0 1 0-28 0M15 18a9 9 0 1 0 18 0a9 9 0 1 0-18 0",
	"guide.condition":   "M14 3v30h6v-30zM28 3v30h6v-30z",
	"spring.condition":  "M12 32h24M12 4h24M12 28l24-5M12 22l24-5M12 16l24-5M12 10l24-5",
	"bucket.condition":  "M12 6h24v26h-5v-21h-14v21h-5z",
	"rocker.condition":  "M5 24q4-12 16-12h10q10 0 12 8q-8-2-10 2q-6 6-14 2q-8-2-14 0zM24 18a3 3 0 1 0 6 0a3 3 0 1 0-6 0",
	"keeper.condition":  "M15 6l-3 24h9v-24zM33 6l3 24h-9v-24z",
	"rotator.condition": "M8 22h32v6h-32zM12 16h24v6h-24z",
	// a bar over two stems, the screw over the right one
	"bridge.condition": "M6 12h36v6h-4v8h-6v-8h-16v8h-6v-8h-4zM33 5h4v7h-4z",
	"port.condition":   "M4 8h20q14 0 14 14v10M4 22h14q6 0 6 6v4",
	"cam.condition":    "M8 8v10a16 14 0 0 0 32 0v-10h-6v8a10 9 0 0 1-20 0v-8z",
	// a journal, a lobe with its nose up, a journal
	"camshaft.condition": "M3 12h8v12h-8zM11 15h6M17 18q0-14 7-14t7 14v4q0 6-7 6t-7-6zM31 15h6M37 12h8v12h-8zM11 21h6M31 21h6",
	"mark":               "M4 6h40v24h-40zM14 18a5 5 0 1 0 10 0a5 5 0 1 0-10 0M26 18a5 5 0 1 0 10 0a5 5 0 1 0-10 0",
}

// signs are what a grade adds to its part, by part and grade, or by grade for all parts.
var signs = map[string]string{
	"light_pits": "M13 25h.1M17 27h.1M30 27h.1M34 25h.1M24 29h.1",
	"heavy_pits": "M11 27h1M15 25h1M19 28h1M25 26h1M29 28h1M33 25h1M36 28h1",
	"dished":     "M10 24q4 3 7-4M38 24q-4 3-7-4", "burnt": "M33 23l-4 8l6-2l-1 4",
	"cracked":  "M24 32l-2-5l3-4l-3-5l3-5",
	"polished": "M20 6v24M24 6v24M28 6v24", "ridge": "M14 14h3M31 14h3M14 16h3M31 16h3",
	"transfer": "M17 10h4v3h-4M31 18h-5v4h5M17 24h3v4h-3",
	"bent":     "M24 2q5 16 0 32", "corroded": "M19 6h.1M22 12h.1M27 9h.1M20 18h.1M28 20h.1M23 26h.1M27 30h.1",
	"offcentre": "M26 10h6", "dented": "M20 9q4 5 8 0",
	"mushroomed":            "M12 12q0-4 5-4h14q5 0 5 4q-3 2-4 2M12 12q3 2 4 2",
	"groove.condition/worn": "M16 22q4-2 3-6M32 22q-4-2-3-6",
	"seat.condition/gaps":   "M24 4v5M37 24l-4-2M12 25l4-3", "sunk": "M14 12l20 12M12 18l18 11M18 8l18 11",
	"seat.condition/loose":      "M6 10l3 2M42 10l-3 2M6 26l3-2M42 26l-3-2",
	"seat.condition/burnt":      "M22 4l1 5M26 4l-1 5",
	"seat.condition/light_pits": "M12.5 16h.1M24 6.5h.1M35 20h.1",
	"seat.condition/heavy_pits": "M12 14h1M18 7h1M30 8h1M35 16h1M33 26h1M15 27h1", "seat.condition/cracked": "M33 9l-3 4l5 3",
	"scored": "M21 4v28M23 4v28M26 4v28", "guide.condition/loose": "M9 8l4 2M39 8l-4 2M9 28l4-2M39 28l-4-2",
	"guide.condition/cracked": "M16 3l2 6l-3 5",
	"rocks_slightly":          "M22 2v32M26 2v32M19 34h10", "rocks_clearly": "M20 2l4 32M30 2l-6 32M14 34h20M14 34l3-2M34 34l-3-2",
	"rust_pits": "M14 27h1M22 25h1M30 18h1M18 15h1M32 11h1",
	"rubbed":    "M36 22v-5M12 29v-7M36 10v-5", "leaning": "M12 34l8-32",
	"broken": "M20 19l4 3M26 16l4 4M18 24l14-12",
	"galled": "M13 20h3M13 24h3M32 18h3M32 26h3", "pad_worn": "M8 24q4-4 8-1",
	"pad_through":              "M6 23q5-6 11-1M9 26l5-6",
	"rocker.condition/cracked": "M21 13l2 4l-3 3", "bush_worn": "M22 15a6 6 0 1 0 10 0",
	"cam.condition/scored": "M16 21q8 6 16 0M18 24q6 4 12 0",
	"light_lines":          "M5 16h4M39 19h4", "camshaft.condition/scored": "M4 15h6M4 18h6M4 21h6M38 15h6M38 18h6M38 21h6",
	"blue": "M4 13l6 10M10 13l-6 10M38 13l6 10M44 13l-6 10", "pitted": "M22 7h1M25 6h1M23 10h1M26 9h1M24 13h1",
	"camshaft.condition/cracked": "M22 8l3 4l-3 4l3 4l-2 5",
	"picked_up":                  "M17 19l2 4l2-3l2 5l2-5l2 4l2-4",
	"keeper.condition/worn":      "M12 18h9M36 18h-9", "sticks": "M18 10l12 4M30 10l-12 4",
	"stiff":                     "M16 10q8-6 16 0M14 25h.1M20 25h.1M27 25h.1M34 25h.1",
	"rotator.condition/worn":    "M9 25l4-3l4 3l4-3l4 3l4-3l4 3l4-3l2 2",
	"bridge.condition/pad_worn": "M19 12q5 5 10 0", "screw_loose": "M30 10l10-3M30 7l10-3",
	"pin_worn": "M22 18v12M26 18v12M19 24l10 3", "bridge.condition/cracked": "M24 12l-2 2l3 2l-2 2",
	"free":    "M16 10q8-6 16 0M32 10l-1-4M32 10l-4 0",
	"oily":    "M12 12q2 4 0 5q-2-1 0-5M20 13q2 4 0 5q-2-1 0-5M30 20q2 4 0 5q-2-1 0-5",
	"carbon":  "M8 9q3 4 6 0q3 4 6 0M24 22q4 2 8-2M28 28q3-1 6-4",
	"crack":   "M23 10l3 4l-3 4l3 4l-2 4",
	"leak":    "M24 14a2 2 0 1 0 4 0a2 2 0 1 0-4 0M22 9a1.5 1.5 0 1 0 3 0a1.5 1.5 0 1 0-3 0",
	"erosion": "M19 24q5-6 10 0M17 27q7-8 14 0", "stamp": "M8 25h8v4h-8z",
	"thread": "M8 10l6 6M14 10l-6 6",
	"stud":   "M7 9h8v3h-8zM9 12v8h4v-8", "mended": "M20 18h8M24 14v8",
}

// Sketch draws what a grade of a part looks like, in a few lines.
func Sketch(part, grade string) template.HTML {
	var s svg
	s.add(`<svg class="sketch" viewBox="0 0 48 36" aria-hidden="true"><path class="part" d="%s"/>`, bases[part])
	sign, ok := signs[part+"/"+grade]
	if !ok {
		sign = signs[grade]
	}
	if sign != "" {
		s.add(`<path class="sign" d="%s"/>`, sign)
	}
	s.WriteString(`</svg>`)
	return s.html()
}

// Sketched tells whether a grade has something drawn of its own.
func Sketched(part, grade string) bool {
	return signs[part+"/"+grade] != "" || signs[grade] != ""
}
