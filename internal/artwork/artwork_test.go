package artwork_test

import (
	"bytes"
	"context"
	"image"
	"image/color"
	"image/draw"
	"image/png"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"tidykiln/core/craft"
	"tidykiln/core/picture"
	"tidykiln/internal/artwork"
	"tidykiln/internal/database"
	"tidykiln/internal/house/housetest"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
)

// drawing is a PNG of one colour.
func drawing(t *testing.T, w, h int, c color.Color) []byte {
	img := image.NewRGBA(image.Rect(0, 0, w, h))
	draw.Draw(img, img.Rect, image.NewUniform(c), image.Point{}, draw.Src)
	var out bytes.Buffer
	require.NoError(t, png.Encode(&out, img))
	return out.Bytes()
}

type studio struct {
	*housetest.Studio
	folder string
}

func newStudio(t *testing.T) studio {
	s := studio{housetest.New(t), t.TempDir()}
	name, err := s.DB.Studio(s.Ctx)
	require.NoError(t, err)
	files, err := artwork.OpenFiles(s.Ctx, "", s.folder, name)
	require.NoError(t, err)
	t.Cleanup(func() { assert.NoError(t, files.Close()) })
	s.Artwork.KeepIn(files)
	return s
}

func (s studio) take(name string, content []byte) artwork.Taken {
	s.Helper()
	taken, err := s.Artwork.Take(s.Ctx, name, content)
	require.NoError(s, err)
	return taken
}

func (s studio) readAll() {
	s.Helper()
	for {
		more, err := s.Artwork.ReadNext(s.Ctx)
		require.NoError(s, err)
		if !more {
			return
		}
	}
}

func (s studio) get(id uint64) artwork.Artwork {
	s.Helper()
	p, err := s.Artwork.Get(s.Ctx, id)
	require.NoError(s, err)
	return p
}

// files lists what is kept, and makes it old enough to be cleared away.
func (s studio) files(age time.Duration) (paths []string) {
	s.Helper()
	require.NoError(s, filepath.WalkDir(s.folder, func(path string, d os.DirEntry, err error) error {
		if err == nil && !d.IsDir() {
			paths = append(paths, path)
			then := time.Now().Add(-age)
			err = os.Chtimes(path, then, then)
		}
		return err
	}))
	return paths
}

func TestAPictureIsReadAfterItHasCome(t *testing.T) {
	s := newStudio(t)
	taken := s.take("boats/harbour_at noon.png", drawing(t, 1800, 900, color.Black))
	p := s.get(taken.ID)
	assert.Equal(t, artwork.Reading, p.State)
	assert.Equal(t, "harbour at noon", p.Title)
	assert.Equal(t, craft.RightsUnknown, p.Rights)
	s.readAll()
	p = s.get(taken.ID)
	require.Equal(t, artwork.Ready, p.State)
	assert.Equal(t, 1800, p.Pixels.WidthPx)
	assert.Equal(t, 1.0, p.Pixels.Ink.Alone)
	for hash, size := range map[string]image.Point{*p.Print: {X: 1800, Y: 900}, *p.View: {X: 1400, Y: 700}, *p.Thumb: {X: 360, Y: 180}} {
		content, mediaType, err := s.Artwork.FileOf(s.Ctx, hash)
		require.NoError(t, err)
		assert.Contains(t, []string{"image/png", "image/jpeg"}, mediaType)
		config, _, err := image.DecodeConfig(bytes.NewReader(content))
		require.NoError(t, err)
		assert.Equal(t, size, image.Pt(config.Width, config.Height))
	}
}

func TestACleanUpLeavesThePictureAsItWas(t *testing.T) {
	s := newStudio(t)
	id := s.take("red.png", drawing(t, 40, 40, color.RGBA{200, 30, 30, 255})).ID
	s.readAll()
	as := func(clean picture.CleanUp) []byte {
		content, err := s.Artwork.Cleaned(s.Ctx, id, clean)
		require.NoError(t, err)
		return content
	}
	before := as(picture.CleanUp{})
	assert.NotEqual(t, before, as(picture.CleanUp{Colours: picture.BlackOnly, Threshold: 50}))
	assert.Equal(t, before, as(picture.CleanUp{}))
}

func TestTheSameFileTwiceIsOnePicture(t *testing.T) {
	s := newStudio(t)
	content := drawing(t, 20, 20, color.White)
	first := s.take("one.png", content)
	again := s.take("two.png", content)
	assert.Equal(t, artwork.Taken{ID: first.ID, Already: "one"}, again)
	require.NoError(t, s.Artwork.Archive(s.Ctx, first.ID))
	assert.NotEqual(t, first.ID, s.take("two.png", content).ID, "one that was put away does not count")
}

func TestWhatIsFoundDamagedLaterIsRefusedWithTheWayOut(t *testing.T) {
	s := newStudio(t)
	whole := drawing(t, 300, 300, color.RGBA{1, 90, 200, 255})
	id := s.take("half.png", whole[:len(whole)-30]).ID
	s.readAll()
	p := s.get(id)
	assert.Equal(t, artwork.Refused, p.State)
	assert.Contains(t, p.Refusal, "damaged")
	require.NoError(t, s.Artwork.Archive(s.Ctx, id), "it can be put out of sight")
	_, err := s.Artwork.Take(s.Ctx, "diary.png", []byte("dear diary"))
	assert.Contains(t, housetest.Refused(t, err).Detail, "no picture")
}

