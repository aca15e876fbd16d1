// Package customers holds who orders: how they are reached, where parcels go, what they like.
package customers

import (
	"context"
	"fmt"
	"net/mail"
	"strings"
	"time"

	"gorm.io/gorm"

	"tidykiln/internal/database"
	"tidykiln/internal/problem"
)

// Customer is somebody who orders.
type Customer struct {
	ID uint64 `json:"id"`
	CustomerForm
	// Alike are others who are reached in the same way: perhaps the same.
	Alike []Named `json:"alike" nullable:"false" gorm:"-"`
	// MergedInto is whom they turned out to be, ErasedAt when their data was erased on request.
	MergedInto *uint64    `json:"mergedInto,omitempty"`
	ErasedAt   *time.Time `json:"erasedAt,omitempty"`
	Version    int        `json:"version"`
}

// CustomerForm is what the studio keeps of a customer.
type CustomerForm struct {
	Name      string            `json:"name" minLength:"1" maxLength:"120"`
	Email     string            `json:"email,omitempty" maxLength:"200"`
	Phone     string            `json:"phone,omitempty" maxLength:"60"`
	OtherWay  string            `json:"otherWay,omitempty" maxLength:"200" doc:"another way to reach them"`
	Likes     string            `json:"likes,omitempty" maxLength:"400" doc:"such as a light base, matt"`
	Note      string            `json:"note,omitempty" maxLength:"2000"`
	Addresses []CustomerAddress `json:"addresses" maxItems:"20" nullable:"false" gorm:"foreignKey:CustomerID"`
}

// CustomerAddress is where something is sent.
type CustomerAddress struct {
	ID         uint64 `json:"id,omitempty"`
	CustomerID uint64 `json:"-"`
	Position   int    `json:"-"`
	Called     string `json:"called" maxLength:"60" doc:"such as home"`
	// Lines are as they stand on a label.
	Lines string `json:"lines" minLength:"1" maxLength:"400"`
}

// CustomerChange is an edit of a customer as they were read at a version.
type CustomerChange struct {
	CustomerForm
	Version int `json:"version" minimum:"1"`
}

const (
	// mostLines bounds the lines of an address: more do not stand on a label.
	mostLines     = 8
	mostAddresses = 20
	longestNote   = 2000
)

// check refuses what no customer can be. It tidies what was typed.
func (f *CustomerForm) check() error {
	for _, text := range []*string{&f.Name, &f.Email, &f.Phone, &f.OtherWay, &f.Likes, &f.Note} {
		*text = strings.TrimSpace(*text)
	}
	if f.Name == "" {
		return problem.Invalid("name", "say who it is")
	}
	if f.Email != "" {
		if at, err := mail.ParseAddress(f.Email); err != nil || at.Address != f.Email {
			return problem.Invalid("email", "write it as name@place, or leave it empty")
		}
	}
	if len(f.Addresses) > mostAddresses {
		return problem.Invalid("addresses", "at most %d", mostAddresses)
	}
	for i := range f.Addresses {
		a := &f.Addresses[i]
		a.Called = strings.TrimSpace(a.Called)
		a.Lines = TidyLines(a.Lines)
		at := fmt.Sprintf("addresses[%d].lines", i)
		if a.Lines == "" {
			return problem.Invalid(at, "write the address, or take it out")
		}
		if strings.Count(a.Lines, "\n") >= mostLines {
			return problem.Invalid(at, "at most %d lines stand on a label", mostLines)
		}
		a.Position = i
	}
	return nil
}

// TidyLines drops empty lines and the blanks around each.
func TidyLines(text string) string {
	var kept []string
	for line := range strings.Lines(strings.ReplaceAll(text, "\r", "\n")) {
		if line = strings.TrimSpace(line); line != "" {
			kept = append(kept, line)
		}
	}
	return strings.Join(kept, "\n")
}

// Named is a customer as everything of theirs names them.
type Named struct {
	ID   uint64 `json:"id"`
	Name string `json:"name"`
}

func (Named) TableName() string { return "customers" }

// Had is what a customer had so far.
type Had struct {
	Orders int `json:"orders"`
	Open   int `json:"open"`
	// LastOn is when they last ordered.
	LastOn *time.Time `json:"lastOn,omitempty"`
}

// CustomerRow is a customer in the list.
type CustomerRow struct {
	ID   uint64 `json:"id"`
	Name string `json:"name"`
	// Reach is how they are reached, in one line.
	Reach string `json:"reach"`
	Likes string `json:"likes"`
	Had
}

