package pg

import (
	"errors"
	"fmt"

	"github.com/jackc/pgx/v5/pgconn"

	"nineyard/core/invalid"
	"nineyard/internal/platform/problem"
)

// broken is what a person is told when a constraint of the schema is broken: the core
// refuses all of it before, so this is the last line of defence.
type broken struct{ field, says string }

// constraints names the field of every constraint that input can break. A test holds it
// against the schema: a constraint that is neither here nor structural fails it.
var constraints = map[string]broken{
	"availability_spells_clearance":            {"by", "a clearance names who gave it and a day in the hold"},
	"availability_spells_cleared_by":           {"by", "a name has 3 to 120 characters"},
	"availability_spells_days":                 {"to", "the last day lies before the first"},
	"availability_spells_document":             {"document", "a document is named in 2 to 120 characters"},
	"availability_spells_hold":                 {"status", "a head-injury hold ends by a written clearance alone"},
	"availability_spells_player":               {"player_id", "there is no such player in this club"},
	"availability_spells_reason":               {"reason", "a reason has 1 to 200 characters"},
	"availability_spells_status":               {"status", "a status is limited, out or head_hold"},
	"calendar_links_digest":                    {"secret", "a secret has 52 letters and digits"},
	"calendar_links_name":                      {"name", "a name has 1 to 80 characters"},
	"calendar_links_secret":                    {"secret", "the secret is used already; make another"},
	"calendar_links_user_id_fkey":              {"user_id", "there is no such member of the staff"},
	"calls_aliases":                            {"aliases", "at most 20 names"},
	"calls_club_id_season_id_fkey":             {"season_id", "there is no such season in this club"},
	"calls_kind":                               {"kind", "a kind has at most 80 characters"},
	"calls_name":                               {"name", "a name has 1 to 80 characters"},
	"calls_needs":                              {"needs", "needs are a list"},
	"calls_share":                              {"share", "a share is 0 to 100 per cent"},
	"calls_side":                               {"side", "a side is offense, defense or units"},
	"calls_tags":                               {"tags", "at most 20 tags"},
	"clips_first":                              {"first", "a frame is 0 or more"},
	"clips_last":                               {"last", "the last frame lies before the first"},
	"clips_of":                                 {"play_id", "a clip is of a play, or of a player's rep"},
	"clips_rep":                                {"rep", "a rep is 1 to 1000"},
	"clips_snap":                               {"snap", "the snap lies in the clip"},
	"clips_view":                               {"view", "a view has 1 to 30 characters"},
	"clips_club_id_film_id_fkey":               {"film_id", "there is no such film in this club"},
	"clips_club_id_play_id_fkey":               {"play_id", "there is no such play in this club"},
	"clips_club_id_placement_id_fkey":          {"placement_id", "there is no such drill in this club"},
	"clips_club_id_player_id_fkey":             {"player_id", "there is no such player in this club"},
	"cut_ups_cut":                              {"cut", "a cut-up has 1 to 300 characters"},
	"cut_ups_name":                             {"name", "a name has 1 to 80 characters"},
	"cut_ups_taken":                            {"name", "there is a cut-up of this name"},
	"play_versions_play":                       {"play_id", "there is no such play in this club"},
	"drawings_clip":                            {"id", "there is no such clip in this club"},
	"drawings_frame":                           {"frame", "a frame is 0 or more"},
	"drawings_shapes":                          {"shapes", "shapes are a list"},
	"feedbacks_content":                        {"fixes", "what he is told is an object"},
	"feedbacks_game":                           {"game_id", "there is no such game in this club"},
	"feedbacks_player":                         {"player_id", "there is no such player in this club"},
	"meetings_game":                            {"game_id", "there is no such game in this club"},
	"meetings_items":                           {"items", "items are a list"},
	"film_uploads_id":                          {"id", "an id has 1 to 64 characters"},
	"film_uploads_size":                        {"size", "a video is not empty"},
	"films_game":                               {"game_id", "there is no such game in this club"},
	"films_placement":                          {"placement_id", "there is no such drill in this club"},
	"films_view":                               {"view", "a view has 1 to 30 characters"},
	"clubs_film_limit":                         {"film_limit", "a limit is 0 or more"},
	"films_proxy_digest":                       {"digest", "a digest has 64 hexadecimal digits"},
	"films_strip_digest":                       {"digest", "a digest has 64 hexadecimal digits"},
	"films_work":                               {"work", "work is none, waits, runs, done or failed"},
	"films_work_done":                          {"work_done", "it is done to 0 to 100 per cent"},
	"films_digest":                             {"digest", "a digest has 64 hexadecimal digits"},
	"films_fps_den":                            {"fps_den", "a rate is above 0"},
	"films_fps_num":                            {"fps_num", "a rate is above 0"},
	"films_frames":                             {"frames", "a video has at least one frame"},
	"films_height":                             {"height", "a height is 1 to 16384 pixels"},
	"films_media_type":                         {"media_type", "a video is WebM or MP4"},
	"films_name":                               {"name", "a name has 1 to 200 characters"},
	"films_size":                               {"size", "a video is not empty"},
	"films_width":                              {"width", "a width is 1 to 16384 pixels"},
	"clubs_name_check":                         {"club", "the club needs a name"},
	"drill_sets_drills":                        {"drills", "drills are a list"},
	"drill_sets_group":                         {"group", "there is no such position group in this club"},
	"drill_sets_name":                          {"name", "a name has 1 to 80 characters"},
	"games_cancelled":                          {"cancelled", "a reason has 1 to 200 characters"},
	"games_opponent":                           {"opponent", "an opponent has a name of 1 to 200 characters"},
	"gate_overrides_club_id_player_id_fkey":    {"player_id", "there is no such player in this club"},
	"gate_overrides_club_id_season_id_fkey":    {"season_id", "there is no such season in this club"},
	"gate_overrides_one":                       {"stage", "the player was let pass this stage before"},
	"gate_overrides_reason_check":              {"reason", "a reason has 1 to 500 characters"},
	"house_versions_summary_check":             {"note", "say what was changed"},
	"line_ups_club_id_season_id_fkey":          {"season_id", "there is no such season in this club"},
	"line_ups_group":                           {"group", "there is no such position group in this club"},
	"line_ups_spots":                           {"spots", "spots are a list"},
	"line_ups_week":                            {"week", "a week is 1 to 60"},
	"heat_readings_index":                      {"index", "a heat index is between -200 and 200"},
	"heat_readings_practice":                   {"id", "there is no such practice in this club"},
	"mark_events_asked":                        {"asked", "a coach is asked about an open question alone"},
	"mark_events_facets":                       {"technique", "a facet is 0 or 1"},
	"mark_events_grade":                        {"grade", "a grade lies on its scale, of 10 at most"},
	"mark_events_measures":                     {"measures", "measures are a list"},
	"mark_events_note":                         {"note", "a note has at most 500 characters"},
	"mark_events_place":                        {"placement_id", "a mark is of a rep of a placed drill or of a play"},
	"mark_events_placement":                    {"placement_id", "the drill has been taken out of the practice"},
	"mark_events_play":                         {"play_id", "there is no such play in this club"},
	"mark_events_player":                       {"player_id", "there is no such player in this club"},
	"mark_events_result":                       {"result", "a result is 0 or 1"},
	"mark_events_tallies":                      {"tallies", "at most 3 tallies"},
	"mark_events_rep":                          {"rep", "a rep is 1 to 200"},
	"mark_events_side":                         {"side", "a side is left or right"},
	"mark_events_state":                        {"state", "a state is assumed, looked, unseen, unsettled, not_gradable or withdrawn"},
	"mark_events_verdict":                      {"state", "a verdict is clean, faulty, or why it was not graded"},
	"mark_schemes_version_check":               {"version", "a version is at least 1"},
	"period_groups_club_id_group_key_fkey":     {"groups", "there is no such position group in this club"},
	"periods_contact_check":                    {"contact", "contact is air, bag, control, thud or live"},
	"periods_kind_check":                       {"kind", "there is no such kind of period"},
	"periods_coaches":                          {"coaches", "at most 40 coaches"},
	"periods_equipment":                        {"equipment", "equipment is a list"},
	"periods_minutes_check":                    {"minutes", "a period has 1 to 1440 minutes"},
	"periods_name_check":                       {"name", "a name has at most 200 characters"},
	"periods_needs":                            {"needs", "at most 60 groups"},
	"periods_place":                            {"place", "a place has a key of at most 40 characters"},
	"periods_rep_seconds":                      {"rep_seconds", "a rep lasts 0 to 3600 seconds"},
	"periods_start_check":                      {"start", "a period starts within a day of the practice"},
	"placements_group":                         {"group", "the drill is of a group that is not in the period"},
	"placements_lanes_check":                   {"lanes", "lanes are 1 to 50"},
	"placements_minutes_check":                 {"minutes", "a drill has at least 1 minute"},
	"placements_side_by_side":                  {"drills", "two drills lie over each other"},
	"placements_start_check":                   {"start", "a drill cannot start before its period"},
	"plan_templates_days":                      {"days", "days are a list"},
	"plan_templates_name":                      {"name", "a name has 1 to 80 characters"},
	"player_exceptions_check":                  {"ok_high", "the OK range is empty"},
	"player_exceptions_check1":                 {"watch_low", "the watch band must hold the OK range"},
	"player_exceptions_check2":                 {"watch_high", "the watch band must hold the OK range"},
	"player_exceptions_club_id_player_id_fkey": {"player_id", "there is no such player in this club"},
	"player_exceptions_one":                    {"checkpoint", "the player has a range of his own there"},
	"player_exceptions_reason_check":           {"reason", "a reason has 1 to 500 characters"},
	"player_groups_club_id_group_key_fkey":     {"groups", "there is no such position group in this club"},
	"player_groups_club_id_player_id_fkey":     {"player_id", "there is no such player in this club"},
	"players_height_in_check":                  {"height_in", "a height is 48 to 96 inches"},
	"players_jersey_check":                     {"jersey", "a number is up to three digits and a letter, such as 7 or 7A"},
	"players_last_name_check":                  {"last_name", "the name is missing"},
	"players_merged_into":                      {"into", "there is no such player in this club"},
	"players_status_check":                     {"status", "a status is available, limited, out or medical_hold"},
	"players_weight_lb_check":                  {"weight_lb", "a weight is 80 to 500 pounds"},
	"plays_context":                            {"context", "at most 8 words of context"},
	"plays_distance_check":                     {"distance", "a distance is 0 to 99 yards"},
	"plays_down_check":                         {"down", "a down is 1 to 4"},
	"plays_drive":                              {"drive", "a drive is 1 to 60, or 0 where it is not written"},
	"plays_game_id_number_key":                 {"number", "the game has a play of this number"},
	"plays_number_check":                       {"number", "plays are counted from 1"},
	"plays_quarter":                            {"quarter", "a quarter is 1 to 8, or 0 where it is not written"},
	"plays_unit":                               {"unit", "a unit is offense, defense or units"},
	"position_groups_key_check":                {"groups.key", "a key is 1 to 20 small letters, digits and underscores"},
	"position_groups_positions":                {"groups.positions", "at most 40 positions"},
	"position_groups_side":                     {"groups.side", "a side is offense, defense or units"},
	"practice_settings_version_check":          {"version", "a version is at least 1"},
	"practices_cancelled":                      {"cancelled", "a reason has 1 to 200 characters"},
	"practices_title":                          {"title", "a practice has a title of 1 to 200 characters"},
	"practices_words":                          {"theme", "a theme and a place have at most 200 characters"},
	"practices_minutes_check":                  {"minutes", "a practice has 1 to 300 minutes"},
	"practices_start_minute_check":             {"start_minute", "a practice starts between 0:00 and 23:59"},
	"seasons_phases":                           {"phases", "phases are a list"},
	"seasons_weeks_check":                      {"weeks", "a season has 1 to 60 weeks"},
	"user_groups_club_id_group_key_fkey":       {"groups", "there is no such position group in this club"},
	"users_email":                              {"email", "the e-mail is used by somebody else"},
	"users_email_check":                        {"email", "an e-mail is kept in small letters"},
	"users_name_check":                         {"name", "the name is missing"},
	"users_role_check":                         {"role", "a role is head, coach or health"},
	"watchings_clip":                           {"clip_id", "there is no such clip in this club"},
	"watchings_frame":                          {"frame", "a frame is 0 or more"},
}

// Meaning turns a broken constraint into what it means to whoever asked: an invalid.Error
// with the field, or problem.ErrTaken for an id that is there. The driver's error stays
// beneath, for the log. Other errors are returned as they are.
func Meaning(err error) error {
	var e *pgconn.PgError
	if !errors.As(err, &e) {
		return err
	}
	if b, ok := constraints[e.ConstraintName]; ok {
		return invalid.Caused(b.field, b.says, err)
	}
	if e.Code == "23505" {
		return fmt.Errorf("%w: %w", problem.ErrTaken, err)
	}
	return err
}
