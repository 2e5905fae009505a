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

// password asks for one on standard input.
func password(cmd *cobra.Command) (string, error) {
	fmt.Fprintf(cmd.ErrOrStderr(), "Password (at least %d characters): ", access.MinPassword)
	line, err := bufio.NewReader(cmd.InOrStdin()).ReadString('\n')
	if err != nil && line == "" {
		return "", errors.New("no password was given")
	}
	return strings.TrimRight(line, "\r\n"), nil
}

// asOwner migrates the database and works in it as its owner; what is wrong with the input is said of
// its flag.
func asOwner(cmd *cobra.Command, do func(owner *pg.DB) error) error {
	c, _, err := readConfig()
	if err != nil {
		return err
	}
	if _, err := pg.Migrate(cmd.Context(), c.DatabaseURL); err != nil {
		return err
	}
	owner, err := pg.OpenOwner(c.DatabaseURL, 2)
	if err != nil {
		return err
	}
	defer func() { _ = owner.Close() }()
	err = do(owner)
	if e, bad := invalid.As(err); bad {
		return fmt.Errorf("--%s: %s", strings.ReplaceAll(e.Field, "_", "-"), e.Message)
	}
	return err
}

// addStaffCommand adds a member to the staff of a club.
func addStaffCommand() *cobra.Command {
	var j access.Joining
	cmd := &cobra.Command{
		Use:   "add-staff",
		Short: "Add a member to the staff of a club; the password is read from standard input",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) (err error) {
			if j.Password, err = password(cmd); err != nil {
				return err
			}
			return asOwner(cmd, func(owner *pg.DB) error { return access.Join(cmd.Context(), owner, j) })
		},
	}
	f := cmd.Flags()
	f.StringVar(&j.With, "with", "", "e-mail of somebody of the staff: it is his club")
	f.StringVar(&j.Name, "name", "", "name of the new member")
	f.StringVar(&j.Title, "title", "", "what he does, such as Offensive line")
	f.StringVar(&j.Email, "email", "", "e-mail by which he signs in")
	f.StringVar(&j.Role, "role", "coach", strings.Join(access.Roles(), ", ")+"; health is athletic health, who alone lifts a head-injury hold")
	f.StringSliceVar(&j.Groups, "groups", nil, "keys of the position groups he coaches, such as ol,te")
	for _, name := range []string{"with", "name", "email"} {
		if err := cmd.MarkFlagRequired(name); err != nil {
			panic(err) // the flag is defined above
		}
	}
	return cmd
}
