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

	"headwright/demo"
	"headwright/shop"
	"headwright/standin/supplier"
	"headwright/store"
	"headwright/web"
)

type serveCmd struct {
	DB    string `name:"db" required:"" help:"The shop's file; made if it is not there." type:"path"`
	Addr  string `default:"127.0.0.1:8417" help:"Address to listen on."`
	Tries int    `default:"10" help:"Wrong passwords or PINs a name may have in a minute."`
}

func (c serveCmd) Run() error { return serve(c.DB, c.Addr, c.Tries, nil, "") }

type demoCmd struct {
	Addr  string `default:"127.0.0.1:8417" help:"Address to listen on."`
	Keep  string `help:"Keep the demo's file here instead of a temporary folder." type:"path"`
	Bulk  int    `help:"Years of history to make up as well, to try the shop under load." placeholder:"YEARS"`
	Tries int    `default:"10" help:"Wrong passwords or PINs a name may have in a minute."`
}

func (c demoCmd) Run() error {
	path := c.Keep
	if path == "" {
		dir, err := os.MkdirTemp("", "headwright-demo")
		if err != nil {
			return err
		}
		defer func() { _ = os.RemoveAll(dir) }()
		path = filepath.Join(dir, "demo.db")
	}
	fill := demo.Fill
	if c.Bulk > 0 {
		fill = func(ctx context.Context, s *shop.Shop) error { return demo.FillYears(ctx, s, c.Bulk, progress) }
	}
	return serve(path, c.Addr, c.Tries, fill, demo.SignInHint)
}

// progress says on the terminal how far something long has come.
func progress(done, of int) {
	if done%20 == 0 {
		fmt.Fprintf(os.Stderr, "%d of %d heads of history\n", done, of)
	}
}

// serve opens the file, fills it if fill is given and it is empty, and answers until it
// is told to stop.
func serve(path, addr string, tries int, fill func(context.Context, *shop.Shop) error, hint string) error {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	if os.Getenv("GOGC") == "" {
		debug.SetGCPercent(web.GCPercent)
	}
	release, err := store.Lock(path)
	if err != nil {
		return err
	}
	defer func() { _ = release() }()
	if fill != nil {
		if err := fillNew(ctx, path, fill); err != nil {
			return err
		}
	}
	st, err := store.Open(path)
	if err != nil {
		return err
	}
	defer func() { _ = st.Close() }()
	s := shop.New(st, time.Now)
	s.Ask = func(kind, name string) (int64, int, string, bool) {
		o, ok := supplier.Ask(kind, name)
		return o.CostCents, o.LeadDays, o.Note, ok
	}
	if err := s.Equip(ctx); err != nil {
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
	fmt.Printf("Headwright is at http://%s\n", l.Addr())
	if hint != "" {
		fmt.Println(hint)
	}
	go func() {
		<-ctx.Done()
		end, cancel := context.WithTimeout(context.Background(), 5*time.Second)
		defer cancel()
		_ = srv.Shutdown(end)
	}()
	if err := srv.Serve(l); !errors.Is(err, http.ErrServerClosed) {
		return err
	}
	return nil
}

// fillNew fills the file at path when nobody owns it yet.
func fillNew(ctx context.Context, path string, fill func(context.Context, *shop.Shop) error) error {
	st, err := store.OpenToFill(path)
	if err != nil {
		return err
	}
	s := shop.New(st, time.Now)
	err = s.Equip(ctx)
	if has, e := s.HasOwner(ctx); err == nil && e == nil && !has {
		if err = fill(ctx, s); err != nil {
			err = fmt.Errorf("demo data: %w", err)
		}
	}
	return errors.Join(err, st.Close())
}

type checkCmd struct {
	DB string `name:"db" required:"" help:"The shop's file." type:"existingfile"`
}

func (c checkCmd) Run() error {
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
