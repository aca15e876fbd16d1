package planning

import (
	"cmp"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"maps"
	"slices"
	"strings"
	"time"

	"gorm.io/gorm"
	"gorm.io/gorm/clause"

	"tidykiln/core/calendar"
	"tidykiln/core/craft"
	"tidykiln/core/measure"
	"tidykiln/internal/batches"
	"tidykiln/internal/database"
	"tidykiln/internal/fulfilment"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
)

// Suggestion is open demand that is best made together, and why.
type Suggestion struct {
	// Key names it: another number of pieces wanted makes another suggestion.
	Key     string           `json:"key"`
	Batches []SuggestedBatch `json:"batches" minItems:"1" nullable:"false"`
	DueOn   calendar.Date    `json:"dueOn" format:"date" doc:"the first of them"`
	// StartAt is when the plan would begin, StartBy the latest by which
	// it is to be begun for all of its dues at usual rests; nil where that is past.
	StartAt *time.Time `json:"startAt,omitempty"`
	StartBy *time.Time `json:"startBy,omitempty"`
	// late tells that it misses a due as it is planned, pressed that it holds them only at shorter rests.
	late, pressed bool
	// SavesMinutes are the set-ups that are paid once rather than by each batch.
	SavesMinutes int      `json:"savesMinutes"`
	Reasons      []string `json:"reasons" nullable:"false"`
}

// SuggestedBatch is a batch of one product as it is suggested.
type SuggestedBatch struct {
	Product string `json:"product"`
	Wanted  int    `json:"wanted"`
	// Free are pieces more that the last sheet has room for.
	Free    int    `json:"free"`
	Stopped string `json:"stopped" doc:"a check that nobody has overruled; empty when none"`
	batches.NewBatch
}

// dismissed is a row: a suggestion that is not wanted.
type dismissed struct {
	Suggestion  string `gorm:"primaryKey"`
	DismissedAt time.Time
}

func (dismissed) TableName() string { return "dismissed_suggestions" }

// Suggestions are the batches suggested, the most urgent first.
func (a *Area) Suggestions(ctx context.Context) ([]Suggestion, error) {
	s, err := a.Current(ctx)
	if err != nil {
		return nil, err
	}
	var demand []fulfilment.Demand
	var gone []dismissed
	err = a.db.Read(ctx, func(tx *gorm.DB) (err error) {
		if demand, err = fulfilment.Demanded(tx, s.Basis, s.Logbook, s.Products, s.Wants); err != nil {
			return err
		}
		if err := tx.Find(&gone).Error; err != nil {
			return fmt.Errorf("reading what was dismissed: %w", err)
		}
		return nil
	})
	if err != nil {
		return nil, err
	}
	list := s.suggest(demand)
	return slices.DeleteFunc(list, func(one Suggestion) bool {
		return slices.ContainsFunc(gone, func(d dismissed) bool { return d.Suggestion == one.Key })
	}), nil
}

// wantedProduct is what is wanted of a product, with what it is made by.
type wantedProduct struct {
	fulfilment.Demand
	product products.Product
	recipe  craft.Recipe
	// short is how many pieces the shelf lacks of its goal.
	short int
}

// dueOn is the first day for which it is wanted.
func (w wantedProduct) dueOn() calendar.Date {
	due := OrLast("")
	if len(w.Wants) > 0 {
		due = OrLast(w.Wants[0].DueOn)
	}
	if w.short > 0 && *w.product.GoalOn < due {
		due = *w.product.GoalOn
	}
	return due
}

// pieces is how many are to be started.
func (w wantedProduct) pieces() int { return len(w.Wants) + w.Extras }

// likeWithin is how many days the first dues of what is made together lie apart at most.
const likeWithin = 14

