package calc

import (
	"slices"
	"strconv"
	"strings"

	"yatai/core/cuts"
	"yatai/core/engine"
	"yatai/core/field"
	"yatai/core/gauge"
	"yatai/core/length"
	"yatai/core/quantity"
	"yatai/core/seating"
	"yatai/core/surface"
	"yatai/core/valvetrain"
)

// registry lists every calculation, in the order of a head's way through the shop.
var registry = slices.Concat(measuring, studies, heights, faces, fits, pressing, engines, bolting)

var measuring = []Calc{
	define(Calc{
		Name:    "length",
		Title:   "Length",
		Purpose: "reads a length as the bench writes it and gives it in both units, exactly",
		Formula: "1 in = 25.4 mm exactly; a thou is 0.001 in, h is 0.01 mm. The mm figure is exact, the in figure rounded to 5 places.",
		Source:  "definition of the inch, 25.4 mm",
		Valid:   "up to 10 m either way; thousands separators and exponents are refused, a comma is a decimal comma",
		Example: `{"text":"3.5 thou","unit":"mm"}`,
	}, readLength, func(w *Work, in lengthInput, out lengthOutput) {
		w.Say("in whole nanometres", "%s = %d nm", in.Text, out.NM)
		w.Say("both units", "%s mm = %s in", out.MM, out.In)
	}),
	define(Calc{
		Name:    "clearance",
		Title:   "Guide clearance and form",
		Purpose: "what a guide and its stem leave between them, at its largest and smallest, and the guide's shape",
		Formula: "largest clearance = largest guide reading - smallest stem reading; smallest = smallest guide - largest stem; mean = mean guide - mean stem.\n" +
			"taper = top - bottom; bell mouth = lesser end - middle; out of round = largest difference at one place. Doubt = root of (guide " +
			"doubt squared + stem doubt squared).",
		Source: "difference of diameters; shape by the trade's words for worn guides; doubts add as independent ones do",
		Valid:  "readings at 20 C and at rest; the smallest clearance is held against the lower limit, the largest against the upper",
		Example: `{"guide":{"top":["8.062mm","8.062mm"],"middle":["8.068mm","8.069mm"],"bottom":["8.076mm","8.079mm"]},
			"stem":{"top":["8.052mm"],"middle":["8.045mm"],"bottom":["8.047mm"]},"u_guide":"0.008mm","u_stem":"0.004mm"}`,
	}, valvetrain.Clear, func(w *Work, in valvetrain.ClearanceInput, out valvetrain.Clearance) {
		g, s := in.Guide.All(), in.Stem.All()
		w.Say("largest: largest guide - smallest stem", "%s - %s = %s", slices.Max(g), slices.Min(s), out.Max)
		w.Say("smallest: smallest guide - largest stem", "%s - %s = %s", slices.Min(g), slices.Max(s), out.Min)
		w.Say("mean guide - mean stem", "%s", out.Mean)
		w.Say("taper: top - bottom", "%s", out.Taper)
		w.Say("bell mouth: lesser end - middle", "%s", out.Bellmouth)
		w.Say("out of round, form limit", "%s, %s", out.OutOfRound, in.FormLimit)
		w.Say("shape", "%s", strings.ReplaceAll(orNone(out.Shape), "_", " to the "))
		w.Say("doubt", "%s", out.U)
	}),
	define(Calc{
		Name:    "rock",
		Title:   "Rock test",
		Purpose: "converts the side play of a valve head to guide clearance",
		Formula: "clearance = movement x guide length / (guide length + 2 x overhang): the stem tilts corner to corner in the guide. The " +
			"other way round, movement = clearance x (guide length + 2 x overhang) / guide length.",
		Source:  "geometry of a stem tilted corner to corner in its guide",
		Valid:   "a straight guide; a bell mouth lets the valve rock more than its middle is worn",
		Example: `{"movement":"0.25mm","guide_length":"48mm","overhang":"22mm"}`,
	}, valvetrain.Rock, func(w *Work, in valvetrain.RockInput, out valvetrain.RockOutput) {
		if out.Clearance != nil {
			w.Say("movement x guide / (guide + 2 x overhang)", "%s x %s / (%s + 2 x %s) = %s", in.Movement,
				in.GuideLength, in.GuideLength, in.Overhang, out.Clearance)
		} else {
			w.Say("clearance x (guide + 2 x overhang) / guide", "%s x (%s + 2 x %s) / %s = %s", in.Clearance,
				in.GuideLength, in.Overhang, in.GuideLength, out.Movement)
		}
	}),
	define(Calc{
		Name:    "verdict",
		Title:   "Verdict with doubt",
		Purpose: "holds a reading, with its doubt, against limits",
		Formula: "the reading stands for [value - u, value + u], a feeler bracket for [go, nogo). Out: all of it outside. Sound: all of it inside. " +
			"Near: sound, but closer to a limit than the near zone. Anything else is in doubt: the reading cannot tell. " +
			"How likely the true value is inside: Phi(2 (high - value)/u) - Phi(2 (low - value)/u); of a bracket, the share of it that lies inside.",
		Source:  "conformity decided by the whole interval of the reading, k = 2",
		Valid:   "limits are inclusive; u is the expanded uncertainty (k = 2)",
		Example: `{"value":"0.048mm","u":"0.004mm","low":"0.020mm","high":"0.060mm","near":"0.006mm"}`,
	}, gauge.JudgeInput, func(w *Work, in gauge.VerdictInput, out gauge.VerdictOutput) {
		if in.Value.Bracket {
			w.Say("stands for", "%v up to but not including %v", in.Value.Go, in.Value.NoGo)
		} else {
			w.Say("stands for", "%v to %v", in.Value.At-quantity.OfLength(in.U), in.Value.At+quantity.OfLength(in.U))
		}
		w.Say("distance to the "+out.Side+" limit", "%v", out.Distance)
		w.Say("verdict", "%s", out.Verdict.Label())
		w.Say("likely to be inside", "%s of 1", out.PInside)
	}),
	define(Calc{
		Name:    "settle",
		Title:   "Which tool settles it",
		Purpose: "names the coarsest tool that would still tell a reading's verdict",
		Formula: "of the tools whose interval around the value gives a verdict other than doubt, the one with the largest uncertainty",
		Source:  "the same rule as the verdict, tool by tool",
		Valid:   "supposes that the better tool will read about the same value",
		Example: `{"value":"0.065mm","low":"0.010mm","high":"0.055mm","tools":[{"name":"caliper","u":"0.03mm"},{"name":"small-hole gauge",
			"u":"0.008mm"},{"name":"micrometer","u":"0.004mm"}]}`,
	}, gauge.SettleTool, func(w *Work, in gauge.SettleInput, out gauge.SettleOutput) {
		for _, t := range in.Tools {
			r := gauge.Judge(
				gauge.Exact(quantity.OfLength(in.Value)), quantity.OfLength(t.U),
				gauge.Limit{Low: quantity.MaybeLength(in.Low), High: quantity.MaybeLength(in.High)},
			)
			w.Say(t.Name, "%s to %s: %s", in.Value-t.U, in.Value+t.U, r.Verdict.Label())
		}
		w.Say("the coarsest that tells", "%s", orNone(out.Tool))
	}),
}

