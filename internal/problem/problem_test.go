package problem_test

import (
	"encoding/json"
	"errors"
	"fmt"
	"testing"

	"github.com/danielgtaylor/huma/v2"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"tidykiln/core/fault"
	"tidykiln/internal/problem"
)

func TestProblemsAreWrittenInTheFormOfRFC9457(t *testing.T) {
	text, err := json.Marshal(problem.Invalid("lines[2].quantity", "from 1 to %d pieces", 500))
	require.NoError(t, err)
	assert.JSONEq(t, `{"title":"Please check what was entered","status":422,"detail":"from 1 to 500 pieces",
		"errors":[{"location":"body.lines[2].quantity","message":"from 1 to 500 pieces"}]}`, string(text))
	conflict := problem.Conflict(problem.Stale, "order %d moved", 7)
	assert.Equal(t, 409, conflict.GetStatus())
	assert.Equal(t, "/problems/stale", conflict.Type)
	assert.Equal(t, "application/problem+json", conflict.ContentType("application/json"))
}

func TestAFaultOfTheCoreKeepsItsField(t *testing.T) {
	p := problem.Faulty("blank", fault.At("widthMm", "must be from 5 mm to 3 m"))
	assert.Equal(t, []problem.Field{{Location: "body.blank.widthMm", Message: "must be from 5 mm to 3 m"}}, p.Errors)
	assert.Equal(t, "body.blank", problem.Faulty("blank", errors.New("no field here: or is there")).Errors[0].Location)
	assert.Equal(t, "body", problem.Faulty("", errors.New("no field here")).Errors[0].Location)
}

func TestWhatCannotBeReadNamesItsField(t *testing.T) {
	type Inner struct {
		Quantity int32 `json:"quantity"`
	}
	var into struct {
		Lines []struct{ Inner } `json:"lines"`
	}
	found := func(text string) problem.Field {
		return problem.FieldOf(&huma.ErrorDetail{Location: "body", Message: problem.ReadJSON([]byte(text), &into).Error()})
	}
	assert.Equal(t, problem.Field{Location: "body.lines.quantity", Message: "99999999999 is beyond what a number can be here"}, found(`{"lines":[{"quantity":99999999999}]}`))
	assert.Equal(t, problem.Field{Location: "body", Message: "what was sent is not readable as JSON"}, found(`{"lines"`))
	assert.NoError(t, problem.ReadJSON([]byte(`{"lines":[]}`), &into))
}

func TestOnlyAMissingRowIsNotFound(t *testing.T) {
	var p *problem.Problem
	require.ErrorAs(t, problem.OrNotFound(fmt.Errorf("reading: %w", gorm.ErrRecordNotFound), "lot"), &p)
	assert.Equal(t, 404, p.Status)
	assert.Equal(t, "There is no such lot.", p.Error())
	other := errors.New("the cable is cut")
	assert.Equal(t, other, problem.OrNotFound(other, "lot"))
	assert.NoError(t, problem.OrNotFound(nil, "lot"))
}