// CustomerList is a page of customers, by name.
type CustomerList struct {
	Rows  []CustomerRow `json:"rows" nullable:"false"`
	Total int           `json:"total" doc:"of all pages"`
	Pages int           `json:"pages"`
}

// Counted says what customers had, by their id.
type Counted func(tx *gorm.DB, ids []uint64) (map[uint64]Had, error)

// Holding is a kind of thing that is a customer's and goes with them.
type Holding struct {
	// Called names it in what is noted of a merge.
	Called string
	// Move gives what is from's to into and names it; with only, none but those.
	Move func(tx *gorm.DB, from, into uint64, only []uint64) ([]uint64, error)
}

// Area answers for customers.
type Area struct {
	db       *database.DB
	now      func() time.Time
	had      Counted
	holdings []Holding
}

// New makes the area on its database and clock, with what rooms below have of customers.
func New(db *database.DB, now func() time.Time, had Counted, holdings []Holding) *Area {
	return &Area{db, now, had, holdings}
}

// onPage is how many customers stand on a page of the list.
const onPage = 50

// List is a page, from 1, of those in whom every word of a text is found: in the name, a way to
// reach them, an address, what they like or the note.
func (a *Area) List(ctx context.Context, text string, page int) (CustomerList, error) {
	return database.Look(ctx, a.db, func(tx *gorm.DB) (CustomerList, error) {
		found, total, err := find(tx, strings.Fields(text), page)
		list := CustomerList{Rows: []CustomerRow{}, Total: total, Pages: max(1, (total+onPage-1)/onPage)}
		if err != nil {
			return list, err
		}
		had, err := a.had(tx, database.IDs(found, func(c Customer) uint64 { return c.ID }))
		for _, c := range found {
			list.Rows = append(list.Rows, CustomerRow{c.ID, c.Name, c.reach(), c.Likes, had[c.ID]})
		}
		return list, err
	})
}

// reach is how a customer is reached, in one line.
func (c Customer) reach() string {
	var ways []string
	for _, way := range []string{c.Phone, c.Email, c.OtherWay} {
		if way != "" {
			ways = append(ways, way)
		}
	}
	return strings.Join(ways, " · ")
}

// Names are names of customers that contain a text, at most twelve.
func (a *Area) Names(ctx context.Context, text string) ([]string, error) {
	return database.Look(ctx, a.db, func(tx *gorm.DB) ([]string, error) { return namesLike(tx, text) })
}

// Get reads a customer, and who may be the same.
func (a *Area) Get(ctx context.Context, id uint64) (Customer, error) {
	return database.Look(ctx, a.db, func(tx *gorm.DB) (Customer, error) { return whole(tx, id) })
}

// Add keeps a new customer.
func (a *Area) Add(ctx context.Context, in CustomerForm) (c Customer, err error) {
	if err := in.check(); err != nil {
		return c, err
	}
	return database.Answer(ctx, a.db, database.Orders, func(tx *gorm.DB) (Customer, error) {
		c := Customer{CustomerForm: in, Version: 1}
		if err := create(tx, &c); err != nil {
			return c, err
		}
		return whole(tx, c.ID)
	})
}

// Change keeps what is changed of a customer.
func (a *Area) Change(ctx context.Context, id uint64, in CustomerChange) (c Customer, err error) {
	if err := in.check(); err != nil {
		return c, err
	}
	return database.Answer(ctx, a.db, database.Orders, func(tx *gorm.DB) (Customer, error) {
		c, err := toChange(tx, id, in.Version)
		if err != nil {
			return c, err
		}
		c.CustomerForm = in.CustomerForm
		if err := save(tx, &c); err != nil {
			return c, err
		}
		return whole(tx, id)
	})
}

// toChange reads a customer, and refuses them where they are no more or were changed
// since somebody read them in a version.
func toChange(tx *gorm.DB, id uint64, version int) (c Customer, err error) {
	if c, err = Load(tx, id); err != nil {
		return c, err
	}
	switch {
	case c.ErasedAt != nil:
		return c, problem.Conflict(problem.Closed, "The data of this customer was erased.")
	case c.MergedInto != nil:
		return c, problem.Conflict(problem.Closed, "%s was merged into another.", c.Name)
	}
	return c, problem.IfStale(version, c.Version, "%s was changed by someone since you opened it.", c.Name)
}
