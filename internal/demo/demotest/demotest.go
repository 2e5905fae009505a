// Package demotest gives tests the demo club in a database of their own.
package demotest

import (
	"context"
	"sync"
	"testing"

	"nineyard/internal/demo"
	"nineyard/internal/pgserver/pgtest"
	"nineyard/internal/platform/pg"
	"nineyard/library"
)

// World is the demo's world, built once.
var World = sync.OnceValue(func() *demo.World {
	edition, err := library.Shipped()
	if err != nil {
		panic(err) // a broken build; the library's own tests say why
	}
	return demo.Build(demo.Seed, edition.Taught)
})

// Copy makes a database like the demo's and returns its address.
func Copy(t testing.TB) string {
	t.Helper()
	return pgtest.Copy(t, "demo", func(url string) error {
		ctx := context.Background()
		if _, err := pg.Migrate(ctx, url); err != nil {
			return err
		}
		owner, err := pg.OpenOwner(url, 2)
		if err != nil {
			return err
		}
		defer func() { _ = owner.Close() }()
		return demo.Load(ctx, owner, World())
	})
}

// Open connects to a copy of the demo, as the application and as its owner.
func Open(t testing.TB) (app, owner *pg.DB) {
	t.Helper()
	url := Copy(t)
	app, err := pg.Open(url, 5)
	if err != nil {
		t.Fatal(err)
	}
	owner, err = pg.OpenOwner(url, 2)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _, _ = app.Close(), owner.Close() })
	return app, owner
}
