package demo

import (
	"context"
	"fmt"

	"tidykiln/core/calendar"
	"tidykiln/internal/stores"
)

// parcel is what came from a supplier some days ago: its lines by material key,
// each "pack" at a price.
type parcel struct {
	supplier      string
	ago           int
	shipping, tax string
	lines         []item
	note          string
}

type item struct {
	key         string
	packs       int
	pack, price string
	rejects     int
	sorted      map[string]int
}

// parcels are what Withy Landing has bought: enough for what it has under way,
// not for all that it has promised.
func parcels() []parcel {
	return []parcel{
		{supplier: "Reed & Rush Blanks", ago: 75, shipping: "6.90", lines: []item{
			{key: "slice-120", packs: 1, pack: "box of 60", price: "66.00", rejects: 3, sorted: map[string]int{"slice-90": 24, "slice-120": 33}},
			{key: "pine-board", packs: 1, pack: "20", price: "56.00"},
			{key: "slate-100", packs: 1, pack: "12", price: "16.20"},
			{key: "tile-102", packs: 2, pack: "box of 12", price: "25.20"},
		}, note: "Slices came mixed, sorted on the bench."},
		{supplier: "Millpond Colours", ago: 64, shipping: "4.80", lines: []item{
			{key: "gel-medium", packs: 1, pack: "240 ml", price: "10.20"},
			{key: "base-paint", packs: 1, pack: "500 ml", price: "10.20"},
			{key: "varnish", packs: 1, pack: "500 ml", price: "12.90"},
			{key: "craft-glue", packs: 1, pack: "500 ml", price: "11.80"},
			{key: "clear-coat", packs: 1, pack: "8 fl oz", price: "7.40"},
			{key: "quick-gel", packs: 1, pack: "100 ml", price: "8.80"},
			{key: "transfer-cream", packs: 1, pack: "120 ml", price: "10.10"},
			{key: "transfer-lotion", packs: 1, pack: "8 fl oz", price: "14.50"},
			{key: "photo-medium", packs: 2, pack: "237 ml", price: "26.20"},
			{key: "gel-stain", packs: 1, pack: "100 ml", price: "5.40"},
			{key: "wax-light", packs: 1, pack: "150 ml", price: "10.50"},
			{key: "wax-dark", packs: 1, pack: "100 ml", price: "7.50"},
			{key: "spray-acrylic", packs: 2, pack: "400 ml", price: "21.20"},
			{key: "ground-spray", packs: 1, pack: "400 ml", price: "11.80"},
			{key: "white-ink", packs: 3, pack: "20 ml", price: "15.30"},
			{key: "degreaser", packs: 1, pack: "1 l", price: "8.90"},
			{key: "solvent", packs: 1, pack: "500 ml", price: "5.90"},
		}},
		{supplier: "Towpath Papers", ago: 58, shipping: "3.90", lines: []item{
			{key: "copy-paper", packs: 1, pack: "A4 ream", price: "5.80"},
			{key: "decal-clear", packs: 1, pack: "10 sheets", price: "8.30"},
			{key: "toner-print", packs: 1, pack: "cartridge of 1500 pages", price: "132.00"},
			{key: "tissue", packs: 1, pack: "50", price: "1.90"},
			{key: "parchment", packs: 1, pack: "50 sheets", price: "2.40"},
			{key: "waxed-paper", packs: 1, pack: "25 sheets", price: "1.40"},
			{key: "sandpaper", packs: 1, pack: "25 sheets", price: "13.20"},
			{key: "foam-brush", packs: 2, pack: "pack of 10", price: "11.60"},
		}},
		{supplier: "Ferry Street Wares", ago: 51, shipping: "9.50", lines: []item{
			{key: "tumbler-steel", packs: 1, pack: "12", price: "72.00", rejects: 1},
			{key: "jar-glass", packs: 1, pack: "12", price: "18.60"},
			{key: "mug-coated", packs: 1, pack: "12", price: "22.80"},
			{key: "candle-glass", packs: 1, pack: "12", price: "22.20"},
			{key: "pillar-candle", packs: 1, pack: "6", price: "14.10"},
			{key: "tote-cotton", packs: 1, pack: "10", price: "22.50"},
			{key: "cover-boards", packs: 1, pack: "10", price: "20.50"},
			{key: "wood-box", packs: 1, pack: "4", price: "18.80"},
			{key: "tray-painted", packs: 1, pack: "4", price: "21.60"},
			{key: "binding", packs: 1, pack: "20", price: "10.80"},
		}},
		{supplier: "Weir Packaging", ago: 40, shipping: "3.20", lines: []item{
			{key: "card-box", packs: 1, pack: "pack of 25", price: "5.90"},
			{key: "card-box", packs: 1, pack: "pack of 10", price: "2.80"},
			{key: "caution-label", packs: 1, pack: "50", price: "4.40"},
			{key: "care-card", packs: 1, pack: "50", price: "2.90"},
			{key: "cord", packs: 1, pack: "roll of 20 m", price: "3.10"},
		}},
		{supplier: "Millpond Colours", ago: 16, shipping: "4.80", lines: []item{
			{key: "gel-medium", packs: 1, pack: "120 ml", price: "6.10"},
			{key: "varnish", packs: 1, pack: "250 ml", price: "7.20"},
		}},
		{supplier: "Reed & Rush Blanks", ago: 12, shipping: "4.20", lines: []item{
			{key: "slice-90", packs: 1, pack: "box of 24", price: "23.50", rejects: 2},
		}},
	}
}

