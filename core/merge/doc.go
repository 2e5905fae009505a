// Package merge lays changes over a base that itself changes: a three-way merge of opaque
// fields.
//
// An entry is a set of named fields whose values are opaque texts; two values are the
// same when their texts are. A layer holds, for each entry that was changed, only the
// fields that differ, each with the value it was made from (its base). When the entries
// beneath are updated, fields that were never changed follow the update, fields that were
// stay as they are, and a field changed on both sides since their common base is a conflict
// that shows ours and theirs. This is the three-way merge of version control, by field
// instead of by line.
package merge
