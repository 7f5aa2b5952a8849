package answer_test

import (
	"bytes"
	"cmp"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"
	"maps"
	"math/rand/v2"
	"os"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/answer"
	"yatai/core/head"
	"yatai/core/quantity"
	"yatai/core/trade"
	"yatai/internal/sample"
)

// mm is a millimetre, and what a newton or a degree is counted in.
const mm = quantity.One

// told is where what was told before is kept: of each scenario in words, of drawn heads as sums.
const told = "testdata/told"

// TestWhatIsToldStays holds every answer to every scenario's head against what was told before. What is
// meant to change is written anew with WRITE=1, and looked at before it is committed.
func TestWhatIsToldStays(t *testing.T) {
	files, err := filepath.Glob("testdata/*.json")
	require.NoError(t, err)
	for _, name := range files {
		data, err := os.ReadFile(name)
		require.NoError(t, err)
		var s scenario
		require.NoError(t, json.Unmarshal(data, &s))
		var b strings.Builder
		for _, q := range answer.Questions {
			for _, line := range lines(t, q.Name, s.Head) {
				fmt.Fprintln(&b, line)
			}
		}
		at := filepath.Join(told, strings.TrimSuffix(filepath.Base(name), ".json")+".txt")
		if os.Getenv("WRITE") != "" {
			require.NoError(t, os.WriteFile(at, []byte(b.String()), 0o644))
			continue
		}
		was, err := os.ReadFile(at)
		require.NoError(t, err)
		assert.Equal(t, string(was), b.String(), "%s", at)
	}
}

// lines are an answer line by line: where an object stands in it, and what of it is not empty. Of what is
// sound the verdict is enough.
func lines(t *testing.T, question string, file []byte) []string {
	text, err := answer.Run(context.Background(), question, file)
	if err != nil {
		return []string{question + ": " + err.Error()}
	}
	var a any
	d := json.NewDecoder(bytes.NewReader(text))
	d.UseNumber()
	require.NoError(t, d.Decode(&a))
	var out []string
	var walk func(at string, x any)
	walk = func(at string, x any) {
		switch x := x.(type) {
		case map[string]any:
			if x["verdict"] == "sound" {
				out = append(out, fmt.Sprintf("%s %v sound", at, x["key"]))
				return
			}
			line, n := at, len(out)
			out = append(out, "")
			for _, k := range slices.Sorted(maps.Keys(x)) {
				switch v := x[k].(type) {
				case nil, map[string]any, []any:
					walk(at+"."+k, v)
				case json.Number:
					if r := rounded(v); r != "0" {
						line += " " + k + "=" + r
					}
				default:
					if v != "" && v != false {
						line += fmt.Sprintf(" %s=%v", k, v)
					}
				}
			}
			out[n] = line
		case []any:
			for i, y := range x {
				walk(at+"["+strconv.Itoa(i)+"]", y)
			}
		case nil:
		default:
			out = append(out, fmt.Sprintf("%s %v", at, x))
		}
	}
	walk(question, a)
	return out
}

// rounded is a number with as many digits as every processor agrees on.
func rounded(n json.Number) string {
	if !strings.ContainsAny(n.String(), ".eE") {
		return n.String()
	}
	f, _ := n.Float64()
	return strconv.FormatFloat(f, 'g', 4, 64)
}

