package papers_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/internal/house/housetest"
	"tidykiln/internal/papers"
	"tidykiln/internal/problem"
)

func TestWhatIsNoLetterheadIsRefused(t *testing.T) {
	f := newOffice(t)
	for field, form := range map[string]papers.LetterheadForm{
		"seller":      {Seller: strings.Repeat("a\n", 11) + "b", FirstNumber: 1},
		"firstNumber": {},
		"daysToPay":   {DaysToPay: 366, FirstNumber: 1},
		"yearsKept":   {YearsKept: -1, FirstNumber: 1},
	} {
		err := f.Papers.ChangeLetterhead(f.Ctx, papers.LetterheadChange{LetterheadForm: form, Version: 2})
		assert.Equal(t, field, housetest.AtFault(t, err))
	}
	err := f.Papers.ChangeLetterhead(f.Ctx, papers.LetterheadChange{LetterheadForm: papers.LetterheadForm{FirstNumber: 1}, Version: 1})
	housetest.RefusedAs(t, err, problem.Stale)
	_, err = f.Papers.Issue(f.Ctx, f.Order(f.lamp, 1).ID, papers.PaperForm{Kind: papers.Invoice, To: strings.Repeat("\n", 20) + "a"})
	require.NoError(t, err, "empty lines are no lines")
	_, err = f.Papers.Issue(f.Ctx, f.Order(f.lamp, 1).ID, papers.PaperForm{Kind: papers.Invoice, To: strings.Repeat("a\n", 20) + "b"})
	assert.Equal(t, "to", housetest.AtFault(t, err))
}
