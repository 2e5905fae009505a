package calc

import (
	"encoding/json"
	"fmt"
	"io"
	"sort"
	"strings"

	"nineyard/core/invalid"
)

// calculation reads its input from r and returns the answer to be printed. It must
// ask for every field it knows before it computes; Run complains about the rest.
type calculation func(r *reader) func() (any, error)

var calculations = map[string]calculation{
	"agreement": agreementOf,
	"reps":      repsOf,
	"ladder":    ladderOf,
	"growth":    growthOf,
	"grade":     gradeOf,
	"needs":     needsOf,
	"schedule":  scheduleOf,
	"replan":    replanOf,
	"pace":      paceOf,
}

// Names lists the calculations.
func Names() []string {
	names := make([]string, 0, len(calculations))
	for n := range calculations {
		names = append(names, n)
	}
	sort.Strings(names)
	return names
}

// Run reads one JSON object from in, computes and writes one JSON object to out.
// On bad input it writes nothing to out, one line of JSON to errs, and returns an
// invalid.Error.
func Run(name string, in io.Reader, out, errs io.Writer) error {
	answer, err := compute(name, in)
	var line []byte
	if err == nil {
		line, err = json.Marshal(answer)
	}
	if err != nil {
		field, message := "", err.Error()
		if e, ok := invalid.As(err); ok {
			field, message = e.Field, e.Message
		}
		type body struct {
			Field   string `json:"field"`
			Message string `json:"message"`
		}
		text, _ := json.Marshal(struct {
			Error body `json:"error"`
		}{body{field, message}})
		fmt.Fprintf(errs, "%s\n", text)
		return err
	}
	_, err = fmt.Fprintf(out, "%s\n", line)
	return err
}

func compute(name string, in io.Reader) (any, error) {
	calculate, ok := calculations[name]
	if !ok {
		return nil, invalid.Field("", "there is no calculation %q; there are %s", name, strings.Join(Names(), ", "))
	}
	v, err := decode(in)
	if err != nil {
		return nil, err
	}
	r := open(v, "", &err)
	run := calculate(r)
	r.close()
	if err != nil {
		return nil, err
	}
	return run()
}
