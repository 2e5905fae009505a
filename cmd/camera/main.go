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
	flag.Parse()
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt)
	defer stop()
	if err := shoot(ctx, *dir, *only); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}

func shoot(ctx context.Context, dir, only string) error {
	edition, err := library.Shipped()
	if err != nil {
		return err
	}
	for _, c := range demo.Shots(demo.Seed, edition.Taught) {
		if !strings.HasPrefix(c.Truth.Name, only) {
			continue
		}
		fmt.Println(c.Truth.Name)
		if err := c.Shoot(ctx, dir); err != nil {
			return err
		}
	}
	return nil
}
