package e2e

import (
	"encoding/json"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/e2e/harness"
)

// TestTheTestsActAsAPerson: keys go to the page and the pointer to a place. No test and no
// picture writes a value, sets the focus or clicks by script; that once hid that Find could
// not be typed into.
func TestTheTestsActAsAPerson(t *testing.T) {
	byScript := regexp.MustCompile(`\.click\(\)|\.focus\(\)|\.value\s*=[^=]|dispatchEvent|\.submit\(\)|\.checked\s*=[^=]|MustInput\(|\.Input\(|MustSelect\(|\.Select\(\[|MustFocus\(|\.Focus\(\)`)
	files, err := filepath.Glob(filepath.Join(harness.Root(), "e2e", "*.go"))
	require.NoError(t, err)
	more, err := filepath.Glob(filepath.Join(harness.Root(), "e2e", "*", "*.go"))
	require.NoError(t, err)
	require.NotEmpty(t, files)
	for _, f := range append(files, more...) {
		if strings.HasSuffix(f, "script_test.go") {
			continue
		}
		text, err := os.ReadFile(f)
		require.NoError(t, err)
		for i, line := range strings.Split(string(text), "\n") {
			assert.False(t, byScript.MatchString(line), "%s:%d: %s", filepath.Base(f), i+1, strings.TrimSpace(line))
		}
	}
}

// TestWhatScreensDoNotHold: no hint that only a pointer finds, no bare list of many, nothing
// that is there for tests alone, no way around the parts.
func TestWhatScreensDoNotHold(t *testing.T) {
	never := map[string]*regexp.Regexp{
		"a bare select":            regexp.MustCompile(`<select\b`),
		"a hint in a title":        regexp.MustCompile(`<(?:[a-z][a-z0-9]*|Link|NavLink)\b[^>]*\stitle=`),
		"an id for tests":          regexp.MustCompile(`data-testid`),
		"a search of the document": regexp.MustCompile(`getElementById|\[role=dialog\]`),
		"a change past the engine": regexp.MustCompile(`api\.(POST|PUT|DELETE|PATCH)\("/(?:periods|marks|library/entries(?:"|/\{kind\}(?:"|/\{key\}(?:"|/[^c])))|library/versions|roster/players|overrides|players)`),
		"a part of another make":   regexp.MustCompile(`<button\b|<Link className="btn|from "radix-ui"|from "cmdk"|from "@tanstack/react-(?:table|virtual)"|from "@dnd-kit/sortable"`),
	}
	allowed := map[string]string{
		"a search of the document": "main.tsx",            // the root of the page
		"a change past the engine": "kinds.ts planned.ts", // the engine's own
	}
	kit := filepath.Join(harness.Root(), "web", "src", "kit")
	root := filepath.Join(harness.Root(), "web", "src")
	require.NoError(t, filepath.WalkDir(root, func(path string, d os.DirEntry, err error) error {
		name := filepath.Base(path)
		if err != nil || d.IsDir() || !strings.HasSuffix(name, ".tsx") && !strings.HasSuffix(name, ".ts") || strings.Contains(name, ".test") || strings.HasSuffix(name, ".gen.ts") {
			return err
		}
		text, err := os.ReadFile(path)
		if err != nil {
			return err
		}
		for what, is := range never {
			own := what == "a part of another make" && strings.HasPrefix(path, kit)
			if found := is.FindString(string(text)); found != "" && !own && !strings.Contains(allowed[what], name) {
				assert.Fail(t, what, "%s: %s", strings.TrimPrefix(path, root), found)
			}
		}
		return nil
	}))
}

// TestEveryDependencyIsUsed: what the front end ships it imports.
func TestEveryDependencyIsUsed(t *testing.T) {
	web := filepath.Join(harness.Root(), "web")
	text, err := os.ReadFile(filepath.Join(web, "package.json"))
	require.NoError(t, err)
	var list struct{ Dependencies map[string]string }
	require.NoError(t, json.Unmarshal(text, &list))
	var all strings.Builder
	require.NoError(t, filepath.WalkDir(filepath.Join(web, "src"), func(path string, d os.DirEntry, err error) error {
		if err != nil || d.IsDir() || strings.Contains(path, ".test") {
			return err
		}
		text, err := os.ReadFile(path)
		all.Write(text)
		return err
	}))
	for name := range list.Dependencies {
		assert.Regexp(t, `(?:from|import) "`+regexp.QuoteMeta(name)+`[/"]`, all.String(), name)
	}
}
