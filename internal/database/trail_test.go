package database_test

import (
	"errors"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"tidykiln/internal/database"
	"tidykiln/internal/database/dbtest"
)

// A table is kept in the trail or left out of it with a reason, and what is said of it
// is true of its columns; so one that is added later is not forgotten.
func TestTheTrailKnowsEveryTable(t *testing.T) {
	db := dbtest.Trailed(t)
	columns := map[string]map[string]string{}
	rows, err := db.Pool().Query("SELECT table_name, column_name, data_type FROM information_schema.columns WHERE table_schema = DATABASE()")
	require.NoError(t, err)
	defer rows.Close()
	for rows.Next() {
		var table, column, is string
		require.NoError(t, rows.Scan(&table, &column, &is))
		if columns[table] == nil {
			columns[table] = map[string]string{}
		}
		columns[table][column] = is
	}
	require.NoError(t, rows.Err())
	kept := map[string]bool{}
	for _, k := range database.Trail {
		kept[k.Table] = true
		require.Contains(t, columns, k.Table)
		assert.NotEmpty(t, k.Called, k.Table)
		assert.Empty(t, database.Untrailed[k.Table], k.Table)
		for _, named := range slices.Concat([]string{k.Label, k.By}, k.Secret, k.Quiet) {
			assert.True(t, named == "" || columns[k.Table][named] != "", "%s has no column %q", k.Table, named)
		}
		for column, is := range columns[k.Table] {
			assert.True(t, is != "binary" || slices.Contains(k.Secret, column), "%s.%s is bytes, and not said to be a secret", k.Table, column)
		}
	}
	for _, k := range database.Trail {
		assert.True(t, k.Under == "" || kept[k.Under], "%s is part of %s, which is not kept", k.Table, k.Under)
	}
	for table := range columns {
		assert.True(t, kept[table] || database.Untrailed[table] != "", "%s is neither in the trail nor left out with a reason", table)
	}
}

type noted struct {
	About, RowKey, Label string
	Under, UnderKey      *string
	Was, Became          *string
}

// changesAfter are what the trail has noted since a revision.
func changesAfter(t *testing.T, db *database.DB, since uint64) (all []noted) {
	require.NoError(t, db.Read(t.Context(), func(tx *gorm.DB) error {
		return tx.Raw("SELECT * FROM trail_changes WHERE revision > ? ORDER BY id", since).Scan(&all).Error
	}))
	return all
}

func entries(t *testing.T, db *database.DB) (all []struct {
	Revision                               uint64
	At                                     time.Time
	Person, Member, Device, Doing, Request string
}) {
	require.NoError(t, db.Read(t.Context(), func(tx *gorm.DB) error {
		return tx.Raw("SELECT * FROM trail_entries ORDER BY revision").Scan(&all).Error
	}))
	return all
}

func standing(t *testing.T, db *database.DB) uint64 {
	at, err := db.Stands(t.Context())
	require.NoError(t, err)
	return at.Number
}

func write(t *testing.T, db *database.DB, statements ...string) {
	t.Helper()
	require.NoError(t, db.Write(t.Context(), database.Workshop, func(tx *gorm.DB) error {
		for _, s := range statements {
			if err := tx.Exec(s).Error; err != nil {
				return err
			}
		}
		return nil
	}))
}

func TestEveryWriteIsNotedFromWhichToWhich(t *testing.T) {
	db := dbtest.Trailed(t)
	assert.Empty(t, entries(t, db), "what migrations write is nobody's doing")
	assert.Empty(t, changesAfter(t, db, 0))

	write(t, db, "INSERT INTO people (id, name) VALUES (7, 'Isolde')", "INSERT INTO days_off (id, person_id, first_day, last_day) VALUES (3, 7, '2027-05-04', '2027-05-05')")
	made := changesAfter(t, db, 0)
	require.Len(t, made, 2)
	assert.Equal(t, "people", made[0].About)
	assert.Equal(t, "7", made[0].RowKey)
	assert.Equal(t, "Isolde", made[0].Label)
	assert.Nil(t, made[0].Under)
	assert.Nil(t, made[0].Was)
	assert.Contains(t, *made[0].Became, `"name": "Isolde"`)
	assert.Equal(t, "people", *made[1].Under)
	assert.Equal(t, "7", *made[1].UnderKey)

	at := standing(t, db)
	write(t, db, "UPDATE people SET name = 'ISOLDE'")
	changed := changesAfter(t, db, at)
	require.Len(t, changed, 1, "a letter that becomes a capital is a change")
	assert.JSONEq(t, `{"name": "Isolde"}`, *changed[0].Was, "only what is another is noted")
	assert.JSONEq(t, `{"name": "ISOLDE"}`, *changed[0].Became)

	at = standing(t, db)
	write(t, db, "UPDATE people SET name = 'ISOLDE'")
	assert.Empty(t, changesAfter(t, db, at))
	assert.Len(t, entries(t, db), 2, "a write that changed nothing is no entry")

	write(t, db, "DELETE FROM days_off")
	gone := changesAfter(t, db, at)
	require.Len(t, gone, 1)
	assert.Contains(t, *gone[0].Was, "2027-05-04")
	assert.Nil(t, gone[0].Became)

	at = standing(t, db)
	require.Error(t, db.Write(t.Context(), database.Workshop, func(tx *gorm.DB) error {
		return errors.Join(tx.Exec("UPDATE people SET name = 'Bram'").Error, errors.New("no"))
	}))
	assert.Empty(t, changesAfter(t, db, at), "what was not done is not noted")
}

