package artwork

import (
	"bytes"
	"context"
	"errors"
	"fmt"
	"image"
	"image/draw"
	"log/slog"
	"net/http"
	"slices"
	"strings"
	"time"

	"gorm.io/gorm"

	"tidykiln/core/craft"
	"tidykiln/core/picture"
	"tidykiln/internal/background"
	"tidykiln/internal/database"
	"tidykiln/internal/problem"
)

// MostBytes is how large a picture's file may be.
const MostBytes = 60 << 20

// keepWithin is how long keeping a file may take, once it has come.
const keepWithin = 30 * time.Second

// Take takes a file in under the name it had. It can be used once it has been read,
// which happens after the answer; what cannot be a picture is refused at once.
func (a *Area) Take(ctx context.Context, name string, content []byte) (t Taken, err error) {
	if _, err := checkHead(content); err != nil {
		words, _ := isRefusal(err)
		return t, problem.Invalid("", "%s", words)
	}
	if a.files == nil {
		return t, errors.New("no place is set up for pictures")
	}
	ctx, done := context.WithTimeout(ctx, keepWithin)
	defer done()
	hash, err := a.files.Keep(ctx, content)
	if err != nil {
		return t, err
	}
	t, err = database.Answer(ctx, a.db, database.Artwork, func(tx *gorm.DB) (t Taken, err error) {
		var there []Artwork
		if err := tx.Where("original = ? AND archived_at IS NULL AND state <> ?", hash, Refused).Order("id").Limit(1).Find(&there).Error; err != nil {
			return t, fmt.Errorf("looking for a picture: %w", err)
		}
		if len(there) > 0 {
			return Taken{ID: there[0].ID, Already: there[0].Title}, nil
		}
		p := Artwork{Title: titleOf(name), FileName: baseOf(name), State: Reading, Original: hash, OriginalBytes: int64(len(content)),
			Notes: []string{}, Standing: Standing{Rights: craft.RightsUnknown}, CreatedAt: a.now(), Version: 1}
		if err := tx.Create(&p).Error; err != nil {
			return t, fmt.Errorf("adding a picture: %w", err)
		}
		return Taken{ID: p.ID}, nil
	})
	a.reading.Wake()
	return t, err
}

const (
	// claimedFor is how long a server may have a picture in hand before another takes it up.
	claimedFor = 5 * time.Minute
	// sweepEvery is how often files that nothing uses are cleared away, keptAway how
	// long a picture that was put away can be taken out again.
	sweepEvery = time.Hour
	keptAway   = 7 * 24 * time.Hour
)

// KeepReading reads pictures as they come, one at a time, and clears files away that
// nothing uses, until ctx ends.
func (a *Area) KeepReading(ctx context.Context, report func(error)) {
	swept := time.Now()
	next := func(ctx context.Context) (more bool, err error) {
		if time.Since(swept) >= sweepEvery {
			swept = time.Now()
			if err := a.Sweep(ctx); err != nil {
				return true, err
			}
		}
		return a.ReadNext(ctx)
	}
	a.reading.Keep(ctx, next, report)
}

// ReadNext reads the picture that has waited longest; more tells that there was one.
func (a *Area) ReadNext(ctx context.Context) (more bool, err error) {
	p, err := a.reading.Next(ctx)
	if err != nil || p == nil {
		return false, err
	}
	done, err := a.read(ctx, *p)
	if words, is := isRefusal(err); is {
		done, err = map[string]any{"state": Refused, "refusal": words}, nil
	}
	if err != nil {
		return false, err
	}
	done["claimed_until"] = nil
	return true, a.db.Write(ctx, database.Artwork|database.Products, func(tx *gorm.DB) error {
		if err := tx.Model(&Artwork{}).Where("id = ? AND state = ?", p.ID, Reading).Updates(done).Error; err != nil {
			return fmt.Errorf("noting what a picture is: %w", err)
		}
		return nil
	})
}

