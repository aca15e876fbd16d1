package cost

import (
	"fmt"

	"tidykiln/core/fault"

	"github.com/shopspring/decimal"
)

// Bounds that keep an answer meaningful and its working short.
var (
	mostMoney    = decimal.New(1, 12)
	mostQuantity = decimal.New(1, 12)
	hundred      = decimal.NewFromInt(100)
	one          = decimal.NewFromInt(1)
)

// MostPieces is the largest batch that is costed.
const MostPieces = 1_000_000

func (p Problem) validate() error {
	if p.Format != ProblemFormat {
		return fault.At("format", "must be %q", ProblemFormat)
	}
	if p.GoodPieces < 1 || p.GoodPieces > MostPieces {
		return fault.At("goodPieces", "must be from 1 to %d", MostPieces)
	}
	if len(p.Stages) == 0 {
		return fault.At("stages", "must hold at least one stage")
	}
	if err := firstError(
		checkMoney("labourPerHour", p.LabourPerHour),
		checkMoney("overheadPerHour", p.OverheadPerHour),
	); err != nil {
		return err
	}
	known, err := validateMaterials(p.Materials)
	if err != nil {
		return err
	}
	if err := validateStages(p.Stages, known); err != nil {
		return err
	}
	return p.Selling.validate()
}

func validateMaterials(materials []Material) (map[string]bool, error) {
	known := make(map[string]bool, len(materials))
	for i, m := range materials {
		at := fmt.Sprintf("materials[%d]", i)
		if m.ID == "" {
			return nil, fault.At(at+".id", "must not be empty")
		}
		if known[m.ID] {
			return nil, fault.At(at+".id", "%q is there twice", m.ID)
		}
		known[m.ID] = true
		if len(m.Purchases) == 0 {
			return nil, fault.At(at+".purchases", "must hold at least one purchase")
		}
		for j, b := range m.Purchases {
			at := fmt.Sprintf("%s.purchases[%d]", at, j)
			if b.Quantity.unread || !b.Quantity.IsPositive() || b.Quantity.GreaterThan(mostQuantity) {
				return nil, fault.At(at+".quantity", "must be over 0 and at most %s", mostQuantity)
			}
			if err := firstError(checkMoney(at+".price", b.Price), checkMoney(at+".extra", b.Extra)); err != nil {
				return nil, err
			}
		}
	}
	return known, nil
}

func validateStages(stages []Stage, known map[string]bool) error {
	seen := make(map[string]bool, len(stages))
	for i, s := range stages {
		at := fmt.Sprintf("stages[%d]", i)
		if s.ID == "" {
			return fault.At(at+".id", "must not be empty")
		}
		if seen[s.ID] {
			return fault.At(at+".id", "%q is there twice", s.ID)
		}
		seen[s.ID] = true
		if s.Yield != nil && (!s.Yield.IsPositive() || s.Yield.GreaterThan(one)) {
			return fault.At(at+".yield", "must be over 0 and at most 1")
		}
		if err := firstError(
			checkQuantity(at+".setupMinutes", s.SetupMinutes),
			checkQuantity(at+".minutesPerPiece", s.MinutesPerPiece),
			checkUses(at+".perPiece", s.PerPiece, known),
			checkUses(at+".perBatch", s.PerBatch, known),
		); err != nil {
			return err
		}
		if s.Outside != nil {
			if err := firstError(
				checkMoney(at+".outside.perPiece", s.Outside.PerPiece),
				checkMoney(at+".outside.perBatch", s.Outside.PerBatch),
			); err != nil {
				return err
			}
		}
	}
	return nil
}

func checkUses(at string, uses []Use, known map[string]bool) error {
	for i, use := range uses {
		if !known[use.Material] {
			return fault.At(fmt.Sprintf("%s[%d].material", at, i), "%q is not among the materials", use.Material)
		}
		if err := checkQuantity(fmt.Sprintf("%s[%d].quantity", at, i), use.Quantity); err != nil {
			return err
		}
	}
	return nil
}

func (s *Selling) validate() error {
	if s == nil {
		return nil
	}
	if err := firstError(
		checkQuantity("selling.feePercent", s.FeePercent),
		checkMoney("selling.feeFixed", s.FeeFixed),
		checkQuantity("selling.marginPercent", s.MarginPercent),
	); err != nil {
		return err
	}
	if s.FeePercent.Add(s.MarginPercent.Decimal).GreaterThanOrEqual(hundred) {
		return fault.At("selling.marginPercent", "fee and margin together must stay under 100")
	}
	return nil
}

func checkMoney(at string, m Money) error {
	if m.unread {
		return fault.At(at, `money must be a decimal string such as "18.90"`)
	}
	if m.IsNegative() || m.GreaterThan(mostMoney) {
		return fault.At(at, "must be from 0 to %s", mostMoney)
	}
	return nil
}

func checkQuantity(at string, q Quantity) error {
	if q.unread {
		return fault.At(at, "must be a number of ordinary size")
	}
	if q.IsNegative() || q.GreaterThan(mostQuantity) {
		return fault.At(at, "must be from 0 to %s", mostQuantity)
	}
	return nil
}

func firstError(errs ...error) error {
	for _, err := range errs {
		if err != nil {
			return err
		}
	}
	return nil
}
