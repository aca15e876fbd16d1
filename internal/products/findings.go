package products

import (
	"context"
	"fmt"
	"slices"
	"strings"
	"time"

	"gorm.io/gorm"

	"tidykiln/core/check"
	"tidykiln/core/craft"
	"tidykiln/internal/database"
	"tidykiln/internal/problem"
	"tidykiln/internal/wire"
	"tidykiln/internal/workshop"
)

// Finding is something about to go wrong with a product, and whether somebody
// has overruled it.
type Finding struct {
	check.Finding
	// StepID is the step it belongs to; empty when none offends by itself.
	StepID   string    `json:"stepId"`
	StepName string    `json:"stepName"`
	Override *Override `json:"override,omitempty"`
}

// Override is a stop that somebody has overruled, with the reason. It stays on
// the record when it is withdrawn.
type Override struct {
	ID          uint64     `json:"id"`
	ProductID   uint64     `json:"-"`
	Rule        string     `json:"rule"`
	StepID      string     `json:"stepId"`
	Reason      string     `json:"reason"`
	PersonID    uint64     `json:"personId"`
	MadeAt      time.Time  `json:"madeAt"`
	WithdrawnAt *time.Time `json:"withdrawnAt,omitempty"`
}

// NewOverride overrules a stop; who does so is whoever presses.
type NewOverride struct {
	Rule   string `json:"rule" minLength:"1" maxLength:"40"`
	StepID string `json:"stepId" maxLength:"60"`
	Reason string `json:"reason" minLength:"1" maxLength:"400"`
}

// Findings looks for what is about to go wrong with a product.
func (b Basis) Findings(p Product, overrides []Override) []Finding {
	room := check.Room{Celsius: b.Room.Celsius, Humidity: b.Room.Humidity}
	steps := p.Recipe.Document.Steps
	found := []Finding{}
	all := slices.Concat(b.withSizeClass(p, check.Find(b.checked(p).Problem(room))), check.Unsaid(b.checked(p)))
	slices.SortStableFunc(all, func(x, y check.Finding) int { return x.Level.Rank() - y.Level.Rank() })
	for _, f := range all {
		f.Why, f.Fix = b.Workshop.Habit.Sentence(f.Why), b.Workshop.Habit.Sentence(f.Fix)
		finding := Finding{Finding: f}
		if f.Step != nil {
			finding.StepID, finding.StepName = steps[*f.Step].ID, steps[*f.Step].Name
		}
		if i := slices.IndexFunc(overrides, func(o Override) bool {
			return o.WithdrawnAt == nil && o.Rule == f.Rule && o.StepID == finding.StepID
		}); i >= 0 && f.Level == check.Stop {
			finding.Override = &overrides[i]
		}
		found = append(found, finding)
	}
	return found
}

// withSizeClass puts among the cautions that the picture is larger than the
// smallest of the natural blanks it goes on.
func (b Basis) withSizeClass(p Product, found []check.Finding) []check.Finding {
	longer := max(p.Picture.Width, p.Picture.Height)
	for i, s := range p.Recipe.Document.Steps {
		for _, u := range s.Uses {
			m := b.Materials[u.Material]
			if m.SmallestMm == nil || float64(longer) <= *m.SmallestMm {
				continue
			}
			tips := slices.IndexFunc(found, func(f check.Finding) bool { return f.Level == check.Tip })
			if tips < 0 {
				tips = len(found)
			}
			return slices.Insert(found, tips, check.Finding{Rule: "size-class", Level: check.Caution, Step: &i,
				Why: fmt.Sprintf("The picture is %g mm, and the smallest of “%s” is %g mm: on some pieces it runs over the rim.", float64(longer), m.Name, *m.SmallestMm),
				Fix: fmt.Sprintf("Size the picture to %g mm at most, or sort the blanks into finer classes.", *m.SmallestMm)})
		}
	}
	return found
}

func (b Basis) checked(p Product) check.Product {
	picture := p.Picture
	if p.ArtworkID != nil || p.OwnPictures {
		picture.Mirrored = new(b.Methods[p.Method].MustMirror(p.Blank.ThroughBlank)) // its sheets are made here
	}
	blank := p.Blank
	if p.Design != nil {
		if gap, stands := p.Design.RimGap(blank.Shape); stands {
			blank.RimGap = &gap // as the print lies, whatever was typed
		}
	}
	return check.Product{Family: b.Methods[p.Method].Family, Blank: blank, Picture: picture, Lettered: p.Lettered, Recipe: p.Recipe.Document}
}

