package selling_test

import (
	"context"
	"encoding/json"
	"testing"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/core/cost"
	"tidykiln/core/craft"
	"tidykiln/internal/house/housetest"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
	"tidykiln/internal/selling"
	"tidykiln/internal/stores"
	"tidykiln/internal/workshop"
)

var ctx = context.Background()

// studio is a workshop with somebody in it who can work all day.
func studio(t *testing.T) *housetest.Studio {
	s := housetest.New(t)
	s.Hire(8, 18, 1)
	s.Change(func(w *workshop.Workshop) { w.SittingMinutes = 300 })
	return s
}

func buy(s *housetest.Studio, name, unit, pack, price, shipping string) string {
	kind := stores.Kind("medium")
	if unit == "piece" {
		kind = "blank"
	}
	m, err := s.Stores.Add(ctx, stores.NewMaterial{MaterialForm: stores.MaterialForm{Name: name, Kind: kind, Unit: "ml"}, UnitCost: "1"})
	if unit == "piece" {
		m, err = s.Stores.Change(ctx, m.ID, stores.MaterialChange{MaterialForm: stores.MaterialForm{Name: name, Kind: kind, Unit: "piece"}, Version: 1})
	}
	require.NoError(s, err)
	_, err = s.Stores.Buy(ctx, stores.NewReceipt{Supplier: "x", ReceivedOn: "2027-02-01", Shipping: shipping, Lines: []stores.NewPurchase{{MaterialID: m.ID, Packs: 1, Pack: pack, Price: price}}})
	require.NoError(s, err)
	return m.MaterialKey
}

// example makes the product of the cost problem's worked example, bought, worked and sold as it says.
func example(t *testing.T) (*housetest.Studio, products.Detail) {
	s := studio(t)
	medium := buy(s, "Example medium", "ml", "480 ml", "18.90", "2.10")
	_, err := s.Stores.Buy(ctx, stores.NewReceipt{Supplier: "x", ReceivedOn: "2027-02-02", Lines: []stores.NewPurchase{{MaterialID: s.Material(medium).ID, Packs: 1, Pack: "240 ml", Price: "10.80"}}})
	require.NoError(t, err)
	blank, brush := buy(s, "Example blank", "piece", "50", "41.50", "4.50"), buy(s, "Example brush", "piece", "10", "6.00", "")
	outlets, err := s.Selling.Outlets(ctx)
	require.NoError(t, err)
	main := outlets[0]
	main.FeePercent, main.FeeFixed, main.Target, main.TargetValue = dec("6.5"), dec("0.30"), cost.ForMargin, dec("35")
	_, err = s.Selling.ChangeOutlet(ctx, main.ID, selling.OutletChange{OutletForm: main.OutletForm, Version: main.Version})
	require.NoError(t, err)
	d, err := s.Products.Make(ctx, housetest.Crew())
	require.NoError(t, err)
	step := func(id string, do craft.Do, setup, each, yield float64, uses ...craft.Use) craft.Step {
		return craft.Step{ID: id, Do: do, Name: id, SetupMinutes: setup, MinutesPerPiece: each, Yield: yield, Uses: uses, Checklist: []string{}, Cautions: []string{}}
	}
	use := func(key string, quantity float64, per craft.UsePer) craft.Use {
		return craft.Use{Material: key, Quantity: quantity, Per: per}
	}
	lay := step("lay", craft.Lay, 15, 4, 0.96, use(blank, 1, craft.PerPiece), use(medium, 7.2, craft.PerPiece), use(brush, 2, craft.PerBatch))
	lay.Outside = &craft.Outside{PerBatch: dec("3.60")}
	form := products.RecipeForm{Look: craft.Crisp, Steps: []craft.Step{lay, step("remove", craft.RemovePaper, 0, 6, 0.9), step("seal", craft.Seal, 10, 1.5, 1, use(medium, 1.1, craft.PerPiece))}}
	d, err = s.Products.ChangeRecipe(ctx, d.ID, products.RecipeChange{RecipeForm: form, Version: d.Version})
	require.NoError(t, err)
	return s, d
}

var dec = decimal.RequireFromString

