package library

import (
	"nineyard/core/standard"
	"nineyard/core/teaching"
)

// Bundle is the form of one file of a library, as YAML or JSON.
type Bundle struct {
	// Groups are the position groups of every technique that names none of its own.
	Groups     []string    `yaml:"groups,omitempty" json:"groups,omitempty"`
	Questions  []question  `yaml:"questions,omitempty" json:"questions,omitempty"`
	Techniques []technique `yaml:"techniques,omitempty" json:"techniques,omitempty"`
	Drills     []drill     `yaml:"drills,omitempty" json:"drills,omitempty"`
	Ladders    []ladder    `yaml:"ladders,omitempty" json:"ladders,omitempty"`
}

// The forms of the entries. Their JSON field names are also the names of the fields that
// a house may change.

type question struct {
	Key        string       `yaml:"key" json:"key,omitempty"`
	Name       string       `yaml:"name" json:"name,omitempty"`
	Asks       string       `yaml:"asks" json:"asks,omitempty"`
	Techniques []string     `yaml:"techniques,flow,omitempty" json:"techniques,omitempty"`
	Schools    []schoolForm `yaml:"schools" json:"schools,omitempty"`
	House      string       `yaml:"house" json:"house,omitempty"`
	Why        string       `yaml:"why" json:"why,omitempty"`
}

type schoolForm struct {
	Key    string `yaml:"key" json:"key"`
	Name   string `yaml:"name" json:"name"`
	Reason string `yaml:"reason" json:"reason"`
}

type technique struct {
	Key         string       `yaml:"key" json:"key,omitempty"`
	Name        string       `yaml:"name" json:"name,omitempty"`
	Aliases     []string     `yaml:"aliases,flow,omitempty" json:"aliases,omitempty"`
	Groups      []string     `yaml:"groups,flow,omitempty" json:"groups,omitempty"`
	Summary     string       `yaml:"summary" json:"summary,omitempty"`
	Checkpoints []checkpoint `yaml:"checkpoints,omitempty" json:"checkpoints,omitempty"`
	Faults      []fault      `yaml:"faults,omitempty" json:"faults,omitempty"`
}

type checkpoint struct {
	Key string `yaml:"key" json:"key,omitempty"`
	// Technique and Sort stand in the file by nesting and order.
	Technique string   `yaml:"-" json:"technique,omitempty"`
	Sort      int      `yaml:"-" json:"sort,omitempty"`
	Phase     string   `yaml:"phase" json:"phase,omitempty"`
	Name      string   `yaml:"name" json:"name,omitempty"`
	Cue       string   `yaml:"cue" json:"cue,omitempty"`
	Measure   *measure `yaml:"measure,flow,omitempty" json:"measure,omitempty"`
	Words     []string `yaml:"words,flow,omitempty" json:"words,omitempty"`
	Right     []string `yaml:"right,flow,omitempty" json:"right,omitempty"`
	School    string   `yaml:"school,omitempty" json:"school,omitempty"`
}

type measure struct {
	Unit   string     `yaml:"unit" json:"unit"`
	Target float64    `yaml:"target" json:"target"`
	OK     [2]float64 `yaml:"ok,flow" json:"ok"`
	Watch  [2]float64 `yaml:"watch,flow" json:"watch"`
	Min    *float64   `yaml:"min,omitempty" json:"min,omitempty"`
	Max    *float64   `yaml:"max,omitempty" json:"max,omitempty"`
	Read   string     `yaml:"read" json:"read"`
}

type fault struct {
	Key       string   `yaml:"key" json:"key,omitempty"`
	Technique string   `yaml:"-" json:"technique,omitempty"`
	Sort      int      `yaml:"-" json:"sort,omitempty"`
	Name      string   `yaml:"name" json:"name,omitempty"`
	Aliases   []string `yaml:"aliases,flow,omitempty" json:"aliases,omitempty"`
	At        string   `yaml:"at" json:"at,omitempty"`
	Effect    string   `yaml:"effect" json:"effect,omitempty"`
	Severity  int      `yaml:"severity" json:"severity,omitempty"`
	Safety    bool     `yaml:"safety,omitempty" json:"safety,omitempty"`
	School    string   `yaml:"school,omitempty" json:"school,omitempty"`
}

type drill struct {
	Key          string     `yaml:"key" json:"key,omitempty"`
	Name         string     `yaml:"name" json:"name,omitempty"`
	Aliases      []string   `yaml:"aliases,flow,omitempty" json:"aliases,omitempty"`
	Trains       []string   `yaml:"trains,flow" json:"trains,omitempty"`
	WorksOn      []string   `yaml:"works_on,flow" json:"works_on,omitempty"`
	Working      int        `yaml:"working" json:"working,omitempty"`
	Helping      int        `yaml:"helping" json:"helping,omitempty"`
	Roles        string     `yaml:"roles" json:"roles,omitempty"`
	Lanes        int        `yaml:"lanes" json:"lanes,omitempty"`
	RepSeconds   float64    `yaml:"rep_seconds" json:"rep_seconds,omitempty"`
	ResetSeconds float64    `yaml:"reset_seconds" json:"reset_seconds,omitempty"`
	SetupSeconds float64    `yaml:"setup_seconds" json:"setup_seconds,omitempty"`
	Sides        int        `yaml:"sides,omitempty" json:"sides,omitempty"`
	Minutes      int        `yaml:"minutes" json:"minutes,omitempty"`
	MinMinutes   int        `yaml:"min_minutes" json:"min_minutes,omitempty"`
	Contact      string     `yaml:"contact" json:"contact,omitempty"`
	HelpContact  string     `yaml:"help_contact,omitempty" json:"help_contact,omitempty"`
	Equipment    string     `yaml:"equipment" json:"equipment,omitempty"`
	SpaceYd      [2]float64 `yaml:"space_yd,flow" json:"space_yd"`
	Setup        setup      `yaml:"setup" json:"setup"`
	CoachAt      string     `yaml:"coach_at" json:"coach_at,omitempty"`
	Watch        string     `yaml:"watch" json:"watch,omitempty"`
	SelfCheck    string     `yaml:"self_check" json:"self_check,omitempty"`
	Alone        string     `yaml:"alone" json:"alone,omitempty"`
	Game         string     `yaml:"game" json:"game,omitempty"`
	Cautions     string     `yaml:"cautions" json:"cautions,omitempty"`
	Conditioning bool       `yaml:"conditioning,omitempty" json:"conditioning,omitempty"`
	School       string     `yaml:"school,omitempty" json:"school,omitempty"`
}

