// Package availability says what a player may take part in on a day.
//
// A spell is a stretch of days with a status: limited (no contact), out, or on hold for a
// suspected head injury. Spells may overlap; the strictest of those that hold on a day is
// his status, and a day without one finds him available. Days are civil days and both ends
// belong to the spell.
//
// A head-injury hold never runs out by itself. It ends the day before a licensed health
// professional cleared him in writing; the record names who and when. A coach cannot clear,
// shorten or withdraw it.
package availability
