// Package standard is the measured standard of a checkpoint and the judgement of a value
// by it.
//
// A standard has a target, the range that is right around it, a watch band around that,
// and hard limits that hold for everybody. A player may have a range of his own inside
// the hard limits. Units are those the field names say: inches, yards, seconds, degrees,
// per cent, strides, shoulder widths, reps.
package standard
