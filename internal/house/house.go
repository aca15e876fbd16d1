// Package house wires the areas: each is built once, and given what it needs of
// the others.
package house

import (
	"time"

	"github.com/danielgtaylor/huma/v2"

	"tidykiln/internal/access"
	"tidykiln/internal/artwork"
	"tidykiln/internal/backup"
	"tidykiln/internal/batches"
	"tidykiln/internal/customers"
	"tidykiln/internal/database"
	"tidykiln/internal/desk"
	"tidykiln/internal/fulfilment"
	"tidykiln/internal/health"
	"tidykiln/internal/library"
	"tidykiln/internal/messages"
	"tidykiln/internal/orders"
	"tidykiln/internal/papers"
	"tidykiln/internal/planning"
	"tidykiln/internal/prints"
	"tidykiln/internal/privacy"
	"tidykiln/internal/products"
	"tidykiln/internal/selling"
	"tidykiln/internal/stores"
	"tidykiln/internal/takeout"
	"tidykiln/internal/trade"
	"tidykiln/internal/trail"
	"tidykiln/internal/workshop"
)

// House is all rooms of the application.
type House struct {
	Workshop   *workshop.Area
	Access     *access.Area
	Stores     *stores.Area
	Library    *library.Area
	Artwork    *artwork.Area
	Products   *products.Area
	Selling    *selling.Area
	Customers  *customers.Area
	Orders     *orders.Area
	Batches    *batches.Area
	Fulfilment *fulfilment.Area
	Planning   *planning.Area
	Prints     *prints.Area
	Trade      *trade.Area
	Papers     *papers.Area
	Messages   *messages.Area
	Desk       *desk.Area
	Trail      *trail.Area
	Takeout    *takeout.Area
	Backup     *backup.Area
	Privacy    *privacy.Area
	Health     *health.Area
}

// New builds the rooms on a database, a clock, a room sensor and a printer.
func New(db *database.DB, now func() time.Time, hygrometer workshop.Hygrometer, printer prints.Printer) *House {
	if db != nil { // the document of the routes is written without one
		db.GoBy(now)
	}
	h := &House{Workshop: workshop.New(db, now, hygrometer), Access: access.New(db, now), Stores: stores.New(db, now)}
	h.Library = library.New(db, now, products.CountByMethod)
	h.Artwork = artwork.New(db, now, []artwork.Use{products.UseOfArtwork, orders.UseOfArtwork}, []artwork.Held{batches.ArtworkHeld, orders.ArtworkHeld}, prints.HeldFiles, papers.HeldFiles)
	h.Products = products.New(db, now, h.Library, h.Artwork, selling.MainTerms)
	h.Selling = selling.New(db, now, h.Products)
	h.Customers = customers.New(db, now, orders.Had, []customers.Holding{orders.Holding, trade.Holding})
	h.Orders = orders.New(db, h.Products, h.Selling)
	h.Batches = batches.New(db, now, h.Stores, h.Products, fulfilment.Fill)
	h.Fulfilment = fulfilment.New(db, now, h.Products, h.Orders)
	h.Planning = planning.New(db, now, h.Products, h.Selling, h.Batches, h.Fulfilment)
	h.Prints = prints.New(db, now, h.Artwork, h.Products, h.Planning, h.Stores, printer)
	h.Trade = trade.New(db, now, h.Selling, h.Products, h.Artwork, h.Fulfilment, h.Planning, papers.Credited)
	h.Papers = papers.New(db, now, h.Artwork, h.Trade, h.Selling)
	h.Messages = messages.New(db, now, h.Trade)
	h.Desk = desk.New(db, now, h.Access, h.Products, h.Planning)
	h.Trail = trail.New(db)
	h.Takeout = takeout.New(db, now)
	h.Backup = backup.New(db)
	h.Privacy = privacy.New(db, now, h.Artwork, h.Papers, h.Takeout, h.Backup)
	h.Health = health.New(db, h.Backup)
	return h
}

// Mount adds the routes of every room.
func (h *House) Mount(api huma.API) {
	for _, room := range []interface{ Mount(huma.API) }{h.Workshop, h.Access, h.Stores, h.Library, h.Artwork, h.Products, h.Selling, h.Customers, h.Orders, h.Batches, h.Fulfilment, h.Planning, h.Prints, h.Trade, h.Papers, h.Messages, h.Desk, h.Trail, h.Takeout, h.Backup, h.Privacy, h.Health} {
		room.Mount(api)
	}
}