// TestWhatIsToldOfDrawnHeadsStays is the same of heads drawn by number, which reach what no scenario does:
// of each answer its sum is kept. TOLD=dir writes the answers there, to be held against another checkout's.
func TestWhatIsToldOfDrawnHeadsStays(t *testing.T) {
	at := filepath.Join(told, "drawn.sum")
	write := os.Getenv("WRITE") != ""
	was := map[string]string{}
	if data, err := os.ReadFile(at); !write {
		require.NoError(t, err)
		for _, line := range strings.Split(strings.TrimSpace(string(data)), "\n") {
			name, sum, _ := strings.Cut(line, " ")
			was[name] = sum
		}
	}
	var is []string
	seeds := make([]uint64, 24)
	for i := range seeds {
		seeds[i] = uint64(i)
	}
	if !write {
		seeds = sample.Every(2, seeds)
	}
	for _, seed := range seeds {
		for kind, draw := range map[string]func(*rand.Rand) *kit{
			"ill": ill, "fight": fight, "worked": worked, "any": anything, "uneven": uneven, "worn": pair,
			"engine": engine,
		} {
			if kind == "worn" && seed%6 != 0 {
				continue
			}
			k := draw(rand.New(rand.NewPCG(seed, 99)))
			file := k.sorted()
			for _, q := range answer.Questions {
				if kind == "any" && (q.Name == "plan" || q.Name == "quote") && seed%4 != 0 {
					continue // long, and mostly refused
				}
				name := fmt.Sprintf("%s.%02d.%s", kind, seed, q.Name)
				text := strings.Join(lines(t, q.Name, file), "\n")
				sum := sha256.Sum256([]byte(text))
				is = append(is, name+" "+hex.EncodeToString(sum[:6]))
				if !write {
					assert.Equal(t, was[name], hex.EncodeToString(sum[:6]), "%s tells something else: TOLD=dir writes what", name)
				}
				if dir := os.Getenv("TOLD"); dir != "" {
					require.NoError(t, os.WriteFile(filepath.Join(dir, name), []byte(text), 0o644))
				}
			}
		}
	}
	if write {
		slices.Sort(is)
		require.NoError(t, os.WriteFile(at, []byte(strings.Join(is, "\n")+"\n"), 0o644))
	}
}

// pair is a worn head of two cylinders, every other time with its depths alike.
func pair(r *rand.Rand) *kit {
	k := worn(r, "IIEE", "IIEE")
	if r.IntN(2) == 0 {
		k.Settings["school.depths"] = "all alike"
	}
	return k
}

// sorted is the head file with its lists in an order of their own.
func (k *kit) sorted() []byte {
	slices.SortStableFunc(k.Tools, func(a, b head.FileTool) int { return cmp.Compare(a.Name, b.Name) })
	slices.SortStableFunc(k.Sheet.Limits, func(a, b head.FileLimit) int {
		return cmp.Or(cmp.Compare(a.Set, b.Set), cmp.Compare(a.Of, b.Of), cmp.Compare(a.Role, b.Role))
	})
	slices.SortStableFunc(k.Readings, func(a, b head.FileReading) int {
		return cmp.Or(cmp.Compare(a.Stage, b.Stage), cmp.Compare(a.Of, b.Of), cmp.Compare(a.At, b.At))
	})
	return k.json()
}

// worked is an ill head whose work was begun: some of it done or left out, some proven, some signed.
func worked(r *rand.Rand) *kit {
	k := ill(r)
	for range 3 + r.IntN(4) {
		code := []string{
			"seat_cut", "valve_grind", "guide_hone", "guide_new", "seat_insert", "valve_new", "lap", "tip_grind",
			"spring_new",
		}[r.IntN(9)]
		k.did(code, k.ids[r.IntN(len(k.ids))])
	}
	if r.IntN(3) > 0 {
		k.proven()
	}
	if r.IntN(3) == 0 {
		k.again()
	}
	for i := range k.Operations {
		o := &k.Operations[i]
		switch r.IntN(12) {
		case 0:
			o.State = "skipped"
		case 1:
			o.State, o.Why = "skipped", "no time"
		case 2:
			o.State = "running"
		case 3:
			o.State = "waiting"
		}
		if o.State != "done" {
			k.Records = slices.DeleteFunc(k.Records,
				func(x head.FileRecord) bool { return x.Operation == o.Code && r.IntN(2) == 0 })
		}
		if r.IntN(10) == 0 {
			k.Signoffs = append(
				k.Signoffs, head.FileSignoff{Finding: "left:" + o.Code, By: "Odo", Reason: "tested in the vehicle"},
			)
		}
	}
	for i := range k.Records {
		v := k.Records[i].Values
		switch r.IntN(8) {
		case 0:
			delete(v, "places")
		case 1:
			for key := range v {
				if v[key] == "yes" {
					v[key] = "no"
				}
			}
		case 2:
			if v["leaks"] != "" {
				v["leaks"] = "1"
			}
			if v["vacuum"] != "" {
				v["vacuum"] = "84 70 60 55 kPa"
			}
		}
	}
	if r.IntN(4) == 0 {
		k.Head.Regulated = "on a public road"
		if r.IntN(2) == 0 {
			k.Head.Released = "A. Person, licence 17"
		}
	}
	if r.IntN(4) == 0 {
		k.Head.Kind = []string{"failed", "comeback", "bought-in", "rules", "core"}[r.IntN(5)]
	}
	if r.IntN(4) == 0 {
		k.Readings[r.IntN(len(k.Readings))].Tool = ""
	}
	if r.IntN(4) == 0 {
		for range 1 + r.IntN(3) {
			k.Readings[r.IntN(len(k.Readings))].Suspect = true
		}
	}
	k.told(r)
	return k
}

