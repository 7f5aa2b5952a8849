package head

// Format names the version of the head file.
const Format = "yatai-head/1"

// File is a head file as it is written: one JSON document. Lengths and other quantities are
// text with their unit.
type File struct {
	Format     string            `json:"format" need:"yes" doc:"yatai-head/1"`
	Head       FileHead          `json:"head" need:"yes" doc:"the head itself"`
	Model      FileModel         `json:"model" need:"yes" doc:"the kind of head"`
	Sheet      FileSheet         `json:"sheet,omitzero" doc:"limits, figures and renewals it is judged by"`
	Tools      []FileTool        `json:"tools,omitempty" doc:"the tools it was read with"`
	Readings   []FileReading     `json:"readings,omitempty" doc:"in the order of writing"`
	Findings   []FileFinding     `json:"findings,omitempty" doc:"what eyes saw, in the order of writing"`
	Parts      []FilePart        `json:"parts,omitempty" doc:"parts in their places, and new ones for them"`
	Stock      []FileStock       `json:"stock,omitempty" doc:"parts that are there or can be ordered"`
	Settings   map[string]string `json:"settings,omitempty" doc:"the shop's choices"`
	Decisions  []FileDecision    `json:"decisions,omitempty" doc:"what was decided about findings"`
	Operations []FileOperation   `json:"operations,omitempty" doc:"the route"`
	Records    []FileRecord      `json:"records,omitempty" doc:"what was written down while operations were done"`
	Signoffs   []FileSignoff     `json:"signoffs,omitempty" doc:"deviations the lead signed"`
	Approved   []FileLine        `json:"approved,omitempty" doc:"work the customer said yes to"`
	Ask        FileAsk           `json:"ask,omitzero" doc:"a question to the planner"`
}

// FileHead is the head itself.
type FileHead struct {
	Tag       string   `json:"tag" need:"yes" doc:"the tag tied to it"`
	Kind      string   `json:"kind,omitempty" doc:"rebuild, failed, comeback, bought-in, rules or core"`
	Unit      string   `json:"unit" need:"yes" doc:"mm or in"`
	Story     string   `json:"story,omitempty" doc:"the owner's words"`
	Symptoms  []string `json:"symptoms,omitempty" doc:"what the owner tells, ticked"`
	Hours     string   `json:"hours,omitempty"`
	Bank      string   `json:"bank,omitempty"`
	Marks     string   `json:"marks,omitempty" doc:"casting and serial marks"`
	Regulated string   `json:"regulated,omitempty" doc:"why a licensed person has to release it"`
	Theirs    []string `json:"theirs,omitempty" doc:"codes of the kinds of parts the customer brings"`
	Released  string   `json:"released,omitempty" doc:"who released it, with which licence"`
}

// FileModel is the kind of head.
type FileModel struct {
	Name      string               `json:"name" need:"yes"`
	About     string               `json:"about,omitempty"`
	Material  string               `json:"material,omitempty" doc:"iron or aluminium"`
	Cooling   string               `json:"cooling,omitempty" doc:"water or air"`
	Drive     string               `json:"drive,omitempty" doc:"bucket, rocker, overhead rocker or finger"`
	Lifter    string               `json:"lifter,omitempty" doc:"solid or hydraulic"`
	Ignition  string               `json:"ignition,omitempty" doc:"plug or injector"`
	Bridges   string               `json:"bridges,omitempty" doc:"where a rocker works two valves through one: guided or floating"`
	Camshafts int                  `json:"camshafts,omitempty" doc:"in the head: 2, A for the intakes and B for the exhausts; else one"`
	Cylinders int                  `json:"cylinders" need:"yes"`
	Patterns  []string             `json:"patterns" need:"yes" doc:"the valves of each cylinder along the head: IE, EI, IIEE; one for all, or one each"`
	FirstAt   string               `json:"first_at,omitempty" doc:"left or right, as it lies on the bench"`
	Pitch     string               `json:"pitch" need:"yes" doc:"between cylinders"`
	Bore      string               `json:"bore" need:"yes"`
	Width     string               `json:"width" need:"yes"`
	Valves    map[string]FileValve `json:"valves" need:"yes" doc:"intake and exhaust"`
	Moved     []FilePlace          `json:"moved,omitempty" doc:"what lies elsewhere than a regular head has it"`
}

// FileValve is what the valves of a role are like.
type FileValve struct {
	Head     string `json:"head" need:"yes" doc:"head diameter"`
	Material string `json:"material,omitempty" doc:"steel, austenitic or titanium"`
	Coated   bool   `json:"coated,omitempty"`
	Hollow   bool   `json:"hollow,omitempty"`
	Plain    bool   `json:"plain,omitempty" doc:"they sit without rotators"`
}

