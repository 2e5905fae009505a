package contract

import "nineyard/core/teaching"

// The entries of a library as they are shown: the entry as it is described in one place, and beside it what
// follows from the library it stands in. Lists that screens go through are there even where they are empty.

// WholeTechnique is a technique with its questions and the drills for its faults.
type WholeTechnique struct {
	teaching.Technique
	TechniqueView
	Aliases     []string              `json:"aliases"`
	Groups      []string              `json:"groups"`
	Checkpoints []teaching.Checkpoint `json:"checkpoints"`
	Faults      []teaching.Fault      `json:"faults"`
}

// WholeDrill is a drill with the names of what it refers to and where it stands.
type WholeDrill struct {
	teaching.Drill
	DrillView
	Aliases []string `json:"aliases"`
	WorksOn []string `json:"works_on"`
}

// WholeQuestion is a question with what each school brings.
type WholeQuestion struct {
	teaching.Question
	QuestionView
}

// WholeLadder is a ladder with its stages as they apply.
type WholeLadder struct {
	teaching.Ladder
	Stages        []Stage  `json:"stages"`
	Minutes       *float64 `json:"minutes,omitempty"` // that a new player needs; nil where it cannot be climbed
	SeasonMinutes int      `json:"season_minutes"`
}

// WholeStage is a stage with the gate that applies.
type WholeStage struct {
	teaching.Stage
	StageView
	Drills   []string `json:"drills"`
	Window   int      `json:"window"`
	Clean    int      `json:"clean"`
	Sessions int      `json:"sessions"`
	FromWeek int      `json:"from_week"`
}