// told adds what people say of a head besides: what the customer approved, what was decided, what a new
// part measures, a repair of the shop's own, marks on the map, and what is asked of the plan.
func (k *kit) told(r *rand.Rand) {
	at := func() string { return k.ids[r.IntN(len(k.ids))] }
	for range r.IntN(4) {
		code := []string{"seat_cut", "valve_new", "guide_new", "face", "wash", "seal_test", "spring_new"}[r.IntN(7)]
		l := head.FileLine{Code: code}
		if code != "face" && code != "wash" {
			l.At = []string{at()}
		}
		k.Approved = append(k.Approved, l)
		if r.IntN(4) == 0 {
			k.Signoffs = append(
				k.Signoffs, head.FileSignoff{Finding: "left:" + code, By: "Odo", Reason: "the customer waits for it"},
			)
		}
	}
	for range r.IntN(3) {
		of := []string{"valve.recession", "seat.condition", "valve.face", "lash", "guide.clearance", "stem.height"}[r.IntN(6)]
		choice := []string{"leave", "seat_cut", "seat_insert", "valve_new", "lash_set", "planned"}[r.IntN(6)]
		k.Decisions = append(
			k.Decisions, head.FileDecision{Finding: of + "@" + at(), Choice: choice, Reason: "seen", By: "Odo"},
		)
	}
	for range r.IntN(3) {
		id := at()
		is := map[string]string{"stem.dia": um(k.stem[roleOf(id)] - 10 + r.IntN(25)), "valve.margin": um(1200 + r.IntN(700))}
		k.Parts = append(k.Parts, head.FilePart{Part: "valve", At: id, New: true, Is: is})
	}
	if r.IntN(3) == 0 {
		k.Sheet.Repairs = []head.FileOwnRepair{{
			Name: "Cap the tips", Works: "tip", Station: "assembly bench", Minutes: "5+4", Least: "0.05mm", Most: "0.30mm",
			Moves: map[string]string{"stem.height": "up", "lash": "down"},
		}}
	}
	if r.IntN(3) == 0 {
		k.Findings = append(k.Findings, head.FileFinding{
			Part: "mark", Grade: []string{"crack", "leak", "thread"}[r.IntN(3)], X: "20mm", Y: "30mm",
		})
	}
	switch r.IntN(5) {
	case 0:
		k.Ask.Alternative = []string{"keep", "renew", "robust"}[r.IntN(3)]
	case 1:
		k.Ask.Hold = map[string]map[string]string{at(): {"seat": []string{"keep", "cut", "insert"}[r.IntN(3)]}}
	}
}

