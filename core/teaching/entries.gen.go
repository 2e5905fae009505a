// Made from api/entries.yaml by 'make generate'. Do not edit.

package teaching

import "nineyard/core/standard"

// Question is something on which schools differ. The staff picks the house variant and says why.
type Question struct {
	Key        string   `json:"key,omitempty"`
	Name       string   `json:"name,omitempty"`
	Asks       string   `json:"asks,omitempty"`
	Techniques []string `json:"techniques,omitempty"` // those it bears on; empty means the whole staff.
	Schools    []School `json:"schools,omitempty"`
	House      string   `json:"house,omitempty"` // key of the school that holds here.
	Why        string   `json:"why,omitempty"`
}

// School is one way of teaching where coaches differ, with its reason.
type School struct {
	Key    string `json:"key"`
	Name   string `json:"name"`
	Reason string `json:"reason"`
}

// Table is what a call decides - a number that a standard is measured against, or the answer to what is seen - a row each.
type Table struct {
	Key     string   `json:"key,omitempty"`
	Name    string   `json:"name,omitempty"`
	Groups  []string `json:"groups,omitempty"`
	Columns []Column `json:"columns,omitempty"`
	Rows    []Row    `json:"rows,omitempty"`
	Add     Add      `json:"add,omitzero"`
	Retired bool     `json:"retired,omitempty"`
}

// Column is what a table says of each row - a number in a unit, or words where no unit stands.
type Column struct {
	Key  string `json:"key"`
	Name string `json:"name,omitempty"` // as it is shown; empty means the key.
	Unit string `json:"unit,omitempty"`
}

// Row is one call of a table.
type Row struct {
	Call    string             `json:"call"`              // what is called or seen: "three steps, under centre".
	When    string             `json:"when,omitempty"`    // what must hold besides: end attached, trips, distance to go, set, coverage.
	Of      string             `json:"of,omitempty"`      // the landmark its numbers are measured from.
	Numbers map[string]float64 `json:"numbers,omitempty"` // by column with a unit.
	Words   map[string]string  `json:"words,omitempty"`   // by column without one.
}

// Add makes a number grow with the distance to go: By more in Column for each Per yards beyond Beyond.
type Add struct {
	Column string  `json:"column"`
	By     float64 `json:"by"`
	Per    float64 `json:"per"`
	Beyond float64 `json:"beyond"`
}

// Technique is a named, teachable action.
type Technique struct {
	Key         string            `json:"key,omitempty"`
	Name        string            `json:"name,omitempty"`
	Aliases     []string          `json:"aliases,omitempty"`
	Groups      []string          `json:"groups,omitempty"` // keys of the position groups that are taught it, the one whose own it is first.
	Places      []string          `json:"places,omitempty"` // the places whose players do it; empty means all of the group.
	Summary     string            `json:"summary,omitempty"`
	Summaries   map[string]string `json:"summaries,omitempty"` // by question/school; the first that holds stands in place of the summary.
	Occurs      string            `json:"occurs,omitempty"`    // how often it occurs to a player in a game; the gates of its ladder follow from it.
	Core        bool              `json:"core,omitempty"`
	With        []string          `json:"with,omitempty"`        // who or what must be in a look or group drill of it besides the players working.
	Players     int               `json:"players,omitempty"`     // how many work together in it; zero means one.
	Checkpoints []Checkpoint      `json:"checkpoints,omitempty"` // in time order through the rep.
	Faults      []Fault           `json:"faults,omitempty"`
	Was         []string          `json:"was,omitempty"`     // keys that were folded into it; their old marks count for it.
	Retired     bool              `json:"retired,omitempty"` // given up; old marks keep its words.
}

// Checkpoint is one observable criterion of a technique. It is either measured or judged by eye with words of its own.
type Checkpoint struct {
	Key       string            `json:"key,omitempty"`
	Technique string            `json:"technique,omitempty"` // the technique it belongs to.
	Sort      int               `json:"sort,omitempty"`      // its place among those of the technique.
	Name      string            `json:"name,omitempty"`
	Cue       string            `json:"cue,omitempty"`
	Phase     string            `json:"phase,omitempty"`   // stance, first step, second step, contact, drive, finish …
	Measure   *standard.Measure `json:"measure,omitempty"` // nil when it is judged by eye.
	Words     []string          `json:"words,omitempty"`   // of an eye judgement, one dimension in order: too little, right, too much.
	Right     []string          `json:"right,omitempty"`   // those of Words that pass; two when either answer is right.
	Means     map[string]string `json:"means,omitempty"`   // the fault that a wrong word is, or the side of a measure: its own word for it, else low or high.
	Table     string            `json:"table,omitempty"`   // the table whose row is shown beside the mark.
	School    string            `json:"school,omitempty"`  // "question/school" it follows from; empty for everybody.
	Was       []string          `json:"was,omitempty"`
	Retired   bool              `json:"retired,omitempty"`
}

