package intake_test

import (
	"fmt"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/core/gate"
	"yatai/core/judge"
	"yatai/core/length"
	"yatai/internal/shoptest"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/shop/intake"
	"yatai/shop/library"
	"yatai/shop/people"
	"yatai/store"
)

// said is what a judgement says, figure by figure.
func said(j judge.Judgement) map[string]string {
	out := map[string]string{}
	for _, x := range j.All() {
		if x.Finding == 0 { // marks are known by their id
			out[x.Key()] = fmt.Sprint(x.Verdict, " ", x.Low, " ", x.High, " ", x.U, " ", x.Why(length.MM))
		}
	}
	return out
}

// empty is a shop with an owner and nothing else.
func empty(t *testing.T) (*shop.Shop, shop.Actor) {
	t.Helper()
	st, err := store.Open(filepath.Join(t.TempDir(), "empty.db"))
	require.NoError(t, err)
	t.Cleanup(func() { _ = st.Close() })
	s := shop.New(st, time.Now)
	owner, err := people.FirstOwner(t.Context(), s,
		people.PersonForm{Name: "Runa", Password: "tarn-street-1", PIN: "2468"})
	require.NoError(t, err)
	owner.Unit = length.MM
	return s, owner
}

// TestHeadsMoveFromShopToShop takes every head of the demo into an empty shop from its file:
// what is said of it is the same, and so is what its gate still asks for, signatures and approvals apart.
func TestHeadsMoveFromShopToShop(t *testing.T) {
	f := shoptest.Open(t)
	s, owner := empty(t)
	for n := 401; n <= 416; n++ {
		tag := fmt.Sprintf("T%04d", n)
		was := f.File(t, tag)
		text, err := intake.HeadFile(was).JSON()
		require.NoError(t, err)
		got, err := intake.Import(t.Context(), s, owner, intake.ImportForm{
			WriteID: shoptest.ID(), Customer: was.Job.Customer.Name, Machine: was.Job.Machine.Name, File: text,
		})
		require.NoError(t, err, tag)
		assert.Equal(t, tag, got.Tag)
		is, err := headfile.Open(t.Context(), s, tag)
		require.NoError(t, err)
		assert.Equal(t, said(was.Received), said(is.Received), tag)
		assert.Equal(t, said(was.Now), said(is.Now), tag)
		assert.Len(t, is.Readings, len(was.Readings), tag)
		if len(was.Signoffs) == 0 && len(was.Suspects()) == 0 {
			open := func(f *headfile.File) map[string]bool {
				out := map[string]bool{}
				for _, l := range gate.Head(f.Subject).Open() {
					if l.Feature == "" && !strings.HasPrefix(l.Key, "approve:") {
						out[l.Key] = true
					}
				}
				return out
			}
			assert.Equal(t, open(was), open(is), tag)
		}
	}
	models, err := library.Models(t.Context(), s)
	require.NoError(t, err)
	assert.Len(t, models, 6, "a model is added once")
	text, err := intake.HeadFile(f.File(t, "T0401")).JSON()
	require.NoError(t, err)
	again, err := intake.Import(t.Context(), s, owner,
		intake.ImportForm{WriteID: shoptest.ID(), Customer: "x", Machine: "y", File: text})
	require.NoError(t, err)
	assert.NotEqual(t, "T0401", again.Tag, "the tag is taken")
	_, err = intake.Import(t.Context(), s, owner,
		intake.ImportForm{WriteID: shoptest.ID(), Customer: "x", File: []byte(`{"format":"yatai-head/1"}`)})
	assert.ErrorContains(t, err, "machine:")
	assert.ErrorContains(t, err, "file:")
}
