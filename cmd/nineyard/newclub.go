package main

import (
	"github.com/spf13/cobra"

	"nineyard/internal/access"
	"nineyard/internal/platform/pg"
)

// newClubCommand makes the first club and its head coach, so that a real season can begin
// without the demo.
func newClubCommand() *cobra.Command {
	var n access.Founding
	cmd := &cobra.Command{
		Use:   "new-club",
		Short: "Make a club with its season and a head coach; the password is read from standard input",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			var err error
			if n.Password, err = password(cmd); err != nil {
				return err
			}
			return asOwner(cmd, func(owner *pg.DB) error {
				_, err := access.Found(cmd.Context(), owner, n)
				return err
			})
		},
	}
	f := cmd.Flags()
	f.StringVar(&n.Club, "club", "", "name of the club")
	f.StringVar(&n.Timezone, "timezone", "UTC", "time zone of the club, such as Europe/Dublin")
	f.StringVar(&n.SeasonStart, "season-start", "", "first day of the season, YYYY-MM-DD")
	f.IntVar(&n.Weeks, "weeks", 16, "weeks of the season")
	f.StringVar(&n.Name, "name", "", "name of the head coach")
	f.StringVar(&n.Email, "email", "", "e-mail of the head coach")
	for _, name := range []string{"club", "season-start", "name", "email"} {
		if err := cmd.MarkFlagRequired(name); err != nil {
			panic(err) // the flag is defined above
		}
	}
	return cmd
}
