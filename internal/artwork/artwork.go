// Package artwork keeps pictures: their files, what their pixels say, and who may
// use them on what ground.
package artwork

import (
	"context"
	"fmt"
	"image"
	"path"
	"slices"
	"strings"
	"time"
	"unicode"

	lru "github.com/hashicorp/golang-lru/v2"
	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/core/craft"
	"tidykiln/core/picture"
	"tidykiln/internal/background"
	"tidykiln/internal/database"
	"tidykiln/internal/problem"
)

// State is how far a picture has come.
type State string

const (
	// Reading: it has come and is not looked at yet.
	Reading State = "reading"
	// Ready: it can be used.
	Ready State = "ready"
	// Refused: it turned out to be no picture that can be worked with.
	Refused State = "refused"
)

// Artwork is a picture that somebody has put in. Its files are named by the SHA-256
// of what is in them: Original as it came; Print upright, in sRGB, on white, without
// what the camera noted; View and Thumb smaller for pages.
type Artwork struct {
	ID       uint64 `json:"id"`
	Title    string `json:"title"`
	FileName string `json:"fileName" seen:"makers"`
	State    State  `json:"state" enum:"reading,ready,refused"`
	// Refusal says why it was refused, and the way out.
	Refusal       string  `json:"refusal,omitempty"`
	Original      string  `json:"original"`
	OriginalBytes int64   `json:"originalBytes"`
	Print         *string `json:"print,omitempty"`
	View          *string `json:"view,omitempty"`
	Thumb         *string `json:"thumb,omitempty"`
	// Pixels are measured when it is read; empty until then.
	Pixels picture.Pixels `json:"pixels" gorm:"serializer:json"`
	// Notes say what was done to it when it was read.
	Notes []string `json:"notes" seen:"makers" gorm:"serializer:json" nullable:"false"`
	Standing
	background.Claim
	CreatedAt  time.Time  `json:"createdAt"`
	ArchivedAt *time.Time `json:"-"`
	Version    int        `json:"version"`
}

// Standing is what people know of a picture: on what ground it may be used, whom it
// shows, whether there is lettering in it.
type Standing struct {
	Rights     craft.Rights `json:"rights" enum:"own,permission,out-of-copyright,customer,unknown"`
	RightsNote string       `json:"rightsNote" seen:"makers" maxLength:"300" doc:"by whom, from where"`
	// RightsOn is the day of the permission, or when it was made; nil when not known.
	RightsOn    *calendar.Date `json:"rightsOn,omitempty" format:"date"`
	ShowsPeople bool           `json:"showsPeople"`
	Consent     string         `json:"consent" maxLength:"300" doc:"who of the people shown agreed, and to what"`
	Lettering   bool           `json:"lettering" doc:"there is lettering in it"`
}

// ArtworkChange is what can be changed of a picture.
type ArtworkChange struct {
	Title string `json:"title" minLength:"1" maxLength:"120"`
	Standing
	Version int `json:"version" minimum:"1"`
}

// Taken is what became of a file that was sent.
type Taken struct {
	ID uint64 `json:"id"`
	// Already tells that the same file is here under this title.
	Already string `json:"already,omitempty"`
}

// Area answers for pictures.
type Area struct {
	db    *database.DB
	now   func() time.Time
	files *Files
	uses  []Use
	helds []Held
	// others tell which files are kept for what was made of pictures.
	others  []func(tx *gorm.DB, hashes []string) ([]string, error)
	reading *background.Queue[Artwork]
	// viewed are the pixels of the views last looked at: whoever places a picture asks
	// for the same one over and over.
	viewed *lru.Cache[string, *image.RGBA]
}

// Use says in words what uses a picture; empty where nothing of its kind does.
type Use func(tx *gorm.DB, id uint64) (string, error)

// Held are pictures whose files stay though they were put away, since something was
// made with them.
type Held func(tx *gorm.DB) ([]uint64, error)

// mostViewed views are kept as pixels, at most viewSide² of four bytes each.
const mostViewed = 4

