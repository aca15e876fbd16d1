// Package stock reckons with what lies in the stores: pack sizes as people
// write them, which purchase is used first and what a unit costs, the cheapest
// packs to buy, and when a material runs out. Quantities and money are exact.
package stock

import (
	"errors"
	"fmt"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"github.com/shopspring/decimal"

	"tidykiln/core/measure"
)

// Unit is what a material is counted in.
type Unit string

const (
	Millilitre   Unit = "ml"
	Gram         Unit = "g"
	Metre        Unit = "m"
	Piece        Unit = "piece"
	Sheet        Unit = "sheet"
	Page         Unit = "page"
	KilowattHour Unit = "kWh"
)

// Units lists the units a material can be counted in.
func Units() []Unit { return []Unit{Millilitre, Gram, Metre, Piece, Sheet, Page, KilowattHour} }

// Places is how many decimals a quantity is kept with.
const Places = 6

// most is the largest quantity of anything, in its own unit.
const most = 10_000_000

// ErrNeedsDensity says that a weight was given of what is counted by volume, or
// the other way round, and nobody has said how heavy it is.
var ErrNeedsDensity = errors.New("it is counted by volume and given by weight, or the other way round: say its density first (g per ml, on the label or its data sheet)")

// named are quantities that have a name of their own, by unit.
var named = map[Unit]map[string]int64{
	Sheet: {"ream": 500, "quire": 25},
	Piece: {"pair": 2, "dozen": 12, "gross": 144},
}

// plain are the words for a unit that is only counted.
var plain = map[Unit][]string{
	Piece:        {"piece", "pieces", "pc", "pcs", "ea", "each", "blank", "blanks"},
	Sheet:        {"sheet", "sheets", "a4", "a3", "letter", "a4 sheets", "a3 sheets", "letter sheets"},
	Page:         {"page", "pages"},
	KilowattHour: {"kwh"},
}

var (
	times     = regexp.MustCompile(`^(\d{1,5})\s*[x×*]\s*(.+)$`)
	container = regexp.MustCompile(`^(?:a |an )?(?:pack|packet|box|bag|jar|bottle|tin|can|tub|roll|reel|cartridge|carton|set)s? of `)
	sized     = regexp.MustCompile(`^(?:a4|a3|letter) `)
)

// Material is what has to be known of a material to read a quantity of it.
type Material struct {
	Unit Unit
	// Density is in grams per millilitre; nil when nobody has said.
	Density *float64
}

// ReadPack reads a pack as people write it ("2 × 473 ml", "16 fl oz", "A4 ream",
// "roll of 20 m", "50") and returns its quantity in the material's own unit,
// over 0, with six decimals. A bare number is taken in that unit.
func (m Material) ReadPack(text string) (decimal.Decimal, error) {
	s := strings.Join(strings.Fields(strings.ToLower(text)), " ")
	switch {
	case s == "":
		return decimal.Zero, fmt.Errorf("say how much is in it, such as %s", m.example())
	case len(s) > 60:
		return decimal.Zero, errors.New("that is too long to be a pack")
	}
	count := int64(1)
	if parts := times.FindStringSubmatch(s); parts != nil {
		n, err := strconv.ParseInt(parts[1], 10, 64)
		if err != nil || n == 0 {
			return decimal.Zero, fmt.Errorf("%q is not a number of packs", parts[1])
		}
		count, s = n, parts[2]
	}
	s = container.ReplaceAllString(s, "")
	each, err := m.amount(s, text)
	if err != nil {
		return decimal.Zero, err
	}
	quantity := each.Mul(decimal.NewFromInt(count)).Round(Places)
	if !quantity.IsPositive() || quantity.GreaterThan(decimal.NewFromInt(most)) {
		return decimal.Zero, fmt.Errorf("must be over 0 and at most %d %s", most, m.Unit)
	}
	return quantity, nil
}

func (m Material) amount(s, text string) (decimal.Decimal, error) {
	if n, known := named[m.Unit][sized.ReplaceAllString(s, "")]; known {
		return decimal.NewFromInt(n), nil
	}
	for name, n := range named[m.Unit] {
		if head, found := strings.CutSuffix(strings.TrimSuffix(s, "s"), " "+name); found {
			many, err := measure.Number(sized.ReplaceAllString(head, ""))
			return many.Mul(decimal.NewFromInt(n)), err
		}
	}
	if v, err := m.number(s); err == nil || ambiguous(err) {
		return v, err
	}
	for _, word := range plain[m.Unit] {
		if head, found := strings.CutSuffix(s, " "+word); found {
			if v, err := m.number(head); err == nil || ambiguous(err) {
				return v, err
			}
		}
	}
	if v, known, err := m.measured(s); known {
		return v, err
	}
	return decimal.Zero, fmt.Errorf("%q is not an amount of something counted in %s; write it such as %s", text, m.Unit, m.example())
}

// measured reads volumes, weights and lengths; known tells that it was one.
func (m Material) measured(s string) (v decimal.Decimal, known bool, err error) {
	switch m.Unit {
	case Metre:
		l, err := measure.ParseLength(s, measure.Metric)
		return exact(float64(l) / 1000), err == nil || ambiguous(err), asked(err)
	case Millilitre, Gram:
	default:
		return v, false, nil
	}
	volume, err := measure.ParseVolume(s, measure.Metric)
	if ambiguous(err) {
		return v, true, err
	}
	if err == nil {
		if m.Unit == Millilitre {
			return exact(float64(volume)), true, nil
		}
		v, err = m.weighed(func(density float64) float64 { return float64(volume) * density })
		return v, true, err
	}
	mass, err := measure.ParseMass(s, measure.Metric)
	if err != nil {
		return v, ambiguous(err), asked(err)
	}
	if m.Unit == Gram {
		return exact(float64(mass)), true, nil
	}
	v, err = m.weighed(func(density float64) float64 { return float64(mass) / density })
	return v, true, err
}

func (m Material) weighed(convert func(density float64) float64) (decimal.Decimal, error) {
	if m.Density == nil || !(*m.Density > 0) {
		return decimal.Zero, ErrNeedsDensity
	}
	return exact(convert(*m.Density)), nil
}

// number reads a number of the material: of what is counted, nobody writes thousandths.
func (m Material) number(s string) (decimal.Decimal, error) {
	if m.Unit == Piece || m.Unit == Sheet || m.Unit == Page {
		return measure.Counted(s)
	}
	return measure.Number(s)
}

// ambiguous tells a number that has to be asked about from what is no number.
func ambiguous(err error) bool {
	var asked *measure.Ambiguous
	return errors.As(err, &asked)
}

// asked is the error where it is one that has to be asked about.
func asked(err error) error {
	if ambiguous(err) {
		return err
	}
	return nil
}

// exact keeps a measured quantity with six decimals.
func exact(v float64) decimal.Decimal {
	if math.IsNaN(v) || math.IsInf(v, 0) {
		return decimal.Zero
	}
	return decimal.NewFromFloat(v).Round(Places)
}

// example is a pack as it could be written.
func (m Material) example() string {
	switch m.Unit {
	case Millilitre:
		return "2 × 473 ml or 16 fl oz"
	case Gram:
		return "250 g or 1 lb"
	case Metre:
		return "roll of 20 m"
	case Sheet:
		return "A4 ream or 25 sheets"
	case Page:
		return "2300 pages"
	case KilowattHour:
		return "1 kWh"
	}
	return "50 or box of 12"
}

// Known tells whether the unit is one of Units.
func (u Unit) Known() bool { return slices.Contains(Units(), u) }
