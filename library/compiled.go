package library

import (
	_ "embed"
	"fmt"
	"maps"
	"runtime"
	"slices"
	"strings"
	"sync"

	"nineyard/core/merge"
)

// compiled is what the files of the library say: the digest of their entries, then of every entry its kind and key and its
// fields, a line each, as JSON writes them. Reading it takes a tenth of the time that reading the files does, which
// every start would wait for. `make generate` writes it.
//
//go:embed shipped.gen.txt
var compiled string

// Compile reads the files that ship and writes what is compiled of them.
func Compile() (string, error) {
	b, err := Load(shipped)
	if err != nil {
		return "", err
	}
	entries := b.Entries()
	e, err := NewEdition(entries)
	if err != nil {
		return "", err
	}
	var out strings.Builder
	out.WriteString(e.Digest + "\n")
	for _, x := range entries {
		fmt.Fprintf(&out, "\n%s %s\n", x.Kind, x.Key)
		for _, name := range slices.Sorted(maps.Keys(x.Fields)) {
			fmt.Fprintf(&out, "%s %s\n", name, x.Fields[name])
		}
	}
	return out.String(), nil
}

// decompile reads what Compile writes: the digest, the entries, and what each is as it is read.
func decompile(text string) (string, []merge.Entry, []any, error) {
	parts := strings.Split(strings.TrimSuffix(text, "\n"), "\n\n")
	digest, parts := parts[0], parts[1:]
	entries, values := make([]merge.Entry, len(parts)), make([]any, len(parts))
	err := each(len(parts), func(i int) (err error) {
		head, fields, _ := strings.Cut(parts[i], "\n")
		e := &entries[i]
		e.Kind, e.Key, _ = strings.Cut(head, " ")
		e.Fields = make(merge.Fields, strings.Count(fields, "\n")+1)
		for line := range strings.SplitSeq(fields, "\n") {
			name, value, _ := strings.Cut(line, " ")
			e.Fields[name] = value
		}
		values[i], err = read(*e)
		return err
	})
	return digest, entries, values, err
}

// each does something for every index below n, on every processor, and returns the first error there is.
func each(n int, do func(i int) error) error {
	workers := runtime.GOMAXPROCS(0)
	errs := make([]error, workers)
	var group sync.WaitGroup
	for w := range workers {
		group.Go(func() {
			for i := w; i < n && errs[w] == nil; i += workers {
				errs[w] = do(i)
			}
		})
	}
	group.Wait()
	for _, err := range errs {
		if err != nil {
			return err
		}
	}
	return nil
}
