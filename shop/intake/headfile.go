package intake

import (
	"context"
	"crypto/subtle"
	"time"

	"yatai/core/head"
	"yatai/shop"
	"yatai/shop/headfile"
)

// HeadFile is everything about a head as an open file (docs/head-file.md): what the core works
// on, with the times, the people and the reasons of corrections beside it.
func HeadFile(f *headfile.File) head.File {
	out := head.Encode(f.Subject)
	at := func(t time.Time) string { return t.UTC().Format(time.RFC3339) }
	for i, r := range f.Readings {
		x := &out.Readings[i]
		x.AtTime, x.Why = at(r.At), r.Why
		if r.Person != nil {
			x.By = r.Person.Name
		}
	}
	for i, o := range f.Operations {
		x := &out.Operations[i]
		for to, t := range map[*string]*time.Time{&x.Started: o.StartedAt, &x.Finished: o.FinishedAt} {
			if t != nil {
				*to = at(*t)
			}
		}
	}
	if f.Releaser != "" {
		out.Head.Released = f.Releaser + ", " + f.Licence
	}
	return out
}

// Tags lists the tags of all heads, oldest first.
func Tags(ctx context.Context, s *shop.Shop) ([]string, error) {
	return s.Store.Read(ctx).Tags()
}

// leastToken is how long a program's token is at least.
const leastToken = 24

// MayAsk tells whether a program that nobody has signed in for may ask for calculations: the
// shop has opened that door to all, or it shows the owner's token.
func MayAsk(ctx context.Context, s *shop.Shop, token string) bool {
	set, err := s.Settings(ctx, "")
	if err != nil {
		return false
	}
	if set.Get("open_api") == "to all" {
		return true
	}
	own := set.Get("api_token")
	return len(own) >= leastToken && subtle.ConstantTimeCompare([]byte(own), []byte(token)) == 1
}
