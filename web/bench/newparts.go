package bench

import (
	"net/http"

	"yatai/core/newpart"
	"yatai/shop/headfile"
	"yatai/web/headpage"
	"yatai/web/page"
)

// newKind is the new parts of one kind in a head.
type newKind struct {
	Name  string
	Parts []newpart.Part
}

type newPartsData struct{ Kinds []newKind }

// NewParts shows every new part of a head beside the one it replaces.
func NewParts(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return headpage.Step(s, w, r, req, "newparts", func(f *headfile.File) (any, error) {
		var d newPartsData
		for _, p := range newpart.Compare(f.Subject) {
			if n := len(d.Kinds); n == 0 || d.Kinds[n-1].Name != p.Kind.Name {
				d.Kinds = append(d.Kinds, newKind{Name: p.Kind.Name})
			}
			last := &d.Kinds[len(d.Kinds)-1]
			last.Parts = append(last.Parts, p)
		}
		return d, nil
	})
}
