// Package habit writes moments, numbers and money the way one studio is used to
// reading them: its clock, the order of its dates, its decimal sign, its
// currency. The pages write by the same habit (ui/src/shared/habit.ts); both are
// held to testdata/written.json.
package habit

import (
	"regexp"
	"strconv"
	"strings"
	"time"
	"unicode"

	"github.com/shopspring/decimal"
)

// Habit is what a studio is used to.
type Habit struct {
	Clock        string `json:"clock" enum:"24h,12h" doc:"14:10 or 2:10 PM"`
	FirstWeekday int    `json:"firstWeekday" minimum:"0" maximum:"6" doc:"the day a week begins with, 0 is Sunday"`
	DateOrder    string `json:"dateOrder" enum:"dmy,mdy,ymd" doc:"day, month and year in their order"`
	DecimalSign  string `json:"decimalSign" enum:"point,comma"`
	// CurrencySign stands for the currency's code; empty where the code itself is written.
	CurrencySign string `json:"currencySign" maxLength:"8"`
	// SignFirst says that the sign, or the code, stands before the amount.
	SignFirst bool `json:"signFirst"`
}

// Time is a moment's time of day, by the clock of its location.
func (h Habit) Time(t time.Time) string {
	if h.Clock == "12h" {
		return t.Format("3:04 PM")
	}
	return t.Format("15:04")
}

// Date is a moment's day and month, with its weekday: Monday 2 January.
func (h Habit) Date(t time.Time) string { return t.Format("Monday ") + h.DayAndMonth(t) }

// DayAndMonth is 2 January or January 2.
func (h Habit) DayAndMonth(t time.Time) string {
	if h.DateOrder == "mdy" || h.DateOrder == "ymd" {
		return t.Format("January 2")
	}
	return t.Format("2 January")
}

// DateAndYear is a moment's day with its weekday and year: Monday 2 January
// 2027, Monday January 2, 2027 or Monday 2027 January 2.
func (h Habit) DateAndYear(t time.Time) string { return t.Format("Monday ") + h.DayAndYear(t) }

// DayAndYear is the same without the weekday.
func (h Habit) DayAndYear(t time.Time) string {
	switch h.DateOrder {
	case "mdy":
		return t.Format("January 2, 2006")
	case "ymd":
		return t.Format("2006 January 2")
	}
	return t.Format("2 January 2006")
}

var isoDay = regexp.MustCompile(`\b\d{4}-\d{2}-\d{2}\b`)

// Days writes the days of a sentence that was kept with them as 2027-05-08.
func (h Habit) Days(text string) string {
	return isoDay.ReplaceAllStringFunc(text, func(day string) string {
		t, err := time.Parse(time.DateOnly, day)
		if err != nil {
			return day
		}
		return h.Date(t)
	})
}

// Written puts the decimal sign into a text of figures that was written with a point.
func (h Habit) Written(figures string) string {
	if h.DecimalSign == "comma" {
		return strings.ReplaceAll(figures, ".", ",")
	}
	return figures
}

// Sentence puts the decimal sign into the figures of a sentence of the core's, which knows no habits.
func (h Habit) Sentence(text string) string {
	if h.DecimalSign == "comma" {
		return decimals.ReplaceAllString(text, "$1,$2")
	}
	return text
}

// Sentences is Sentence for each of several.
func (h Habit) Sentences(texts []string) []string {
	for i := range texts {
		texts[i] = h.Sentence(texts[i])
	}
	return texts
}

var decimals = regexp.MustCompile(`(\d)\.(\d)`)

// Number is a number with as many decimals as it has.
func (h Habit) Number(v float64) string { return h.Written(strconv.FormatFloat(v, 'f', -1, 64)) }

// Rounded is a number with so many decimals.
func (h Habit) Rounded(v float64, places int) string {
	return h.Written(strconv.FormatFloat(v, 'f', places, 64))
}

// Amount is an amount of money with two decimals and without its currency.
func (h Habit) Amount(d decimal.Decimal) string { return h.Written(d.StringFixed(2)) }

// Money is an amount in the currency of that code: 12.50 €, $12.50, 12,50 EUR.
func (h Habit) Money(d decimal.Decimal, currency string) string {
	sign := h.CurrencySign
	if sign == "" {
		sign = currency
	}
	if !h.SignFirst {
		return h.Amount(d) + "\u00a0" + sign
	}
	minus := ""
	if d.IsNegative() {
		minus, d = "-", d.Neg()
	}
	// Letters would run into the figures.
	if last := []rune(sign); len(last) > 0 && unicode.IsLetter(last[len(last)-1]) {
		sign += "\u00a0"
	}
	return minus + sign + h.Amount(d)
}
