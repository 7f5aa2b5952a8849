// Package fuzz gives the parsers and doors of the core, and the reader of tables, nonsense. Its
// targets stand together because a fuzzed program is built anew with all it imports: nothing here
// imports more than the targets do. Spoil makes nonsense for what hangs on the whole shop.
package fuzz

import (
	"math/rand/v2"
	"slices"
)

// pieces are what a file is spoilt with.
var pieces = []string{
	";", ",", "\n", "\r", "\"", "\x00", "\ufeff", "\xff", "-", "1e9", " ", "\t", "PK\x03\x04", "=1+1",
	"99999999999999999999",
}

// Spoil returns some text spoilt at random places: pieces of it left out, doubled, exchanged for
// others.
func Spoil(rnd *rand.Rand, text string) string {
	b := []byte(text)
	for range 1 + rnd.IntN(6) {
		at := rnd.IntN(len(b) + 1)
		end := min(len(b), at+rnd.IntN(12))
		switch rnd.IntN(3) {
		case 0:
			b = slices.Delete(b, at, end)
		case 1:
			b = slices.Insert(b, at, slices.Clone(b[at:end])...)
		default:
			b = slices.Insert(b, at, []byte(pieces[rnd.IntN(len(pieces))])...)
		}
	}
	return string(b)
}
