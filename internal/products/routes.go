package products

import (
	"context"
	"fmt"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"tidykiln/core/craft"
	"tidykiln/internal/wire"
)

// Mount adds the area's routes.
func (a *Area) Mount(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "list-products", Method: http.MethodGet, Path: "/api/products", Summary: "What is made, with what each costs and earns"},
		func(ctx context.Context, _ *struct{}) (*wire.Body[[]Card], error) {
			cards, err := a.Gallery(ctx)
			return &wire.Body[[]Card]{Body: cards}, err
		})
	huma.Register(api, huma.Operation{OperationID: "get-product", Method: http.MethodGet, Path: "/api/products/{id}", Summary: "A product with its recipe and costing"},
		func(ctx context.Context, in *wire.ByID) (*wire.Body[Detail], error) {
			d, err := a.Get(ctx, in.ID)
			return &wire.Body[Detail]{Body: d}, err
		})
	huma.Register(api, huma.Operation{OperationID: "make-product", Method: http.MethodPost, Path: "/api/products", Summary: "Add a product with the recipe its method proposes", DefaultStatus: http.StatusCreated},
		func(ctx context.Context, in *wire.Body[NewProduct]) (*wire.Body[Detail], error) {
			d, err := a.Make(ctx, in.Body)
			return &wire.Body[Detail]{Body: d}, err
		})
	huma.Register(api, huma.Operation{OperationID: "change-product", Method: http.MethodPut, Path: "/api/products/{id}", Summary: "Rename a product or set its price"},
		func(ctx context.Context, in *wire.Edit[ProductChange]) (*wire.Body[Detail], error) {
			d, err := a.Change(ctx, in.ID, in.Body)
			return &wire.Body[Detail]{Body: d}, err
		})
	huma.Register(api, huma.Operation{OperationID: "change-facts", Method: http.MethodPut, Path: "/api/products/{id}/facts", Summary: "Set what a product is made of and shows"},
		func(ctx context.Context, in *wire.Edit[FactsChange]) (*wire.Body[Detail], error) {
			d, err := a.ChangeFacts(ctx, in.ID, in.Body)
			return &wire.Body[Detail]{Body: d}, err
		})
	a.mountRecipes(api)
	a.mountCosts(api)
	a.mountMethods(api)
	a.mountLabels(api)
	a.mountTroubles(api)
}

func (a *Area) mountLabels(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "get-labelled", Method: http.MethodGet, Path: "/api/products/{id}/labels", Summary: "A recipe held against the labels of its materials"},
		func(ctx context.Context, in *wire.ByID) (*wire.Body[Labelled], error) {
			l, err := a.Labelled(ctx, in.ID)
			return &wire.Body[Labelled]{Body: l}, err
		})
	huma.Register(api, huma.Operation{OperationID: "list-other-than-label", Method: http.MethodGet, Path: "/api/materials/{id}/recipes", Summary: "Recipes that are other than the label of a material they use"},
		func(ctx context.Context, in *wire.ByID) (*wire.Body[[]LabelledRecipe], error) {
			list, err := a.OtherThanLabel(ctx, in.ID)
			return &wire.Body[[]LabelledRecipe]{Body: list}, err
		})
	huma.Register(api, huma.Operation{OperationID: "follow-labels", Method: http.MethodPost, Path: "/api/recipes/labels", Summary: "Save recipes as the labels of their materials say", DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, in *wire.Body[LabelFollowing]) (*struct{}, error) {
			return nil, a.FollowLabels(ctx, in.Body)
		})
}