// suggest groups open demand by what it is made with, base, medium and finish.
func (s *Schedule) suggest(demand []fulfilment.Demand) []Suggestion {
	groups := map[string][]wantedProduct{}
	for _, d := range demand {
		i := slices.IndexFunc(s.Products, func(p products.Product) bool { return p.ID == d.ProductID })
		if i < 0 || d.LotSize == 0 {
			continue
		}
		w := wantedProduct{d, s.Products[i], s.Products[i].Bench(), s.shortOfGoal(s.Products[i])}
		if w.short > 0 {
			w.Extras = s.Logbook.Start(w.product, len(d.Wants)+w.short, s.Basis.Workshop.Confidence) - len(d.Wants)
			w.Lots = craft.Lots(w.pieces(), d.LotSize)
		}
		if w.pieces() == 0 {
			continue
		}
		groups[w.made()] = append(groups[w.made()], w)
	}
	list := []Suggestion{}
	for _, key := range slices.Sorted(maps.Keys(groups)) {
		group := groups[key]
		slices.SortStableFunc(group, func(a, b wantedProduct) int { return cmp.Compare(a.dueOn(), b.dueOn()) })
		for len(group) > 0 {
			n := 1
			for n < len(group) && group[n].dueOn() <= group[0].dueOn().Add(likeWithin) {
				n++
			}
			list = append(list, s.suggestion(group[:n]))
			group = group[n:]
		}
	}
	slices.SortStableFunc(list, func(a, b Suggestion) int { return cmp.Compare(OrLast(a.DueOn), OrLast(b.DueOn)) })
	return list
}

// made is what a product is made with: what is the same for two, goes together.
func (w wantedProduct) made() string {
	kins := []string{w.recipe.Method}
	for i, step := range w.recipe.Steps {
		if slices.ContainsFunc(step.Kinds(), func(d craft.Do) bool { return d.Carries() || d == craft.PaintBase || d == craft.Seal }) {
			if kin := w.recipe.Kin(i); !slices.Contains(kins, kin) {
				kins = append(kins, kin)
			}
		}
	}
	return strings.Join(kins, "; ")
}

func (s *Schedule) suggestion(group []wantedProduct) (one Suggestion) {
	one = Suggestion{DueOn: group[0].dueOn(), Reasons: []string{}}
	var key []string
	for _, w := range group {
		b := SuggestedBatch{Product: w.ProductName, Wanted: len(w.Wants), Stopped: w.Stopped,
			NewBatch: batches.NewBatch{ProductID: w.ProductID, WantIDs: []uint64{}, Extras: w.Extras, Lots: w.Lots, Pilot: w.Pilot != "" && w.short == 0 && len(w.Lots) > 1}}
		for _, want := range w.Wants {
			b.WantIDs = append(b.WantIDs, want.WantID)
			key = append(key, fmt.Sprint(want.WantID))
		}
		if w.short > 0 {
			key = append(key, fmt.Sprintf("goal %d %d %s", w.ProductID, w.product.GoalPieces, *w.product.GoalOn))
		}
		if !w.product.Distinct() && w.OnSheet >= 1 {
			b.Free = freePrints(w.pieces(), w.OnSheet)
		}
		one.Batches = append(one.Batches, b)
		s.place(&one, w)
	}
	slices.Sort(key)
	sum := sha256.Sum256([]byte(strings.Join(key, ",")))
	one.Key = hex.EncodeToString(sum[:16])
	one.SavesMinutes = savedTogether(group)
	s.reasons(&one, group)
	return one
}

// place notes when the plan would make a product, and by when it must be begun.
func (s *Schedule) place(one *Suggestion, w wantedProduct) {
	for _, j := range s.Jobs {
		if j.Lot != nil || j.ProductID != w.ProductID || len(j.Placed) == 0 {
			continue
		}
		start := j.Placed[0].Start
		if one.StartAt == nil || start.Before(*one.StartAt) {
			one.StartAt = &start
		}
		if j.Done == nil || j.Due == nil {
			continue
		}
		one.late = one.late || j.Done.After(*j.Due)
		by := s.latestStart(j)
		one.pressed = one.pressed || by == nil
		if by != nil && (one.StartBy == nil || by.Before(*one.StartBy)) {
			one.StartBy = by
		}
	}
}

// freePrints is how many prints more the last sheet has room for.
func freePrints(pieces int, onSheet float64) int {
	const dust = 1e-9
	sheets := int((float64(pieces)-dust)/onSheet) + 1
	return max(0, int(float64(sheets)*onSheet+dust)-pieces)
}

// savedTogether are the set-ups, in minutes, that like steps of several products
// pay once rather than each.
func savedTogether(group []wantedProduct) (saved int) {
	setups := map[string][]int{}
	for _, w := range group {
		own := map[string]int{}
		for i, step := range w.recipe.Steps {
			own[w.recipe.Kin(i)] += step.WholeSetup(w.pieces())
		}
		for kin, minutes := range own {
			setups[kin] = append(setups[kin], minutes)
		}
	}
	for _, each := range setups {
		for _, minutes := range each {
			saved += minutes
		}
		saved -= slices.Max(each)
	}
	return saved
}

