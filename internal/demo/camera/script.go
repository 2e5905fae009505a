package camera

// Spot is where somebody lines up: LT, LG, C, RG, RT, TE, QB, RB, X, H and Z of the offense.
type Spot string

// Marked is what a player of the home side does on a play: the technique, and the fault that is to be seen.
type Marked struct {
	Jersey, Technique string
	Fault             string // its key; empty: none
	Manner            Manner // how it shows
}

// Script is a play as it is drawn. The home side has the ball.
type Script struct {
	Name      string // of its files
	Play      int
	Call      string
	Pass      bool
	Left      bool // the side it goes to
	Gain      int
	X, Y      float64 // the ball
	Formation string  // Trips left, Trips right, or Doubles
	Odd       bool    // three down linemen instead of four
	TwoHigh   bool    // two deep safeties instead of one
	Players   map[Spot]Marked
	Seed      uint64
}

// Manner is how a fault shows in a body.
type Manner string

// The manners.
const (
	None         Manner = ""
	LongFirst    Manner = "first step too long"
	BehindSecond Manner = "second foot behind"
	Under        Manner = "steps under himself"
	WideHands    Manner = "hands wide"
	HeadDown     Manner = "head down"
	Together     Manner = "feet together"
	StopsFeet    Manner = "feet stop"
	Rises        Manner = "rises"
	TurnsEarly   Manner = "shoulders turn early"
	HeelIn       Manner = "heel in"
	Leans        Manner = "leans"
	WeightOut    Manner = "weight outside"
	WeightIn     Manner = "weight inside"
	EyesOut      Manner = "eyes outside"
	EyesDown     Manner = "eyes down"
	GivesGround  Manner = "gives ground"
	EdgeOpen     Manner = "edge open"
	Wanders      Manner = "wanders"
	Late         Manner = "late"
	Early        Manner = "early"
	Deep         Manner = "path too deep"
	RunsPast     Manner = "runs past"
	Apart        Manner = "hips apart"
	TwoPushes    Manner = "two pushes"
	Unseen       Manner = "nothing to be seen" // a call that was not made
)

// shown says how the faults of the line's techniques show.
var shown = map[string]Manner{
	"base_step_long": LongFirst, "base_edge_open": EdgeOpen, "base_second_behind": BehindSecond, "base_under": Under, "base_hands_wide": WideHands,
	"head_down": HeadDown, "base_feet_together": Together, "base_chases_slant": Wanders, "base_loses_slant": Late, "base_stops_feet": StopsFeet,
	"two_leaves_early": Early, "two_leaves_late": Late, "two_daylight": Apart, "two_eyes_down": EyesDown, "two_silent": Unseen, "two_wanders": Wanders,
	"pull_runs_past": RunsPast, "pull_deep": Deep, "pull_stands_up": Rises,
	"close_second_behind": BehindSecond, "close_gives_ground": GivesGround, "close_turns_early": TurnsEarly, "close_eyes_out": EyesOut,
	"kick_opens_early": TurnsEarly, "kick_heel_in": HeelIn, "kick_leans": Leans, "kick_rises": Rises, "kick_wrong_foot": WeightOut, "kick_falls_inside": WeightIn,
	"kick_reaches": LongFirst, "kick_two_pushes": TwoPushes,
	"base_toes_out": EdgeOpen, "base_heel": Rises, "base_thin": EdgeOpen, "base_hands_early": WideHands, "base_palms": WideHands, "hands_to_face": WideHands,
	"two_locks": WideHands, "two_post_leaves": Early, "two_high": Rises, "two_fills": Wanders, "two_turned": TurnsEarly, "two_late_start": Late,
	"pull_tells": Unseen, "pull_turns": TurnsEarly, "pull_outside": EyesDown, "pull_stops": StopsFeet, "close_tells": Unseen, "close_run_round": Late,
	"kick_turns_foot": HeelIn, "kick_hands_early": WideHands, "kick_wide": WideHands, "kick_parallel": Together, "kick_drawn": Under, "kick_late_turn": Late,
	"kick_tips": WeightOut, "kick_palms": WideHands,
}

// phases say how a fault shows whose technique is not drawn by itself, by the phase in which it happens.
var phases = map[string]Manner{
	"stance": WeightOut, "first step": LongFirst, "second step": BehindSecond, "strike": WideHands, "fit": WideHands, "finish": StopsFeet, "read": EyesDown,
	"eyes": EyesDown, "path": Wanders, "track": Wanders, "stem": Wanders, "approach": Late, "release": Late, "break": Rises, "set": Leans,
}

// Shows says how a fault shows that happens in a phase of its technique; one of safety is a head that is down.
func Shows(fault, phase string, safety bool) Manner {
	if m, ok := shown[fault]; ok {
		return m
	}
	if safety {
		return HeadDown
	}
	if m, ok := phases[phase]; ok {
		return m
	}
	return Late
}
