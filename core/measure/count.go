package measure

import "fmt"

// Count writes "1 piece" and "2 pieces": a number of things whose name takes an s.
func Count(n int, of string) string {
	if n == 1 {
		return "1 " + of
	}
	return fmt.Sprintf("%d %ss", n, of)
}
