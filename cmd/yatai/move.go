package main

import (
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"slices"

	"yatai/shop"
	"yatai/shop/inout"
	"yatai/shop/intake"
	"yatai/store"
)

// importCmd takes heads in from head files, or a whole shop into a new file.
type importCmd struct {
	From     string `arg:"" help:"A head file, a folder of them, or a folder with a whole shop." type:"existingpath"`
	DB       string `name:"db" required:"" help:"The shop's file." type:"path"`
	Customer string `default:"from head files" help:"Whose the heads are."`
	Machine  string `default:"not known" help:"Which machine they come from."`
}

func (c importCmd) Run() error {
	if _, err := os.Stat(filepath.Join(c.From, store.ManifestName)); err == nil {
		return c.whole()
	}
	files := []string{c.From}
	if info, err := os.Stat(c.From); err != nil {
		return err
	} else if info.IsDir() {
		if files, err = filepath.Glob(filepath.Join(c.From, "*.json")); err != nil {
			return err
		}
		slices.Sort(files)
	}
	if len(files) == 0 {
		return errors.New("no head files (*.json) there")
	}
	return alone(c.DB, func(ctx context.Context, s *shop.Shop) error {
		owner, _, err := ownerOf(ctx, s)
		if err != nil {
			return err
		}
		var wrong error
		for _, name := range files { // each by itself: one that is wrong keeps no other out
			got, err := c.one(ctx, s, owner, name)
			if err != nil {
				wrong = errors.Join(wrong, fmt.Errorf("%s: %w", name, err))
				continue
			}
			fmt.Printf("%s is %s\n", name, got.Tag)
			for _, left := range got.Left {
				fmt.Printf("  not taken over: %s\n", left)
			}
		}
		return wrong
	})
}

// whole makes a new shop of a folder that export has written.
func (c importCmd) whole() error {
	if err := store.ReadWhole(context.Background(), os.DirFS(c.From), c.DB); err != nil {
		return err
	}
	fmt.Printf("%s is the whole shop. Nobody has a password yet: yatai user password NAME --db %s\n", c.DB, c.DB)
	return nil
}

func (c importCmd) one(
	ctx context.Context, s *shop.Shop, owner shop.Actor, name string,
) (intake.Imported, error) {
	f, err := os.Open(name)
	if err != nil {
		return intake.Imported{}, err
	}
	defer func() { _ = f.Close() }()
	text, err := readInput("import", nil, f)
	if err != nil {
		return intake.Imported{}, err
	}
	return intake.Import(ctx, s, owner, intake.ImportForm{
		WriteID: rand.Text(), Customer: c.Customer, Machine: c.Machine, File: text,
	})
}

// exportCmd writes a whole shop as open files: a head file of each head, photos, lists for a
// spreadsheet, and every table as it is, from which import makes the same shop again.
type exportCmd struct {
	DB string `name:"db" required:"" help:"The shop's file; a program may be serving it." type:"existingfile"`
	To string `required:"" help:"Folder to write to; made when it is not there." type:"path"`
}

func (c exportCmd) Run() error {
	return withShop(c.DB, func(ctx context.Context, s *shop.Shop) error {
		out, err := inout.Export(ctx, s, func(name string) (io.WriteCloser, error) {
			path := filepath.Join(c.To, filepath.FromSlash(name))
			if err := os.MkdirAll(filepath.Dir(path), 0o755); err != nil {
				return nil, err
			}
			return os.Create(path)
		})
		if err != nil {
			return err
		}
		fmt.Printf("%d heads, %d kinds of part are in %s\n", out.Heads, out.Parts, c.To)
		return nil
	})
}
