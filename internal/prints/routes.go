package prints

import (
	"context"
	"fmt"

	"github.com/danielgtaylor/huma/v2"

	"tidykiln/internal/database"
	"tidykiln/internal/wire"
)

// laidFrom are what a layout is made from.
const laidFrom = database.Orders | database.Batches | database.Products | database.Artwork | database.Workshop | database.Stores

// designedFrom are what the look of a print is made from.
const designedFrom = database.Products | database.Artwork | database.Orders | database.Workshop | database.Stores

// Mount adds the area's routes.
func (a *Area) Mount(api huma.API) {
	wire.Get(api, "get-design", "/api/products/{id}/design", "How a product's print looks on paper and on its blank", wire.AtTheBench, designedFrom, wire.Of(a.Design))
	wire.Ask(api, "ask-design", "/api/products/{id}/design/ask", "How a product's print would look, without saving it", wire.Makers, designedFrom, wire.Edit(a.AskDesign))
	wire.GetFile(api, "draw-design", "/api/products/{id}/design/print", "A print drawn as a design has it, without its words", wire.AtTheBench,
		func(ctx context.Context, in *drawingOf) (*wire.File, error) {
			content, err := a.DrawDesign(ctx, in.ID.ID, in.Design)
			return wire.NewFile("image/png", "print.png", content), err
		})
	wire.Get(api, "get-proof", "/api/orders/{id}/proof", "An order's pieces as they will look, and what the customer said", wire.Makers, designedFrom, wire.Of(a.Proof))
	wire.Post(api, "answer-proof", "/api/orders/{id}/proof", "Note what the customer said of a proof", wire.Makers, wire.Change(a.AnswerProof))
	wire.GetFile(api, "proof-pdf", "/api/orders/{id}/proof.pdf", "A proof for the customer", wire.Makers,
		func(ctx context.Context, in *wire.ID) (*wire.File, error) {
			name, content, err := a.ProofPDF(ctx, in.ID)
			return wire.NewFile("application/pdf", name, content), err
		})
	wire.Get(api, "get-proof-address", "/api/orders/{id}/proof-address", "Where an order's customer sees its proof", wire.Makers, database.Access, wire.Of(a.ProofAddress))
	wire.Secret(api, "renew-proof-address", "/api/orders/{id}/proof-address", "Give an order's proof another address", wire.Makers, wire.Unkept(wire.Of(a.RenewProofAddress)))
	wire.Get(api, "show-proof", "/api/proofs/{token}", "A proof, for the customer who knows its address", wire.Anyone, designedFrom|database.Access, a.ShownProof)
	wire.Post(api, "answer-shown-proof", "/api/proofs/{token}", "Say whether pieces are right", wire.Anyone, a.AnswerShownProof)
	wire.GetFile(api, "show-proof-picture", "/api/proofs/{token}/looks/{look}/pictures/{artwork}", "A picture as a proof shows it", wire.Anyone, a.ShownPicture)
	wire.Get(api, "list-printable", "/api/printable-batches", "Batches whose prints are to be made", wire.AtTheBench, laidFrom|database.PlanInputs, wire.Whole(a.ListPrintable))
	wire.Ask(api, "ask-prints", "/api/print-jobs/ask", "What printing batches on a paper would come to", wire.AtTheBench, laidFrom, wire.With(a.Ask))
	wire.Get(api, "list-print-jobs", "/api/print-jobs", "Sheets that were made, the newest first", wire.AtTheBench, database.Prints, wire.Whole(a.List))
	wire.Get(api, "get-print-job", "/api/print-jobs/{id}", "One job of sheets", wire.AtTheBench, database.Prints, wire.Of(a.Get))
	wire.Create(api, "make-prints", "/api/print-jobs", "Make the sheets of batches", wire.AtTheBench, wire.With(a.Make))
	wire.Post(api, "stop-prints", "/api/print-jobs/{id}/stop", "Stop making sheets", wire.AtTheBench, wire.Act(a.Stop))
	wire.Post(api, "make-prints-again", "/api/print-jobs/{id}/again", "Make sheets that were stopped or failed", wire.AtTheBench, wire.Act(a.MakeAgain))
	wire.Post(api, "remove-print-job", "/api/print-jobs/{id}/remove", "Take sheets away that are not needed any more", wire.Makers, wire.Act(a.Remove))
	wire.Post(api, "send-to-printer", "/api/print-jobs/{id}/print", "Send sheets to the printer", wire.AtTheBench, wire.Act(a.Print))
	wire.Post(api, "cancel-printing", "/api/print-jobs/{id}/cancel-printing", "Take sheets out of the printer's queue", wire.AtTheBench, wire.Act(a.CancelPrint))
	wire.Get(api, "get-printer", "/api/printer", "The printer as it stands", wire.AtTheBench, database.Prints, wire.Whole(a.ShowPrinter))
	wire.Put(api, "set-printer", "/api/printer", "Set the simulated printer", wire.Makers, wire.Send(a.SetPrinter))
	wire.GetFile(api, "printed-sheet", "/api/print-jobs/{id}/printed/{sheet}", "A sheet that came out of the simulated printer, as a picture", wire.AtTheBench,
		func(_ context.Context, in *outlinesOf) (*wire.File, error) {
			content, err := a.PrintedSheet(in.ID.ID, in.Sheet)
			return wire.NewFile("image/png", fmt.Sprintf("printed-%d-%d.png", in.ID.ID, in.Sheet), content), err
		})
	wire.GetFile(api, "print-sheets", "/api/print-jobs/{id}/sheets.pdf", "The sheets as a PDF at true size", wire.AtTheBench,
		func(ctx context.Context, in *wire.ID) (*wire.File, error) {
			name, content, err := a.Sheets(ctx, in.ID)
			return wire.NewFile("application/pdf", name, content), err
		})
	wire.GetFile(api, "shop-page", "/api/print-jobs/{id}/shop.pdf", "A page for the copy shop that prints the sheets", wire.AtTheBench,
		func(ctx context.Context, in *wire.ID) (*wire.File, error) {
			content, err := a.ShopPage(ctx, in.ID)
			return wire.NewFile("application/pdf", fmt.Sprintf("shop-%d.pdf", in.ID), content), err
		})
	wire.GetFile(api, "cut-outlines", "/api/print-jobs/{id}/outlines/{sheet}", "The outlines of a sheet's prints to cut along, as an SVG at true size", wire.AtTheBench,
		func(ctx context.Context, in *outlinesOf) (*wire.File, error) {
			text, err := a.Outlines(ctx, in.ID.ID, in.Sheet)
			return wire.NewFile("image/svg+xml", fmt.Sprintf("outlines-%d-%d.svg", in.ID.ID, in.Sheet), []byte(text)), err
		})
}

// drawingOf is a request for a print drawn as a design has it.
type drawingOf struct {
	wire.ID
	Design string `query:"design" maxLength:"4000" doc:"the design as JSON"`
}

// outlinesOf is a request for one sheet's outlines.
type outlinesOf struct {
	wire.ID
	Sheet int `path:"sheet" minimum:"1"`
}