// reasons say why these are suggested, a sentence each.
func (s *Schedule) reasons(one *Suggestion, group []wantedProduct) {
	say := func(format string, args ...any) { one.Reasons = append(one.Reasons, fmt.Sprintf(format, args...)) }
	if len(group) > 1 {
		say("They are made alike: %s. Together they pay each set-up once, %s less than apart.", s.alike(group[0]), measure.Duration(one.SavesMinutes))
	}
	switch {
	case one.late:
		say("As it is planned it misses its day already: every day it waits makes that worse.")
	case one.pressed:
		say("It is to be begun now: at usual rests there is no time left to wait.")
	case one.StartBy != nil:
		say("It is to be begun by %s at the latest, and then holds every due if hands are free when it needs them.", s.momentInWords(*one.StartBy))
	}
	for i, w := range group {
		if w.short > 0 {
			say("%s of %s to lie ready by %s, in the gaps that orders leave.", measure.Count(w.short, "piece"), w.ProductName, s.Basis.Workshop.Habit.DayAndMonth(w.product.GoalOn.At(12*60, s.Location())))
		}
		if against := w.Extras - w.short; against > 0 {
			say("%s more of %s against spoils, as the logbook and the recipe have them.", measure.Count(against, "piece"), w.ProductName)
		}
		if free := one.Batches[i].Free; free > 0 {
			say("%s more of %s would fill the last sheet: their prints ride free.", measure.Count(free, "piece"), w.ProductName)
		}
	}
}

// alike says by what method a product is made, and with what.
func (s *Schedule) alike(w wantedProduct) string {
	var works []string
	for _, step := range w.recipe.Steps {
		if slices.ContainsFunc(step.Kinds(), func(d craft.Do) bool { return d.Carries() || d == craft.PaintBase || d == craft.Seal }) {
			if name := strings.ToLower(WorkOf(step)); !slices.Contains(works, name) {
				works = append(works, name)
			}
		}
	}
	return strings.Join(works, ", ") + ", the same way"
}

// Accepted are the suggested batches as they are to be made up.
type Accepted struct {
	Batches []batches.NewBatch `json:"batches" minItems:"1" maxItems:"20" nullable:"false"`
}

// MadeUp are the numbers of the batches made up.
type MadeUp struct {
	Numbers []int `json:"numbers" nullable:"false"`
}

// AcceptSuggestion makes up all batches of a suggestion, or none.
func (a *Area) AcceptSuggestion(ctx context.Context, in Accepted) (made MadeUp, err error) {
	return database.Answer(ctx, a.db, database.Batches, func(tx *gorm.DB) (made MadeUp, err error) {
		for i, one := range in.Batches {
			b, err := a.batches.MakeIn(tx, one)
			if err != nil {
				return made, problem.Beneath(fmt.Sprintf("batches[%d]", i), err)
			}
			made.Numbers = append(made.Numbers, b.Number)
		}
		return made, nil
	})
}

// Dismissed names a suggestion that is not wanted.
type Dismissed struct {
	Key string `json:"key" pattern:"^[0-9a-f]{32}$" patternDescription:"the key of a suggestion"`
}

// Dismiss leaves a suggestion out until other pieces are wanted; back brings it again.
func (a *Area) Dismiss(ctx context.Context, in Dismissed) error {
	return a.db.Write(ctx, database.Batches, func(tx *gorm.DB) error {
		err := tx.Clauses(clause.OnConflict{DoNothing: true}).Create(&dismissed{in.Key, a.now()}).Error
		// What was dismissed for long is about wants that are long served.
		return errors.Join(err, tx.Where("dismissed_at < ?", a.now().AddDate(0, -6, 0)).Delete(&dismissed{}).Error)
	})
}

// Recall brings a suggestion back that was dismissed.
func (a *Area) Recall(ctx context.Context, in Dismissed) error {
	return a.db.Write(ctx, database.Batches, func(tx *gorm.DB) error {
		return tx.Where("suggestion = ?", in.Key).Delete(&dismissed{}).Error
	})
}
