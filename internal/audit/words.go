package audit

// Kinds of what is changed, as the log is filtered.
const (
	People       = "people"
	Availability = "availability"
	Exports      = "exports"
	Marks        = "marks"
	Plans        = "plans"
	Film         = "film"
	Teaching     = "teaching"
	Club         = "club"
)

// did is an operation in words, and its kind.
type did struct{ kind, says string }

// words say of every operation that is in the log what was done by it. A test holds them against the contract.
var words = map[string]did{
	"putPlayer": {People, "changed a player"}, "mergePlayers": {People, "made two entries one player"}, "importRoster": {People, "imported a roster"},
	"decideProposal": {People, "decided what a list says of a player"}, "erasePerson": {People, "erased a player"}, "putRetention": {People, "changed for how long things are kept"},
	"putAccount": {People, "changed the own name"}, "putStaffRules": {People, "changed what the staff must show"}, "putMember": {People, "changed a member of the staff"}, "join": {People, "came onto the staff"}, "removeMember": {People, "took somebody off the staff"},
	"eraseMember": {People, "took the name off of a former coach"}, "endMemberSessions": {People, "signed a member out everywhere"}, "invite": {People, "asked somebody onto the staff"}, "revokeInvite": {People, "took a link back"},
	"putSpell": {Availability, "recorded availability"}, "withdrawSpell": {Availability, "took availability back"}, "recordClearance": {Availability, "recorded a written clearance"},
	"exportRoster": {Exports, "took the roster out"}, "exportMarks": {Exports, "took marks out"}, "exportGrades": {Exports, "took grades out"}, "exportBundle": {Exports, "took a game out"},
	"exportPerson": {Exports, "took out all of a player"}, "exportAudit": {Exports, "took this log out"},
	"postMarks": {Marks, "marked"}, "putScheme": {Marks, "changed how reps are judged"}, "judgeMarks": {Marks, "had marks judged anew"}, "addOverride": {Marks, "let a player pass a stage"},
	"withdrawOverride": {Marks, "took back that a player passed"}, "putOwnRange": {Marks, "gave a player a range of his own"}, "withdrawOwnRange": {Marks, "took a player's own range away"},
	"putFeedback": {Marks, "wrote what a player is told"}, "deleteFeedback": {Marks, "took back what a player is told"},
	"putFix": {Plans, "put a drill in for a fault"}, "moveLadder": {Plans, "moved a ladder on"}, "putPlacements": {Plans, "planned a period"}, "putPractice": {Plans, "changed a practice"},
	"deletePractice": {Plans, "took a practice away"}, "putPeriod": {Plans, "changed a period"}, "deletePeriod": {Plans, "took a period out"}, "putHeat": {Plans, "wrote the heat down"},
	"putPracticeSettings": {Plans, "changed places and limits"}, "putDrillSet": {Plans, "changed a set of drills"}, "deleteDrillSet": {Plans, "took a set of drills away"},
	"putTemplate": {Plans, "changed a template"}, "deleteTemplate": {Plans, "took a template away"}, "putSeason": {Plans, "changed the season"}, "putGame": {Plans, "changed a game"},
	"deleteGame": {Plans, "took a game away"}, "putCall": {Plans, "changed a call"}, "deleteCall": {Plans, "took a call away"}, "putLineUp": {Plans, "changed a line-up"},
	"putMeeting": {Plans, "changed what a group meets over"}, "putCalendarLink": {Plans, "made an address of the calendar"}, "revokeCalendarLink": {Plans, "revoked an address of the calendar"},
	"importBundle": {Film, "took a game in"}, "putPlay": {Film, "wrote a play down"}, "deletePlay": {Film, "took a play out"}, "putLabelWord": {Film, "said what a word means"},
	"deleteLabelWord": {Film, "took a word away"}, "putCutUp": {Film, "kept a cut-up"}, "deleteCutUp": {Film, "took a cut-up away"}, "putDrawing": {Film, "drew on film"},
	"deleteDrawing": {Film, "took a drawing away"}, "putFilm": {Film, "brought a video"}, "deleteFilm": {Film, "took a video away"}, "putClip": {Film, "marked where a play is"}, "deleteClip": {Film, "took a play's place away"},
	"putEntry": {Teaching, "changed what is taught"}, "restoreHouse": {Teaching, "brought an old version back"}, "importLibrary": {Teaching, "took entries in from a file"},
	"putClub": {Club, "changed the club"}, "putGroup": {Club, "changed a position group"}, "deleteGroup": {Club, "took a position group away"},
}

// of lists the operations of a kind; all when it is empty.
func of(kind string) []string {
	var out []string
	for op, d := range words {
		if kind == "" || d.kind == kind {
			out = append(out, op)
		}
	}
	return out
}

// say is an operation in words.
func say(operation string) did {
	if d, ok := words[operation]; ok {
		return d
	}
	return did{Club, operation} // of a version that is older, or newer
}
