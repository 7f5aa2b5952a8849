//go:build linux || darwin || freebsd

package store

import (
	"path/filepath"
	"syscall"
)

// roomOf is how much an ordinary user may still write beside a file.
func roomOf(path string) (bytes uint64, ok bool) {
	var fs syscall.Statfs_t
	if err := syscall.Statfs(filepath.Dir(path), &fs); err != nil {
		return 0, false
	}
	return uint64(max(0, int64(fs.Bavail))) * uint64(fs.Bsize), true
}