func TestTheWorkedExampleComesOutOfTheStudioToTheLastDigit(t *testing.T) {
	s, d := example(t)
	c, err := s.Selling.Costs(ctx, d.ID, 24)
	require.NoError(t, err)
	assert.Equal(t, cost.PerPiece{Materials: "1.5315", Labour: "3.6901", Overhead: "0.5535", Outside: "0.1500", Total: "5.9251"}, c.PerPiece)
	assert.Equal(t, []string{"0.5924", "142.20"}, []string{c.SpoilShare, c.BatchTotal})
	assert.Equal(t, []string{"27.7778", "26.6667", "24.0000"}, []string{c.Started[0].Pieces, c.Started[1].Pieces, c.Started[2].Pieces})
	assert.Equal(t, "10.65", c.Sales[0].Proposal)
	_, err = s.Selling.SetPrice(ctx, d.ID, selling.PriceChange{OutletID: c.Sales[0].OutletID, Price: "10.65", Version: d.Version})
	require.NoError(t, err)
	c, err = s.Selling.Costs(ctx, d.ID, 24)
	require.NoError(t, err)
	assert.Equal(t, "32.18", c.Sales[0].EarnedPerHour)
	sum := decimal.Zero
	for _, l := range c.Lines {
		sum = sum.Add(dec(l.Amount))
	}
	assert.True(t, sum.Sub(dec("5.9251")).Abs().LessThan(dec("0.0010")), "the lines add up: %s", sum)
}

// What is taken out as a file, the command answers the same.
func TestTheCostProblemTakenOutIsTheSameQuestion(t *testing.T) {
	s, d := example(t)
	text, err := s.Products.CostProblem(ctx, d.ID, 24)
	require.NoError(t, err)
	var p cost.Problem
	require.NoError(t, json.Unmarshal(text, &p))
	answer, err := cost.Compute(p)
	require.NoError(t, err)
	got, err := json.Marshal(answer)
	require.NoError(t, err)
	assert.JSONEq(t, `{"format":"tidykiln/cost@1","started":[{"stage":"lay","pieces":27.7778},{"stage":"remove","pieces":26.6667},{"stage":"seal","pieces":24}],
 "perPiece":{"materials":"1.5315","labour":"3.6901","overhead":"0.5535","outside":"0.1500","total":"5.9251"},
 "spoilShare":"0.5924","batchTotal":"142.20","price":"10.65","earnedPerHour":"32.18"}`, string(got))
	_, err = s.Products.CostProblem(ctx, d.ID, 0)
	assert.Equal(t, "pieces", housetest.AtFault(t, err))
}

func TestEachWayOfSellingHasItsPrice(t *testing.T) {
	s, d := example(t)
	stall, err := s.Selling.AddOutlet(ctx, selling.OutletForm{Name: " Fair ", CardPercent: dec("2"), TaxPercent: dec("20"), TaxInPrice: true, Ending: new(90), Target: cost.ForWage, TargetValue: dec("20")})
	require.NoError(t, err)
	c, err := s.Selling.Costs(ctx, d.ID, 24)
	require.NoError(t, err)
	require.Len(t, c.Sales, 4)
	fair := c.Sales[3]
	assert.Equal(t, "Fair", fair.Name)
	assert.False(t, fair.Set)
	assert.Regexp(t, `\.90$`, fair.Tag)
	assert.GreaterOrEqual(t, dec(fair.EarnedPerHour).Cmp(dec("20")), 0, "an hour earns at least what was aimed at")
	assert.Equal(t, dec(fair.Tag), dec(fair.Net).Add(dec(fair.Tax)), "the tax is in the tag, and shown apart")
	trade := c.Sales[2]
	assert.True(t, dec(trade.Tag).Equal(d.Price.Mul(dec("0.6")).RoundCeil(2)), "%s is 60 %% of %s", trade.Tag, d.Price)

	d, err = s.Selling.SetPrice(ctx, d.ID, selling.PriceChange{OutletID: stall.ID, Price: "9.50", Version: d.Version})
	require.NoError(t, err)
	c, err = s.Selling.Costs(ctx, d.ID, 24)
	require.NoError(t, err)
	assert.Equal(t, "9.50", c.Sales[3].Tag)
	assert.True(t, c.Sales[3].Set)
	d, err = s.Selling.SetPrice(ctx, d.ID, selling.PriceChange{OutletID: stall.ID, Version: d.Version})
	require.NoError(t, err)
	_, err = s.Selling.SetPrice(ctx, d.ID, selling.PriceChange{OutletID: c.Sales[0].OutletID, Version: d.Version})
	assert.Equal(t, "price", housetest.AtFault(t, err), "the main price is never empty")
	_, err = s.Selling.SetPrice(ctx, d.ID, selling.PriceChange{OutletID: 99, Price: "1.00", Version: d.Version})
	assert.Equal(t, "outletId", housetest.AtFault(t, err))
	_, err = s.Selling.SetPrice(ctx, d.ID, selling.PriceChange{OutletID: stall.ID, Price: "9.50", Version: 1})
	housetest.RefusedAs(t, err, problem.Stale)
	require.NoError(t, s.Selling.ArchiveOutlet(ctx, stall.ID, stall.Version))
	housetest.Missing(t, s.Selling.ArchiveOutlet(ctx, stall.ID, 2))
	housetest.RefusedAs(t, s.Selling.ArchiveOutlet(ctx, c.Sales[0].OutletID, 2), problem.BuiltIn)
}

