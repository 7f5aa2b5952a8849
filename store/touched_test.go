package store

import (
	"cmp"
	"errors"
	"math/rand/v2"
	"path/filepath"
	"slices"
	"strconv"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestTouchesAreWhatTheRowsSay: what a tool or a person has touched, between any two moments, is what the rows
// of readings, findings and stints say, however they came in.
func TestTouchesAreWhatTheRowsSay(t *testing.T) {
	s, err := Open(filepath.Join(t.TempDir(), "shop.db"))
	require.NoError(t, err)
	defer s.Close()
	r := rand.New(rand.NewPCG(46, 46))
	moment := func() time.Time { // with a fraction, or none
		return time.Date(2031, 5, 1+r.IntN(9), r.IntN(24), 0, 0, r.IntN(2)*r.IntN(1_000_000_000), time.UTC)
	}
	type row struct {
		head uint
		at   time.Time
	}
	tools, people := map[uint][]row{}, map[uint][]row{}
	n := 0
	write := func(tx DB, many int) {
		for range many {
			n++
			head, person, tool, at := uint(1+r.IntN(6)), uint(1+r.IntN(3)), uint(1+r.IntN(3)), moment()
			people[person] = append(people[person], row{head, at})
			var err error
			switch r.IntN(3) {
			case 0:
				tools[tool] = append(tools[tool], row{head, at})
				err = tx.g.Exec(`INSERT INTO readings (client_id, head_id, characteristic, stage, typed, position, nm, tool_id,
					person_id, at) VALUES (?, ?, 'x', 'x', 'x', '', 1, ?, ?, ?)`, strconv.Itoa(n), head, tool, person, at).Error
			case 1:
				err = tx.g.Exec(`INSERT INTO findings (head_id, part, grade, stage, person_id, at)
					VALUES (?, 'x', 'x', 'x', ?, ?)`, head, person, at).Error
			default:
				o := Operation{HeadID: head, Seq: n, Code: "x", State: "running"}
				if err = tx.Add(&o); err == nil {
					err = tx.Add(&Stint{OperationID: o.ID, PersonID: person, StartedAt: at})
				}
			}
			require.NoError(t, err)
		}
	}
	taken := errors.New("taken back") // the rows hang on nothing: they are not kept
	require.ErrorIs(t, s.Write(t.Context(), func(tx DB) error {
		tx.g.Exec("PRAGMA defer_foreign_keys = ON")
		write(tx, 400)
		check := func(rows []row, found func(uint, time.Time, time.Time) ([]Touched, error), what uint) {
			from, to := moment(), moment()
			by := map[uint]Touched{}
			for _, x := range rows {
				if x.at.Before(from) || !x.at.Before(to) {
					continue
				}
				got, known := by[x.head]
				if !known {
					got = Touched{x.head, 0, x.at, x.at}
				}
				got.Count++
				if x.at.Before(got.First) {
					got.First = x.at
				}
				if x.at.After(got.Last) {
					got.Last = x.at
				}
				by[x.head] = got
			}
			got, err := found(what, from, to)
			require.NoError(t, err)
			assert.True(t, slices.IsSortedFunc(got, func(a, b Touched) int {
				return cmp.Or(b.Last.Compare(a.Last), cmp.Compare(a.HeadID, b.HeadID))
			}))
			require.Len(t, got, len(by))
			for _, x := range got {
				want := by[x.HeadID]
				assert.Equal(t, want.Count, x.Count)
				assert.True(t, want.First.Equal(x.First) && want.Last.Equal(x.Last))
			}
		}
		for range 60 {
			if r.IntN(3) == 0 {
				write(tx, 3)
				more, err := tx.Unsummed()
				require.NoError(t, err)
				require.True(t, more)
			}
			require.NoError(t, tx.SumTouches())
			more, err := tx.Unsummed()
			require.NoError(t, err)
			require.False(t, more)
			what := uint(1 + r.IntN(3))
			check(tools[what], tx.TouchedByTool, what)
			check(people[what], tx.TouchedByPerson, what)
		}
		return taken
	}), taken)
}
