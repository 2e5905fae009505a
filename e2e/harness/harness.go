// Package harness runs the real binary with a real PostgreSQL and drives it with a
// real Chromium, for the browser tests and for the pictures of the documentation.
package harness

import (
	"bytes"
	"context"
	"database/sql"
	"errors"
	"fmt"
	"io"
	"net"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"strings"
	"sync/atomic"
	"syscall"
	"time"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/launcher"
	"github.com/go-rod/rod/lib/proto"
	_ "github.com/jackc/pgx/v5/stdlib" // the driver "pgx"

	"nineyard/internal/pgserver"
)

// Cluster is a PostgreSQL with the demo club ready to be copied.
type Cluster struct {
	binary string
	dir    string
	pg     *pgserver.Server
	count  atomic.Int32
}

// App is a running Nine Yard with a demo club of its own.
type App struct {
	URL    string
	data   string // the folder of the film
	binary string
	addr   string
	dbURL  string
	cmd    *exec.Cmd
	log    *os.File
	mode   string // of the binary: demo or serve
}

// Root is the top of the repository.
func Root() string {
	_, file, _, _ := runtime.Caller(0)
	return filepath.Dir(filepath.Dir(filepath.Dir(file)))
}

// Build compiles the binary as it is released and returns its path.
func Build(dir string) (string, error) {
	path := filepath.Join(dir, "nineyard")
	cmd := exec.Command("go", "build", "-o", path, "./cmd/nineyard")
	cmd.Dir = Root()
	if out, err := cmd.CombinedOutput(); err != nil {
		return "", fmt.Errorf("building: %w\n%s", err, out)
	}
	return path, nil
}

// NewCluster starts PostgreSQL and loads the demo once, by running the binary. The
// cluster is durable, because some tests pull the plug.
func NewCluster(ctx context.Context, binary string) (*Cluster, error) {
	dir, err := os.MkdirTemp("", "nineyard-e2e-")
	if err != nil {
		return nil, err
	}
	if err := os.Chmod(dir, 0o755); err != nil {
		return nil, err
	}
	c := &Cluster{binary: binary, dir: dir}
	if c.pg, err = pgserver.Start(ctx, pgserver.Options{Dir: filepath.Join(dir, "pg")}); err != nil {
		return nil, err
	}
	if err := c.exec(ctx, "CREATE DATABASE demo"); err != nil {
		return nil, err
	}
	a, err := c.app("demo")
	if err != nil {
		return nil, err
	}
	defer a.Stop()
	return c, a.Run(ctx)
}

// Start runs the binary on a copy of the demo.
func (c *Cluster) Start(ctx context.Context) (*App, error) {
	name := fmt.Sprintf("demo%d", c.count.Add(1))
	if err := c.exec(ctx, "CREATE DATABASE "+name+" TEMPLATE demo"); err != nil {
		return nil, err
	}
	a, err := c.app(name)
	if err != nil {
		return nil, err
	}
	return a, a.Run(ctx)
}

// Empty runs the binary on a database with nothing in it, as a club does that begins.
func (c *Cluster) Empty(ctx context.Context) (*App, error) {
	name := fmt.Sprintf("empty%d", c.count.Add(1))
	if err := c.exec(ctx, "CREATE DATABASE "+name); err != nil {
		return nil, err
	}
	a, err := c.app(name)
	if err != nil {
		return nil, err
	}
	a.mode = "serve"
	return a, a.Run(ctx)
}

// Restored runs the binary on a database that a backup is restored into; the backup is of the app's, taken while it is used.
func (c *Cluster) Restored(ctx context.Context, of *App) (*App, error) {
	bin, err := filepath.Glob("/usr/lib/postgresql/*/bin")
	if err != nil || len(bin) == 0 {
		return nil, errors.New("the programs of PostgreSQL are not there")
	}
	name := fmt.Sprintf("restored%d", c.count.Add(1))
	if err := c.exec(ctx, "CREATE DATABASE "+name); err != nil {
		return nil, err
	}
	a, err := c.app(name)
	if err != nil {
		return nil, err
	}
	file := filepath.Join(c.dir, name+".dump")
	for _, step := range [][]string{{"pg_dump", "--format=custom", "--file=" + file, of.dbURL}, {"pg_restore", "--exit-on-error", "--no-owner", "--dbname=" + a.dbURL, file}} {
		if out, err := exec.CommandContext(ctx, filepath.Join(bin[len(bin)-1], step[0]), step[1:]...).CombinedOutput(); err != nil {
			return nil, fmt.Errorf("%s: %w\n%s", step[0], err, out)
		}
	}
	return a, a.Run(ctx)
}

