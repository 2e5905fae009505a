// Package pgserver starts and stops a private PostgreSQL on loopback, for the demo and
// the tests. The server's programs are those of the system's packages; PostgreSQL
// refuses to run as root, so as root it is run as the user "postgres".
package pgserver

import (
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"net"
	"net/url"
	"os"
	"os/exec"
	"os/user"
	"path/filepath"
	"sort"
	"strconv"
	"strings"
	"syscall"
	"time"
)

// Server is a running cluster.
type Server struct {
	dir      string
	bin      string
	password string
	port     string
	owner    *syscall.Credential
	users    *os.File // locked while this program uses the cluster
}

// Options of Start.
type Options struct {
	Dir string // where the cluster lives; made when it is not there
	// Throwaway trades durability for speed; for tests that do not look at crashes.
	Throwaway bool
	New       func() // called before a cluster is made that was not there
}

const userName = "nineyard"

// Start makes the cluster when it is new, starts it when it does not run and returns
// it. A cluster that was left running by a killed program is taken over. Programs that
// start at once on one directory take turns and share one cluster; the last to stop ends it.
func Start(ctx context.Context, o Options) (*Server, error) {
	bin, err := binaries()
	if err != nil {
		return nil, err
	}
	s := &Server{bin: bin}
	if s.owner, err = owner(); err != nil {
		return nil, err
	}
	if s.dir, err = s.home(o.Dir); err != nil {
		return nil, err
	}
	turn, err := lock(filepath.Join(s.dir, "start.lock"), syscall.LOCK_EX)
	if err != nil {
		return nil, err
	}
	defer func() { _ = turn.Close() }()
	if s.users, err = lock(filepath.Join(s.dir, "users.lock"), syscall.LOCK_SH); err != nil {
		return nil, err
	}
	if _, err := os.Stat(filepath.Join(s.dir, "data", "PG_VERSION")); errors.Is(err, os.ErrNotExist) {
		if o.New != nil {
			o.New()
		}
		if err := s.create(ctx); err != nil {
			return nil, err
		}
	}
	password, err := os.ReadFile(filepath.Join(s.dir, "password"))
	if err != nil {
		return nil, err
	}
	s.password = strings.TrimSpace(string(password))
	if s.port = s.running(ctx); s.port != "" {
		return s, nil
	}
	return s, s.start(ctx, o.Throwaway)
}

// URL returns the address of a database of the cluster.
func (s *Server) URL(database string) string {
	u := url.URL{Scheme: "postgres", User: url.UserPassword(userName, s.password), Host: net.JoinHostPort("127.0.0.1", s.port), Path: "/" + database, RawQuery: "sslmode=disable"}
	return u.String()
}

// lock opens a file and locks it; closing it, or the end of the program, lets go.
func lock(path string, how int) (*os.File, error) {
	f, err := os.OpenFile(path, os.O_CREATE|os.O_RDWR, 0o600)
	if err != nil {
		return nil, err
	}
	if err := syscall.Flock(int(f.Fd()), how); err != nil {
		_ = f.Close()
		return nil, fmt.Errorf("%s: %w", path, err)
	}
	return f, nil
}

// Stop stops the cluster, waiting for its clients to be cut off, unless another program
// uses it too.
func (s *Server) Stop() error {
	turn, err := lock(filepath.Join(s.dir, "start.lock"), syscall.LOCK_EX)
	if err != nil {
		return err
	}
	defer func() { _, _ = turn.Close(), s.users.Close() }()
	if err := syscall.Flock(int(s.users.Fd()), syscall.LOCK_EX|syscall.LOCK_NB); err != nil {
		return nil // somebody else's now
	}
	ctx, cancel := context.WithTimeout(context.Background(), 30*time.Second)
	defer cancel()
	_, err = s.run(ctx, "pg_ctl", "stop", "-D", s.data(), "-m", "fast", "-w")
	return err
}

func (s *Server) data() string { return filepath.Join(s.dir, "data") }

// home makes the directory. As root it must be reachable by the user "postgres";
// below a closed home directory it is not, and a place in /var/tmp serves instead.
func (s *Server) home(dir string) (string, error) {
	dir, err := filepath.Abs(dir)
	if err != nil {
		return "", err
	}
	if s.owner != nil && !reachable(dir) {
		dir = filepath.Join("/var/tmp", "nineyard"+strings.ReplaceAll(dir, "/", "-"))
	}
	if err := os.MkdirAll(dir, 0o755); err != nil {
		return "", err
	}
	if s.owner != nil {
		return dir, os.Chown(dir, int(s.owner.Uid), int(s.owner.Gid))
	}
	return dir, nil
}

// reachable reports whether everybody may pass through the parents of dir.
func reachable(dir string) bool {
	for p := filepath.Dir(dir); ; p = filepath.Dir(p) {
		if info, err := os.Stat(p); err == nil && info.Mode().Perm()&0o001 == 0 {
			return false
		}
		if p == filepath.Dir(p) {
			return true
		}
	}
}

