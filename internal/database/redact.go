package database

import (
	"fmt"
	"strings"

	"gorm.io/gorm"
)

// Redact takes columns out of what the trail keeps of rows and of what is part of them,
// and puts another label to both where one is given. It goes after the write that empties the rows, whose
// own changes it finds too.
func Redact(tx *gorm.DB, table string, ids []uint64, label string, columns ...string) error {
	var paths []string
	for _, c := range columns {
		paths = append(paths, "'$."+c+"'")
	}
	without := func(column string) string { return "JSON_REMOVE(" + column + ", " + strings.Join(paths, ", ") + ")" }
	// Keys are text in the trail; compared with numbers no index would serve.
	keys := make([]string, len(ids))
	for i, id := range ids {
		keys[i] = fmt.Sprint(id)
	}
	if len(keys) == 0 {
		return nil
	}
	for _, which := range []string{"about = ? AND row_key IN ?", "under = ? AND under_key IN ?"} {
		err := tx.Exec("UPDATE trail_changes SET label = COALESCE(NULLIF(?, ''), label), was = "+without("was")+", became = "+without("became")+" WHERE "+which, label, table, keys).Error
		if err != nil {
			return fmt.Errorf("taking things out of the trail: %w", err)
		}
	}
	return nil
}

// ForgetAnswers empties the kept answers in which one of some words stands: a request sent
// once more after that is known as done, and answered with nothing.
func ForgetAnswers(tx *gorm.DB, words []string) error {
	for _, w := range words {
		if err := tx.Exec("UPDATE requests SET answer = NULL WHERE answer LIKE ?", Containing(strings.Trim(JSON(w), `"`))).Error; err != nil {
			return fmt.Errorf("forgetting answers: %w", err)
		}
	}
	return nil
}
