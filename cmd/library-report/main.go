// Command library-report prints how far the shipped library is from what it is to be: the figures it is to reach, and by
// each rule of content what breaks it. With -all it prints all that breaks a rule and not only the first few.
package main

import (
	"flag"
	"fmt"
	"os"
	"path/filepath"
	"text/tabwriter"

	"nineyard/library"
	"nineyard/library/quality"
)

func main() {
	all := flag.Bool("all", false, "print all that breaks a rule")
	only := flag.String("rule", "", "of this rule alone, such as C4")
	group := flag.String("month", "", "instead, the first month of this group, such as ol; all for each")
	flag.Parse()
	if err := report(*all, *only, *group); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}

func report(all bool, only, group string) error {
	edition, err := library.Shipped()
	if err != nil {
		return err
	}
	if group != "" {
		for _, g := range quality.Groups {
			if group == g || group == "all" {
				month(os.Stdout, quality.MonthOf(edition.Taught, g))
			}
		}
		return nil
	}
	files, err := filepath.Glob("library/*.yaml")
	if err != nil {
		return err
	}
	out := tabwriter.NewWriter(os.Stdout, 0, 4, 2, ' ', 0)
	if only == "" {
		for _, f := range quality.Figures(edition.All, edition.Taught, len(files)) {
			met := " "
			if f.Met {
				met = "✓"
			}
			fmt.Fprintf(out, "%s\t%s\t%s\t%s\n", met, f.Says, f.Is, f.Target)
		}
		fmt.Fprintln(out)
	}
	for _, c := range quality.Checks(edition.Taught) {
		if only != "" && only != c.ID {
			continue
		}
		fmt.Fprintf(out, "%s\t%d\t%s\n", c.ID, len(c.Broken), c.Rule)
		for i, b := range c.Broken {
			if !all && i == 3 {
				break
			}
			fmt.Fprintf(out, "\t\t  %s\n", b)
		}
	}
	return out.Flush()
}
