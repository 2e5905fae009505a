// Package changes is the log of what is changed in a club, and the stream of it.
//
// A change is appended in the transaction that makes it (Append) with the number it has in
// its club, which counts without a gap in the order in which changes are kept. The number of
// the latest one says of everything read from the club how new it is. A change that is sent
// again is found by the id its client made (Find) and answered as it was the first time.
//
// Where somebody is (Tell) goes the same way to those who follow, and is kept nowhere.
//
// Every replica listens to the database (Hub.Run) and passes on what it hears to those who
// follow a club (Hub.Follow). Who reads too slowly, or comes back after too long, is told to
// read anew instead of being kept a line for.
package changes
