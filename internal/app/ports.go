package app

import (
	"context"
	"encoding/json"
	"time"

	"github.com/google/uuid"

	"nineyard/core/house"
)

// Actor is the signed-in coach with what every use case needs to know of his club.
type Actor struct {
	UserID      uuid.UUID
	ClubID      uuid.UUID
	Name        string
	Role        string // head or coach
	ClubName    string
	Timezone    string
	SeasonID    uuid.UUID
	SeasonStart time.Time
	SeasonWeeks int
	HouseLatest int      // latest version of the club's standards
	Groups      []string `gorm:"-"` // keys of the groups he coaches
	House       *House   `gorm:"-"` // what is taught at his club
}

// Records of the store. Their fields are the columns in snake case.
type (
	// User is a member of the staff.
	User struct {
		ID           uuid.UUID
		ClubID       uuid.UUID
		Email        string
		Name         string
		Title        string
		Role         string
		PasswordHash string
	}
	// Group is a position group.
	Group struct {
		Key, Name, Short string
		Sort             int
	}
	// Player is a member of the team.
	Player struct {
		ID         uuid.UUID
		ClubID     uuid.UUID
		Jersey     string
		FirstName  string
		LastName   string
		Position   string
		HeightIn   *float64
		WeightLb   *int
		Returning  bool `gorm:"column:returner"`
		Status     string
		StatusNote string
	}
	// Practice is one practice of the calendar.
	Practice struct {
		ID          uuid.UUID
		ClubID      uuid.UUID
		SeasonID    uuid.UUID
		OnDate      time.Time
		Title       string
		Theme       string
		Place       string
		StartMinute int
		Minutes     int
	}
	// Period is a block of a practice.
	Period struct {
		ID         uuid.UUID
		ClubID     uuid.UUID
		PracticeID uuid.UUID
		Start      int
		Minutes    int
		Kind       string
		Name       string
		Contact    string
		Version    int
		Groups     []string `gorm:"-"`
		ChangedBy  string   // name of who changed it last
	}
	// Placement is a drill put into a period.
	Placement struct {
		ID       uuid.UUID
		ClubID   uuid.UUID
		PeriodID uuid.UUID
		DrillKey string
		Start    int
		Minutes  int
		Lanes    int
		// TechniqueKey is what its reps are marked as, when the drill trains several
		// techniques; empty: the drill's first.
		TechniqueKey string
		Marks        int // current marks recorded for it
	}
	// Game is one game of the calendar.
	Game struct {
		ID       uuid.UUID
		ClubID   uuid.UUID
		SeasonID uuid.UUID
		OnDate   time.Time
		Opponent string
		Home     bool
	}
	// MarkEvent is what a coach recorded, once.
	MarkEvent struct {
		ID           uuid.UUID
		ClubID       uuid.UUID
		PlayerID     uuid.UUID
		PlacementID  *uuid.UUID
		Rep          *int
		PlayID       *uuid.UUID
		TechniqueKey string
		State        string
		Assignment   *int
		Technique    *int
		Finish       *int
		Faults       json.RawMessage `gorm:"type:jsonb"`
		Measures     json.RawMessage `gorm:"type:jsonb"`
		Praise       bool
		Note         string
		Side         *string
		Standard     int
		CreatedBy    *uuid.UUID
		CreatedAt    time.Time
	}
)

// Fault is a fault as it stands in a mark.
type Fault struct {
	Key      string `json:"key"`
	CausedBy string `json:"caused_by,omitempty"`
}

// Measured is a measure as it stands in a mark.
type Measured struct {
	Checkpoint string  `json:"checkpoint"`
	Value      float64 `json:"value"`
	Verdict    string  `json:"verdict"`
}

// MarkTally counts current marks that are alike, for a group: the facets that decide
// whether a rep is clean, not finish, which does not.
type MarkTally struct {
	PlayerID     uuid.UUID
	TechniqueKey string
	OnDate       time.Time
	GameID       *uuid.UUID // nil for practice
	State        string
	Assignment   *int
	Technique    *int
	N            int
}

// FaultTally counts the current marks that show a fault.
type FaultTally struct {
	PlayerID     uuid.UUID
	TechniqueKey string
	OnDate       time.Time
	Fault        string
	CausedBy     string
	N            int
}

// StageRun is a player's current marks of one technique in one placed drill or one game,
// as the ladder looks at them.
type StageRun struct {
	PlayerID     uuid.UUID
	TechniqueKey string
	OnDate       time.Time
	DrillKey     *string // nil for the plays of a game
	Reps         []StageRep
}

