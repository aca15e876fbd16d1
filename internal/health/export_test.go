package health

import "time"

// Pretend sets what the machine says of its clock and its disk.
func (a *Area) Pretend(real func() time.Time, left, whole uint64, kept bool) {
	a.real = real
	a.free = func(string) (uint64, uint64, error) { return left, whole, nil }
	a.kept = func() bool { return kept }
}
