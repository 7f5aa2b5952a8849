//go:build unix

package web_test

import (
	"encoding/json"
	"fmt"
	"maps"
	"net/http"
	"regexp"
	"runtime"
	"slices"
	"strings"
	"syscall"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/calc"
	"yatai/internal/sample"
)

// inflate returns a JSON value with every list in it n long, its entries taken again and again.
func inflate(v any, n int) any {
	switch x := v.(type) {
	case map[string]any:
		out := map[string]any{}
		for k, e := range x {
			out[k] = inflate(e, n)
		}
		return out
	case []any:
		if len(x) == 0 {
			return x
		}
		out := make([]any, n)
		for i := range out {
			e := inflate(x[i%len(x)], max(3, n/1000))
			if m, ok := e.(map[string]any); ok { // names may have to differ
				for _, key := range []string{"id", "name"} {
					if _, named := m[key].(string); named {
						m[key] = fmt.Sprint(m[key], i)
					}
				}
			}
			out[i] = e
		}
		return out
	}
	return v
}

// worst are questions of up to two mebibytes that were made to take long, by the door they go to:
// each calculation's example with ever longer lists, nesting, digits and powers of ten; a head of
// sixty valves with thousands of readings and sizes in the box.
func worst(t *testing.T) map[string]string {
	t.Helper()
	out := map[string]string{}
	for _, c := range calc.All() {
		d := c.Describe()
		for _, n := range []int{200, 1000, 9000} {
			var in any
			require.NoError(t, json.Unmarshal(d.Example, &in))
			text, err := json.Marshal(inflate(in, n))
			require.NoError(t, err)
			if len(text) <= 2<<20 {
				out[fmt.Sprintf("calc/%s lists of %d", d.Name, n)] = string(text)
			}
		}
		out["calc/"+d.Name+" deep"] = strings.Repeat(`[`, 1<<19) + strings.Repeat(`]`, 1<<19)
		powers := regexp.MustCompile(`"(-?[0-9.]+)([a-zA-Z]+)"`)
		out["calc/"+d.Name+" powers"] = powers.ReplaceAllString(string(d.Example), `"1e999999999$2"`)
		out["calc/"+d.Name+" digits"] = powers.ReplaceAllString(string(d.Example), `"`+strings.Repeat("9", 1<<13)+`$2"`)
	}
	many := func(n int, one func(i int) string) string {
		parts := make([]string, n)
		for i := range parts {
			parts[i] = one(i)
		}
		return strings.Join(parts, ",")
	}
	head := `{"format":"yatai-head/1","head":{"tag":"W","unit":"mm"},
		"model":{"name":"Worst","material":"iron","cooling":"water","drive":"bucket","cylinders":12,
		 "patterns":["IIIEE"],"pitch":"100mm","bore":"90mm","width":"160mm","valves":{"intake":{"head":"20mm"},"exhaust":{"head":"18mm"}}},
		"sheet":{"limits":[{"of":"valve.recession","role":"intake","set":"service","low":"0.4mm","high":"1mm","source":"x"},
		 {"of":"valve.recession","role":"exhaust","set":"service","low":"0.4mm","high":"1mm","source":"x"},
		 {"of":"lash","role":"intake","set":"service","low":"0.2mm","high":"0.25mm","source":"x"}]},
		"readings":[` + many(6000, func(i int) string {
		return fmt.Sprintf(`{"of":"valve.recession","at":"%d%s%d","is":"%.3fmm"}`, i%12+1, []string{"I", "E"}[i%2], i%2+1,
			0.3+float64(i%150)/100)
	}) + `],"stock":[` + many(4000, func(i int) string {
		return fmt.Sprintf(`{"kind":"lash shim","size":"%.3fmm","count":3,"price":"3.20"}`, 2+float64(i)/4000)
	}) + `]}`
	for _, q := range []string{"judge", "judge?alt=robust", "check", "causes", "quote"} {
		out["head/"+q] = head
		out["head/"+q+" deep"] = strings.Repeat(`{"a":`, 1<<17)
	}
	return out
}

// used is the processor time this process has taken.
func used() time.Duration {
	var u syscall.Rusage
	_ = syscall.Getrusage(syscall.RUSAGE_SELF, &u)
	return time.Duration(u.Utime.Nano() + u.Stime.Nano())
}

// TestTheWorstMebibyteIsBounded sends the worst questions that could be thought of to the doors
// for programs: each is answered, with at most two seconds of processor time and 200 MB.
func TestTheWorstMebibyteIsBounded(t *testing.T) {
	if underRace {
		t.Skip("it measures time")
	}
	s := demoSite(t)
	v := s.as(t, "Runa")
	all := worst(t)
	for _, name := range sample.Every(3, slices.Sorted(maps.Keys(all))) {
		body := all[name]
		door, _, _ := strings.Cut(name, " ")
		require.LessOrEqual(t, len(body), 2<<20, name)
		runtime.GC()
		var before, after runtime.MemStats
		runtime.ReadMemStats(&before)
		began := used()
		r, err := http.NewRequest("POST", v.base+"/api/"+door, strings.NewReader(body))
		require.NoError(t, err)
		status, said := v.send(r)
		took := used() - began
		runtime.ReadMemStats(&after)
		assert.Less(t, status, 500, "%s: %s", name, said[:min(200, len(said))])
		assert.Less(t, took, 2*time.Second, name)
		assert.Less(t, int64(after.HeapSys)-int64(before.HeapSys), int64(200<<20), name)
		if testing.Verbose() {
			fmt.Printf("%-26s %d %6.0f ms %5d kB: %s\n", name, status, took.Seconds()*1000, len(body)>>10,
				said[:min(90, len(said))])
		}
	}
}
