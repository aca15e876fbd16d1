package health_test

import (
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"tidykiln/internal/backup"
	"tidykiln/internal/database"
	"tidykiln/internal/database/dbtest"
	"tidykiln/internal/demo/demotest"
	"tidykiln/internal/health"
)

const giga = 1 << 30

// machine is a studio's machine that is well until somebody changes something.
type machine struct {
	*testing.T
	db      *database.DB
	backups *backup.Area
	health  *health.Area
	folder  string
	now     time.Time
}

func newMachine(t *testing.T) *machine {
	dsn := dbtest.Cast(t, "empty", func(*database.DB) error { return nil })
	db, err := database.Open(t.Context(), dsn)
	require.NoError(t, err)
	t.Cleanup(func() { require.NoError(t, db.Close()) })
	m := &machine{T: t, db: db, backups: backup.New(db), folder: filepath.Join(t.TempDir(), "backups"), now: time.Now()}
	m.backups.KeepIn(backup.Places{Folder: m.folder, DSN: dsn, Files: demotest.Files(t, db)})
	m.health = health.New(db, m.backups)
	m.with(100*giga, 500*giga, true)
	return m
}

func (m *machine) with(left, whole uint64, kept bool) {
	m.health.Pretend(func() time.Time { return m.now }, left, whole, kept)
}

// says is how one thing stands.
func (m *machine) says(what health.What) health.Check {
	m.Helper()
	h, err := m.health.Look(m.Context())
	require.NoError(m, err)
	well := true
	for _, c := range h.Checks {
		well = well && c.Well
	}
	assert.Equal(m, well, h.Well)
	for _, c := range h.Checks {
		if c.What == what {
			assert.NotEmpty(m, c.Says)
			assert.Equal(m, c.Well, c.Mend == "", "what is not well can be mended")
			return c
		}
	}
	m.Fatalf("nobody looked at the %s", what)
	return health.Check{}
}

func (m *machine) hire() {
	require.NoError(m, m.db.Write(m.Context(), database.Workshop, func(tx *gorm.DB) error { return tx.Exec("INSERT INTO people (name) VALUES ('Isolde')").Error }))
}

func TestBackupsAreMissedOnceThereIsSomethingToLose(t *testing.T) {
	m := newMachine(t)
	assert.True(t, m.says(health.Backup).Well)
	m.hire()
	assert.Contains(t, m.says(health.Backup).Says, "No backup was made yet")
	require.NoError(t, m.backups.Make(t.Context(), m.now))
	held := m.says(health.Backup)
	assert.True(t, held.Well)
	assert.Contains(t, held.Says, "same disk")
	require.NotNil(t, held.At)
	m.now = m.now.Add(31 * time.Hour)
	assert.Contains(t, m.says(health.Backup).Says, "too old")
	require.NoError(t, os.WriteFile(filepath.Join(m.folder, "last-failure.txt"), []byte("no room"), 0o600))
	assert.Contains(t, m.says(health.Backup).Says, "no room")
	assert.Contains(t, func() string {
		h := health.New(m.db, backup.New(m.db))
		look, err := h.Look(t.Context())
		require.NoError(t, err)
		return look.Checks[0].Says
	}(), "keeps no backups")
}

func TestADiskIsFullBeforeItIs(t *testing.T) {
	m := newMachine(t)
	assert.Equal(t, "100 GiB of 500 GiB are left.", m.says(health.Disk).Says)
	m.with(giga, 10*giga, true)
	assert.False(t, m.says(health.Disk).Well, "less than two gigabytes")
	m.with(20*giga, 500*giga, true)
	assert.False(t, m.says(health.Disk).Well, "less than a twentieth")
	m.health = health.New(m.db, m.backups)
	m.health.Keeps(filepath.Join(m.folder, "not", "there"))
	assert.Contains(t, m.says(health.Disk).Says, "cannot be told")
	m.health.Keeps(t.TempDir())
	assert.Regexp(t, `^[\d.]+ [KMGT]iB of [\d.]+ [KMGT]iB are left\.$`, m.says(health.Disk).Says)
}

func TestWhatIsSaidIsWrittenAsTheStudioWritesNumbers(t *testing.T) {
	m := newMachine(t)
	assert.Regexp(t, `^It answers in \d+ ms and takes up [\d.]+ [KM]iB\.$`, m.says(health.Database).Says)
	require.NoError(t, m.db.Write(t.Context(), database.Workshop, func(tx *gorm.DB) error {
		return tx.Exec("UPDATE workshop SET decimal_sign = 'comma'").Error
	}))
	assert.Regexp(t, `takes up \d+(,\d+)? [KM]iB\.$`, m.says(health.Database).Says)
	m.with(5*giga/2, 20*giga, true)
	assert.Equal(t, "2,5 GiB of 20 GiB are left.", m.says(health.Disk).Says)
}

func TestAClockThatHasGoneBackIsSaid(t *testing.T) {
	m := newMachine(t)
	assert.Equal(t, "It is kept right by itself.", m.says(health.Clock).Says)
	m.with(100*giga, 500*giga, false)
	assert.Contains(t, m.says(health.Clock).Says, "Nothing keeps it right")
	trailed := dbtest.Trailed(t)
	m.db, m.health = trailed, health.New(trailed, m.backups)
	m.hire()
	assert.True(t, m.says(health.Clock).Well)
	trailed.GoBy(func() time.Time { return time.Now().Add(-time.Hour) })
	assert.Contains(t, m.says(health.Clock).Says, "gone back")
}