// New makes the area on its database and clock.
func New(db *database.DB, now func() time.Time, uses []Use, helds []Held, others ...func(tx *gorm.DB, hashes []string) ([]string, error)) *Area {
	viewed, err := lru.New[string, *image.RGBA](mostViewed)
	if err != nil {
		panic(err) // only ever of a size below one
	}
	return &Area{db: db, now: now, uses: uses, helds: helds, others: others, viewed: viewed,
		reading: background.NewQueue[Artwork](db, now, string(Reading), claimedFor)}
}

// used says what uses a picture, in words; empty when nothing does.
func (a *Area) used(tx *gorm.DB, id uint64) (string, error) {
	for _, use := range a.uses {
		if words, err := use(tx, id); err != nil || words != "" {
			return words, err
		}
	}
	return "", nil
}

// held are the pictures whose files stay though they were put away.
func (a *Area) held(tx *gorm.DB) (ids []uint64, err error) {
	for _, held := range a.helds {
		more, err := held(tx)
		if err != nil {
			return nil, err
		}
		ids = append(ids, more...)
	}
	return ids, nil
}

// FromCustomer notes of pictures of which nobody said on what ground they may be used
// that they are the customer's own.
func FromCustomer(tx *gorm.DB, ids []uint64, note string) error {
	err := tx.Model(&Artwork{}).Where("id IN ? AND rights = ?", ids, craft.RightsUnknown).Updates(map[string]any{"rights": craft.RightsCustomer, "rights_note": note}).Error
	if err != nil {
		return fmt.Errorf("noting whose pictures these are: %w", err)
	}
	return nil
}

// KeepIn says where files are kept. Until then none can be taken in.
func (a *Area) KeepIn(f *Files) { a.files = f }

// List is the pictures that were not put away, the newest first.
func (a *Area) List(ctx context.Context) ([]Artwork, error) {
	return database.Look(ctx, a.db, func(tx *gorm.DB) (list []Artwork, err error) {
		list = []Artwork{}
		if err := tx.Where("archived_at IS NULL").Order("id DESC").Limit(mostListed).Find(&list).Error; err != nil {
			return nil, fmt.Errorf("reading the pictures: %w", err)
		}
		return list, nil
	})
}

// mostListed bounds the gallery.
const mostListed = 2000

// Get is one picture.
func (a *Area) Get(ctx context.Context, id uint64) (Artwork, error) {
	return database.Look(ctx, a.db, func(tx *gorm.DB) (Artwork, error) { return Load(tx, id) })
}

// Load reads one picture that was not put away.
func Load(tx *gorm.DB, id uint64) (p Artwork, err error) {
	return p, problem.OrNotFound(tx.Where("archived_at IS NULL").First(&p, id).Error, "picture")
}

// ByID maps pictures by their number, those put away included: what was made with
// one keeps it.
func ByID(tx *gorm.DB, ids []uint64) (map[uint64]Artwork, error) {
	var list []Artwork
	if err := tx.Where("id IN ?", ids).Find(&list).Error; err != nil {
		return nil, fmt.Errorf("reading the pictures: %w", err)
	}
	by := make(map[uint64]Artwork, len(list))
	for _, p := range list {
		by[p.ID] = p
	}
	return by, nil
}

// Change writes what people know of a picture.
func (a *Area) Change(ctx context.Context, id uint64, in ArtworkChange) error {
	title := strings.TrimSpace(in.Title)
	if title == "" {
		return problem.Invalid("title", "give it a title")
	}
	if in.ShowsPeople && in.Rights == craft.RightsOwn && strings.TrimSpace(in.Consent) == "" {
		return problem.Invalid("consent", "say who of the people shown agreed to its use: the photo is yours, their faces are not")
	}
	return a.db.Write(ctx, database.Artwork|database.Products, func(tx *gorm.DB) error {
		p, err := Load(tx, id)
		if err != nil {
			return err
		}
		if err := problem.IfStale(in.Version, p.Version, "This picture was changed by someone since you opened it: it is now %q.", p.Title); err != nil {
			return err
		}
		p.Title, p.Standing = title, in.Standing
		p.Version++
		if err := tx.Save(&p).Error; err != nil {
			return fmt.Errorf("saving a picture: %w", err)
		}
		return nil
	})
}