func (a *Area) mountTroubles(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "list-troubles", Method: http.MethodGet, Path: "/api/troubles", Summary: "The troubles guide; with a product, what its recipe would change"},
		func(ctx context.Context, in *struct {
			ProductID uint64 `query:"productId"`
		}) (*wire.Body[[]TroubleFor], error) {
			list, err := a.Troubles(ctx, in.ProductID)
			return &wire.Body[[]TroubleFor]{Body: list}, err
		})
	huma.Register(api, huma.Operation{OperationID: "take-offer", Method: http.MethodPost, Path: "/api/products/{id}/troubles/{key}", Summary: "Change a recipe as the troubles guide offers"},
		func(ctx context.Context, in *struct {
			wire.ByID
			Key  string `path:"key" maxLength:"60"`
			Body struct {
				Version int `json:"version" minimum:"1"`
			}
		}) (*wire.Body[Detail], error) {
			d, err := a.TakeOffer(ctx, in.ID, in.Key, in.Body.Version)
			return &wire.Body[Detail]{Body: d}, err
		})
}

func (a *Area) mountRecipes(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "change-recipe", Method: http.MethodPut, Path: "/api/products/{id}/recipe", Summary: "Save a new version of a recipe"},
		func(ctx context.Context, in *wire.Edit[RecipeChange]) (*wire.Body[Detail], error) {
			d, err := a.ChangeRecipe(ctx, in.ID, in.Body)
			return &wire.Body[Detail]{Body: d}, err
		})
	huma.Register(api, huma.Operation{OperationID: "restore-recipe", Method: http.MethodPost, Path: "/api/products/{id}/recipe/{number}/restore", Summary: "Make an older version the current one"},
		func(ctx context.Context, in *struct {
			wire.ByID
			Number int `path:"number" minimum:"1"`
			Body   struct {
				Version int `json:"version" minimum:"1"`
			}
		}) (*wire.Body[Detail], error) {
			d, err := a.RestoreRecipe(ctx, in.ID, in.Number, in.Body.Version)
			return &wire.Body[Detail]{Body: d}, err
		})
	huma.Register(api, huma.Operation{OperationID: "try-recipe", Method: http.MethodPost, Path: "/api/products/{id}/recipe/try", Summary: "What a recipe would come to, without saving it"},
		func(ctx context.Context, in *wire.Edit[RecipeForm]) (*wire.Body[Draft], error) {
			d, err := a.TryRecipe(ctx, in.ID, in.Body)
			return &wire.Body[Draft]{Body: d}, err
		})
	huma.Register(api, huma.Operation{OperationID: "repropose-recipe", Method: http.MethodPost, Path: "/api/products/{id}/recipe/propose", Summary: "The method's own recipe with other choices, without saving it"},
		func(ctx context.Context, in *wire.Edit[Reproposal]) (*wire.Body[Draft], error) {
			d, err := a.Repropose(ctx, in.ID, in.Body)
			return &wire.Body[Draft]{Body: d}, err
		})
	huma.Register(api, huma.Operation{OperationID: "list-blocks", Method: http.MethodGet, Path: "/api/products/{id}/blocks", Summary: "Building blocks with their minutes for a product's blank"},
		func(ctx context.Context, in *wire.ByID) (*wire.Body[[]BlockFor], error) {
			blocks, err := a.BlocksFor(ctx, in.ID)
			return &wire.Body[[]BlockFor]{Body: blocks}, err
		})
	huma.Register(api, huma.Operation{OperationID: "overrule", Method: http.MethodPost, Path: "/api/products/{id}/overrides", Summary: "Overrule a stop, with a reason"},
		func(ctx context.Context, in *wire.Edit[NewOverride]) (*wire.Body[Detail], error) {
			d, err := a.Overrule(ctx, in.ID, in.Body)
			return &wire.Body[Detail]{Body: d}, err
		})
	huma.Register(api, huma.Operation{OperationID: "withdraw-override", Method: http.MethodPost, Path: "/api/overrides/{id}/withdraw", Summary: "Let a stop hold again", DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, in *wire.ByID) (*struct{}, error) { return nil, a.Withdraw(ctx, in.ID) })
}

