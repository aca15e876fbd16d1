package database

import (
	"strings"

	"gorm.io/gorm"
)

// Topics are what a write touches, or what an answer is made from.
type Topics uint16

// The topics. Products are the library, what is made and what it sells for;
// Promises are what customers were told, Artwork the pictures, Prints the
// sheets that are made of them, Access who may come in.
const (
	Orders Topics = 1 << iota
	Batches
	Stores
	Products
	Workshop
	Room
	Promises
	Artwork
	Prints
	Access

	Nothing    Topics = 0
	Everything        = Orders | Batches | Stores | Products | Workshop | Room | Promises | Artwork | Prints | Access
)

// PlanInputs are what a plan is made from. The room's air and what customers
// were told change no plan.
const PlanInputs = Orders | Batches | Stores | Products | Workshop

// topicNames are the columns that say when each was last written, and how pages name them.
var topicNames = []string{"orders", "batches", "stores", "products", "workshop", "room", "promises", "artwork", "prints", "access"}

// Names lists the topics by name.
func (t Topics) Names() []string {
	names := []string{}
	for i, name := range topicNames {
		if t&(1<<i) != 0 {
			names = append(names, name)
		}
	}
	return names
}

// moveOn is the statement that moves the revision on, and what was touched to it.
// Columns are set in turn, so that those of the topics take the new number.
func (t Topics) moveOn() string {
	move := "UPDATE revision SET number = number + 1"
	if t&PlanInputs != 0 {
		move += ", plan = plan + 1"
	}
	for _, name := range t.Names() {
		move += ", " + name + " = number"
	}
	return move
}

// Standing is where the studio stands: the number moves on with every write,
// and each topic is at the number of its last one.
type Standing struct {
	Number uint64
	at     []uint64
}

// Since are the topics that were written after a number.
func (s Standing) Since(number uint64) (t Topics) {
	for i, at := range s.at {
		if at > number {
			t |= 1 << i
		}
	}
	return t
}

// Stands reads where the studio stands.
func Stands(tx *gorm.DB) (Standing, error) {
	s := Standing{at: make([]uint64, len(topicNames))}
	into := []any{&s.Number}
	for i := range s.at {
		into = append(into, &s.at[i])
	}
	err := tx.Raw("SELECT number, " + strings.Join(topicNames, ", ") + " FROM revision").Row().Scan(into...)
	return s, err
}