// FilePlace is something of the face by its place. What is chamber, valve, bolt, plug,
// injector or water; a new name adds one, a diameter of 0 takes one away.
type FilePlace struct {
	What string `json:"what" need:"yes"`
	Name string `json:"name" need:"yes"`
	X    string `json:"x" need:"yes"`
	Y    string `json:"y" need:"yes"`
	D    string `json:"d" need:"yes" doc:"diameter"`
}

// FileSheet is what a head is judged by.
type FileSheet struct {
	Limits  []FileLimit       `json:"limits,omitempty"`
	Figures map[string]string `json:"figures,omitempty" doc:"by code, or code/role"`
	Renew   []string          `json:"renew,omitempty" doc:"parts renewed whatever they measure"`
	Own     []FileOwn         `json:"own,omitempty" doc:"the shop's own characteristics"`
	Repairs []FileOwnRepair   `json:"repairs,omitempty" doc:"the shop's own repairs"`

	Tightening []FileTightening `json:"tightening,omitempty" doc:"how the model's fasteners are pulled down"`
}

// FileTightening is how fasteners of one kind are pulled down.
type FileTightening struct {
	Of     string   `json:"of" need:"yes" doc:"cam_caps, rocker_pedestals, injector_clamps or head_bolts"`
	Count  int      `json:"count,omitempty"`
	Steps  []string `json:"steps" need:"yes" doc:"in turn: 30 Nm, 90 deg, 400 bar, wait 10 min, slacken"`
	How    string   `json:"how,omitempty" doc:"as the book says, dry, oiled, with paste"`
	New    bool     `json:"new,omitempty" doc:"they are used once"`
	Order  []string `json:"order,omitempty" doc:"the book's own, by the names of the bolts"`
	Source string   `json:"source" need:"yes"`
}

// FileLimit is one line of a sheet.
type FileLimit struct {
	Of     string `json:"of" need:"yes" doc:"the characteristic"`
	Role   string `json:"role,omitempty" doc:"intake, exhaust, long, cross, diagonal; empty for any"`
	Set    string `json:"set,omitempty" doc:"service, target, new or class"`
	Low    string `json:"low,omitempty" doc:"inclusive"`
	High   string `json:"high,omitempty" doc:"inclusive"`
	Near   string `json:"near,omitempty"`
	Source string `json:"source,omitempty"`
}

// FileOwn is a characteristic of the shop's own.
type FileOwn struct {
	Code  string `json:"code" need:"yes"`
	Label string `json:"label" need:"yes"`
	Where string `json:"where" need:"yes" doc:"position, cylinder, journal or head"`
	Unit  string `json:"unit,omitempty"`
	Tool  string `json:"tool,omitempty"`

	Answers []string `json:"answers,omitempty" doc:"codes of the repairs that answer it when it is out"`
}

// FileOwnRepair is a repair of the shop's own, done at valves. Where it is decided, ordered or approved it
// is named by its code, which is made of the rest: left out, it is not looked at.
type FileOwnRepair struct {
	Name    string            `json:"name" need:"yes"`
	Works   string            `json:"works" need:"yes" doc:"seat, tip, spring or something else"`
	Station string            `json:"station" need:"yes"`
	Minutes string            `json:"minutes" need:"yes" doc:"once, and at each valve: 10+4"`
	Least   string            `json:"least,omitempty" doc:"of its size"`
	Most    string            `json:"most,omitempty" doc:"of its size; empty: it has none"`
	Moves   map[string]string `json:"moves,omitempty" doc:"characteristics of a valve, up or down by the size"`
	Part    string            `json:"part,omitempty" doc:"what one is fitted of at each valve; in the stock its kind is own: and this name"`
	Code    string            `json:"code,omitempty" doc:"as it is written; made of the rest"`
}

// FileTool is a tool with its doubt.
type FileTool struct {
	Name string `json:"name" need:"yes"`
	Kind string `json:"kind,omitempty"`
	U    string `json:"u,omitempty" doc:"expanded uncertainty, k = 2, or a share of the reading as 2%"`
}