// Archive puts a picture away that nothing uses; Restore takes it out again. Its
// files are cleared away some days later.
func (a *Area) Archive(ctx context.Context, id uint64) error {
	return a.db.Write(ctx, database.Artwork, func(tx *gorm.DB) error {
		p, err := Load(tx, id)
		if err != nil {
			return err
		}
		use, err := a.used(tx, id)
		if err != nil {
			return err
		}
		if use != "" {
			return problem.Conflict(problem.InUse, "%s uses %q, so it stays. Give that another picture first.", use, p.Title)
		}
		return setArchived(tx, id, a.now())
	})
}

// Forget drops pictures of a person's, whose files are cleared away within the hour. Those
// that something else was made with stay, without telling whose they were.
func (a *Area) Forget(tx *gorm.DB, ids []uint64) error {
	held, err := a.held(tx)
	if err != nil {
		return err
	}
	for _, id := range ids {
		use, err := a.used(tx, id)
		if err != nil {
			return err
		}
		if use != "" || slices.Contains(held, id) {
			without := map[string]any{"title": "Picture", "file_name": "picture", "rights_note": "", "consent": ""}
			err = tx.Model(&Artwork{}).Where("id = ?", id).Updates(without).Error
		} else {
			err = tx.Delete(&Artwork{}, id).Error
		}
		if err != nil {
			return fmt.Errorf("dropping a picture: %w", err)
		}
		columns := []string{"title", "file_name", "rights_note", "consent", "notes"}
		if err := database.Redact(tx, "artworks", []uint64{id}, "picture of a person’s", columns...); err != nil {
			return err
		}
	}
	return nil
}

// Restore takes a picture out again that was put away, while its files are there.
func (a *Area) Restore(ctx context.Context, id uint64) error {
	return a.db.Write(ctx, database.Artwork, func(tx *gorm.DB) error {
		var p Artwork
		if err := tx.First(&p, id).Error; err != nil {
			return problem.OrNotFound(err, "picture")
		}
		if p.ArchivedAt == nil {
			return nil
		}
		if a.now().Sub(*p.ArchivedAt) >= keptAway {
			return problem.Conflict(problem.TakenBack, "It was put away too long ago: its file is gone. Put it in again.")
		}
		return setArchived(tx, id, nil)
	})
}

func setArchived(tx *gorm.DB, id uint64, at any) error {
	if err := tx.Model(&Artwork{}).Where("id = ?", id).Update("archived_at", at).Error; err != nil {
		return fmt.Errorf("putting a picture away: %w", err)
	}
	return nil
}

// longestTitle bounds a title made from a file's name.
const longestTitle = 60

// titleOf is the title that a file's name suggests: without its folders and its
// ending, and with spaces for what stands between words there.
func titleOf(name string) string {
	name = baseOf(name)
	name = strings.TrimSuffix(name, path.Ext(name))
	name = strings.Join(strings.FieldsFunc(name, func(r rune) bool { return r == '_' || unicode.IsSpace(r) || unicode.IsControl(r) }), " ")
	if runes := []rune(name); len(runes) > longestTitle {
		name = strings.TrimSpace(string(runes[:longestTitle]))
	}
	if name == "" {
		return "Picture"
	}
	return name
}

// baseOf is a file's name without folders, however they are written.
func baseOf(name string) string {
	name = name[strings.LastIndexAny(name, `/\`)+1:]
	name = strings.Map(func(r rune) rune {
		if unicode.IsControl(r) {
			return -1
		}
		return r
	}, strings.ToValidUTF8(name, ""))
	if runes := []rune(name); len(runes) > 200 {
		name = string(runes[:200])
	}
	return name
}
