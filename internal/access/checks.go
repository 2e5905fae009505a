package access

import (
	"crypto/sha256"
	"regexp"
	"strings"
	"time"

	"nineyard/core/invalid"
)

var mailbox = regexp.MustCompile(`^[^\s@]+@[^\s@.]+(\.[^\s@.]+)+$`)

// CheckEmail returns an e-mail in small letters, or an invalid.Error on "email".
func CheckEmail(email string) (string, error) {
	email = strings.ToLower(strings.TrimSpace(email))
	if !mailbox.MatchString(email) {
		return "", invalid.Field("email", "%q is not an e-mail address", email)
	}
	return email, nil
}

// CheckTimezone returns an invalid.Error on "timezone" for what is no time zone of the database of time zones.
func CheckTimezone(name string) error {
	if _, err := time.LoadLocation(name); err != nil || name == "Local" || name == "" {
		return invalid.Field("timezone", "%q is not a time zone such as Europe/Dublin", name)
	}
	return nil
}

// LinkDigest is what is kept of the secret of a link that lets somebody in.
func LinkDigest(secret string) []byte {
	sum := sha256.Sum256([]byte(secret))
	return sum[:]
}
