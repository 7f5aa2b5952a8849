package web_test

import (
	"bytes"
	"mime/multipart"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// TestLimitsFromAFileAreLookedAtFirst uploads a sheet: its figures stand in the fields, and
// nothing is written yet.
func TestLimitsFromAFileAreLookedAtFirst(t *testing.T) {
	s := demoSite(t)
	v := s.as(t, "Runa")
	upload := func(text string) (int, string) {
		var b bytes.Buffer
		w := multipart.NewWriter(&b)
		require.NoError(t, w.WriteField("set", "service"))
		part, err := w.CreateFormFile("file", "limits.csv")
		require.NoError(t, err)
		_, err = part.Write([]byte(text))
		require.NoError(t, err)
		require.NoError(t, w.Close())
		r, err := http.NewRequest("POST", s.URL+"/reference/models/1/limits?set=service", &b)
		require.NoError(t, err)
		r.Header.Set("Content-Type", w.FormDataContentType())
		return v.send(r)
	}
	status, page := upload("set,characteristic,role,unit,low,high,near,source\nservice,seat.width,intake,mm,1.11,2.22,0.1,leaflet <b>7</b>\n")
	require.Equal(t, http.StatusOK, status)
	assert.Contains(t, page, `value="1.11 mm"`)
	assert.Contains(t, page, `value="leaflet &lt;b&gt;7&lt;/b&gt;"`)
	_, stands := v.get("/reference/models/1")
	assert.NotContains(t, stands, "1.11 mm")
	status, page = upload("set,characteristic,low,high,source\nservice,seat.colour,1,2,s\n")
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, page, "this sheet has no seat.colour")
	status, page = v.post("/reference/models/1/limits", nil)
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Contains(t, page, "choose a CSV file")
	status, file := v.get("/reference/models/1/limits.csv")
	require.Equal(t, http.StatusOK, status)
	assert.True(t, strings.HasPrefix(file, "set,characteristic,role,unit,low,high,near,source\n"))
}

// TestABackupIsDownloaded takes a backup over HTTP: it is a database, sent as a file.
func TestABackupIsDownloaded(t *testing.T) {
	v := demoSite(t).as(t, "Runa")
	_, page := v.get("/settings")
	assert.Contains(t, page, "None has been taken yet")
	status, file := v.post("/settings/backup", nil)
	require.Equal(t, http.StatusOK, status)
	assert.True(t, strings.HasPrefix(file, "SQLite format 3\x00"))
	_, page = v.get("/settings")
	assert.Contains(t, page, "The last one was taken")
}
