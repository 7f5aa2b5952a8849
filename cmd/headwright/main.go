// Command headwright is the cylinder head shop's program: it serves the shop's pages,
// starts a demo, and answers the calculations of the core on the command line.
package main

import (
	"os"

	"github.com/alecthomas/kong"
)

// commands are what the program can do.
type commands struct {
	Serve   serveCmd   `cmd:"" help:"Serve a shop kept in a file."`
	Demo    demoCmd    `cmd:"" help:"Serve a shop with demo data, made anew."`
	Calc    calcCmd    `cmd:"" help:"Answer a calculation: JSON in, JSON out. Without a name, list them."`
	Gauge   gaugeCmd   `cmd:"" help:"A simulated digital gauge: sends readings to a station."`
	Check   checkCmd   `cmd:"" help:"Check a shop's file."`
	Backup  backupCmd  `cmd:"" help:"Copy a shop's file as it is at one moment, and check the copy."`
	Restore restoreCmd `cmd:"" help:"Put a backup in the place of a shop's file."`
	User    userCmd    `cmd:"" help:"The people of a shop, for an owner who cannot sign in."`
}

func main() {
	// The calculations answer without the rest: they are called hundreds of times in a go.
	if len(os.Args) > 1 && os.Args[1] == "calc" {
		os.Exit(runCalc(os.Args[2:], os.Stdin, os.Stdout, os.Stderr))
	}
	var c commands
	ctx := kong.Parse(&c, kong.Name("headwright"), kong.Description("The tool of a cylinder head machine shop."), kong.UsageOnError())
	ctx.FatalIfErrorf(ctx.Run())
}