func (s *Server) create(ctx context.Context) error {
	file := filepath.Join(s.dir, "password")
	if err := os.WriteFile(file, []byte(rand.Text()+"\n"), 0o600); err != nil {
		return err
	}
	if s.owner != nil {
		if err := os.Chown(file, int(s.owner.Uid), int(s.owner.Gid)); err != nil {
			return err
		}
	}
	_ = os.RemoveAll(s.data()) // what a broken first start left
	_, err := s.run(ctx, "initdb", "-D", s.data(), "-U", userName, "--pwfile="+file, "--auth=scram-sha-256", "--encoding=UTF8", "--locale=C.UTF-8", "--no-instructions", "--no-sync")
	return err
}

func (s *Server) start(ctx context.Context, throwaway bool) error {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return err
	}
	port := strconv.Itoa(l.Addr().(*net.TCPAddr).Port)
	if err := l.Close(); err != nil {
		return err
	}
	settings := []string{"-c", "listen_addresses=127.0.0.1", "-c", "port=" + port, "-c", "unix_socket_directories=", "-c", "shared_buffers=128MB", "-c", "work_mem=32MB", "-c", "wal_buffers=16MB", "-c", "max_wal_size=2GB", "-c", "max_connections=100", "-c", "jit=off"}
	if throwaway {
		settings = append(settings, "-c", "fsync=off", "-c", "synchronous_commit=off", "-c", "full_page_writes=off")
	}
	log := filepath.Join(s.dir, "postgres.log")
	if out, err := s.run(ctx, "pg_ctl", "start", "-D", s.data(), "-l", log, "-w", "-t", "60", "-o", strings.Join(settings, " ")); err != nil {
		return fmt.Errorf("%w\n%s\nits log is %s", err, out, log)
	}
	s.port = port
	return nil
}

// running returns the port of the cluster if it answers.
func (s *Server) running(ctx context.Context) string {
	if _, err := s.run(ctx, "pg_ctl", "status", "-D", s.data()); err != nil {
		return ""
	}
	pid, err := os.ReadFile(filepath.Join(s.data(), "postmaster.pid"))
	lines := strings.Split(string(pid), "\n")
	if err != nil || len(lines) < 4 {
		return ""
	}
	return strings.TrimSpace(lines[3])
}

// run runs one of the server's programs as its owner. Output goes through a file: a
// pipe would be held open by the server that pg_ctl leaves behind.
func (s *Server) run(ctx context.Context, program string, args ...string) (string, error) {
	out, err := os.CreateTemp("", "nineyard-pg-*")
	if err != nil {
		return "", err
	}
	defer func() { _ = os.Remove(out.Name()); _ = out.Close() }()
	cmd := exec.CommandContext(ctx, filepath.Join(s.bin, program), args...)
	cmd.Dir = "/"
	cmd.Stdout, cmd.Stderr = out, out
	cmd.Env = append(os.Environ(), "LC_ALL=C.UTF-8")
	cmd.SysProcAttr = &syscall.SysProcAttr{Credential: s.owner, Setpgid: true}
	err = cmd.Run()
	text, _ := os.ReadFile(out.Name())
	if err != nil {
		return string(text), fmt.Errorf("%s %s: %w: %s", program, args[0], err, strings.TrimSpace(string(text)))
	}
	return string(text), nil
}

// binaries finds the newest installed server.
func binaries() (string, error) {
	found, err := filepath.Glob("/usr/lib/postgresql/*/bin/initdb")
	if err != nil {
		return "", err
	}
	sort.Slice(found, func(i, j int) bool { return version(found[i]) < version(found[j]) })
	if len(found) > 0 {
		return filepath.Dir(found[len(found)-1]), nil
	}
	if path, err := exec.LookPath("initdb"); err == nil {
		return filepath.Dir(path), nil
	}
	return "", errors.New("PostgreSQL is not installed: run 'apt-get install postgresql' as root, or set DATABASE_URL to a server of yours")
}

func version(path string) int {
	n, _ := strconv.Atoi(strings.Split(path, "/")[4])
	return n
}

// owner is the user the server runs as when this program is root.
func owner() (*syscall.Credential, error) {
	if os.Geteuid() != 0 {
		return nil, nil
	}
	u, err := user.Lookup("postgres")
	if err != nil {
		return nil, errors.New(`PostgreSQL does not run as root and there is no user "postgres": install Debian's package postgresql`)
	}
	uid, err := strconv.ParseUint(u.Uid, 10, 32)
	if err != nil {
		return nil, err
	}
	gid, err := strconv.ParseUint(u.Gid, 10, 32)
	if err != nil {
		return nil, err
	}
	return &syscall.Credential{Uid: uint32(uid), Gid: uint32(gid)}, nil
}
