// Package workshop holds what is true of the studio as a whole: its people and
// their hours, its racks and machines, its rates and its time zone.
package workshop

import (
	"context"
	"fmt"
	"strings"
	"time"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/core/craft"
	"tidykiln/core/habit"
	"tidykiln/core/measure"
	"tidykiln/internal/database"
	"tidykiln/internal/problem"
)

// Workshop is the studio.
type Workshop struct {
	ID       int            `json:"-"`
	Name     string         `json:"name" minLength:"1" maxLength:"120"`
	TimeZone string         `json:"timeZone" maxLength:"64" doc:"IANA name"`
	Currency string         `json:"currency" pattern:"^[A-Z]{3}$" patternDescription:"three capital letters, such as EUR"`
	Units    measure.System `json:"units" enum:"metric,us"`
	Habit    habit.Habit    `json:"habit" gorm:"embedded"`
	// HandOverMinute is the minute of the day by which a due order must be ready.
	HandOverMinute int `json:"handOverMinute" minimum:"0" maximum:"1439"`
	// SittingMinutes is the longest stretch of one step that people work in one go.
	SittingMinutes  int             `json:"sittingMinutes" minimum:"15" maximum:"720"`
	LabourPerHour   decimal.Decimal `json:"labourPerHour" seen:"makers" pattern:"^\\d{1,6}(\\.\\d{1,4})?$" patternDescription:"an amount such as 16.00"`
	OverheadPerHour decimal.Decimal `json:"overheadPerHour" seen:"makers" pattern:"^\\d{1,6}(\\.\\d{1,4})?$" patternDescription:"an amount such as 2.40"`
	// TaxIsCost says that the tax on what is bought is not given back to the studio.
	TaxIsCost bool `json:"taxIsCost"`
	// Confidence is how sure it is to be, from 0.5 to 0.99, that enough pieces come out good of those started.
	Confidence float64 `json:"confidence" minimum:"0.5" maximum:"0.99"`
	// ColdNights says that rests in cold or damp air are planned longer.
	ColdNights  bool         `json:"coldNights"`
	Version     int          `json:"version" minimum:"1"`
	People      []Person     `json:"people" gorm:"-" minItems:"1" maxItems:"20" nullable:"false"`
	Racks       []Rack       `json:"racks" gorm:"serializer:json" minItems:"1" maxItems:"30" nullable:"false"`
	Machines    []Machine    `json:"machines" gorm:"serializer:json" maxItems:"4" nullable:"false"`
	Preferences []Preference `json:"preferences" gorm:"serializer:json" maxItems:"20" nullable:"false"`
	// names are those of everyone who ever worked here.
	names map[uint64]string
}

// Names maps everyone who ever worked here, archived people included.
func (w Workshop) Names() map[uint64]string { return w.names }

func (Workshop) TableName() string { return "workshop" }

// Person works at the bench. ID 0 is someone not saved yet.
type Person struct {
	ID         uint64     `json:"id"`
	Name       string     `json:"name" minLength:"1" maxLength:"80"`
	ArchivedAt *time.Time `json:"-"`
	// HourCosts is what an hour of this person costs; nil when it is the studio's LabourPerHour.
	HourCosts *decimal.Decimal   `json:"hourCosts,omitempty" seen:"makers" pattern:"^\\d{1,6}(\\.\\d{1,4})?$" patternDescription:"an amount such as 16.00"`
	Hours     []calendar.Hours   `json:"hours" gorm:"-" maxItems:"28" nullable:"false"`
	DaysOff   []calendar.DaysOff `json:"daysOff" gorm:"-" maxItems:"100" nullable:"false"`
	// PacePercent is how long work takes them, of what a recipe gives; 0 is 100.
	PacePercent int `json:"pacePercent" minimum:"25" maximum:"400"`
	// Leaves are the stages of the work that they leave to others.
	Leaves []craft.Stage `json:"leaves" gorm:"serializer:json" maxItems:"6" nullable:"false" enum:"prepare,print,lay,remove,seal,finish,spray"`
	// ExtraHours are worked on single days beside the week's.
	ExtraHours []calendar.ExtraHours `json:"extraHours" gorm:"-" maxItems:"100" nullable:"false"`
}

// Money writes an amount in the studio's currency and habit.
func (w Workshop) Money(amount decimal.Decimal) string { return w.Habit.Money(amount, w.Currency) }

// Area answers for the workshop.
type Area struct {
	db         *database.DB
	now        func() time.Time
	hygrometer Hygrometer
}

// New makes the area on its database, clock and room sensor.
func New(db *database.DB, now func() time.Time, hygrometer Hygrometer) *Area {
	return &Area{db, now, hygrometer}
}

// Get reads the workshop.
func (a *Area) Get(ctx context.Context) (Workshop, error) { return database.Look(ctx, a.db, Load) }

// Save replaces the workshop as a whole. People who are left out are archived.
func (a *Area) Save(ctx context.Context, w Workshop) (saved Workshop, err error) {
	if err := w.check(); err != nil {
		return saved, err
	}
	return database.Answer(ctx, a.db, database.Workshop, func(tx *gorm.DB) (saved Workshop, err error) {
		if err := save(tx, w, a.now()); err != nil {
			return saved, err
		}
		saved, err = Load(tx)
		return saved, err
	})
}

// Adjust changes the workshop as it is now, within a transaction.
func Adjust(tx *gorm.DB, now time.Time, change func(*Workshop) error) error {
	w, err := Load(tx)
	if err != nil {
		return err
	}
	if err := change(&w); err != nil {
		return err
	}
	if err := w.check(); err != nil {
		return err
	}
	return save(tx, w, now)
}

func (w *Workshop) check() error {
	w.Name = strings.TrimSpace(w.Name)
	if w.Name == "" {
		return problem.Invalid("name", "give the studio a name")
	}
	if _, err := time.LoadLocation(w.TimeZone); err != nil || w.TimeZone == "" || w.TimeZone == "Local" {
		return problem.Invalid("timeZone", "%q is not a time zone known here", w.TimeZone)
	}
	for i := range w.People {
		if err := w.People[i].check(fmt.Sprintf("people[%d]", i)); err != nil {
			return err
		}
	}
	return w.checkPlaces()
}

func (p *Person) check(at string) error {
	p.Name = strings.TrimSpace(p.Name)
	if p.Name == "" {
		return problem.Invalid(at+".name", "give this person a name")
	}
	if p.PacePercent == 0 {
		p.PacePercent = 100
	}
	if p.Leaves == nil {
		p.Leaves = []craft.Stage{}
	}
	if err := p.Times().Validate(); err != nil {
		return problem.Faulty(at, err)
	}
	return nil
}
