package customers

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"time"

	"gorm.io/gorm"

	"tidykiln/internal/database"
	"tidykiln/internal/problem"
)

// Merge says into whom a customer is merged: they are one and the same.
type Merge struct {
	IntoID uint64 `json:"intoId"`
	// Version is of the one that goes, IntoVersion of the one that stays, as they were read.
	Version     int `json:"version" minimum:"1"`
	IntoVersion int `json:"intoVersion" minimum:"1"`
}

// Merged is a merge that was done, and can be undone.
type Merged struct {
	ID   uint64    `json:"id"`
	From Named     `json:"from"`
	At   time.Time `json:"at"`
}

// merge is a row of what was done.
type merge struct {
	ID       uint64
	FromID   uint64
	IntoID   uint64
	At       time.Time
	UndoneAt *time.Time
	// Was is how the one that stayed was before, LeftAt in which version they were left.
	Was    string
	LeftAt int
	// Moved names what came to them, by what it is.
	Moved string
	From  Named `gorm:"foreignKey:FromID"`
}

func (merge) TableName() string { return "customer_merges" }

// Merge makes one of two customers: what is theirs goes to the one that stays, who takes
// on what is known of the other besides.
func (a *Area) Merge(ctx context.Context, id uint64, m Merge) (Customer, error) {
	return database.Answer(ctx, a.db, database.Orders, func(tx *gorm.DB) (c Customer, err error) {
		if m.IntoID == id {
			return c, problem.Invalid("intoId", "choose another customer")
		}
		from, err := toChange(tx, id, m.Version)
		if err != nil {
			return c, err
		}
		into, err := toChange(tx, m.IntoID, m.IntoVersion)
		if err != nil {
			return c, problem.OrInvalid(err, "intoId", "this customer is not there")
		}
		was := database.JSON(into.CustomerForm)
		if err := into.takeOn(from.CustomerForm); err != nil {
			return c, err
		}
		moved := map[string][]uint64{}
		for _, h := range a.holdings {
			if moved[h.Called], err = h.Move(tx, from.ID, into.ID, nil); err != nil {
				return c, err
			}
		}
		from.MergedInto = &into.ID
		if err := save(tx, &from); err != nil {
			return c, err
		}
		if err := save(tx, &into); err != nil {
			return c, err
		}
		done := merge{FromID: from.ID, IntoID: into.ID, At: a.now(), Was: was, LeftAt: into.Version, Moved: database.JSON(moved)}
		if err := tx.Omit("From").Create(&done).Error; err != nil {
			return c, fmt.Errorf("noting the merge: %w", err)
		}
		return whole(tx, into.ID)
	})
}

// takeOn adds what is known of another; what is known of both stays as it is here, and
// the other's is put into the note.
func (f *CustomerForm) takeOn(other CustomerForm) error {
	var besides []string
	take := func(mine *string, theirs string) {
		switch {
		case theirs == "" || strings.EqualFold(*mine, theirs):
		case *mine == "":
			*mine = theirs
		default:
			besides = append(besides, theirs)
		}
	}
	take(&f.Email, other.Email)
	take(&f.Phone, other.Phone)
	take(&f.OtherWay, other.OtherWay)
	take(&f.Likes, other.Likes)
	if other.Name != f.Name {
		besides = append(besides, "also as "+other.Name)
	}
	note := []string{f.Note, other.Note, strings.Join(besides, "; ")}
	f.Note = strings.Join(slices.DeleteFunc(note, func(s string) bool { return s == "" }), "\n")
	if len([]rune(f.Note)) > longestNote {
		return problem.Invalid("intoId", "the two notes together are over %d letters; shorten one first", longestNote)
	}
	for _, a := range other.Addresses {
		if !slices.ContainsFunc(f.Addresses, func(b CustomerAddress) bool { return a.Lines == b.Lines }) {
			f.Addresses = append(f.Addresses, a)
		}
	}
	if len(f.Addresses) > mostAddresses {
		return problem.Invalid("intoId", "the two have over %d addresses together; take some out first", mostAddresses)
	}
	return nil
}

// Merges are those into a customer that can be undone, the newest first.
func (a *Area) Merges(ctx context.Context, id uint64) ([]Merged, error) {
	return database.Look(ctx, a.db, func(tx *gorm.DB) ([]Merged, error) {
		if _, err := Load(tx, id); err != nil {
			return nil, err
		}
		var rows []merge
		if err := tx.Joins("From").Where("into_id = ? AND undone_at IS NULL AND was <> '{}'", id).Order("customer_merges.id DESC").Limit(50).Find(&rows).Error; err != nil {
			return nil, fmt.Errorf("reading the merges: %w", err)
		}
		list := []Merged{}
		for _, m := range rows {
			list = append(list, Merged{m.ID, m.From, m.At})
		}
		return list, nil
	})
}

// Unmerge undoes a merge: what came with the one that went goes back to them. What was
// written of the one that stayed since then stays.
func (a *Area) Unmerge(ctx context.Context, id uint64) (Customer, error) {
	return database.Answer(ctx, a.db, database.Orders, func(tx *gorm.DB) (c Customer, err error) {
		var m merge
		if err := tx.Where("undone_at IS NULL AND was <> '{}'").First(&m, id).Error; err != nil {
			return c, problem.OrNotFound(err, "merge to undo")
		}
		from, into, err := both(tx, m)
		if err != nil {
			return c, err
		}
		if into.Version == m.LeftAt {
			var was CustomerForm
			if err := json.Unmarshal([]byte(m.Was), &was); err != nil {
				return c, fmt.Errorf("reading how a customer was: %w", err)
			}
			into.CustomerForm = was
		}
		from.MergedInto = nil
		if err := save(tx, &into); err != nil {
			return c, err
		}
		if err := save(tx, &from); err != nil {
			return c, err
		}
		var moved map[string][]uint64
		if err := json.Unmarshal([]byte(m.Moved), &moved); err != nil {
			return c, fmt.Errorf("reading what was moved: %w", err)
		}
		for _, h := range a.holdings {
			if len(moved[h.Called]) == 0 {
				continue
			}
			if _, err := h.Move(tx, into.ID, from.ID, moved[h.Called]); err != nil {
				return c, err
			}
		}
		if err := tx.Model(&m).Update("undone_at", a.now()).Error; err != nil {
			return c, fmt.Errorf("noting that a merge was undone: %w", err)
		}
		return whole(tx, from.ID)
	})
}

// both are the two of a merge; the one that stayed must still be there.
func both(tx *gorm.DB, m merge) (from, into Customer, err error) {
	if from, err = Load(tx, m.FromID); err != nil {
		return from, into, err
	}
	if into, err = Load(tx, m.IntoID); err != nil {
		return from, into, err
	}
	if into.MergedInto != nil {
		return from, into, problem.Conflict(problem.Closed, "%s was merged into another since; undo that first.", into.Name)
	}
	return from, into, nil
}
