// Package pg is the database beneath every feature: connections, transactions, the club
// scope, migrations, rows by struct, and what a broken constraint means.
//
// The scope. InClub runs a use case in one transaction for one club. The club is set in
// the transaction (nineyard.club), row-level security lets the application's role see that
// club's rows alone, every GORM statement gets club_id by the scope of this package, and
// every SQL statement is given @club. The transaction travels in the context, so that the
// ports which one feature offers to another take part in it.
//
// Records go through GORM (Gorm); wide reads are SQL whose rows are read by struct (Select),
// which fails on a column that is missing or not known. There is no third way.
package pg
