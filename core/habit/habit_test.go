package habit_test

import (
	"encoding/json"
	"os"
	"testing"
	"time"

	"github.com/shopspring/decimal"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/core/habit"
)

func TestAHabitWritesAsTheTableSays(t *testing.T) {
	raw, err := os.ReadFile("testdata/written.json")
	require.NoError(t, err)
	var table struct {
		Moment, Midnight time.Time
		Cases            []struct {
			Habit                                                           habit.Habit
			Time, Midnight, Date, DateAndYear, Number, Rounded, Money, Owed string
		}
	}
	require.NoError(t, json.Unmarshal(raw, &table))
	require.NotEmpty(t, table.Cases)
	for _, c := range table.Cases {
		h := c.Habit
		assert.Equal(t, c.Time, h.Time(table.Moment))
		assert.Equal(t, c.Midnight, h.Time(table.Midnight))
		assert.Equal(t, c.Date, h.Date(table.Moment))
		assert.Equal(t, c.DateAndYear, h.DateAndYear(table.Moment))
		assert.Equal(t, c.Number, h.Number(2.5))
		assert.Equal(t, c.Rounded, h.Rounded(2.5, 2))
		assert.Equal(t, c.Money, h.Money(decimal.RequireFromString("1234.5"), "EUR"))
		assert.Equal(t, c.Owed, h.Money(decimal.NewFromInt(-3), "EUR"))
	}
}

func TestNothingSetIsWrittenPlainly(t *testing.T) {
	var h habit.Habit
	at := time.Date(2027, 3, 5, 14, 7, 0, 0, time.UTC)
	assert.Equal(t, "14:07", h.Time(at))
	assert.Equal(t, "Friday 5 March 2027", h.DateAndYear(at))
	assert.Equal(t, "Due date moved from Saturday 8 May to Monday 10 May", h.Days("Due date moved from 2027-05-08 to 2027-05-10"))
	assert.Equal(t, "Saturday May 8, and 2027-13-08", habit.Habit{DateOrder: "mdy"}.Days("2027-05-08, and 2027-13-08"))
	assert.Equal(t, "0.30\u00a0EUR", h.Money(decimal.RequireFromString("0.3"), "EUR"))
	assert.Equal(t, "0.30\u00a0", h.Money(decimal.RequireFromString("0.3"), ""))
}

func TestASentenceOfTheCoreTakesTheDecimalSign(t *testing.T) {
	comma, point := habit.Habit{DecimalSign: "comma"}, habit.Habit{DecimalSign: "point"}
	const told = "The film is 0.2 mm, was 0.15. Over 19.5."
	assert.Equal(t, []string{"The film is 0,2 mm, was 0,15. Over 19,5."}, comma.Sentences([]string{told}))
	assert.Equal(t, told, point.Sentence(told))
}
