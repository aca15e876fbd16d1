// Package measure holds the quantities of the bench: lengths, areas, volumes
// and masses, in the metric units they are kept in, and reads and writes them
// in metric or US customary units.
//
// Conversion factors are the exact ones of the international yard and pound
// agreement (1959) and NIST Handbook 44, appendix C.
package measure

import (
	"errors"
	"fmt"
	"math"
	"regexp"
	"strconv"
	"strings"
)

// System is the family of units a workshop reads and writes.
type System string

const (
	Metric System = "metric"
	US     System = "us"
)

// Length is a length in millimetres.
type Length float64

// Area is an area in square millimetres.
type Area float64

// Volume is a volume in millilitres.
type Volume float64

// Mass is a mass in grams.
type Mass float64

// CM2 returns the area in square centimetres.
func (a Area) CM2() float64 { return float64(a) / 100 }

// CoatVolume returns what one coat of the given film takes on an area:
// area × film × (1 + waste). film is the wet thickness in mm and waste a share
// (0.03 for 3 %); neither may be negative. Source: docs/calculations.md §2.
func CoatVolume(area Area, film Length, waste float64) Volume {
	return Volume(float64(area) * float64(film) / 1000 * (1 + waste))
}

// ErrEmpty is returned when there is nothing to read.
var ErrEmpty = errors.New("type a number and a unit, such as 9.5 cm")

var lengthUnits = map[string]float64{
	"mm": 1, "cm": 10, "m": 1000,
	"in": 25.4, "inch": 25.4, "inches": 25.4, `"`: 25.4, "″": 25.4,
	"ft": 304.8, "foot": 304.8, "feet": 304.8, "'": 304.8, "′": 304.8,
}

var volumeUnits = map[string]float64{
	"ml": 1, "cl": 10, "l": 1000, "cm3": 1, "cc": 1,
	"fl oz": 29.5735295625, "floz": 29.5735295625,
	"tsp": 4.92892159375, "tbsp": 14.78676478125, "cup": 236.5882365,
	"pt": 473.176473, "qt": 946.352946, "gal": 3785.411784,
}

var massUnits = map[string]float64{
	"g": 1, "kg": 1000, "mg": 0.001, "oz": 28.349523125, "lb": 453.59237, "lbs": 453.59237,
}

// ParseLength reads a length such as "9.5 cm", "3 3/4 in" or "½\"".
// A bare number is taken as millimetres in Metric and inches in US.
// It refuses negative and non-finite numbers and unknown units.
func ParseLength(text string, bare System) (Length, error) {
	unit := "mm"
	if bare == US {
		unit = "in"
	}
	v, err := parse(text, unit, lengthUnits)
	return Length(v), err
}

// ParseVolume reads a volume such as "473 ml" or "½ fl oz". A bare number is
// taken as millilitres in Metric and US fluid ounces in US.
func ParseVolume(text string, bare System) (Volume, error) {
	unit := "ml"
	if bare == US {
		unit = "fl oz"
	}
	v, err := parse(text, unit, volumeUnits)
	return Volume(v), err
}

// ParseMass reads a mass such as "120 g" or "1 lb". A bare number is taken as
// grams in Metric and ounces in US.
func ParseMass(text string, bare System) (Mass, error) {
	unit := "g"
	if bare == US {
		unit = "oz"
	}
	v, err := parse(text, unit, massUnits)
	return Mass(v), err
}

var vulgar = map[rune]string{
	'½': "1/2", '¼': "1/4", '¾': "3/4", '⅓': "1/3", '⅔': "2/3",
	'⅛': "1/8", '⅜': "3/8", '⅝': "5/8", '⅞': "7/8", '⅕': "1/5",
}

// measured parts a number from its unit, of which points say nothing (fl. oz).
var measured = regexp.MustCompile(`^([\d\s.,'’/½¼¾⅓⅔⅛⅜⅝⅞⅕\x{a0}\x{202f}]*[\d½¼¾⅓⅔⅛⅜⅝⅞⅕])\s*(.*)$`)

func parse(text, bare string, units map[string]float64) (float64, error) {
	s := strings.ToLower(strings.TrimSpace(text))
	if s == "" {
		return 0, ErrEmpty
	}
	if len(s) > longestNumber {
		return 0, errors.New("that is too long to be one measurement")
	}
	parts := measured.FindStringSubmatch(s)
	if parts == nil && !strings.ContainsAny(s, "0123456789") {
		return 0, fmt.Errorf("%q is not a unit known here", strings.TrimSpace(text))
	}
	if parts == nil {
		return 0, fmt.Errorf("%q is not a number", strings.TrimSpace(text))
	}
	unit := strings.Join(strings.Fields(strings.ReplaceAll(parts[2], ".", " ")), " ")
	if unit == "" {
		unit = bare
	}
	factor, known := units[unit]
	if !known {
		return 0, fmt.Errorf("%q is not a unit known here", unit)
	}
	n, err := Number(parts[1])
	var asked *Ambiguous
	if errors.As(err, &asked) {
		return 0, err
	}
	if err != nil {
		return 0, fmt.Errorf("%q is not a number", strings.TrimSpace(text))
	}
	v := n.InexactFloat64() * factor
	if math.IsInf(v, 0) || math.IsNaN(v) || v < 0 {
		return 0, fmt.Errorf("%q is out of range", strings.TrimSpace(text))
	}
	return v, nil
}

// Format writes the length as people say it: millimetres below a metre, or
// inches to the nearest sixteenth.
func (l Length) Format(s System) string {
	if s == US {
		return sixteenths(float64(l)/25.4) + " in"
	}
	if l >= 1000 {
		return trim(float64(l)/1000, 2) + " m"
	}
	return trim(float64(l), 1) + " mm"
}

// Format writes the volume in millilitres or US fluid ounces.
func (v Volume) Format(s System) string {
	if s == US {
		return trim(float64(v)/volumeUnits["fl oz"], 2) + " fl oz"
	}
	return trim(float64(v), 1) + " ml"
}

// Format writes the mass in grams or ounces.
func (m Mass) Format(s System) string {
	if s == US {
		return trim(float64(m)/massUnits["oz"], 2) + " oz"
	}
	return trim(float64(m), 1) + " g"
}

func trim(v float64, places int) string {
	s := strconv.FormatFloat(v, 'f', places, 64)
	if strings.Contains(s, ".") {
		s = strings.TrimRight(strings.TrimRight(s, "0"), ".")
	}
	return s
}

func sixteenths(inches float64) string {
	n := int(math.Round(inches * 16))
	whole, part := n/16, n%16
	if part == 0 {
		return strconv.Itoa(whole)
	}
	d := 16
	for part%2 == 0 {
		part, d = part/2, d/2
	}
	if whole == 0 {
		return fmt.Sprintf("%d/%d", part, d)
	}
	return fmt.Sprintf("%d %d/%d", whole, part, d)
}
