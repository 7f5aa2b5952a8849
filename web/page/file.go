package page

import (
	"net/http"
)

// SendFile answers with a file to keep.
func SendFile(w http.ResponseWriter, kind, name string, b []byte) error {
	w.Header().Set("Content-Type", kind)
	w.Header().Set("Content-Disposition", `inline; filename="`+name+`"`)
	_, err := w.Write(b)
	return err
}
