package measure

import (
	"errors"
	"fmt"
	"math"
	"regexp"
	"strings"
)

// errNoDuration is why a text is no duration.
var errNoDuration = errors.New("write it as 45 min, 8 h or 3 d")

var (
	duration = regexp.MustCompile(`^(?:(\d+(?:[.,]\d+)?) *d)? *(?:(\d+(?:[.,]\d+)?) *h)? *(?:(\d+) *(?:min|m)?)?$`)
	bare     = regexp.MustCompile(`^\d+(?:[.,]\d+)?$`)
	lastUnit = regexp.MustCompile(`\d (d|h|min)$`)
)

// Minutes reads a duration as people type it: 45, 45 min, 8 h, 2 h 30, 1 d 4 h.
// A number alone, typed over another duration, is in the unit that stood there,
// the smallest of several: 24 over 18 h, or over 1 d 4 h, is 24 h. Over nothing it is minutes.
func Minutes(text, over string) (int, error) {
	s := strings.ToLower(strings.TrimSpace(text))
	if m := lastUnit.FindStringSubmatch(strings.TrimSpace(over)); m != nil && bare.MatchString(s) {
		s += " " + m[1]
	}
	parts := duration.FindStringSubmatch(s)
	if parts == nil || s == "" || len(s) > longestNumber {
		return 0, errNoDuration
	}
	minutes := 0.0
	for i, each := range []float64{24 * 60, 60, 1} {
		if parts[i+1] == "" {
			continue
		}
		n, err := plainNumber(parts[i+1], manner{})
		if err != nil {
			return 0, err
		}
		minutes += n.InexactFloat64() * each
	}
	if minutes > math.MaxInt32 {
		return 0, errNoDuration
	}
	return int(math.Round(minutes)), nil
}

// Duration writes minutes as they are written everywhere: 45 min, 1 h 30 min,
// 47 h, 2 d 4 h. Hours go up to two days, since that is how rests are spoken of.
// Minutes reads it back.
func Duration(minutes int) string {
	d, h := 0, minutes/60
	if minutes >= 48*60 {
		d, h = minutes/(24*60), minutes/60%24
	}
	var parts []string
	for _, p := range []struct {
		n    int
		unit string
	}{{d, "d"}, {h, "h"}, {minutes % 60, "min"}} {
		if p.n != 0 {
			parts = append(parts, fmt.Sprintf("%d %s", p.n, p.unit))
		}
	}
	if len(parts) == 0 {
		return "0 min"
	}
	return strings.Join(parts, " ")
}
