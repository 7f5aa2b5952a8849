package page

import (
	"net/http"

	"yatai/shop"
)

// WritePhoto answers with a picture.
func WritePhoto(w http.ResponseWriter, p shop.Photo) {
	w.Header().Set("Content-Type", "image/jpeg")
	w.Header().Set("Cache-Control", "private, max-age=86400, immutable")
	_, _ = w.Write(p.JPEG)
}
