package stores

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"maps"
	"reflect"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"github.com/shopspring/decimal"
	"gorm.io/gorm"

	"tidykiln/internal/document"
	"tidykiln/internal/problem"
)

// materialFields maps the columns of a table of materials to the fields of the
// form (docs/formats.md); numbers tells which of them are read as numbers.
var materialFields = []struct {
	column, field string
	number        bool
}{
	{"name", "name", false}, {"kind", "kind", false}, {"unit", "unit", false}, {"unit_cost", "unitCost", false},
	{"film_mm", "filmMm", true}, {"density", "density", true}, {"lasts", "lasts", true}, {"sheet_width_mm", "sheetWidthMm", true}, {"sheet_height_mm", "sheetHeightMm", true},
	{"shelf_life_days", "shelfLifeDays", true}, {"open_life_days", "openLifeDays", true}, {"lead_days", "leadDays", true},
	{"hazard", "hazard", false}, {"sort", "sort", false}, {"smallest_mm", "smallestMm", true},
	{"label_floor_min", "labelFloorMinutes", true}, {"label_recoat_from_min", "labelRecoatFromMinutes", true},
	{"label_recoat_to_min", "labelRecoatToMinutes", true}, {"label_cure_min", "labelCureMinutes", true},
}

// materialColumns are the header of a table of materials.
func materialColumns() document.Columns {
	known := []string{"key"}
	for _, f := range materialFields {
		known = append(known, f.column)
	}
	return document.Columns{Known: append(known, "on_hand"), Needed: []string{"name"}}
}

// usualLeadDays is what a new material has whose row does not say.
const usualLeadDays = 5

// materialRow is a row that was read: the material as it was, nil for a new one, and as it is to be.
type materialRow struct {
	was *Material
	is  Material
}

// ImportMaterials takes a table of materials in: new ones are added, known ones changed.
func (a *Area) ImportMaterials(ctx context.Context, r io.Reader, o Importing) (Import, error) {
	return a.takeIn(ctx, r, materialColumns(), o, func(tx *gorm.DB, imp *Import, f file) (func() error, error) {
		var all []Material
		if err := tx.Order("id").Find(&all).Error; err != nil {
			return nil, fmt.Errorf("reading the materials: %w", err)
		}
		known := shelve(all)
		var rows []materialRow
		form := formOf[NewMaterial]()
		for i, row := range f.rows {
			o.told("checking", i+1, len(f.rows))
			r, err := imp.readMaterial(tx, f, row, form, known)
			if err != nil {
				return nil, err
			}
			if r != nil {
				rows = append(rows, *r)
			}
		}
		return func() error { return saveMaterials(tx, rows, known, o) }, nil
	})
}

// shelved finds materials by key and by name.
type shelved struct {
	byKey  map[string]*Material
	byName map[string]*Material
}

func shelve(all []Material) shelved {
	s := shelved{map[string]*Material{}, map[string]*Material{}}
	for i, m := range all {
		s.byKey[m.MaterialKey] = &all[i]
		if m.ArchivedAt == nil {
			s.byName[strings.ToLower(m.Name)] = &all[i]
		}
	}
	return s
}

// meant is the material that a name or a key means, one taken out of the stores only by its key; nil without one.
func (s shelved) meant(text string) *Material {
	if m := s.byName[strings.ToLower(text)]; m != nil {
		return m
	}
	return s.byKey[strings.ToLower(text)]
}

var keyForm = regexp.MustCompile(`^[a-z0-9]([a-z0-9-]{0,58}[a-z0-9])?$`)

// readMaterial reads a row; nil when it is at fault, or changes nothing.
func (imp *Import) readMaterial(tx *gorm.DB, f file, row document.Row, form form, known shelved) (*materialRow, error) {
	key := row.Text("key")
	was := known.byKey[key]
	switch {
	case key != "" && !keyForm.MatchString(key):
		imp.fault(row.Line, "key", "a key is of small letters, digits and hyphens; leave it empty for a new material")
		return nil, nil
	case was != nil && was.ArchivedAt != nil:
		imp.fault(row.Line, "key", "a material with this key was taken out of the stores")
		return nil, nil
	case key == "":
		was = known.byName[strings.ToLower(row.Text("name"))]
	}
	before := fieldsOf(was)
	fields, unread := imp.fieldsIn(f, row, before)
	if was != nil && was.Counted {
		fields["unitCost"] = before["unitCost"] // it follows from what is left
	}
	var in NewMaterial
	faults, err := form.fill(fields, &in)
	for _, fault := range faults {
		if column := columnOf(fault.Location); !slices.Contains(unread, column) {
			imp.fault(row.Line, column, fault.Message)
		}
	}
	if err != nil || len(faults) > 0 || len(unread) > 0 {
		return nil, err
	}
	is := Material{MaterialKey: key, MaterialForm: in.MaterialForm, UnitCost: decimal.RequireFromString(in.UnitCost), Version: 1}
	if may, err := imp.mayBe(tx, row, &is, was, known); err != nil || !may {
		return nil, err
	}
	changes := changesOf(before, fields)
	switch {
	case was == nil:
		imp.act(row.Line, true, is.Name, fmt.Sprintf("%s, %s a %s", is.Kind, in.UnitCost, is.Unit))
	case len(changes) == 0:
		imp.Same++
		return nil, nil
	default:
		imp.act(row.Line, false, was.Name, strings.Join(changes, ", "))
	}
	return &materialRow{was, is}, nil
}

