package trail_test

import (
	"context"
	"encoding/csv"
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"tidykiln/core/craft"
	"tidykiln/internal/database"
	"tidykiln/internal/house/housetest"
	"tidykiln/internal/trail"
	"tidykiln/internal/wire"
)

// as is a context of somebody with a role at a device.
func as(t *testing.T, role wire.Role, device string) context.Context {
	ctx := wire.Acting(t.Context(), wire.Actor{Role: role, Device: device})
	return database.By(ctx, database.Author{Device: device, Doing: "Try something", Request: "ab"})
}

func read(t *testing.T, s *housetest.Studio, w trail.Wanted) trail.Trail {
	t.Helper()
	got, err := s.Trail.Read(as(t, wire.RoleOwner, ""), w)
	require.NoError(t, err)
	return got
}

// fields are what changed of a kind of thing, as "name: was > became".
func fields(entries []trail.TrailEntry, about string) (all []string) {
	for _, e := range entries {
		for _, c := range e.Changes {
			for _, f := range c.Fields {
				if c.About == about {
					all = append(all, fmt.Sprintf("%s: %s > %s", f.Name, f.Was, f.Became))
				}
			}
		}
	}
	return all
}

func abouts(entries []trail.TrailEntry) map[string]bool {
	all := map[string]bool{}
	for _, e := range entries {
		for _, c := range e.Changes {
			all[c.About] = true
		}
	}
	return all
}

func TestAThingIsReadWithAllThatIsPartOfIt(t *testing.T) {
	s := housetest.NewTrailed(t).Small()
	first := s.OrderFor("2027-03-20", 2)
	s.OrderFor("2027-03-21", 1)
	got := read(t, s.Studio, trail.Wanted{About: "orders", Key: fmt.Sprint(first.ID)})
	require.Len(t, got.Entries, 1, "and nothing of the other order")
	for about := range abouts(got.Entries) {
		assert.Contains(t, []string{"orders", "order_lines", "wants"}, about)
	}
	assert.Len(t, abouts(got.Entries), 3, "pieces ordered are part of a line, which is part of the order")
	made := got.Entries[0].Changes[0]
	assert.Equal(t, trail.Made, made.Did)
	assert.Equal(t, "order", made.Called)
	assert.Equal(t, fmt.Sprint(first.Number), made.Label)
	assert.Contains(t, fields(got.Entries, "orders"), "customer:  > Reed Club", "what a number names is called by its name")
	assert.Contains(t, fields(got.Entries, "orders"), "due on:  > 2027-03-20")
	for _, f := range append(fields(got.Entries, "orders"), fields(got.Entries, "order_lines")...) {
		assert.NotRegexp(t, "^(keep rests|order):", f, "what it has not, and what it is part of, is no news")
	}
	assert.Contains(t, fields(got.Entries, "order_lines"), "unit price:  > 16", "without noughts at its end")
	assert.Contains(t, fields(got.Entries, "orders"), "taken at:  > "+housetest.Monday.Format(time.RFC3339))
}

func TestAChangeSaysFromWhichToWhich(t *testing.T) {
	s := housetest.NewTrailed(t).Small()
	d, err := s.Products.Get(s.Ctx, s.Product)
	require.NoError(t, err)
	s.Reshape(d, func(steps []craft.Step) []craft.Step {
		steps[0].Name = "Sand well"
		return steps
	})
	got := read(t, s.Studio, trail.Wanted{About: "products", Key: fmt.Sprint(s.Product)})
	assert.Contains(t, fields(got.Entries[:1], "products"), "recipe: 2 > 3")
	assert.Contains(t, fields(got.Entries[:1], "recipes"), "number:  > 3")

	require.NoError(t, s.DB.Write(s.Ctx, database.Products, func(tx *gorm.DB) error {
		return tx.Exec("UPDATE recipes SET document = JSON_REPLACE(document, '$.steps[0].minutesPerPiece', 7.5) WHERE number = 3").Error
	}))
	got = read(t, s.Studio, trail.Wanted{About: "recipes"})
	require.Len(t, got.Entries[0].Changes[0].Fields, 1)
	assert.Equal(t, trail.Number, got.Entries[0].Changes[0].Fields[0].Kind, "so that pages write it as numbers are written here")
	require.NoError(t, s.DB.Write(s.Ctx, database.Products, func(tx *gorm.DB) error {
		return tx.Exec("UPDATE recipes SET document = JSON_REPLACE(document, '$.steps[0].name', 'Sand it') WHERE number = 3").Error
	}))
	got = read(t, s.Studio, trail.Wanted{About: "recipes"})
	assert.Equal(t, []string{"document, steps, sand, name: Sand well > Sand it"}, fields(got.Entries[:1], "recipes"), "of a document only what is another, found by the ids in it")
}

