package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"log/slog"
	"net"
	"net/http"
	"net/netip"
	"os"
	"os/signal"
	"path/filepath"
	"runtime/debug"
	"sync/atomic"
	"syscall"
	"time"

	"yatai/demo"
	"yatai/shop"
	"yatai/shop/library"
	"yatai/shop/people"
	"yatai/store"
	"yatai/web"
	"yatai/web/page"
)

// listening is how the program is reached; every flag can be an environment variable.
type listening struct {
	Addr         string   `default:"127.0.0.1:8417" env:"YATAI_ADDR" help:"Address to listen on."`
	Tries        int      `default:"10" env:"YATAI_TRIES" help:"Wrong passwords or PINs a name may have in a minute."`
	TLSCert      string   `name:"tls-cert" env:"YATAI_TLS_CERT" type:"existingfile" help:"Certificate, to be reached by https; with --tls-key."`
	TLSKey       string   `name:"tls-key" env:"YATAI_TLS_KEY" type:"existingfile" help:"The certificate's key."`
	TrustedProxy []string `name:"trusted-proxy" env:"YATAI_TRUSTED_PROXY" placeholder:"ADDRESS" help:"A proxy before the program, by address or network."`
	LogFormat    string   `name:"log" default:"text" enum:"text,json" env:"YATAI_LOG" help:"How the log is written: ${enum}."`
	Quiet        bool     `env:"YATAI_QUIET" help:"Log no requests, only what went wrong."`
}

// proxies reads the trusted proxies.
func (l listening) proxies() ([]netip.Prefix, error) {
	var out []netip.Prefix
	for _, text := range l.TrustedProxy {
		p, err := netip.ParsePrefix(text)
		if err != nil {
			a, e := netip.ParseAddr(text)
			if e != nil {
				return nil, fmt.Errorf("--trusted-proxy %s: an address like 127.0.0.1, or a network like 10.0.0.0/8",
					text)
			}
			p = netip.PrefixFrom(a, a.BitLen())
		}
		out = append(out, p)
	}
	return out, nil
}

func (l listening) log(to io.Writer) *slog.Logger {
	o := &slog.HandlerOptions{}
	if l.Quiet {
		o.Level = slog.LevelWarn
	}
	if l.LogFormat == "json" {
		return slog.New(slog.NewJSONHandler(to, o))
	}
	return slog.New(slog.NewTextHandler(to, o))
}

type serveCmd struct {
	DB     string `name:"db" required:"" env:"YATAI_DB" help:"The shop's file." type:"path"`
	Create bool   `help:"Begin a new shop when the file is not there."`
	listening
}

func (c serveCmd) Run() error {
	if _, err := os.Stat(c.DB); errors.Is(err, fs.ErrNotExist) && !c.Create {
		return fmt.Errorf(
			"%s is not there. A new shop is begun with --create; a shop that was moved is found where it is now",
			c.DB,
		)
	}
	return serve(c.DB, c.listening, nil)
}

type demoCmd struct {
	Keep string `help:"Keep the demo's file here instead of a temporary folder." type:"path"`
	Bulk int    `help:"Heads of the years before to make up as well, to try the shop under load." placeholder:"HEADS"`
	listening
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
	here := "http://" + c.Addr
	show := &show{
		fill: func(ctx context.Context, s *shop.Shop) error { return demo.Fill(ctx, s, here) }, clock: demo.Clock,
		hint: demo.SignInHint,
	}
	for _, x := range demo.Tour {
		show.tour = append(show.tour, page.Stop(x))
	}
	if c.Bulk > 0 {
		show.fill = func(ctx context.Context, s *shop.Shop) error {
			return demo.FillHeads(ctx, s, here, bulkYears, c.Bulk, progress)
		}
	}
	return serve(path, c.listening, show)
}

// bulkYears is over how many years the heads of the history came and went.
const bulkYears = 8

// show is what only the demo has: data and the names to sign in with.
type show struct {
	fill  func(context.Context, *shop.Shop) error
	clock func(now func() time.Time, last time.Time) func() time.Time
	hint  string
	tour  []page.Stop
}

// progress says on the terminal how far something long has come.
func progress(done, of int) {
	if done%24 == 0 {
		fmt.Fprintf(os.Stderr, "%d of %d heads of history\n", done, of)
	}
}

