package server_test

import (
	"encoding/json"
	"fmt"
	"maps"
	"math/rand/v2"
	"net/http"
	"regexp"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"
)

var pathParameter = regexp.MustCompile(`\{([^}]+)\}`)

// fitting are values for fields whose name says more than their schema.
var fitting = map[string]any{
	"personId": 1, "productId": 3, "wantIds": []any{}, "dueOn": "2027-05-20", "toOn": "2027-05-27", "firstDay": "2027-06-01", "lastDay": "2027-06-03",
	"fromMinute": 540, "toMinute": 600, "timeZone": "Etc/UTC", "method": "gel-lift", "material": "plain-blank", "shape": "rectangle", "surface": "wood-painted",
	"thickness": "6 mm", "rimGap": "", "width": "9 cm", "height": "9 cm", "lettering": []any{}, "lots": []any{2}, "quantity": 2, "extras": 2, "sides": 1, "choices": map[string]any{},
	"spoiled": []any{}, "again": []any{}, "rework": []any{}, "ticked": []any{0}, "price": "12.50", "pieceId": 1,
	"feePercent": "6.5", "feeFixed": "0.3", "cardPercent": "1.5", "cardFixed": "0.1", "taxPercent": "20", "ending": 50, "targetValue": "30", "outletId": 1, "stall": "60.00", "pieces": 2,
	"materialId": 3, "receivedOn": "2027-05-03", "shipping": "4.90", "tax": "3.20", "packs": 1, "pack": "50", "rejects": 0, "sorted": []any{},
	"labourPerHour": "16", "overheadPerHour": "2.4", "rightsOn": "2027-05-03", "corner": "3 mm", "foot": "6 cm", "artworkId": 1, "since": "2027-05-04T10:26:00Z", "startedAt": "2027-05-04T10:26:00Z", "endedAt": "2027-05-04T10:26:00Z",
}

// sample is a value that satisfies the schema, all of its properties included.
func (d document) sample(name string, s schema) any {
	if v, known := fitting[name]; known {
		return v
	}
	s = d.resolve(s)
	switch {
	case len(s.Enum) > 0:
		return s.Enum[0]
	case s.is() == "object":
		object := map[string]any{}
		for _, key := range slices.Sorted(maps.Keys(s.Properties)) {
			object[key] = d.sample(key, s.Properties[key])
		}
		return object
	case s.is() == "array":
		return []any{d.sample("", *s.Items)}
	case s.is() == "integer" || s.is() == "number":
		return max(1, s.Minimum)
	case s.is() == "boolean":
		return false
	}
	return "words"
}

// studio writes requests that its state lets through.
type studio struct {
	document
	testing.TB
	h http.Handler
}

// read answers what stands at a path of keys and indexes in the answer of an address; nil when there is nothing.
func (s studio) read(address string, path ...any) any {
	var v any
	require.NoError(s, json.Unmarshal(ask(s.h, "GET", address, "").Body.Bytes(), &v))
	return within(v, path...)
}

func within(v any, path ...any) any {
	for _, p := range path {
		switch p := p.(type) {
		case string:
			object, _ := v.(map[string]any)
			v = object[p]
		case int:
			list, _ := v.([]any)
			if p >= len(list) {
				return nil
			}
			v = list[p]
		}
	}
	return v
}

// openRow finds a row of a list, or a page by its number, that is still open.
func (s studio) openRow(address string) any {
	rows := s.read(address)
	for i := range 99 {
		id := within(rows, i, "id")
		if id == nil || within(rows, i, "state") == "open" {
			return id
		}
	}
	return nil
}

func (s studio) openBatch() any {
	today := s.read("/api/today")
	for _, at := range [][]any{{"inHand", 0, "lots", 0}, {"ready", 0, "lots", 0}, {"resting", 0}} {
		if id := within(today, append(at, "batchId")...); id != nil {
			return id
		}
	}
	return nil
}