// StageRep is one mark of a run.
type StageRep struct {
	State      string // assumed, looked, or unseen for whatever was not graded
	Assignment *int   // shared between reps: read only
	Technique  *int
	Side       string // left, right or empty
}

// MarkDetail is a current mark with where it was made and by whom.
type MarkDetail struct {
	MarkEvent
	OnDate     time.Time
	Source     string
	PracticeID *uuid.UUID
	DrillKey   *string
	Opponent   *string
	PlayNumber *int
	Down       *int
	Distance   *int
	Spot       *string
	Call       *string
	ByName     string
}

// GradeState is how far a drill or a game has been graded for a group.
type GradeState struct {
	Kind       string // drill or game
	ID         uuid.UUID
	PracticeID *uuid.UUID
	DrillKey   *string
	Minutes    int
	Lanes      int
	Title      string
	OnDate     time.Time
	Plays      int
	Graded     int
}

// Store keeps everything. Every call is made for one club, and nothing of another
// club is ever read or written. A missing record is ErrNotFound.
type Store interface {
	StaffStore
	PracticeStore
	MarkStore
	RosterStore
	HouseStore
	// InTx runs f in one transaction: all of it is kept or none.
	InTx(ctx context.Context, f func(Store) error) error
}

// StaffStore knows who may sign in.
type StaffStore interface {
	UserByEmail(ctx context.Context, email string) (User, error)
	Actor(ctx context.Context, userID uuid.UUID) (Actor, error)
	Staff(ctx context.Context) ([]User, error)
	SignInFailures(ctx context.Context, email, ip string, since time.Time) (byEmail, byIP int, err error)
	AddSignInFailure(ctx context.Context, email, ip string, at time.Time) error
}

// PracticeStore keeps the calendar and the practice scripts.
type PracticeStore interface {
	Groups(ctx context.Context, club uuid.UUID) ([]Group, error)
	Practices(ctx context.Context, club, season uuid.UUID) ([]Practice, error)
	Games(ctx context.Context, club, season uuid.UUID) ([]Game, error)
	Practice(ctx context.Context, club, id uuid.UUID) (Practice, error)
	// NextPractice is the first practice on or after the day that has an individual
	// period of the group alone.
	NextPractice(ctx context.Context, club, season uuid.UUID, group string, from time.Time) (Practice, error)
	Periods(ctx context.Context, club, practice uuid.UUID) ([]Period, error)
	// Period reads one period; with lock it is held until the transaction ends.
	Period(ctx context.Context, club, id uuid.UUID, lock bool) (Period, error)
	Placements(ctx context.Context, club, practice uuid.UUID) ([]Placement, error)
	PeriodPlacements(ctx context.Context, club, period uuid.UUID) ([]Placement, error)
	// ReplacePlacements makes the period's placements those given and raises its version.
	ReplacePlacements(ctx context.Context, club, period, by uuid.UUID, at time.Time, placements []Placement) error
	PlacementsByID(ctx context.Context, club uuid.UUID, ids []uuid.UUID) ([]PlacementOn, error)
}

// PlacementOn is a placement with the practice and group it belongs to.
type PlacementOn struct {
	Placement
	PracticeID uuid.UUID
	OnDate     time.Time
	GroupKey   string
}

// MarkStore keeps the marks.
type MarkStore interface {
	// AddMarks appends the events; one whose id is already there is left alone.
	AddMarks(ctx context.Context, events []MarkEvent) error
	PlacementMarks(ctx context.Context, club, placement uuid.UUID) ([]MarkDetail, error)
	MarkTallies(ctx context.Context, club uuid.UUID, group string, from, to time.Time) ([]MarkTally, error)
	FaultTallies(ctx context.Context, club uuid.UUID, group string, from, to time.Time) ([]FaultTally, error)
	// StageRuns lists the current marks in the order of the season.
	StageRuns(ctx context.Context, club uuid.UUID, group string, player *uuid.UUID, from, to time.Time) ([]StageRun, error)
	Evidence(ctx context.Context, club, player uuid.UUID, technique, fault string, from, to time.Time) ([]MarkDetail, error)
	GradeStates(ctx context.Context, club, season uuid.UUID, group string, offense bool, from, to time.Time) ([]GradeState, error)
}

