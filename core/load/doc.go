// Package load says what a week of practice asks of every player: the reps that are planned for him,
// and those of them at high effort, in which players meet each other (control and above).
//
// A week that asks for more than 30 per cent over his recent average is flagged: the mean of those of
// the last Weeks weeks in which he had reps, if there were at least two, and only from LeastReps reps
// on: from 4 reps to 6 is no jump. Over says which days ask more throws, kicks or sprints of somebody than the house lets. It is an example for the staff's judgement, not advice on health.
package load
