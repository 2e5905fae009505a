// Command licences lists the parts that ship with the program, and under which licence: the Go modules in the binary and the
// packages in the front end. It is shown under About.
//
//	go run ./internal/licences > web/public/licences.json
package main

import (
	"encoding/json"
	"fmt"
	"io"
	"maps"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"sort"
	"strings"
)

// Part is something of others that ships.
type Part struct {
	Name    string `json:"name"`
	Version string `json:"version"`
	Licence string `json:"licence"`
	Texts   []int  `json:"texts"` // places among the texts: the licence, and notices with it
}

// List is all of it. Parts share texts.
type List struct {
	Parts []Part   `json:"parts"`
	Texts []string `json:"texts"`
}

func main() {
	if err := run(os.Stdout); err != nil {
		fmt.Fprintln(os.Stderr, "licences:", err)
		os.Exit(1)
	}
}

func run(out io.Writer) error {
	var l List
	if err := l.modules(); err != nil {
		return err
	}
	if err := l.packages("web"); err != nil {
		return err
	}
	sort.SliceStable(l.Parts, func(i, j int) bool { return l.Parts[i].Name < l.Parts[j].Name })
	enc := json.NewEncoder(out)
	enc.SetEscapeHTML(false)
	return enc.Encode(l)
}

// modules lists the Go modules of the binary, and Go itself.
func (l *List) modules() error {
	text, err := exec.Command("go", "list", "-deps", "-f", "{{with .Module}}{{if not .Main}}{{.Path}}\t{{.Version}}\t{{.Dir}}{{end}}{{end}}", "./cmd/nineyard", "./cmd/browser").Output()
	if err != nil {
		return fmt.Errorf("go list: %w", err)
	}
	lines := strings.Split(strings.TrimSpace(string(text)), "\n")
	sort.Strings(lines)
	for _, line := range slices.Compact(lines) {
		if f := strings.Split(line, "\t"); len(f) == 3 {
			if err := l.add(f[0], f[1], "", f[2]); err != nil {
				return err
			}
		}
	}
	root, err := exec.Command("go", "env", "GOROOT").Output()
	if err != nil {
		return err
	}
	return l.add("Go", "", "", strings.TrimSpace(string(root)))
}

// packages lists the packages of the front end that are no tools, by the lock file.
func (l *List) packages(dir string) error {
	text, err := os.ReadFile(filepath.Join(dir, "package-lock.json"))
	if err != nil {
		return err
	}
	var lock struct {
		Packages map[string]struct {
			Version, License string
			Dev, Optional    bool
		}
	}
	if err := json.Unmarshal(text, &lock); err != nil {
		return err
	}
	for _, path := range slices.Sorted(maps.Keys(lock.Packages)) {
		p := lock.Packages[path]
		_, name, ok := cutLast(path, "node_modules/")
		if !ok || p.Dev || p.Optional || strings.HasPrefix(name, "@types/") {
			continue
		}
		if err := l.add(name, p.Version, p.License, filepath.Join(dir, path)); err != nil {
			return err
		}
	}
	return nil
}

func cutLast(s, sep string) (before, after string, found bool) {
	i := strings.LastIndex(s, sep)
	if i < 0 {
		return s, "", false
	}
	return s[:i], s[i+len(sep):], true
}

// add reads the licence of a part from its directory. One without is an error: what is not allowed does not ship.
func (l *List) add(name, version, said, dir string) error {
	files, err := os.ReadDir(dir)
	if err != nil {
		return fmt.Errorf("%s: %w", name, err)
	}
	p := Part{Name: name, Version: version, Licence: said, Texts: []int{}}
	for _, f := range files {
		base := strings.ToUpper(f.Name())
		if f.IsDir() || !strings.HasPrefix(base, "LICEN") && !strings.HasPrefix(base, "COPYING") && !strings.HasPrefix(base, "NOTICE") || strings.HasSuffix(base, ".GO") {
			continue
		}
		text, err := os.ReadFile(filepath.Join(dir, f.Name()))
		if err != nil {
			return err
		}
		p.Texts = append(p.Texts, l.text(strings.TrimSpace(strings.ReplaceAll(string(text), "\r\n", "\n"))))
		if p.Licence == "" {
			p.Licence = Kind(string(text))
		}
	}
	if p.Licence == "" {
		p.Licence = readme(dir)
	}
	if p.Licence == "" {
		return fmt.Errorf("%s %s has no licence in %s", name, version, dir)
	}
	l.Parts = append(l.Parts, p)
	return nil
}

// readme is the licence that a README names under a head of its own, where nothing else does.
func readme(dir string) string {
	for _, name := range []string{"README.md", "Readme.md", "readme.md"} {
		text, err := os.ReadFile(filepath.Join(dir, name))
		if err != nil {
			continue
		}
		if _, after, ok := strings.Cut(string(text), "## License"); ok {
			if said := strings.TrimSpace(after); said == "MIT" {
				return said
			}
		}
	}
	return ""
}

func (l *List) text(text string) int {
	if i := slices.Index(l.Texts, text); i >= 0 {
		return i
	}
	l.Texts = append(l.Texts, text)
	return len(l.Texts) - 1
}

// Kind names a licence by its words; empty for one that it does not know.
func Kind(text string) string {
	plain := strings.ToLower(strings.Join(strings.Fields(text), " "))
	for _, k := range []struct {
		name  string
		words []string
	}{
		{"Apache-2.0", []string{"apache license", "version 2.0"}},
		{"MPL-2.0", []string{"mozilla public license", "2.0"}},
		{"OFL-1.1", []string{"sil open font license"}},
		{"BSD-3-Clause", []string{"redistribution and use in source and binary forms", "endorse or promote"}},
		{"BSD-2-Clause", []string{"redistribution and use in source and binary forms"}},
		{"ISC", []string{"permission to use, copy, modify, and/or distribute this software"}},
		{"ISC", []string{"permission to use, copy, modify, and distribute this software for any purpose"}},
		{"MIT", []string{"permission is hereby granted, free of charge"}},
		{"Unlicense", []string{"free and unencumbered software released into the public domain"}},
	} {
		if !slices.ContainsFunc(k.words, func(w string) bool { return !strings.Contains(plain, w) }) {
			return k.name
		}
	}
	return ""
}