// Stop ends the cluster and removes it.
func (c *Cluster) Stop() {
	_ = c.pg.Stop()
	_ = os.RemoveAll(c.dir)
}

func (c *Cluster) exec(ctx context.Context, query string) error {
	db, err := sql.Open("pgx", c.pg.URL("postgres"))
	if err != nil {
		return err
	}
	defer func() { _ = db.Close() }()
	_, err = db.ExecContext(ctx, query)
	return err
}

// app prepares an app on a free port.
func (c *Cluster) app(database string) (*App, error) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return nil, err
	}
	a := &App{mode: "demo", binary: c.binary, data: filepath.Join(c.dir, "data"), dbURL: c.pg.URL(database), addr: l.Addr().String(), URL: "http://" + l.Addr().String()}
	if err := l.Close(); err != nil {
		return nil, err
	}
	a.log, err = os.Create(filepath.Join(c.dir, database+".log"))
	return a, err
}

// Run starts the binary, again after Kill, and waits until it is ready.
func (a *App) Run(ctx context.Context) error {
	a.cmd = exec.Command(a.binary, a.mode)
	a.cmd.Env = append(os.Environ(), "LISTEN_ADDR="+a.addr, "DATABASE_URL="+a.dbURL, "DATA_DIR="+a.data)
	a.cmd.Stdout, a.cmd.Stderr = a.log, a.log
	if err := a.cmd.Start(); err != nil {
		return err
	}
	for deadline := time.Now().Add(40 * time.Second); time.Now().Before(deadline); time.Sleep(20 * time.Millisecond) {
		req, err := http.NewRequestWithContext(ctx, http.MethodGet, a.URL+"/readyz", nil)
		if err != nil {
			return err
		}
		if resp, err := http.DefaultClient.Do(req); err == nil {
			_ = resp.Body.Close()
			if resp.StatusCode == http.StatusOK {
				return nil
			}
		}
	}
	return fmt.Errorf("the server did not become ready; its log:\n%s", a.Log())
}

// Kill ends the binary as a power cut would.
func (a *App) Kill() {
	_ = a.cmd.Process.Signal(syscall.SIGKILL)
	_ = a.cmd.Wait()
}

// Log is what the server has written.
func (a *App) Log() string {
	text, _ := os.ReadFile(a.log.Name())
	return string(text)
}

// Data is the folder of what is not in the database.
func (a *App) Data() string { return a.data }

// DatabaseURL is the address of the app's database.
func (a *App) DatabaseURL() string { return a.dbURL }

// Stop ends the binary as a service manager would.
func (a *App) Stop() {
	if a.cmd != nil && a.cmd.Process != nil {
		_ = a.cmd.Process.Signal(syscall.SIGTERM)
		_ = a.cmd.Wait()
	}
	_ = a.log.Close()
}

// Browser starts Chromium with a fresh profile: the first of those named that is there, of all that there are the one
// without windows, which does the same with less work.
func Browser(named ...string) (*rod.Browser, func(), error) {
	path := os.Getenv("CHROMIUM")
	if path == "" {
		for _, name := range append(named, "chromium-headless-shell", "chromium", "chromium-browser") {
			if p, err := exec.LookPath(name); err == nil {
				path = p
				break
			}
		}
	}
	if path == "" {
		return nil, nil, fmt.Errorf("chromium is not installed: run 'apt-get install chromium' as root")
	}
	profile, err := os.MkdirTemp("", "nineyard-chromium-")
	if err != nil {
		return nil, nil, err
	}
	l := launcher.New().Bin(path).Leakless(false).Headless(true).NoSandbox(true).UserDataDir(profile).
		Set("disable-gpu").Set("disable-background-networking").Set("disable-component-update").Set("disable-sync").
		Set("disable-quic").Set("no-first-run").Set("force-color-profile", "srgb").Set("hide-scrollbars")
	url, err := l.Launch()
	if err != nil {
		return nil, nil, err
	}
	browser := rod.New().ControlURL(url)
	if err := browser.Connect(); err != nil {
		return nil, nil, err
	}
	return browser, func() {
		_ = browser.Close()
		l.Kill()
		_ = os.RemoveAll(profile)
	}, nil
}

