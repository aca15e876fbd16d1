package products_test

import (
	"context"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/core/check"
	"tidykiln/core/craft"
	"tidykiln/internal/house/housetest"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
	"tidykiln/internal/wire"
)

// shop is the area with one person in the workshop.
func shop(t *testing.T) (*products.Area, uint64) {
	s := housetest.New(t)
	s.Hire(9, 15)
	return s.Products, s.Person
}

func TestARecipeIsSavedAsANewVersionAndAnOldOneComesBack(t *testing.T) {
	a, _ := shop(t)
	ctx := context.Background()
	d, err := a.Make(ctx, swan)
	require.NoError(t, err)
	form := d.Draft.RecipeForm
	form.Steps = slices.Clone(form.Steps)
	rest := *form.Steps[4].Rest
	rest.Usual = 1440
	form.Steps[4].Rest = &rest
	changed, err := a.ChangeRecipe(ctx, d.ID, products.RecipeChange{RecipeForm: form, Version: d.Version})
	require.NoError(t, err)
	assert.Equal(t, 2, changed.RecipeNumber)
	require.Len(t, changed.Versions, 2)
	assert.Equal(t, []string{form.Steps[4].Name + ": rests 24 h, was 18 h"}, changed.Versions[0].Changed)
	assert.Empty(t, changed.Versions[1].Changed, "the first differs from nothing")
	assert.Equal(t, 1440, changed.Draft.Steps[4].Rest.Usual)
	assert.Greater(t, changed.LayToHandOverMinutes, d.LayToHandOverMinutes)

	_, err = a.ChangeRecipe(ctx, d.ID, products.RecipeChange{RecipeForm: form, Version: d.Version})
	var p *problem.Problem
	require.ErrorAs(t, err, &p)
	assert.Equal(t, problem.Stale, p.Type)

	back, err := a.RestoreRecipe(ctx, d.ID, 1, changed.Version)
	require.NoError(t, err)
	assert.Equal(t, 3, back.RecipeNumber)
	assert.Equal(t, d.Draft.Steps, back.Draft.Steps)
	_, err = a.RestoreRecipe(ctx, d.ID, 9, back.Version)
	housetest.Missing(t, err)
}

func TestABadRecipeNamesItsFieldAndSavesNothing(t *testing.T) {
	a, _ := shop(t)
	ctx := context.Background()
	d, err := a.Make(ctx, swan)
	require.NoError(t, err)
	for field, spoil := range map[string]func(*products.RecipeForm){
		"steps[0].uses[0].material": func(f *products.RecipeForm) {
			f.Steps[0].Uses = []craft.Use{{Material: "moon-dust", Quantity: 1, Per: craft.PerPiece}}
		},
		"steps[3].rest.usual":      func(f *products.RecipeForm) { f.Steps[3].Rest = &craft.Rest{Kind: craft.Cure, Floor: 9, Usual: 3} },
		"steps[0].minutesPerPiece": func(f *products.RecipeForm) { f.Steps[0].MinutesPerPiece, f.Steps[0].SetupMinutes = 0, 0 },
		"steps[2].inside":          func(f *products.RecipeForm) { f.Steps[2].Inside = "lay" },
		"steps":                    func(f *products.RecipeForm) { f.Steps = slices.Repeat(f.Steps, 20)[:200] },
	} {
		form := d.Draft.RecipeForm
		form.Steps = slices.Clone(form.Steps)
		spoil(&form)
		_, err := a.ChangeRecipe(ctx, d.ID, products.RecipeChange{RecipeForm: form, Version: d.Version})
		assert.Equal(t, field, housetest.AtFault(t, err))
		_, err = a.TryRecipe(ctx, d.ID, form)
		assert.Equal(t, field, housetest.AtFault(t, err))
	}
	again, err := a.Get(ctx, d.ID)
	require.NoError(t, err)
	assert.Equal(t, d, again)
}

func TestTryingARecipeSavesNothingAndSaysWhatItComesTo(t *testing.T) {
	a, _ := shop(t)
	ctx := context.Background()
	d, err := a.Make(ctx, swan)
	require.NoError(t, err)
	form := d.Draft.RecipeForm
	form.Steps = slices.DeleteFunc(slices.Clone(form.Steps), func(s craft.Step) bool { return s.Do == craft.Seal })
	draft, err := a.TryRecipe(ctx, d.ID, form)
	require.NoError(t, err)
	assert.Less(t, draft.LayToHandOverMinutes, d.LayToHandOverMinutes)
	assert.Equal(t, []string{"edge-unsealed"}, ofTheCheck(draft.Findings))
	blocks, err := a.BlocksFor(ctx, d.ID)
	require.NoError(t, err)
	at := slices.IndexFunc(blocks, func(b products.BlockFor) bool { return b.Step.ID == "stain" })
	form.Steps = slices.Insert(slices.Clone(d.Draft.Steps), 9, blocks[at].Step, blocks[at+1].Step)
	draft, err = a.TryRecipe(ctx, d.ID, form)
	require.NoError(t, err)
	assert.Equal(t, []string{"Gel stain, then wipe the stain back"}, draft.HandInHand)
	same, err := a.Get(ctx, d.ID)
	require.NoError(t, err)
	assert.Equal(t, d, same)
}

