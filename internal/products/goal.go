package products

import (
	"context"
	"fmt"

	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/internal/database"
	"tidykiln/internal/problem"
	"tidykiln/internal/workshop"
)

// Goal is how many of a product are to lie ready on the shelf by a day.
type Goal struct {
	Pieces int           `json:"pieces" minimum:"0" maximum:"500" doc:"0 takes the goal away"`
	On     calendar.Date `json:"on,omitempty" format:"date"`
}

// farthestGoal is how many days ahead a goal may lie.
const farthestGoal = 366

// SetGoal sets how many of a product are to lie ready by a day, or takes that away.
func (a *Area) SetGoal(ctx context.Context, id uint64, in Goal) error {
	return a.db.Write(ctx, database.Products, func(tx *gorm.DB) error {
		p, err := Load(tx, id)
		if err != nil {
			return err
		}
		w, err := workshop.LoadAlone(tx)
		if err != nil {
			return err
		}
		today := calendar.DateOf(a.now(), w.Location())
		set := map[string]any{"goal_pieces": in.Pieces, "goal_on": in.On}
		switch {
		case in.Pieces == 0:
			set["goal_on"] = nil
		case p.Distinct():
			return problem.Invalid("pieces", "each %s is somebody's own, so none can lie ready", p.Name)
		case in.On < today || in.On > today.Add(farthestGoal):
			return problem.Invalid("on", "say a day from today on, within a year")
		}
		if err := tx.Model(&Product{}).Where("id = ?", id).Updates(set).Error; err != nil {
			return fmt.Errorf("setting a goal for the shelf: %w", err)
		}
		return nil
	})
}
