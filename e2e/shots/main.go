// Command shots takes the pictures of the main views for docs/screenshots, from the
// demo club. Names given as arguments limit it to those.
package main

import (
	"cmp"
	"context"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"time"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"

	"nineyard/e2e/harness"
)

type shot struct {
	name          string
	width, height int
	group         string
	coach         string // R. Kell unless it says otherwise
	path          string // after /g/GROUP/w/7
	night         bool
	print         bool // as the printer gets it
	before        func(p *rod.Page)
}

func click(selector, text string) func(*rod.Page) {
	return func(p *rod.Page) {
		p.MustElementR(selector, text).MustClick()
		time.Sleep(500 * time.Millisecond)
	}
}

var shots = []shot{
	{name: "today", width: 1280, height: 800, path: "/today"},
	{name: "today-phone", width: 390, height: 844, path: "/today"},
	{name: "practice", width: 1280, height: 800, path: "/practice", before: planned},
	{name: "season", coach: "M. Orrin", width: 1280, height: 800, path: "/season"},
	{name: "calls", width: 1280, height: 860, path: "/season/calls"},
	{name: "script", coach: "M. Orrin", width: 1280, height: 800, path: "/practice", night: true, before: scripted},
	{name: "marks", width: 1280, height: 800, path: "/practice", before: marking},
	{name: "players", width: 1280, height: 800, path: "/players"},
	{name: "player", width: 1280, height: 900, path: "/players", before: click("th a", "64 Sato")},
	{name: "player-phone", width: 390, height: 844, path: "/players", before: click("th a", "64 Sato")},
	{name: "teaching", width: 1280, height: 800, path: "/teaching?technique=base_block"},
	{name: "card", width: 1123, height: 794, path: "/teaching?technique=base_block", print: true},
	{name: "drill", width: 1280, height: 860, path: "/teaching/drills/pull_bag"},
	{name: "ladders", width: 1280, height: 860, path: "/teaching/ladders?ladder=close_turn_ladder"},
	{name: "film", width: 1280, height: 800, path: "/film", before: game},
	{name: "sheet", width: 1280, height: 860, path: "/film", before: sheet},
	{name: "find", width: 1280, height: 800, path: "/players", before: finding},
	{name: "roster", width: 1280, height: 800, path: "/roster", before: roster},
	{name: "print", width: 1123, height: 794, path: "/practice", before: click("a", "Tuesday practice"), print: true},
}

// planned puts a third and a fourth drill in, as the coach would tonight.
func planned(p *rod.Page) {
	click("a", "Tuesday practice")(p)
	for _, drill := range []string{"Double to the linebacker", "Set fit"} {
		p.MustElement("[aria-label='Suggested drills'] li[aria-label='"+drill+"']").MustElementR("button", "Add").MustClick()
		time.Sleep(500 * time.Millisecond)
	}
	p.MustElement("h1").MustClick()
	p.Mouse.MustScroll(0, -5000)
}

// scripted opens the master script with a period chosen.
func scripted(p *rod.Page) {
	click("a", "Tuesday practice")(p)
	click("a", "Script")(p)
	p.MustElementR("h1", "Script of")
	click("[aria-label='Master script'] button", "Inside run")(p)
	p.MustElementR("[aria-label='What to look at'] button", "Put WR and DB together")
}

func marking(p *rod.Page) {
	click("a", "Tuesday practice")(p)
	p.MustElement("li[aria-label='Two steps and freeze'] a[href*='/mark/']").MustClick()
	p.MustElement("[role=gridcell]")
	for _, k := range "1s   3c6s  q 2p   " {
		p.Keyboard.MustType(input.Key(k))
	}
}

