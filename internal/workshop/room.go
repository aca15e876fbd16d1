package workshop

import (
	"context"
	"errors"
	"fmt"
	"time"

	"gorm.io/gorm"

	"tidykiln/core/craft"
	"tidykiln/core/weather"
	"tidykiln/internal/database"
	"tidykiln/internal/problem"
)

// Hygrometer measures the room's air.
type Hygrometer interface {
	Read(at time.Time) (weather.Air, error)
}

// Simulated is a hygrometer that is no instrument: its weather can be asked for.
type Simulated interface {
	SetRain(raining bool)
}

// Room is the air that the work is done in, as the pages show it.
type Room struct {
	// Celsius and Humidity are of the last reading; nil until there is one.
	Celsius  *float64   `json:"celsius,omitempty"`
	Humidity *float64   `json:"humidity,omitempty" doc:"relative, from 0 to 1"`
	ReadAt   *time.Time `json:"readAt,omitempty"`
	Raining  bool       `json:"raining" doc:"the simulated rainy spell is on"`
	// Simulated says that the sensor is none; Simulating, that it is asked to make up readings all the same.
	Simulated  bool `json:"simulated" gorm:"-"`
	Simulating bool `json:"simulating" doc:"the simulated sensor is switched on"`
	// Lowest is the coldest of the last 24 hours, which counts for a rest through the night.
	Lowest *float64   `json:"lowest,omitempty" gorm:"-"`
	Hours  []RoomHour `json:"hours" gorm:"-" nullable:"false" doc:"the last 24 hours that were read, oldest first"`
	// DrySlower and CureSlower are the factors by which such rests take longer in this air.
	DrySlower  float64 `json:"drySlower" gorm:"-"`
	CureSlower float64 `json:"cureSlower" gorm:"-"`
	Advice     string  `json:"advice" gorm:"-" doc:"empty when there is nothing to mind"`
}

func (Room) TableName() string { return "room" }

// RoomHour is the air of an hour: the mean of its readings, and the lowest.
type RoomHour struct {
	Hour     time.Time `json:"hour" gorm:"primaryKey"`
	Celsius  float64   `json:"celsius"`
	Lowest   float64   `json:"lowest"`
	Humidity float64   `json:"humidity"`
	Readings int       `json:"-"`
}

// Air is the last reading; ok is false until there is one.
func (r Room) Air() (air weather.Air, ok bool) {
	if r.Celsius == nil || r.Humidity == nil {
		return air, false
	}
	return weather.Air{Celsius: *r.Celsius, Humidity: *r.Humidity}, true
}

// Day is the air of the hours that were read in the last 24.
func (r Room) Day() (day []weather.Air) {
	for _, h := range r.Hours {
		day = append(day, weather.Air{Celsius: h.Celsius, Humidity: h.Humidity})
	}
	return day
}

// readingHolds is how long a reading says something of the room: after that the
// sensor counts as silent.
const readingHolds = 30 * time.Minute

// LoadRoom reads the room with its last day. A reading that is too old is no reading.
func LoadRoom(tx *gorm.DB, now time.Time) (r Room, err error) {
	err = errors.Join(
		tx.Take(&r).Error,
		tx.Where("hour > ? AND hour <= ?", now.Add(-24*time.Hour), now).Order("hour").Find(&r.Hours).Error,
	)
	if err != nil {
		return r, fmt.Errorf("reading the room: %w", err)
	}
	if r.ReadAt != nil && (now.Sub(*r.ReadAt) > readingHolds || r.ReadAt.After(now.Add(time.Minute))) {
		r.Celsius, r.Humidity, r.ReadAt = nil, nil, nil
	}
	for _, h := range r.Hours {
		if r.Lowest == nil || h.Lowest < *r.Lowest {
			r.Lowest = &h.Lowest
		}
	}
	r.advise()
	return r, nil
}

func (r *Room) advise() {
	r.DrySlower, r.CureSlower = 1, 1
	air, ok := r.Air()
	if !ok {
		return
	}
	r.DrySlower, r.CureSlower = air.Slows("dry"), air.Slows("cure")
	switch {
	case air.Celsius < craft.TooCold:
		r.Advice = fmt.Sprintf("Under %g °C: lay, seal and paint nothing water-based now.", craft.TooCold)
	case r.Lowest != nil && *r.Lowest < craft.TooCold:
		r.Advice = fmt.Sprintf("It fell under %g °C in the last day: leave nothing water-based to rest through the night.", craft.TooCold)
	case air.Humidity > craft.TooDamp:
		r.Advice = fmt.Sprintf("Over %g %% damp: coats dry badly. Air or dry the room.", craft.TooDamp*100)
	case max(r.DrySlower, r.CureSlower) >= 1.25:
		r.Advice = fmt.Sprintf("Rests take longer in this air: drying by %.0f %%, curing by %.0f %%.", (r.DrySlower-1)*100, (r.CureSlower-1)*100)
	}
}

