package demo

// Stop is a page of the tour through the demo: where it is, and what is to be seen there.
type Stop struct{ Title, Says, Link string }

// Tour leads through the shop in the order a head goes through it.
var Tour = []Stop{
	{"The Floor", "Every head in the shop hangs here by what it waits for. Press a tag to open its file.", "/"},
	{
		"How it came in", "Who brought it, from which machine, what the owner tells. The steps of the job stand in a row above; the present one is marked.",
		"/heads/T0401/intake",
	},
	{
		"A sweep", "One measure over all valves, typed in order: Enter accepts and goes on, * repeats. What is outside its limit says so beside its field at once.",
		"/heads/T0401/sweep/guide.bore",
	},
	{
		"The verdicts", "Each reading against its limit with the tool's doubt: sound, near, in doubt, out. " +
			"The cheapest repair that is allowed is ticked; what is forbidden says why.",
		"/heads/T0401/judge",
	},
	{
		"Why it failed", "Signs read and told, weighed into likely causes. The cause is often elsewhere in the engine, and comes back if it is not mended.",
		"/heads/T0401/causes",
	},
	{
		"One plan for the whole head", "Facing lifts every valve, cutting sinks it, and the lash follows. " +
			"The plan finds the least that puts all of it inside. Move the face cut and see.",
		"/heads/T0402/judge",
	},
	{
		"The face",
		"What was read on the grid, as a relief: how hollow it is, and what level or tilted facing would take off.",
		"/heads/T0402/face",
	},
	{
		"What the customer gets", "Work in must, should and could, with prices and a date that eight of ten would keep. " +
			"The customer answers line by line on a telephone.",
		"/heads/T0406/quote",
	},
	{
		"The work", "The route in the order of the trade. A work sheet has the figures to set up, and is finished only with its record and proof.",
		"/heads/T0406/work",
	},
	{
		"The gate", "A head is closed when everything that work may have moved was read again and signed for. What is missing is named.",
		"/heads/T0406/check",
	},
	{
		"What it leaves with",
		"Who took it, and the report of what it came and left with, for the customer and for the next visit.",
		"/heads/T0408/handover",
	},
	{
		"The week", "Stations and people, what each head waits for, and how near the order is to the best possible. Move a bar, and the rest follows as a proposal.",
		"/week",
	},
	{
		"Parts",
		"The shim box, what is reserved for which head, what is short. The supplier here is simulated and is asked over the network.",
		"/parts",
	},
	{
		"Words and drawings",
		"What each measure is, where and how it is read, and the usual mistake. A ? beside a label comes here.",
		"/reference/glossary",
	},
}
