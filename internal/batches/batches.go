// Package batches holds the work: batches of one recipe, the lots that move
// through it together, the pieces in them, and every run of a step by hand.
package batches

import (
	"time"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/craft"
	"tidykiln/core/design"
	"tidykiln/internal/database"
	"tidykiln/internal/products"
	"tidykiln/internal/stores"
)

// State of a batch.
type State string

const (
	Open      State = "open"
	Finished  State = "finished"
	Abandoned State = "abandoned"
)

// Batch is a number of pieces made with one recipe. Recipe is the copy the
// batch was made with, as it is worked at the bench (craft.Recipe.ForBench):
// later versions do not touch it.
type Batch struct {
	ID          uint64        `json:"id"`
	Number      int           `json:"number"`
	ProductID   uint64        `json:"productId"`
	ProductName string        `json:"productName"`
	RecipeID    uint64        `json:"-"`
	Recipe      craft.Recipe  `json:"-" gorm:"serializer:json"`
	Blank       craft.Blank   `json:"-" gorm:"serializer:json"`
	Picture     craft.Picture `json:"-" gorm:"serializer:json"`
	// ArtworkID is the picture it was made up with; nil where the product had none.
	ArtworkID *uint64 `json:"artworkId,omitempty"`
	// Design is how that picture lies; nil where nobody had said.
	Design *design.Design `json:"-" gorm:"serializer:json"`
	// OwnPictures: each piece has a picture of its customer's.
	OwnPictures bool `json:"-"`
	// PrintsTaken: what its prints took has left the stores when they were printed.
	PrintsTaken bool `json:"-"`
	// Signature is what a pilot piece proves, ProofStep the step it must be through for that.
	Signature string `json:"-"`
	ProofStep int    `json:"-"`
	// PilotLot is the number of the lot that goes through removal before others are laid; nil without one.
	PilotLot  *int       `json:"pilotLot,omitempty"`
	State     State      `json:"state" enum:"open,finished,abandoned"`
	CreatedAt time.Time  `json:"createdAt"`
	ClosedAt  *time.Time `json:"closedAt,omitempty"`
	Version   int        `json:"version"`
}

func (b Batch) id() uint64 { return b.ID }

// Lot is the pieces of a batch that move together. NextStep is the index of
// the step it has in hand or waits for.
type Lot struct {
	ID           uint64
	BatchID      uint64
	Number       int
	NextStep     int
	SplitFromRun *uint64
	// KeepRests keeps the usual rests even where that makes the lot late.
	KeepRests bool
	// HeldStep is held in the plan at HeldAt, by HeldBy (nil: by anybody); nil when nothing is.
	HeldStep *int
	HeldAt   *time.Time
	HeldBy   *uint64
	ClosedAt *time.Time
}

// PieceState says where a piece is.
type PieceState string

const (
	PieceWorking    PieceState = "working"
	PieceFinished   PieceState = "finished"
	PieceSpoiled    PieceState = "spoiled"
	PieceHandedOver PieceState = "handed_over"
	PieceAbandoned  PieceState = "abandoned"
	// PieceGone was finished, and is broken, lost or was not found when the shelf was counted.
	PieceGone PieceState = "gone"
)

// Piece is one piece of a batch, or, without one, a piece that a count of the
// shelf found. WantID is the want it is made for; a finished piece without one
// is on the shelf.
type Piece struct {
	ID         uint64
	ProductID  uint64
	BatchID    *uint64
	LotID      *uint64
	Number     int
	Lettering  string
	State      PieceState
	WantID     *uint64
	FinishedAt *time.Time
	// UnitCost is what a good piece of its batch really cost; nil until the batch is closed.
	UnitCost *decimal.Decimal
	// ArtworkID is the picture of its customer's; nil where it has its batch's.
	ArtworkID *uint64
}

// In tells whether the piece is in a lot.
func (p Piece) In(lotID uint64) bool { return p.LotID != nil && *p.LotID == lotID }

// Run is one taking-up of a step by a person for a lot. While RunningSince is
// set the timer runs; a run that is put down keeps what was worked.
type Run struct {
	ID            uint64
	LotID         uint64
	Step          int
	PersonID      uint64
	Pieces        int
	StartedAt     time.Time
	EndedAt       *time.Time
	RunningSince  *time.Time
	WorkedSeconds int
	Ticked        []int `gorm:"serializer:json"`
	// SittingID is the sitting it was taken up in with like work; nil when alone.
	SittingID *uint64
	// Share is its part of the timer, which in a sitting runs for all its lots; 1 when alone.
	Share float64
	// RiskMinutes is by how much the rest before was cut short of its floor.
	RiskMinutes *int
	Conditions
	RecordedAt time.Time
	Version    int
}

// Sitting is the sitting it is or was done in; 0 when alone.
func (r Run) Sitting() uint64 {
	if r.SittingID == nil {
		return 0
	}
	return *r.SittingID
}

// Result is how a piece came out of a run.
type Result string

const (
	Good    Result = "good"
	Again   Result = "again"
	Rework  Result = "rework" // sanded back: the blank is saved, the print is lost
	Spoiled Result = "spoiled"
)

// Outcome is how one piece came out of one run. WantID is what it served before.
type Outcome struct {
	RunID   uint64
	PieceID uint64
	Result  Result
	Reason  string
	WantID  *uint64
}

// Event is something that happened to a batch.
type Event struct {
	ID      uint64    `json:"-"`
	BatchID uint64    `json:"-"`
	At      time.Time `json:"at"`
	Text    string    `json:"text"`
}

func (Event) TableName() string { return "batch_events" }

// Area answers for batches.
type Area struct {
	db       *database.DB
	now      func() time.Time
	stores   *stores.Area
	products *products.Area
	// fill gives what lies spare of a product to whoever waits for it.
	fill func(tx *gorm.DB, productID uint64, now time.Time) error
}

// New makes the area on its database and clock; fill gives what lies spare of a
// product to whoever waits for it.
func New(db *database.DB, now func() time.Time, stores *stores.Area, products *products.Area, fill func(tx *gorm.DB, productID uint64, now time.Time) error) *Area {
	return &Area{db, now, stores, products, fill}
}

// Worked is the hands-on time of a run until now, in seconds.
func (r Run) Worked(now time.Time) int {
	if r.RunningSince == nil || now.Before(*r.RunningSince) {
		return r.WorkedSeconds
	}
	return r.WorkedSeconds + int(r.Share*now.Sub(*r.RunningSince).Seconds()+secondDust)
}

// secondDust is more than sharing out seconds in floating point is ever off by.
const secondDust = 1e-6
