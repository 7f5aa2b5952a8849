package web_test

import (
	"crypto/rand"
	"database/sql"
	"fmt"
	"html/template"
	"maps"
	"net/http"
	"net/http/httptest"
	"net/url"
	"runtime/debug"
	"slices"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/go-chi/chi/v5"
	"github.com/stretchr/testify/require"

	"yatai/internal/demofile"
	"yatai/web/page"
)

// allOfHeads asks for heads with what they belong to, in one query.
const allOfHeads = "SELECT h.*, j.*, c.*, m.* FROM heads h JOIN jobs j ON j.id = h.job_id " +
	"JOIN customers c ON c.id = j.customer_id JOIN head_models m ON m.id = h.model_id "

// bare is what a page or a reading costs at least here: a chi handler that asks the same file for
// the same rows with the same driver and writes them as a table, and one that inserts a reading,
// certain to be on disk. No session, no rules, no judgement.
type bare struct {
	http.Handler
	db *sql.DB
}

var bareTable = template.Must(
	template.New("").Parse(`<table>{{range .}}<tr>{{range .}}<td>{{.}}</td>{{end}}</tr>{{end}}</table>`),
)

// openHeads is a part of the bare questions: the heads that are in the shop.
const openHeads = "SELECT id FROM heads WHERE handed_over_at IS NULL"

// barePages are the rows behind each page.
var barePages = map[string][]string{
	"/": {
		allOfHeads + "WHERE h.handed_over_at IS NULL",
		"SELECT * FROM operations WHERE head_id IN (" + openHeads + ")",
		"SELECT head_id, characteristic, count(*) FROM readings WHERE head_id IN (" + openHeads +
			") GROUP BY head_id, characteristic",
	},
	"/search?q=Mossfield": {
		allOfHeads + "WHERE c.name LIKE '%Mossfield%' ORDER BY h.id DESC LIMIT 40",
	},
	"/heads/T0402/judge":            headRows("T0402"),
	"/heads/T0401/sweep/guide.bore": headRows("T0401"),
	"/heads/T0401/ways":             headRows("T0401"),
	"/week": {
		allOfHeads + "WHERE h.handed_over_at IS NULL",
		"SELECT * FROM operations WHERE head_id IN (" + openHeads + ")",
		"SELECT * FROM decisions WHERE head_id IN (" + openHeads + ")",
		"SELECT * FROM stock_items", "SELECT * FROM part_orders", "SELECT * FROM stints ORDER BY id DESC LIMIT 1000",
	},
	"/parts": {
		"SELECT * FROM stock_items", "SELECT * FROM stock_sums", "SELECT * FROM stock_reserved",
		"SELECT * FROM part_orders",
	},
	"/follow-up": {"SELECT r.*, h.tag FROM reminders r JOIN heads h ON h.id = r.head_id WHERE r.done_at IS NULL"},
}

// headRows are the rows of a head's own pages.
func headRows(tag string) []string {
	id := "(SELECT id FROM heads WHERE tag = '" + tag + "')"
	return []string{
		allOfHeads + "WHERE h.tag = '" + tag + "'",
		"SELECT r.*, t.*, u.name FROM readings r JOIN tools t ON t.id = r.tool_id JOIN users u ON u.id = r.person_id WHERE r.head_id = " + id,
		"SELECT * FROM limits WHERE sheet_id = (SELECT sheet_id FROM heads WHERE tag = '" + tag + "')",
		"SELECT * FROM findings WHERE head_id = " + id, "SELECT * FROM decisions WHERE head_id = " + id,
		"SELECT * FROM operations WHERE head_id = " + id,
	}
}

func newBare(t testing.TB, path string) *bare {
	db, err := sql.Open(
		"sqlite", "file:"+path+"?_pragma=journal_mode(WAL)&_pragma=synchronous(FULL)&_pragma=busy_timeout(5000)",
	)
	require.NoError(t, err)
	t.Cleanup(func() { require.NoError(t, db.Close()) })
	r := chi.NewRouter()
	for address, questions := range barePages {
		path, _, _ := strings.Cut(address, "?")
		r.Get(path, func(w http.ResponseWriter, _ *http.Request) {
			for _, q := range questions {
				rows, err := allRows(db, q)
				if err == nil {
					err = bareTable.Execute(w, rows)
				}
				if err != nil {
					http.Error(w, err.Error(), http.StatusInternalServerError)
				}
			}
		})
	}
	r.Post("/reading", func(w http.ResponseWriter, r *http.Request) {
		_, err := db.Exec(
			"INSERT INTO readings (client_id, head_id, characteristic, position, place, dir, stage, typed, nm, tool_id, person_id, at) "+
				"VALUES (?, 1, 'guide.bore', '1E1', 'top', 'A', 'as received', ?, 8012000, 1, 1, ?)",
			r.FormValue("id"), r.FormValue("v"), time.Now().UTC(),
		)
		if err != nil {
			http.Error(w, err.Error(), http.StatusInternalServerError)
		}
	})
	return &bare{r, db}
}

