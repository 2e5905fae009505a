package main

import (
	"fmt"

	"github.com/spf13/cobra"

	"nineyard/internal/mark"
	"nineyard/internal/platform/pg"
)

// marksCommand looks after the sums that are kept of marks.
func marksCommand() *cobra.Command {
	c := &cobra.Command{Use: "marks", Short: "Count the marks of all clubs, and put their sums right"}
	c.AddCommand(
		&cobra.Command{Use: "check", Short: "Count the marks and say where the sums are wrong", Args: cobra.NoArgs,
			RunE: withMarks(func(cmd *cobra.Command, k *mark.Keeper) error {
				wrong, err := k.Check(cmd.Context())
				if err != nil {
					return err
				}
				for club, n := range wrong {
					fmt.Fprintf(cmd.OutOrStdout(), "club %s: %d rows\n", club, n)
				}
				if len(wrong) > 0 {
					return fmt.Errorf("the sums of %d clubs are wrong; 'nineyard marks rebuild' puts them right", len(wrong))
				}
				fmt.Fprintln(cmd.OutOrStdout(), "all sums are right")
				return nil
			})},
		&cobra.Command{Use: "rebuild", Short: "Make the sums anew from the marks", Args: cobra.NoArgs,
			RunE: withMarks(func(cmd *cobra.Command, k *mark.Keeper) error { return k.Rebuild(cmd.Context()) })},
	)
	return c
}

func withMarks(do func(*cobra.Command, *mark.Keeper) error) func(*cobra.Command, []string) error {
	return func(cmd *cobra.Command, _ []string) error {
		c, log, err := readConfig()
		if err != nil {
			return err
		}
		if _, err := pg.Migrate(cmd.Context(), c.DatabaseURL); err != nil {
			return err
		}
		db, err := pg.Open(c.DatabaseURL, 2)
		if err != nil {
			return err
		}
		defer func() { _ = db.Close() }()
		return do(cmd, &mark.Keeper{DB: db, Log: log})
	}
}
