package papers

import (
	"bytes"
	"context"
	"fmt"
	"strconv"
	"strings"

	"gorm.io/gorm"

	"tidykiln/core/fault"
	"tidykiln/core/label"
	"tidykiln/internal/database"
	"tidykiln/internal/document"
	"tidykiln/internal/orders"
	"tidykiln/internal/problem"
	"tidykiln/internal/wire"
)

// LabelSheet is a sheet of labels of the studio's own.
type LabelSheet struct {
	ID uint64 `json:"id"`
	LabelSheetForm
	Version int `json:"version"`
}

// LabelSheetForm is what its packet says; lengths in mm.
type LabelSheetForm struct {
	Name        string  `json:"name" minLength:"1" maxLength:"80"`
	PageWidth   float64 `json:"pageWidth"`
	PageHeight  float64 `json:"pageHeight"`
	Columns     int     `json:"columns"`
	Rows        int     `json:"rows"`
	LabelWidth  float64 `json:"labelWidth"`
	LabelHeight float64 `json:"labelHeight"`
	MarginLeft  float64 `json:"marginLeft"`
	MarginTop   float64 `json:"marginTop"`
	GapX        float64 `json:"gapX"`
	GapY        float64 `json:"gapY"`
}

// LabelSheetChange is an edit of a sheet as it was read at a version.
type LabelSheetChange struct {
	LabelSheetForm
	Version int `json:"version" minimum:"1"`
}

func (f LabelSheetForm) sheet() label.Sheet {
	return label.Sheet{PageWidth: f.PageWidth, PageHeight: f.PageHeight, Columns: f.Columns, Rows: f.Rows, LabelWidth: f.LabelWidth, LabelHeight: f.LabelHeight,
		MarginLeft: f.MarginLeft, MarginTop: f.MarginTop, GapX: f.GapX, GapY: f.GapY}
}

func (f *LabelSheetForm) check() error {
	if f.Name = strings.TrimSpace(f.Name); f.Name == "" {
		return problem.Invalid("name", "give the sheet a name")
	}
	if err := f.sheet().Validate(); err != nil {
		return problem.Invalid(fault.Of(err).Path, "%s", fault.Of(err).Message)
	}
	return nil
}

// LabelSheets are the studio's.
func (a *Area) LabelSheets(ctx context.Context) ([]LabelSheet, error) {
	return database.Look(ctx, a.db, func(tx *gorm.DB) ([]LabelSheet, error) {
		list := []LabelSheet{}
		if err := tx.Order("id").Find(&list).Error; err != nil {
			return nil, fmt.Errorf("reading the label sheets: %w", err)
		}
		return list, nil
	})
}

// mostLabelSheets bounds how many the studio has.
const mostLabelSheets = 50

// AddLabelSheet adds one.
func (a *Area) AddLabelSheet(ctx context.Context, in LabelSheetForm) (LabelSheet, error) {
	return database.Answer(ctx, a.db, database.Orders, func(tx *gorm.DB) (s LabelSheet, err error) {
		if err := in.check(); err != nil {
			return s, err
		}
		var n int64
		if err := tx.Model(&LabelSheet{}).Count(&n).Error; err != nil {
			return s, fmt.Errorf("counting label sheets: %w", err)
		}
		if n >= mostLabelSheets {
			return s, problem.Invalid("name", "at most %d label sheets", mostLabelSheets)
		}
		s = LabelSheet{LabelSheetForm: in, Version: 1}
		if err := tx.Create(&s).Error; err != nil {
			return s, fmt.Errorf("adding a label sheet: %w", err)
		}
		return s, nil
	})
}

// ChangeLabelSheet changes one.
func (a *Area) ChangeLabelSheet(ctx context.Context, id uint64, in LabelSheetChange) error {
	return a.db.Write(ctx, database.Orders, func(tx *gorm.DB) error {
		s, err := labelSheet(tx, id)
		if err != nil {
			return err
		}
		if err := problem.IfStale(in.Version, s.Version, "%s was changed by someone since you opened it.", s.Name); err != nil {
			return err
		}
		if err := in.check(); err != nil {
			return err
		}
		s.LabelSheetForm, s.Version = in.LabelSheetForm, s.Version+1
		if err := tx.Save(&s).Error; err != nil {
			return fmt.Errorf("saving a label sheet: %w", err)
		}
		return nil
	})
}

