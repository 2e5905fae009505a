package season

import (
	"fmt"
	"time"
)

// Date is a civil day, counted in days from 1970-01-01. The zero value is that day.
type Date int32

const layout = "2006-01-02"

// Parse reads a date written YYYY-MM-DD. Only years 1900 to 2199 are accepted:
// a four-digit slip of the finger is an error, not a season.
func Parse(s string) (Date, error) {
	t, err := time.Parse(layout, s)
	if err != nil || t.Year() < 1900 || t.Year() > 2199 {
		return 0, fmt.Errorf("%q is not a date written YYYY-MM-DD", s)
	}
	return Of(t), nil
}

// Must is Parse for constants in tests and demo data; it panics on a bad date.
func Must(s string) Date {
	d, err := Parse(s)
	if err != nil {
		panic(err)
	}
	return d
}

// Of returns the civil day of t in t's own location.
func Of(t time.Time) Date {
	y, m, d := t.Date()
	return Date(time.Date(y, m, d, 0, 0, 0, 0, time.UTC).Unix() / 86400)
}

// Time returns midnight UTC of the day, for stores that keep dates as times.
func (d Date) Time() time.Time { return time.Unix(int64(d)*86400, 0).UTC() }

// String returns the date as YYYY-MM-DD.
func (d Date) String() string { return d.Time().Format(layout) }

// Weekday returns the day of the week.
func (d Date) Weekday() time.Weekday { return d.Time().Weekday() }

// Week returns the season week of d: 1 + ⌊(d − start)/7⌋, with start the first
// day of the season. Days before the start have week 0 or less.
func Week(start, d Date) int {
	days := int(d - start)
	if days < 0 {
		return (days + 1) / 7
	}
	return 1 + days/7
}

// WeekStart returns the first day of the given season week.
func WeekStart(start Date, week int) Date { return start + Date(7*(week-1)) }

// End is the last day of a season of so many weeks.
func End(start Date, weeks int) Date { return WeekStart(start, weeks+1) - 1 }

// Within reports whether a day lies in a season of so many weeks.
func Within(start Date, weeks int, d Date) bool { return d >= start && d <= End(start, weeks) }
