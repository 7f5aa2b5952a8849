//go:build !(linux || darwin || freebsd)

package store

// roomOf is not told here.
func roomOf(string) (bytes uint64, ok bool) { return 0, false }