// RemoveLabelSheet removes one.
func (a *Area) RemoveLabelSheet(ctx context.Context, id uint64, version int) error {
	return a.db.Write(ctx, database.Orders, func(tx *gorm.DB) error {
		s, err := labelSheet(tx, id)
		if err != nil {
			return err
		}
		if err := problem.IfStale(version, s.Version, "%s was changed by someone since you opened it.", s.Name); err != nil {
			return err
		}
		if err := tx.Delete(&s).Error; err != nil {
			return fmt.Errorf("removing a label sheet: %w", err)
		}
		return nil
	})
}

func labelSheet(tx *gorm.DB, id uint64) (s LabelSheet, err error) {
	err = tx.First(&s, id).Error
	return s, problem.OrNotFound(err, "label sheet")
}

// LabelAsk says what goes on the labels of a sheet: prices of products, an order's
// address, or words; without any of them, where they are.
type LabelAsk struct {
	wire.ID
	Gone     int    `query:"gone" minimum:"0" maximum:"1000" doc:"labels that are gone of the first sheet"`
	OutletID uint64 `query:"outletId" doc:"whose prices; the main way of selling's when left out"`
	Products string `query:"products" maxLength:"2000" doc:"which products and how many labels of each, such as 3x12,4x6"`
	OrderID  uint64 `query:"orderId" doc:"whose customer's address"`
	Text     string `query:"text" maxLength:"400" doc:"words, line by line"`
	Count    int    `query:"count" minimum:"1" maximum:"1000" default:"1" doc:"how many labels of an address or of words"`
}

// mostLabels bounds what is written at once.
const mostLabels = 2000

// Labels writes labels onto sheets.
func (a *Area) Labels(ctx context.Context, in *LabelAsk) (*wire.File, error) {
	var s LabelSheet
	labels, err := database.Look(ctx, a.db, func(tx *gorm.DB) (labels []document.Label, err error) {
		if s, err = labelSheet(tx, in.ID.ID); err != nil {
			return nil, err
		}
		switch {
		case in.Products != "":
			return a.priceLabels(tx, in)
		case in.OrderID != 0:
			about, err := a.subject(tx, in.OrderID, orders.Load)
			return repeated(document.Label{Lines: strings.Split(about.to(), "\n")}, in.Count), problem.OrInvalid(err, "orderId", "there is no such order")
		case strings.TrimSpace(in.Text) != "":
			return repeated(document.Label{Lines: strings.Split(strings.TrimSpace(in.Text), "\n")}, in.Count), nil
		}
		return tried(s), nil
	})
	if err != nil {
		return nil, err
	}
	if in.Gone >= s.sheet().PerPage() {
		return nil, problem.Invalid("gone", "a sheet has %d labels", s.sheet().PerPage())
	}
	var out bytes.Buffer
	if err := document.WriteLabels(&out, s.sheet(), in.Gone, labels); err != nil {
		return nil, err
	}
	return wire.NewFile("application/pdf", "labels.pdf", out.Bytes()), nil
}

// tried are labels that tell where they are, to see whether a sheet is as its packet says.
func tried(s LabelSheet) (labels []document.Label) {
	for i := range s.sheet().PerPage() {
		labels = append(labels, document.Label{Lines: []string{fmt.Sprint("label ", i+1), s.Name}})
	}
	return labels
}

func repeated(l document.Label, n int) (labels []document.Label) {
	for range n {
		labels = append(labels, l)
	}
	return labels
}

// priceLabels are labels with a product's name, its price and its code.
func (a *Area) priceLabels(tx *gorm.DB, in *LabelAsk) (labels []document.Label, err error) {
	asked, err := a.selling.Tags(tx, in.OutletID)
	if err != nil {
		return nil, err
	}
	for part := range strings.SplitSeq(in.Products, ",") {
		id, n, err := countOf(part)
		if err != nil {
			return nil, err
		}
		tag, made := asked[id]
		if !made {
			return nil, problem.Invalid("products", "product %d is not made here", id)
		}
		labels = append(labels, repeated(document.Label{Lines: []string{tag.Name}, Price: tag.Price, Code: tag.Code}, n)...)
		if len(labels) > mostLabels {
			return nil, problem.Invalid("products", "at most %d labels at once", mostLabels)
		}
	}
	return labels, nil
}

// countOf reads how many labels of which product, such as 3x12.
func countOf(part string) (id uint64, n int, err error) {
	which, count, _ := strings.Cut(strings.TrimSpace(part), "x")
	id, idErr := strconv.ParseUint(which, 10, 63)
	n, countErr := strconv.Atoi(count)
	if idErr != nil || countErr != nil || n < 1 || n > mostLabels {
		return 0, 0, problem.Invalid("products", "write them such as 3x12,4x6: from 1 to %d of each", mostLabels)
	}
	return id, n, nil
}
