package product_test

import (
	"bytes"
	"encoding/csv"
	"encoding/json"
	"mime/multipart"
	"net/http"
	"slices"
	"strings"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/internal/contract"
	"nineyard/internal/demo"
)

// sendList sends a list to be read.
func (s *site) sendList(path, name string, content []byte) (int, string) {
	s.t.Helper()
	var body bytes.Buffer
	form := multipart.NewWriter(&body)
	w, err := form.CreateFormFile("file", name)
	require.NoError(s.t, err)
	_, err = w.Write(content)
	require.NoError(s.t, err)
	require.NoError(s.t, form.Close())
	return s.do("POST", path, body.String(), "Content-Type", form.FormDataContentType())
}

// TestMarksComeOutAndGoInAsTheSame, in both formats; a line that is changed changes its mark, one that is wrong
// names its column and takes nobody with it, and nothing is done by halves.
func TestMarksComeOutAndGoInAsTheSame(t *testing.T) {
	line := open(t).signIn(demo.LineCoachEmail)
	game := line.world.Games[demo.Week-2].ID.String()
	address := "/games/" + game + "/marks-list?group=ol"
	read := func(content []byte) (v contract.MarkLines) {
		status, text := line.sendList(address, "marks.csv", content)
		require.Equal(t, http.StatusOK, status, text)
		require.NoError(t, json.Unmarshal([]byte(text), &v))
		return v
	}
	actions := func(v contract.MarkLines) map[string]int {
		n := map[string]int{}
		for _, l := range v.Lines {
			n[string(l.Action)]++
			if l.Says != nil {
				t.Log(l.Line, *l.Column, *l.Says)
			}
		}
		return n
	}
	// A mark of every kind is among them.
	var sheet contract.GameSheet
	line.get("/games/"+game+"/marks?group=ol", &sheet)
	first := sheet.Marks[0]
	status, text := line.do("POST", "/marks", map[string]any{"marks": []any{map[string]any{"id": uuid.New(), "play_id": first.PlayID, "technique_key": first.TechniqueKey, "player_id": first.Mark.PlayerID, "on": first.Mark.ID,
		"state": "looked", "assignment": 0, "finish": 1, "note": "late, \"again\"", "side": "left", "result": 1, "tallies": []string{"no_effort"}, "praise": true}}})
	require.Equal(t, http.StatusOK, status, text)

	var marks int
	for _, format := range []string{"csv", "xlsx"} {
		status, content := line.do("GET", address+"&format="+format, nil)
		require.Equal(t, http.StatusOK, status)
		v := read([]byte(content))
		marks = len(v.Lines)
		assert.Equal(t, map[string]int{"same": marks}, actions(v), format)
	}
	require.Greater(t, marks, 100)

	_, content := line.do("GET", address, nil)
	rows, err := csv.NewReader(strings.NewReader(strings.TrimPrefix(content, "\ufeff"))).ReadAll()
	require.NoError(t, err)
	col := func(name string) int { return slices.Index(rows[0], name) }
	write := func() []byte {
		var out bytes.Buffer
		require.NoError(t, csv.NewWriter(&out).WriteAll(rows))
		return out.Bytes()
	}
	// A note more; no such play; no such fault; a value that is none; somebody who is not there; the same twice.
	rows[1][col("Note")] = "From the list."
	rows[2][col("Play")] = "999"
	rows[3][col("Faults")] = "Falls over"
	rows[4][col("Technique right")] = "half"
	rows[5][col("No")], rows[5][col("Player")] = "1", ""
	rows[7] = slices.Clone(rows[6])
	v := read(write())
	assert.Equal(t, map[string]int{"same": marks - 6, "update": 1, "wrong": 5}, actions(v))
	var columns []string
	for _, l := range v.Lines {
		if l.Column != nil {
			columns = append(columns, *l.Column)
		}
	}
	assert.Equal(t, []string{"Play", "Faults", "Technique right", "No", "Play"}, columns)
	changed := v.Lines[slices.IndexFunc(v.Lines, func(l contract.MarkLine) bool { return l.Action == "update" })].Mark
	status, text = line.do("POST", "/marks", map[string]any{"marks": []any{changed}})
	require.Equal(t, http.StatusOK, status, text)
	assert.Contains(t, text, `"refused":[]`)
	_, content = line.do("GET", address, nil)
	assert.Contains(t, content, "From the list.")

	// Other encodings and separators; lists that are none; 5,000 lines.
	wide := "Play;No;Technique\r\n1;64;N\xe4he\r\n"
	v = read([]byte(wide))
	assert.Equal(t, map[string]int{"wrong": 1}, actions(v))
	for says, bad := range map[string]string{"no column of the list is called Play": "Down;No\n1;64\n", "file": "\x00\x01\x02"} {
		status, text = line.sendList(address, "x.csv", []byte(bad))
		assert.Equal(t, http.StatusUnprocessableEntity, status, text)
		assert.Contains(t, text, says)
	}
	many := "Play,No,Technique\n" + strings.Repeat("1,64,Base block\n", 5000)
	v = read([]byte(many))
	assert.Equal(t, 5000, len(v.Lines))
	assert.Equal(t, 4999, actions(v)["wrong"], "the same mark 5,000 times is one")
	status, _ = line.sendList(address, "x.csv", []byte(many+"1,64,Base block\n"))
	assert.Equal(t, http.StatusUnprocessableEntity, status)

	// Somebody else's group is not one's to change: each line says so.
	other := line.visitor().signIn(demo.SecondCoachEmail)
	status, text = other.sendList(address, "x.csv", []byte("Play,No,Technique\n1,64,Base block\n"))
	require.Equal(t, http.StatusOK, status)
	assert.Contains(t, text, `"action":"wrong"`)

	status, content = line.do("GET", "/games/"+game+"/grades-list?group=ol", nil)
	require.Equal(t, http.StatusOK, status)
	grades, err := csv.NewReader(strings.NewReader(strings.TrimPrefix(content, "\ufeff"))).ReadAll()
	require.NoError(t, err)
	assert.Equal(t, "All", grades[len(grades)-1][1])
	assert.Contains(t, grades[0], "Technique")
}
