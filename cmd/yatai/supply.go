package main

import (
	"context"
	"log/slog"
	"net"
	"net/http"
	"time"

	"yatai/shop"
	"yatai/shop/supply"
	"yatai/standin/supplier"
	"yatai/store"
)

// askEvery is how often the shop's supplier is asked unasked.
const askEvery = 6 * time.Hour

// ask asks the shop's supplier now, and now and then, until ctx ends.
func ask(ctx context.Context, s *shop.Shop) {
	update := func() {
		if err := supply.Update(ctx, s, shop.Actor{}); err != nil && ctx.Err() == nil {
			slog.Warn("the supplier was asked", "error", err)
		}
	}
	update()
	every(ctx, askEvery, update)
}

// simulate has the simulated supplier answer on this machine until ctx ends, and makes it the
// shop's.
func simulate(ctx context.Context, s *shop.Shop) error {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return err
	}
	stall := &http.Server{Handler: supplier.Handler(), ReadTimeout: 10 * time.Second}
	go func() { _ = stall.Serve(l) }()
	context.AfterFunc(ctx, func() { _ = stall.Close() })
	return s.Store.Write(
		ctx, func(tx store.DB) error { return tx.Set("supplier", "http://"+l.Addr().String()+"/offers") },
	)
}
