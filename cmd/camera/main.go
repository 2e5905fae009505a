// Command camera takes the demo's film anew: it draws the plays and writes them, with ffmpeg, into
// internal/demo/footage. It is run when the demo's world or the camera was changed.
package main

import (
	"context"
	"flag"
	"fmt"
	"os"
	"os/signal"
	"strings"

	"nineyard/internal/demo"
	"nineyard/library"
)

func main() {
	dir := flag.String("dir", "internal/demo/footage", "where the film goes")
	only := flag.String("only", "", "of clips whose name begins so")
	truth := flag.Bool("truth", false, "write what is to be known of them, and no video")
	flag.Parse()
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt)
	defer stop()
	if err := shoot(ctx, *dir, *only, *truth); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}

func shoot(ctx context.Context, dir, only string, truth bool) error {
	edition, err := library.Shipped()
	if err != nil {
		return err
	}
	for _, c := range demo.Shots(demo.Seed, edition.Taught) {
		if !strings.HasPrefix(c.Truth.Name, only) {
			continue
		}
		fmt.Println(c.Truth.Name)
		take := func() error { return c.Shoot(ctx, dir) }
		if truth {
			take = func() error { return c.WriteTruth(dir) }
		}
		if err := take(); err != nil {
			return err
		}
	}
	return nil
}