// thing is what the operation speaks of: something that the studio holds and that is not over.
func (s studio) thing(o operation) string {
	var id any = 1
	switch of, ofTrade, ofPapers := s.thingOfAccess(o), s.thingOfTrade(o), s.thingOfPapers(o); {
	case ofPapers != nil:
		id = ofPapers
	case of != nil:
		id = of
	case ofTrade != nil:
		id = ofTrade
	case strings.HasPrefix(o.path, "/api/runs/"):
		id = s.read("/api/today", "inHand", 0, "lots", 0, "runId")
	case strings.HasPrefix(o.path, "/api/lots/"):
		id = s.read("/api/today", "ready", 0, "lots", 0, "lotId")
	case strings.HasPrefix(o.path, "/api/sittings/"):
		id = within(s.sitting(), "sittingId")
	case o.ID == "take-back":
		id = 1
	case o.ID == "set-stock-goal":
		id = 3 // of which no piece is somebody's own
	case strings.HasPrefix(o.path, "/api/purchases/"):
		id = s.read("/api/materials/1", "left", 0, "purchaseId")
	case strings.HasPrefix(o.path, "/api/receipts/"):
		id = s.read("/api/receipts", 0, "receiptId")
	case strings.HasPrefix(o.path, "/api/materials/"), strings.HasPrefix(o.path, "/api/movements/"):
		id = gelMedium
	case strings.HasPrefix(o.path, "/api/shelf-movements/"):
		s.stockShelf()
		id = s.read("/api/products/1/shelf", "movements", 0, "id")
	case strings.HasPrefix(o.path, "/api/outlets/"):
		id = s.read("/api/outlets", 1, "id")
	case o.ID == "set-pictures":
		id = s.pictured()
	case strings.HasPrefix(o.path, "/api/orders/"):
		id = s.openRow("/api/orders")
	case strings.HasPrefix(o.path, "/api/batches/"):
		id = s.openBatch()
	case o.ID == "remove-print-job":
		made := ask(s.h, "POST", "/api/print-jobs", inJSON(s.printJob()))
		var job struct{ ID uint64 }
		if json.Unmarshal(made.Body.Bytes(), &job) == nil && job.ID > 0 {
			id = job.ID
		}
	case strings.HasPrefix(o.path, "/api/artworks/"):
		id = s.read("/api/artworks", 0, "id")
	}
	if id == nil {
		id = 1
	}
	return fmt.Sprint(id)
}

// stockShelf puts spare pieces on the shelf of product 1, one more than there are.
func (s studio) stockShelf() {
	spare, _ := s.read("/api/products/1/shelf", "spare").(float64)
	ask(s.h, "POST", "/api/products/1/shelf/count", fmt.Sprintf(`{"pieces":%v}`, spare+1))
}

// gelMedium is a material whose stock is kept count of.
const gelMedium = 5

// address fills the parameters of the path.
func (s studio) address(o operation) string {
	return pathParameter.ReplaceAllStringFunc(o.path, func(p string) string {
		switch {
		case p == "{id}":
			return s.thing(o)
		case p == "{key}" && strings.Contains(o.path, "troubles"):
			return "cloudy"
		case p == "{key}":
			return "gel-lift"
		case p == "{token}":
			return s.token(o)
		case p == "{line}":
			return fmt.Sprint(s.read("/api/quotes", 0, "lines", 0, "id"))
		case p == "{look}" || p == "{artwork}":
			return fmt.Sprint(s.pictureOfProof(p))
		case p == "{hash}":
			return fmt.Sprint(s.read("/api/artworks", 0, "thumb"))
		}
		return "1"
	})
}

