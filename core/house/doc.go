// Package house lays a club's own standards over the shipped ones.
//
// An entry is a set of named fields whose values are opaque texts; two values are the
// same when their texts are. A club's layer holds, for each entry it changed, only the
// fields that differ, each with the shipped value it was made from (its base). When the
// shipped library is updated it merges beneath: fields the club never touched follow the
// update, fields it changed stay as the club has them, and a field changed by both since
// their common base is a conflict that shows ours and theirs. This is the three-way
// merge of version control, by field instead of by line.
package house
