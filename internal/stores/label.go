package stores

import (
	"context"
	"slices"

	"gorm.io/gorm"

	"tidykiln/core/craft"
	"tidykiln/core/measure"
	"tidykiln/internal/database"
	"tidykiln/internal/problem"
)

// LabelForm is what the label of a material says of its rests, in minutes.
// Recipes keep to it wherever the material is laid.
type LabelForm struct {
	// LabelRead says that somebody has looked, so that nobody is asked again.
	LabelRead              bool `json:"labelRead,omitempty"`
	LabelFloorMinutes      *int `json:"labelFloorMinutes,omitempty" minimum:"0" maximum:"86400" doc:"shortest rest after it is laid"`
	LabelRecoatFromMinutes *int `json:"labelRecoatFromMinutes,omitempty" minimum:"0" maximum:"86400" doc:"another coat may follow from then"`
	LabelRecoatToMinutes   *int `json:"labelRecoatToMinutes,omitempty" minimum:"1" maximum:"86400" doc:"another coat must have followed by then"`
	LabelCureMinutes       *int `json:"labelCureMinutes,omitempty" minimum:"0" maximum:"86400" doc:"cured through, from its last coat"`
}

// LabelChange is what is read on a label.
type LabelChange struct {
	LabelForm
	Version int `json:"version" minimum:"1"`
}

// laid are the kinds of materials that are laid or coated, and rest then.
func (k Kind) laid() bool {
	return slices.Contains([]Kind{"medium", "paint", "sealer", "ink", "finish"}, k)
}

// check refuses what no label can say. Whoever gives a figure has looked.
func (f *LabelForm) check(k Kind) error {
	said := f.LabelFloorMinutes != nil || f.LabelRecoatFromMinutes != nil || f.LabelRecoatToMinutes != nil || f.LabelCureMinutes != nil
	switch {
	case said && !k.laid():
		return problem.Invalid("labelFloorMinutes", "only what is laid or coated rests by its label")
	case f.LabelRecoatToMinutes != nil && f.LabelRecoatFromMinutes == nil:
		return problem.Invalid("labelRecoatFromMinutes", "say from when, too")
	case f.LabelRecoatToMinutes != nil && *f.LabelRecoatToMinutes < *f.LabelRecoatFromMinutes:
		return problem.Invalid("labelRecoatToMinutes", "this is before another coat may follow, %s", measure.Duration(*f.LabelRecoatFromMinutes))
	}
	f.LabelRead = f.LabelRead || said
	return nil
}

// Label is what recipes keep to.
func (m Material) Label() craft.Label {
	l := craft.Label{Floor: m.LabelFloorMinutes, RecoatFrom: m.LabelRecoatFromMinutes, RecoatTo: m.LabelRecoatToMinutes, Cure: m.LabelCureMinutes, Medium: m.Kind == "medium"}
	if m.FilmMm != nil {
		l.Film = measure.Length(*m.FilmMm)
	}
	return l
}

// Labels are those of all materials.
func (m Materials) Labels() craft.Labels {
	labels := make(craft.Labels, len(m))
	for key, material := range m {
		if material.Kind.laid() {
			labels[key] = material.Label()
		}
	}
	return labels
}

// ReadLabel keeps what a material's label says of its rests, or that it says nothing.
func (a *Area) ReadLabel(ctx context.Context, id uint64, c LabelChange) (m Material, err error) {
	return database.Answer(ctx, a.db, database.Stores, func(tx *gorm.DB) (m Material, err error) {
		if m, err = loadMaterial(tx, id); err != nil {
			return m, err
		}
		if err := problem.IfStale(c.Version, m.Version, "%s was changed by someone since you opened it.", m.Name); err != nil {
			return m, err
		}
		c.LabelRead = true
		if err := c.check(m.Kind); err != nil {
			return m, err
		}
		m.LabelForm = c.LabelForm
		m.Version++
		return m, saveMaterial(tx, m)
	})
}