// allRows reads every row and column of a question.
func allRows(db *sql.DB, question string) (out [][]any, err error) {
	rows, err := db.Query(question)
	if err != nil {
		return nil, err
	}
	defer func() { _ = rows.Close() }()
	names, err := rows.Columns()
	if err != nil {
		return nil, err
	}
	for rows.Next() {
		row, to := make([]any, len(names)), make([]any, len(names))
		for i := range row {
			to[i] = &row[i]
		}
		if err := rows.Scan(to...); err != nil {
			return nil, err
		}
		out = append(out, row)
	}
	return out, rows.Err()
}

// BenchmarkAgainstBare holds each page and a reading against what the same rows cost with nothing
// of the shop: the metric "x-bare" is how many times as long it takes, medians of both taken
// in turn.
func BenchmarkAgainstBare(b *testing.B) {
	defer debug.SetGCPercent(debug.SetGCPercent(page.GCPercent)) // as the program runs
	file := demofile.Path(b)
	s, plain := serve(b, file), newBare(b, file)
	at, err := url.Parse(s.URL)
	require.NoError(b, err)
	cookies := s.as(b, "Odo").Jar.Cookies(at)
	ask := func(h http.Handler, r *http.Request) time.Duration {
		for _, c := range cookies {
			r.AddCookie(c)
		}
		w := httptest.NewRecorder()
		begun := time.Now()
		h.ServeHTTP(w, r)
		if w.Code != http.StatusOK {
			b.Fatal(r.URL, w.Code, w.Body.String())
		}
		return time.Since(begun)
	}
	middle := func(ds []time.Duration) time.Duration { slices.Sort(ds); return ds[len(ds)/2] }
	report := func(b *testing.B, own, other []time.Duration) {
		b.ReportMetric(float64(middle(own).Microseconds())/1000, "ms")
		b.ReportMetric(float64(middle(own))/float64(middle(other)), "x-bare")
	}
	for _, path := range slices.Sorted(maps.Keys(barePages)) {
		b.Run(strings.Trim("page"+strings.ReplaceAll(path, "/", "_"), "_"), func(b *testing.B) {
			var own, other []time.Duration
			for b.Loop() {
				own = append(own, ask(s.handler, httptest.NewRequest("GET", path, nil)))
				other = append(other, ask(plain, httptest.NewRequest("GET", path, nil)))
			}
			report(b, own, other)
		})
	}
	form := func(v url.Values, path string) *http.Request {
		r := httptest.NewRequest("POST", path, strings.NewReader(v.Encode()))
		r.Header.Set("Content-Type", "application/x-www-form-urlencoded")
		r.Header.Set("HX-Request", "true")
		return r
	}
	reading := func() *http.Request {
		return form(url.Values{
			"one": {"1I1"}, "stage": {"as received"}, "tool": {"4"}, "why": {"benchmark"}, "v.1I1": {"1.5mm"},
			"id.1I1": {"load-" + rand.Text()},
		}, "/heads/T0407/sweep/seat.width")
	}
	bareReading := func() *http.Request { return form(url.Values{"id": {rand.Text()}, "v": {"8.012"}}, "/reading") }
	for _, benches := range []int{1, 5} {
		b.Run(fmt.Sprintf("reading-%d", benches), func(b *testing.B) {
			var own, other []time.Duration
			var mu sync.Mutex
			for b.Loop() {
				for _, x := range []struct {
					h  http.Handler
					r  func() *http.Request
					to *[]time.Duration
				}{{s.handler, reading, &own}, {plain, bareReading, &other}} {
					var all sync.WaitGroup
					for range benches {
						all.Go(func() {
							d := ask(x.h, x.r())
							mu.Lock()
							*x.to = append(*x.to, d)
							mu.Unlock()
						})
					}
					all.Wait()
				}
			}
			report(b, own, other)
			b.ReportMetric(float64(own[len(own)*99/100].Microseconds())/1000, "p99-ms")
		})
	}
}
