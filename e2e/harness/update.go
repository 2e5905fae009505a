package harness

import (
	"encoding/json"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"strings"
)

// part is the name of a script of the front end, which carries its content's hash.
var part = regexp.MustCompile(`[A-Za-z.]+-[A-Za-z0-9_-]{8}\.js`)

// rename gives every script in a text another name.
func rename(text string) string {
	return part.ReplaceAllStringFunc(text, func(name string) string {
		last := len(name) - len(".js") - 1
		other := "0"
		if name[last] == '0' {
			other = "1"
		}
		return name[:last] + other + ".js"
	})
}

// BuildUpdate compiles a binary as the next release would be: the same program whose scripts
// all have other names, so that a page of the old one finds none of those it has not loaded.
func BuildUpdate(dir string) (string, error) {
	dist := filepath.Join(Root(), "web", "dist")
	next := filepath.Join(dir, "dist")
	if err := os.MkdirAll(filepath.Join(next, "assets"), 0o755); err != nil {
		return "", err
	}
	replace := map[string]string{}
	copied := func(from, to string) error {
		text, err := os.ReadFile(filepath.Join(dist, from))
		if err != nil {
			return err
		}
		if strings.HasSuffix(from, ".js") || strings.HasSuffix(from, ".html") {
			text = []byte(rename(string(text)))
		}
		replace[filepath.Join(dist, from)] = "" // it is not there any longer
		if err := os.WriteFile(filepath.Join(next, to), text, 0o600); err != nil {
			return err
		}
		replace[filepath.Join(dist, to)] = filepath.Join(next, to)
		return nil
	}
	files, err := os.ReadDir(filepath.Join(dist, "assets"))
	if err != nil {
		return "", err
	}
	for _, f := range files {
		name := filepath.Join("assets", f.Name())
		if strings.HasSuffix(name, ".js.gz") {
			replace[filepath.Join(dist, name)] = "" // made of what it was
			continue
		}
		if strings.HasSuffix(name, ".js") {
			if err := copied(name, rename(name)); err != nil {
				return "", err
			}
		}
	}
	if err := copied("index.html", "index.html"); err != nil {
		return "", err
	}
	overlay, err := json.Marshal(map[string]any{"Replace": replace})
	if err != nil {
		return "", err
	}
	list := filepath.Join(dir, "overlay.json")
	if err := os.WriteFile(list, overlay, 0o600); err != nil {
		return "", err
	}
	path := filepath.Join(dir, "nineyard-next")
	cmd := exec.Command("go", "build", "-overlay", list, "-o", path, "./cmd/nineyard")
	cmd.Dir = Root()
	if out, err := cmd.CombinedOutput(); err != nil {
		return "", fmt.Errorf("building the update: %w\n%s", err, out)
	}
	return path, nil
}

// Update is what Run starts from now on.
func (a *App) Update(binary string) { a.binary = binary }
