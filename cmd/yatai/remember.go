package main

import (
	"context"
	"log/slog"
	"time"

	"yatai/shop"
	"yatai/shop/customers"
	"yatai/shop/week"
)

// rememberEvery is how often the day's plan of the week is kept: the last one of a day stays.
const rememberEvery = 30 * time.Minute

// remember keeps what the week's plan is, so that the next day can tell what changed, until ctx
// ends.
func remember(ctx context.Context, s *shop.Shop) {
	every(ctx, rememberEvery, func() {
		if err := week.Remember(ctx, s); err != nil {
			slog.Error("the day's plan is not kept", "error", err)
		}
	})
}

// tidyEvery is how often what is kept no longer is removed.
const tidyEvery = 24 * time.Hour

// tidy removes what is kept no longer, at once and every day, until ctx ends.
func tidy(ctx context.Context, s *shop.Shop) {
	remove := func() {
		if err := customers.Tidy(ctx, s); err != nil && ctx.Err() == nil {
			slog.Error("what is kept no longer is not removed", "error", err)
		}
	}
	remove()
	every(ctx, tidyEvery, remove)
}

// every does something after each interval, until ctx ends.
func every(ctx context.Context, interval time.Duration, do func()) {
	tick := time.NewTicker(interval)
	defer tick.Stop()
	for {
		select {
		case <-ctx.Done():
			return
		case <-tick.C:
			do()
		}
	}
}