// A server that ends while it reads leaves the picture to the next; one that ends
// every server is refused.
func TestAPictureThatWasNotReadToTheEndIsTakenUpAgain(t *testing.T) {
	s := newStudio(t)
	id := s.take("heron.png", drawing(t, 30, 30, color.Black)).ID
	interrupted := func(tries int) {
		require.NoError(t, s.DB.Write(s.Ctx, database.Nothing, func(tx *gorm.DB) error {
			return tx.Exec("UPDATE artworks SET claimed_until = ?, tries = ? WHERE id = ?", s.Now.Add(time.Minute), tries, id).Error
		}))
	}
	interrupted(1)
	s.readAll()
	assert.Equal(t, artwork.Reading, s.get(id).State, "another server may have it in hand")
	s.Later(10 * time.Minute)
	s.readAll()
	assert.Equal(t, artwork.Ready, s.get(id).State)

	other := s.take("rope.png", drawing(t, 31, 30, color.Black)).ID
	id = other
	interrupted(3)
	s.Later(10 * time.Minute)
	s.readAll()
	assert.Equal(t, artwork.Refused, s.get(other).State)
}

func TestFilesStayWhileAnythingUsesThem(t *testing.T) {
	s := newStudio(t)
	kept := s.take("kept.png", drawing(t, 20, 20, color.Black)).ID
	away := s.take("away.png", drawing(t, 21, 20, color.White)).ID
	s.readAll()
	require.NoError(t, s.Artwork.Archive(s.Ctx, away))
	stray := filepath.Join(filepath.Dir(filepath.Dir(s.files(0)[0])), "ab", "a file that was kept and whose row never came")
	require.NoError(t, os.MkdirAll(filepath.Dir(stray), 0o700))
	require.NoError(t, os.WriteFile(stray, []byte("x"), 0o600))

	require.NoError(t, s.Artwork.Sweep(s.Ctx))
	before := len(s.files(2 * time.Hour))
	assert.FileExists(t, stray, "what has just come is left alone")
	require.NoError(t, s.Artwork.Sweep(s.Ctx))
	assert.NoFileExists(t, stray)
	assert.Len(t, s.files(2*time.Hour), before-1, "what was put away can be taken out again for some days")
	require.NoError(t, s.Artwork.Restore(s.Ctx, away))
	require.NoError(t, s.Artwork.Archive(s.Ctx, away))

	s.Later(8 * 24 * time.Hour)
	require.NoError(t, s.Artwork.Sweep(s.Ctx))
	p := s.get(kept)
	for _, hash := range []string{p.Original, *p.Print, *p.View, *p.Thumb} {
		content, _, err := s.Artwork.FileOf(s.Ctx, hash)
		require.NoError(t, err)
		assert.NotNil(t, content)
	}
	assert.Less(t, len(s.files(0)), before-1)
	assert.Error(t, s.Artwork.Restore(s.Ctx, away), "its files are gone")
}

func TestAPictureOnAProductSaysWhatWasTyped(t *testing.T) {
	s := newStudio(t)
	id := s.take("boat.png", drawing(t, 1000, 1000, color.Black)).ID
	lamp := s.Make(housetest.Lamp("90 mm"))
	begun := housetest.Lamp("90 mm")
	in := products.FactsChange{Blank: begun.Blank, Picture: begun.Picture, Version: lamp.Version}
	in.Picture.Width, in.Picture.Height, in.Picture.ArtworkID = "80 mm", "80 mm", &id
	in.Picture.Ppi, in.Picture.InkShare = 300, 0.1
	_, err := s.Products.ChangeFacts(s.Ctx, lamp.ID, in)
	assert.Equal(t, "picture.artworkId", housetest.AtFault(t, err), "it is not read yet")

	s.readAll()
	d, err := s.Products.ChangeFacts(s.Ctx, lamp.ID, in)
	require.NoError(t, err)
	assert.Equal(t, 317.0, d.Product.Picture.Ppi, "1000 pixels on 80 mm")
	assert.Equal(t, 1.0, d.Product.Picture.InkShare)
	assert.Equal(t, craft.RightsUnknown, d.Product.Picture.Rights)

	p := s.get(id)
	change := artwork.ArtworkChange{Title: "Boat", Standing: artwork.Standing{Rights: craft.RightsOwn, ShowsPeople: true}, Version: p.Version}
	assert.Equal(t, "consent", housetest.AtFault(t, s.Artwork.Change(s.Ctx, id, change)))
	change.Consent = "both of them, on paper"
	require.NoError(t, s.Artwork.Change(s.Ctx, id, change))
	housetest.RefusedAs(t, s.Artwork.Change(s.Ctx, id, change), problem.Stale)
	d, err = s.Products.Get(s.Ctx, lamp.ID)
	require.NoError(t, err)
	assert.Equal(t, craft.RightsOwn, d.Product.Picture.Rights, "what is known of a picture holds wherever it is")
	housetest.RefusedAs(t, s.Artwork.Archive(s.Ctx, id), problem.InUse)
}

func TestReadingGoesOnByItself(t *testing.T) {
	s := newStudio(t)
	ctx, end := context.WithCancel(s.Ctx)
	ended := make(chan struct{})
	go func() {
		s.Artwork.KeepReading(ctx, func(err error) { assert.NoError(t, err) })
		close(ended)
	}()
	id := s.take("boat.png", drawing(t, 100, 100, color.Black)).ID
	assert.Eventually(t, func() bool { return s.get(id).State == artwork.Ready }, 20*time.Second, 20*time.Millisecond)
	end()
	<-ended
}
