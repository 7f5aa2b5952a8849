package store

import (
	"math/rand/v2"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestStockSumsAreWhatTheMovementsSay writes and takes back movements at random: what is kept of
// them is always their sum.
func TestStockSumsAreWhatTheMovementsSay(t *testing.T) {
	s, err := Open(filepath.Join(t.TempDir(), "shop.db"))
	require.NoError(t, err)
	defer s.Close()
	r := rand.New(rand.NewPCG(13, 13))
	person := User{Name: "Runa", Role: "owner", CreatedAt: time.Now()}
	require.NoError(t, s.Write(t.Context(), func(tx DB) error {
		if err := tx.Add(&person); err != nil {
			return err
		}
		for i := range 4 {
			if err := tx.Add(&StockItem{Kind: "guide", Name: string(rune('a' + i))}); err != nil {
				return err
			}
		}
		return nil
	}))
	var all []Movement
	for range 300 {
		m := Movement{
			ItemID: uint(1 + r.IntN(4)), Count: r.IntN(9) - 4, Kind: []string{"count", "use", "reserve"}[r.IntN(3)],
			PersonID: person.ID, At: time.Now(),
		}
		if m.Kind == "reserve" {
			m.HeadID = uint(1 + r.IntN(3))
		}
		require.NoError(t, s.Write(t.Context(), func(tx DB) error {
			if len(all) > 0 && r.IntN(5) == 0 {
				i := r.IntN(len(all))
				gone := all[i]
				all = append(all[:i], all[i+1:]...)
				return tx.g.Delete(&Movement{}, gone.ID).Error
			}
			err := tx.Add(&m)
			all = append(all, m)
			return err
		}))
		count, reserved, by := map[uint]int{}, map[uint]int{}, map[Reserved]int{}
		for _, m := range all {
			if m.Kind == "reserve" {
				reserved[m.ItemID] += m.Count
				by[Reserved{ItemID: m.ItemID, HeadID: m.HeadID}] += m.Count
			} else {
				count[m.ItemID] += m.Count
			}
		}
		haveCount, haveReserved, err := s.Read(t.Context()).StockCounts()
		require.NoError(t, err)
		for item := range uint(5) {
			require.Equal(t, count[item], haveCount[item])
			require.Equal(t, reserved[item], haveReserved[item])
		}
		rows, err := s.Read(t.Context()).ReservedFor()
		require.NoError(t, err)
		for _, row := range rows {
			n := row.N
			row.N = 0
			require.Equal(t, by[row], n)
			delete(by, row)
		}
		for row, n := range by {
			require.LessOrEqual(t, n, 0, "%v is set aside and not listed", row)
		}
	}
	assert.NotEmpty(t, all)
}
