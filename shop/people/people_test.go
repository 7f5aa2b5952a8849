package people_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/field"
	"yatai/internal/demofile"
	"yatai/shop"
	"yatai/shop/people"
	"yatai/store"
)

func open(t *testing.T) (*shop.Shop, map[string]shop.Actor) {
	t.Helper()
	st, err := store.Open(demofile.Path(t))
	require.NoError(t, err)
	t.Cleanup(func() { _ = st.Close() })
	s := shop.New(st, time.Now)
	us, err := people.People(t.Context(), s)
	require.NoError(t, err)
	by := map[string]shop.Actor{}
	for _, u := range us {
		by[u.Name] = shop.Actor{ID: u.ID, Name: u.Name, Role: u.Role}
	}
	return s, by
}

// TestAPINIsLockedAfterWrongTries guesses a PIN at a station until it is locked, has it unlocked
// by the lead, and revokes the station.
func TestAPINIsLockedAfterWrongTries(t *testing.T) {
	s, by := open(t)
	ctx := t.Context()
	token, err := people.EnrolStation(ctx, s, by["Runa"], "Guide bench tablet")
	require.NoError(t, err)
	require.NoError(t, people.ChangePerson(ctx, s, by["Runa"], by["Ilka"].ID, true,
		people.PersonForm{WriteID: "give-ilka-a-pin", PIN: "2468"}))
	wrong := func(n int) {
		for range n {
			_, err := people.SignOn(ctx, s, token, "Ilka", "0000")
			require.Error(t, err)
		}
	}
	wrong(people.MostMisses - 1)
	_, err = people.SignOn(ctx, s, token, "Ilka", "2468")
	require.NoError(t, err, "a right one begins anew")
	wrong(people.MostMisses)
	_, err = people.SignOn(ctx, s, token, "Ilka", "2468")
	require.ErrorContains(t, err, "locked")
	require.ErrorIs(t, people.UnlockPIN(ctx, s, by["Ilka"], "unlock-my-own-pin", by["Ilka"].ID), shop.ErrForbidden)
	require.NoError(t, people.UnlockPIN(ctx, s, by["Odo"], "unlock-ilkas-pin", by["Ilka"].ID))
	_, err = people.SignOn(ctx, s, token, "Ilka", "2468")
	require.NoError(t, err)
	events, err := s.Store.Read(ctx).Events(0)
	require.NoError(t, err)
	refused := 0
	for _, e := range events {
		if e.What == "sign-in refused" {
			refused++
			assert.Equal(t, "Guide bench tablet", e.Origin)
		}
	}
	assert.Equal(t, 2*people.MostMisses-1, refused, "every refusal is written down, with where it was")

	all, err := people.Stations(ctx, s)
	require.NoError(t, err)
	for _, st := range all {
		if st.Name == "Guide bench tablet" {
			require.ErrorIs(t, people.RevokeStation(ctx, s, by["Odo"], "revoke-by-the-lead", st.ID), shop.ErrForbidden)
			require.NoError(t, people.RevokeStation(ctx, s, by["Runa"], "revoke-the-tablet", st.ID))
		}
	}
	assert.Empty(t, people.Station(ctx, s, token))
	_, err = people.SignOn(ctx, s, token, "Ilka", "2468")
	require.ErrorContains(t, err, "not enrolled")
	_, err = people.EnrolStation(ctx, s, by["Runa"], "Guide bench tablet")
	require.NoError(t, err, "its name is free again")
}

// TestARoleAndANameCanChange: but a shop is never left without an owner who may sign in.
func TestARoleAndANameCanChange(t *testing.T) {
	s, who := open(t)
	ctx, owner := t.Context(), who["Runa"]
	id := who["Ilka"].ID
	require.NoError(t, people.SetRole(ctx, s, owner, id,
		people.PersonForm{WriteID: "role-write-a", Name: "Another", Role: shop.Owner}))
	now, err := people.Person(ctx, s, id)
	require.NoError(t, err)
	assert.Equal(t, []string{"Another", shop.Owner}, []string{now.Name, now.Role})
	require.NoError(t, people.SetRole(ctx, s, now, owner.ID,
		people.PersonForm{WriteID: "role-write-b", Name: owner.Name, Role: shop.Lead}))
	var errs field.Errors
	require.ErrorAs(t, people.SetRole(ctx, s, now, id,
		people.PersonForm{WriteID: "role-write-c", Name: "Another", Role: shop.Lead}), &errs)
	assert.Contains(t, errs, "role")
	require.ErrorAs(t, people.SetRole(ctx, s, now, id,
		people.PersonForm{WriteID: "role-write-d", Name: owner.Name, Role: shop.Owner}), &errs)
	assert.Contains(t, errs, "name")
	assert.ErrorIs(t, people.SetRole(ctx, s, who["Odo"], id, people.PersonForm{WriteID: "role-write-e"}),
		shop.ErrForbidden)
}
