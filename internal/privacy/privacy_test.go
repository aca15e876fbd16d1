package privacy_test

import (
	"archive/zip"
	"bytes"
	"context"
	"fmt"
	"image"
	"image/png"
	"io"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gocloud.dev/blob/memblob"
	"gorm.io/gorm"

	"tidykiln/core/calendar"
	"tidykiln/internal/artwork"
	"tidykiln/internal/backup"
	"tidykiln/internal/customers"
	"tidykiln/internal/database"
	"tidykiln/internal/database/dbtest"
	"tidykiln/internal/house/housetest"
	"tidykiln/internal/orders"
	"tidykiln/internal/problem"
	"tidykiln/internal/products"
	"tidykiln/internal/trade"
)

// telling are words by which somebody would be known again.
var telling = []string{"Quoll", "quoll", "Bandicoot", "Numbat", "Wombat Way", "0155 77"}

// studio is one with a customer of whom much is known, and what they had.
type studio struct {
	*housetest.Studio
	crew     products.Detail
	customer uint64
	order    orders.Order
}

func newStudio(t *testing.T) *studio {
	s := &studio{Studio: housetest.NewTrailed(t)}
	s.Hire(9, 17, 1, 2, 3, 4, 5)
	s.crew = s.Make(housetest.Crew())
	s.order = s.takes("Quoll Choir", "Numbat", "Bandicoot")
	s.customer = s.order.Customer.ID
	s.learns(customers.CustomerForm{Name: "The Quoll Choir", Email: "quoll@choir.example", Phone: "0155 77", Likes: "Numbat green", Note: "knows the Bandicoots",
		Addresses: []customers.CustomerAddress{{Called: "Quoll House", Lines: "9 Wombat Way"}}})
	return s
}

func (s *studio) takes(customer string, lettering ...string) orders.Order {
	o, err := s.Take(orders.NewOrder{Customer: customer, DueOn: calendar.Date("2027-03-20"), Note: "for " + customer,
		Lines: []orders.NewLine{{ProductID: s.crew.ID, Quantity: len(lettering), Lettering: lettering}}})
	require.NoError(s, err)
	return o
}

func (s *studio) learns(form customers.CustomerForm) {
	c, err := s.Customers.Get(s.Ctx, s.customer)
	require.NoError(s, err)
	_, err = s.Customers.Change(s.Ctx, s.customer, customers.CustomerChange{CustomerForm: form, Version: c.Version})
	require.NoError(s, err)
}

func (s *studio) cancels(o orders.Order) {
	require.NoError(s, s.Trade.Cancel(s.Ctx, o.ID, trade.Cancelling{Version: s.OrderNow(o.ID).Version}))
}

func (s *studio) erases() error {
	c, err := s.Customers.Get(s.Ctx, s.customer)
	require.NoError(s, err)
	return s.Privacy.Erase(s.Ctx, s.customer, c.Version)
}

// told are the tables of a database in which somebody would be known again.
func told(t *testing.T, db *database.DB) (in []string) {
	t.Helper()
	require.NoError(t, db.Snapshot(t.Context(), func(s *database.Snapshot) error {
		for _, table := range s.Tables {
			if err := s.Rows(t.Context(), table, func(line []byte) error {
				for _, words := range telling {
					if bytes.Contains(line, []byte(words)) {
						in = append(in, table.Name+": "+string(line))
					}
				}
				return nil
			}); err != nil {
				return err
			}
		}
		return nil
	}))
	return in
}

func TestWhoeverIsErasedIsNowhereAnyMore(t *testing.T) {
	s := newStudio(t)
	s.MakeUp(s.crew, 0, 2)
	housetest.RefusedAs(t, s.erases(), problem.InUse)
	s.cancels(s.order)
	other := s.takes("Heron Club", "Teal")
	require.NotEmpty(t, told(t, s.DB), "or nothing would be shown")
	require.NoError(t, s.erases())

	assert.Empty(t, told(t, s.DB))
	kept := s.OrderNow(s.order.ID)
	assert.Equal(t, customers.Under(s.customer), kept.Customer.Name)
	assert.Equal(t, s.order.Number, kept.Number)
	assert.Len(t, kept.Lines[0].Wants, 2)
	assert.Equal(t, "Teal", s.OrderNow(other.ID).Lines[0].Wants[0].Lettering, "others keep theirs")
	housetest.RefusedAs(t, s.erases(), problem.Closed)
	again := s.takes("Quoll Choir", "Ada")
	assert.NotEqual(t, s.customer, again.Customer.ID, "who comes again is somebody new")
}

