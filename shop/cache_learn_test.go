package shop

import (
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"

	"yatai/store"
)

// upTo makes readings with the ids from one to another.
func upTo(from, to uint) []store.Reading {
	var out []store.Reading
	for id := from; id <= to; id++ {
		out = append(out, store.Reading{ID: id, HeadID: 1})
	}
	return out
}

func TestWhatIsKnownOnlyGrows(t *testing.T) {
	k := newCache()
	assert.Equal(t, upTo(1, 3), k.learn(1, nil, upTo(1, 3)))
	assert.Equal(t, upTo(1, 5), k.learn(1, upTo(1, 3), upTo(4, 5)))
	assert.Equal(t, upTo(1, 6), k.learn(1, upTo(1, 3), upTo(4, 6)), "somebody else learnt 4 and 5 meanwhile")
	assert.Equal(t, upTo(1, 6), k.learn(1, upTo(1, 5), upTo(6, 6)), "and 6")
	k.readings.Remove(1)
	assert.Equal(t, upTo(1, 7), k.learn(1, upTo(1, 6), upTo(7, 7)), "forgotten meanwhile: from what was known here")
	assert.Equal(t, upTo(2, 2), k.learn(2, nil, upTo(2, 2)), "another head")
}

// TestManyLearnAtOnce lets many add to one head while others look at what is known.
func TestManyLearnAtOnce(t *testing.T) {
	k := newCache()
	var all sync.WaitGroup
	for range 8 {
		all.Go(func() {
			for n := uint(1); n <= 200; n++ {
				was, _ := k.readings.Get(1)
				if last := LastOf(was); last < n {
					k.learn(1, was, upTo(last+1, n))
				}
				for i, r := range was {
					if r.ID != uint(i+1) {
						t.Errorf("reading %d stands at %d", r.ID, i)
						return
					}
				}
			}
		})
	}
	all.Wait()
	was, _ := k.readings.Get(1)
	assert.Equal(t, upTo(1, 200), was)
}