var bolting = []Calc{
	define(Calc{
		Name:    "torque",
		Title:   "Torque stages",
		Purpose: "tells the stages of a book in newton metres or pound-feet",
		Formula: "1 lbft = 1.3558179483314004 Nm, 1 lbin a twelfth of it; to one decimal. Angles and slackenings stay as they are.",
		Source:  "definitions of the units",
		Valid:   "the maker's own stages, bolts and oil; a torque is above the one before it, unless the bolts are slackened between",
		Example: `{"stages":[{"torque":"22lbft"},{"torque":"45lbft"},{"slacken":true},{"torque":"30lbft"},{"angle":"90deg"}],"unit":"Nm"}`,
	}, engine.Torque, func(w *Work, in engine.TorqueInput, out engine.TorqueOutput) {
		for i, s := range out.Stages {
			switch {
			case s.Slacken:
				w.Say("stage "+strconv.Itoa(i+1), "slacken")
			case s.Degrees != nil:
				w.Say("stage "+strconv.Itoa(i+1), "%s deg more", s.Degrees)
			case s.NewtonMetres != nil:
				w.Say("stage "+strconv.Itoa(i+1), "%s = %s Nm", in.Stages[i].Torque, s.NewtonMetres)
			default:
				w.Say("stage "+strconv.Itoa(i+1), "%s = %s lbft", in.Stages[i].Torque, s.PoundFeet)
			}
		}
	}),
	define(Calc{
		Name:    "thread",
		Title:   "Thread and its drills",
		Purpose: "what follows from a thread's name: its sizes, the tap drill, and the drill for a wire insert",
		Formula: "tap drill = major - pitch; insert's drill = major + pitch / 4; both to the nearest 0.1 mm, half up. Engagement = 100 x " +
			"(major - drill) / (1.082532 x pitch).",
		Source:  "sixty degree threads; the coarse metric series; trade practice for drills",
		Valid:   "metric and inch threads of ordinary sizes; the insert's maker names its own drill and tap",
		Example: `{"thread":"M10x1.25"}`,
	}, engine.Thread, func(w *Work, in engine.ThreadInput, out engine.ThreadOutput) {
		w.Say("major diameter, pitch", "%s, %s", out.Major, out.Pitch)
		w.Say("tap drill: major - pitch", "%s - %s: %s", out.Major, out.Pitch, out.TapDrill)
		w.Say("for a wire insert: major + pitch / 4", "%s + %s / 4: %s", out.Major, out.Pitch, out.InsertDrill)
		w.Say("thread left by the tap drill", "%s %% of a full one", out.Engagement)
	}),
	define(Calc{
		Name:    "protrusion",
		Title:   "Piston protrusion",
		Purpose: "each piston's mean, and the gasket that the highest needs",
		Formula: "a piston is the mean of its readings at front and back, rocked both ways; the thinnest gasket whose most is not below the highest",
		Source:  "trade practice: graded gaskets by the highest piston",
		Valid:   "as long as the maker grades by the highest piston; limits are inclusive",
		Example: `{"pistons":[{"front":["0.61mm","0.63mm"],"back":["0.60mm","0.62mm"]},{"front":["0.58mm","0.60mm"],"back":["0.59mm","0.59mm"]}],
			"grades":[{"name":"one notch","up_to":"0.60mm"},{"name":"two notches","up_to":"0.66mm"}]}`,
	}, engine.Protrusion, func(w *Work, in engine.ProtrusionInput, out engine.ProtrusionOutput) {
		for i, p := range in.Pistons {
			w.Say("piston "+strconv.Itoa(i+1), "mean of %s = %s", slices.Concat(p.Front, p.Back), out.Each[i])
		}
		w.Say("highest, lowest, spread", "%s, %s, %s", out.Highest, out.Lowest, out.Spread)
		w.Say("gasket", "%s", out.Grade)
	}),
}