func TestOtherChoicesProposeAnotherRecipe(t *testing.T) {
	a, _ := shop(t)
	ctx := context.Background()
	d, err := a.Make(ctx, swan)
	require.NoError(t, err)
	draft, err := a.Repropose(ctx, d.ID, products.Reproposal{Look: "crisp", Choices: map[string]string{"rest": "label", "seal": "spray"}})
	require.NoError(t, err)
	assert.Equal(t, 480, draft.Steps[4].Rest.Usual)
	_, err = a.Repropose(ctx, d.ID, products.Reproposal{Look: "crisp", Choices: map[string]string{"rest": "never"}})
	assert.Equal(t, "choices.rest", housetest.AtFault(t, err))
}

func TestAStopIsOverruledWithAReasonAndHoldsAgainWhenWithdrawn(t *testing.T) {
	a, person := shop(t)
	ctx := wire.Acting(context.Background(), wire.Actor{PersonID: person})
	wrong := false
	in := swan
	in.Picture.Mirrored = &wrong
	d, err := a.Make(ctx, in)
	require.NoError(t, err)
	assert.Equal(t, check.Stop, d.Worst)
	assert.Equal(t, []string{"mirror-missing"}, ofTheCheck(d.Draft.Findings))
	assert.Equal(t, "mirrored", d.Mirror)

	stop := products.NewOverride{Rule: "mirror-missing", Reason: "read in a mirror"}
	blank := stop
	blank.Reason = "  "
	_, err = a.Overrule(ctx, d.ID, blank)
	assert.Equal(t, "reason", housetest.AtFault(t, err))
	_, err = a.Overrule(wire.Acting(ctx, wire.Actor{PersonID: 99}), d.ID, stop)
	assert.Equal(t, "reason", housetest.AtFault(t, err), "nobody is here to overrule it")
	d, err = a.Overrule(ctx, d.ID, stop)
	require.NoError(t, err)
	assert.Equal(t, check.Tip, d.Worst, "what nobody has said is left")
	require.NotNil(t, d.Draft.Findings[0].Override)
	_, err = a.Overrule(ctx, d.ID, stop)
	housetest.RefusedAs(t, err, problem.Unfit)

	require.NoError(t, a.Withdraw(ctx, d.Overrides[0].ID))
	housetest.RefusedAs(t, a.Withdraw(ctx, d.Overrides[0].ID), problem.TakenBack)
	housetest.Missing(t, a.Withdraw(ctx, 99))
	d, err = a.Get(ctx, d.ID)
	require.NoError(t, err)
	assert.Equal(t, check.Stop, d.Worst)
	require.Len(t, d.Overrides, 1, "it stays on the record")
	assert.NotNil(t, d.Overrides[0].WithdrawnAt)
}

func TestFactsAreChangedAndCheckedAnew(t *testing.T) {
	a, _ := shop(t)
	ctx := context.Background()
	d, err := a.Make(ctx, swan)
	require.NoError(t, err)
	dark := swan.Blank
	dark.Tone = craft.Dark
	d, err = a.ChangeFacts(ctx, d.ID, products.FactsChange{Blank: dark, Picture: products.PictureForm{Width: "200 mm", Gsm: 120, Carrier: craft.Paper}, Lettered: true, Version: d.Version})
	require.NoError(t, err)
	assert.Equal(t, []string{"picture-too-big", "paper-heavy"}, ofTheCheck(d.Draft.Findings), "the recipe brings a light base")
	dark.Width = "no"
	_, err = a.ChangeFacts(ctx, d.ID, products.FactsChange{Blank: dark, Version: d.Version})
	assert.Equal(t, "blank.width", housetest.AtFault(t, err))
}

func TestTheGuideOffersAndMakesAChange(t *testing.T) {
	a, _ := shop(t)
	ctx := context.Background()
	d, err := a.Make(ctx, swan)
	require.NoError(t, err)
	plain, err := a.Troubles(ctx, 0)
	require.NoError(t, err)
	assert.Len(t, plain, 17)
	assert.Empty(t, plain[2].Offer)
	list, err := a.Troubles(ctx, d.ID)
	require.NoError(t, err)
	assert.Contains(t, list[2].Offer, "from 18 h to 27 h")
	changed, err := a.TakeOffer(ctx, d.ID, "lifted", d.Version)
	require.NoError(t, err)
	assert.Equal(t, 1620, changed.Draft.Steps[4].Rest.Usual)
	_, err = a.TakeOffer(ctx, d.ID, "sagging", changed.Version)
	housetest.RefusedAs(t, err, problem.Unfit)
	_, err = a.TakeOffer(ctx, d.ID, "hiccups", changed.Version)
	housetest.Missing(t, err)
}

func TestAPictureLargerThanTheSmallestOfItsBlanksIsSaid(t *testing.T) {
	a, _ := shop(t)
	in := swan
	in.Blank.Width, in.Material = "90 mm", "slice-90"
	d, err := a.Make(context.Background(), in)
	require.NoError(t, err)
	sized := func(width string) (said []string) {
		d, err = a.ChangeFacts(context.Background(), d.ID, products.FactsChange{Blank: in.Blank, Picture: products.PictureForm{Width: width, Height: "60 mm"}, Version: d.Version})
		require.NoError(t, err)
		for _, f := range d.Draft.Findings {
			if f.Rule == "size-class" {
				said = append(said, f.Why)
			}
		}
		return said
	}
	assert.Empty(t, sized("86 mm"))
	assert.Equal(t, []string{"The picture is 87 mm, and the smallest of “Wood slice, 90 mm” is 86 mm: on some pieces it runs over the rim."}, sized("87 mm"))
}

// ofTheCheck names the rules that fire, without what nobody has said.
func ofTheCheck(found []products.Finding) (rules []string) {
	for _, f := range found {
		if !strings.HasSuffix(f.Rule, "-unsaid") {
			rules = append(rules, f.Rule)
		}
	}
	return rules
}
