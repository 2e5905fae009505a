package teaching

import (
	"slices"
	"strings"
)

// KeepTerm returns the aliases of an entry that is renamed: the term it had stays
// findable, the one it gets is no longer an alias.
func KeepTerm(aliases []string, old, name string) []string {
	out := slices.DeleteFunc(slices.Clone(aliases), func(a string) bool { return strings.EqualFold(a, name) })
	if old == "" || strings.EqualFold(old, name) || slices.ContainsFunc(out, func(a string) bool { return strings.EqualFold(a, old) }) {
		return out
	}
	return append(out, old)
}
