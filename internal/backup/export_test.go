package backup

import "slices"

// AtOnce lets the area make what is due as soon as it is kept.
func (a *Area) AtOnce() { a.quiet = 0 }

// NamesFile tells whether files that a column names go into a backup.
func NamesFile(table, column string) bool { return slices.Contains(picturesOf[table], column) }
