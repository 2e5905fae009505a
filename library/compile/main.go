// Command compile writes what is compiled of the library that ships to standard output.
package main

import (
	"fmt"
	"os"

	"nineyard/library"
)

func main() {
	text, err := library.Compile()
	if err == nil {
		_, err = os.Stdout.WriteString(text)
	}
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}
