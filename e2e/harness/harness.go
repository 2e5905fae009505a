// Package harness runs the real binary with a real PostgreSQL and drives it with a
// real Chromium, for the browser tests and for the pictures of the documentation.
package harness

import (
	"context"
	"fmt"
	"io"
	"net"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"strings"
	"syscall"
	"time"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/launcher"
	"github.com/go-rod/rod/lib/proto"

	"nineyard/internal/pgserver"
)

// App is a running Nine Yard with the demo club.
type App struct {
	URL    string
	binary string
	addr   string
	dbURL  string
	cmd    *exec.Cmd
	pg     *pgserver.Server
	dir    string
	log    *os.File
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

// Start runs the binary on a database of its own with the demo club loaded. The
// database is durable, because some tests pull the plug.
func Start(ctx context.Context, binary string) (*App, error) {
	dir, err := os.MkdirTemp("", "nineyard-e2e-")
	if err != nil {
		return nil, err
	}
	if err := os.Chmod(dir, 0o755); err != nil {
		return nil, err
	}
	a := &App{binary: binary, dir: dir}
	if a.pg, err = pgserver.Start(ctx, pgserver.Options{Dir: filepath.Join(dir, "pg")}); err != nil {
		return nil, err
	}
	a.dbURL = a.pg.URL("postgres")
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return nil, err
	}
	a.addr = l.Addr().String()
	a.URL = "http://" + a.addr
	if err := l.Close(); err != nil {
		return nil, err
	}
	if a.log, err = os.Create(filepath.Join(dir, "server.log")); err != nil {
		return nil, err
	}
	return a, a.Run(ctx)
}

// Run starts the binary, again after Kill, and waits until it is ready.
func (a *App) Run(ctx context.Context) error {
	a.cmd = exec.Command(a.binary, "demo")
	a.cmd.Env = append(os.Environ(), "LISTEN_ADDR="+a.addr, "DATABASE_URL="+a.dbURL)
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

// DatabaseURL is the address of the app's database.
func (a *App) DatabaseURL() string { return a.dbURL }

// Stop ends everything and removes it.
func (a *App) Stop() {
	if a.cmd != nil && a.cmd.Process != nil {
		_ = a.cmd.Process.Signal(syscall.SIGTERM)
		_ = a.cmd.Wait()
	}
	_ = a.pg.Stop()
	_ = a.log.Close()
	_ = os.RemoveAll(a.dir)
}

// Browser starts Chromium with a fresh profile.
func Browser() (*rod.Browser, func(), error) {
	path := os.Getenv("CHROMIUM")
	if path == "" {
		for _, name := range []string{"chromium", "chromium-browser", "google-chrome"} {
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
