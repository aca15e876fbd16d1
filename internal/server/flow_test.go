package server_test

import (
	"encoding/json"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// conversation asks one thing after the other and reads the answers as a page would.
type conversation struct {
	*testing.T
	h http.Handler
}

func (c conversation) say(method, path, body string, want int) (answer map[string]any) {
	c.Helper()
	r := ask(c.h, method, path, body)
	require.Equal(c, want, r.Code, "%s %s: %s", method, path, r.Body)
	if r.Body.Len() > 0 && strings.HasPrefix(strings.TrimSpace(r.Body.String()), "{") {
		require.NoError(c, json.Unmarshal(r.Body.Bytes(), &answer))
	}
	return answer
}

func TestTheWireCarriesAnOrderToTheBench(t *testing.T) {
	h, _ := demoHandler(t)
	c := conversation{t, h}

	promise := c.say("POST", "/api/promise", `{"dueOn":"2027-05-14","lines":[{"productId":1,"quantity":2}]}`, 200)
	assert.Equal(t, "spare", promise["state"])
	assert.Equal(t, "31", promise["total"], "money is a decimal string")

	made := c.say("POST", "/api/orders", `{"agreed":[`+everybody()+`],"customer":"Sedge Scouts","dueOn":"2027-05-14","lines":[{"productId":1,"quantity":2,"lettering":["Ada","Bea"]}]}`, 201)
	order := c.say("GET", "/api/orders/"+number(made["id"]), "", 200)
	assert.Equal(t, []any{"notStarted", "notStarted"}, order["marks"])
	assert.Equal(t, "open", order["state"])

	stale := c.say("POST", "/api/orders/"+number(made["id"])+"/cancel", `{"version":7}`, 409)
	assert.Equal(t, "/problems/stale", stale["type"])
	early := c.say("POST", "/api/orders/"+number(made["id"])+"/hand-over", `{"version":1}`, 409)
	assert.Contains(t, early["detail"], "0 of the 2 pieces")

	today := c.say("GET", "/api/today", "", 200)
	inHand := today["inHand"].([]any)[0].(map[string]any)["lots"].([]any)[0].(map[string]any)
	run := "/api/runs/" + number(inHand["runId"])
	c.say("POST", run+"/ticked", `{"ticked":[2,1]}`, 204)
	c.say("POST", run+"/put-down", "", 204)
	c.say("POST", run+"/put-down", "", 204) // twice is as good as once
	c.say("POST", run+"/resume", "", 204)
	piece := inHand["pieces"].([]any)[0].(map[string]any)
	nameless := c.say("POST", run+"/done", `{"spoiled":[{"pieceId":`+number(piece["id"])+`,"reason":""}]}`, 422)
	assert.Equal(t, "body.spoiled[0].reason", nameless["errors"].([]any)[0].(map[string]any)["location"])
	c.say("POST", run+"/done", `{"spoiled":[{"pieceId":`+number(piece["id"])+`,"reason":"lifted"}]}`, 204)
	again := c.say("POST", run+"/done", `{}`, 409)
	assert.Equal(t, "/problems/step-done", again["type"])

	early = c.say("POST", "/api/lots/"+number(inHand["lotId"])+"/runs", `{"personId":1,"step":6}`, 409)
	assert.Equal(t, "/problems/rest-under-floor", early["type"])
	c.say("POST", "/api/lots/"+number(inHand["lotId"])+"/runs", `{"personId":1,"step":6,"acceptRisk":true}`, 201)
	c.say("POST", "/api/lots/"+number(inHand["lotId"])+"/runs", `{"personId":99,"step":6}`, 409)
}

// number writes a JSON number that is an id.
func number(v any) string {
	text, _ := json.Marshal(v) // a number from JSON always is one again
	return string(text)
}

func TestNothingIsKeptOfARequestThatIsRefused(t *testing.T) {
	h, _ := demoHandler(t)
	c := conversation{t, h}
	before := ask(h, "GET", "/api/orders", "").Body.String()
	for _, body := range []string{
		`{"agreed":[` + everybody() + `],"customer":"Half","dueOn":"2027-05-14","lines":[{"productId":3,"quantity":2},{"productId":99,"quantity":1}]}`,
		`{"agreed":[` + everybody() + `],"customer":"Half","dueOn":"2027-05-14","lines":[{"productId":3,"quantity":2},{"productId":1,"quantity":1,"lettering":[]}]}`,
		`{"agreed":[` + everybody() + `],"customer":"Half","dueOn":"2027-05-03","lines":[{"productId":3,"quantity":2}]}`,
	} {
		c.say("POST", "/api/orders", body, 422)
	}
	assert.Equal(t, before, ask(h, "GET", "/api/orders", "").Body.String())
	assert.Equal(t, "[]\n", ask(h, "GET", "/api/customer-names?text=Half", "").Body.String())
}
