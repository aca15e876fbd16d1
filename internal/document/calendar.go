package document

import (
	"io"
	"time"

	ics "github.com/arran4/golang-ical"
)

// Calendar is what a calendar program reads (RFC 5545).
type Calendar struct {
	Name     string
	TimeZone string
	Now      time.Time
	Events   []CalendarEvent
}

// CalendarEvent is one entry. Its ID stays the same from file to file, so that
// what is read again replaces what was there.
type CalendarEvent struct {
	ID           string
	Start, End   time.Time
	Title, About string
}

// WriteCalendar writes an iCalendar file.
func WriteCalendar(w io.Writer, c Calendar) error {
	calendar := ics.NewCalendar()
	calendar.SetProductId("-//Tidy Kiln//Plan//EN")
	calendar.SetMethod(ics.MethodPublish)
	calendar.SetXWRCalName(c.Name)
	calendar.SetXWRTimezone(c.TimeZone)
	for _, e := range c.Events {
		event := calendar.AddEvent(e.ID)
		event.SetDtStampTime(c.Now)
		event.SetStartAt(e.Start)
		event.SetEndAt(e.End)
		event.SetSummary(e.Title)
		event.SetDescription(e.About)
	}
	// The format ends lines as Windows does, wherever it is written.
	return calendar.SerializeTo(w, ics.WithNewLineWindows)
}
