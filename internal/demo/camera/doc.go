// Package camera is the simulated camera of the demo: it draws plays from play scripts, as a camera in
// the press box and one behind the end zone would see them, so that film can be watched and measured
// without a real player in it.
//
// The field is in yards: x runs along it from the back of the offense's end zone (0 to 120), y across it
// from the sideline under the press box (0 to 53⅓), z up. Time is in seconds after the snap; a clip has
// 30 frames a second. Everything follows from the script: the same script is the same picture, and the
// truth beside a clip says where everybody was and what was planted.
package camera