var pressing = []Calc{
	define(Calc{
		Name:    "angle",
		Title:   "Face and seat angle",
		Purpose: "the interference angle of a valve in its seat, and where they touch",
		Formula: "interference = seat angle - face angle; above nothing they touch at the outer edge, below at the inner, at nothing all over",
		Source:  "geometry of two cones",
		Valid:   "angles from the face plane, true to the guide; lapping rounds an interference away",
		Example: `{"face":"44.5deg","seat":"45deg","wanted":"0.5deg","within":"0.25deg"}`,
	}, seating.Angle, func(w *Work, in seating.AngleInput, out seating.AngleOutput) {
		w.Say("seat - face", "%s - %s = %d thousandths of a degree", in.Seat, in.Face, out.Interference)
		w.Say("they touch", "%s", map[string]string{
			"outer": "at the outer edge", "inner": "at the inner edge", "full": "all over",
		}[out.Contact])
		w.Say("wanted", "%s within %s: %s", in.Wanted, in.Within,
			map[bool]string{true: "it is", false: "it is not"}[out.OK])
	}),
	define(Calc{
		Name:    "counterbore",
		Title:   "Counterbore for an insert",
		Purpose: "bore and depth to make for a seat insert",
		Formula: "bore = insert outside - interference; depth = insert height - what stands up",
		Source:  "difference of sizes",
		Valid: "both at 20 C. Hot head and chilled inserts burn: gloves, face shield, ventilation, never a closed container; test the " +
			"jacket again afterwards",
		Example: `{"insert_outer":"42.10mm","interference":"0.10mm","insert_height":"7.50mm","stand_up":"0.20mm"}`,
	}, seating.Counterbore, func(w *Work, in seating.CounterboreInput, out seating.CounterboreOutput) {
		w.Say("bore: outside - interference", "%s - %s = %s", in.Outer, in.Interference, out.Bore)
		w.Say("depth: height - stand-up", "%s - %s = %s", in.Height, in.StandUp, out.Depth)
	}),
	define(Calc{
		Name:    "seal",
		Title:   "Stem seal",
		Purpose: "how tight a stem seal grips its guide and its stem",
		Formula: "on the guide = guide outside - seal's body; on the stem = stem - lip; each held against its range",
		Source:  "difference of diameters",
		Valid:   "the seal's maker gives the ranges; both ends inclusive",
		Example: `{"guide_outer":"13.89mm","seal_bore":"13.55mm","stem":"5.532mm","lip_bore":"5.422mm","guide_squeeze":["0.11mm","0.57mm"],
			"lip_squeeze":["0.05mm","0.37mm"]}`,
	}, seating.Seal, func(w *Work, in seating.SealInput, out seating.SealOutput) {
		w.Say("on the guide", "%s - %s = %s: %s", in.GuideOuter, in.SealBore, out.GuideSqueeze, out.Guide)
		w.Say("on the stem", "%s - %s = %s: %s", in.Stem, in.LipBore, out.LipSqueeze, out.Lip)
	}),
	define(Calc{
		Name:    "leaf",
		Title:   "One leaf or two",
		Purpose: "the bracket that feelers give, by their set",
		Formula: "from the leaf that goes to the one that stops; with one leaf alone, to the next larger of the set",
		Source:  "trade practice: a gap is known between two leaves",
		Valid:   "the leaf that goes slides with a light drag",
		Example: `{"set":["0.05mm","0.10mm","0.15mm","0.20mm","0.25mm"],"goes":"0.20mm"}`,
	}, gauge.Leaf, func(w *Work, in gauge.LeafInput, out gauge.LeafOutput) {
		w.Say("it goes, it does not", "%s, %s", out.Go, out.NoGo)
	}),
}

