package workshop

import (
	"errors"
	"fmt"
	"time"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/internal/problem"
)

// personHours and personDaysOff are the rows of a person's times.
type personHours struct {
	PersonID uint64
	calendar.Hours
}

func (personHours) TableName() string { return "person_hours" }

type personDaysOff struct {
	ID       uint64
	PersonID uint64
	calendar.DaysOff
}

func (personDaysOff) TableName() string { return "days_off" }

type personExtraHours struct {
	ID       uint64
	PersonID uint64
	calendar.ExtraHours
}

func (personExtraHours) TableName() string { return "extra_hours" }

// Load reads the workshop with the people who work in it.
func Load(tx *gorm.DB) (w Workshop, err error) {
	if w, err = LoadAlone(tx); err != nil {
		return w, err
	}
	return w, loadPeople(tx, &w)
}

func loadPeople(tx *gorm.DB, w *Workshop) error {
	var hours []personHours
	var off []personDaysOff
	var extra []personExtraHours
	var everybody []Person
	err := errors.Join(
		tx.Order("id").Find(&everybody).Error,
		tx.Order("person_id, weekday, from_minute").Find(&hours).Error,
		tx.Order("person_id, first_day").Find(&off).Error,
		tx.Order("person_id, day, from_minute").Find(&extra).Error,
	)
	if err != nil {
		return fmt.Errorf("reading the people: %w", err)
	}
	w.People = []Person{}
	w.names = make(map[uint64]string, len(everybody))
	for _, p := range everybody {
		w.names[p.ID] = p.Name
		if p.ArchivedAt == nil {
			w.People = append(w.People, p)
		}
	}
	for i := range w.People {
		p := &w.People[i]
		p.Hours, p.DaysOff, p.ExtraHours = []calendar.Hours{}, []calendar.DaysOff{}, []calendar.ExtraHours{}
		for _, h := range hours {
			if h.PersonID == p.ID {
				p.Hours = append(p.Hours, h.Hours)
			}
		}
		for _, d := range off {
			if d.PersonID == p.ID {
				p.DaysOff = append(p.DaysOff, d.DaysOff)
			}
		}
		for _, e := range extra {
			if e.PersonID == p.ID {
				p.ExtraHours = append(p.ExtraHours, e.ExtraHours)
			}
		}
	}
	return nil
}

// LoadAlone reads the workshop without its people, for what only needs its habits and rates.
func LoadAlone(tx *gorm.DB) (w Workshop, err error) {
	if err := tx.First(&w).Error; err != nil {
		return w, fmt.Errorf("reading the workshop: %w", err)
	}
	return w, nil
}

// HourCosts maps everyone who ever worked here to what an hour of them costs.
func HourCosts(tx *gorm.DB, w Workshop) (map[uint64]decimal.Decimal, error) {
	var people []Person
	if err := tx.Find(&people).Error; err != nil {
		return nil, fmt.Errorf("reading what an hour costs: %w", err)
	}
	costs := make(map[uint64]decimal.Decimal, len(people))
	for _, p := range people {
		costs[p.ID] = w.LabourPerHour
		if p.HourCosts != nil {
			costs[p.ID] = *p.HourCosts
		}
	}
	return costs, nil
}

func save(tx *gorm.DB, w Workshop, now time.Time) error {
	var is Workshop
	if err := tx.Select("version").Take(&is).Error; err != nil {
		return fmt.Errorf("reading the workshop: %w", err)
	}
	if err := problem.IfStale(w.Version, is.Version, "The workshop was changed by someone since you opened it. Load it again to see what changed."); err != nil {
		return err
	}
	w.ID = 1
	w.Version++
	if err := tx.Model(&Workshop{}).Where("id = 1").Select("*").Updates(&w).Error; err != nil {
		return fmt.Errorf("saving the workshop: %w", err)
	}
	kept := []uint64{0}
	for i := range w.People {
		if err := savePerson(tx, &w.People[i], i); err != nil {
			return err
		}
		kept = append(kept, w.People[i].ID)
	}
	if err := tx.Model(&Person{}).Where("archived_at IS NULL AND id NOT IN ?", kept).Update("archived_at", now).Error; err != nil {
		return fmt.Errorf("archiving people: %w", err)
	}
	return nil
}

func savePerson(tx *gorm.DB, p *Person, i int) error {
	if p.ID == 0 {
		if err := tx.Create(p).Error; err != nil {
			return fmt.Errorf("adding a person: %w", err)
		}
	} else {
		done := tx.Model(&Person{}).Where("id = ? AND archived_at IS NULL", p.ID).Select("name", "hour_costs", "pace_percent", "leaves").Updates(p)
		if done.Error != nil {
			return fmt.Errorf("saving a person: %w", done.Error)
		}
		if done.RowsAffected == 0 {
			return problem.Invalid(fmt.Sprintf("people[%d].id", i), "this person no longer works here")
		}
	}
	var hours []personHours
	for _, h := range p.Hours {
		hours = append(hours, personHours{p.ID, h})
	}
	var off []personDaysOff
	for _, d := range p.DaysOff {
		off = append(off, personDaysOff{PersonID: p.ID, DaysOff: d})
	}
	var extra []personExtraHours
	for _, e := range p.ExtraHours {
		extra = append(extra, personExtraHours{PersonID: p.ID, ExtraHours: e})
	}
	mine := tx.Where("person_id = ?", p.ID).Session(&gorm.Session{})
	if err := errors.Join(replace(tx, mine, hours), replace(tx, mine, off), replace(tx, mine, extra)); err != nil {
		return fmt.Errorf("saving a person's hours: %w", err)
	}
	return nil
}

// replace puts rows in the place of those that a query is of.
func replace[Row any](tx, old *gorm.DB, rows []Row) error {
	if err := old.Delete(new(Row)).Error; err != nil || len(rows) == 0 {
		return err
	}
	return tx.Create(&rows).Error
}

// AtUsualPace is, in a query, what so many seconds of somebody's work would have
// taken at the usual pace, by what is said of theirs now.
func AtUsualPace(seconds, personID string) string {
	return fmt.Sprintf("ROUND(%s * 100 / (SELECT pace_percent FROM people WHERE people.id = %s))", seconds, personID)
}

// WorkingHours is a query for all hours in which anybody works here.
func WorkingHours(tx *gorm.DB) *gorm.DB {
	return tx.Table("person_hours").Select("1").Joins("JOIN people ON people.id = person_id AND archived_at IS NULL")
}