// Fault is a named observable error at a checkpoint. One that names no technique is shared - one habit, counted together for a player whatever he does.
type Fault struct {
	Key        string            `json:"key,omitempty"`
	Technique  string            `json:"technique,omitempty"` // the technique it belongs to; of a shared one that of the technique at hand.
	Sort       int               `json:"sort,omitempty"`      // its place among those of the technique.
	Name       string            `json:"name,omitempty"`
	Aliases    []string          `json:"aliases,omitempty"`
	Checkpoint string            `json:"at,omitempty"`         // key of the technique's checkpoint.
	Everywhere []string          `json:"everywhere,omitempty"` // of a shared fault: one checkpoint of each technique it belongs to.
	Effect     string            `json:"effect,omitempty"`     // what it causes, in a sentence.
	Severity   int               `json:"severity,omitempty"`   // 3 loses the play or the ball, 2 the block or the route, 1 a step.
	Safety     bool              `json:"safety,omitempty"`     // somebody may be hurt: it outranks the rest.
	Hold       string            `json:"hold,omitempty"`       // while a safety fault stands the player works no higher than this; empty means below contact.
	Penalty    bool              `json:"penalty,omitempty"`    // tallied apart.
	CausedBy   string            `json:"caused_by,omitempty"`  // the fault of another group that may stand behind it.
	Say        map[string]string `json:"say,omitempty"`        // of a shared fault: words for one of its checkpoints.
	School     string            `json:"school,omitempty"`
	Was        []string          `json:"was,omitempty"`     // keys that were folded into it; their old marks count for it.
	Retired    bool              `json:"retired,omitempty"` // given up; old marks keep its words.

	FaultLinks `json:"-"`
}

// Drill is an exercise.
type Drill struct {
	Key          string     `json:"key,omitempty"`
	Name         string     `json:"name,omitempty"`
	Aliases      []string   `json:"aliases,omitempty"`
	Trains       []string   `json:"trains,omitempty"`   // checkpoint keys; the first names the technique it is marked as.
	WorksOn      []string   `json:"works_on,omitempty"` // fault keys it trains away.
	Shows        string     `json:"shows,omitempty"`    // what a rep counts for: one, the technique chosen for the placement; each, every technique it trains; card, the one its card asks for. Empty means one.
	Cards        []Card     `json:"cards,omitempty"`    // looks in the order in which they are shown; rep n shows card n and then again from the first.
	Roles        string     `json:"roles,omitempty"`    // who does what, in a sentence.
	Start        string     `json:"start,omitempty"`    // who starts a rep and how.
	Rotation     string     `json:"rotation,omitempty"` // who goes where after a rep.
	Ends         string     `json:"ends,omitempty"`
	Working      int        `json:"working,omitempty"` // players working in each lane.
	Help         []Help     `json:"help,omitempty"`    // helping roles in each lane.
	Lanes        int        `json:"lanes,omitempty"`   // lanes with the usual equipment.
	FedBy        string     `json:"fed_by,omitempty"`  // who starts or feeds each rep: the coach, a helping role, nobody.
	Feeds        int        `json:"feeds,omitempty"`   // lanes that one who feeds can serve at once; zero means all.
	Sides        int        `json:"sides,omitempty"`   // 2 when done left and right.
	RepSeconds   float64    `json:"rep_seconds,omitempty"`
	ResetSeconds float64    `json:"reset_seconds,omitempty"`
	SetupSeconds float64    `json:"setup_seconds,omitempty"`
	Minutes      int        `json:"minutes,omitempty"`     // usual length.
	MinMinutes   int        `json:"min_minutes,omitempty"` // below this it is not worth setting up.
	Contact      string     `json:"contact,omitempty"`     // of the players working.
	SpaceYd      [2]float64 `json:"space_yd,omitzero"`     // ground of one lane: yards downfield, yards across.
	Equipment    Equipment  `json:"equipment,omitzero"`
	Coach        Coach      `json:"coach,omitzero"`
	Watch        string     `json:"watch,omitempty"` // what he watches from there.
	SelfCheck    SelfCheck  `json:"self_check,omitzero"`
	Alone        string     `json:"alone,omitempty"` // how to run it with one coach.
	Game         string     `json:"game,omitempty"`  // the situation in which it must show up.
	Cautions     string     `json:"cautions,omitempty"`
	StopWhen     string     `json:"stop_when,omitempty"` // what ends the drill at once.
	Early        bool       `json:"early,omitempty"`
	Daily        bool       `json:"daily,omitempty"`
	Conditioning bool       `json:"conditioning,omitempty"`
	Load         Load       `json:"load,omitzero"`
	FromEach     []string   `json:"from_each,omitempty"` // sets it is done from in turn; rep n from set n.
	School       string     `json:"school,omitempty"`
	Setup        Setup      `json:"setup,omitzero"`
	Was          []string   `json:"was,omitempty"`
	Retired      bool       `json:"retired,omitempty"`

	DrillLinks `json:"-"`
}