func (a *Area) mountMethods(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "list-methods", Method: http.MethodGet, Path: "/api/methods", Summary: "The library: built-in methods and the owner's own"},
		func(ctx context.Context, _ *struct{}) (*wire.Body[[]LibraryEntry], error) {
			entries, err := a.Library(ctx)
			return &wire.Body[[]LibraryEntry]{Body: entries}, err
		})
	huma.Register(api, huma.Operation{OperationID: "import-method", Method: http.MethodPost, Path: "/api/methods", Summary: "Bring a method file in", DefaultStatus: http.StatusCreated},
		func(ctx context.Context, in *wire.Body[MethodFile]) (*wire.Body[LibraryEntry], error) {
			e, err := a.ImportMethod(ctx, in.Body)
			return &wire.Body[LibraryEntry]{Body: e}, err
		})
	huma.Register(api, huma.Operation{OperationID: "copy-method", Method: http.MethodPost, Path: "/api/methods/{key}/copy", Summary: "Make a method of one's own from another", DefaultStatus: http.StatusCreated},
		func(ctx context.Context, in *struct {
			wire.ByKey
			Body MethodName
		}) (*wire.Body[LibraryEntry], error) {
			e, err := a.CopyMethod(ctx, in.Key, in.Body)
			return &wire.Body[LibraryEntry]{Body: e}, err
		})
	huma.Register(api, huma.Operation{OperationID: "method-from-recipe", Method: http.MethodPost, Path: "/api/products/{id}/method", Summary: "Make a method of one's own from a product's recipe", DefaultStatus: http.StatusCreated},
		func(ctx context.Context, in *wire.Edit[MethodName]) (*wire.Body[LibraryEntry], error) {
			e, err := a.MethodFromRecipe(ctx, in.ID, in.Body)
			return &wire.Body[LibraryEntry]{Body: e}, err
		})
	huma.Register(api, huma.Operation{OperationID: "archive-method", Method: http.MethodPost, Path: "/api/methods/{key}/archive", Summary: "Take a method of one's own out of the library", DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, in *wire.ByKey) (*struct{}, error) { return nil, a.ArchiveMethod(ctx, in.Key) })
	huma.Register(api, huma.Operation{OperationID: "method-schema", Method: http.MethodGet, Path: "/api/method-schema", Summary: "The JSON Schema of a method file"},
		func(context.Context, *struct{}) (*wire.File, error) {
			return wire.NewFile("application/schema+json", "method.schema.json", craft.MethodSchema()), nil
		})
	huma.Register(api, huma.Operation{OperationID: "export-method", Method: http.MethodGet, Path: "/api/methods/{key}/file", Summary: "A method as a file"},
		func(ctx context.Context, in *wire.ByKey) (*wire.File, error) {
			text, err := a.ExportMethod(ctx, in.Key)
			return wire.NewFile("application/json", in.Key+".method.json", text), err
		})
}

// batchOf is a request about batches of a number of good pieces of a product.
type batchOf struct {
	ID     uint64 `path:"id"`
	Pieces int    `query:"pieces" minimum:"0" maximum:"500" doc:"good pieces in the batch; twelve when left out"`
}

func (in batchOf) pieces() int {
	if in.Pieces == 0 {
		return usualBatch
	}
	return in.Pieces
}

