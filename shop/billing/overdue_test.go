package billing

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"

	"yatai/store"
)

func TestTheOldestBillThatIsNotPaidCounts(t *testing.T) {
	now := time.Date(2031, 5, 20, 12, 0, 0, 0, time.UTC)
	bill := func(id uint, cents int64, daysAgo int) store.Bill {
		return store.Bill{ID: id, NetCents: cents, Due: now.AddDate(0, 0, -daysAgo)}
	}
	credit := func(of uint, cents int64) store.Bill { return store.Bill{Credits: &of, NetCents: -cents, Due: now} }
	for name, c := range map[string]struct {
		bills []store.Bill
		paid  int64
		days  int
	}{
		"nothing billed":               {nil, 0, 0},
		"a deposit alone":              {nil, 50, 0},
		"not due yet":                  {[]store.Bill{bill(1, 100, -3)}, 0, 0},
		"due today":                    {[]store.Bill{bill(1, 100, 0)}, 0, 0},
		"late":                         {[]store.Bill{bill(1, 100, 9)}, 99, 9},
		"paid to the cent":             {[]store.Bill{bill(1, 100, 9)}, 100, 0},
		"the older is paid":            {[]store.Bill{bill(1, 100, 9), bill(2, 40, -5)}, 100, 0},
		"the older is not":             {[]store.Bill{bill(1, 100, 9), bill(2, 40, -5)}, 40, 9},
		"both late, the older paid":    {[]store.Bill{bill(1, 100, 9), bill(2, 40, 4)}, 120, 4},
		"credited and written anew":    {[]store.Bill{bill(1, 100, 9), credit(1, 100), bill(2, 80, -10)}, 0, 0},
		"written anew, and late again": {[]store.Bill{bill(1, 100, 30), credit(1, 100), bill(2, 80, 2)}, 79, 2},
	} {
		assert.Equal(t, c.days, overdue(c.bills, c.paid, now), name)
	}
}