// RosterStore keeps the players.
type RosterStore interface {
	Players(ctx context.Context, club uuid.UUID, group string) ([]Player, error)
	AllPlayers(ctx context.Context, club uuid.UUID) ([]Player, error)
	Player(ctx context.Context, club, id uuid.UUID) (Player, error)
	SavePlayers(ctx context.Context, create, update []Player, by uuid.UUID, groups map[uuid.UUID]string) error
	RosterMapping(ctx context.Context, club uuid.UUID, headers string) (map[string]int, error)
	SaveRosterMapping(ctx context.Context, club uuid.UUID, headers string, mapping map[string]int) error
	// LockRoster holds the club's roster until the transaction ends, so that two
	// imports at once do not create the same player twice.
	LockRoster(ctx context.Context, club uuid.UUID) error
}

// HouseVersion is one version of a club's standards.
type HouseVersion struct {
	ClubID    uuid.UUID
	Version   int
	ID        uuid.UUID
	Digest    string      // of the shipped edition it lies on
	Layer     house.Layer `gorm:"-"`
	Touched   []string    `gorm:"-"` // "kind key" of the entries that changed
	Summary   string
	CreatedBy *uuid.UUID
	CreatedAt time.Time
	ByName    string
}

// Term is an entry of the library as it can be found.
type Term struct {
	Kind, Key, Technique string
	Groups               []string
	Name, Terms, Body    string
}

// Hit is an entry that was found.
type Hit struct {
	Kind, Key, Technique, Name, Terms, Body string
	Mine                                    bool // taught to the group that asks
	Score                                   float64
}

// Use is where an entry is used in a season.
type Use struct {
	Kind, Key string
	Practices int
	Marks     int
	Recent    []UseDay `gorm:"-"` // the latest of the practices, newest first
}

// UseDay is a practice an entry is used in.
type UseDay struct {
	Practice uuid.UUID
	On       time.Time
}

// Exception is a player's own range at a checkpoint.
type Exception struct {
	ID            uuid.UUID
	ClubID        uuid.UUID
	PlayerID      uuid.UUID
	CheckpointKey string
	OkLow, OkHigh float64
	WatchLow      float64
	WatchHigh     float64
	Reason        string
	CreatedBy     *uuid.UUID
	CreatedAt     time.Time
	ByName        string
}

// Override is a gate a coach let a player pass.
type Override struct {
	ID        uuid.UUID
	ClubID    uuid.UUID
	SeasonID  uuid.UUID
	PlayerID  uuid.UUID
	LadderKey string
	StageKey  string
	OnDate    time.Time
	Reason    string
	CreatedBy *uuid.UUID
	CreatedAt time.Time
	ByName    string
}

// HouseStore keeps what a club teaches: its layer over the shipped library, version by
// version, what can be found in it, and what it makes of single players.
type HouseStore interface {
	RememberEdition(ctx context.Context, digest string, entries []house.Entry) error
	Edition(ctx context.Context, digest string) ([]house.Entry, error)
	// Clubs lists the clubs that never had the edition.
	Clubs(ctx context.Context, without string) ([]uuid.UUID, error)
	// HouseVersion reads a version, or the latest when it is zero.
	HouseVersion(ctx context.Context, club uuid.UUID, version int) (HouseVersion, error)
	HouseVersionByID(ctx context.Context, club, id uuid.UUID) (HouseVersion, error)
	HouseVersions(ctx context.Context, club uuid.UUID, entry string, limit int) ([]HouseVersion, error)
	// LockHouse holds the club's standards until the transaction ends.
	LockHouse(ctx context.Context, club uuid.UUID) error
	AddHouseVersion(ctx context.Context, v HouseVersion) error
	ReplaceTerms(ctx context.Context, club uuid.UUID, terms []Term) error
	// Find looks for words in names, aliases, cues and descriptions, mistyped or not.
	Find(ctx context.Context, club uuid.UUID, words, group string, limit int) ([]Hit, error)
	Uses(ctx context.Context, club, season uuid.UUID, techniques, drills, faults []string) ([]Use, error)
	Exceptions(ctx context.Context, club uuid.UUID) ([]Exception, error)
	PutException(ctx context.Context, x Exception) error
	WithdrawException(ctx context.Context, club, player uuid.UUID, checkpoint string, at time.Time) error
	Overrides(ctx context.Context, club, season uuid.UUID) ([]Override, error)
	AddOverride(ctx context.Context, o Override) error
	WithdrawOverride(ctx context.Context, club, id uuid.UUID, at time.Time) (Override, error)
}
