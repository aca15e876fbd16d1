// Package library holds the methods: the built-in ones and the owner's own,
// brought in as files, copied, or made from a recipe.
package library

import (
	"context"
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"time"

	"gorm.io/gorm"

	"tidykiln/core/craft"
	"tidykiln/internal/database"
	"tidykiln/internal/document"
	"tidykiln/internal/problem"
)

// Methods maps the library by key: the built-in methods and the owner's own.
type Methods map[string]craft.Method

// OwnMethod is a method of the owner's.
type OwnMethod struct {
	ID        uint64
	MethodKey string
	Document  craft.Method `gorm:"serializer:json"`
	// Source is the file as it was brought in.
	Source     string
	CreatedAt  time.Time
	ArchivedAt *time.Time
	Version    int
}

func (OwnMethod) TableName() string { return "methods" }

// MethodEntry is a method with what the library shows of it.
type MethodEntry struct {
	craft.Method
	BuiltIn bool           `json:"builtIn"`
	Schools []craft.School `json:"schools" nullable:"false" doc:"questions on which practitioners differ"`
	// Cautions are those that go with its steps on its first surface.
	StepCautions [][]string `json:"stepCautions" nullable:"false"`
	UsedBy       int        `json:"usedBy" doc:"products made with it"`
}

// MethodName is a new name for a copy.
type MethodName struct {
	Name string `json:"name" minLength:"1" maxLength:"120"`
}

// MethodFile is a method written as a file, as text.
type MethodFile struct {
	Text string `json:"text" minLength:"2" maxLength:"500000" doc:"tidykiln/method@1"`
}

// Area answers for the library.
type Area struct {
	db  *database.DB
	now func() time.Time
	// used counts, by method, the products made with it.
	used func(tx *gorm.DB) (map[string]int, error)
}

// New makes the area on its database and clock; used counts, by method, what is made with it.
func New(db *database.DB, now func() time.Time, used func(tx *gorm.DB) (map[string]int, error)) *Area {
	return &Area{db, now, used}
}

// Load reads the library: built-in methods first, then the owner's.
func Load(tx *gorm.DB) (Methods, error) {
	own, err := ownMethods(tx)
	if err != nil {
		return nil, err
	}
	methods := Methods{}
	for _, m := range craft.Methods() {
		methods[m.Key] = m
	}
	for _, m := range own {
		methods[m.MethodKey] = m.Document
	}
	return methods, nil
}

func ownMethods(tx *gorm.DB) (own []OwnMethod, err error) {
	if err := tx.Where("archived_at IS NULL").Order("method_key").Find(&own).Error; err != nil {
		return nil, fmt.Errorf("reading the methods: %w", err)
	}
	return own, nil
}

// InOrder lists the methods, built-in ones first.
func (m Methods) InOrder() []craft.Method {
	list := craft.Methods()
	for _, method := range m {
		if _, builtIn := craft.MethodByKey(method.Key); !builtIn {
			list = append(list, method)
		}
	}
	slices.SortFunc(list[len(craft.Methods()):], func(a, b craft.Method) int { return strings.Compare(a.Name, b.Name) })
	return list
}

// Entries lists the methods with what each is good for.
func (a *Area) Entries(ctx context.Context) ([]MethodEntry, error) {
	return database.Look(ctx, a.db, func(tx *gorm.DB) (entries []MethodEntry, err error) {
		methods, err := Load(tx)
		if err != nil {
			return nil, err
		}
		used, err := a.used(tx)
		if err != nil {
			return nil, err
		}
		for _, m := range methods.InOrder() {
			entries = append(entries, entryOf(m, used[m.Key]))
		}
		return entries, nil
	})
}

// SchoolsOf are the questions on which practitioners of a method differ.
func SchoolsOf(m craft.Method) []craft.School {
	return append([]craft.School{}, craft.SchoolsOf(m)...)
}

func entryOf(m craft.Method, used int) MethodEntry {
	_, builtIn := craft.MethodByKey(m.Key)
	e := MethodEntry{Method: m, BuiltIn: builtIn, Schools: SchoolsOf(m), StepCautions: [][]string{}, UsedBy: used}
	for _, s := range m.Steps {
		e.StepCautions = append(e.StepCautions, append(slices.Clone(s.Cautions), craft.CautionsFor(s.Step, craft.Blank{Surface: m.Surfaces[0]})...))
	}
	return e
}

// Import brings a method file in. A method of the owner's with the same
// key is replaced; products keep their recipes.
func (a *Area) Import(ctx context.Context, file MethodFile) (e MethodEntry, err error) {
	var m craft.Method
	if err := document.DecodeJSON([]byte(file.Text), &m); err != nil {
		return e, problem.Faulty("text", err)
	}
	if err := m.Validate(); err != nil {
		return e, problem.Faulty("text", err)
	}
	return a.keepMethod(ctx, m, file.Text, true)
}