// serve opens the file and answers until it is told to stop; answers under way are finished
// then. With a show an empty file is filled first.
func serve(path string, by listening, demo *show) error {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	if os.Getenv("GOGC") == "" {
		debug.SetGCPercent(page.GCPercent)
	}
	proxies, err := by.proxies()
	if err != nil {
		return err
	}
	if (by.TLSCert == "") != (by.TLSKey == "") {
		return errors.New("--tls-cert and --tls-key go together")
	}
	log := by.log(os.Stderr)
	slog.SetDefault(log)
	release, err := store.Lock(path)
	if err != nil {
		return err
	}
	defer func() { _ = release() }()
	var hint string
	var tour []page.Stop
	if demo != nil {
		hint, tour = demo.hint, demo.tour
		if err := fillNew(ctx, path, demo); err != nil {
			return err
		}
	}
	st, err := store.Open(path)
	if err != nil {
		return err
	}
	defer func() { _ = st.Close() }()
	clock := time.Now
	if demo != nil {
		last, err := st.Read(ctx).LastWritten()
		if err != nil {
			return err
		}
		clock = demo.clock(time.Now, last)
		if ahead := time.Until(clock()); ahead > time.Minute {
			hint += " The shop is shut at this hour: its clock says " + clock().Local().Format("Mon 2 Jan 15:04") + "."
		}
	}
	s := shop.New(st, clock)
	if demo != nil {
		if err := simulate(ctx, s); err != nil {
			return err
		}
	}
	if err := equip(ctx, s); err != nil {
		return err
	}
	go post(ctx, s)
	go remember(ctx, s)
	go tidy(ctx, s)
	go ask(ctx, s)
	var sound soundness
	go sound.examine(ctx, st, log)
	h, err := web.New(s, web.Options{
		Log: log, SignInHint: hint, Tour: tour, Tries: by.Tries, Stop: ctx.Done(), Proxies: proxies,
		Trouble: sound.trouble,
	})
	if err != nil {
		return err
	}
	return by.answer(ctx, h, hint)
}

// equip gives a shop what a version adds, and the program the shop's time zone.
func equip(ctx context.Context, s *shop.Shop) error {
	if err := library.Equip(ctx, s); err != nil {
		return err
	}
	set, err := s.Settings(ctx, "")
	if err != nil {
		return err
	}
	if zone, err := time.LoadLocation(set.Get("time_zone")); err == nil && set.Get("time_zone") != "" {
		time.Local = zone
	}
	return nil
}

// answer answers requests by h until ctx ends, and says where it is and what hint says. Answers
// under way then have some time to finish.
func (by listening) answer(ctx context.Context, h http.Handler, hint string) error {
	l, err := net.Listen("tcp", by.Addr)
	if err != nil {
		return err
	}
	srv := &http.Server{
		Handler: flowing(h), ReadHeaderTimeout: 5 * time.Second, ReadTimeout: 30 * time.Second,
		WriteTimeout: writeWithin,
		IdleTimeout:  2 * time.Minute,
	}
	scheme := "http"
	if by.TLSCert != "" {
		scheme = "https"
	}
	fmt.Printf("Yatai is at %s://%s\n", scheme, l.Addr())
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
	if by.TLSCert != "" {
		err = srv.ServeTLS(l, by.TLSCert, by.TLSKey)
	} else {
		err = srv.Serve(l)
	}
	if !errors.Is(err, http.ErrServerClosed) {
		return err
	}
	return <-finished // Serve returns as soon as Shutdown is called: the answers go on
}

// finishWithin is how long answers under way may take when the program is told to stop.
const finishWithin = 10 * time.Second

// fillNew fills the file at path when nobody owns it yet.
func fillNew(ctx context.Context, path string, demo *show) error {
	st, err := store.OpenToFill(path)
	if err != nil {
		return err
	}
	s := shop.New(st, demo.clock(time.Now, time.Time{}))
	err = library.Equip(ctx, s)
	if has, e := people.HasOwner(ctx, s); err == nil && e == nil && !has {
		if err = demo.fill(ctx, s); err != nil {
			err = fmt.Errorf("demo data: %w", err)
		}
	}
	return errors.Join(err, st.Close())
}

type doctorCmd struct {
	DB string `name:"db" required:"" help:"The shop's file." type:"existingfile"`
}

func (c doctorCmd) Run() error {
	if err := store.Examine(context.Background(), c.DB); err != nil {
		return err
	}
	fmt.Println("The file is sound.")
	return nil
}

// soundness is what a check of the file, made while the program runs, has found.
type soundness struct{ found atomic.Pointer[string] }

// examine checks the file once.
func (s *soundness) examine(ctx context.Context, st *store.Store, log *slog.Logger) {
	err := st.Check(ctx)
	if err == nil || ctx.Err() != nil {
		return
	}
	said := err.Error()
	s.found.Store(&said)
	log.Error("the shop's file is damaged", "error", err)
}

// trouble says what was found, empty for nothing.
func (s *soundness) trouble() string {
	if said := s.found.Load(); said != nil {
		return *said
	}
	return ""
}
