// Package parts is the pages of the shop's stock and its orders.
package parts

import (
	"net/http"
	"slices"
	"strconv"

	"github.com/go-chi/chi/v5"

	"yatai/shop"
	"yatai/shop/library"
	"yatai/shop/parts"
	"yatai/shop/supply"
	"yatai/web/page"
)

// stockPage is the stock list, the shim box and the orders.
func showStock(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request, p page.Page) error {
	stock, err := parts.Stock(r.Context(), s.Shop)
	if err != nil {
		return err
	}
	models, err := library.Models(r.Context(), s.Shop)
	if err != nil {
		return err
	}
	names := map[uint]string{}
	for _, m := range models {
		names[m.ID] = m.Name
	}
	d := stockData{StockPage: stock, Models: names, Kinds: parts.StockKinds(models)}
	if d.Asked, d.HasSupplier, err = supply.Last(r.Context(), s.Shop); err != nil {
		return err
	}
	if p.Values == nil {
		p.Values = r.Form
	}
	p.Title, p.Place, p.Data = "Parts", "parts", d
	return s.Show(w, req, "stock", p)
}

type stockData struct {
	parts.StockPage
	Models map[uint]string
	Kinds  []string

	Asked       supply.Asked
	HasSupplier bool
}

// Shims are the stock's lash shims, for the box.
func (d stockData) Shims() []parts.StockRow { return d.of("lash shim", true) }

// Rest is the stock without its lash shims.
func (d stockData) Rest() []parts.StockRow { return d.of("lash shim", false) }

func (d stockData) of(kind string, is bool) []parts.StockRow {
	var out []parts.StockRow
	for _, r := range d.Rows {
		if (r.Kind == kind) == is {
			out = append(out, r)
		}
	}
	return out
}

// StockPage answers GET /parts.
func StockPage(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	return showStock(s, w, r, req, page.Page{})
}

// stockForm reads an item's form.
func stockForm(g func(string) string) parts.StockForm {
	return parts.StockForm{
		Unit:     g("unit"),
		WriteID:  g("write_id"),
		Kind:     g("kind"),
		Name:     g("name"),
		Size:     g("size"),
		UpTo:     g("up_to"),
		Model:    g("model"),
		Role:     g("role"),
		Price:    g("price"),
		Cost:     g("cost"),
		Least:    g("least"),
		Count:    g("count"),
		Dims:     g("dims"),
		Supplier: g("supplier"),
		Lead:     g("lead"),
	}
}

// Reorder are the parts that are short, with how many to order.
func (d stockData) Reorder() []parts.StockRow {
	return slices.DeleteFunc(slices.Clone(d.Rows), func(r parts.StockRow) bool { return !r.Short })
}

// KeepStock does one of the things that can be done to the stock.
func KeepStock(s *page.Site, w http.ResponseWriter, r *http.Request, req *page.Request) error {
	g, ctx, a := r.PostForm.Get, r.Context(), req.Actor
	number := func(name string) uint {
		n, _ := strconv.ParseUint(g(name), 10, 32)
		return uint(n)
	}
	verbs := map[string]func() error{
		"add": func() error {
			return parts.AddStock(ctx, s.Shop, a, stockForm(g))
		},
		"ask":    func() error { return supply.ByHand(ctx, s.Shop, a) },
		"change": func() error { return parts.ChangeStock(ctx, s.Shop, a, number("item"), stockForm(g)) },
		"count": func() error {
			return parts.CountStock(ctx, s.Shop, a, g("write_id"), number("item"), g("count/"+g("item")), "counted")
		},
		"order": func() error {
			return parts.Order(ctx, s.Shop, a, g("write_id"), number("item"), g("order/"+g("item")), g("tag"))
		},
		"receive": func() error {
			return parts.Receive(ctx, s.Shop, a, parts.Receipt{
				WriteID: g("write_id"), Order: number("order"), Count: g("came/" + g("order")),
				Measured: g("receive/" + g("order")), OK: g("ok") == "yes",
			})
		},
		"return": func() error {
			return parts.Return(ctx, s.Shop, a, g("write_id"), number("order"), g("return/"+g("order")), g("why"))
		},
		"due": func() error {
			return parts.ChangeOrder(ctx, s.Shop, a, g("write_id"), number("order"), g("due/"+g("order")),
				g("cancel") == "yes", g("why"))
		},
	}
	verb, ok := verbs[chi.URLParam(r, "verb")]
	if !ok {
		return shop.ErrNotFound
	}
	if errs, err := page.Wrong(verb()); errs != nil {
		return showStock(s, w, r, req, page.Page{Values: r.PostForm, Errors: errs})
	} else if err != nil {
		return err
	}
	return page.Redirect(w, r, "/parts")
}
