// Package browser is what of the core runs in the browser too, beside the server that has the
// last word: JSON in the contract's form in, JSON out. cmd/browser makes it a module that the
// front end loads where an answer is needed while the hand still moves.
package browser

import (
	"encoding/json"
	"fmt"

	"nineyard/core/play"
	"nineyard/internal/contract"
	"nineyard/internal/film/labels"
	"nineyard/internal/plan/sheet"
)

// question is all that can be asked at once.
type question struct {
	Sheet   contract.ScriptSheet `json:"sheet"`
	Finding contract.Finding     `json:"finding"`
	Text    string               `json:"text"`
	IDs     []string             `json:"ids"`  // for what is new
	From    int                  `json:"from"` // minute of the practice
	Lost    int                  `json:"lost"` // minutes
	Play    contract.PlayInput   `json:"play"`
}

// Ask answers what is asked: look, mends, late, templates, write, read, or which play comes next.
func Ask(what, in string) (string, error) {
	var q question
	if err := json.Unmarshal([]byte(in), &q); err != nil {
		return "", fmt.Errorf("the question is not readable: %w", err)
	}
	next := func() string {
		if len(q.IDs) == 0 {
			return ""
		}
		id := q.IDs[0]
		q.IDs = q.IDs[1:]
		return id
	}
	var answer any
	switch what {
	case "look":
		answer = sheet.Look(q.Sheet)
	case "mends":
		answer = sheet.Mends(q.Sheet, q.Finding, next())
	case "late":
		answer = sheet.Late(q.Sheet, q.From, q.Lost)
	case "templates":
		answer = sheet.Templates(q.Sheet)
	case "write":
		answer = sheet.Write(q.Sheet)
	case "read":
		answer = sheet.Read(q.Sheet, q.Text, next)
	case "next":
		answer = labels.View(play.Next(labels.Read(q.Play)))
	default:
		return "", fmt.Errorf("nothing is called %q here", what)
	}
	out, err := json.Marshal(answer)
	return string(out), err
}