// Sizes of what pages show, by the longer side in pixels, and how well what came with
// loss is kept.
const (
	viewSide     = 1400
	thumbSide    = 360
	printQuality = 95
	pageQuality  = 82
)

// read looks at a picture and keeps what is made of it; the columns to write.
func (a *Area) read(ctx context.Context, p Artwork) (map[string]any, error) {
	if p.Tries >= background.MostTries {
		return nil, refused("Reading this picture was begun %d times and never ended. Save it as PNG or JPEG, smaller if it is large, and put that in.", p.Tries)
	}
	content, err := a.files.Read(ctx, p.Original)
	if err != nil {
		return nil, err
	}
	if content == nil {
		return nil, refused("Its file is not where pictures are kept any more. Put it in again.")
	}
	u, err := decode(content)
	if err != nil {
		return nil, err
	}
	view := within(u.pixels, viewSide)
	columns := map[string]any{"state": Ready, "notes": database.JSON(append([]string{}, u.notes...)), "pixels": database.JSON(picture.Measure(u.pixels))}
	small := within(view, thumbSide)
	for _, made := range []struct {
		column  string
		content func() ([]byte, error)
	}{
		{"print", func() ([]byte, error) { return encoded(u.pixels, u.sharp, printQuality) }},
		{"view", func() ([]byte, error) { return encoded(view, u.sharp, pageQuality) }},
		{"thumb", func() ([]byte, error) { return encoded(small, false, pageQuality) }},
	} {
		content, err := made.content()
		if err != nil {
			return nil, err
		}
		if columns[made.column], err = a.files.Keep(ctx, content); err != nil {
			return nil, err
		}
	}
	slog.DebugContext(ctx, "picture read", "id", p.ID)
	return columns, nil
}

// Sweep clears away the files that no picture uses, and those of pictures that were
// put away long ago; what has just come is left alone.
func (a *Area) Sweep(ctx context.Context) error {
	if a.files == nil {
		return nil
	}
	_, err := a.files.Sweep(ctx, time.Now().Add(-sweepEvery), func(hashes []string) (map[string]bool, error) {
		return database.Look(ctx, a.db, func(tx *gorm.DB) (map[string]bool, error) { return a.keptFiles(tx, hashes) })
	})
	return err
}

// keptFiles tells which of these files are some picture's.
func (a *Area) keptFiles(tx *gorm.DB, hashes []string) (map[string]bool, error) {
	asked := make(map[string]bool, len(hashes))
	for _, h := range hashes {
		asked[h] = true
	}
	held, err := a.held(tx)
	if err != nil {
		return nil, err
	}
	var rows []Artwork
	err = tx.Select("id", "original", "print", "view", "thumb").
		Where("archived_at IS NULL OR archived_at > ? OR id IN ?", a.now().Add(-keptAway), held).Find(&rows).Error
	if err != nil {
		return nil, fmt.Errorf("reading the pictures: %w", err)
	}
	kept := map[string]bool{}
	for _, p := range rows {
		for _, h := range []*string{&p.Original, p.Print, p.View, p.Thumb} {
			if h != nil && asked[*h] {
				kept[*h] = true
			}
		}
	}
	for _, others := range a.others {
		hashes, err := others(tx, hashes)
		if err != nil {
			return nil, err
		}
		for _, h := range hashes {
			kept[h] = true
		}
	}
	return kept, nil
}

// FileOf is a file for a page, and its media type; nil where there is none.
func (a *Area) FileOf(ctx context.Context, hash string) (content []byte, mediaType string, err error) {
	if a.files == nil || len(hash) != 64 || strings.Trim(hash, "0123456789abcdef") != "" {
		return nil, "", nil
	}
	content, err = a.files.Read(ctx, hash)
	if err != nil || content == nil {
		return nil, "", err
	}
	return content, http.DetectContentType(content), nil
}