type setup struct {
	Things []thing `yaml:"things,omitempty" json:"things,omitempty"`
	Ways   []way   `yaml:"ways,omitempty" json:"ways,omitempty"`
}

type thing struct {
	Is   string     `yaml:"is" json:"is"`
	At   [2]float64 `yaml:"at,flow" json:"at"`
	Says string     `yaml:"says,omitempty" json:"says,omitempty"`
}

type way struct {
	Is     string       `yaml:"is" json:"is"`
	Points [][2]float64 `yaml:"points,flow" json:"points"`
}

type ladder struct {
	Key       string  `yaml:"key" json:"key,omitempty"`
	Name      string  `yaml:"name" json:"name,omitempty"`
	Technique string  `yaml:"technique" json:"technique,omitempty"`
	Stages    []stage `yaml:"stages" json:"stages,omitempty"`
}

type stage struct {
	Key         string   `yaml:"key" json:"key"`
	Name        string   `yaml:"name" json:"name"`
	Kind        string   `yaml:"kind" json:"kind"`
	Drills      []string `yaml:"drills,flow,omitempty" json:"drills,omitempty"`
	Window      int      `yaml:"window" json:"window"`
	Clean       int      `yaml:"clean" json:"clean"`
	Sessions    int      `yaml:"sessions,omitempty" json:"sessions,omitempty"`
	MaxSessions int      `yaml:"max_sessions,omitempty" json:"max_sessions,omitempty"`
	FromWeek    int      `yaml:"from_week,omitempty" json:"from_week,omitempty"`
}

func (c checkpoint) core() teaching.Checkpoint {
	out := teaching.Checkpoint{Key: c.Key, Phase: c.Phase, Name: c.Name, Cue: c.Cue, Words: c.Words, Right: c.Right, School: c.School}
	if m := c.Measure; m != nil {
		out.Measure = &standard.Measure{Unit: m.Unit, Target: m.Target, OK: standard.Band{Low: m.OK[0], High: m.OK[1]},
			Watch: standard.Band{Low: m.Watch[0], High: m.Watch[1]}, Min: m.Min, Max: m.Max, Read: m.Read}
	}
	return out
}

func (f fault) core() teaching.Fault {
	return teaching.Fault{Key: f.Key, Name: f.Name, Aliases: f.Aliases, Checkpoint: f.At, Effect: f.Effect, Severity: f.Severity, Safety: f.Safety, School: f.School}
}

func (d drill) core() teaching.Drill {
	out := teaching.Drill{
		Key: d.Key, Name: d.Name, Aliases: d.Aliases, Trains: d.Trains, WorksOn: d.WorksOn,
		Working: d.Working, Helping: d.Helping, Roles: d.Roles, Lanes: d.Lanes,
		RepSeconds: d.RepSeconds, ResetSeconds: d.ResetSeconds, SetupSeconds: d.SetupSeconds,
		Sides: max(d.Sides, 1), Minutes: d.Minutes, MinMinutes: d.MinMinutes, Contact: d.Contact, HelpContact: d.HelpContact,
		Equipment: d.Equipment, Space: teaching.Space{LengthYd: d.SpaceYd[0], WidthYd: d.SpaceYd[1]},
		CoachAt: d.CoachAt, Watch: d.Watch, SelfCheck: d.SelfCheck, Alone: d.Alone, Game: d.Game,
		Cautions: d.Cautions, Conditioning: d.Conditioning, School: d.School,
	}
	for _, t := range d.Setup.Things {
		out.Setup.Things = append(out.Setup.Things, teaching.Thing{Is: t.Is, X: t.At[0], Y: t.At[1], Says: t.Says})
	}
	for _, w := range d.Setup.Ways {
		out.Setup.Ways = append(out.Setup.Ways, teaching.Way(w))
	}
	return out
}

func (l ladder) core() teaching.Ladder {
	out := teaching.Ladder{Key: l.Key, Name: l.Name, Technique: l.Technique}
	for _, s := range l.Stages {
		out.Stages = append(out.Stages, teaching.Stage(s))
	}
	return out
}

func (q question) core() teaching.Question {
	out := teaching.Question{Key: q.Key, Name: q.Name, Asks: q.Asks, Techniques: q.Techniques, House: q.House, Why: q.Why}
	for _, s := range q.Schools {
		out.Schools = append(out.Schools, teaching.School(s))
	}
	return out
}
