package prints

import (
	"fmt"

	"github.com/shopspring/decimal"

	"tidykiln/core/craft"
	"tidykiln/internal/products"
	"tidykiln/internal/stores"
)

// PrintCosts are what the sheets of a job cost: printed here, and at a copy shop where its
// price is known.
type PrintCosts struct {
	Paper decimal.Decimal `json:"paper"`
	Ink   decimal.Decimal `json:"ink"`
	// Own is both together, Each that by print.
	Own  decimal.Decimal `json:"own"`
	Each decimal.Decimal `json:"each"`
	// Shop is what a copy shop takes; left out while its price is not known.
	Shop *decimal.Decimal `json:"shop,omitempty"`
	Says string           `json:"says" doc:"which is cheaper, with the numbers"`
}

// paperOf is the paper of a recipe's print, as the stores have it.
func paperOf(r craft.Recipe, materials stores.Materials) (paper stores.Material) {
	for _, step := range r.Steps {
		for _, u := range step.Uses {
			if step.Does(craft.PrintOut) && u.Per == craft.PerSheet {
				paper = materials[u.Material]
			}
		}
	}
	return paper
}

// costs are what a layout costs: whole sheets, and for each print the ink that its
// picture takes.
func (m matter) costs(p PrintProposal, kinds []laidKind, r JobRequest) (c PrintCosts) {
	c.Paper = paperOf(kinds[0].batch.Recipe, m.materials).UnitCost.Mul(decimal.NewFromInt(int64(p.Sheets)))
	each := map[string]decimal.Decimal{}
	for _, s := range p.Layout.Sheets {
		for _, it := range s.Items {
			key := fmt.Sprint(it.Kind)
			if it.ArtworkID != nil {
				key += fmt.Sprint(" ", *it.ArtworkID)
			}
			if _, known := each[key]; !known {
				each[key] = m.inkOf(kinds[it.Kind], it)
			}
			c.Ink = c.Ink.Add(each[key])
		}
	}
	c.Paper, c.Ink = c.Paper.Round(4), c.Ink.Round(4)
	c.Own = c.Paper.Add(c.Ink)
	c.Each = c.Own.DivRound(decimal.NewFromInt(int64(max(1, p.Prints))), 4)
	if r.ShopSheet.IsPositive() {
		shop := r.ShopSheet.Mul(decimal.NewFromInt(int64(p.Sheets)))
		c.Shop = &shop
	}
	c.Says = m.compare(c)
	return c
}

// inkOf is what the ink of one print costs, by what its picture covers.
func (m matter) inkOf(k laidKind, it Item) decimal.Decimal {
	cost := decimal.Zero
	for _, d := range m.takenBy(k, it, false) {
		cost = cost.Add(m.materials[d.MaterialKey].UnitCost.Mul(d.Quantity))
	}
	return cost
}

// takenBy is what one print takes of the stores: its ink, and with the first of a sheet
// the sheet itself.
func (m matter) takenBy(k laidKind, it Item, sheet bool) (drawings []stores.Drawing) {
	pic := k.batch.Picture
	if it.ArtworkID != nil && k.batch.OwnPictures {
		pixels := m.pictures[*it.ArtworkID].Pixels
		pic.InkShare, pic.Inks = pixels.Ink.Alone, new(pixels.Ink.Printed(pixels.Grey))
	}
	pic = products.LaidOut(pic, k.design, k.blank)
	extent := craft.ExtentOf(craft.Blank{Shape: k.blank}, pic)
	for _, step := range k.batch.Recipe.Steps {
		if !step.Does(craft.PrintOut) {
			continue
		}
		for _, u := range step.Uses {
			switch {
			case u.Per == craft.PerSheet && sheet:
				drawings = append(drawings, stores.Drawing{MaterialKey: u.Material, Quantity: decimal.NewFromInt(1)})
			case u.Per == craft.PerPrint, u.Per == craft.PerPage:
				amount := u.Amount(step, extent, m.materials[u.Material].Supply()).PerPiece
				drawings = append(drawings, stores.Drawing{MaterialKey: u.Material, Quantity: decimal.NewFromFloat(amount)})
			}
		}
	}
	return drawings
}

// compare says which is cheaper.
func (m matter) compare(c PrintCosts) string {
	own := m.workshop.Money(c.Own)
	switch {
	case c.Shop == nil && c.Own.IsZero():
		return "The stores do not know yet what paper and ink cost."
	case c.Shop == nil:
		return fmt.Sprintf("%s here: paper %s, ink %s.", own, m.workshop.Money(c.Paper), m.workshop.Money(c.Ink))
	case c.Own.IsZero():
		return fmt.Sprintf("%s at the shop; what paper and ink cost here, the stores do not know yet.", m.workshop.Money(*c.Shop))
	case c.Shop.LessThan(c.Own):
		return fmt.Sprintf("The shop is cheaper: %s against %s here.", m.workshop.Money(*c.Shop), own)
	}
	return fmt.Sprintf("Printing here is cheaper: %s against %s at the shop.", own, m.workshop.Money(*c.Shop))
}