func TestAnEntrySaysWhoWroteByTheClockOfTheStudio(t *testing.T) {
	db := dbtest.Trailed(t)
	at := time.Date(2027, 5, 4, 10, 26, 0, 0, time.UTC)
	db.GoBy(func() time.Time { return at })
	write(t, db, "INSERT INTO people (id, name) VALUES (7, 'Isolde')", "INSERT INTO members (id, name, role, version, created_at) VALUES (2, 'Bram', 'maker', 1, NOW())")
	ctx := database.By(t.Context(), database.Author{PersonID: 7, MemberID: 2, Device: "bench phone", Doing: "Rename somebody", Request: "ab12"})
	require.NoError(t, db.Write(ctx, database.Workshop, func(tx *gorm.DB) error { return tx.Exec("UPDATE people SET name = 'Isolda'").Error }))
	all := entries(t, db)
	require.Len(t, all, 2)
	assert.Empty(t, all[0].Person+all[0].Member+all[0].Device+all[0].Doing+all[0].Request)
	who := all[1]
	assert.Equal(t, []string{"Isolda", "Bram", "bench phone", "Rename somebody", "ab12"}, []string{who.Person, who.Member, who.Device, who.Doing, who.Request})
	assert.Equal(t, at, who.At.UTC())
	assert.Equal(t, standing(t, db), who.Revision)
}

// Documents are noted as they are, and not as texts.
func TestDocumentsAreNotedAsTheyAre(t *testing.T) {
	db := dbtest.Trailed(t)
	write(t, db, `INSERT INTO people (id, name, leaves) VALUES (7, 'Brackets }}', '{"a": [{"b": 1}]}')`)
	at := standing(t, db)
	write(t, db, `UPDATE people SET name = '{"}', leaves = '{"a": [{"b": 2}]}'`)
	all := changesAfter(t, db, at)
	require.Len(t, all, 1)
	assert.JSONEq(t, `{"name": "Brackets }}", "leaves": {"a": [{"b": 1}]}}`, *all[0].Was)
	assert.JSONEq(t, `{"name": "{\"}", "leaves": {"a": [{"b": 2}]}}`, *all[0].Became)
}

func TestSecretsAreNotedWithoutWhatTheyAre(t *testing.T) {
	db := dbtest.Trailed(t)
	write(t, db, "INSERT INTO members (id, name, role, password, version, created_at) VALUES (2, 'Bram', 'maker', 'hash-of-one', 1, NOW())", "INSERT INTO recovery_codes (member_id, code) VALUES (2, REPEAT('x', 32))")
	write(t, db, "UPDATE members SET password = 'hash-of-two', pin = 'hash-of-three', version = 2")
	all := changesAfter(t, db, 0)
	require.Len(t, all, 3)
	assert.Contains(t, *all[0].Became, `"password": "kept secret"`)
	assert.Contains(t, *all[1].Became, `"code": "kept secret"`)
	assert.JSONEq(t, `{"password": "kept secret", "pin": null}`, *all[2].Was)
	assert.JSONEq(t, `{"password": "kept secret", "pin": "kept secret"}`, *all[2].Became, "and counts of versions are no news")
}

// What the database removes by itself along with its row goes by no trigger of its own.
func TestWhatGoesWithItsRowIsNotedToo(t *testing.T) {
	db := dbtest.Trailed(t)
	write(t, db,
		"INSERT INTO customers (id, name) VALUES (1, 'Quay shop')",
		"INSERT INTO products (id, name, method, look, blank, lettered, price, created_at, version) VALUES (1, 'Sign', 'gel', 'crisp', '{}', FALSE, 1, NOW(), 1)",
		"INSERT INTO orders (id, number, customer_id, due_on, note, state, taken_at, version) VALUES (1, 1, 1, '2027-05-20', '', 'open', NOW(), 1)",
		"INSERT INTO order_lines (id, order_id, position, product_id, product_name, quantity, unit_price, unit_cost) VALUES (1, 1, 0, 1, 'Sign', 1, 1, 1)",
		"INSERT INTO wants (id, order_line_id, position, lettering) VALUES (1, 1, 0, '')",
		"INSERT INTO proofs (want_id, shown, state, at) VALUES (1, REPEAT('a', 64), 'approved', NOW())")
	at := standing(t, db)
	write(t, db, "DELETE FROM wants")
	var about []string
	for _, c := range changesAfter(t, db, at) {
		about = append(about, c.About)
	}
	assert.ElementsMatch(t, []string{"wants", "proofs"}, about)
}

// A trail set up anew, as after a migration, or in a copy, notes as the one before.
func TestTriggersAreMadeAgainWhereTheyAreMissing(t *testing.T) {
	db := dbtest.Trailed(t)
	_, err := db.Pool().Exec("DROP TRIGGER trail_people_insert")
	require.NoError(t, err)
	dbtest.Another(t, db)
	write(t, db, "INSERT INTO people (id, name) VALUES (7, 'Isolde')")
	assert.Empty(t, changesAfter(t, db, 0), "triggers that are said to stand are not looked for at every start")
	_, err = db.Pool().Exec("DELETE FROM trail_setup")
	require.NoError(t, err)
	dbtest.Another(t, db)
	write(t, db, "INSERT INTO people (id, name) VALUES (8, 'Bram')")
	assert.Len(t, changesAfter(t, db, 0), 1)
}
