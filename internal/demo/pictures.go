package demo

import (
	"context"
	"embed"
	"fmt"

	"tidykiln/core/calendar"
	"tidykiln/core/craft"
	"tidykiln/internal/artwork"
)

// The pictures are drawn for the demo: drawings by hand, and one that looks like a
// photo. e2e/pictures.mjs renders them.
//
//go:embed pictures/*.png pictures/*.jpg
var drawn embed.FS

// drawing is a picture that Withy Landing has, and what it is on.
type drawing struct {
	file, title string
	on          []string
}

func drawings() []drawing {
	return []drawing{
		{"boat.png", "Harbour at noon", []string{crewOrnament}},
		{"lantern.png", "Lamp at the slip", []string{lanternGlass, lampCandle}},
		{"rope.png", "Overhand knot", []string{galleyJar}},
		{"heron.png", "Heron at the landing", []string{slateCoaster}},
		{"lockgate.png", "The lock gate", []string{lockTile}},
		{"dusk.jpg", "Ferry at dusk", []string{keepsakeBox}},
	}
}

// tellPictures puts the pictures in, and says that they are the studio's own.
func (s *studio) tellPictures(ctx context.Context) error {
	s.artworks = map[string]uint64{}
	for _, d := range drawings() {
		content, err := drawn.ReadFile("pictures/" + d.file)
		if err != nil {
			return err
		}
		taken, err := s.rooms.Artwork.Take(ctx, d.file, content)
		if err != nil {
			return fmt.Errorf("%s: %w", d.file, err)
		}
		if _, err := s.rooms.Artwork.ReadNext(ctx); err != nil {
			return fmt.Errorf("%s: %w", d.file, err)
		}
		p, err := s.rooms.Artwork.Get(ctx, taken.ID)
		if err != nil {
			return err
		}
		made := calendar.DateOf(s.now.AddDate(0, -2, 0), s.now.Location())
		change := artwork.ArtworkChange{Title: d.title, Standing: artwork.Standing{Rights: craft.RightsOwn, RightsNote: "drawn by Isolde", RightsOn: &made}, Version: p.Version}
		if err := s.rooms.Artwork.Change(ctx, taken.ID, change); err != nil {
			return fmt.Errorf("%s: %w", d.file, err)
		}
		for _, product := range d.on {
			s.artworks[product] = taken.ID
		}
	}
	return nil
}