func TestWhoWasMergedIsErasedWithThem(t *testing.T) {
	s := newStudio(t)
	s.cancels(s.order)
	o := s.takes("Bandicoot Quoll", "Numbat")
	s.cancels(o)
	into, err := s.Customers.Get(s.Ctx, s.customer)
	require.NoError(t, err)
	from, err := s.Customers.Get(s.Ctx, o.Customer.ID)
	require.NoError(t, err)
	_, err = s.Customers.Merge(s.Ctx, from.ID, customers.Merge{IntoID: into.ID, Version: from.Version, IntoVersion: into.Version})
	require.NoError(t, err)
	require.NoError(t, s.erases())
	assert.Empty(t, told(t, s.DB))
}

func TestABackupOfBeforeHasItErasedAgain(t *testing.T) {
	s := newStudio(t)
	s.cancels(s.order)
	folder := t.TempDir()
	files := housetest.Files(t, s.DB)
	s.Backup.KeepIn(backup.Places{Folder: folder, Files: files})
	path := folder + "/before.tar.gz"
	_, err := backup.Source{DB: s.DB, Files: files, Certificates: t.TempDir()}.MakeFile(s.Ctx, path, "", s.Now, func(int, int) {})
	require.NoError(t, err)
	require.NoError(t, s.erases())
	require.NoError(t, s.Backup.NoteErasures(s.Ctx), "twice notes nothing twice")

	archive, err := backup.Open(s.Ctx, path, "")
	require.NoError(t, err)
	defer func() { assert.NoError(t, archive.Close()) }()
	list, err := backup.ErasuresIn(folder, archive.About.Studio, archive.About.MadeAt)
	require.NoError(t, err)
	require.Equal(t, []uint64{s.customer}, []uint64{list[0].CustomerID})
	assert.Len(t, list, 1)
	dsn := dbtest.DSN(t)
	into := backup.Target{DSN: dsn, Certificates: t.TempDir(), Erase: func(tx *gorm.DB) error { return s.Privacy.Again(tx, list) },
		Files: func(studio string) (*artwork.Files, error) {
			return artwork.NewFiles(memblob.OpenBucket(nil), studio), nil
		}}
	require.NoError(t, archive.Restore(s.Ctx, into, func(int, int) {}))
	db, err := database.Open(s.Ctx, dsn)
	require.NoError(t, err)
	t.Cleanup(func() {
		require.NoError(t, db.Close())
		require.NoError(t, database.Drop(context.Background(), dsn))
	})
	assert.Empty(t, told(t, db))
	of, err := backup.ErasuresIn(folder, "another studio", archive.About.MadeAt)
	require.NoError(t, err)
	assert.Empty(t, of)
	of, err = backup.ErasuresIn(folder, archive.About.Studio, archive.About.MadeAt.Add(time.Hour))
	require.NoError(t, err)
	assert.Empty(t, of, "of a later backup nothing of it is erased: the number may be somebody else’s by then")
}

// aPicture is a picture that somebody sends.
func aPicture(t *testing.T) []byte {
	var b bytes.Buffer
	require.NoError(t, png.Encode(&b, image.NewRGBA(image.Rect(0, 0, 40, 30))))
	return b.Bytes()
}

func TestWhatIsKnownOfSomebodyIsGivenOut(t *testing.T) {
	s := newStudio(t)
	s.takes("Heron Club", "Teal")
	_, err := s.Trade.MakeQuote(s.Ctx, trade.NewQuote{Customer: "The Quoll Choir", DueOn: "2027-03-20", Note: "one more", Lines: []trade.NewQuoteLine{{ProductID: s.crew.ID, Quantity: 1}}})
	require.NoError(t, err)
	sent, err := s.Artwork.Take(s.Ctx, "choir at the weir.png", aPicture(t))
	require.NoError(t, err)
	require.NoError(t, s.DB.Write(s.Ctx, database.Orders, func(tx *gorm.DB) error { return orders.SetPicture(tx, s.order.Lines[0].Wants[0].ID, &sent.ID) }))
	content, err := s.Privacy.GiveOut(s.Ctx, s.customer)
	require.NoError(t, err)
	out, err := zip.NewReader(bytes.NewReader(content), int64(len(content)))
	require.NoError(t, err)
	all := map[string]string{}
	for _, f := range out.File {
		r, err := f.Open()
		require.NoError(t, err)
		text, err := io.ReadAll(r)
		require.NoError(t, err)
		all[f.Name] = string(text)
	}
	assert.Contains(t, all["csv/customers.csv"], "quoll@choir.example")
	assert.Contains(t, all["csv/customer_addresses.csv"], "9 Wombat Way")
	assert.Contains(t, all["csv/orders.csv"], "for Quoll Choir")
	assert.Contains(t, all["csv/pieces_ordered.csv"], "Bandicoot")
	assert.Contains(t, all["csv/quotes.csv"], "one more")
	assert.Equal(t, string(aPicture(t)), all[fmt.Sprintf("pictures/%d choir at the weir.png", sent.ID)])
	for name, text := range all {
		assert.False(t, strings.Contains(text, "Heron") || strings.Contains(text, "Teal"), name)
	}
	_, err = s.Privacy.GiveOut(s.Ctx, 999)
	housetest.Missing(t, err)
}