var studies = []Calc{
	define(Calc{
		Name:    "study",
		Title:   "Study of a tool",
		Purpose: "repeatability and reproducibility of a tool with its method, by people who read the same parts",
		Formula: "analysis of variance with people, parts and their interaction. When the interaction's probability is above alpha it is " +
			"pooled into repeatability. Reproducibility = root of people's + interaction's variance; grr = root of repeatability squared + " +
			"reproducibility squared; U = 2 grr.",
		Source:  "crossed analysis of variance, variances below 0 count as 0",
		Valid:   "every person reads every part as often, blind; parts that span what is met at the bench",
		Example: `{"readings":[[["8.001mm","8.002mm"],["8.011mm","8.010mm"]],[["8.002mm","8.003mm"],["8.012mm","8.013mm"]]]}`,
	}, gauge.Study, func(w *Work, in gauge.StudyInput, out gauge.StudyOutput) {
		w.Say("interaction, probability", "%v, %v%v", out.Interaction, out.PInteraction,
			map[bool]string{true: ": pooled"}[out.Pooled])
		w.Say("repeatability, reproducibility", "%v, %v", out.Repeatability, out.Reproducibility)
		w.Say("both, root of squares; U = twice that", "%v; %v", out.GRR, out.U())
		w.Say("between the parts, of all", "%v, %v", out.Part, out.Total)
	}),
}

var heights = []Calc{
	define(Calc{
		Name:    "stackup",
		Title:   "Stack-up of one valve",
		Purpose: "what a set of cuts and new parts does to one valve",
		Formula: "recession' = recession + seat cut + face grind - face cut - (new margin - margin)\nmargin' = (new margin or margin) - face grind\n" +
			"stem' = stem + seat cut + face grind - tip grind - (new margin - margin) + length change\nspring' = spring + seat cut + face " +
			"grind - (new margin - margin) + groove change - spring shim + pad cut\n" +
			"lash' = lash - rise - shim change (bucket); lash - rise + ratio x (gasket change - face cut - pushrod change) (rocker)",
		Source: "lengths along the stem's axis, added with their signs",
		Valid:  "all lengths along the stem's axis; a cut of thickness n on a face at angle a sinks the valve by n / cos a",
		Example: `{"drive":"rocker","ratio":1.6,"recession":"0.60mm","stem_height":"46.20mm","spring_height":"38.4mm","lash":"0.25mm",
			"margin":"1.40mm","face_cut":"0.15mm","gasket_change":"0mm","seat_cut":"0.10mm","face_grind":"0.06mm","tip_grind":"0.05mm",
			"lash_shim_change":"0mm","pushrod_change":"0mm","spring_shim":"0.4mm","pad_cut":"0mm","new_valve":null}`,
	}, valvetrain.Stack, func(w *Work, in valvetrain.StackInput, out valvetrain.StackOutput) {
		w.Say("the valve sinks by seat cut + face grind", "%s + %s = %s", in.SeatCut, in.FaceGrind,
			in.SeatCut+in.FaceGrind)
		w.Say("recession: now + sunk - face cut, new margin", "%s to %s", in.Recession, out.Recession)
		w.Say("margin", "%s to %s", in.Margin, out.Margin)
		w.Say("stem height", "%s to %s", in.StemHeight, out.StemHeight)
		w.Say("spring height", "%s to %s", in.SpringHeight, out.SpringHeight)
		w.Say("lash: now - rise, drive", "%s - %s, %s: %s", in.Lash, out.Rise, in.Drive, out.Lash)
	}),
	define(Calc{
		Name:    "pushrod",
		Title:   "Pushrod length",
		Purpose: "the lash each pushrod would give, and the one to fit",
		Formula: "lash = lash now + ratio x (present - new); the choice is inside the range and nearest its middle",
		Source:  "lever of the rocker",
		Valid:   "lash measured at the valve; a hydraulic lifter collapsed",
		Example: `{"lash":"0.20mm","ratio":1.6,"present":"271.00mm","available":["270.25mm","270.60mm"],"low":"0.70mm","high":"2.00mm"}`,
	}, valvetrain.Pushrod, func(w *Work, in valvetrain.PushrodInput, out valvetrain.PushrodOutput) {
		for i, p := range in.Available {
			w.Say("with "+p.Text, "%s + %s x (%s - %s) = %s", in.Lash, in.Ratio, in.Present, p.Size, out.Lash[i])
		}
		w.Say("to fit", "%s", orNone(out.Choice))
	}),
	define(Calc{
		Name:    "plan",
		Title:   "Plan of a whole head",
		Purpose: "the cheapest set of actions that puts every valve inside its limits",
		Formula: "per valve: seat keep, cut or insert; valve keep, grind or new; tip grind; one spring shim or none. For the head: one " +
			"face cut. With the stack-up's formulas " +
			"every recession, stem, spring height and margin must be inside, the thickness enough and the spread kept.\nLeast cost first, " +
			"then least face cut, then least metal (seat cuts and tip grinds).",
		Source:  "the stack-up's formulas; least cost by exact search over intervals",
		Valid:   "an exact optimum on the grid; the figures are the readings', so doubt near a limit has to be settled first",
		Example: planExample,
	}, cuts.Solve, planSteps),
	define(Calc{
		Name:    "shims",
		Title:   "Lash shims",
		Purpose: "gives every bucket a shim: fewest bought, then nearest the aim",
		Formula: "new lash = lash + present shim - new shim. Each shim is used once; fitted ones return to the pool, the box adds to it, " +
			"orderable sizes are bought. Least number bought first, then least sum of |new lash - aim|.",
		Source: "the same sum as at the bench; assignment by shortest augmenting paths",
		Valid:  "an exact optimum (assignment problem); lash measured cold, as the sheet says",
		Example: `{"buckets":[{"id":"1I1","lash":"0.11mm","shim":"2.60mm","low":"0.15mm","high":"0.20mm","aim":"0.18mm"},{"id":"1E1",
			"lash":"0.30mm","shim":"2.50mm","low":"0.20mm","high":"0.26mm","aim":"0.23mm"}],"stock":[{"size":"2.55mm","count":2}],
			"orderable":["2.45mm","2.525mm"]}`,
	}, valvetrain.Shims, func(w *Work, in valvetrain.ShimsInput, out valvetrain.ShimsOutput) {
		for i, c := range out.Buckets {
			b := in.Buckets[i]
			w.Say(c.ID+", "+c.Source, "%s + %s - %s = %s", b.Lash, b.Shim, c.Shim, c.Lash)
		}
		if out.Feasible {
			w.Say("bought, off the aim in all", "%d, %s", out.Bought, out.Deviation)
		} else {
			w.Say("no assignment", "%s %v", out.Why, out.BlockedIDs)
		}
	}),
	define(Calc{
		Name:    "spring",
		Title:   "Spring line",
		Purpose: "a spring's load on the seat and open, coil clearance, and the shim for a load wanted",
		Formula: "load against length is a straight line, fitted by least squares (lengths less the retainer's step). Seat load at the " +
			"installed height, open load at installed - lift. Coil clearance = installed - lift - solid. Shim = (target - seat) / rate; " +
			"negative: the spring is too strong.",
		Source: "Hooke's law, line of least squares",
		Valid:  "a spring of constant rate between the readings; a progressive one needs readings near both lengths",
		Example: `{"readings":[{"length":"40mm","load":"310N"},{"length":"30mm","load":"620N"}],"installed":"38mm","lift":"9.5mm",
			"solid":"24mm","retainer_step":"0mm","target_seat":"390N"}`,
	}, valvetrain.Spring, func(w *Work, in valvetrain.SpringInput, out valvetrain.SpringOutput) {
		w.Say("rate, least squares", "%s N/mm", out.Rate)
		w.Say("on the seat", "%s N at %s", out.Seat, in.Installed)
		w.Say("open", "%s N at %s", out.Open, in.Installed-in.Lift)
		w.Say("coil clearance: installed - lift - solid", "%s - %s - %s = %s", in.Installed, in.Lift, in.Solid,
			out.CoilClearance)
		if in.TargetSeat != nil {
			w.Say("shim: (target - seat) / rate", "(%s N - %s N) / %s N/mm = %s", in.TargetSeat, out.Seat, out.Rate,
				out.Shim)
		}
	}),
}