// Page opens a page in a browsing context of its own: another coach's laptop.
func Page(b *rod.Browser, width, height int) (*rod.Page, error) {
	own, err := b.Incognito()
	if err != nil {
		return nil, err
	}
	page, err := own.Page(proto.TargetCreateTarget{})
	if err != nil {
		return nil, err
	}
	// No printer stands beside the machine: what would go to one is left, and PDF takes it instead.
	if _, err := page.EvalOnNewDocument(`window.print = () => undefined`); err != nil {
		return nil, err
	}
	err = page.SetViewport(&proto.EmulationSetDeviceMetricsOverride{Width: width, Height: height, DeviceScaleFactor: 1})
	return page, err
}

// PDF prints a page as the browser would.
func PDF(page *rod.Page) ([]byte, error) {
	r, err := page.PDF(&proto.PagePrintToPDF{PreferCSSPageSize: true})
	if err != nil {
		return nil, err
	}
	return io.ReadAll(r)
}

// Pages counts the pages of a PDF.
func Pages(pdf []byte) int {
	text := string(pdf)
	return strings.Count(text, "/Type /Page") - strings.Count(text, "/Type /Pages") +
		strings.Count(text, "/Type/Page") - strings.Count(text, "/Type/Pages")
}

// Text reads a PDF back, as whoever copies from it or has it read out gets it: its words in the
// order of reading, with one space between them.
func Text(pdf []byte) (string, error) {
	cmd := exec.Command("pdftotext", "-", "-")
	cmd.Stdin = bytes.NewReader(pdf)
	out, err := cmd.Output()
	return strings.Join(strings.Fields(string(out)), " "), err
}

// Type types a text at the keyboard; a letter that no key has comes as from an input method.
func Type(p *rod.Page, text string) error {
	for _, r := range text {
		var err error
		if r == '\n' {
			err = p.Keyboard.Type(input.Enter)
		} else if r < 0x7f {
			err = p.Keyboard.Type(input.Key(r))
		} else {
			err = p.InsertText(string(r))
		}
		if err != nil {
			return err
		}
	}
	return nil
}

// Replace types over all that stands in the field where the keyboard is.
func Replace(p *rod.Page, text string) error {
	if err := p.KeyActions().Press(input.ControlLeft).Type('a').Release(input.ControlLeft).Do(); err != nil {
		return err
	}
	if text == "" {
		return p.Keyboard.Type(input.Delete)
	}
	return Type(p, text)
}

// PID is the process of the binary.
func (a *App) PID() int { return a.cmd.Process.Pid }

// Memory is how much the binary takes now and took at most, in MiB.
func (a *App) Memory() (now, peak int, err error) {
	text, err := os.ReadFile(fmt.Sprintf("/proc/%d/status", a.PID()))
	if err != nil {
		return 0, 0, err
	}
	for _, line := range strings.Split(string(text), "\n") {
		var kib int
		if _, err := fmt.Sscanf(line, "VmRSS: %d kB", &kib); err == nil {
			now = kib >> 10
		}
		if _, err := fmt.Sscanf(line, "VmHWM: %d kB", &kib); err == nil {
			peak = kib >> 10
		}
	}
	return now, peak, nil
}

// CrashDatabase kills a process of PostgreSQL that works for the app: the whole cluster then recovers as after a power cut.
func (a *App) CrashDatabase(ctx context.Context) error {
	db, err := sql.Open("pgx", a.dbURL)
	if err != nil {
		return err
	}
	defer func() { _ = db.Close() }()
	var pid int
	if err := db.QueryRowContext(ctx, `SELECT pid FROM pg_stat_activity WHERE datname = current_database() AND pid <> pg_backend_pid() ORDER BY state = 'active' DESC LIMIT 1`).Scan(&pid); err != nil {
		return err
	}
	return syscall.Kill(pid, syscall.SIGKILL)
}
