// Package clip is where in a video something is: a play, or a player's rep of a drill.
//
// A video has frames, counted from 0; a clip is a stretch of them, its first and its last included, with the
// frame of the snap in it by which views of one play are kept in step. Two clips of one video may overlap: the
// end of a play is the beginning of the walk back, and a rep may be in two cuts.
package clip

import "nineyard/core/invalid"

// MaxSeconds is how long a clip may last: longer is no play, and no rep either.
const MaxSeconds = 600

// Clip is a stretch of a video.
type Clip struct {
	First, Last int  // frames, both of it
	Snap        *int // nil: not said
}

// Rate is how many frames a second a video shows, as a fraction: 30000/1001 is 29.97.
type Rate struct{ Num, Den int }

// Check returns an invalid.Error on first, last or snap unless the clip lies in a video of so many frames at
// that rate, its last frame is not before its first, it lasts at most MaxSeconds, and its snap lies in it.
func (c Clip) Check(frames int, rate Rate) error {
	switch {
	case c.First < 0 || c.First >= frames:
		return invalid.Field("first", "the video has the frames 0 to %d, not %d", frames-1, c.First)
	case c.Last < c.First:
		return invalid.Field("last", "the last frame, %d, lies before the first, %d", c.Last, c.First)
	case c.Last >= frames:
		return invalid.Field("last", "the video has the frames 0 to %d, not %d", frames-1, c.Last)
	case (c.Last-c.First+1)*rate.Den > MaxSeconds*rate.Num:
		return invalid.Field("last", "a clip lasts at most %d minutes", MaxSeconds/60)
	case c.Snap != nil && (*c.Snap < c.First || *c.Snap > c.Last):
		return invalid.Field("snap", "the snap, frame %d, lies outside of the clip, %d to %d", *c.Snap, c.First, c.Last)
	}
	return nil
}