// game opens the game that is still to grade, and puts two marks in.
func game(p *rod.Page) {
	p.MustElement("ul[aria-label=Games] a").MustClick()
	p.MustElement("[role=gridcell][aria-selected=true]")
	if err := harness.Type(p, "vh2p3u"); err != nil {
		panic(err) // rod.Try, around every shot, makes an error of it
	}
	p.Keyboard.MustType(input.Home)
	for range 14 {
		p.Keyboard.MustType(input.ArrowRight)
	}
	time.Sleep(2 * time.Second)
}

// sheet opens what a player is told, with a play that was wrong beside one that was right.
func sheet(p *rod.Page) {
	p.MustElementR("ul[aria-label=Games] a", "Sheets").MustClick()
	click("ul[aria-label=Sheets] a", "64 Sato")(p)
	click("button", "beside")(p)
	time.Sleep(2 * time.Second)
}

func finding(p *rod.Page) {
	p.MustElement("tbody")
	p.Keyboard.MustType('/')
	p.MustElement("[role=combobox]:focus") // the window opens with the keyboard in it
	if err := harness.Type(p, "feet togehter"); err != nil {
		panic(err)
	}
	p.MustElement("#found li")
}

// roster opens a line to edit.
func roster(p *rod.Page) {
	p.MustElement("tbody th")
	p.MustElementR("tr:has([aria-label*='Sato']) button", "Edit").MustClick()
	p.MustElement("form input")
	p.MustElement("h1").MustClick()
}

func main() {
	if err := run(); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}

func run() error {
	out := filepath.Join(harness.Root(), "docs", "screenshots")
	if dir := os.Getenv("OUT"); dir != "" {
		out = dir
	}
	if err := os.MkdirAll(out, 0o755); err != nil {
		return err
	}
	tmp, err := os.MkdirTemp("", "nineyard-shots-")
	if err != nil {
		return err
	}
	defer func() { _ = os.RemoveAll(tmp) }()
	binary, err := harness.Build(tmp)
	if err != nil {
		return err
	}
	cluster, err := harness.NewCluster(context.Background(), binary)
	if err != nil {
		return err
	}
	defer cluster.Stop()
	app, err := cluster.Start(context.Background())
	if err != nil {
		return err
	}
	defer app.Stop()
	browser, stop, err := harness.Browser()
	if err != nil {
		return err
	}
	defer stop()
	for _, s := range shots {
		if len(os.Args) > 1 && !slices.Contains(os.Args[1:], s.name) {
			continue
		}
		if err := rod.Try(func() { take(app, browser, s, out) }); err != nil {
			return fmt.Errorf("%s: %w\n%s", s.name, err, app.Log())
		}
		fmt.Println(s.name)
	}
	return nil
}

func take(app *harness.App, browser *rod.Browser, s shot, out string) {
	page, err := harness.Page(browser, s.width, s.height)
	if err != nil {
		panic(err)
	}
	defer page.MustClose()
	page = page.Timeout(30 * time.Second)
	page.MustNavigate(app.URL)
	who := cmp.Or(s.coach, "R. Kell")
	page.MustElementR("button", who)
	if s.night {
		page.MustEval(`() => { localStorage.setItem("nineyard.theme", "night") }`)
	}
	if s.path != "" {
		page.MustElementR("button", who).MustClick()
		page.MustElementR("h1", "Tue 13 Oct")
		group := s.group
		if group == "" {
			group = "ol"
		}
		page.MustNavigate(app.URL + "/g/" + group + "/w/7" + s.path)
		page.MustElement("h1")
		if s.before != nil {
			s.before(page)
		}
	}
	time.Sleep(900 * time.Millisecond)
	if s.print {
		// A4 landscape at 96 dots an inch, as the printer gets it.
		if err := (proto.EmulationSetEmulatedMedia{Media: "print"}).Call(page); err != nil {
			panic(err)
		}
	}
	png := page.MustScreenshot()
	if err := os.WriteFile(filepath.Join(out, s.name+".png"), png, 0o644); err != nil { //nolint:gosec // a picture for everybody
		panic(err)
	}
}
