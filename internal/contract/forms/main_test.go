package main

import (
	"bytes"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

func write(t *testing.T, name, text string) string {
	t.Helper()
	path := filepath.Join(t.TempDir(), name)
	require.NoError(t, os.WriteFile(path, []byte(text), 0o600))
	return path
}

const contract = `
paths:
  /players:
    put:
      operationId: putPlayer
      x-form: true
      requestBody: { content: { application/json: { schema: { $ref: "#/components/schemas/Player" } } } }
    get: { operationId: getPlayer }
components:
  schemas:
    Key: { type: string, pattern: "^[a-z]+$", description: Names it. }
    Player:
      type: object
      required: [name]
      properties:
        name: { type: string, title: Name, maxLength: 80, x-go-type: Name }
        born: { type: string, format: date }
        id: { type: string, format: uuid }
        group: { $ref: "#/components/schemas/Key", title: Group }
        marks: { type: array, maxItems: 3, items: { type: number, minimum: 0, maximum: 1, format: double } }
`

const schema = `{"$defs": {"key": {"type": "string"}, "drill": {"type": "object", "properties": {"lanes": {"type": "integer", "minimum": 1}}}}}`

// TestAFormKnowsWhatTheContractSays: words, ranges and lengths, with references put in place;
// nothing that only the server needs.
func TestAFormKnowsWhatTheContractSays(t *testing.T) {
	var out bytes.Buffer
	require.NoError(t, run(write(t, "api.yaml", contract), &out))
	require.NoError(t, run(write(t, "schema.json", schema), &out))
	text := strings.Join(strings.Fields(out.String()), " ")
	for _, want := range []string{
		`"putPlayer": {`,
		`"name": { "maxLength": 80, "title": "Name", "type": "string" }`,
		`"born": { "format": "date", "type": "string" }`,
		`"group": { "pattern": "^[a-z]+$", "title": "Group", "type": "string" }`,
		`"items": { "maximum": 1, "minimum": 0, "type": "number" }`,
		`export const entries = { "drill": { "properties": { "lanes": { "minimum": 1, "type": "integer" } }, "type": "object" } } as const;`,
	} {
		assert.Contains(t, text, want)
	}
	for _, not := range []string{"getPlayer", "x-go-type", "uuid", "double", "Names it", `"key"`} {
		assert.NotContains(t, text, not)
	}
}

func TestWhatHasNoForm(t *testing.T) {
	cases := []struct{ name, doc, says string }{
		{"no body", `{paths: {/a: {post: {operationId: a, x-form: true}}}}`, "a form without a JSON body"},
		{"no such reference", `{paths: {/a: {post: {operationId: a, x-form: true, requestBody: {content: {application/json: {schema: {$ref: "#/components/schemas/Gone"}}}}}}}}`, "is not there"},
		{"endless", `{"$defs": {"a": {"type": "object", "properties": {"b": {"$ref": "#/$defs/a"}}}}}`, "refers to itself"},
		{"not read", `a: [`, "api.yaml"},
	}
	for _, c := range cases {
		t.Run(c.name, func(t *testing.T) {
			err := run(write(t, "api.yaml", c.doc), &bytes.Buffer{})
			assert.ErrorContains(t, err, c.says)
		})
	}
}