func (a *Area) mountCosts(api huma.API) {
	huma.Register(api, huma.Operation{OperationID: "get-costs", Method: http.MethodGet, Path: "/api/products/{id}/costs", Summary: "What a piece costs and earns, made in batches of a size"},
		func(ctx context.Context, in *batchOf) (*wire.Body[Costs], error) {
			c, err := a.Costs(ctx, in.ID, in.pieces())
			return &wire.Body[Costs]{Body: c}, err
		})
	huma.Register(api, huma.Operation{OperationID: "export-cost-problem", Method: http.MethodGet, Path: "/api/products/{id}/cost-problem", Summary: "A product's costs as the problem that the command answers"},
		func(ctx context.Context, in *batchOf) (*wire.File, error) {
			text, err := a.CostProblem(ctx, in.ID, in.pieces())
			return wire.NewFile("application/json", fmt.Sprintf("cost-problem-%d.json", in.ID), text), err
		})
	huma.Register(api, huma.Operation{OperationID: "set-price", Method: http.MethodPut, Path: "/api/products/{id}/price", Summary: "Set what is asked for a product at a way of selling"},
		func(ctx context.Context, in *wire.Edit[PriceChange]) (*wire.Body[Detail], error) {
			d, err := a.SetPrice(ctx, in.ID, in.Body)
			return &wire.Body[Detail]{Body: d}, err
		})
	huma.Register(api, huma.Operation{OperationID: "list-outlets", Method: http.MethodGet, Path: "/api/outlets", Summary: "The ways of selling, the main one first"},
		func(ctx context.Context, _ *struct{}) (*wire.Body[[]Outlet], error) {
			list, err := a.Outlets(ctx)
			return &wire.Body[[]Outlet]{Body: list}, err
		})
	huma.Register(api, huma.Operation{OperationID: "list-prices", Method: http.MethodGet, Path: "/api/prices", Summary: "Every product at every way of selling"},
		func(ctx context.Context, _ *struct{}) (*wire.Body[PriceList], error) {
			l, err := a.PriceList(ctx)
			return &wire.Body[PriceList]{Body: l}, err
		})
	huma.Register(api, huma.Operation{OperationID: "export-prices", Method: http.MethodGet, Path: "/api/prices/table", Summary: "The whole price list as a table (CSV)"},
		func(ctx context.Context, _ *struct{}) (*wire.File, error) {
			table, err := a.PriceListCSV(ctx)
			return wire.NewFile("text/csv; charset=utf-8", "prices.csv", table), err
		})
	huma.Register(api, huma.Operation{OperationID: "print-prices", Method: http.MethodGet, Path: "/api/prices/list", Summary: "What is asked at one way of selling, on paper (PDF)"},
		func(ctx context.Context, in *struct {
			OutletID uint64 `query:"outletId" doc:"the main one when left out"`
		}) (*wire.File, error) {
			pdf, err := a.PriceListPDF(ctx, in.OutletID)
			return wire.NewFile("application/pdf", "price-list.pdf", pdf), err
		})
	huma.Register(api, huma.Operation{OperationID: "work-out-fair", Method: http.MethodPost, Path: "/api/fair", Summary: "When a stall at a fair pays"},
		func(ctx context.Context, in *wire.Body[FairPlan]) (*wire.Body[FairAnswer], error) {
			f, err := a.Fair(ctx, in.Body)
			return &wire.Body[FairAnswer]{Body: f}, err
		})
	huma.Register(api, huma.Operation{OperationID: "add-outlet", Method: http.MethodPost, Path: "/api/outlets", Summary: "Add a way of selling", DefaultStatus: http.StatusCreated},
		func(ctx context.Context, in *wire.Body[OutletForm]) (*wire.Body[Outlet], error) {
			o, err := a.AddOutlet(ctx, in.Body)
			return &wire.Body[Outlet]{Body: o}, err
		})
	huma.Register(api, huma.Operation{OperationID: "change-outlet", Method: http.MethodPut, Path: "/api/outlets/{id}", Summary: "Change a way of selling"},
		func(ctx context.Context, in *wire.Edit[OutletChange]) (*wire.Body[Outlet], error) {
			o, err := a.ChangeOutlet(ctx, in.ID, in.Body)
			return &wire.Body[Outlet]{Body: o}, err
		})
	huma.Register(api, huma.Operation{OperationID: "archive-outlet", Method: http.MethodPost, Path: "/api/outlets/{id}/archive", Summary: "End a way of selling", DefaultStatus: http.StatusNoContent},
		func(ctx context.Context, in *wire.Edit[wire.Versioned]) (*struct{}, error) {
			return nil, a.ArchiveOutlet(ctx, in.ID, in.Body.Version)
		})
}
