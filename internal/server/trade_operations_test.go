package server_test

import (
	"fmt"
	"strings"
	"sync/atomic"
)

var customerCount atomic.Int64

// soundOfTrade is a body that an operation about customers and money takes; nil for the others.
func (s studio) soundOfTrade(o operation) any {
	customer := func() map[string]any {
		return map[string]any{"name": fmt.Sprint("Teal Club ", customerCount.Add(1)), "email": "a@b.example", "phone": "1", "otherWay": "words", "likes": "words", "note": "words",
			"addresses": []any{map[string]any{"called": "words", "lines": "words"}}}
	}
	switch o.ID {
	case "add-customer":
		return customer()
	case "change-customer":
		form := customer()
		form["version"] = s.read(s.address(o), "version")
		return form
	case "change-terms":
		return map[string]any{"depositPercent": "30", "keeping": "spent", "keepingPercent": "50", "quoteDays": 14, "version": s.read("/api/terms", "version")}
	case "cancel-order":
		return map[string]any{"version": s.read(strings.TrimSuffix(s.address(o), "/cancel"), "version")}
	case "note-payment":
		return map[string]any{"kind": "payment", "amount": "0.01", "paidOn": "2027-05-04", "way": "cash", "note": "words"}
	case "make-quote":
		return map[string]any{"customer": "words", "dueOn": "2027-06-20", "daysOnTheWay": 1, "standsUntil": "2027-05-20", "note": "words", "lines": []any{map[string]any{"productId": 3, "quantity": 2, "unitPrice": "15.50"}}}
	case "accept-quote":
		return map[string]any{"lettering": []any{[]any{}}, "agreed": []any{}}
	case "answer-shown-quote":
		return map[string]any{"accept": false}
	case "merge-customer":
		into := s.anotherCustomer()
		return map[string]any{"intoId": into, "version": s.read(strings.TrimSuffix(s.address(o), "/merge"), "version"), "intoVersion": s.read(fmt.Sprint("/api/customers/", into), "version")}
	}
	return nil
}

// thingOfTrade is whom an operation about customers and money speaks of; nil for the others.
func (s studio) thingOfTrade(o operation) any {
	switch {
	case strings.HasPrefix(o.path, "/api/customer-merges/"):
		from, into := s.anotherCustomer(), s.anotherCustomer()
		version := func(id any) any { return s.read(fmt.Sprint("/api/customers/", id), "version") }
		ask(s.h, "POST", fmt.Sprintf("/api/customers/%v/merge", from), fmt.Sprintf(`{"intoId":%v,"version":%v,"intoVersion":%v}`, into, version(from), version(into)))
		return s.read(fmt.Sprintf("/api/customers/%v/merges", into), 0, "id")
	case strings.HasPrefix(o.path, "/api/quotes/"):
		return s.anOpenQuote()
	case strings.HasPrefix(o.path, "/api/payments/"):
		address := fmt.Sprintf("/api/orders/%v", s.openRow("/api/orders"))
		ask(s.h, "POST", address+"/payments", `{"kind":"payment","amount":"0.01","paidOn":"2027-05-04","way":"cash"}`)
		return s.lastPayment(address + "/money")
	case o.ID == "erase-customer", o.ID == "merge-customer":
		return s.anotherCustomer()
	case strings.HasPrefix(o.path, "/api/customers/"):
		return s.read("/api/customers", "rows", 0, "id")
	}
	return nil
}

// lastPayment is the last of an account.
func (s studio) lastPayment(account string) any {
	payments, _ := s.read(account, "payments").([]any)
	if len(payments) == 0 {
		return nil
	}
	return within(payments[len(payments)-1], "id")
}

// anotherCustomer is one of whom nothing is known but a name.
func (s studio) anotherCustomer() any {
	return s.made("/api/customers", fmt.Sprintf(`{"name":"Coot Club %d","addresses":[]}`, customerCount.Add(1)))
}

// anOpenQuote is one of plain pieces that stands; another one where the newest is none.
func (s studio) anOpenQuote() any {
	if newest := s.read("/api/quotes", 0); within(newest, "state") == "open" && within(newest, "customer", "name") == "Coot Club" {
		return within(newest, "id")
	}
	return s.made("/api/quotes", `{"customer":"Coot Club","dueOn":"2027-06-20","lines":[{"productId":3,"quantity":2}]}`)
}
