// Package invalid holds the one error that every rule of the job answers with
// when its input breaks the rule: the field at fault and a sentence a coach can
// act on. The calculator prints it, the API turns it into a problem document and
// the screen shows it beside the field.
package invalid