// KeepFile keeps what was made of pictures; it is cleared away when nothing uses it.
func (a *Area) KeepFile(ctx context.Context, content []byte) (hash string, err error) {
	if a.files == nil {
		return "", errors.New("no place is set up for pictures")
	}
	return a.files.Keep(ctx, content)
}

// Cleaned is a picture as a clean-up leaves it, in the size that pages show.
func (a *Area) Cleaned(ctx context.Context, id uint64, clean picture.CleanUp) ([]byte, error) {
	p, err := database.Look(ctx, a.db, func(tx *gorm.DB) (p Artwork, err error) {
		return p, problem.OrNotFound(tx.First(&p, id).Error, "picture")
	})
	if err != nil {
		return nil, err
	}
	if p.View == nil {
		return nil, problem.NotFound("picture")
	}
	img, err := a.Pixels(ctx, *p.View)
	if err != nil {
		return nil, err
	}
	if img == nil {
		return nil, problem.NotFound("picture")
	}
	img = &image.RGBA{Pix: slices.Clone(img.Pix), Stride: img.Stride, Rect: img.Rect}
	clean.Apply(img)
	return encoded(img, clean.Colours == picture.BlackOnly || clean.Colours == picture.Lines, pageQuality)
}

// Image is a file of a picture, upright and opaque; nil where there is none.
func (a *Area) Image(ctx context.Context, hash string) (image.Image, error) {
	content, _, err := a.FileOf(ctx, hash)
	if err != nil || content == nil {
		return nil, err
	}
	img, _, err := image.Decode(bytes.NewReader(content))
	if err != nil {
		return nil, fmt.Errorf("reading a picture that was kept: %w", err)
	}
	return img, nil
}

// Pixels is Image as pixels, which whoever gets them shares with others and leaves as
// they are.
func (a *Area) Pixels(ctx context.Context, hash string) (*image.RGBA, error) {
	if pixels, is := a.viewed.Get(hash); is {
		return pixels, nil
	}
	pixels, err := a.pixels(ctx, hash)
	if pixels != nil && pixels.Rect.Dx() <= viewSide && pixels.Rect.Dy() <= viewSide {
		a.viewed.Add(hash, pixels)
	}
	return pixels, err
}

func (a *Area) pixels(ctx context.Context, hash string) (*image.RGBA, error) {
	img, err := a.Image(ctx, hash)
	if err != nil || img == nil {
		return nil, err
	}
	if rgba, is := img.(*image.RGBA); is {
		return rgba, nil
	}
	rgba := image.NewRGBA(image.Rect(0, 0, img.Bounds().Dx(), img.Bounds().Dy()))
	draw.Draw(rgba, rgba.Rect, img, img.Bounds().Min, draw.Src)
	return rgba, nil
}

// Originals are pictures' files as they came, by the names they had.
func (a *Area) Originals(ctx context.Context, tx *gorm.DB, ids []uint64) (map[string][]byte, error) {
	var rows []Artwork
	if err := tx.Select("id", "file_name", "original").Where("id IN ?", ids).Find(&rows).Error; err != nil {
		return nil, fmt.Errorf("reading pictures: %w", err)
	}
	files := map[string][]byte{}
	for _, p := range rows {
		content, _, err := a.FileOf(ctx, p.Original)
		if err != nil {
			return nil, err
		}
		if content != nil {
			files[fmt.Sprintf("%d %s", p.ID, baseOf(p.FileName))] = content
		}
	}
	return files, nil
}

// Thumbs are the files of the small pictures, by their picture's id.
func Thumbs(tx *gorm.DB, ids []uint64) (map[uint64]string, error) {
	var rows []Artwork
	if err := tx.Select("id", "thumb").Where("id IN ? AND thumb IS NOT NULL", ids).Find(&rows).Error; err != nil {
		return nil, fmt.Errorf("reading small pictures: %w", err)
	}
	thumbs := map[uint64]string{}
	for _, p := range rows {
		thumbs[p.ID] = *p.Thumb
	}
	return thumbs, nil
}