// Cold says in a sentence why nothing water-based should be laid now, for a
// rest of so many minutes; empty when the room is warm enough or not known.
func (r Room) Cold(restMinutes int) string {
	air, ok := r.Air()
	switch {
	case !ok:
		return ""
	case air.Celsius < craft.TooCold:
		return fmt.Sprintf("The room is at %.0f °C, and under %g °C water-based films do not form.", air.Celsius, craft.TooCold)
	case restMinutes >= 6*60 && r.Lowest != nil && *r.Lowest < craft.TooCold:
		return fmt.Sprintf("The room fell to %.0f °C in the last day, and this rests through the night: under %g °C water-based films do not form.", *r.Lowest, craft.TooCold)
	}
	return ""
}

// Room shows the room as it is now.
func (a *Area) Room(ctx context.Context) (r Room, err error) {
	err = a.db.Read(ctx, func(tx *gorm.DB) error {
		r, err = LoadRoom(tx, a.now())
		return err
	})
	_, r.Simulated = a.hygrometer.(Simulated)
	return r, err
}

// RoomChange is what can be changed of the room.
type RoomChange struct {
	Simulating bool `json:"simulating"`
	Raining    bool `json:"raining"`
}

// ChangeRoom switches the simulated sensor and its rainy spell, and reads the
// room afresh. What a simulated sensor has made up goes when it is switched off.
func (a *Area) ChangeRoom(ctx context.Context, c RoomChange) (Room, error) {
	sensor, ok := a.hygrometer.(Simulated)
	if !ok {
		return Room{}, problem.Conflict(problem.Unfit, "The sensor is a real one: its weather cannot be chosen.")
	}
	sensor.SetRain(c.Raining)
	at := a.now().UTC()
	air, err := a.hygrometer.Read(at)
	if err != nil {
		return Room{}, fmt.Errorf("reading the hygrometer: %w", err)
	}
	r, err := database.Answer(ctx, a.db, database.Room, func(tx *gorm.DB) (r Room, err error) {
		switched := tx.Model(&Room{}).Where("id = 1").Updates(map[string]any{"raining": c.Raining, "simulating": c.Simulating}).Error
		if c.Simulating {
			err = errors.Join(switched, keepReading(tx, at, air))
		} else {
			err = errors.Join(switched, forgetReadings(tx))
		}
		if err != nil {
			return r, fmt.Errorf("switching the simulated sensor: %w", err)
		}
		r, err = LoadRoom(tx, at)
		r.Simulated = true
		return r, err
	})
	if err != nil {
		// What was not kept does not hold for the next reading either.
		if is, readErr := a.Room(ctx); readErr == nil {
			sensor.SetRain(is.Raining)
		}
	}
	return r, err
}

func forgetReadings(tx *gorm.DB) error {
	return errors.Join(
		tx.Model(&Room{}).Where("id = 1").Updates(map[string]any{"celsius": nil, "humidity": nil, "read_at": nil}).Error,
		tx.Where("TRUE").Delete(&RoomHour{}).Error,
	)
}

// KeepReading reads the sensor and keeps the reading in its hour. A simulated
// one that is switched off is not read.
func (a *Area) KeepReading(ctx context.Context) error {
	if _, simulated := a.hygrometer.(Simulated); simulated {
		if r, err := a.Room(ctx); err != nil || !r.Simulating {
			return err
		}
	}
	at := a.now().UTC()
	air, err := a.hygrometer.Read(at)
	if err != nil {
		return fmt.Errorf("reading the hygrometer: %w", err)
	}
	return a.db.Write(ctx, database.Room, func(tx *gorm.DB) error { return keepReading(tx, at, air) })
}

func keepReading(tx *gorm.DB, at time.Time, air weather.Air) error {
	err := errors.Join(
		tx.Model(&Room{}).Where("id = 1").Updates(map[string]any{"celsius": air.Celsius, "humidity": air.Humidity, "read_at": at}).Error,
		tx.Exec(`INSERT INTO room_hours (hour, celsius, lowest, humidity, readings) VALUES (?, ?, ?, ?, 1)
			ON DUPLICATE KEY UPDATE celsius = (celsius * readings + VALUES(celsius)) / (readings + 1), humidity = (humidity * readings + VALUES(humidity)) / (readings + 1),
			lowest = LEAST(lowest, VALUES(lowest)), readings = readings + 1`, at.Truncate(time.Hour), air.Celsius, air.Celsius, air.Humidity).Error,
		tx.Where("hour < ?", at.AddDate(-1, 0, 0)).Delete(&RoomHour{}).Error,
	)
	if err != nil {
		return fmt.Errorf("keeping a reading of the room: %w", err)
	}
	return nil
}

// WatchRoom keeps a reading a minute until ctx ends. What fails is given to
// report, and the next minute tries again.
func (a *Area) WatchRoom(ctx context.Context, report func(error)) {
	if sensor, ok := a.hygrometer.(Simulated); ok {
		if r, err := a.Room(ctx); err == nil {
			sensor.SetRain(r.Raining)
		} else if ctx.Err() == nil {
			report(err)
		}
	}
	minute := time.NewTicker(time.Minute)
	defer minute.Stop()
	for {
		if err := a.KeepReading(ctx); err != nil && ctx.Err() == nil {
			report(err)
		}
		select {
		case <-ctx.Done():
			return
		case <-minute.C:
		}
	}
}
