package product_test

import (
	"bytes"
	"encoding/json"
	"io"
	"mime/multipart"
	"net/http"
	"testing"

	"github.com/google/uuid"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"nineyard/internal/contract"
	"nineyard/internal/demo"
)

// TestACorrectionKeepsWhatItCorrects: who wrote what, the latest first, from the play as it was loaded on.
func TestACorrectionKeepsWhatItCorrects(t *testing.T) {
	line := open(t).signIn(demo.LineCoachEmail)
	game := line.world.Games[0].ID.String()
	var plays contract.GamePlays
	line.get("/games/"+game+"/plays", &plays)
	p := plays.Plays[0]
	address := "/games/" + game + "/plays/" + p.ID.String()
	put := func(change func(*contract.PlayInput)) {
		change(&p.Play)
		text, err := json.Marshal(p.Play)
		require.NoError(t, err)
		var body map[string]any
		require.NoError(t, json.Unmarshal(text, &body))
		body["version"] = p.Version
		status, answer := line.do("PUT", address, body)
		require.Equal(t, http.StatusOK, status, answer)
		require.NoError(t, json.Unmarshal([]byte(answer), &p))
	}
	was := p.Play.Front
	put(func(in *contract.PlayInput) { in.Front = "Odd, tight" })
	put(func(in *contract.PlayInput) { in.Gain = new(12); in.Motion = "Jet" })
	var list []contract.PlayCorrection
	line.get(address+"/history", &list)
	require.Len(t, list, 3)
	labels := func(c contract.PlayCorrection) (names []string) {
		for _, x := range c.Changes {
			names = append(names, x.Label)
		}
		return names
	}
	assert.Equal(t, []string{"Motion", "Gain"}, labels(list[0]))
	assert.Equal(t, contract.LabelChange{Label: "Front", Was: was, Is: "Odd, tight"}, list[1].Changes[0])
	assert.Equal(t, "R. Kell", *list[0].By)
	assert.Empty(t, list[2].Changes)
	status, _ := line.do("GET", "/games/"+line.world.Games[1].ID.String()+"/plays/"+p.ID.String()+"/history", nil)
	assert.Equal(t, http.StatusNotFound, status)
}

// TestCutUpsAndColumnsAreKept: a name is of one cut-up; which header stands for what is chosen once a kind of list.
func TestCutUpsAndColumnsAreKept(t *testing.T) {
	line := open(t).signIn(demo.LineCoachEmail)
	put := func(id uuid.UUID, version int, name, cut string) (int, string) {
		return line.do("PUT", "/groups/ol/cut-ups/"+id.String(), map[string]any{"version": version, "name": name, "cut": cut})
	}
	one := uuid.New()
	status, text := put(one, 0, "Third and long", "third and long")
	require.Equal(t, http.StatusOK, status, text)
	status, text = put(uuid.New(), 0, "Third and long", "third")
	assert.Equal(t, http.StatusUnprocessableEntity, status, text)
	assert.Equal(t, "name", *problem(t, text).Field)
	status, text = put(one, 1, "Third and long", "third and longish")
	assert.Equal(t, http.StatusUnprocessableEntity, status)
	assert.Equal(t, "cut", *problem(t, text).Field)
	var list []contract.CutUp
	line.get("/groups/ol/cut-ups", &list)
	require.Len(t, list, 1)
	status, _ = line.do("DELETE", "/groups/ol/cut-ups/"+one.String(), nil, "If-Match", `"1"`)
	require.Equal(t, http.StatusOK, status)

	read := func(columns string) (v contract.PlayLines) {
		var body bytes.Buffer
		form := multipart.NewWriter(&body)
		w, err := form.CreateFormFile("file", "list.csv")
		require.NoError(t, err)
		_, err = io.WriteString(w, "#,Dn,Advance\n1,1,7\n")
		require.NoError(t, err)
		require.NoError(t, form.Close())
		status, text := line.do("POST", "/games/"+line.world.Games[0].ID.String()+"/plays-list?unit=offense"+columns, body.String(), "Content-Type", form.FormDataContentType())
		require.Equal(t, http.StatusOK, status, text)
		require.NoError(t, json.Unmarshal([]byte(text), &v))
		return v
	}
	assert.False(t, read("").Remembered)
	assert.Equal(t, 7, *read("&columns=Gain%3DAdvance").Lines[0].Play.Gain)
	again := read("")
	assert.True(t, again.Remembered)
	assert.Equal(t, 7, *again.Lines[0].Play.Gain)
}