func TestWhatIsAskedForIsFound(t *testing.T) {
	s := housetest.NewTrailed(t)
	name := func(ctx context.Context, name string) {
		require.NoError(t, s.DB.Write(ctx, database.Workshop, func(tx *gorm.DB) error {
			return tx.Exec("UPDATE workshop SET name = ?", name).Error
		}))
	}
	name(as(t, wire.RoleOwner, "bench phone"), "One")
	s.Later(24 * time.Hour)
	name(as(t, wire.RoleOwner, "desk, 100%"), "Two")
	name(s.Ctx, "Three")
	called := func(w trail.Wanted) (names []string) {
		for _, e := range read(t, s, w).Entries {
			for _, f := range e.Changes[0].Fields {
				names = append(names, f.Became)
			}
		}
		return names
	}
	assert.Equal(t, []string{"Three", "Two", "One"}, called(trail.Wanted{}), "the newest first")
	assert.Equal(t, []string{"One"}, called(trail.Wanted{Who: " PHONE "}))
	assert.Equal(t, []string{"Two"}, called(trail.Wanted{Who: "100%"}))
	assert.Empty(t, called(trail.Wanted{Who: "_"}), "signs of the database's own are letters like any")
	assert.Equal(t, []string{"One"}, called(trail.Wanted{To: "2027-03-01"}))
	assert.Equal(t, []string{"Three", "Two"}, called(trail.Wanted{From: "2027-03-02", To: "2027-03-02"}))
	assert.Empty(t, called(trail.Wanted{About: "orders"}))
	all := read(t, s, trail.Wanted{}).Entries
	assert.Equal(t, []bool{true, false, false}, []bool{all[0].Itself, all[1].Itself, all[2].Itself}, "what nobody asked for is the studio's own doing")
	assert.Equal(t, []string{"One"}, called(trail.Wanted{Before: all[1].Revision}))

	for field, w := range map[string]trail.Wanted{"about": {About: "revision"}, "to": {From: "2027-03-02", To: "2027-03-01"}} {
		_, err := s.Trail.Read(s.Ctx, w)
		assert.Equal(t, field, housetest.AtFault(t, err))
	}
	_, err := s.Trail.Read(s.Ctx, trail.Wanted{Key: "1"})
	assert.Equal(t, "about", housetest.AtFault(t, err))
}

func TestOlderEntriesComeInPages(t *testing.T) {
	s := housetest.NewTrailed(t)
	for i := range 40 {
		require.NoError(t, s.DB.Write(s.Ctx, database.Workshop, func(tx *gorm.DB) error {
			for k := range 20 {
				if err := tx.Exec("INSERT INTO people (name) VALUES (?)", fmt.Sprintf("%d of %d", k, i)).Error; err != nil {
					return err
				}
			}
			return nil
		}))
	}
	first := read(t, s, trail.Wanted{})
	require.Len(t, first.Entries, 30)
	assert.Len(t, first.Entries[0].Changes, 12)
	assert.Equal(t, 8, first.Entries[0].More, "the rest is in the table")
	second := read(t, s, trail.Wanted{Before: first.Older})
	require.Len(t, second.Entries, 10)
	assert.Less(t, second.Entries[0].Revision, first.Entries[29].Revision)
	assert.Zero(t, second.Older)
}

func TestOnlyAnOwnerReadsWhoMayComeIn(t *testing.T) {
	s := housetest.NewTrailed(t)
	require.NoError(t, s.DB.Write(s.Ctx, database.Access|database.Workshop, func(tx *gorm.DB) error {
		if err := tx.Exec("UPDATE workshop SET name = 'One'").Error; err != nil {
			return err
		}
		return tx.Exec("INSERT INTO members (name, role, password, version, created_at) VALUES ('Bram', 'maker', 'hash-of-one', 1, NOW())").Error
	}))
	owner := read(t, s, trail.Wanted{})
	assert.Contains(t, fields(owner.Entries, "members"), "password:  > kept secret")
	maker, err := s.Trail.Read(as(t, wire.RoleMaker, ""), trail.Wanted{})
	require.NoError(t, err)
	require.Len(t, maker.Entries, 1)
	assert.Equal(t, map[string]bool{"workshop": true}, abouts(maker.Entries))
	maker, err = s.Trail.Read(as(t, wire.RoleMaker, ""), trail.Wanted{About: "members"})
	require.NoError(t, err)
	assert.Empty(t, maker.Entries)
	for _, k := range maker.Kinds {
		assert.NotEqual(t, "members", k.About)
	}
	table, err := s.Trail.CSV(as(t, wire.RoleMaker, ""), trail.Wanted{})
	require.NoError(t, err)
	assert.NotContains(t, string(table), "Bram")
}

func TestTheTableHasEveryField(t *testing.T) {
	s := housetest.NewTrailed(t)
	require.NoError(t, s.DB.Write(as(t, wire.RoleOwner, "bench phone"), database.Workshop, func(tx *gorm.DB) error {
		return tx.Exec("UPDATE workshop SET name = '=1+1', labour_per_hour = 17.5").Error
	}))
	table, err := s.Trail.CSV(as(t, wire.RoleOwner, ""), trail.Wanted{})
	require.NoError(t, err)
	rows, err := csv.NewReader(strings.NewReader(strings.TrimPrefix(string(table), "\ufeff"))).ReadAll()
	require.NoError(t, err)
	at := "2027-03-01T09:00:00Z"
	assert.Equal(t, [][]string{
		{"at", "person", "member", "device", "did", "request", "kind", "key", "called", "change", "field", "from", "to"},
		{at, "", "", "bench phone", "Try something", "ab", "settings of the studio", "1", "'=1+1", "changed", "labour per hour", "16", "17.5"},
		{at, "", "", "bench phone", "Try something", "ab", "settings of the studio", "1", "'=1+1", "changed", "name", "My studio", "'=1+1"},
	}, rows)
}
