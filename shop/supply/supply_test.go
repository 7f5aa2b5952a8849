package supply_test

import (
	"encoding/json"
	"net/http"
	"net/http/httptest"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"yatai/internal/demofile"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/shop/parts"
	"yatai/shop/supply"
	"yatai/standin/supplier"
	"yatai/store"
)

var owner = shop.Actor{ID: 1, Name: "Runa", Role: shop.Owner}

func open(t *testing.T, address string) *shop.Shop {
	t.Helper()
	st, err := store.Open(demofile.Path(t))
	require.NoError(t, err)
	t.Cleanup(func() { _ = st.Close() })
	s := shop.New(st, time.Now)
	require.NoError(t, s.SetSettings(t.Context(), owner, "set-supplier-1",
		map[string]string{"supplier": address, "supplier_key": "open sesame"}, nil))
	return s
}

func items(t *testing.T, s *shop.Shop) []store.StockItem {
	t.Helper()
	all, err := s.Store.Read(t.Context()).StockItems()
	require.NoError(t, err)
	return all
}

// TestTheSupplierIsAsked asks the simulated supplier over HTTP: what it says stands beside each
// part, what is typed here goes before it, and what it does not know says so.
func TestTheSupplierIsAsked(t *testing.T) {
	stall := httptest.NewServer(supplier.Handler())
	defer stall.Close()
	s := open(t, stall.URL)
	require.NoError(t, parts.AddStock(t.Context(), s, owner,
		parts.StockForm{WriteID: "add-unknown", Kind: "valve", Name: "Never priced", Lead: "9"}))
	require.NoError(t, supply.ByHand(t.Context(), s, owner))
	all := items(t, s)
	i := slices.IndexFunc(all, func(it store.StockItem) bool { return it.Name == "Never priced" })
	require.GreaterOrEqual(t, i, 0)
	assert.Positive(t, all[i].OfferCents)
	days, known := headfile.Supply(all[i])
	assert.True(t, known)
	assert.Equal(t, 9, days, "typed here")
	all[i].LeadDays = 0
	days, _ = headfile.Supply(all[i])
	assert.Equal(t, all[i].OfferDays, days)
	last, set, err := supply.Last(t.Context(), s)
	require.NoError(t, err)
	assert.True(t, set)
	assert.WithinDuration(t, time.Now(), last.At, time.Minute)
	assert.Contains(t, last.Said, "known")
	counter := shop.Actor{ID: 2, Role: shop.Technician}
	assert.ErrorIs(t, supply.ByHand(t.Context(), s, counter), shop.ErrForbidden)
}

// TestAListIsReadOrRefused holds lists good and bad out to the shop: a bad one says why and changes
// nothing.
func TestAListIsReadOrRefused(t *testing.T) {
	var kind, body string
	status := http.StatusOK
	var asked supply.Ask
	stall := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if r.Method == http.MethodPost {
			if kind == "text/csv" { // a list that lies on a server takes no questions
				w.WriteHeader(http.StatusMethodNotAllowed)
				return
			}
			assert.NoError(t, json.NewDecoder(r.Body).Decode(&asked))
		}
		assert.Equal(t, "Bearer open sesame", r.Header.Get("Authorization"))
		w.Header().Set("Content-Type", kind)
		w.WriteHeader(status)
		_, _ = w.Write([]byte(body))
	}))
	defer stall.Close()
	s := open(t, stall.URL)
	valve := items(t, s)[slices.IndexFunc(items(t, s), func(it store.StockItem) bool { return it.Kind == "valve" })]
	offer := func() store.StockItem {
		all := items(t, s)
		return all[slices.IndexFunc(all, func(it store.StockItem) bool { return it.ID == valve.ID })]
	}
	kind, body = "text/csv", "Name,Kind,Cost,Days\n\""+strings.ToUpper(valve.Name)+"\",valve,12.34,6\n"
	require.NoError(t, supply.Update(t.Context(), s, shop.Actor{}))
	assert.Equal(t, []int64{1234, 6}, []int64{offer().OfferCents, int64(offer().OfferDays)})
	for _, bad := range []struct{ kind, body, says string }{
		{"text/csv", "kind,name,cost,days\nvalve,x,1,soon\n", "line 2"},
		{"text/csv", "kind,name,cost\nvalve,x,-1\n", "part 1"},
		{"application/json", `{"format":"other"}`, "yatai-offers/1"},
		{"application/json", `<html>`, "cannot be read"},
		{"application/json", `{"format":"yatai-offers/1","currency":"XXX","offers":[]}`, "XXX"},
		{"application/json", `{"format":"yatai-offers/1","offers":[{"kind":"valve","name":"x","days":4000}]}`, "4000 days"},
		{"application/json", strings.Repeat(" ", 4<<20+1), "longer than 4 MB"},
	} {
		kind, body = bad.kind, bad.body
		err := supply.Update(t.Context(), s, shop.Actor{})
		assert.ErrorContains(t, err, bad.says)
		assert.Equal(t, int64(1234), offer().OfferCents, "a bad list changes nothing")
		last, _, err := supply.Last(t.Context(), s)
		require.NoError(t, err)
		assert.Contains(t, last.Said, bad.says, "it can be seen later")
	}
	assert.Len(t, asked.Parts, len(items(t, s)))
	status = http.StatusTeapot
	assert.ErrorContains(t, supply.ByHand(t.Context(), s, owner), "418")
	kind, body, status = "application/json", `{"format":"yatai-offers/1","offers":[]}`, http.StatusOK
	require.NoError(t, supply.Update(t.Context(), s, shop.Actor{}))
	assert.Zero(t, offer().OfferCents, "what it does not know any more has no offer")
	stall.Close()
	assert.ErrorContains(t, supply.ByHand(t.Context(), s, owner), "does not answer")
}

func TestAShopWithoutASupplierAsksNobody(t *testing.T) {
	s := open(t, "")
	require.NoError(t, supply.Update(t.Context(), s, shop.Actor{}))
	last, set, err := supply.Last(t.Context(), s)
	require.NoError(t, err)
	assert.False(t, set)
	assert.True(t, last.At.IsZero())
	for _, bad := range []string{"parts.example", "ftp://parts.example", "http://user@parts.example/x"} {
		assert.Error(t, s.SetSettings(t.Context(), owner, "set-bad-"+bad, map[string]string{"supplier": bad}, nil), bad)
	}
}
