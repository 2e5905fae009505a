// Package season is the calendar of a team's year: civil dates without a clock
// or a time zone, and the season weeks counted from its first day.
//
// Week 1 is the first seven days. A date before the season has week 0 or less.
package season