// Help is a helping role of a drill, with a contact level of its own.
type Help struct {
	Role    string `json:"role"`
	Men     int    `json:"men"` // players of this role in each lane.
	Contact string `json:"contact"`
}

// Coach is where the coach stands.
type Coach struct {
	Side  string  `json:"side,omitempty"`
	Yards float64 `json:"yards,omitempty"`
	Level string  `json:"level,omitempty"`
	Sees  string  `json:"sees,omitempty"`
	At    string  `json:"at,omitempty"` // in words, where side and distance do not say it.
}

// Equipment is what a drill takes - for each lane and once for all of them.
type Equipment struct {
	Lane map[string]int `json:"lane,omitempty"`
	Once map[string]int `json:"once,omitempty"`
	Text string         `json:"text,omitempty"` // in words, of a first-edition file, or what has no word of its own.
}

// SelfCheck is how a fault shows itself without a coach.
type SelfCheck struct {
	Shows []string `json:"shows,omitempty"`
	Text  string   `json:"text,omitempty"`
}

// Load is what a rep takes out of the player working, counted against limits of a day.
type Load struct {
	Throws   int     `json:"throws,omitempty"`
	Kicks    int     `json:"kicks,omitempty"`
	SprintYd float64 `json:"sprint_yd,omitempty"`
}

// Card is one look of a drill - what is shown, and the right answer to it.
type Card struct {
	Key     string            `json:"key"`
	Look    string            `json:"look"`           // what is shown.
	Asks    string            `json:"asks,omitempty"` // the technique it asks for.
	Each    map[string]string `json:"each,omitempty"` // the technique it asks of each place, by what the drawing says of it; instead of Asks.
	Right   string            `json:"right"`
	Invites string            `json:"invites,omitempty"` // the fault it invites.
	Men     []int             `json:"men,omitempty"`     // players working and helping, where it takes others than the drill.
	Row     string            `json:"row,omitempty"`     // the row that it is, "table/call".
	School  string            `json:"school,omitempty"`
}

// Setup is what a drill's drawing is made of, for one lane, in yards downfield and across. The offence works downfield.
type Setup struct {
	Things []Thing `json:"things,omitempty"`
	Ways   []Way   `json:"ways,omitempty"`
}

// Thing is something that stands in the drawing of one lane.
type Thing struct {
	Is   string     `json:"is"`
	At   [2]float64 `json:"at"`             // yards from the lane's near left corner: downfield, across.
	Says string     `json:"says,omitempty"` // a word beside it.
}

// Way is a path in the drawing, from point to point.
type Way struct {
	Is     string       `json:"is"`
	Points [][2]float64 `json:"points"`
}

// Ladder is the ordered stages through which a technique is taught.
type Ladder struct {
	Key       string   `json:"key,omitempty"`
	Name      string   `json:"name,omitempty"`
	Technique string   `json:"technique,omitempty"`
	Needs     []string `json:"needs,omitempty"` // technique/stage or technique that a player must have passed before it is open to him.
	Stages    []Stage  `json:"stages,omitempty"`
	Retired   bool     `json:"retired,omitempty"`
}

// Stage is a step of a ladder as it is taught, with the numbers of its gate; the rule of the gate is package ladder's. Numbers that are not given follow from how often the technique occurs.
type Stage struct {
	Key         string              `json:"key"`
	Name        string              `json:"name,omitempty"` // empty means that of its first drill.
	Kind        string              `json:"kind"`           // one of the stage kinds; a game stage is passed in games.
	Drills      []string            `json:"drills,omitempty"`
	ByGroup     map[string][]string `json:"by_group,omitempty"` // drills of single groups it is taught to, in place of Drills.
	Window      int                 `json:"window,omitempty"`
	Clean       int                 `json:"clean,omitempty"`
	Sessions    int                 `json:"sessions,omitempty"`
	MaxSessions int                 `json:"max_sessions,omitempty"`
	FromWeek    int                 `json:"from_week,omitempty"`
	Head        int                 `json:"head,omitempty"` // how many of his last reps there must show no shared head fault; zero means six where there is contact.
	Needs       []string            `json:"needs,omitempty"`
}

// ThingKinds lists what Is of a Thing may be.
func ThingKinds() []string {
	return []string{"worker", "helper", "coach", "cone", "bag", "ball", "line", "board", "chute", "rope", "sled", "shield", "wheel", "mat", "hoop", "net", "target", "spot"}
}

// WayKinds lists what Is of a Way may be.
func WayKinds() []string {
	return []string{"run", "jog", "pedal", "slide", "push", "throw", "kick", "hand", "look"}
}
