package demo

// Truths planted in the marks, by jersey and technique or fault.
const (
	Improving        = "73" // at kick_slide
	Slipping         = "70" // at base_block
	PracticeOnly     = "64" // at close_turn: clean in practice, faulty in games
	TooFew           = "58" // joined in week 6
	OnHold           = "66" // since week 5
	GroupFault       = "close_second_behind"
	UselessDrill     = "two_man_fit" // drilled against UselessFor from week 3 on, to no effect
	UselessFor       = "two_daylight"
	WorkingDrill     = "kick_line" // drilled against WorkingFor from week 3 on, and it falls
	WorkingFor       = "kick_heel_in"
	FirstDoseWeek    = 3
	Password         = "seven lamps at low tide" // of every demo account
	HeadCoachEmail   = "m.orrin@lamplighters.example"
	LineCoachEmail   = "r.kell@lamplighters.example"
	SecondCoachEmail = "i.vance@lamplighters.example"
	HealthEmail      = "n.sollis@lamplighters.example"
)

type person struct {
	group     string
	jersey    string
	first     string
	last      string
	position  string
	height    float64
	weight    int
	returning bool
	status    string // limited or head_hold, from a day on; empty: available
	from, to  string // days; to is empty while it is open
	note      string
	skill     float64 // added to the chance of a clean rep
	starts    bool
}

