package answer_test

import (
	"flag"
	"math/rand/v2"
	"os"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"yatai/core/answer"
	"yatai/core/head"
	"yatai/core/trade"
)

// TestMain draws fewer heads in a short run.
func TestMain(m *testing.M) {
	flag.Parse()
	checks := "60"
	if testing.Short() {
		checks = "12"
	}
	if err := flag.Set("rapid.checks", checks); err != nil {
		panic(err)
	}
	os.Exit(m.Run())
}

// law holds on every head that is drawn.
func law(t *testing.T, draw func(*rand.Rand) *kit, holds func(t *rapid.T, r *rand.Rand, k *kit)) {
	t.Helper()
	rapid.Check(t, func(t *rapid.T) {
		r := rand.New(rand.NewPCG(rapid.Uint64().Draw(t, "seed"), 1))
		holds(t, r, draw(r))
	})
}

func (k *kit) decode(t *rapid.T) *head.Head {
	h, err := head.Decode(k.json())
	require.NoError(t, err)
	return h
}

func (k *kit) plan(t *rapid.T) answer.PlanAnswer {
	p, err := answer.Plan(t.Context(), k.decode(t))
	require.NoError(t, err)
	return p
}

func (k *kit) judge(t *rapid.T) answer.JudgeAnswer {
	j, err := answer.Judge(t.Context(), k.decode(t))
	require.NoError(t, err)
	return j
}

func (k *kit) quote(t *rapid.T) answer.QuoteAnswer {
	q, err := answer.Quote(t.Context(), k.decode(t))
	require.NoError(t, err)
	return q
}

func (k *kit) open(t *rapid.T) string {
	var keys []string
	for _, l := range answer.Check(k.decode(t)).Open {
		keys = append(keys, l.Key)
	}
	return strings.Join(keys, " ")
}

// work is a plan's or a quote's operations by code and position.
func work(code string, at []string, to map[string]bool) {
	for _, id := range append(slices.Clone(at), "") {
		if id != "" || len(at) == 0 {
			to[code+"@"+id] = true
		}
	}
}

func planned(p answer.PlanAnswer) map[string]bool {
	out := map[string]bool{}
	for _, o := range p.Operations {
		work(o.Code, o.At, out)
	}
	return out
}

func TestLawAWiderLimitNeverHurts(t *testing.T) {
	law(t, ill, func(t *rapid.T, r *rand.Rand, k *kit) {
		p := k.plan(t)
		if !p.Feasible {
			return
		}
		of := []string{
			"guide.clearance", "valve.recession", "stem.height", "spring.height", "valve.margin", "seat.width", "lash",
		}[r.IntN(7)]
		role := []string{"intake", "exhaust"}[r.IntN(2)]
		wide := k.copied()
		wide.drop(of, role)
		q := wide.plan(t)
		require.True(t, q.Feasible, "%s of the %s dropped", of, role)
		if k.Model.Drive != "bucket" { // shims go before metal there
			require.LessOrEqual(t, q.Cents, p.Cents, "%s of the %s dropped", of, role)
		}
	})
}

func TestLawWhatThePlanChoseMayBeHeld(t *testing.T) {
	law(t, ill, func(t *rapid.T, _ *rand.Rand, k *kit) {
		p := k.plan(t)
		if !p.Feasible {
			require.NotEmpty(t, p.Blocked, "it says why")
			return
		}
		held := k.copied()
		held.Ask.Hold = map[string]map[string]string{}
		for _, v := range p.Valves {
			held.Ask.Hold[v.ID] = map[string]string{"seat": v.Seat, "valve": v.Valve, "guide": v.Guide}
		}
		if p.Tilt == nil {
			held.Ask.FaceCut = p.FaceCut.String()
		}
		q := held.plan(t)
		require.True(t, q.Feasible)
		require.Equal(t, p.Cents, q.Cents)
	})
}

