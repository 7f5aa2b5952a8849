package supplier_test

import (
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"yatai/standin/supplier"
)

func post(body string) *httptest.ResponseRecorder {
	w := httptest.NewRecorder()
	supplier.Handler().ServeHTTP(w, httptest.NewRequest(http.MethodPost, "/", strings.NewReader(body)))
	return w
}

func TestSupplierAnswersTheSame(t *testing.T) {
	ask := `{"format":"yatai-ask/1","parts":[{"kind":"valve","name":"a valve"},{"kind":"exchange head","name":"x"},{"kind":"moon rock","name":"x"}]}`
	one, again := post(ask), post(ask)
	assert.Equal(t, http.StatusOK, one.Code)
	assert.Equal(t, one.Body.String(), again.Body.String())
	assert.Contains(t, one.Body.String(), `"a valve"`)
	assert.NotContains(t, one.Body.String(), "moon rock")
	assert.Equal(t, http.StatusBadRequest, post(`{"format":"other"}`).Code)
}
