// Package sample thins out long tests: with `go test -short`, as the project's check runs them,
// some of what there is to try is tried, and without it all.
package sample

import "testing"

// Every returns every n-th of xs in a short run, beginning with the first, else all of them.
func Every[T any](n int, xs []T) []T {
	if !testing.Short() {
		return xs
	}
	var out []T
	for i := 0; i < len(xs); i += n {
		out = append(out, xs[i])
	}
	return out
}

// Times is how often something random is tried: all times, in a short run the n-th part.
func Times(n, all int) int {
	if !testing.Short() {
		return all
	}
	return (all + n - 1) / n
}
