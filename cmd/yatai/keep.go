package main

import (
	"bufio"
	"cmp"
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"io"
	"os"
	"slices"
	"strings"
	"time"

	"yatai/shop"
	"yatai/shop/people"
	"yatai/store"
)

type backupCmd struct {
	DB string `name:"db" required:"" help:"The shop's file; a program may be serving it." type:"existingfile"`
	To string `required:"" help:"The backup to write; nothing may be there." type:"path"`
}

func (c backupCmd) Run() error {
	if err := store.Backup(context.Background(), c.DB, c.To); err != nil {
		return err
	}
	info, err := os.Stat(c.To)
	if err != nil {
		return err
	}
	fmt.Printf("%s holds the whole shop, %.1f MB, checked.\n", c.To, float64(info.Size())/1e6)
	return nil
}

type restoreCmd struct {
	From string `required:"" help:"The backup." type:"existingfile"`
	DB   string `name:"db" required:"" help:"The shop's file; what is there is kept beside it." type:"path"`
}

func (c restoreCmd) Run() error {
	kept, err := store.Restore(context.Background(), c.From, c.DB, time.Now())
	if err != nil {
		return err
	}
	fmt.Printf("%s is the shop as it was in %s.\n", c.DB, c.From)
	if kept != "" {
		fmt.Printf("What was there is kept as %s.\n", kept)
	}
	return nil
}

// userCmd helps an owner who cannot sign in any more: who has the shop's file in hand may
// do this.
type userCmd struct {
	List     userListCmd     `cmd:"" help:"List the people of a shop."`
	Add      userAddCmd      `cmd:"" help:"Add somebody. The password is read from standard input."`
	Password userPasswordCmd `cmd:"" help:"Give somebody a new password, read from standard input, and let them in again."`
}

type userListCmd struct {
	DB string `name:"db" required:"" help:"The shop's file." type:"existingfile"`
}

func (c userListCmd) Run() error {
	return withShop(c.DB, func(ctx context.Context, s *shop.Shop) error {
		users, err := people.People(ctx, s)
		if err != nil {
			return err
		}
		for _, p := range users {
			fmt.Printf("%-20s %-11s %s\n", p.Name, p.Role,
				map[bool]string{true: "may sign in", false: "may not sign in"}[p.Active])
		}
		return nil
	})
}

type userAddCmd struct {
	DB   string `name:"db" required:"" help:"The shop's file." type:"existingfile"`
	Name string `arg:"" help:"Name."`
	Role string `default:"technician" enum:"counter,technician,lead,owner" help:"What they do: ${enum}."`
}

func (c userAddCmd) Run() error { return c.run(os.Stdin) }

func (c userAddCmd) run(in io.Reader) error {
	return alone(c.DB, func(ctx context.Context, s *shop.Shop) error {
		password, err := line(in)
		if err != nil {
			return err
		}
		f := people.PersonForm{WriteID: rand.Text(), Name: c.Name, Role: c.Role, Password: password, Unit: "mm"}
		if has, err := people.HasOwner(ctx, s); err != nil {
			return err
		} else if !has {
			f.Role = shop.Owner // somebody has to let the others in
			_, err := people.FirstOwner(ctx, s, f)
			return err
		}
		owner, _, err := ownerOf(ctx, s)
		if err != nil {
			return err
		}
		return people.AddPerson(ctx, s, owner, f)
	})
}

type userPasswordCmd struct {
	DB   string `name:"db" required:"" help:"The shop's file." type:"existingfile"`
	Name string `arg:"" help:"Name."`
}

func (c userPasswordCmd) Run() error { return c.run(os.Stdin) }

func (c userPasswordCmd) run(in io.Reader) error {
	return alone(c.DB, func(ctx context.Context, s *shop.Shop) error {
		owner, users, err := ownerOf(ctx, s)
		if err != nil {
			return err
		}
		i := slices.IndexFunc(users, func(p store.User) bool { return strings.EqualFold(p.Name, c.Name) })
		if i < 0 {
			return fmt.Errorf("nobody is called %s", c.Name)
		}
		password, err := line(in)
		if err != nil {
			return err
		}
		p := users[i]
		return people.ChangePerson(ctx, s, owner, p.ID, true, people.PersonForm{
			WriteID: rand.Text(), Name: p.Name, Role: p.Role, Password: password, Unit: cmp.Or(p.Unit, "mm"),
		})
	})
}

// alone opens a shop's file to write something short, while no program serves it: store.ErrInUse when
// one does.
func alone(path string, do func(context.Context, *shop.Shop) error) (err error) {
	release, err := store.Lock(path)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, release()) }()
	return withShop(path, do)
}

// withShop opens a shop's file for something short.
func withShop(path string, do func(context.Context, *shop.Shop) error) error {
	st, err := store.Open(path)
	if err != nil {
		return err
	}
	return errors.Join(do(context.Background(), shop.New(st, time.Now)), st.Close())
}

// ownerOf returns an owner of the shop, in whose name the command line acts.
func ownerOf(ctx context.Context, s *shop.Shop) (shop.Actor, []store.User, error) {
	users, err := people.People(ctx, s)
	if err != nil {
		return shop.Actor{}, nil, err
	}
	i := slices.IndexFunc(users, func(p store.User) bool { return p.Role == shop.Owner })
	if i < 0 {
		return shop.Actor{}, nil, errors.New("the shop has no owner yet")
	}
	return shop.Actor{ID: users[i].ID, Name: users[i].Name, Role: shop.Owner}, users, nil
}

// line reads one line, a password: never from the arguments, where others could see it.
func line(in io.Reader) (string, error) {
	fmt.Fprint(os.Stderr, "Password: ")
	text, err := bufio.NewReader(in).ReadString('\n')
	if err != nil && (err != io.EOF || text == "") {
		return "", fmt.Errorf("no password on standard input: %w", err)
	}
	if text = strings.TrimRight(text, "\r\n"); text == "" {
		return "", errors.New("an empty password")
	}
	return text, nil
}
