package page

import (
	"net/http"
	"net/url"
	"strconv"
)

// perPage is how many rows of a list are shown at a time.
const perPage = 50

// List is a part of a list that can grow, with the way to the other parts.
type List[T any] struct {
	Rows          []T
	From, To, Of  int // the first shown counts from 1
	Before, After string
}

// Paged cuts the part of a list that the request's "page" asks for.
func Paged[T any](r *http.Request, all []T) List[T] {
	n, _ := strconv.Atoi(r.Form.Get("page"))
	from := min(max(0, n-1)*perPage, max(0, len(all)-1)/perPage*perPage)
	to := min(len(all), from+perPage)
	l := List[T]{Rows: all[from:to], From: min(from+1, len(all)), To: to, Of: len(all)}
	link := func(page int) string {
		q := url.Values{}
		for k, v := range r.URL.Query() {
			q[k] = v
		}
		q.Set("page", strconv.Itoa(page))
		return r.URL.Path + "?" + q.Encode()
	}
	if from > 0 {
		l.Before = link(from / perPage)
	}
	if to < len(all) {
		l.After = link(from/perPage + 2)
	}
	return l
}