// withoutRoom is the basis for what is true of a product on any day.
func (b Basis) withoutRoom() Basis {
	b.Room = workshop.Room{}
	return b
}

// Stopped is the first stop that nobody has overruled, or nil. The room does
// not count: it is asked when the step is taken up.
func (b Basis) Stopped(p Product, overrides []Override) *Finding {
	for _, f := range b.withoutRoom().Findings(p, overrides) {
		if f.Level == check.Stop && f.Override == nil {
			return &f
		}
	}
	return nil
}

// OverridesInForce reads those of one product.
func OverridesInForce(tx *gorm.DB, productID uint64) ([]Override, error) {
	all, err := allOverrides(tx, productID)
	return slices.DeleteFunc(all, func(o Override) bool { return o.WithdrawnAt != nil }), err
}

// Overrule sets a stop aside, with a reason that stays on the record.
func (a *Area) Overrule(ctx context.Context, id uint64, in NewOverride) (d Detail, err error) {
	in.Reason = strings.TrimSpace(in.Reason)
	if in.Reason == "" {
		return d, problem.Invalid("reason", "say why this stop does not hold here")
	}
	return database.Answer(ctx, a.db, database.Products, func(tx *gorm.DB) (d Detail, err error) {
		p, basis, err := a.load(tx, id)
		if err != nil {
			return d, err
		}
		by := wire.Acts(ctx).PersonID
		if !slices.ContainsFunc(basis.Workshop.People, func(w workshop.Person) bool { return w.ID == by }) {
			return d, problem.Invalid("reason", "say at the top of the page who is here: it is kept with the reason")
		}
		overrides, err := OverridesInForce(tx, id)
		if err != nil {
			return d, err
		}
		stop := func(f Finding) bool {
			return f.Rule == in.Rule && f.StepID == in.StepID && f.Level == check.Stop && f.Override == nil
		}
		if !slices.ContainsFunc(basis.Findings(p, overrides), stop) {
			return d, problem.Conflict(problem.Unfit, "This stop is not there any more, or is overruled already.")
		}
		o := Override{ProductID: id, Rule: in.Rule, StepID: in.StepID, Reason: in.Reason, PersonID: by, MadeAt: a.now()}
		if err := tx.Create(&o).Error; err != nil {
			return d, fmt.Errorf("overruling a stop: %w", err)
		}
		d, err = a.detail(tx, id)
		return d, err
	})
}

// Withdraw lets a stop hold again.
func (a *Area) Withdraw(ctx context.Context, overrideID uint64) error {
	return a.db.Write(ctx, database.Products, func(tx *gorm.DB) error {
		var o Override
		if err := tx.First(&o, overrideID).Error; err != nil {
			return problem.OrNotFound(err, "override")
		}
		if o.WithdrawnAt != nil {
			return problem.Conflict(problem.TakenBack, "It was withdrawn already.")
		}
		if err := tx.Model(&o).Update("withdrawn_at", a.now()).Error; err != nil {
			return fmt.Errorf("withdrawing an override: %w", err)
		}
		return nil
	})
}

// Signature names what a pilot piece proves: method, medium, blank and paper
// together. What has been through removal once needs no pilot again.
func (b Basis) Signature(p Product) string {
	parts := []string{p.Method, string(p.Blank.Surface)}
	for _, s := range p.Recipe.Document.Steps {
		if !s.Do.Carries() {
			continue
		}
		parts = append(parts, string(s.With))
		for _, u := range s.Uses {
			if kind := b.Materials[u.Material].Kind; kind == "blank" || kind == "medium" {
				parts = append(parts, u.Material)
			}
		}
	}
	parts = append(parts, string(p.Picture.Carrier), string(p.Picture.Kind), fmt.Sprintf("%.0fg", p.Picture.Gsm))
	text := []rune(strings.Join(parts, "|"))
	return string(text[:min(len(text), 255)])
}

// mirror is what the print must be, in the words of the check.
func mirror(m craft.Method, b craft.Blank) string {
	if m.MustMirror(b.ThroughBlank) {
		return "mirrored"
	}
	return "as-is"
}
