package main

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"os"
	"os/signal"
	"path/filepath"
	"runtime/debug"
	"syscall"
	"time"

	"yatai/demo"
	"yatai/shop"
	"yatai/shop/library"
	"yatai/shop/people"
	"yatai/standin/supplier"
	"yatai/store"
	"yatai/web"
	"yatai/web/page"
)

type serveCmd struct {
	DB    string `name:"db" required:"" help:"The shop's file; made if it is not there." type:"path"`
	Addr  string `default:"127.0.0.1:8417" help:"Address to listen on."`
	Tries int    `default:"10" help:"Wrong passwords or PINs a name may have in a minute."`
}

func (c serveCmd) Run() error { return serve(c.DB, c.Addr, c.Tries, nil) }

type demoCmd struct {
	Addr  string `default:"127.0.0.1:8417" help:"Address to listen on."`
	Keep  string `help:"Keep the demo's file here instead of a temporary folder." type:"path"`
	Bulk  int    `help:"Years of history to make up as well, to try the shop under load." placeholder:"YEARS"`
	Tries int    `default:"10" help:"Wrong passwords or PINs a name may have in a minute."`
}

func (c demoCmd) Run() error {
	path := c.Keep
	if path == "" {
		dir, err := os.MkdirTemp("", "yatai-demo")
		if err != nil {
			return err
		}
		defer func() { _ = os.RemoveAll(dir) }()
		path = filepath.Join(dir, "demo.db")
	}
	show := &show{fill: demo.Fill, hint: demo.SignInHint, ask: askSupplier}
	if c.Bulk > 0 {
		show.fill = func(ctx context.Context, s *shop.Shop) error { return demo.FillYears(ctx, s, c.Bulk, progress) }
	}
	return serve(path, c.Addr, c.Tries, show)
}

// show is what only the demo has: data, the names to sign in with, and the simulated
// outside things.
type show struct {
	fill func(context.Context, *shop.Shop) error
	hint string
	ask  func(kind, name string) (costCents int64, leadDays int, note string, ok bool)
}

// askSupplier asks the simulated parts supplier.
func askSupplier(kind, name string) (int64, int, string, bool) {
	o, ok := supplier.Ask(kind, name)
	return o.CostCents, o.LeadDays, o.Note, ok
}

// progress says on the terminal how far something long has come.
func progress(done, of int) {
	if done%20 == 0 {
		fmt.Fprintf(os.Stderr, "%d of %d heads of history\n", done, of)
	}
}

// serve opens the file and answers until it is told to stop; answers under way are finished
// then. With a show an empty file is filled first.
func serve(path, addr string, tries int, demo *show) error {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	if os.Getenv("GOGC") == "" {
		debug.SetGCPercent(page.GCPercent)
	}
	release, err := store.Lock(path)
	if err != nil {
		return err
	}
	defer func() { _ = release() }()
	var hint string
	if demo != nil {
		hint = demo.hint
		if err := fillNew(ctx, path, demo.fill); err != nil {
			return err
		}
	}
	st, err := store.Open(path)
	if err != nil {
		return err
	}
	defer func() { _ = st.Close() }()
	s := shop.New(st, time.Now)
	if demo != nil {
		s.Ask = demo.ask
	}
	if err := library.Equip(ctx, s); err != nil {
		return err
	}
	go post(ctx, s)
	h, err := web.New(s, st, web.Options{Log: slog.New(slog.NewTextHandler(os.Stderr, nil)), SignInHint: hint, Tries: tries, Stop: ctx.Done()})
	if err != nil {
		return err
	}
	l, err := net.Listen("tcp", addr)
	if err != nil {
		return err
	}
	srv := &http.Server{Handler: h, ReadHeaderTimeout: 5 * time.Second, ReadTimeout: 30 * time.Second, WriteTimeout: 60 * time.Second, IdleTimeout: 2 * time.Minute}
	fmt.Printf("Yatai is at http://%s\n", l.Addr())
	if hint != "" {
		fmt.Println(hint)
	}
	finished := make(chan error, 1)
	go func() {
		<-ctx.Done()
		end, cancel := context.WithTimeout(context.Background(), finishWithin)
		defer cancel()
		finished <- srv.Shutdown(end)
	}()
	if err := srv.Serve(l); !errors.Is(err, http.ErrServerClosed) {
		return err
	}
	return <-finished // Serve returns as soon as Shutdown is called: the answers go on
}

// finishWithin is how long answers under way may take when the program is told to stop.
const finishWithin = 10 * time.Second

// fillNew fills the file at path when nobody owns it yet.
func fillNew(ctx context.Context, path string, fill func(context.Context, *shop.Shop) error) error {
	st, err := store.OpenToFill(path)
	if err != nil {
		return err
	}
	s := shop.New(st, time.Now)
	err = library.Equip(ctx, s)
	if has, e := people.HasOwner(ctx, s); err == nil && e == nil && !has {
		if err = fill(ctx, s); err != nil {
			err = fmt.Errorf("demo data: %w", err)
		}
	}
	return errors.Join(err, st.Close())
}

type doctorCmd struct {
	DB string `name:"db" required:"" help:"The shop's file." type:"existingfile"`
}

func (c doctorCmd) Run() error {
	st, err := store.Open(c.DB)
	if err != nil {
		return err
	}
	defer func() { _ = st.Close() }()
	if err := st.Check(context.Background()); err != nil {
		return err
	}
	fmt.Println("The file is sound.")
	return nil
}
