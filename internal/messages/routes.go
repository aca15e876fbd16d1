package messages

import (
	"github.com/danielgtaylor/huma/v2"

	"tidykiln/internal/database"
	"tidykiln/internal/wire"
)

// Mount adds the area's routes.
func (a *Area) Mount(api huma.API) {
	ofOrder := database.PlanInputs | database.Promises | database.Access
	wire.Get(api, "list-message-templates", "/api/message-templates", "The texts of messages, and what can be filled into them", wire.Makers, database.Orders, wire.Whole(a.Templates))
	wire.Put(api, "change-message-template", "/api/message-templates", "Change the text of a message", wire.Makers, wire.Send(a.ChangeTemplate))
	wire.Get(api, "list-order-messages", "/api/orders/{id}/messages", "Messages about an order, ready to go", wire.Makers, ofOrder, a.OfOrder)
	wire.GetFile(api, "get-order-mail", "/api/orders/{id}/message.eml", "A message about an order, for a mail program", wire.Makers, a.MailOfOrder)
	wire.Get(api, "list-quote-messages", "/api/quotes/{id}/messages", "Messages about a quote, ready to go", wire.Makers, database.Orders|database.Products|database.Access, a.OfQuote)
	wire.GetFile(api, "get-quote-mail", "/api/quotes/{id}/message.eml", "A message about a quote, for a mail program", wire.Makers, a.MailOfQuote)
}
