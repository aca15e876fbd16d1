package demo

import (
	"context"
	"embed"
	"fmt"
	"slices"

	"tidykiln/core/calendar"
	"tidykiln/core/craft"
	"tidykiln/core/design"
	"tidykiln/core/lettering"
	"tidykiln/internal/artwork"
	"tidykiln/internal/fulfilment"
	"tidykiln/internal/orders"
	"tidykiln/internal/products"
)

// The pictures are drawn for the demo: drawings by hand, and one that looks like a
// photo. e2e/pictures.mjs renders them.
//
//go:embed pictures/*.png pictures/*.jpg
var drawn embed.FS

// drawing is a picture that Withy Landing has, and what it is on: nothing where it is a
// customer's.
type drawing struct {
	file, title string
	on          []string
}

// own are the products whose pieces have their customers' pictures.
var own = []string{crewTote}

func drawings() []drawing {
	return []drawing{
		{"boat.png", "Harbour at noon", []string{crewOrnament}},
		{"lantern.png", "Lamp at the slip", []string{lanternGlass, lampCandle, lampOrnament}},
		{"rope.png", "Overhand knot", []string{galleyJar}},
		{"heron.png", "Heron at the landing", []string{slateCoaster}},
		{"lockgate.png", "The lock gate", []string{lockTile}},
		{"dusk.jpg", "Ferry at dusk", []string{keepsakeBox}},
		{"bunting.png", "Bunting over the slipway", []string{slipwaySign}},
		{"oars.png", "Crossed oars", []string{starterSign}},
		{"mooring.jpg", "The winter mooring, an old scan", []string{mooringPanel}},
		{"ferry.png", "The ferry", []string{ferryTray, logBook, ferryMug}},
		{"regatta.png", "Sails at the start", []string{sunTumbler, nightTumbler}},
		{"crew1.jpg", "crew1", nil}, {"crew2.jpg", "crew2", nil}, {"crew3.jpg", "crew3", nil}, {"crew4.jpg", "crew4", nil},
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
		if len(d.on) == 0 {
			s.artworks[d.file] = taken.ID
			continue
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

// designs are how pictures lie where somebody has said so.
func designs() map[string]design.Design {
	names := lettering.Style{Face: lettering.SansBold, Height: 4.6, Least: 3, Colour: "#1d3557", Lies: lettering.Along, Where: lettering.Below, Edge: 2, Halo: 0.5}
	sign := lettering.Style{Face: lettering.SerifBold, Height: 12, Least: 6, Colour: "#1f1d1a", Where: lettering.Below, Edge: 8, Halo: 0.8}
	return map[string]design.Design{
		crewOrnament: {Follows: design.Ellipse, Width: 70, Height: 70, Lettering: &names, Hole: &design.Hole{X: 45, Y: 5, Diameter: 3}},
		slipwaySign:  {Follows: design.Rectangle, Width: 260, Height: 110, Lettering: &sign},
	}
}

// tellDesigns says how pictures lie, and whose pieces have their customers' pictures.
func (s *studio) tellDesigns(ctx context.Context) error {
	for _, p := range catalogue() {
		d, said := designs()[p.Name]
		takes := slices.Contains(own, p.Name)
		if !said && !takes {
			continue
		}
		is, err := s.rooms.Products.Get(ctx, s.products[p.Name])
		if err != nil {
			return err
		}
		if !said {
			d = is.Laid()
		}
		if _, err := s.rooms.Products.ChangeDesign(ctx, is.ID, products.DesignChange{Design: d, OwnPictures: takes, Version: is.Version}); err != nil {
			return fmt.Errorf("%s: %w", p.Name, err)
		}
	}
	return nil
}

// tellCustomers gives the first pieces of an order the pictures that its customer sent.
func (s *studio) tellCustomers(ctx context.Context, order orders.Order, files []string) error {
	in := fulfilment.WantPictures{Version: order.Version}
	for i, file := range files {
		id := s.artworks[file]
		in.Pictures = append(in.Pictures, fulfilment.WantPicture{WantID: order.Lines[0].Wants[i].ID, ArtworkID: &id})
	}
	return s.rooms.Fulfilment.SetPictures(ctx, order.ID, in)
}