// TestADrawnHeadComesBackFromItsFile writes every drawn head as a file and reads it again.
func TestADrawnHeadComesBackFromItsFile(t *testing.T) {
	for seed := range uint64(sample.Times(3, 60)) {
		for name, draw := range map[string]func(*rand.Rand) *kit{
			"ill": ill, "worked": worked, "any": anything, "uneven": uneven, "engine": engine,
		} {
			was, err := head.Decode(draw(rand.New(rand.NewPCG(seed, 7))).sorted())
			require.NoError(t, err, "%s %d", name, seed)
			text, err := head.Encode(was).JSON()
			require.NoError(t, err)
			is, err := head.Decode(text)
			require.NoError(t, err, "%s %d\n%s", name, seed, text)
			for i, pair := range [][2]any{
				{was.Model, is.Model}, {was.Sheet.Limits, is.Sheet.Limits}, {was.Sheet.Figures, is.Sheet.Figures},
				{was.Sheet.Repairs, is.Sheet.Repairs},
				{was.Readings, is.Readings}, {was.Findings, is.Findings}, {was.Parts, is.Parts}, {was.Stock, is.Stock},
				{was.Settings, is.Settings},
				{was.Decisions, is.Decisions}, {was.Operations, is.Operations}, {was.Records, is.Records},
				{was.Signoffs, is.Signoffs},
				{was.Approved, is.Approved}, {was.Ask, is.Ask}, {was.Regulated, is.Regulated}, {was.Released, is.Released},
				{was.Kind, is.Kind},
			} {
				assert.Equal(t, pair[0], pair[1], "%s %d, %d", name, seed, i)
			}
		}
	}
}

// anything is a head of any kind of which everything that can be read was read, somewhere between what is
// sound and what no head has, with limits on all of it, and every part seen.
func anything(r *rand.Rand) *kit {
	one := func(of ...string) string { return of[r.IntN(len(of))] }
	k := ill(r)
	m := &k.Model
	m.Material, m.Cooling, m.Lifter = one("iron", "aluminium"), one("water", "air"), one("solid", "hydraulic")
	m.Drive, m.Ignition = one("bucket", "rocker", "overhead rocker", "finger"), one("plug", "injector")
	for _, role := range []string{"intake", "exhaust"} {
		v := m.Valves[role]
		v.Material, v.Coated, v.Hollow = one("steel", "austenitic", "titanium"), r.IntN(4) == 0, r.IntN(4) == 0
		m.Valves[role] = v
	}
	kind := trade.Kind{Material: m.Material, Cooling: m.Cooling, Drive: m.Drive, Lifter: m.Lifter, Ignition: m.Ignition}
	k.Readings = slices.DeleteFunc(k.Readings, func(x head.FileReading) bool {
		c, _ := trade.ByCode(x.Of)
		return !c.Exists(kind)
	})
	h, err := head.Decode(k.json())
	if err != nil {
		panic(err)
	}
	for _, c := range trade.Characteristics {
		if !c.Exists(h.Model.Kind) || r.IntN(3) == 0 {
			continue
		}
		low, high := max(c.Low, -50*mm), min(c.High, 200*mm)
		text := func(n int) string {
			if c.Words != nil {
				return strconv.Itoa(n & 1)
			}
			return c.UnitFor(h.Unit).Text(low + (high-low)*5/17 + (high-low)/2000*quantity.Amount(n))
		}
		if !c.NoLimit && c.Words == nil && r.IntN(2) == 0 {
			k.drop(c.Code, "")
			k.Sheet.Limits = append(k.Sheet.Limits,
				head.FileLimit{Of: c.Code, Set: "service", Low: text(0), High: text(60 + r.IntN(60))})
		}
		if c.Derived() {
			continue
		}
		for _, s := range c.Spots(h.Model.Layout) {
			if r.IntN(10) == 0 {
				continue
			}
			k.unread(c.Code, s.Key())
			x := head.FileReading{Of: c.Code, At: s.Key(), Is: text(r.IntN(130))}
			if c.Bracket {
				n := r.IntN(120)
				x.Is, x.Go, x.NoGo = "", text(n), text(n+2)
			}
			k.Readings = append(k.Readings, x)
		}
	}
	for _, p := range trade.Parts {
		for _, at := range k.ids {
			if p.Where == trade.AtPosition && p.Exists(h.Model.Kind) && r.IntN(3) > 0 {
				k.see(p.Code, at, p.Grades[r.IntN(len(p.Grades))].Code)
			}
		}
	}
	if _, err := head.Decode(k.json()); err != nil {
		panic(err)
	}
	return k
}
