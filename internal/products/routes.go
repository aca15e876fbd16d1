package products

import (
	"cmp"
	"context"
	"fmt"

	"github.com/danielgtaylor/huma/v2"

	"tidykiln/internal/database"
	"tidykiln/internal/wire"
)

// costed are what the cost of a product, and what is found wrong with it, are made from; the room's air aside.
const costed = database.Products | database.Stores | database.Workshop

// Mount adds the area's routes.
func (a *Area) Mount(api huma.API) {
	wire.Get(api, "list-products", "/api/products", "What is made, with what each costs and earns", wire.Makers, costed, wire.Whole(a.Gallery))
	wire.Get(api, "get-product", "/api/products/{id}", "A product with its recipe and costing", wire.Makers, costed|database.Room, wire.Of(a.Get))
	wire.Create(api, "make-product", "/api/products", "Add a product with the recipe its method proposes", wire.Makers, wire.With(a.Make))
	wire.Put(api, "change-product", "/api/products/{id}", "Rename a product or set its price", wire.Makers, wire.Edit(a.Change))
	wire.Put(api, "set-stock-goal", "/api/products/{id}/stock-goal", "Say how many of a product are to lie ready by a day", wire.Makers, wire.Change(a.SetGoal))
	wire.Put(api, "change-facts", "/api/products/{id}/facts", "Set what a product is made of and shows", wire.Makers, wire.Edit(a.ChangeFacts))
	wire.Put(api, "change-design", "/api/products/{id}/design", "Say how a product's picture lies on its blank", wire.Makers, wire.Edit(a.ChangeDesign))
	wire.GetFile(api, "export-cost-problem", "/api/products/{id}/cost-problem", "A product's costs as the problem that the command answers", wire.Makers,
		func(ctx context.Context, in *BatchOf) (*wire.File, error) {
			text, err := a.CostProblem(ctx, in.ID, in.Good())
			return wire.NewFile("application/json", fmt.Sprintf("cost-problem-%d.json", in.ID), text), err
		})
	a.mountRecipes(api)
	a.mountTroubles(api)
}

// versionOf is a request for an older version of a recipe.
type versionOf struct {
	wire.ID
	Number int `path:"number" minimum:"1"`
	Body   wire.Versioned
}

func (a *Area) mountRecipes(api huma.API) {
	wire.Put(api, "change-recipe", "/api/products/{id}/recipe", "Save a new version of a recipe", wire.Makers, wire.Edit(a.ChangeRecipe))
	wire.Post(api, "restore-recipe", "/api/products/{id}/recipe/{number}/restore", "Make an older version the current one", wire.Makers,
		func(ctx context.Context, in *versionOf) (Detail, error) {
			return a.RestoreRecipe(ctx, in.ID.ID, in.Number, in.Body.Version)
		})
	wire.Ask(api, "try-recipe", "/api/products/{id}/recipe/try", "What a recipe would come to, without saving it", wire.Makers, costed|database.Room, wire.Edit(a.TryRecipe))
	wire.Ask(api, "edit-recipe", "/api/products/{id}/recipe/edit", "A recipe with an edit made, without saving it", wire.Makers, database.Products|database.Stores, wire.Edit(a.EditRecipe))
	wire.Ask(api, "repropose-recipe", "/api/products/{id}/recipe/propose", "The method's own recipe with other choices, without saving it", wire.Makers, costed|database.Room, wire.Edit(a.Repropose))
	wire.Get(api, "list-blocks", "/api/products/{id}/blocks", "Building blocks with their minutes for a product's blank", wire.Makers, database.Products|database.Stores, wire.Of(a.BlocksFor))
	wire.Create(api, "method-from-recipe", "/api/products/{id}/method", "Make a method of one's own from a product's recipe", wire.Owner, wire.Edit(a.MethodFromRecipe))
	wire.Post(api, "overrule", "/api/products/{id}/overrides", "Overrule a stop, with a reason", wire.Makers, wire.Edit(a.Overrule))
	wire.Post(api, "withdraw-override", "/api/overrides/{id}/withdraw", "Let a stop hold again", wire.Makers, wire.Act(a.Withdraw))
	wire.Get(api, "get-labelled", "/api/products/{id}/labels", "A recipe held against the labels of its materials", wire.Makers, database.Products|database.Stores, wire.Of(a.Labelled))
	wire.Get(api, "list-other-than-label", "/api/materials/{id}/recipes", "Recipes that are other than the label of a material they use", wire.Makers, database.Products|database.Stores, wire.Of(a.OtherThanLabel))
	wire.Post(api, "follow-labels", "/api/recipes/labels", "Save recipes as the labels of their materials say", wire.Makers, wire.Send(a.FollowLabels))
}

// guideFor is a request for the troubles guide.
type guideFor struct {
	ProductID uint64 `query:"productId"`
}

// offerOf is a request to do as the guide offers.
type offerOf struct {
	wire.ID
	Key  string `path:"key" maxLength:"60"`
	Body wire.Versioned
}

func (a *Area) mountTroubles(api huma.API) {
	wire.Get(api, "list-troubles", "/api/troubles", "The troubles guide; with a product, what its recipe would change", wire.AtTheBench, database.Products|database.Stores,
		func(ctx context.Context, in *guideFor) ([]TroubleFor, error) { return a.Troubles(ctx, in.ProductID) })
	wire.Post(api, "take-offer", "/api/products/{id}/troubles/{key}", "Change a recipe as the troubles guide offers", wire.Makers,
		func(ctx context.Context, in *offerOf) (Detail, error) {
			return a.TakeOffer(ctx, in.ID.ID, in.Key, in.Body.Version)
		})
}

// BatchOf is a request about batches of a number of good pieces of a product.
type BatchOf struct {
	ID     uint64 `path:"id"`
	Pieces int    `query:"pieces" minimum:"0" maximum:"500" doc:"good pieces in the batch; twelve when left out"`
}

// Good is the number of good pieces.
func (in BatchOf) Good() int { return cmp.Or(in.Pieces, usualBatch) }
