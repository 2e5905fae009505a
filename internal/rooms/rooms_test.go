// Package rooms holds the plan of the house against the code: who may import whom.
package rooms

import (
	"encoding/json"
	"os"
	"os/exec"
	"path"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const module = "nineyard/"

// features and the ports they offer to each other, each a package of its own.
var features = map[string][]string{
	"account": nil, "audit": nil, "privacy": nil, "bundle": nil, "club": nil, "staff": nil, "calls": {"forecast"}, "film": {"reel", "labels"}, "find": nil, "footage": {"store", "onfilm"}, "today": nil,
	"mark": {"record"}, "plan": {"script", "sheet"}, "players": {"standing"}, "roster": {"squad"}, "tell": nil, "teach": {"house"},
}

type pkg struct {
	ImportPath string
	Imports    []string
	Standard   bool
}

func packages(t *testing.T) []pkg {
	t.Helper()
	cmd := exec.Command("go", "list", "-json=ImportPath,Imports", "./...")
	cmd.Dir = "../.."
	out, err := cmd.Output()
	require.NoError(t, err)
	var list []pkg
	for dec := json.NewDecoder(strings.NewReader(string(out))); dec.More(); {
		var p pkg
		require.NoError(t, dec.Decode(&p))
		list = append(list, p)
	}
	require.NotEmpty(t, list)
	return list
}

// of names the feature and the port a package is of; empty for what is neither.
func of(importPath string) (feature, port string) {
	rest, ok := strings.CutPrefix(importPath, module+"internal/")
	if !ok {
		return "", ""
	}
	feature, port, _ = strings.Cut(rest, "/")
	if _, known := features[feature]; !known {
		return "", ""
	}
	return feature, port
}

// TestAFeatureImportsNoOthersInsides: core, access, the platform, the contract, and the
// ports that features offer.
func TestAFeatureImportsNoOthersInsides(t *testing.T) {
	seen := map[string]bool{}
	for _, p := range packages(t) {
		feature, port := of(p.ImportPath)
		if feature == "" {
			continue
		}
		seen[path.Join(feature, port)] = true
		if port != "" {
			assert.Contains(t, features[feature], port, "%s: a feature has its port packages and no others", p.ImportPath)
		}
		for _, i := range p.Imports {
			if !strings.HasPrefix(i, module) || i == module+"library" {
				continue
			}
			to, toPort := of(i)
			switch {
			case to == feature && port == "":
			case to != "" && toPort != "": // a port
			case strings.HasPrefix(i, module+"core/"), i == module+"internal/access", strings.HasPrefix(i, module+"internal/platform/") && port == "",
				i == module+"internal/contract", i == module+"internal/contract/gen" && port == "":
			default:
				assert.Fail(t, "may not import", "%s → %s", p.ImportPath, i)
			}
		}
	}
	for feature, ports := range features {
		assert.True(t, seen[feature], feature)
		for _, port := range ports {
			assert.True(t, seen[path.Join(feature, port)], "%s/%s", feature, port)
		}
	}
}

// TestCoreKnowsNothingOfTheRest: the standard library and gonum, no HTTP, no SQL, no clock.
func TestCoreKnowsNothingOfTheRest(t *testing.T) {
	never := []string{"net/http", "database/sql", "encoding/json", "os", "log", "log/slog", "math/rand", "math/rand/v2", "context"}
	for _, p := range packages(t) {
		if !strings.HasPrefix(p.ImportPath, module+"core/") || strings.HasSuffix(p.ImportPath, "lawtest") {
			continue
		}
		for _, i := range p.Imports {
			assert.NotContains(t, never, i, p.ImportPath)
			outside := strings.Contains(strings.Split(i, "/")[0], ".") && !strings.HasPrefix(i, "gonum.org/")
			assert.False(t, outside, "%s → %s", p.ImportPath, i)
			assert.False(t, strings.HasPrefix(i, module) && !strings.HasPrefix(i, module+"core/"), "%s → %s", p.ImportPath, i)
		}
	}
}

// TestThePlatformKnowsNoFeature: it lies beneath them.
func TestThePlatformKnowsNoFeature(t *testing.T) {
	allowed := []string{module + "core/invalid", module + "core/change", module + "core/legible", module + "internal/contract/gen", module + "internal/contract"}
	for _, p := range packages(t) {
		if !strings.HasPrefix(p.ImportPath, module+"internal/platform/") {
			continue
		}
		for _, i := range p.Imports {
			ok := !strings.HasPrefix(i, module) || strings.HasPrefix(i, module+"internal/platform/") || slices.Contains(allowed, i)
			assert.True(t, ok, "%s → %s", p.ImportPath, i)
		}
	}
}

// TestTheBrowserGetsTheCoreAlone: what the front end loads is the core and the contract's forms. A server that comes
// with it makes the module five times as large.
func TestTheBrowserGetsTheCoreAlone(t *testing.T) {
	cmd := exec.Command("go", "list", "-deps", "./cmd/browser")
	cmd.Dir = "../.."
	cmd.Env = append(os.Environ(), "GOOS=js", "GOARCH=wasm")
	out, err := cmd.Output()
	require.NoError(t, err)
	allowed := []string{"cmd/browser", "internal/browser", "internal/contract", "internal/plan/sheet", "internal/film/labels"}
	outside := []string{"github.com/google/uuid", "github.com/oapi-codegen/runtime/types"}
	for _, p := range strings.Fields(string(out)) {
		assert.NotContains(t, []string{"net/http", "database/sql"}, p)
		own, ours := strings.CutPrefix(p, module)
		switch {
		case ours && !strings.HasPrefix(own, "core/"):
			assert.Contains(t, allowed, own)
		case !ours && strings.Contains(strings.Split(p, "/")[0], "."):
			assert.Contains(t, outside, p)
		}
	}
}
