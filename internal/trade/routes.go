package trade

import (
	"context"

	"github.com/danielgtaylor/huma/v2"

	"tidykiln/internal/database"
	"tidykiln/internal/wire"
)

// shownAnswer is an answer to a quote by its address.
type shownAnswer struct {
	Token string `path:"token" maxLength:"100"`
	Body  QuoteAnswer
}

// Mount adds the area's routes.
func (a *Area) Mount(api huma.API) {
	wire.Get(api, "get-terms", "/api/terms", "What is asked ahead, and what is kept of it", wire.Makers, database.Orders, wire.Whole(a.Terms))
	wire.Put(api, "change-terms", "/api/terms", "Change what is asked ahead, and what is kept of it", wire.Owner, wire.Send(a.ChangeTerms))
	wire.Get(api, "get-order-money", "/api/orders/{id}/money", "What an order asks and what came of it", wire.Makers, database.Orders|database.Batches, wire.Of(a.Money))
	wire.Create(api, "note-payment", "/api/orders/{id}/payments", "Note money that came for an order, or went back", wire.Makers, wire.Edit(a.Note))
	wire.Post(api, "take-back-payment", "/api/payments/{id}/take-back", "Strike a payment out that was noted by mistake", wire.Makers, wire.Of(a.TakeBack))
	wire.Create(api, "return-pieces", "/api/orders/{id}/returns", "Note what came back, or was complained of, and what is done about it", wire.Makers, wire.Edit(a.Return))
	wire.Post(api, "take-back-return", "/api/returns/{id}/take-back", "Strike a return out that was noted by mistake", wire.Makers, wire.Of(a.TakeBackReturn))
	wire.Post(api, "cancel-order", "/api/orders/{id}/cancel", "Cancel an order", wire.Makers, wire.Change(a.Cancel))
	wire.Get(api, "list-quotes", "/api/quotes", "The latest quotes, the newest first", wire.Makers, database.Orders|database.Products, wire.Whole(a.Quotes))
	wire.Create(api, "make-quote", "/api/quotes", "Offer something to somebody, at a price, for a day", wire.Makers, wire.With(a.MakeQuote))
	wire.Get(api, "get-quote", "/api/quotes/{id}", "A quote", wire.Makers, database.Orders|database.Products, wire.Of(a.Quote))
	wire.GetFile(api, "get-quote-pdf", "/api/quotes/{id}/pdf", "A quote on paper", wire.Makers, func(ctx context.Context, in *wire.ID) (*wire.File, error) { return a.QuotePDF(ctx, in.ID) })
	wire.Post(api, "accept-quote", "/api/quotes/{id}/accept", "Make an order of a quote, at the quoted prices", wire.Makers, wire.Edit(a.AcceptQuote))
	wire.Post(api, "decline-quote", "/api/quotes/{id}/decline", "Note that a quote is not wanted", wire.Makers, wire.AtVersion(a.DeclineQuote))
	wire.Post(api, "withdraw-quote", "/api/quotes/{id}/withdraw", "Take a quote back", wire.Makers, wire.AtVersion(a.WithdrawQuote))
	wire.Get(api, "get-quote-address", "/api/quotes/{id}/address", "Where whom it was made for sees a quote", wire.Makers, database.Access, wire.Of(a.QuoteAddress))
	wire.Secret(api, "renew-quote-address", "/api/quotes/{id}/address", "Give a quote another address", wire.Makers, wire.Unkept(wire.Of(a.RenewQuoteAddress)))
	wire.Get(api, "get-shown-quote", "/api/shown-quotes/{token}", "A quote, for whoever knows its address", wire.Anyone, database.Orders|database.Products, a.ShownQuote)
	wire.Post(api, "answer-shown-quote", "/api/shown-quotes/{token}", "Accept or decline a quote, by its address", wire.Anyone,
		func(ctx context.Context, in *shownAnswer) (wire.Nothing, error) {
			return wire.Nothing{}, a.Answer(ctx, in.Token, in.Body)
		})
	wire.GetFile(api, "get-shown-quote-pdf", "/api/shown-quotes/{token}/pdf", "A quote on paper, by its address", wire.Anyone, a.ShownQuotePDF)
	wire.GetFile(api, "get-shown-quote-picture", "/api/shown-quotes/{token}/pictures/{line}", "A picture of a quote, by its address", wire.Anyone, a.ShownThumb)
	wire.Get(api, "list-owed", "/api/owed", "What is to come and to go back, the longest owed first", wire.Makers, database.Orders, wire.Whole(a.Owed))
}