var faces = []Calc{
	define(Calc{
		Name:    "warp",
		Title:   "Straightedge lines",
		Purpose: "judges gaps under a straightedge per direction and says what facing is likely to need",
		Formula: "per direction the worst line (largest leaf that does not go) as a bracket against its limit; cut = largest no-go leaf of all + allowance",
		Source:  "trade practice: the leaf that does not go bounds the gap",
		Valid:   "a gap is known only as a bracket between two leaves, and the cut is its worse end",
		Example: `{"lines":[{"name":"L1","kind":"long","go":"0.05mm","nogo":"0.06mm"},{"name":"X1","kind":"cross","go":"0mm","nogo":"0.03mm"}],
			"limits":{"long":"0.08mm","cross":"0.05mm"},"allowance":"0.03mm"}`,
	}, surface.Warp, func(w *Work, in surface.WarpInput, out surface.WarpOutput) {
		for _, kind := range []string{"long", "cross", "diagonal"} {
			if k, ok := out.Kinds[kind]; ok {
				w.Say("worst "+kind+" line", "%s against %s: %s", k.Line, in.Limits.Of(kind), k.Verdict.Label())
			}
		}
		w.Say("cut: largest no-go + allowance", "%s + %s = %s", out.Cut-in.Allowance, in.Allowance, out.Cut)
	}),
	define(Calc{
		Name:    "flatness",
		Title:   "Flatness of a grid",
		Purpose: "minimum zone of a face read over a grid, and the cut level or tilted",
		Formula: "range = largest height - smallest. Least squares = range about the plane of least squares. Minimum zone = least " +
			"distance between two parallel planes that hold all points. Cut level = range + allowance; cut tilted to the best plane = zone " +
			"+ allowance.",
		Source: "minimum zone as a linear programme, least squares beside it",
		Valid:  "as good as the grid is close; an exact optimum for the points given",
		Example: `{"points":[{"x":"0mm","y":"0mm","z":"0.004mm"},{"x":"0mm","y":"70mm","z":"0.008mm"},{"x":"60mm","y":"0mm","z":"-0.037mm"},
			{"x":"60mm","y":"70mm","z":"-0.034mm"},{"x":"120mm","y":"0mm","z":"-0.039mm"},{"x":"120mm","y":"70mm","z":"-0.031mm"},
			{"x":"180mm","y":"0mm","z":"0.005mm"},{"x":"180mm","y":"70mm","z":"0.006mm"}],"allowance":"0.02mm"}`,
	}, surface.Flatness, func(w *Work, in surface.FlatnessInput, out surface.FlatnessOutput) {
		w.Say("range", "%s", out.Range)
		w.Say("about the least-squares plane", "%s", out.LSQ)
		w.Say("minimum zone, held by points", "%s, %v", out.Zone, out.Touching)
		w.Say("cut, head level: range + allowance", "%s + %s = %s", out.Range, in.Allowance, out.CutLevel)
		w.Say("cut, head tilted: zone + allowance", "%s + %s = %s", out.Zone, in.Allowance, out.CutBest)
		w.Say("tilt of the best plane", "%s um/m along, %s um/m across", out.TiltX, out.TiltY)
	}),
}

