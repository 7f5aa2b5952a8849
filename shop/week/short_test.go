package week_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/internal/shoptest"
	"yatai/shop/week"
	"yatai/store"
)

// TestWhatWasShortOnMostDaysComesFirst: days on which it was less than an hour do not count.
func TestWhatWasShortOnMostDaysComesFirst(t *testing.T) {
	f := shoptest.Open(t)
	days := map[string]string{
		"2031-05-19": `{"seat machine": 600, "hands: quoting": 60}`,
		"2031-05-20": `{"seat machine": 59, "hands: quoting": 120}`,
		"2031-05-21": `{"hands: quoting": 180, "bench": 900}`,
	}
	for day := range 27 { // as many as are looked at: what was short in the demo today hangs on the hour
		days[fmt.Sprintf("2031-06-%02d", day+1)] = "{}"
	}
	require.NoError(t, f.Shop.Store.Write(t.Context(), func(tx store.DB) error {
		for day, short := range days {
			if err := tx.KeepPlanDay(store.PlanDay{Day: day, Plan: "{}", Short: short, At: f.Shop.Now()}); err != nil {
				return err
			}
		}
		return nil
	}))
	kept, err := f.Shop.Store.Read(t.Context()).PlanDays(30)
	require.NoError(t, err)
	figures, err := week.FiguresOf(t.Context(), f.Shop)
	require.NoError(t, err)
	assert.Equal(t, len(kept), figures.ShortOf)
	assert.Zero(t, figures.Comebacks, "none has left: what came again for its next season is none")
	var made []week.Short
	for _, s := range figures.Short {
		switch s.Name {
		case "seat machine", "hands to do: Quote, and speak with customers", "bench":
			made = append(made, s)
		}
	}
	assert.Equal(t, week.Short{"hands to do: Quote, and speak with customers", 3, 2 * time.Hour}, made[0])
	assert.Contains(t, made, week.Short{"bench", 1, 15 * time.Hour})
	assert.Contains(t, made, week.Short{"seat machine", 1, 10 * time.Hour})
}