// tellStores buys what the studio has, and says how long things take and keep.
func (s *studio) tellStores(ctx context.Context) error {
	names, err := s.rooms.Stores.Names(ctx)
	if err != nil {
		return err
	}
	ids := map[string]uint64{}
	for _, n := range names {
		ids[n.MaterialKey] = n.ID
	}
	if err := s.tellKeeping(ctx, ids); err != nil {
		return err
	}
	defer func() { s.at = s.now }()
	for _, p := range parcels() {
		s.at = s.now.AddDate(0, 0, -p.ago)
		in := stores.NewReceipt{Supplier: p.supplier, ReceivedOn: calendar.DateOf(s.at, s.workshop.Location()), Shipping: p.shipping, Tax: p.tax, Note: p.note}
		for _, l := range p.lines {
			line := stores.NewPurchase{MaterialID: ids[l.key], Packs: l.packs, Pack: l.pack, Price: l.price, Rejects: l.rejects}
			for _, class := range []string{"slice-90", "slice-120"} {
				if n := l.sorted[class]; n > 0 {
					line.Sorted = append(line.Sorted, stores.SortedBlanks{MaterialID: ids[class], Pieces: n})
				}
			}
			in.Lines = append(in.Lines, line)
		}
		if _, err := s.rooms.Stores.Buy(ctx, in); err != nil {
			return fmt.Errorf("%s: %w", p.supplier, err)
		}
	}
	return nil
}

// tellKeeping says how long some materials keep and take to come, and what is on the label of others.
func (s *studio) tellKeeping(ctx context.Context, ids map[string]uint64) error {
	for key, say := range map[string]func(*stores.MaterialForm){
		"gel-medium": func(m *stores.MaterialForm) {
			m.ShelfLifeDays, m.OpenLifeDays, m.LeadDays, m.LabelFloorMinutes = new(730), new(365), 6, new(480)
		},
		"varnish": func(m *stores.MaterialForm) {
			m.ShelfLifeDays, m.OpenLifeDays, m.LeadDays = new(730), new(270), 6
			m.LabelFloorMinutes, m.LabelRecoatFromMinutes, m.LabelRecoatToMinutes = new(120), new(120), new(2880)
		},
		"photo-medium": func(m *stores.MaterialForm) { m.OpenLifeDays, m.LeadDays = new(60), 6 },
		"slice-90":     func(m *stores.MaterialForm) { m.LeadDays = 9 },
		"slice-120":    func(m *stores.MaterialForm) { m.LeadDays = 9 },
		"card-box":     func(m *stores.MaterialForm) { m.LeadDays = 4 },
		"foam-brush":   func(m *stores.MaterialForm) { m.Lasts = new(3.0) },
		"cloth":        func(m *stores.MaterialForm) { m.Lasts = new(4.0) },
	} {
		m, err := s.rooms.Stores.Card(ctx, ids[key])
		if err != nil {
			return err
		}
		say(&m.MaterialForm)
		if _, err := s.rooms.Stores.Change(ctx, m.ID, stores.MaterialChange{MaterialForm: m.MaterialForm, Version: m.Version}); err != nil {
			return fmt.Errorf("%s: %w", key, err)
		}
	}
	return nil
}
