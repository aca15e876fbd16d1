package library_test

import (
	"context"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/internal/house/housetest"
	"tidykiln/internal/library"
	"tidykiln/internal/problem"
)

func TestMethodsAreCopiedBroughtInAndTakenOutAsTheyWere(t *testing.T) {
	s, ctx := housetest.New(t), context.Background()
	a := s.Library
	copied, err := a.Copy(ctx, "gel-lift", library.MethodName{Name: "My slow gel"})
	require.NoError(t, err)
	assert.Equal(t, "my-slow-gel", copied.Key)
	assert.Equal(t, "gel-lift", copied.Family)
	_, err = a.Copy(ctx, "gel-lift", library.MethodName{Name: "My slow gel"})
	assert.Equal(t, "name", housetest.AtFault(t, err))
	_, err = a.Copy(ctx, "gel-lift", library.MethodName{Name: "Gel-lift"})
	assert.Equal(t, "name", housetest.AtFault(t, err), "built-in methods stay")
	_, err = a.Copy(ctx, "gel-lift", library.MethodName{Name: "ЖЖ"})
	assert.Equal(t, "name", housetest.AtFault(t, err))

	text, err := a.Export(ctx, "my-slow-gel")
	require.NoError(t, err)
	compact := strings.ReplaceAll(string(text), "\n", " ")
	_, err = a.Import(ctx, library.MethodFile{Text: compact})
	require.NoError(t, err)
	back, err := a.Export(ctx, "my-slow-gel")
	require.NoError(t, err)
	assert.Equal(t, compact, string(back), "taking it out gives the same file")

	entries, err := a.Entries(ctx)
	require.NoError(t, err)
	require.Len(t, entries, 16)
	assert.False(t, entries[15].BuiltIn)

	in := housetest.Crew()
	in.Method = "my-slow-gel"
	d, err := s.Products.Make(ctx, in)
	require.NoError(t, err)
	assert.Contains(t, d.Describe, "My slow gel")
	housetest.RefusedAs(t, a.Archive(ctx, "my-slow-gel"), problem.InUse)
	housetest.RefusedAs(t, a.Archive(ctx, "gel-lift"), problem.BuiltIn)

	own, err := s.Products.MethodFromRecipe(ctx, d.ID, library.MethodName{Name: "As we do it"})
	require.NoError(t, err)
	assert.Equal(t, "blank", own.Steps[0].Uses[0].Material)
	require.NoError(t, a.Archive(ctx, "as-we-do-it"))
	_, err = a.Export(ctx, "as-we-do-it")
	housetest.Missing(t, err)
}

func TestAMethodFileThatIsWrongNamesTheFieldAndIsNotKept(t *testing.T) {
	s, ctx := housetest.New(t), context.Background()
	a := s.Library
	file, err := a.Export(ctx, "glue-lift")
	require.NoError(t, err)
	text := strings.Replace(string(file), `"key": "glue-lift"`, `"key": "our-glue"`, 1)
	for field, spoilt := range map[string]string{
		"text.key":                 strings.Replace(text, "our-glue", "glue-lift", 1),
		"text.colour":              strings.Replace(text, `"name"`, `"colour": "red", "name"`, 1),
		"text.steps[0].yield":      strings.Replace(text, `"yield": 1,`, `"yield": 7,`, 1),
		"text.steps[1].rest.usual": strings.Replace(text, `"usual": 60`, `"usual": 6`, 1),
		"text.family":              strings.Replace(text, `"family": "glue-lift"`, `"family": "knitting"`, 1),
		"text":                     "not a file",
	} {
		_, err := a.Import(ctx, library.MethodFile{Text: spoilt})
		assert.Equal(t, field, housetest.AtFault(t, err))
	}
	entries, err := a.Entries(ctx)
	require.NoError(t, err)
	assert.Len(t, entries, 15)
}
