// Package prints brings pictures onto paper: the prints of batches laid out on sheets,
// made into a PDF at true size, and how a product's print will look.
package prints

import (
	"time"

	lru "github.com/hashicorp/golang-lru/v2"
	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/core/lettering"
	"tidykiln/core/sheet"
	"tidykiln/internal/artwork"
	"tidykiln/internal/background"
	"tidykiln/internal/database"
	"tidykiln/internal/planning"
	"tidykiln/internal/products"
	"tidykiln/internal/stores"
)

// JobState is how far the sheets of a job have come.
type JobState string

const (
	Making  JobState = "making"
	Ready   JobState = "ready"
	Stopped JobState = "stopped"
	Failed  JobState = "failed"
)

// PrintJob is prints of batches on sheets of one paper.
type PrintJob struct {
	ID    uint64 `json:"id"`
	Title string `json:"title"`
	JobRequest
	// Layout says where each print lies; it does not change.
	Layout Layout `json:"layout" gorm:"serializer:json"`
	// Sheets are those of the paper that are put into the printer.
	Sheets int        `json:"sheets"`
	Prints int        `json:"prints"`
	Costs  PrintCosts `json:"costs" seen:"makers" required:"false" gorm:"serializer:json"`
	State  JobState   `json:"state" enum:"making,ready,stopped,failed"`
	// Done is how many pages are made.
	Done int `json:"done"`
	// Failure says what was in the way.
	Failure string `json:"failure,omitempty"`
	// File is the PDF; nil until it is made.
	File *string `json:"-"`
	background.Claim
	// Printing tells that it is in the printer's queue, Printed how many pages came out.
	Printing  bool      `json:"printing"`
	Printed   int       `json:"printed"`
	CreatedAt time.Time `json:"createdAt"`
	Version   int       `json:"version"`
}

// JobRequest is what is to be printed, and on what.
type JobRequest struct {
	BatchIDs []uint64 `json:"batchIds" minItems:"1" maxItems:"50" gorm:"serializer:json" nullable:"false"`
	// PieceIDs are those to print; all that are not printed yet where there are none.
	PieceIDs []uint64 `json:"pieceIds,omitempty" maxItems:"500" gorm:"serializer:json" nullable:"false"`
	Paper    Paper    `json:"paper" gorm:"serializer:json"`
	// Trim is how much is left round each print for cutting it wide, in mm.
	Trim float64 `json:"trimMm" minimum:"0" maximum:"20"`
	Cut  Cut     `json:"cut" enum:"none,marks,print,blank"`
	// Spare fills what is left free of the sheets with more of the same.
	Spare bool `json:"spare,omitempty"`
	// ShopSheet is what a copy shop takes for a sheet; 0 while that is not known.
	ShopSheet decimal.Decimal `json:"shopSheet,omitempty" pattern:"^(\\d{1,5}(\\.\\d{1,4})?)?$" patternDescription:"an amount such as 0.25"`
	// AcceptWords prints words that are too long, or lack letters, as they come out.
	AcceptWords bool `json:"acceptWords,omitempty"`
}

// Paper is a sheet of paper or film as it goes into the printer. Lengths are in mm.
type Paper struct {
	Name   string  `json:"name,omitempty" maxLength:"60"`
	Width  float64 `json:"widthMm" minimum:"50" maximum:"1500"`
	Height float64 `json:"heightMm" minimum:"50" maximum:"1500"`
	Margin float64 `json:"marginMm" minimum:"0" maximum:"60"`
	Gap    float64 `json:"gapMm" minimum:"0" maximum:"60"`
	// Up is how many sheets one of these is cut apart into, side by side; 0 is one.
	Up int `json:"up,omitempty" minimum:"0" maximum:"4"`
}

// Cut is what is drawn to cut along.
type Cut string

const (
	CutNone  Cut = "none"
	CutMarks Cut = "marks"
	CutPrint Cut = "print"
	CutBlank Cut = "blank"
)

// Layout is where each print lies. Lengths are in mm from the top left corner of a sheet.
type Layout struct {
	Kinds  []Kind  `json:"kinds" nullable:"false"`
	Sheets []Sheet `json:"sheets" nullable:"false"`
	// LowerBound is a number of sheets that no layout does with less of.
	LowerBound int `json:"lowerBound"`
	// Fill is the share of the sheets that the prints cover.
	Fill float64 `json:"fill"`
}

// Kind is prints that are alike: those of one batch.
type Kind struct {
	BatchID     uint64 `json:"batchId"`
	Batch       int    `json:"batch"`
	ProductName string `json:"productName"`
	// Width and Height are of the item that is laid, Diameter of a round one.
	Width    float64 `json:"widthMm"`
	Height   float64 `json:"heightMm"`
	Diameter float64 `json:"diameterMm,omitempty"`
	// X and Y are where the print's own box lies in it.
	X float64 `json:"xMm"`
	Y float64 `json:"yMm"`
	// Trim is what is left round the print: as asked for, or more where its recipe says so.
	Trim     float64 `json:"trimMm"`
	Mirrored bool    `json:"mirrored"`
	Why      string  `json:"why" doc:"why it is mirrored or not, in words"`
	Sides    int     `json:"sides"`
}

// Sheet is one sheet with its prints.
type Sheet struct {
	Items []Item `json:"items" nullable:"false"`
}

// Item is a print on a sheet.
type Item struct {
	Kind    int    `json:"kind" doc:"place in the list of kinds"`
	PieceID uint64 `json:"pieceId"`
	// Name is what the piece is called, Side which of its sides this is; 0 where it has one.
	Name   string  `json:"name"`
	Side   int     `json:"side,omitempty"`
	Spare  bool    `json:"spare,omitempty"`
	X      float64 `json:"xMm"`
	Y      float64 `json:"yMm"`
	Turned bool    `json:"turned,omitempty"`
	// Artwork and Lettering are what is printed.
	ArtworkID *uint64 `json:"artworkId,omitempty"`
	Lettering string  `json:"lettering,omitempty"`
}

// Area answers for prints.
type Area struct {
	db       *database.DB
	now      func() time.Time
	artworks *artwork.Area
	products *products.Area
	plans    *planning.Area
	stores   *stores.Area
	printer  Printer
	making   *background.Queue[PrintJob]
	// set are the words set last, by their print and what they say.
	set *lru.Cache[string, lettering.Set]
}

// New makes the area on its database and clock.
func New(db *database.DB, now func() time.Time, artworks *artwork.Area, products *products.Area, plans *planning.Area, stores *stores.Area, printer Printer) *Area {
	set, _ := lru.New[string, lettering.Set](mostLettered) // only a size under 1 fails
	return &Area{db, now, artworks, products, plans, stores, printer, background.NewQueue[PrintJob](db, now, string(Making), claimedFor), set}
}

// sheet is the paper as it is laid out: one of the sheets that it is cut apart into.
func (p Paper) sheet() sheet.Sheet {
	p = p.lying()
	return sheet.Of(p.Width/float64(p.up()), p.Height, p.Margin, p.Gap)
}

func (p Paper) up() int { return max(1, p.Up) }

// lying is the paper as its pages lie: one that is cut apart with its longer side across.
func (p Paper) lying() Paper {
	if p.up() > 1 && p.Height > p.Width {
		p.Width, p.Height = p.Height, p.Width
	}
	return p
}

// HeldFiles are the files of jobs that are kept.
func HeldFiles(tx *gorm.DB, hashes []string) (held []string, err error) {
	return held, tx.Model(&PrintJob{}).Where("file IN ?", hashes).Pluck("file", &held).Error
}
