package demo

import (
	"context"
	"errors"
	"fmt"
	"slices"

	"tidykiln/core/craft"
	"tidykiln/core/shape"
	"tidykiln/internal/products"
	"tidykiln/internal/wire"
)

const (
	crewOrnament = "Crew ornament"
	slipwaySign  = "Slipway sign"
	lampOrnament = "Lamp-night ornament"
	starterSign  = "Starter’s plaque"
	mooringPanel = "Winter mooring panel"
	lockTile     = "Lock tile"
	slateCoaster = "Slate coaster"
	ferryTray    = "Ferry tray"
	crewTote     = "Crew tote"
	lanternGlass = "Lantern glass"
	galleyJar    = "Galley jar"
	sunTumbler   = "Regatta tumbler"
	nightTumbler = "Night-race tumbler"
	lampCandle   = "Lamp-night candle"
	ferryMug     = "Ferry mug"
	logBook      = "River log-book"
	keepsakeBox  = "Keepsake box"
)

func flat(s craft.Surface, tone craft.Tone, width, height, thickness string) products.BlankForm {
	return products.BlankForm{Surface: s, Tone: tone, Shape: shape.Rectangle, Width: width, Height: height, Thickness: thickness}
}

func round(s craft.Surface, tone craft.Tone, across, thickness string) products.BlankForm {
	return products.BlankForm{Surface: s, Tone: tone, Shape: shape.Disc, Width: across, Thickness: thickness, Hangs: true}
}

func upright(s craft.Surface, tone craft.Tone, across, height string) products.BlankForm {
	return products.BlankForm{Surface: s, Tone: tone, Shape: shape.Cylinder, Width: across, Height: height}
}

func cup(b products.BlankForm, rimGap string) products.BlankForm {
	b.Drinkware, b.RimGap = true, rimGap
	return b
}

func flame(b products.BlankForm) products.BlankForm {
	b.HoldsFlame = true
	return b
}

// picture is a toner print on 80 g paper, mirrored or not.
func picture(mirrored bool, width, height string) products.PictureForm {
	return products.PictureForm{Kind: craft.Toner, Carrier: craft.Paper, Gsm: 80, Mirrored: &mirrored, Width: width, Height: height, Ppi: 300, Rights: craft.RightsOwn}
}

func cutRound(p products.PictureForm) products.PictureForm {
	p.Round = true
	return p
}

func on(c craft.Carrier, k craft.PrintKind, p products.PictureForm) products.PictureForm {
	p.Carrier, p.Kind, p.Gsm = c, k, 0
	return p
}

// catalogue is what Withy Landing makes: something by each of the fifteen methods.
func catalogue() []products.NewProduct {
	heavy := picture(true, "260 mm", "110 mm")
	heavy.Gsm = 120
	coarse := picture(true, "180 mm", "120 mm")
	coarse.Ppi, coarse.Rights = 140, craft.RightsOut
	customers := picture(true, "200 mm", "180 mm")
	customers.Rights = craft.RightsCustomer
	covers := flat(craft.CoatedBoard, craft.Light, "148 mm", "210 mm", "2 mm")
	covers.Sides, covers.Bound = 2, true
	panel := flat(craft.WoodBare, craft.Light, "200 mm", "140 mm", "12 mm")
	panel.Hangs = true
	return []products.NewProduct{
		{Name: crewOrnament, Method: "gel-lift", Blank: round(craft.WoodBare, craft.Light, "90 mm", "10 mm"), Picture: cutRound(picture(true, "70 mm", "70 mm")), Look: "crisp", Lettered: true, Price: "15.50", Material: "slice-90"},
		{Name: slipwaySign, Method: "varnish-lift", Blank: flat(craft.WoodBare, craft.Light, "300 mm", "140 mm", "18 mm"), Picture: heavy, Look: "weathered", Lettered: true, Price: "28.00", Material: "pine-board"},
		{Name: lampOrnament, Method: "gel-lift", Blank: round(craft.WoodBare, craft.Light, "120 mm", "10 mm"), Picture: cutRound(picture(true, "95 mm", "95 mm")), Look: "crisp", Price: "16.00", Material: "slice-120"},
		{Name: starterSign, Method: "glue-lift", Blank: flat(craft.WoodPainted, craft.Light, "240 mm", "90 mm", "18 mm"), Picture: picture(true, "200 mm", "60 mm"), Look: "weathered", Lettered: true, Price: "24.00", Material: "pine-board"},
		{Name: mooringPanel, Method: "clearcoat-lift", Blank: panel, Picture: coarse, Look: "weathered", Price: "32.00", Material: "pine-board"},
		{Name: lockTile, Method: "quick-gel", Blank: flat(craft.CeramicGlazed, craft.Light, "102 mm", "102 mm", "6 mm"), Picture: picture(true, "95 mm", "95 mm"), Look: "crisp", Price: "12.50", Material: "tile-102"},
		{Name: slateCoaster, Method: "transfer-cream", Blank: flat(craft.Stone, craft.Medium, "100 mm", "100 mm", "6 mm"), Picture: picture(true, "80 mm", "80 mm"), Look: "weathered", Price: "13.00", Material: "slate-100"},
		{Name: ferryTray, Method: "transfer-lotion", Blank: flat(craft.WoodPainted, craft.Light, "350 mm", "250 mm", "20 mm"), Picture: picture(true, "260 mm", "180 mm"), Look: "crisp", Price: "46.00", Material: "tray-painted"},
		{Name: crewTote, Method: "photo-medium", Blank: flat(craft.FabricCotton, craft.Medium, "380 mm", "420 mm", ""), Picture: customers, Look: "crisp", Price: "38.00", Material: "tote-cotton"},
		{Name: lanternGlass, Method: "tape-lift", Blank: flame(upright(craft.Glass, craft.Light, "80 mm", "95 mm")), Picture: picture(false, "90 mm", "60 mm"), Look: "crisp", Price: "11.00", Material: "candle-glass"},
		{Name: galleyJar, Method: "decal-face-up", Blank: upright(craft.Glass, craft.Light, "85 mm", "140 mm"), Picture: on(craft.DecalClear, craft.Inkjet, picture(false, "100 mm", "70 mm")), Look: "crisp", Lettered: true, Price: "15.00", Material: "jar-glass"},
		{Name: sunTumbler, Method: "decal-ink-backed", Blank: cup(upright(craft.MetalCoated, craft.Light, "80 mm", "170 mm"), "25 mm"), Picture: on(craft.DecalClear, craft.Toner, picture(true, "110 mm", "110 mm")), Look: "crisp", Lettered: true, Price: "22.50", Material: "tumbler-steel"},
		{Name: nightTumbler, Method: "decal-sprayed-ground", Blank: cup(upright(craft.MetalCoated, craft.Dark, "80 mm", "170 mm"), "30 mm"), Picture: on(craft.DecalClear, craft.Toner, picture(false, "100 mm", "100 mm")), Look: "crisp", Price: "24.00", Material: "tumbler-steel"},
		{Name: lampCandle, Method: "tissue-melt", Blank: upright(craft.CandleWax, craft.Light, "70 mm", "150 mm"), Picture: on(craft.Tissue, craft.Inkjet, picture(false, "90 mm", "70 mm")), Look: "crisp", Price: "14.50", Material: "pillar-candle"},
		{Name: ferryMug, Method: "sublimation", Blank: cup(upright(craft.MugCoated, craft.Light, "82 mm", "95 mm"), "16 mm"), Picture: on(craft.TransferPaper, craft.Sublimation, picture(true, "200 mm", "70 mm")), Look: "crisp", Price: "13.50", Material: "mug-coated"},
		{Name: logBook, Method: "sublimation", Blank: covers, Picture: on(craft.TransferPaper, craft.Sublimation, picture(true, "148 mm", "210 mm")), Look: "crisp", Lettered: true, Price: "22.00", Material: "cover-boards"},
		{Name: keepsakeBox, Method: "decoupage", Blank: flat(craft.WoodPainted, craft.Light, "160 mm", "120 mm", "70 mm"), Picture: picture(false, "140 mm", "100 mm"), Look: "crisp", Price: "29.00", Material: "wood-box"},
	}
}

