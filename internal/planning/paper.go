package planning

import (
	"bytes"
	"context"
	"fmt"
	"strings"
	"time"

	"tidykiln/core/calendar"
	"tidykiln/core/measure"
	"tidykiln/internal/document"
	"tidykiln/internal/wire"
)

// sitting is what one person does in one go, lot after lot, as it is planned or in hand.
type sitting struct {
	person     string
	work       string
	start, end time.Time
	hands      []Hands
}

// sittingGap is the longest break after which like work is still in one go.
const sittingGap = 10 * time.Minute

// sittings are what is to be done between two moments, by when it begins.
func (s *Schedule) sittings(from, to time.Time) (all []*sitting) {
	last := map[uint64]*sitting{}
	hands, _ := s.bars()
	for _, h := range hands {
		if h.State != BarPlanned && h.State != BarInHand || !h.Start.Before(to) || !h.End.After(from) {
			continue
		}
		g := last[h.PersonID]
		if g == nil || g.work != h.Work || h.Start.After(g.end.Add(sittingGap)) {
			g = &sitting{person: h.Person, work: h.Work, start: h.Start}
			all = append(all, g)
			last[h.PersonID] = g
		}
		g.hands = append(g.hands, h)
		if h.End.After(g.end) {
			g.end = h.End
		}
	}
	return all
}

// lots names the lots of a sitting.
func (g sitting) lots() string {
	lots := make([]string, len(g.hands))
	for i, h := range g.hands {
		lots[i] = fmt.Sprintf("%d × %s (batch %d, lot %d)", h.Pieces, h.Product, h.Batch, h.Lot)
		if _, part, has := strings.Cut(h.Name, ", "); has {
			lots[i] = fmt.Sprintf("%d × %s, %s (batch %d, lot %d)", h.Pieces, h.Product, part, h.Batch, h.Lot)
		}
	}
	return strings.Join(lots, "; ")
}

func (g sitting) pieces() (n int) {
	for _, h := range g.hands {
		n += h.Pieces
	}
	return n
}

// WeekOnPaper is seven days of the plan as a PDF, a line a sitting.
func (a *Area) WeekOnPaper(ctx context.Context, from calendar.Date) (*wire.File, error) {
	s, err := a.Current(ctx)
	if err != nil {
		return nil, err
	}
	rows, err := s.rows(from, 7)
	if err != nil {
		return nil, err
	}
	habit, in := s.Basis.Workshop.Habit, s.Location()
	first := rows[0].Date.At(12*60, in)
	paper := document.WeekPlan{Title: "The plan from " + first.Format("Monday ") + habit.DayAndMonth(first),
		Foot: fmt.Sprintf("%s, as planned %s, %s", s.Basis.Workshop.Name, habit.DayAndMonth(s.PlannedAt.In(in)), habit.Time(s.PlannedAt.In(in)))}
	for _, row := range rows {
		noon := row.Date.At(12*60, in)
		day := document.PlanDay{Name: noon.Format("Monday ") + habit.DayAndMonth(noon), Said: s.daySaid(row)}
		for _, g := range s.sittings(row.Start, row.End) {
			if g.start.Before(row.Start) {
				continue // it stands on the day it begins
			}
			day.Lines = append(day.Lines, document.PlanLine{When: habit.Time(g.start.In(in)) + " – " + habit.Time(g.end.In(in)), Who: g.person,
				Work: g.work + ", " + measure.Count(g.pieces(), "piece"), Lots: g.lots()})
		}
		paper.Days = append(paper.Days, day)
	}
	var out bytes.Buffer
	if err := document.WriteWeekPlan(&out, paper); err != nil {
		return nil, err
	}
	return wire.NewFile("application/pdf", fmt.Sprintf("plan-%s.pdf", rows[0].Date), out.Bytes()), nil
}

// daySaid is when there are hands on a day, and what is due at its end.
func (s *Schedule) daySaid(d Day) string {
	habit, in := s.Basis.Workshop.Habit, s.Location()
	said := "closed"
	if n := len(d.Open); n > 0 {
		said = "hands " + habit.Time(d.Open[0].Start.In(in)) + " – " + habit.Time(d.Open[n-1].End.In(in))
	}
	for i, due := range d.Dues {
		if i == 0 {
			said += "; due: "
		} else {
			said += ", "
		}
		said += fmt.Sprintf("%d for %s", due.Pieces, due.Customer)
	}
	return said
}

// calendarDays is how far ahead the calendar's file reaches.
const calendarDays = 42

// InCalendar is what is planned as an iCalendar file, an entry a sitting.
func (a *Area) InCalendar(ctx context.Context) (*wire.File, error) {
	s, err := a.Current(ctx)
	if err != nil {
		return nil, err
	}
	c := document.Calendar{Name: s.Basis.Workshop.Name, TimeZone: s.Basis.Workshop.TimeZone, Now: s.Now}
	for _, g := range s.sittings(s.Now, s.Now.AddDate(0, 0, calendarDays)) {
		h := g.hands[0]
		c.Events = append(c.Events, document.CalendarEvent{ID: fmt.Sprintf("lot-%d-step-%d@tidykiln", h.LotID, h.Step), Start: g.start, End: g.end,
			Title: fmt.Sprintf("%s, %s: %s", g.work, measure.Count(g.pieces(), "piece"), g.person), About: strings.ReplaceAll(g.lots(), "; ", "\n")})
	}
	var out bytes.Buffer
	if err := document.WriteCalendar(&out, c); err != nil {
		return nil, err
	}
	return wire.NewFile("text/calendar; charset=utf-8", "plan.ics", out.Bytes()), nil
}