var fits = []Calc{
	define(Calc{
		Name:    "seat",
		Title:   "Seat ring",
		Purpose: "main, top and bottom cuts that bring a contact ring to its size and place",
		Formula: "width = (outer - inner) / (2 cos a). With ko = tan a - tan b and ki = tan g - tan a: main = the largest of 0, (outer " +
			"edge wanted - outer)/2 ko and (inner - inner edge wanted)/2 ki, so that the ring always comes out full. Top = (outer - " +
			"wanted)/2 ko + main, bottom = (wanted inner - inner)/2 ki + main. The valve sinks by the main cut; the top cut takes top / tan " +
			"b of the room. Inset = (valve head - outer edge) / 2.",
		Source:  "geometry of cones that meet at the ring's edges",
		Valid:   "angles from the face plane, edges as diameters, depths along the valve's axis; cutter true to the guide",
		Example: `{"angle":45,"top":30,"bottom":60,"inner":"33.0mm","outer":"36.4mm","valve_head":"36.6mm","target_outer":"35.8mm","target_width":"1.4mm"}`,
	}, seating.Seat, func(w *Work, in seating.SeatInput, out seating.SeatOutput) {
		w.Say("ring now: (outer - inner) / (2 cos a)", "(%s - %s) / (2 cos %s) = %s", in.Outer, in.Inner, in.Angle,
			out.Width)
		w.Say("main cut", "%s", out.MainDepth)
		w.Say("top cut", "%s", out.TopDepth)
		w.Say("bottom cut, to an inner edge of", "%s, %s", out.BottomDepth, out.TargetInner)
		w.Say("the valve sinks by, room the top cut takes", "%s, %s", out.Sink, out.RoomUsed)
		w.Say("inset from the valve's edge", "%s", out.Inset)
	}),
	define(Calc{
		Name:    "fit",
		Title:   "Interference fit",
		Purpose: "interference cold, gap at the temperatures used, and the temperature for a gap",
		Formula: "interference = part - hole at 20 C; gap = hole (1 + ah (Th - 20)) - part (1 + ap (Tp - 20)). Expansion per K in " +
			"millionths: aluminium 21.5, iron 11, bronze 18, brass 19, steel 11.7, sinter 11.5, valve steel 12, austenitic 17.5, titanium " +
			"8.9.",
		Source: "linear expansion from 20 C",
		Valid: "both at one even temperature; coefficients are for ordinary alloys. Hot and chilled parts burn: gloves, face shield, " +
			"ventilation, never a closed container",
		Example: `{"hole":"13.000mm","part":"13.035mm","hole_material":"aluminium","part_material":"bronze","hole_temp":"120C","part_temp":"-60C","gap":"0.02mm"}`,
	}, seating.Fit, func(w *Work, in seating.FitInput, out seating.FitOutput) {
		w.Say("interference: part - hole", "%s - %s = %s", in.Part, in.Hole, out.Interference)
		w.Say("gap at temperature", "hole at %s C, part at %s C: %s", in.HoleTemp, in.PartTemp, out.Gap)
		if out.HoleTemp != nil {
			w.Say("hole temperature for the gap wanted", "%s: %s C", in.Gap, *out.HoleTemp)
		}
	}),
	define(Calc{
		Name:    "temperature",
		Title:   "Length at 20 C",
		Purpose: "brings a length read on a warm or cold part to 20 C",
		Formula: "length x (1 + at (tool - 20)) / (1 + ap (part - 20)), with the expansion of the tool and of the part as for fits",
		Source:  "linear expansion from 20 C",
		Valid:   "part and tool each at one even temperature; an aluminium head warm from the wash can be 40 um out over 92 mm",
		Example: `{"length":"92.000mm","material":"aluminium","part_temp":"40C","tool_material":"steel","tool_temp":"22C"}`,
	}, seating.Temperature, func(w *Work, in seating.TemperatureInput, out seating.TemperatureOutput) {
		w.Say("at 20 C", "%s read at %s C with a tool at %s C: %s", in.Length, in.PartTemp, in.ToolTemp, out.At20)
	}),
	define(Calc{
		Name:    "vacuum",
		Title:   "Vacuum test",
		Purpose: "whether a seat holds vacuum, and if not whether to suspect the valve or the seat",
		Formula: "a reading holds at baseline - drop + u and more, fails below baseline - drop - u, else it is in doubt. Pass when all " +
			"hold. Some fail and some hold as the valve is turned: suspect the valve. All fail, two at least: the seat. Else turn the valve " +
			"and read on.",
		Source:  "trade practice: the day's own baseline, the valve turned between readings",
		Valid:   "bare valve without spring; baseline is the tester's own reading with its cup blanked, of the same day",
		Example: `{"baseline":"84kPa","drop":"4kPa","readings":["82kPa","70kPa","83kPa","82kPa"]}`,
	}, seating.Vacuum, func(w *Work, in seating.VacuumInput, out seating.VacuumOutput) {
		for _, r := range in.Readings {
			w.Say("reading against baseline - drop", "%s kPa against %s - %s kPa", r, in.Baseline, in.Drop)
		}
		switch {
		case out.Pass == nil:
			w.Say("verdict", "too close to tell with this tester")
		case *out.Pass:
			w.Say("verdict", "holds")
		case out.Suspect == seating.SuspectTurn:
			w.Say("verdict", "leaks: turn the valve and read again")
		default:
			w.Say("verdict", "leaks: suspect the %s", out.Suspect)
		}
	}),
}

