// Made from api/entries.yaml by 'make generate'. Do not edit.

package library

import "nineyard/core/teaching"

// Bundle is the form of one file of a library, as YAML or JSON: techniques with their checkpoints, standards and faults, drills, ladders, tables, and the questions on which schools differ. Entries are merged by key; distances in yards unless the unit says otherwise, times in seconds and minutes.
type Bundle struct {
	Edition    int                  `json:"edition,omitempty"` // the form of the file; a file without it is read as edition 1.
	Groups     []string             `json:"groups,omitempty"`  // position groups of every technique that names none of its own.
	Questions  []teaching.Question  `json:"questions,omitempty"`
	Tables     []teaching.Table     `json:"tables,omitempty"`
	Faults     []teaching.Fault     `json:"faults,omitempty"` // shared ones.
	Techniques []teaching.Technique `json:"techniques,omitempty"`
	Drills     []teaching.Drill     `json:"drills,omitempty"`
	Ladders    []teaching.Ladder    `json:"ladders,omitempty"`
}

// Kinds of entries, in the order in which they are built.
var kinds = []string{"question", "table", "technique", "checkpoint", "fault", "drill", "ladder"}

// What entries of each kind stand under in a file.
var sets = map[string]string{
	"questions":   "question",
	"tables":      "table",
	"techniques":  "technique",
	"faults":      "fault",
	"drills":      "drill",
	"ladders":     "ladder",
	"checkpoints": "checkpoint",
}
