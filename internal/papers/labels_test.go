package papers_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/internal/house/housetest"
	"tidykiln/internal/papers"
	"tidykiln/internal/problem"
	"tidykiln/internal/wire"
)

func (f *office) labels(ask papers.LabelAsk) (string, error) {
	ask.ID = wire.ID{ID: 1}
	file, err := f.Papers.Labels(f.Ctx, &ask)
	if err != nil {
		return "", err
	}
	return textOf(f, file.Body), nil
}

func TestLabelsHavePricesAddressesOrWords(t *testing.T) {
	f := newOffice(t)
	o := f.Order(f.lamp, 1)
	text, err := f.labels(papers.LabelAsk{Products: fmt.Sprintf("%dx26", f.lamp.ID)})
	require.NoError(t, err)
	assert.Equal(t, 26, strings.Count(text, "16.00"))
	assert.Equal(t, 26, strings.Count(text, fmt.Sprint("P", f.lamp.ID)))
	assert.Equal(t, 2, strings.Count(text, "\f"), "24 to a sheet")
	text, err = f.labels(papers.LabelAsk{OrderID: o.ID, Count: 1})
	require.NoError(t, err)
	assert.Contains(t, text, o.Customer.Name)
	text, err = f.labels(papers.LabelAsk{Text: "Resting until Friday\nDo not touch " + strings.Repeat("long ", 60), Count: 3, Gone: 23})
	require.NoError(t, err)
	assert.Equal(t, 3, strings.Count(text, "Resting until Friday"))
	assert.Equal(t, 2, strings.Count(text, "\f"), "one on the first sheet, two on the next")
	assert.Contains(t, text, "…", "what is too long is cut, not written over the next label")
}

func TestASheetIsTriedBeforeItIsUsed(t *testing.T) {
	text, err := newOffice(t).labels(papers.LabelAsk{})
	require.NoError(t, err)
	assert.Contains(t, text, "label 24")
	assert.NotContains(t, text, "label 25")
}

func TestWhatCannotStandOnLabelsIsRefused(t *testing.T) {
	f := newOffice(t)
	for _, c := range []struct {
		field string
		ask   papers.LabelAsk
	}{
		{"products", papers.LabelAsk{Products: "x"}},
		{"products", papers.LabelAsk{Products: "999x2"}},
		{"products", papers.LabelAsk{Products: fmt.Sprintf("%dx0", f.lamp.ID)}},
		{"products", papers.LabelAsk{Products: fmt.Sprintf("%dx1500,%dx1500", f.lamp.ID, f.lamp.ID)}},
		{"outletId", papers.LabelAsk{Products: fmt.Sprintf("%dx2", f.lamp.ID), OutletID: 99}},
		{"orderId", papers.LabelAsk{OrderID: 99, Count: 1}},
		{"gone", papers.LabelAsk{Text: "a", Count: 1, Gone: 24}},
	} {
		_, err := f.labels(c.ask)
		assert.Equal(t, c.field, housetest.AtFault(t, err), c)
	}
}

func TestTheStudioHasLabelSheetsOfItsOwn(t *testing.T) {
	f := newOffice(t)
	list, err := f.Papers.LabelSheets(f.Ctx)
	require.NoError(t, err)
	require.Len(t, list, 2)
	form := list[0].LabelSheetForm
	form.Name = " Small "
	mine, err := f.Papers.AddLabelSheet(f.Ctx, form)
	require.NoError(t, err)
	assert.Equal(t, "Small", mine.Name)
	form.Columns = 4
	err = f.Papers.ChangeLabelSheet(f.Ctx, mine.ID, papers.LabelSheetChange{LabelSheetForm: form, Version: 1})
	assert.Equal(t, "columns", housetest.AtFault(t, err))
	form.Columns, form.Name = 2, "Small, two across"
	require.NoError(t, f.Papers.ChangeLabelSheet(f.Ctx, mine.ID, papers.LabelSheetChange{LabelSheetForm: form, Version: 1}))
	housetest.RefusedAs(t, f.Papers.ChangeLabelSheet(f.Ctx, mine.ID, papers.LabelSheetChange{LabelSheetForm: form, Version: 1}), problem.Stale)
	housetest.RefusedAs(t, f.Papers.RemoveLabelSheet(f.Ctx, mine.ID, 1), problem.Stale)
	require.NoError(t, f.Papers.RemoveLabelSheet(f.Ctx, mine.ID, 2))
	housetest.Missing(t, f.Papers.RemoveLabelSheet(f.Ctx, mine.ID, 2))
	form.Name = "  "
	_, err = f.Papers.AddLabelSheet(f.Ctx, form)
	assert.Equal(t, "name", housetest.AtFault(t, err))
}