// Copy makes a method of the owner's own from another.
func (a *Area) Copy(ctx context.Context, key string, in MethodName) (e MethodEntry, err error) {
	m, err := a.method(ctx, key)
	if err != nil {
		return e, err
	}
	return a.Keep(ctx, m, in)
}

// Keep keeps a method under a name of its own.
func (a *Area) Keep(ctx context.Context, m craft.Method, in MethodName) (e MethodEntry, err error) {
	m.Name = strings.TrimSpace(in.Name)
	m.Key = keyOf(m.Name)
	if m.Key == "" {
		return e, problem.Invalid("name", "give the method a name with letters in it")
	}
	if err := m.Validate(); err != nil {
		return e, problem.Faulty("", err)
	}
	text, err := json.MarshalIndent(m, "", "  ")
	if err != nil {
		return e, fmt.Errorf("writing a method: %w", err)
	}
	return a.keepMethod(ctx, m, string(text)+"\n", false)
}

// keyOf is a key made from a name: small letters, digits and hyphens.
func keyOf(name string) string {
	var key strings.Builder
	for _, r := range strings.ToLower(name) {
		switch {
		case r >= 'a' && r <= 'z', r >= '0' && r <= '9' && key.Len() > 0:
			key.WriteRune(r)
		case key.Len() > 0 && !strings.HasSuffix(key.String(), "-"):
			key.WriteByte('-')
		}
	}
	text := key.String()
	text = strings.Trim(text[:min(40, len(text))], "-")
	if len(text) == 1 {
		text += "-method"
	}
	return text
}

func (a *Area) keepMethod(ctx context.Context, m craft.Method, source string, replace bool) (e MethodEntry, err error) {
	if _, builtIn := craft.MethodByKey(m.Key); builtIn {
		return e, problem.Invalid(fieldOf(replace), "%q is a built-in method, and those stay as they are; choose another name", m.Key)
	}
	err = a.db.Write(ctx, database.Products, func(tx *gorm.DB) error {
		var rows []OwnMethod
		if err := tx.Where("method_key = ?", m.Key).Find(&rows).Error; err != nil {
			return fmt.Errorf("reading the methods: %w", err)
		}
		row := OwnMethod{MethodKey: m.Key, Document: m, Source: source, CreatedAt: a.now(), Version: 1}
		if len(rows) == 0 {
			return tx.Create(&row).Error
		}
		if rows[0].ArchivedAt == nil && !replace {
			return problem.Invalid("name", "there is a method of yours with this name already")
		}
		row.Version = rows[0].Version + 1
		return tx.Model(&OwnMethod{}).Where("id = ?", rows[0].ID).Select("Document", "Source", "ArchivedAt", "Version").Updates(&row).Error
	})
	return entryOf(m, 0), err
}

func fieldOf(file bool) string {
	if file {
		return "text.key"
	}
	return "name"
}

func (a *Area) method(ctx context.Context, key string) (craft.Method, error) {
	return database.Look(ctx, a.db, func(tx *gorm.DB) (craft.Method, error) {
		methods, err := Load(tx)
		if err != nil {
			return craft.Method{}, err
		}
		m, known := methods[key]
		if !known {
			return m, problem.NotFound("method")
		}
		return m, nil
	})
}

// Export writes a method as a file: one that was brought in just as it
// was, others in the same format.
func (a *Area) Export(ctx context.Context, key string) (text []byte, err error) {
	if m, builtIn := craft.MethodByKey(key); builtIn {
		text, err = json.MarshalIndent(m, "", "  ")
		return append(text, '\n'), err
	}
	err = a.db.Read(ctx, func(tx *gorm.DB) error {
		var m OwnMethod
		if err := tx.Where("method_key = ? AND archived_at IS NULL", key).First(&m).Error; err != nil {
			return problem.OrNotFound(err, "method")
		}
		text = []byte(m.Source)
		return nil
	})
	return text, err
}

// Archive takes a method of the owner's out of the library. Products
// made with it keep their recipes, and their checks need it, so it must be unused.
func (a *Area) Archive(ctx context.Context, key string) error {
	if _, builtIn := craft.MethodByKey(key); builtIn {
		return problem.Conflict(problem.BuiltIn, "Built-in methods stay.")
	}
	return a.db.Write(ctx, database.Products, func(tx *gorm.DB) error {
		used, err := a.used(tx)
		if err != nil {
			return err
		}
		if used[key] > 0 {
			return problem.Conflict(problem.InUse, "Products are made with this method, so it stays.")
		}
		done := tx.Model(&OwnMethod{}).Where("method_key = ? AND archived_at IS NULL", key).Update("archived_at", a.now())
		if done.Error != nil {
			return fmt.Errorf("archiving a method: %w", done.Error)
		}
		if done.RowsAffected == 0 {
			return problem.NotFound("method")
		}
		return nil
	})
}
