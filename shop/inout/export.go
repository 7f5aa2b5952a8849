package inout

import (
	"context"
	"encoding/csv"
	"errors"
	"io"
	"strconv"
	"time"

	"yatai/core/length"
	"yatai/core/words"
	"yatai/shop"
	"yatai/shop/headfile"
	"yatai/shop/intake"
	"yatai/shop/parts"
)

// Exported says what went out.
type Exported struct{ Heads, Parts int }

// Export writes the whole shop as open files: every table, a head file of each head, the photos,
// and lists of heads and stock for a spreadsheet. create makes a file by its name; files are
// made one after the other.
func Export(
	ctx context.Context, s *shop.Shop, create func(name string) (io.WriteCloser, error),
) (Exported, error) {
	var out Exported
	if err := s.Store.WriteWhole(ctx, create, shop.IsSecret); err != nil {
		return out, err
	}
	tags, err := intake.Tags(ctx, s)
	if err != nil {
		return out, err
	}
	write := func(name string, content []byte) error {
		f, err := create(name)
		if err != nil {
			return err
		}
		_, err = f.Write(content)
		return errors.Join(err, f.Close())
	}
	heads := [][]string{{"Tag", "Customer", "Contact", "Machine or engine", "Promised"}}
	for _, tag := range tags {
		f, err := headfile.Open(ctx, s, tag)
		if err != nil {
			return out, err
		}
		text, err := intake.HeadFile(f).JSON()
		if err != nil {
			return out, err
		}
		if err := write(tag+".json", text); err != nil {
			return out, err
		}
		promised := ""
		if f.Job.Promise != nil {
			promised = f.Job.Promised().Format(time.DateOnly)
		}
		heads = append(
			heads, []string{tag, f.Job.Customer.Name, f.Job.Customer.Contact, f.Job.Machine.Name, promised},
		)
		for _, p := range f.Photos {
			whole, err := intake.Photo(ctx, s, p.ID)
			if err != nil {
				return out, err
			}
			if err := write("photos/"+tag+"-"+strconv.Itoa(int(p.ID))+".jpg", whole.JPEG); err != nil {
				return out, err
			}
		}
	}
	stock, err := stockRows(ctx, s)
	if err != nil {
		return out, err
	}
	out = Exported{len(tags), len(stock) - 1}
	for _, list := range []struct {
		name string
		rows [][]string
	}{{"heads.csv", heads}, {"stock.csv", stock}} {
		f, err := create(list.name)
		if err != nil {
			return out, err
		}
		for _, row := range list.rows {
			shop.Plain(row, -1)
		}
		w := csv.NewWriter(f)
		if err := errors.Join(w.WriteAll(list.rows), w.Error(), f.Close()); err != nil {
			return out, err
		}
	}
	return out, nil
}

// stockRows is the stock as a table that can be taken in again.
func stockRows(ctx context.Context, s *shop.Shop) ([][]string, error) {
	page, err := parts.Stock(ctx, s)
	if err != nil {
		return nil, err
	}
	models, err := s.Store.Read(ctx).Models()
	if err != nil {
		return nil, err
	}
	model := map[uint]string{}
	for _, m := range models {
		model[m.ID] = m.Name
	}
	k, _ := KindNamed("stock")
	rows := [][]string{k.Names(words.English, length.MM.Name)}
	for _, r := range page.Rows {
		days := ""
		if r.LeadDays > 0 {
			days = strconv.Itoa(r.LeadDays)
		}
		rows = append(rows, []string{
			r.Kind, r.Name, r.SizeText(length.MM), model[r.ModelID], r.Role, r.PriceText(), r.CostText(),
			strconv.Itoa(r.Count),
			strconv.Itoa(r.Least), r.Supplier, days, r.Dims,
		})
	}
	return rows, nil
}
