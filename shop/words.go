package shop

import "fmt"

func count(n, of int) string { return fmt.Sprintf("%d of %d", n, of) }

func plural(n int, one string) string {
	if n == 1 {
		return "1 " + one
	}
	return fmt.Sprintf("%d %ss", n, one)
}
