// Package crew says who takes part in a drill, in which part, and what the drill then gives
// in a plan.
//
// Who is available works and helps. Who is limited is kept out of every role in which
// players meet each other (control and above) and may help where helping has no contact.
// Who is out or on hold takes no part and is in no count.
package crew