// fieldsOf are the fields that a material has, or that a new one begins with.
func fieldsOf(m *Material) map[string]any {
	if m == nil {
		return map[string]any{"leadDays": float64(usualLeadDays), "hazard": "", "sort": ""}
	}
	fields := map[string]any{}
	text, err := json.Marshal(NewMaterial{MaterialForm: m.MaterialForm, UnitCost: m.UnitCost.String()})
	if err == nil {
		err = json.Unmarshal(text, &fields)
	}
	if err != nil {
		panic(err) // a form is always JSON
	}
	return fields
}

// fieldsIn lays what the row says over the fields there were. unread are the
// columns whose numbers cannot be read, which is noted.
func (imp *Import) fieldsIn(f file, row document.Row, before map[string]any) (fields map[string]any, unread []string) {
	fields = maps.Clone(before)
	for _, c := range materialFields {
		if !row.Has(c.column) {
			continue
		}
		text := row.Text(c.column)
		if c.number || c.column == "unit_cost" {
			plain, err := f.Number(row, c.column)
			if err != nil {
				unread = append(unread, c.column)
				imp.fault(row.Line, c.column, faultIn(err))
				continue
			}
			text = plain
		}
		switch {
		case c.number && text == "" && c.field == "leadDays":
		case c.number && text == "":
			delete(fields, c.field)
		case c.number:
			v, err := strconv.ParseFloat(text, 64)
			if err != nil {
				unread = append(unread, c.column)
				imp.fault(row.Line, c.column, "this is beyond what a number can be here")
			}
			fields[c.field] = v
		default:
			fields[c.field] = text
		}
	}
	return fields, unread
}

func faultIn(err error) string {
	var fault *document.Fault
	if errors.As(err, &fault) {
		return fault.Message
	}
	return err.Error()
}

func columnOf(field string) string {
	for _, c := range materialFields {
		if c.field == field {
			return c.column
		}
	}
	return field
}

// mayBe checks what concerns other materials, and what was there before.
func (imp *Import) mayBe(tx *gorm.DB, row document.Row, is, was *Material, known shelved) (bool, error) {
	refuse := func(err error) (bool, error) {
		var refused *problem.Problem
		if !errors.As(err, &refused) {
			return false, err
		}
		imp.fault(row.Line, columnOf(strings.TrimPrefix(refused.Errors[0].Location, "body.")), refused.Detail)
		return false, nil
	}
	if err := is.check(); err != nil {
		return refuse(err)
	}
	if was != nil {
		is.ID, is.MaterialKey, is.Version = was.ID, was.MaterialKey, was.Version+1
		if err := mayChangeUnit(tx, *was, is.Unit); err != nil {
			return refuse(err)
		}
	}
	for _, named := range [][2]string{{"key", is.MaterialKey}, {"name", strings.ToLower(is.Name)}} {
		line, twice := imp.seen[named[0]+" "+named[1]]
		if twice && named[1] != "" {
			imp.fault(row.Line, named[0], fmt.Sprintf("this %s is on line %d already", named[0], line))
			return false, nil
		}
		imp.seen[named[0]+" "+named[1]] = row.Line
	}
	if other := known.byName[strings.ToLower(is.Name)]; other != nil && (was == nil || other.ID != was.ID) {
		imp.fault(row.Line, "name", "there is a material of this name already, with the key "+other.MaterialKey)
		return false, nil
	}
	return true, nil
}

// changesOf says what a row changes, column by column.
func changesOf(before, fields map[string]any) (changes []string) {
	for _, c := range materialFields {
		was, is := before[c.field], fields[c.field]
		if reflect.DeepEqual(was, is) || c.field == "unitCost" && sameAmount(was, is) {
			continue
		}
		changes = append(changes, fmt.Sprintf("%s %s → %s", c.column, shown(was), shown(is)))
	}
	return changes
}

func sameAmount(a, b any) bool {
	left, isText := a.(string)
	right, isToo := b.(string)
	if !isText || !isToo {
		return false
	}
	l, err := decimal.NewFromString(left)
	r, err2 := decimal.NewFromString(right)
	return err == nil && err2 == nil && l.Equal(r)
}

func shown(v any) string {
	if v == nil || v == "" {
		return "none"
	}
	return fmt.Sprint(v)
}

// saveMaterials writes the rows, new materials in a few statements.
func saveMaterials(tx *gorm.DB, rows []materialRow, known shelved, o Importing) error {
	var added []Material
	for i, r := range rows {
		o.told("saving", i+1, len(rows))
		if r.was != nil {
			if err := saveMaterial(tx, r.is); err != nil {
				return err
			}
			continue
		}
		if r.is.MaterialKey == "" {
			r.is.MaterialKey = untaken(keyOf(r.is.Name), func(key string) bool { return known.byKey[key] != nil })
		}
		known.byKey[r.is.MaterialKey] = &r.is
		added = append(added, r.is)
	}
	if err := tx.CreateInBatches(added, atOnce).Error; err != nil {
		return fmt.Errorf("adding the materials: %w", err)
	}
	return nil
}