func TestLawHoldingSomethingFindsNothingThatWasMissed(t *testing.T) {
	choices := []map[string]string{
		{"seat": "cut"}, {"seat": "keep"}, {"seat": "insert"}, {"valve": "new"}, {"valve": "keep"}, {"guide": "new"},
		{"guide": "keep"},
	}
	law(t, ill, func(t *rapid.T, r *rand.Rand, k *kit) {
		p, held := k.plan(t), k.copied()
		held.Ask.Hold = map[string]map[string]string{k.ids[r.IntN(len(k.ids))]: choices[r.IntN(len(choices))]}
		q := held.plan(t)
		require.False(t, q.Feasible && !p.Feasible, "only with %v", held.Ask.Hold)
		if p.Feasible && q.Feasible && k.Model.Drive != "bucket" {
			require.LessOrEqual(t, p.Cents, q.Cents, "cheaper with %v", held.Ask.Hold)
		}
	})
}

func TestLawCannotBeDoneIsTrue(t *testing.T) {
	law(t, fight, func(t *rapid.T, r *rand.Rand, k *kit) {
		if k.plan(t).Feasible {
			return
		}
		ways := []map[string]map[string]string{{}}
		for _, at := range k.ids {
			var next []map[string]map[string]string
			for _, w := range ways {
				for _, seat := range []string{"keep", "cut", "insert"} {
					more := map[string]map[string]string{at: {"seat": seat}}
					for id, held := range w {
						more[id] = held
					}
					next = append(next, more)
				}
			}
			ways = next
		}
		for _, w := range ways {
			held := k.copied()
			held.Ask.Hold = w
			require.False(t, held.plan(t).Feasible, "%v", w)
		}
	})
}

// TestLawNothingForbiddenIsPlannedAndNoMetalWorkedTwice: what the plan grinds, laps or hones judge
// allows somewhere; of one metal there is one repair, in the plan and in the quote.
func TestLawNothingForbiddenIsPlannedAndNoMetalWorkedTwice(t *testing.T) {
	same := [][]string{
		{"valve_new", "valve_grind"}, {"guide_new", "guide_liner", "guide_hone", "guide_ream"}, {"rocker_new", "rocker_mend"},
		{"seat_insert", "lap"},
	}
	law(t, ill, func(t *rapid.T, _ *rand.Rand, k *kit) {
		p := k.plan(t)
		j := k.judge(t)
		for _, v := range p.Valves {
			for code, does := range map[string]bool{
				"valve_grind": v.Valve == "grind", "lap": v.Lap, "guide_hone": v.Guide == "hone",
			} {
				offered, allowed := false, false
				for _, f := range j.Features {
					for _, o := range f.Repairs {
						if keyed(f.Key, v.ID) && o.Code == code {
							offered, allowed = true, allowed || o.Allowed
						}
					}
				}
				require.False(t, p.Feasible && does && offered && !allowed, "%s at %s", code, v.ID)
			}
		}
		quoted := map[string]bool{}
		for _, l := range k.quote(t).Lines {
			work(l.Code, l.At, quoted)
		}
		for _, did := range []map[string]bool{planned(p), quoted} {
			for _, group := range same {
				for _, at := range k.ids {
					n := 0
					for _, code := range group {
						if did[code+"@"+at] {
							n++
						}
					}
					require.LessOrEqual(t, n, 1, "%v at %s", group, at)
				}
			}
		}
	})
}

// TestLawWhatIsAdvisedIsWhatIsPlanned decides each finding as judge advises: the quote's work is the
// balanced plan's, at its price.
func TestLawWhatIsAdvisedIsWhatIsPlanned(t *testing.T) {
	law(t, ill, func(t *rapid.T, _ *rand.Rand, k *kit) {
		p := k.plan(t)
		if !p.Feasible {
			return
		}
		decided := k.copied()
		for _, f := range k.judge(t).Features {
			if f.Advised != "" {
				decided.Decisions = append(decided.Decisions,
					head.FileDecision{Finding: f.Key, Choice: f.Advised, Reason: "as advised"})
			}
		}
		got := map[string]bool{}
		for _, l := range decided.quote(t).Lines {
			if l.Group == "must" {
				work(l.Code, l.At, got)
			}
		}
		require.Equal(t, planned(p), got)
	})
}