var engines = []Calc{
	define(Calc{
		Name:    "compression",
		Title:   "Compression ratio",
		Purpose: "ratio before and after facing and sinking valves, and the gasket that gives it back",
		Formula: "ratio = (swept + clearance) / clearance; clearance = chamber + gasket + deck + piston. Chamber after = chamber - area " +
			"x face cut + sum of pi/4 head squared x recession change.",
		Source: "ratio of volumes",
		Valid:  "the chamber's walls are upright where the face is cut; crevices are not counted",
		Example: `{"bore":"71mm","stroke":"92.9mm","chamber":"63.2cc","gasket_bore":"112.4mm","gasket":"0.7mm","deck":"0mm","piston":"0.5cc",
			"face_cut":"0.33mm","chamber_area_mm2":3449,"valves":[{"head":"36mm","recession_change":"0mm"},{"head":"38.5mm",
			"recession_change":"-0.25mm"}]}`,
	}, engine.Compression, func(w *Work, in engine.CompressionInput, out engine.CompressionOutput) {
		w.Say("chamber after the cut", "%s cc to %s cc", in.Chamber, out.ChamberAfter)
		w.Say("ratio", "%s to %s", out.Before, out.After)
		w.Say("gasket that gives the ratio back", "%s instead of %s", out.GasketRestore, in.Gasket)
	}),
	define(Calc{
		Name:    "gasket",
		Title:   "Gasket grade",
		Purpose: "the gasket for the pistons' protrusion, and pistons that stand low",
		Formula: "each piston is the mean of its two readings; the highest, or the mean of all, governs. A piston further below the " +
			"median than the outlier is low: look at rod or bearing.",
		Source: "trade practice: mean of two readings a piston, graded gaskets",
		Valid:  "grades' limits are inclusive; the maker says whether highest or mean governs",
		Example: `{"pistons":[{"id":"1","a":"0.61mm","b":"0.63mm"},{"id":"2","a":"0.60mm","b":"0.60mm"}],"grades":[{"name":"one notch",
			"low":"0.50mm","high":"0.62mm"}],"use":"max","outlier":"0.10mm"}`,
	}, engine.Gasket, func(w *Work, in engine.GasketInput, out engine.GasketOutput) {
		w.Say("governing protrusion, by "+in.Use, "%s", out.Governing)
		w.Say("grade", "%s", orNone(out.Grade))
		w.Say("low pistons", "%v", out.LowPistons)
	}),
	define(Calc{
		Name:    "bearing",
		Title:   "Bearing shells",
		Purpose: "the clearance with each shell, and the shell to fit",
		Formula: "clearance = housing - journal - 2 x shell; the choice is inside the range and nearest its middle",
		Source:  "difference of diameters",
		Valid:   "housing measured with its cap pulled down",
		Example: `{"housing":"41.012mm","journal":"38.004mm","shells":[{"name":"A","thickness":"1.488mm"}],"low":"0.020mm","high":"0.045mm"}`,
	}, engine.Bearing, func(w *Work, in engine.BearingInput, out engine.BearingOutput) {
		for i, s := range in.Shells {
			w.Say("shell "+s.Name, "%s - %s - 2 x %s = %s", in.Housing, in.Journal, s.Thickness, out.Clearance[i])
		}
		w.Say("to fit", "%s", orNone(out.Choice))
		if in.HousingCodes != nil || in.JournalCodes != nil {
			w.Say("marks: housing, journal", "%s, %s", orNone(out.HousingCode), orNone(out.JournalCode))
		}
	}),
	define(Calc{
		Name:    "reach",
		Title:   "Reach to the piston",
		Purpose: "what is left between something proud of the face and the piston",
		Formula: "clearance = gasket + deck - protrusion",
		Source:  "sum of heights",
		Valid:   "both at rest and cold; what moves and grows takes its share of it",
		Example: `{"protrusion":"1.2mm","gasket":"0.8mm","deck":"0.1mm"}`,
	}, engine.Reach, func(w *Work, in engine.ReachInput, out engine.ReachOutput) {
		w.Say("gasket + deck - protrusion", "%s + %s - %s = %s", in.Gasket, in.Deck, in.Protrusion, out.Clearance)
	}),
	define(Calc{
		Name:    "piston",
		Title:   "Piston clearance",
		Purpose: "what a bore leaves its piston, on the mean and at its narrowest, with taper and out of round",
		Formula: "clearance = mean of the bore readings - piston; least = smallest reading - piston; taper = mean top - mean bottom; out " +
			"of round = largest difference at one place. With limits: sound when every reading's clearance is inside, else out.",
		Source: "difference of diameters",
		Valid:  "piston measured where its maker says",
		Example: `{"bore":{"top":["66.065mm","66.068mm"],"middle":["66.070mm"],"bottom":["66.072mm","66.071mm"]},"piston":"66.005mm",
			"low":"0.050mm","high":"0.075mm"}`,
	}, engine.Piston, func(w *Work, in engine.PistonInput, out engine.PistonOutput) {
		w.Say("mean bore - piston", "mean of %s, less %s = %s",
			slices.Concat(in.Bore.All, in.Bore.Top, in.Bore.Middle, in.Bore.Bottom), in.Piston, out.Clearance)
		w.Say("smallest bore - piston", "%s", out.Least)
		w.Say("taper, out of round", "%s, %s", out.Taper, out.OutOfRound)
		if out.Verdict != nil {
			w.Say("verdict", "%s", *out.Verdict)
		}
	}),
	define(Calc{
		Name:    "tighten",
		Title:   "Tightening order",
		Purpose: "an order for a bolt pattern from the middle outwards, crossing sides",
		Formula: "rings of equal distance from the pattern's middle in turn; within a ring always the bolt farthest from the one just " +
			"pulled; every bolt once per stage",
		Source: "trade practice: from the middle outwards, crossing sides",
		Valid:  "a proposal: the maker's own order, stages and bolts go before it",
		Example: `{"bolts":[{"id":"1","x":"20mm","y":"15mm"},{"id":"2","x":"20mm","y":"105mm"},{"id":"3","x":"120mm","y":"15mm"},{"id":"4",
			"x":"120mm","y":"105mm"},{"id":"5","x":"220mm","y":"15mm"},{"id":"6","x":"220mm","y":"105mm"}],"stages":["30Nm","60Nm"],
			"steps":["90deg"]}`,
	}, engine.Tighten, func(w *Work, in engine.TightenInput, out engine.TightenOutput) {
		for _, p := range out.Passes {
			w.Say("pass at "+p.Stage, "%v", p.Order)
		}
		if len(out.Passes) == 0 {
			w.Say("order", "%v", out.Order)
		}
	}),
}