// sound is a body that the operation takes: of what the studio holds already
// where it holds such a thing, else made from the schema.
func (s studio) sound(o operation) any {
	if body := soundOfAccess(o); body != nil {
		return body
	}
	if body := s.soundOfPapers(o); body != nil {
		return body
	}
	if body := s.soundOfTrade(o); body != nil {
		return body
	}
	switch o.ID {
	case "save-workshop":
		return s.read("/api/workshop")
	case "change-artwork":
		artwork := s.read("/api/artworks", 0).(map[string]any)
		return map[string]any{"title": "words", "rights": "own", "rightsNote": "words", "rightsOn": "2027-05-03", "showsPeople": false, "consent": "words", "lettering": false, "version": artwork["version"]}
	case "ask-prints", "make-prints":
		return s.printJob()
	case "set-printer":
		return map[string]any{"paper": 250, "toner": 1, "jammed": false, "scale": 100}
	case "ask-design":
		return map[string]any{"design": aDesign(), "artworkId": s.read("/api/artworks", 0, "id")}
	case "change-design":
		return map[string]any{"design": aDesign(), "ownPictures": false, "version": s.read("/api/products/1", "version")}
	case "answer-shown-proof":
		return map[string]any{"answers": []any{map[string]any{"wantId": s.read(s.shownOrder()+"/proof", "pieces", 0, "wantId"), "state": "approved", "note": "words"}}}
	case "answer-proof":
		return map[string]any{"answers": []any{map[string]any{"wantId": s.wantedBy(s.thing(o)), "state": "approved", "note": "words"}}}
	case "set-pictures":
		order := s.thing(o)
		return map[string]any{"pictures": []any{map[string]any{"wantId": s.wantedBy(order), "artworkId": s.read("/api/orders/"+order, "lines", 0, "pieces", 0, "artwork", "id")}}, "version": s.read("/api/orders/"+order, "version")}
	case "change-recipe", "try-recipe", "edit-recipe":
		recipe := s.read("/api/products/1", "draft").(map[string]any)
		body := map[string]any{"look": recipe["look"], "sheen": recipe["sheen"], "choices": recipe["choices"], "steps": recipe["steps"]}
		if o.ID == "change-recipe" {
			body["version"] = s.read("/api/products/1", "version")
		}
		if o.ID == "edit-recipe" {
			body["edit"] = map[string]any{"step": "pack", "move": -1}
		}
		return body
	case "import-method":
		text := strings.Replace(ask(s.h, "GET", "/api/methods/gel-lift/file", "").Body.String(), `"gel-lift"`, `"gel-lift-of-ours"`, 1)
		return map[string]any{"text": text}
	case "add-material":
		return map[string]any{"name": fmt.Sprint("words ", s.read("/api/materials", "total")), "kind": "medium", "unit": "ml", "filmMm": 0.1, "density": 1.1, "lasts": 3, "leadDays": 3, "hazard": "", "sort": "", "unitCost": "0.05"}
	case "change-material":
		m := s.read(fmt.Sprint("/api/materials/", gelMedium)).(map[string]any)
		body := map[string]any{"unitCost": "0.05"}
		for _, key := range []string{"name", "kind", "unit", "filmMm", "shelfLifeDays", "openLifeDays", "leadDays", "hazard", "sort", "version"} {
			body[key] = m[key]
		}
		return body
	case "read-label":
		return map[string]any{"labelFloorMinutes": 500, "labelRecoatFromMinutes": 60, "labelRecoatToMinutes": 2880, "version": s.read(fmt.Sprint("/api/materials/", gelMedium), "version")}
	case "follow-labels":
		return map[string]any{"products": []any{map[string]any{"id": 1, "version": s.read("/api/products/1", "version")}}}
	case "count-material":
		return map[string]any{"quantity": "300 ml", "note": "words"}
	case "take-out":
		return map[string]any{"quantity": "0.01 ml", "cause": "loss", "note": "words"}
	case "take-off-shelf":
		s.stockShelf()
		return map[string]any{"pieces": 1, "cause": "spoil", "lettering": "", "note": "words"}
	case "say-used":
		used := s.read(fmt.Sprintf("/api/batches/%s/account", s.thing(o)), "materials", 0, "materialId")
		return map[string]any{"materialId": used, "quantity": "3", "acceptShort": true}
	case "change-order":
		o := fmt.Sprintf("/api/orders/%s", s.thing(o))
		return map[string]any{"customer": "Heron Club", "dueOn": s.read(o, "dueOn"), "note": "words", "agreed": []any{}, "version": s.read(o, "version"),
			"lines": []any{map[string]any{"lineId": s.read(o, "lines", 0, "lineId"), "unitPrice": "15.50", "wants": []any{
				map[string]any{"wantId": s.read(o, "lines", 0, "pieces", 0, "wantId"), "lettering": s.read(o, "lines", 0, "pieces", 0, "lettering")}}}}}
	case "propose-past":
		return map[string]any{"productId": 3, "pieces": 2, "begunAt": "2027-04-26T09:00:00Z"}
	case "enter-past":
		return map[string]any{"productId": 3, "wantIds": []any{}, "extras": 2, "personId": 1, "acceptRisk": true, "acceptShort": true,
			"steps": []any{map[string]any{"startedAt": "2027-04-26T09:00:00Z", "minutes": 12, "lost": []any{2}, "reason": "words"}}}
	case "suppose", "accept-supposed":
		return map[string]any{"comes": []any{map[string]any{"personId": 1, "day": "2027-05-06", "fromMinute": 900, "toMinute": 960}}, "places": 2}
	case "set-stock-goal":
		return map[string]any{"pieces": 4, "on": "2027-05-20"}
	case "accept-suggestion":
		return map[string]any{"batches": []any{map[string]any{"productId": 3, "wantIds": []any{}, "extras": 2, "lots": []any{2}}}}
	case "dismiss-suggestion", "recall-suggestion":
		return map[string]any{"key": strings.Repeat("0a", 16)}
	case "hold-lot":
		return map[string]any{"step": s.read("/api/lots/"+s.thing(o), "step"), "at": "2027-05-06T10:00:00Z", "personId": 1}
	case "take-up-together":
		return map[string]any{"personId": 1, "lots": s.likeLots(), "acceptRisk": true}
	case "done-together":
		return map[string]any{"lots": []any{map[string]any{"runId": within(s.sitting(), "lots", 0, "runId"), "again": []any{}, "rework": []any{}, "spoiled": []any{}}}, "acceptShort": true}
	case "recalibrate":
		return map[string]any{"material": "gel-medium", "version": s.read("/api/products/1", "version")}
	case "add-outlet":
		if last := s.read("/api/outlets", 9); last != nil {
			ask(s.h, "POST", fmt.Sprintf("/api/outlets/%v/archive", within(last, "id")), fmt.Sprintf(`{"version":%v}`, within(last, "version")))
		}
	case "method-from-recipe":
		return map[string]any{"name": "lift of ours"}
	}
	form, takes := o.body(s.document)
	if !takes {
		return nil
	}
	body := s.sample("", form)
	if fields, is := body.(map[string]any); is {
		s.fit(o, fields)
	}
	return body
}

