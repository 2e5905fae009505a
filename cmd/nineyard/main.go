// Command nineyard is the whole product: the server, its demo, its migrations and the
// calculator.
package main

import (
	"errors"
	"fmt"
	"os"
	"strings"

	"github.com/spf13/cobra"

	"nineyard/core/invalid"
	"nineyard/internal/calc"
)

func main() {
	root := &cobra.Command{Use: "nineyard", Short: "From the last play graded to the next practice planned", SilenceUsage: true, SilenceErrors: true}
	root.AddCommand(serveCommand(), demoCommand(), migrateCommand(), newClubCommand(), addStaffCommand(), marksCommand(), calcCommand())
	if err := root.Execute(); err != nil {
		var said errSaid
		if errors.As(err, &said) {
			os.Exit(2)
		}
		fmt.Fprintln(os.Stderr, "nineyard:", err)
		os.Exit(1)
	}
}

// errSaid is an error the calculator has put on standard error already.
type errSaid struct{ error }

func calcCommand() *cobra.Command {
	return &cobra.Command{
		Use:       "calc NAME",
		Short:     "Compute one thing: JSON on standard input, JSON on standard output",
		Long:      "Reads one JSON object on standard input and writes one on standard output.\nBad input writes one line of JSON to standard error and exits 2.\n\nNames: " + strings.Join(calc.Names(), ", "),
		Args:      cobra.ExactArgs(1),
		ValidArgs: calc.Names(),
		RunE: func(cmd *cobra.Command, args []string) error {
			err := calc.Run(args[0], cmd.InOrStdin(), cmd.OutOrStdout(), cmd.ErrOrStderr())
			if _, bad := invalid.As(err); bad {
				return errSaid{err}
			}
			return err
		},
	}
}
