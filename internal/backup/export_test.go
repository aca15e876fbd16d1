package backup

// AtOnce lets the area make what is due as soon as it is kept.
func (a *Area) AtOnce() { a.quiet = 0 }
