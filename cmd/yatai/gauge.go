package main

import (
	"bufio"
	"context"
	"errors"
	"fmt"
	"os"
	"time"

	"yatai/core/length"
	"yatai/standin/gauge"
)

type gaugeCmd struct {
	To      string        `default:"http://127.0.0.1:8417" help:"Address of the shop."`
	Key     string        `required:"" help:"The station's gauge key, from the People page of the enrolled tablet."`
	Nominal string        `default:"8.010mm" help:"Size of the part it measures."`
	Noise   string        `default:"0.002mm" help:"Scatter of its readings, k = 2."`
	Wear    string        `default:"0.030mm" help:"How far a worn place is off."`
	Seed    uint64        `default:"1" help:"The same seed gives the same readings."`
	Pace    time.Duration `help:"Send by itself at this pace; without it, one for each Enter."`
	Head    string        `type:"existingfile" help:"Measure this head: a readings.json the shop has exported."`
	Of      string        `default:"guide.bore" help:"Which characteristic of the head."`
	Count   int           `default:"0" help:"Stop after so many; 0 goes on."`
}

// Run measures and sends until it is told to stop.
func (c gaugeCmd) Run() error {
	var p gauge.Part
	for _, l := range []struct {
		text string
		to   *length.Length
	}{{c.Nominal, &p.Nominal}, {c.Noise, &p.Noise}, {c.Wear, &p.Wear}} {
		var err error
		if *l.to, err = length.Parse(l.text, length.None); err != nil {
			return fmt.Errorf("%q: %w", l.text, err)
		}
	}
	g := gauge.New(p, c.Seed)
	var truth []length.Length
	if c.Head != "" {
		f, err := os.Open(c.Head)
		if err != nil {
			return err
		}
		truth, err = gauge.Head(f, c.Of)
		if err = errors.Join(err, f.Close()); err != nil {
			return err
		}
		c.Count = len(truth)
	}
	button := bufio.NewScanner(os.Stdin)
	for n := 0; c.Count == 0 || n < c.Count; n++ {
		if c.Pace > 0 {
			time.Sleep(c.Pace)
		} else if !button.Scan() {
			return button.Err()
		}
		v := g.Read()
		if truth != nil {
			v = g.Measure(truth[n])
		}
		if err := gauge.Send(context.Background(), c.To, c.Key, v); err != nil {
			return err
		}
		fmt.Println(v)
	}
	return nil
}
