package httpd

import (
	"fmt"
	"strings"

	"github.com/getkin/kin-openapi/openapi3"
)

// InWords says in the product's words how a value departs from its schema.
func InWords(e *openapi3.SchemaError) string {
	s := e.Schema
	switch e.SchemaField {
	case "required":
		if name, ok := quoted(e.Reason); ok {
			return name + " is missing."
		}
		return "Something is missing."
	case "properties", "additionalProperties":
		if name, ok := unknownProperty(e.Reason); ok {
			return name + " is not a field here."
		}
	case "nullable":
		return "It is empty; leave it out instead."
	case "type":
		return "It must be " + kindOf(s) + "."
	case "enum":
		return "It must be one of " + choices(s.Enum) + "."
	case "minLength":
		return fmt.Sprintf("It must have at least %s.", counted(s.MinLength, "character"))
	case "maxLength":
		return fmt.Sprintf("It may have at most %s.", counted(*s.MaxLength, "character"))
	case "minItems":
		return fmt.Sprintf("It must have at least %s.", counted(s.MinItems, "entry"))
	case "maxItems":
		return fmt.Sprintf("It may have at most %s.", counted(*s.MaxItems, "entry"))
	case "uniqueItems":
		return "It says something twice."
	case "minimum", "exclusiveMinimum", "maximum", "exclusiveMaximum":
		return between(s)
	case "pattern", "format":
		return "It is not in the form that is asked for" + form(s) + "."
	}
	return "It is not what it should be."
}

// kindOf is what a value must be.
func kindOf(s *openapi3.Schema) string {
	switch {
	case s.Type.Is("integer"):
		return "a whole number"
	case s.Type.Is("number"):
		return "a number"
	case s.Type.Is("boolean"):
		return "yes or no"
	case s.Type.Is("array"):
		return "a list"
	case s.Type.Is("object"):
		return "an object with fields"
	}
	return "text"
}

func between(s *openapi3.Schema) string {
	switch {
	case s.Min != nil && s.Max != nil:
		return fmt.Sprintf("It must be between %s and %s.", number(*s.Min), number(*s.Max))
	case s.Min != nil:
		return fmt.Sprintf("It must be at least %s.", number(*s.Min))
	case s.Max != nil:
		return fmt.Sprintf("It must be at most %s.", number(*s.Max))
	}
	return "It is out of range."
}

func number(x float64) string {
	return strings.TrimSuffix(strings.TrimRight(fmt.Sprintf("%.3f", x), "0"), ".")
}

func choices(list []any) string {
	out := make([]string, len(list))
	for i, v := range list {
		out[i] = fmt.Sprint(v)
	}
	return strings.Join(out, ", ")
}

func counted(n uint64, one string) string {
	if n == 1 {
		return "1 " + one
	}
	return fmt.Sprintf("%d %ss", n, strings.ReplaceAll(one, "entry", "entrie"))
}

// form is an example of a form, where it has a name.
func form(s *openapi3.Schema) string {
	switch s.Format {
	case "date":
		return ": a day such as 2026-09-14"
	case "date-time":
		return ": a time such as 2026-09-14T17:30:00Z"
	case "uuid":
		return ": an id"
	}
	return ""
}

// quoted is the first name in double quotes.
func quoted(text string) (string, bool) {
	_, rest, ok := strings.Cut(text, `"`)
	if !ok {
		return "", false
	}
	name, _, ok := strings.Cut(rest, `"`)
	return name, ok
}
