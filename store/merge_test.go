package store

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestWhatIsMergedTakesItsJobsAlong makes one customer's machine another's: its jobs go with it, and
// nothing that hangs on it is left behind.
func TestWhatIsMergedTakesItsJobsAlong(t *testing.T) {
	s := fresh(t)
	ctx := context.Background()
	one, other := Customer{Name: "Mossfield"}, Customer{Name: "Mossfield Growers"}
	var machines [2]Machine
	var job Job
	require.NoError(t, s.Write(ctx, func(d DB) error {
		for i, c := range []*Customer{&one, &other} {
			c.CreatedAt = time.Now()
			if err := d.Add(c); err != nil {
				return err
			}
			machines[i] = Machine{CustomerID: c.ID, Name: "Pump house 3"}
			if err := d.Add(&machines[i]); err != nil {
				return err
			}
		}
		job = Job{Kind: "rebuild", CustomerID: one.ID, MachineID: machines[0].ID, CreatedAt: time.Now()}
		return d.Add(&job)
	}))
	require.NoError(t, s.Write(ctx, func(d DB) error { return d.MergeMachine(machines[0].ID, machines[1].ID, other.ID) }))
	all, err := many[Job](s.Read(ctx).g)
	require.NoError(t, err)
	require.Len(t, all, 1)
	assert.Equal(t, machines[1].ID, all[0].MachineID)
	assert.Equal(t, other.ID, all[0].CustomerID)
	left, err := many[Machine](s.Read(ctx).g)
	require.NoError(t, err)
	assert.Len(t, left, 1, "the other machine is gone")
}

// TestADuplicateIsKnownFromOtherTrouble: a name that is there already is the reader's to mend.
func TestADuplicateIsKnownFromOtherTrouble(t *testing.T) {
	s := fresh(t)
	require.NoError(t, addCustomer(s, "Mossfield"))
	err := addCustomer(s, "Mossfield")
	require.Error(t, err)
	assert.True(t, IsDuplicate(err))
	err = s.Write(context.Background(), func(d DB) error { return d.Add(&Machine{CustomerID: 999, Name: "nobody's"}) })
	require.Error(t, err)
	assert.False(t, IsDuplicate(err), "a machine of nobody is no duplicate")
}