func TestLawWhatWasNotReadIsNotCertain(t *testing.T) {
	law(t, ill, func(t *rapid.T, r *rand.Rand, k *kit) {
		of := []string{"valve.recession", "stem.height", "seat.width", "valve.margin", "guide.bore", "lash"}[r.IntN(6)]
		k.unread(of, "")
		p := k.plan(t)
		if !p.Feasible {
			return
		}
		c, _ := trade.ByCode(of)
		if !slices.ContainsFunc(k.ids, func(id string) bool { // what the plan makes anew everywhere is read then
			return !slices.ContainsFunc(p.Operations, func(o answer.OperationAnswer) bool {
				return slices.Contains(o.At, id) && trade.OperationNamed(o.Code).Makes(&c)
			})
		}) {
			return
		}
		require.Nil(t, p.PAll, "%s was not read", of)
		require.NotEmpty(t, p.Unread)
	})
}

// TestLawWorkAfterTheProofTakesTheProofAway does something to a proven head: what it took away is asked
// for again, and nothing else is.
func TestLawWorkAfterTheProofTakesTheProofAway(t *testing.T) {
	law(t, func(r *rand.Rand) *kit { return newKit([]string{"rocker", "bucket"}[r.IntN(2)], "water", "IE") },
		func(t *rapid.T, r *rand.Rand, k *kit) {
			k.proven()
			require.Empty(t, k.open(t), "a proven head may leave")
			code := []string{
				"seat_cut", "valve_grind", "guide_hone", "face", "guide_new", "seat_insert", "valve_new", "lap",
			}[r.IntN(8)]
			at := k.ids[:1]
			if code == "face" {
				at = nil
			}
			k.did(code, at...)
			k.again()
			open := k.open(t)
			require.Contains(t, open, "record:wash_final", code)
			require.Equal(t, code != "face", strings.Contains(open, "record:seal_test@"+k.ids[0]), "%s: %s", code, open)
			require.NotContains(t, open, "record:seal_test@"+k.ids[1], "nothing was done there")
		})
}

// TestLawWhatWasLeftOutProvesNothing leaves one thing out: without a reason, with one, and signed.
func TestLawWhatWasLeftOutProvesNothing(t *testing.T) {
	law(t, func(*rand.Rand) *kit { return newKit("rocker", "water", "IE") }, func(t *rapid.T, r *rand.Rand, k *kit) {
		k.proven()
		o := &k.Operations[r.IntN(len(k.Operations))]
		o.State = "skipped"
		k.Records = slices.DeleteFunc(k.Records, func(x head.FileRecord) bool { return x.Operation == o.Code })
		require.NotEmpty(t, k.open(t), "%s without a word", o.Code)
		o.Why = "no time"
		require.Contains(t, k.open(t), "left:"+o.Code, "%s unsigned", o.Code)
		for _, s := range []head.FileSignoff{{By: "", Reason: ""}, {By: "Odo", Reason: " "}, {By: "", Reason: "old engine"}} {
			s.Finding = "left:" + o.Code
			k.Signoffs = []head.FileSignoff{s}
			require.Contains(t, k.open(t), "left:"+o.Code, "signed by %q for %q", s.By, s.Reason)
		}
		k.Signoffs = []head.FileSignoff{{Finding: "left:" + o.Code, By: "Odo", Reason: "tested in the vehicle"}}
		require.Empty(t, k.open(t))
	})
}

// TestLawTheOrderOfOtherPlacesSaysNothing shuffles the readings.
func TestLawTheOrderOfOtherPlacesSaysNothing(t *testing.T) {
	law(t, ill, func(t *rapid.T, r *rand.Rand, k *kit) {
		mixed := k.copied()
		r.Shuffle(len(mixed.Readings), func(a, b int) {
			mixed.Readings[a], mixed.Readings[b] = mixed.Readings[b], mixed.Readings[a]
		})
		require.Equal(t, k.judge(t), mixed.judge(t))
		require.Equal(t, k.plan(t), mixed.plan(t))
	})
}
