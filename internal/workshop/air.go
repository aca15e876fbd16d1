package workshop

import (
	"fmt"
	"time"

	"gorm.io/gorm"
)

// AirBetween is the room's air over a stretch of time, or at a moment, as far as
// it was read; nil where it was not.
type AirBetween struct {
	Celsius, Lowest, Humidity *float64
}

// LoadAir reads the room's air between two moments: the mean over their hours,
// and the lowest.
func LoadAir(tx *gorm.DB, from, to time.Time) (air AirBetween, err error) {
	err = tx.Model(&RoomHour{}).Select("AVG(celsius) AS celsius, MIN(lowest) AS lowest, AVG(humidity) AS humidity").
		Where("hour >= ? AND hour <= ?", from.UTC().Truncate(time.Hour), to.UTC()).Scan(&air).Error
	if err != nil {
		return air, fmt.Errorf("reading the room's air: %w", err)
	}
	return air, nil
}
