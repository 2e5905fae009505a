package marks

import "strings"

// Reserved are the letters that mean something else while marking, so that no
// fault may take them: assignment, finish, technique, note, praise, question,
// unseen, undo, measure, the other side.
const Reserved = "aftmnpquxz"

// FaultKeys gives each fault a letter of its own to be marked by, one key a fault.
// A fault gets the first letter of one of its words that is still free, else any
// letter of its name, else any free letter; the order of names decides, so the
// most important fault comes first. A fault beyond the free letters gets none
// ("") and is reached through the list.
func FaultKeys(names []string) []string {
	taken := map[rune]bool{}
	for _, r := range Reserved {
		taken[r] = true
	}
	free := func(r rune) bool { return r >= 'a' && r <= 'z' && !taken[r] }
	keys := make([]string, len(names))
	for i, name := range names {
		name = strings.ToLower(name)
		var candidates []rune
		for _, word := range strings.Fields(name) {
			candidates = append(candidates, []rune(word)[0])
		}
		candidates = append(candidates, []rune(name)...)
		candidates = append(candidates, []rune("bcdeghijklorsvwy")...)
		for _, r := range candidates {
			if free(r) {
				taken[r] = true
				keys[i] = string(r)
				break
			}
		}
	}
	return keys
}
