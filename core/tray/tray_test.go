package tray_test

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"

	"yatai/core/length"
	"yatai/core/tray"
	"yatai/core/words"
)

const mm, um = length.Millimetre, length.Micrometre

func TestMixedBoxIsSorted(t *testing.T) {
	places := []tray.Place{
		{ID: "1I1", Head: 40 * mm, Ring: 1500 * um, State: "dry"}, {ID: "1E1", Head: 35 * mm, Ring: 1700 * um, State: "oily"},
		{ID: "2I1", Head: 40 * mm, Ring: 1900 * um, State: "dry"}, {ID: "2E1", Head: 35 * mm, Ring: 1650 * um, State: "dry"},
	}
	got := tray.Infer([]tray.Loose{
		{Name: "a", Head: 40 * mm, Ring: 1880 * um, State: "dry"}, {Name: "b", Head: 35 * mm, State: "oily"},
		{Name: "c", Head: 35*mm + 100*um, State: "dry"}, {Name: "d", Head: 40 * mm, Ring: 1500 * um},
	}, places)
	var at []string
	for _, g := range got {
		at = append(at, g.Place)
		assert.True(t, g.Sure, g.Name)
		assert.NotEmpty(t, g.Evidence)
	}
	assert.Equal(t, []string{"2I1", "1E1", "2E1", "1I1"}, at)
}

func TestDoubtfulPlacesAreSaid(t *testing.T) {
	places := []tray.Place{{ID: "1I1", Head: 40 * mm, State: "dry"}, {ID: "2I1", Head: 40 * mm, State: "dry"}}
	got := tray.Infer([]tray.Loose{
		{Name: "a", Head: 40 * mm, State: "dry"}, {Name: "b", Head: 40 * mm, State: "dry"},
		{Name: "c", Head: 30 * mm},
	}, places)
	assert.False(t, got[0].Sure)
	assert.Equal(t, []string{map[string]string{"1I1": "2I1", "2I1": "1I1"}[got[0].Place]}, got[0].Rivals)
	assert.Empty(t, got[2].Place, "no place takes a head of that size")
}

// TestShuffledValvesComeHome shuffles valves that all differ: each finds its place again.
func TestShuffledValvesComeHome(t *testing.T) {
	rnd := rand.New(rand.NewPCG(1, 2))
	for range 200 {
		var places []tray.Place
		var loose []tray.Loose
		for i := range 2 + rnd.IntN(10) {
			ring := length.Length(1000+150*i) * um
			id := string(rune('a' + i))
			places = append(places, tray.Place{ID: id, Head: 40 * mm, Ring: ring})
			loose = append(loose, tray.Loose{Name: id, Head: 40 * mm, Ring: ring + length.Length(rnd.IntN(40)-20)*um})
		}
		rnd.Shuffle(len(loose), func(i, j int) { loose[i], loose[j] = loose[j], loose[i] })
		for _, g := range tray.Infer(loose, places) {
			assert.Equal(t, g.Name, g.Place)
		}
	}
}

// TestAGuessSaysWhatSpeaksForItAndAgainst in one sentence each, for any language.
func TestAGuessSaysWhatSpeaksForItAndAgainst(t *testing.T) {
	places := []tray.Place{{
		ID: "1I1", Head: 40 * mm, Ring: 1_400_000, State: "dry",
	}, {ID: "1E1", Head: 36 * mm, Ring: 1_600_000, State: "oily"}}
	got := tray.Infer([]tray.Loose{{Name: "A", Head: 36 * mm, Ring: 1_590_000, State: "dry"}, {Name: "B", Head: 52 * mm}},
		places)
	assert.Equal(t, "1E1", got[0].Place)
	assert.Equal(t, "head 36 mm fits 36 mm; ring 1.59 mm on the valve, 1.6 mm on the seat", got[0].For().String())
	assert.Equal(t, "dry valve, oily port", got[0].Not().String())
	assert.Equal(t, "Ventil: trocken, Kanal: ölig", got[0].Not().In(words.German))
	assert.Empty(t, got[1].Place, "no place takes it")
	assert.Empty(t, got[1].For().String())
	assert.Equal(t, "no empty place takes a head of 52 mm", got[1].Not().String())
}

// TestAPlaceNobodyLookedAtFitsNoBetter than one that speaks for the valve, and no worse than one that speaks
// against it.
func TestAPlaceNobodyLookedAtFitsNoBetter(t *testing.T) {
	for _, c := range []struct {
		said  string
		loose tray.Loose
		read  tray.Place
		want  string
	}{
		{"a ring that fits", tray.Loose{Ring: 1500 * um}, tray.Place{Ring: 1480 * um}, "read"},
		{"a ring that does not", tray.Loose{Ring: 1500 * um}, tray.Place{Ring: 1300 * um}, "unread"},
		{"a deposit that fits", tray.Loose{State: "oily"}, tray.Place{State: "oily"}, "read"},
		{"a deposit that does not", tray.Loose{State: "oily"}, tray.Place{State: "dry"}, "unread"},
	} {
		c.loose.Name, c.loose.Head = "a", 40*mm
		c.read.ID, c.read.Head = "read", 40*mm
		for _, places := range [][]tray.Place{{c.read, {ID: "unread", Head: 40 * mm}}, {{ID: "unread", Head: 40 * mm}, c.read}} {
			assert.Equal(t, c.want, tray.Infer([]tray.Loose{c.loose}, places)[0].Place, c.said)
		}
	}
}
