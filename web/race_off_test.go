//go:build !race

package web_test

// underRace tells that the race detector runs, under which times say nothing.
const underRace = false
