package main

import (
	"encoding/json"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

const described = `
components:
  schemas:
    EntryKind: { type: string, enum: [drill] }
    EntryKey: { type: string, pattern: "^[a-z]+$" }
    EntryText: { type: string, maxLength: 2000 }
    EntryPair: { type: array, minItems: 2, maxItems: 2, x-go: "[2]float64", items: { type: number } }
    DrillEntry:
      type: object
      additionalProperties: false
      description: Drill is an exercise.
      x-entry: drill
      x-sets: drills
      x-go: teaching.Drill
      x-linked: DrillLinks
      required: [key, name]
      properties:
        key: { $ref: "#/components/schemas/EntryKey" }
        sort: { type: integer, x-place: true, x-as: none, title: Place }
        name: { type: string, title: Name, description: what it is called. }
        says: { $ref: "#/components/schemas/EntryText", title: Says }
        at: { $ref: "#/components/schemas/EntryKey", x-name: Checkpoint, x-of: checkpoint, title: At }
        sides: { type: integer, enum: [1, 2], title: Sides }
        daily: { type: boolean, title: Daily }
        space_yd: { $ref: "#/components/schemas/EntryPair", title: Space }
        most: { type: number, x-pointer: true, title: Most }
        band: { $ref: "#/components/schemas/Band", title: Band }
        cards: { type: array, title: Cards, items: { $ref: "#/components/schemas/CardEntry" } }
        counts: { type: object, x-go: "map[string]int", title: Counts, x-hint: cone, additionalProperties: { type: integer } }
        words: { type: array, title: Words, items: { type: string } }
        measure: { $ref: "#/components/schemas/Measure", title: Measure }
    CardEntry:
      type: object
      x-go: teaching.Card
      required: [key, look]
      properties:
        key: { $ref: "#/components/schemas/EntryKey" }
        look: { type: string, title: Look, enum: [run, pass], x-list: Looks }
    Measure:
      type: object
      description: Measure is a standard.
      x-go: standard.Measure
      required: [target]
      properties:
        target: { type: number, title: Target }
    Band: { type: array, x-go: standard.Band, minItems: 2, maxItems: 2, items: { type: number, nullable: true } }
    LibraryFile:
      type: object
      x-go: library.Bundle
      properties:
        drills: { type: array, items: { $ref: "#/components/schemas/DrillEntry" } }
`

func write(t *testing.T, text string) string {
	t.Helper()
	name := filepath.Join(t.TempDir(), "entries.yaml")
	require.NoError(t, os.WriteFile(name, []byte(text), 0o600))
	return name
}

// TestAllFollowsFromTheDescription: the Go types, the schema of a file and the fields of the editor.
func TestAllFollowsFromTheDescription(t *testing.T) {
	dir := t.TempDir()
	require.NoError(t, run(write(t, described), dir))
	text := func(name string) string {
		data, err := os.ReadFile(filepath.Join(dir, name))
		require.NoError(t, err)
		return strings.Join(strings.Fields(string(data)), " ")
	}
	core := text("core/teaching/entries.gen.go")
	for _, want := range []string{
		`import "nineyard/core/standard"`, "// Drill is an exercise. type Drill struct {", "Key string `json:\"key,omitempty\"`",
		"Name string `json:\"name,omitempty\"` // what it is called.", "Checkpoint string `json:\"at,omitempty\"`", "Sides int `json:", "Daily bool `json:",
		"SpaceYd [2]float64 `json:\"space_yd,omitzero\"`", "Most *float64 `json:\"most,omitempty\"`", "Band standard.Band `json:\"band,omitzero\"`", "Cards []Card `json:",
		"Counts map[string]int `json:", "Measure standard.Measure `json:\"measure,omitzero\"`", "DrillLinks `json:\"-\"`", "Look string `json:\"look\"`",
		`// Looks lists what Look of a Card may be. func Looks() []string { return []string{"run", "pass"} }`,
	} {
		assert.Contains(t, core, want)
	}
	assert.Contains(t, text("core/standard/measure.gen.go"), "Target float64 `json:\"target\"`")
	assert.Contains(t, text("library/bundle.gen.go"), "Drills []teaching.Drill `json:\"drills,omitempty\"`")
	assert.Contains(t, text("library/bundle.gen.go"), `"drills": "drill",`)

	var schema struct {
		Defs map[string]struct {
			Required   []string
			Properties map[string]map[string]any
			Items      map[string]any
		} `json:"$defs"`
	}
	require.NoError(t, json.Unmarshal([]byte(text("library/schema.json")), &schema))
	drill := schema.Defs["drill"]
	assert.Equal(t, []string{"key", "name"}, drill.Required)
	assert.NotContains(t, drill.Properties, "sort", "a file says it by its order")
	assert.Equal(t, map[string]any{"$ref": "#/$defs/entry_key", "title": "At"}, drill.Properties["at"])
	assert.Equal(t, []any{"number", "null"}, schema.Defs["band"].Items["type"])

	fields := text("web/src/api/entries.gen.ts")
	for _, want := range []string{
		`export type EntryKind = "drill";`, `"name": "name", "label": "Name", "as": "line", "needed": true`, `"label": "Says", "as": "text"`,
		`"label": "At", "as": "keys", "of": "checkpoint"`, `"label": "Sides", "as": "choice"`, `"label": "Daily", "as": "flag"`, `"label": "Space", "as": "pair"`,
		`"label": "Most", "as": "number"`, `"label": "Cards", "as": "list", "parts": [ { "name": "look"`, `"label": "Counts", "as": "map", "hint": "cone"`,
		`"label": "Words", "as": "words"`, `"label": "Measure", "as": "group", "parts": [ { "name": "target"`,
	} {
		assert.Contains(t, fields, want)
	}
	assert.NotContains(t, fields, "Place")
}

func TestADescriptionThatIsWrongIsRefused(t *testing.T) {
	for says, change := range map[string][2]string{
		`"otherwise." is no word`:  {"what it is called. }", "what it is called, otherwise. }"},
		"EntryKind lists [ladder]": {"enum: [drill]", "enum: [ladder]"},
		"no type in Go for":        {"daily: { type: boolean,", "daily: { type: null,"},
		"there are no components":  {"components:", "parts:"},
	} {
		assert.ErrorContains(t, run(write(t, strings.Replace(described, change[0], change[1], 1)), t.TempDir()), says)
	}
	assert.Error(t, run(filepath.Join(t.TempDir(), "none.yaml"), t.TempDir()))
	assert.Error(t, run(write(t, "a: ["), t.TempDir()))
}
