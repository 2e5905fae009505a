package access

import (
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"github.com/trustelem/zxcvbn"

	"nineyard/core/invalid"
)

// Bounds of a password, in characters. Source: NIST SP 800-63B-4, section 3.1.1.2: where a password may be all that is asked
// for it has at least 15 characters, at least 64 are taken, nothing is asked of its make-up, it is never made to be changed
// but when it is known to others, and what is common, expected or of this very service is refused.
const (
	MinPassword = 15
	MaxPassword = 200
)

// guessable is the score below which a password counts as common or expected: it would be guessed within 10^8 tries by who
// knows the lists of words, names and patterns that zxcvbn looks through.
const guessable = 3

// CheckPassword returns an invalid.Error on "password" for one that is too short, too long or easily guessed by who knows
// the lists, and about whom it is: his name, his e-mail, his club.
func CheckPassword(password string, about ...string) error {
	n := utf8.RuneCountInString(password)
	switch {
	case n < MinPassword:
		return invalid.Field("password", "a password has at least %d characters; three or four words that have nothing to do with each other are easy to keep", MinPassword)
	case n > MaxPassword:
		return invalid.Field("password", "a password has at most %d characters", MaxPassword)
	}
	known := []string{"nine yard", "nineyard", "football", "coach"}
	for _, a := range about {
		a = strings.ToLower(a)
		known = append(known, a)
		known = append(known, strings.FieldsFunc(a, func(r rune) bool { return strings.ContainsRune(" .@-_", r) })...)
	}
	if own(password, known) < leastOwn {
		return invalid.Field("password", "this password is little more than who you are, or what this is")
	}
	if zxcvbn.PasswordStrength(strings.ToLower(password[:min(len(password), 100)]), known).Score < guessable {
		return invalid.Field("password", "this password is easily guessed: it is common, follows a pattern, or says who you are")
	}
	return nil
}

// leastOwn is how many characters of a password must say neither whose it is nor what it is for.
const leastOwn = 8

// own counts the letters and digits of a password that are left without known words of three characters and more.
func own(password string, known []string) int {
	left := strings.ToLower(password)
	slices.SortFunc(known, func(a, b string) int { return len(b) - len(a) })
	for _, k := range known {
		if len(k) >= 3 {
			left = strings.ReplaceAll(left, k, " ")
		}
	}
	n := 0
	for _, r := range left {
		if unicode.IsLetter(r) || unicode.IsDigit(r) {
			n++
		}
	}
	return n
}
