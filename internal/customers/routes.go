package customers

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"tidykiln/internal/database"
	"tidykiln/internal/wire"
)

// containing is a request for what contains a text, a page of it.
type containing struct {
	Text string `query:"text" maxLength:"120"`
	Page int    `query:"page" minimum:"1" maximum:"10000" default:"1"`
}

// named is a request for names that contain a text.
type named struct {
	Text string `query:"text" maxLength:"120"`
}

// Mount adds the area's routes.
func (a *Area) Mount(api huma.API) {
	wire.Get(api, "list-customers", "/api/customers", "A page of the customers in whom every word of a text is found", wire.Makers, database.Orders,
		func(ctx context.Context, in *containing) (CustomerList, error) { return a.List(ctx, in.Text, in.Page) })
	wire.Get(api, "list-customer-names", "/api/customer-names", "Names of customers that contain a text", wire.Makers, database.Orders,
		func(ctx context.Context, in *named) ([]string, error) { return a.Names(ctx, in.Text) })
	wire.Create(api, "add-customer", "/api/customers", "Keep a new customer", wire.Makers, wire.With(a.Add))
	wire.Get(api, "get-customer", "/api/customers/{id}", "A customer: how they are reached, where parcels go, what they like", wire.Makers, database.Orders, wire.Of(a.Get))
	wire.Put(api, "change-customer", "/api/customers/{id}", "Change what is kept of a customer", wire.Makers, wire.Edit(a.Change))
	wire.Post(api, "merge-customer", "/api/customers/{id}/merge", "Make one of two customers who are the same", wire.Makers, wire.Edit(a.Merge))
	wire.Get(api, "list-merges", "/api/customers/{id}/merges", "Who was merged into a customer, to be undone", wire.Makers, database.Orders, wire.Of(a.Merges))
	wire.Post(api, "undo-merge", "/api/customer-merges/{id}/undo", "Undo a merge of two customers", wire.Makers, wire.Of(a.Unmerge))
}