// fit sets the fields that depend on what the studio holds.
func (s studio) fit(o operation, fields map[string]any) {
	if _, versioned := fields["version"]; versioned && strings.HasPrefix(o.path, "/api/outlets/") {
		fields["version"] = s.read("/api/outlets", 1, "version")
	} else if versioned {
		address := strings.Join(strings.Split(s.address(o), "/")[:4], "/")
		fields["version"] = s.read(address, "version")
	}
	if step, steps := s.read("/api/lots/"+s.thing(o), "step"), fields["step"]; steps != nil && step != nil && strings.HasPrefix(o.path, "/api/lots/") {
		fields["step"] = step
		fields["acceptRisk"] = true
	}
}

// request is a whole request that the studio takes.
func (s studio) request(o operation) (address, body string) {
	switch o.ID {
	case "import-materials":
		return s.address(o) + "?save=true", fmt.Sprintf("key,name,kind,unit,unit_cost,lead_days\n,Reed %v,paper,sheet,0.2,\ngel-medium,Gel medium,medium,ml,0.03,%d\n", s.read("/api/materials", "total"), 1+rand.IntN(300))
	case "import-purchases":
		return s.address(o) + "?save=true", fmt.Sprintf("supplier,received_on,material,pack,price\nReed & Rush,2027-05-03,gel-medium,473 ml,%d\nWeir Blanks,2027-05-03,slice-90,10,12\n", 1+rand.IntN(9000))
	}
	if v := s.sound(o); v != nil {
		body = inJSON(v)
	}
	return s.address(o), body
}
