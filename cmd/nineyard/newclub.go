package main

import (
	"bufio"
	"errors"
	"fmt"
	"strings"

	"github.com/spf13/cobra"

	"nineyard/core/invalid"
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
			c, _, err := readConfig()
			if err != nil {
				return err
			}
			fmt.Fprint(cmd.ErrOrStderr(), "Password (at least 12 characters): ")
			line, err := bufio.NewReader(cmd.InOrStdin()).ReadString('\n')
			if err != nil && line == "" {
				return errors.New("no password was given")
			}
			n.Password = strings.TrimRight(line, "\r\n")
			if _, err := pg.Migrate(cmd.Context(), c.DatabaseURL); err != nil {
				return err
			}
			owner, err := pg.OpenOwner(c.DatabaseURL, 2)
			if err != nil {
				return err
			}
			defer func() { _ = owner.Close() }()
			if _, err := access.Found(cmd.Context(), owner, n); err != nil {
				if e, bad := invalid.As(err); bad {
					return fmt.Errorf("--%s: %s", e.Field, e.Message)
				}
				return err
			}
			return nil
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
