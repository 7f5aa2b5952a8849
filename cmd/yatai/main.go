// Command yatai is the cylinder head shop's program: it serves the shop's pages,
// starts a demo, and answers calculations and questions about head files on the command line.
package main

import (
	"os"
	"runtime/debug"
	"yatai/core/answer"

	"github.com/alecthomas/kong"
)

// commands are what the program can do.
type commands struct {
	Serve   serveCmd   `cmd:"" help:"Serve a shop kept in a file."`
	Demo    demoCmd    `cmd:"" help:"Serve a shop with demo data, made anew."`
	Calc    calcCmd    `cmd:"" help:"Answer a calculation: JSON in, JSON out. Without a name, list them."`
	Judge   askCmd     `cmd:"" help:"Of a head file: what every reading and finding says, and what may be done about it."`
	Plan    askCmd     `cmd:"" help:"Of a head file: the whole-head plan."`
	Check   askCmd     `cmd:"" help:"Of a head file: what is still open before it may leave, and why."`
	Causes  askCmd     `cmd:"" help:"Of a head file: why it failed, sign by sign."`
	Quote   askCmd     `cmd:"" help:"Of a head file: the quote's lines and sums."`
	Import  importCmd  `cmd:"" help:"Take heads in from head files."`
	Export  exportCmd  `cmd:"" help:"Write a shop's heads as head files, with its photos and stock."`
	Gauge   gaugeCmd   `cmd:"" help:"A simulated digital gauge: sends readings to a station."`
	Doctor  doctorCmd  `cmd:"" help:"Look whether a shop's file is sound."`
	Backup  backupCmd  `cmd:"" help:"Copy a shop's file as it is at one moment, and check the copy."`
	Restore restoreCmd `cmd:"" help:"Put a backup in the place of a shop's file."`
	User    userCmd    `cmd:"" help:"The people of a shop, for an owner who cannot sign in."`

	Version kong.VersionFlag `help:"Say which version this is, and go."`
}

// version is the version the program was built from: its tag, or the commit's time and hash.
func version() string {
	info, ok := debug.ReadBuildInfo()
	if !ok {
		return "yatai (version not known)"
	}
	return "yatai " + info.Main.Version + ", " + info.GoVersion
}

func main() {
	// The calculations answer without the rest: they are called hundreds of times in a go.
	if len(os.Args) > 1 && os.Args[1] == "calc" {
		os.Exit(runCalc(os.Args[2:], os.Stdin, os.Stdout, os.Stderr))
	}
	if len(os.Args) > 1 {
		if _, ok := answer.Named(os.Args[1]); ok {
			os.Exit(runAsk(os.Args[1], os.Args[2:], os.Stdin, os.Stdout, os.Stderr))
		}
	}
	var c commands
	ctx := kong.Parse(&c, kong.Name("yatai"), kong.Description("The tool of a cylinder head machine shop."),
		kong.UsageOnError(), kong.Vars{"version": version()})
	ctx.FatalIfErrorf(ctx.Run())
}