type lengthInput struct {
	Text string `json:"text" doc:"the length as written"`
	Unit string `json:"unit" choices:"mm,in,thou,um,nm,h,m,cm,inch,t" opt:"" doc:"what a bare number means"`
}

type lengthOutput struct {
	NM length.Length `json:"nm"`
	MM string        `json:"mm"`
	In string        `json:"in"`
}

func readLength(in lengthInput) (lengthOutput, error) {
	unit, _ := length.UnitNamed(in.Unit)
	l, err := length.Parse(in.Text, unit)
	if err != nil {
		return lengthOutput{}, field.Under("text", err)
	}
	return lengthOutput{l, l.MM(), l.In()}, nil
}

func planSteps(w *Work, in cuts.Input, out cuts.Output) {
	if !out.Feasible {
		for _, b := range out.Blocked {
			w.Say("in the way: "+b.ID+" "+b.Limit, "%s", b.Why)
		}
		return
	}
	w.Say("face cut, thickness left", "%s, %s", out.FaceCut, in.Face.Thickness-out.FaceCut)
	for _, v := range out.Valves {
		w.Say(v.ID, "seat %s %s, valve %s, tip %s, shim %s: recession %s, stem %s, spring %s, margin %s",
			v.Seat, v.SeatCut, v.Valve, v.TipGrind, v.SpringShim, v.Recession, v.StemHeight, v.SpringHeight, v.Margin)
	}
	w.Say("cost, metal", "%d cents, %s", out.Cost, out.Metal)
}