// FileReading is one reading.
type FileReading struct {
	Of      string `json:"of" need:"yes" doc:"the characteristic"`
	At      string `json:"at" need:"yes" doc:"1E1.top.A, C1, T1, L2, J3, H"`
	Is      string `json:"is,omitempty" doc:"what was read"`
	Go      string `json:"go,omitempty" doc:"of feelers: the largest leaf that goes"`
	NoGo    string `json:"nogo,omitempty" doc:"the smallest that does not"`
	Tool    string `json:"tool,omitempty"`
	U       string `json:"u,omitempty" doc:"the doubt it was taken with, where it is not the tool's"`
	Stage   string `json:"stage,omitempty" doc:"as received, after repair or final"`
	AtTime  string `json:"at_time,omitempty" doc:"UTC"`
	By      string `json:"by,omitempty"`
	Typed   string `json:"typed,omitempty" doc:"what was typed, where that is not the size"`
	Why     string `json:"why,omitempty" doc:"of a correction"`
	Suspect bool   `json:"suspect,omitempty" doc:"its tool failed its zero check since"`
}

// FileFinding is something seen.
type FileFinding struct {
	Part     string `json:"part" need:"yes"`
	At       string `json:"at,omitempty"`
	Grade    string `json:"grade" need:"yes"`
	Note     string `json:"note,omitempty"`
	Stage    string `json:"stage,omitempty"`
	X        string `json:"x,omitempty" doc:"of a mark on the map"`
	Y        string `json:"y,omitempty"`
	Thread   string `json:"thread,omitempty" doc:"of the hole a mark is at: M10x1.25, 3/8-16"`
	Replaces int    `json:"replaces,omitempty" doc:"of a mark: which finding of this list, from 1, it replaces"`
}

// FilePart is a part in a place.
type FilePart struct {
	Part     string            `json:"part" need:"yes"`
	At       string            `json:"at,omitempty"`
	New      bool              `json:"new,omitempty"`
	Is       map[string]string `json:"is,omitempty" doc:"what it measures, by characteristic"`
	Missing  bool              `json:"missing,omitempty"`
	Material string            `json:"material,omitempty"`
	Coated   bool              `json:"coated,omitempty"`
	Hollow   bool              `json:"hollow,omitempty"`
}

// FileStock is a part that is there or can be had.
type FileStock struct {
	Kind  string `json:"kind" need:"yes"`
	Name  string `json:"name,omitempty"`
	Size  string `json:"size,omitempty"`
	UpTo  string `json:"up_to,omitempty" doc:"of a gasket: how far pistons may stand out under it"`
	Role  string `json:"role,omitempty"`
	Count int    `json:"count,omitempty"`
	Price string `json:"price,omitempty" doc:"each; empty when not known"`
	Days  int    `json:"days,omitempty" doc:"until one comes"`
}

// FileDecision is what was decided about a finding.
type FileDecision struct {
	Finding string `json:"finding" need:"yes" doc:"guide.clearance@1E1"`
	Choice  string `json:"choice" need:"yes" doc:"a repair, leave or planned"`
	Reason  string `json:"reason,omitempty"`
	By      string `json:"by,omitempty"`
}

// FileOperation is a step of the route.
type FileOperation struct {
	Code     string   `json:"code" need:"yes"`
	At       []string `json:"at,omitempty"`
	State    string   `json:"state,omitempty" doc:"waiting, running, held, done or skipped"`
	Started  string   `json:"started,omitempty" doc:"UTC"`
	Finished string   `json:"finished,omitempty" doc:"UTC"`
	Readings *int     `json:"readings,omitempty" doc:"how many readings were there when it was begun"`
	Why      string   `json:"why,omitempty" doc:"why it was left out"`
}

// FileRecord is what was written down.
type FileRecord struct {
	Operation string            `json:"operation" need:"yes"`
	At        string            `json:"at,omitempty"`
	Values    map[string]string `json:"values" need:"yes"`
	Readings  *int              `json:"readings,omitempty" doc:"how many readings were there when it was written"`
}

// FileSignoff is a deviation signed.
type FileSignoff struct {
	Finding string `json:"finding" need:"yes"`
	By      string `json:"by,omitempty"`
	Reason  string `json:"reason,omitempty"`
	Figure  string `json:"figure,omitempty" doc:"what stood then"`
}

// FileLine is work the customer said yes to.
type FileLine struct {
	Code string   `json:"code" need:"yes"`
	At   []string `json:"at,omitempty"`
}

// FileAsk is a question to the planner.
type FileAsk struct {
	FaceCut     string                       `json:"face_cut,omitempty"`
	Alternative string                       `json:"alternative,omitempty" doc:"keep, balanced, renew or robust"`
	Tilt        string                       `json:"tilt,omitempty" doc:"level or tilted: how the head is faced; what is cheaper without it"`
	Hold        map[string]map[string]string `json:"hold,omitempty" doc:"by position: seat, valve, guide"`
}
