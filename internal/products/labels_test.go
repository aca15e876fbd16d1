package products_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/internal/house/housetest"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
	"tidykiln/internal/stores"
)

func TestWhatALabelSaysIsUsedWhereverTheMaterialIs(t *testing.T) {
	studio, ctx := housetest.New(t), context.Background()
	a, s := studio.Products, studio.Stores
	before, err := a.Make(ctx, swan)
	require.NoError(t, err)
	held, err := a.Labelled(ctx, before.ID)
	require.NoError(t, err)
	assert.Empty(t, held.Changes)
	require.Len(t, held.Materials, 3)
	gel := held.Materials[1]
	assert.Equal(t, "Gel medium", gel.Name)
	assert.False(t, gel.LabelRead, "nobody has been asked yet")

	said := stores.LabelForm{LabelFloorMinutes: new(720)}
	m, err := s.ReadLabel(ctx, gel.ID, stores.LabelChange{LabelForm: said, Version: gel.Version})
	require.NoError(t, err)
	assert.True(t, m.LabelRead)
	_, err = s.ReadLabel(ctx, gel.ID, stores.LabelChange{LabelForm: said, Version: gel.Version})
	housetest.RefusedAs(t, err, problem.Stale)

	film := m.MaterialForm
	film.FilmMm = new(0.6)
	_, err = s.Change(ctx, gel.ID, stores.MaterialChange{MaterialForm: film, Version: m.Version})
	require.NoError(t, err)

	fresh := swan
	fresh.Name = "Swan ornament, new"
	after, err := a.Make(ctx, fresh)
	require.NoError(t, err)
	list, err := a.OtherThanLabel(ctx, gel.ID)
	require.NoError(t, err)
	require.Len(t, list, 1, "the new one is as the label says")
	assert.Equal(t, "Swan ornament", list[0].Name)
	assert.Equal(t, []string{"Lay: at least 12 h, was 8 h", "Lay: film 0.6 mm, was 0.7"}, list[0].Changes)

	read := products.ProductAsRead{ID: list[0].ProductID, Version: list[0].Version}
	require.NoError(t, a.FollowLabels(ctx, products.LabelFollowing{Products: []products.ProductAsRead{read}}))
	now, err := a.Get(ctx, before.ID)
	require.NoError(t, err)
	assert.Equal(t, after.Draft.Steps, now.Draft.Steps)
	assert.Equal(t, 2, now.RecipeNumber)
	require.NoError(t, a.FollowLabels(ctx, products.LabelFollowing{Products: []products.ProductAsRead{read}}), "what is so already stays")
	list, err = a.OtherThanLabel(ctx, gel.ID)
	require.NoError(t, err)
	assert.Empty(t, list)
}

func TestAFilmSetFromWhatABatchReallyTookStaysWhateverTheOwnerLaysElsewhere(t *testing.T) {
	studio, ctx := housetest.New(t), context.Background()
	a, s := studio.Products, studio.Stores
	d, err := a.Make(ctx, swan)
	require.NoError(t, err)
	form := d.Draft.RecipeForm
	for i, step := range form.Steps {
		for k, u := range step.Uses {
			if u.Material == "gel-medium" {
				form.Steps[i].Uses[k].Film = 0.82
			}
		}
	}
	_, err = a.ChangeRecipe(ctx, d.ID, products.RecipeChange{RecipeForm: form, Version: d.Version})
	require.NoError(t, err)
	held, err := a.Labelled(ctx, d.ID)
	require.NoError(t, err)
	card, err := s.Card(ctx, held.Materials[1].ID)
	require.NoError(t, err)
	thin := card.MaterialForm
	thin.FilmMm = new(0.6)
	_, err = s.Change(ctx, card.ID, stores.MaterialChange{MaterialForm: thin, Version: card.Version})
	require.NoError(t, err)
	held, err = a.Labelled(ctx, d.ID)
	require.NoError(t, err)
	assert.Empty(t, held.Changes)
}
