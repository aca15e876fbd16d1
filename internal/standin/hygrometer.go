// Package standin holds simulated devices. Each stands behind the same
// interface that a real one would have, and the pages call it simulated.
package standin

import (
	"math"
	"sync/atomic"
	"time"

	"tidykiln/core/weather"
)

// Hygrometer is a simulated room sensor: warmest in the afternoon, coolest
// before dawn, and cooler and damper while a rainy spell is on. The same moment
// always reads the same.
type Hygrometer struct {
	raining atomic.Bool
}

// SetRain switches the rainy spell.
func (h *Hygrometer) SetRain(raining bool) { h.raining.Store(raining) }

// Read gives the air at a moment.
func (h *Hygrometer) Read(at time.Time) (weather.Air, error) {
	hour := float64(at.Hour()) + float64(at.Minute())/60
	day := math.Sin((hour - 9) / 24 * 2 * math.Pi)
	// Two slow waves that share no period stand for the weather from day to day.
	days := float64(at.Unix()) / 86400
	drift := 0.6*math.Sin(days*1.7) + 0.4*math.Sin(days*0.61)
	air := weather.Air{Celsius: 19.4 + 1.6*day + 0.7*drift, Humidity: 0.55 - 0.04*day + 0.03*drift}
	if h.raining.Load() {
		air.Celsius -= 2.5
		air.Humidity += 0.37
	}
	air.Celsius = math.Round(air.Celsius*10) / 10
	air.Humidity = math.Round(min(0.99, air.Humidity)*100) / 100
	return air, nil
}
