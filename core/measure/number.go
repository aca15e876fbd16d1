package measure

import (
	"errors"
	"fmt"
	"regexp"
	"strings"

	"github.com/shopspring/decimal"
)

// Ambiguous is a number that could be two: it has to be asked about.
type Ambiguous struct {
	Text string
	// Grouped is what it is if its sign parts thousands, Fraction if it parts
	// decimals, each as it could be written without a doubt.
	Grouped, Fraction string
}

func (a *Ambiguous) Error() string {
	return fmt.Sprintf("%s could be %s or %s; write the one that is meant", a.Text, a.Grouped, a.Fraction)
}

// errNotANumber is why a text is no number.
var errNotANumber = errors.New("write a number, such as 2.5")

// longestNumber bounds what is read as one number, in characters.
const longestNumber = 40

// Number reads a number as people type it: 2.5, 2,5, 1 1/4, ½, 2 300, 1,234.5.
// A comma before three digits could part thousands or decimals, and is asked
// about (Ambiguous); a point there is a decimal point, as the tool writes them.
// Signs and exponents are refused.
func Number(text string) (decimal.Decimal, error) { return number(text, manner{}) }

// Counted reads a number of things that are counted, of which nobody writes a
// thousandth: 2,300 and 2.300 are two thousand three hundred.
func Counted(text string) (decimal.Decimal, error) { return number(text, manner{counted: true}) }

// InTable reads a number of a table of which it is known whether decimals are
// written with a comma; the other sign before three digits is then asked about.
func InTable(text string, decimalComma bool) (decimal.Decimal, error) {
	return number(text, manner{comma: decimalComma})
}

// manner is how numbers are written: of things that are counted, and whether
// the comma is known to be the decimal sign.
type manner struct{ counted, comma bool }

// sign is what decimals are written with, as far as that is known.
func (m manner) sign() string {
	if m.comma {
		return ","
	}
	return "."
}

func number(text string, how manner) (decimal.Decimal, error) {
	if len(text) > longestNumber {
		return decimal.Zero, errNotANumber
	}
	s := strings.TrimSpace(text)
	for glyph, plain := range vulgar {
		s = strings.ReplaceAll(s, string(glyph), " "+plain)
	}
	whole, fraction := strings.TrimSpace(s), decimal.Zero
	if strings.Contains(s, "/") {
		at := strings.LastIndex(strings.TrimSpace(s), " ")
		last := strings.TrimSpace(s)[at+1:]
		whole = strings.TrimSpace(strings.TrimSpace(s)[:max(at, 0)])
		var err error
		if fraction, err = simpleFraction(last); err != nil {
			return decimal.Zero, err
		}
		if whole == "" {
			return fraction, nil
		}
	}
	n, err := plainNumber(whole, how)
	return n.Add(fraction), err
}

// simpleFraction reads 3/4.
func simpleFraction(s string) (decimal.Decimal, error) {
	top, bottom, _ := strings.Cut(s, "/")
	if !digits.MatchString(top) || !digits.MatchString(bottom) {
		return decimal.Zero, errNotANumber
	}
	under := decimal.RequireFromString(bottom)
	if under.IsZero() {
		return decimal.Zero, errNotANumber
	}
	return decimal.RequireFromString(top).DivRound(under, 12), nil
}

var (
	digits = regexp.MustCompile(`^\d+$`)
	spaced = regexp.MustCompile(`^\d{1,3}(?:[ '’\x{a0}\x{202f}]\d{3})+(?:[.,]\d+)?$`)
	single = regexp.MustCompile(`^(\d*)([.,])(\d*)$`)
	// grouped numbers part thousands with one sign, and decimals, if there are any, with the other.
	grouped = regexp.MustCompile(`^(?:\d{1,3}(?:,\d{3})+(?:\.\d+)?|\d{1,3}(?:\.\d{3})+(?:,\d+)?)$`)
)

func plainNumber(s string, how manner) (decimal.Decimal, error) {
	if spaced.MatchString(s) {
		s = strings.NewReplacer(" ", "", "'", "", "’", "", "\u00a0", "", "\u202f", "").Replace(s)
	}
	if digits.MatchString(s) {
		return decimal.NewFromString(s)
	}
	if m := single.FindStringSubmatch(s); m != nil && m[1]+m[3] != "" {
		return withOneSign(s, m[1], m[2], m[3], how)
	}
	if !grouped.MatchString(s) {
		return decimal.Zero, errNotANumber
	}
	last := strings.LastIndexAny(s, ".,")
	if strings.Count(s, s[last:last+1]) > 1 { // 1,234,567
		return decimal.NewFromString(strings.NewReplacer(",", "", ".", "").Replace(s))
	}
	return decimal.NewFromString(strings.NewReplacer(",", "", ".", "").Replace(s[:last]) + "." + s[last+1:])
}

// withOneSign reads a number with one point or comma in it.
func withOneSign(text, before, sign, after string, how manner) (decimal.Decimal, error) {
	fraction, err := decimal.NewFromString("0" + before + "." + after + "0")
	if err != nil {
		return decimal.Zero, errNotANumber
	}
	thousands := len(after) == 3 && len(before) >= 1 && len(before) <= 3 && before[0] != '0'
	switch {
	case !thousands:
		return fraction, nil
	case how.counted:
		return decimal.NewFromString(before + after)
	case (sign == ",") != how.comma:
		return decimal.Zero, &Ambiguous{text, before + after, before + how.sign() + after}
	}
	return fraction, nil
}
