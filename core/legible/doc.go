// Package legible says which characters may stand in what people write. The rule is one for the whole product:
// whatever cannot be seen and changes what is seen, or what a machine reads, does not get in.
//
//   - Control characters (Unicode category Cc) other than the tab and the ends of a line, and whatever is no
//     Unicode text at all.
//   - Characters that turn the direction of the text around them (U+202A–202E, U+2066–2069, U+200E, U+200F,
//     U+061C): with them a name reads differently from what it is.
//   - Characters that have no width and no use here: U+00AD, U+034F, U+115F, U+1160, U+180E, U+200B, U+2060–2064,
//     U+3164, U+FEFF, U+FFA0, interlinear marks (U+FFF9–FFFB) and tags (U+E0000–E007F), and those that are in no
//     text by definition (noncharacters, and the private ones).
//
// The joiners U+200C and U+200D, which some scripts and pictures need, may stand in a text. In a name they may
// not: two names that look alike are one.
//
// What is typed is refused with its field (Text, Name); a list that comes as a file is read without them (Strip),
// because a spreadsheet puts them in unasked.
//
// Source: Unicode Technical Report 36, section 2.7, and Technical Standard 39, section 3.1 (profile of identifiers:
// default-ignorable and bidirectional controls are not allowed).
package legible