func (s *studio) tellProducts(ctx context.Context) error {
	for _, p := range catalogue() {
		if id, drawn := s.artworks[p.Name]; drawn {
			p.Picture.ArtworkID = &id
		}
		made, err := s.rooms.Products.Make(ctx, p)
		if err != nil {
			return fmt.Errorf("%s: %w", p.Name, err)
		}
		s.products[p.Name] = made.ID
	}
	return errors.Join(s.tellDesigns(ctx), s.paintSidesWhileItRests(ctx), s.stainAndWaxTheBox(ctx), s.overrulePicture(ctx))
}

// change saves a product's recipe with its steps changed.
func (s *studio) change(ctx context.Context, product string, edit func([]products.BlockFor, []craft.Step) ([]craft.Step, error)) error {
	id := s.products[product]
	d, err := s.rooms.Products.Get(ctx, id)
	if err != nil {
		return err
	}
	blocks, err := s.rooms.Products.BlocksFor(ctx, id)
	if err != nil {
		return err
	}
	form := d.Draft.RecipeForm
	if form.Steps, err = edit(blocks, form.Steps); err != nil {
		return fmt.Errorf("%s: %w", product, err)
	}
	_, err = s.rooms.Products.ChangeRecipe(ctx, id, products.RecipeChange{RecipeForm: form, Version: d.Version})
	return err
}

func block(blocks []products.BlockFor, id string) craft.Step {
	return blocks[slices.IndexFunc(blocks, func(b products.BlockFor) bool { return b.Step.ID == id })].Step
}

// paintSidesWhileItRests paints the signs' sides inside the rest under the print.
func (s *studio) paintSidesWhileItRests(ctx context.Context) error {
	return s.change(ctx, slipwaySign, func(blocks []products.BlockFor, steps []craft.Step) ([]craft.Step, error) {
		lay, err := stepNamed(steps, "lay")
		if err != nil {
			return nil, err
		}
		sides := block(blocks, "paint-sides")
		sides.Inside = "lay"
		return slices.Insert(steps, lay+1, sides), nil
	})
}

// stainAndWaxTheBox stains the box's edges hand in hand before sealing, and waxes it last.
func (s *studio) stainAndWaxTheBox(ctx context.Context) error {
	return s.change(ctx, keepsakeBox, func(blocks []products.BlockFor, steps []craft.Step) ([]craft.Step, error) {
		seal, err := stepNamed(steps, "seal-1")
		if err != nil {
			return nil, err
		}
		steps = slices.Insert(steps, seal, block(blocks, "stain"), block(blocks, "wipe-stain"))
		cure, err := stepNamed(steps, "final-cure")
		if err != nil {
			return nil, err
		}
		return slices.Insert(steps, cure, block(blocks, "wax-light"), block(blocks, "wax-dark"), block(blocks, "buff")), nil
	})
}

// overrulePicture lets the panel's old picture through, with a reason.
func (s *studio) overrulePicture(ctx context.Context) error {
	_, err := s.rooms.Products.Overrule(wire.Acting(ctx, wire.Actor{PersonID: s.workshop.People[0].ID}), s.products[mooringPanel], products.NewOverride{Rule: "picture-coarse", Reason: "The only picture there is of the old mooring; the weathered look carries it."})
	return err
}