var people = []person{
	{"ol", "52", "Osei", "Ilvar", "C", 73, 288, true, "", "", "", "", .03, true},
	{"ol", "58", "Tobe", "Oduya", "RG", 75, 301, false, "", "", "", "", -.04, false},
	{"ol", "61", "Hannes", "Brandt", "RG", 75, 305, true, "", "", "", "", .01, true},
	{"ol", "64", "Jun", "Sato", "LG", 74, 296, true, "", "", "", "", .02, true},
	{"ol", "66", "Corwin", "Quill", "C", 73, 290, true, "head_hold", "2026-09-29", "", "Suspected head injury in week 5. Out until cleared in writing by a licensed professional.", 0, false},
	{"ol", "70", "Dorian", "Marsh", "LT", 77, 309, true, "", "", "", "", .03, true},
	{"ol", "73", "Wendel", "Veil", "LT", 78, 298, false, "", "", "", "", -.02, false},
	{"ol", "75", "Pascoe", "Trell", "LG", 76, 311, false, "", "", "", "", -.03, false},
	{"ol", "77", "Adaeze", "Okoro", "RT", 77, 315, true, "", "", "", "", .02, true},
	{"ol", "79", "Ivo", "Lund", "RT", 78, 307, false, "limited", "2026-10-10", "2026-10-14", "Wrist: no contact until Thursday.", 0, false},

	{"te", "80", "Marek", "Sandahl", "TE", 76, 251, true, "", "", "", "", 0, true},
	{"te", "85", "Rufus", "Amadi", "TE", 77, 248, false, "", "", "", "", 0, false},
	{"te", "87", "Piet", "Harrow", "TE", 75, 244, true, "", "", "", "", 0, true},
	{"te", "89", "Sol", "Trevenna", "TE", 76, 239, false, "", "", "", "", 0, false},

	{"rb", "22", "Kofi", "Lorne", "RB", 70, 206, true, "", "", "", "", 0, true},
	{"rb", "28", "Emrys", "Tack", "RB", 71, 212, true, "", "", "", "", 0, false},
	{"rb", "33", "Bastien", "Owe", "FB", 72, 231, false, "", "", "", "", 0, false},
	{"rb", "36", "Yann", "Pellow", "RB", 69, 198, false, "", "", "", "", 0, false},

	{"qb", "7", "Lowell", "Strand", "QB", 74, 214, true, "", "", "", "", 0, true},
	{"qb", "12", "Teo", "Marchetti-Voss", "QB", 75, 208, false, "", "", "", "", 0, false},
	{"qb", "14", "Gil", "Ashdown", "QB", 73, 202, false, "", "", "", "", 0, false},

	{"wr", "1", "Zeph", "Corrin", "WR", 72, 187, true, "", "", "", "", 0, true},
	{"wr", "5", "Malo", "Idris", "WR", 71, 181, true, "", "", "", "", 0, true},
	{"wr", "11", "Ansel", "Briggs", "WR", 74, 199, false, "", "", "", "", 0, true},
	{"wr", "17", "Ruben", "Faye", "WR", 70, 178, false, "", "", "", "", 0, false},
	{"wr", "18", "Otis", "Wren", "WR", 73, 190, true, "", "", "", "", 0, false},
	{"wr", "84", "Dag", "Nilsen", "WR", 75, 204, false, "", "", "", "", 0, false},

	{"dl", "90", "Thane", "Borrow", "DE", 76, 266, true, "", "", "", "", 0, true},
	{"dl", "91", "Uche", "Calder", "DT", 74, 297, true, "", "", "", "", 0, true},
	{"dl", "93", "Ferris", "Moy", "DT", 73, 304, false, "", "", "", "", 0, true},
	{"dl", "94", "Levan", "Stroud", "DE", 77, 259, true, "", "", "", "", 0, true},
	{"dl", "96", "Jory", "Penhale", "DE", 75, 254, false, "", "", "", "", 0, false},
	{"dl", "99", "Casimir", "Dole", "NT", 73, 318, false, "", "", "", "", 0, false},

	{"lb", "41", "Bram", "Tollan", "LB", 73, 228, true, "", "", "", "", 0, true},
	{"lb", "44", "Nico", "Rasmead", "LB", 72, 224, true, "", "", "", "", 0, true},
	{"lb", "50", "Esko", "Varga", "LB", 74, 235, false, "", "", "", "", 0, true},
	{"lb", "54", "Marlon", "Teague", "LB", 73, 230, false, "", "", "", "", 0, false},
	{"lb", "55", "Oren", "Salt", "LB", 72, 226, true, "", "", "", "", 0, false},

	{"db", "2", "Kit", "Ferreira", "CB", 70, 182, true, "", "", "", "", .03, true},
	{"db", "4", "Abel", "Noonan", "CB", 71, 185, true, "", "", "", "", 0, true},
	{"db", "6", "Silas", "Wick", "S", 72, 196, true, "", "", "", "", .02, true},
	{"db", "20", "Remy", "Adjei", "S", 73, 201, false, "", "", "", "", -.02, true},
	{"db", "23", "Torben", "Lisle", "NI", 70, 184, true, "", "", "", "", .01, true},
	{"db", "25", "Hale", "Kimura", "CB", 69, 176, false, "", "", "", "", -.03, false},
	{"db", "29", "Joss", "Mbeki-Roe", "S", 72, 194, false, "limited", "2026-10-12", "2026-10-18", "Ankle: no contact this week.", 0, false},
	{"db", "31", "Efan", "Prowse", "CB", 70, 180, false, "", "", "", "", -.02, false},
}

type coach struct{ email, name, title, role, group string }

var staff = []coach{
	{HeadCoachEmail, "M. Orrin", "Head coach", "head", ""},
	{LineCoachEmail, "R. Kell", "Offensive line", "coach", "ol"},
	{"t.ashby@lamplighters.example", "T. Ashby", "Tight ends", "coach", "te"},
	{"d.mercer@lamplighters.example", "D. Mercer", "Running backs", "coach", "rb"},
	{"l.quay@lamplighters.example", "L. Quay", "Quarterbacks", "coach", "qb"},
	{"s.brandreth@lamplighters.example", "S. Brandreth", "Receivers", "coach", "wr"},
	{"g.holm@lamplighters.example", "G. Holm", "Defensive line", "coach", "dl"},
	{"a.pike@lamplighters.example", "A. Pike", "Linebackers", "coach", "lb"},
	{SecondCoachEmail, "I. Vance", "Secondary", "coach", "db"},
}

var opponents = []string{"Cinder Bay", "Fallow Ridge", "Kettle Sound", "Thornwick", "Garrow Flats", "Saltmarsh Cross", "Pell Harbour", "Wether Hill", "Dunmere"}
