package papers

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"tidykiln/internal/database"
	"tidykiln/internal/wire"
)

// Mount adds the area's routes.
func (a *Area) Mount(api huma.API) {
	wire.Get(api, "get-letterhead", "/api/letterhead", "What stands on every paper", wire.Makers, database.Orders, wire.Whole(a.Letterhead))
	wire.Put(api, "change-letterhead", "/api/letterhead", "Change what stands on the papers to come", wire.Owner, wire.Send(a.ChangeLetterhead))
	wire.Get(api, "get-order-papers", "/api/orders/{id}/papers", "The papers of an order, and which can be issued", wire.Makers, database.Orders|database.Batches, wire.Of(a.OfOrder))
	wire.Create(api, "issue-paper", "/api/orders/{id}/papers", "Issue a paper of an order", wire.Makers, wire.Edit(a.Issue))
	wire.Create(api, "credit-invoice", "/api/issued-papers/{id}/credit", "Issue a credit note on an invoice", wire.Makers, wire.Edit(a.Credit))
	wire.GetFile(api, "get-paper-pdf", "/api/issued-papers/{id}/pdf", "A paper as it was issued", wire.Makers, func(ctx context.Context, in *wire.ID) (*wire.File, error) { return a.PDF(ctx, in.ID) })
	wire.Get(api, "list-papers", "/api/issued-papers", "The papers of money of a period, and what they come to", wire.Makers, database.Orders, a.List)
	wire.GetFile(api, "get-issued-table", "/api/figures/issued-papers.csv", "Invoices and credit notes of a period as a table", wire.Makers, a.IssuedCSV)
	wire.GetFile(api, "get-came-table", "/api/figures/payments.csv", "Payments of a period as a table", wire.Makers, a.CameCSV)
	wire.Get(api, "list-label-sheets", "/api/label-sheets", "The studio's label sheets", wire.Makers, database.Orders, wire.Whole(a.LabelSheets))
	wire.Create(api, "add-label-sheet", "/api/label-sheets", "Add a label sheet", wire.Makers, wire.With(a.AddLabelSheet))
	wire.Put(api, "change-label-sheet", "/api/label-sheets/{id}", "Change a label sheet", wire.Makers, wire.Change(a.ChangeLabelSheet))
	wire.Post(api, "remove-label-sheet", "/api/label-sheets/{id}/remove", "Remove a label sheet", wire.Makers, wire.AtVersion(a.RemoveLabelSheet))
	wire.GetFile(api, "get-labels", "/api/label-sheets/{id}/pdf", "Labels with prices, an address or words", wire.Makers, a.Labels)
}