func TestAWayOfSellingThatLeavesNothingNamesTheField(t *testing.T) {
	s := studio(t)
	for field, spoil := range map[string]func(*selling.OutletForm){
		"name":        func(o *selling.OutletForm) { o.Name = " " },
		"targetValue": func(o *selling.OutletForm) { o.FeePercent, o.TargetValue = dec("60"), dec("40") },
		"feePercent":  func(o *selling.OutletForm) { o.FeePercent, o.CardPercent = dec("60"), dec("40") },
		"taxPercent":  func(o *selling.OutletForm) { o.TaxPercent = dec("-1") },
		"ending":      func(o *selling.OutletForm) { o.Ending = new(100) },
	} {
		o := selling.OutletForm{Name: "Fair", Target: cost.ForMargin, TargetValue: dec("30")}
		spoil(&o)
		_, err := s.Selling.AddOutlet(ctx, o)
		assert.Equal(t, field, housetest.AtFault(t, err))
	}
	outlets, err := s.Selling.Outlets(ctx)
	require.NoError(t, err)
	main := outlets[0]
	main.Target = cost.ForShare
	_, err = s.Selling.ChangeOutlet(ctx, main.ID, selling.OutletChange{OutletForm: main.OutletForm, Version: main.Version})
	assert.Equal(t, "target", housetest.AtFault(t, err))
	_, err = s.Selling.ChangeOutlet(ctx, main.ID, selling.OutletChange{OutletForm: outlets[0].OutletForm, Version: 9})
	housetest.RefusedAs(t, err, problem.Stale)
}

func TestThePriceListHasEveryProductAtEveryOutlet(t *testing.T) {
	s, d := example(t)
	l, err := s.Selling.PriceList(ctx)
	require.NoError(t, err)
	require.Len(t, l.Rows, 1)
	assert.Len(t, l.Rows[0].Sales, len(l.Outlets))
	pdf, err := s.Selling.PriceListPDF(ctx, 0)
	require.NoError(t, err)
	assert.Equal(t, "%PDF-", string(pdf[:5]))
	_, err = s.Selling.PriceListPDF(ctx, 99)
	housetest.Missing(t, err)
	d, err = s.Products.Change(ctx, d.ID, products.ProductChange{Name: "=cmd|' /C calc'!A0", Price: dec("10.65"), Version: d.Version})
	require.NoError(t, err)
	table, err := s.Selling.PriceListCSV(ctx)
	require.NoError(t, err)
	assert.Contains(t, string(table), "\r\n'=cmd|' /C calc'!A0,Shop page,EUR,10.65,yes,")
}

func TestAFairPaysOnceItsStallIsCovered(t *testing.T) {
	s, d := example(t)
	_, err := s.Products.Change(ctx, d.ID, products.ProductChange{Name: d.Name, Price: dec("10.65"), Version: d.Version})
	require.NoError(t, err)
	main := uint64(1)
	f, err := s.Selling.Fair(ctx, selling.FairPlan{OutletID: main, Stall: "60.00", Hours: 6, Taken: []selling.FairItem{{ProductID: d.ID, Pieces: 24}}})
	require.NoError(t, err)
	// each keeps 10.65 − 0.69 − 0.30 and costs 5.9251 − 3.6901 without labour: 7.42
	assert.Equal(t, "7.42", f.Contributes[0].Each)
	assert.Equal(t, 9, f.BreakEven, "60.00 ÷ 7.42 = 8.09")
	assert.Equal(t, 9, f.Contributes[0].Alone)
	assert.Equal(t, "118.15", f.Brings, "24 × 7.42275 − 60.00")
	assert.Equal(t, "5.5", f.HandsHours)
	for field, spoil := range map[string]func(*selling.FairPlan){
		"outletId":           func(p *selling.FairPlan) { p.OutletID = 99 },
		"stall":              func(p *selling.FairPlan) { p.Stall = "dear" },
		"taken[0].productId": func(p *selling.FairPlan) { p.Taken[0].ProductID = 99 },
		"taken[0].pieces":    func(p *selling.FairPlan) { p.Taken[0].Pieces = 0 },
	} {
		plan := selling.FairPlan{OutletID: main, Stall: "60.00", Taken: []selling.FairItem{{ProductID: d.ID, Pieces: 24}}}
		spoil(&plan)
		_, err := s.Selling.Fair(ctx, plan)
		assert.Equal(t, field, housetest.AtFault(t, err))
	}
}
