package httpd

import (
	"bytes"
	"encoding/json"
	"fmt"
	"net/http"
	"unicode/utf8"

	"nineyard/core/invalid"
	"nineyard/core/legible"
)

// names are the fields that hold the name of somebody or something: see legible.Name.
var names = map[string]bool{"name": true, "first_name": true, "last_name": true, "title": true, "short": true, "opponent": true, "jersey": true, "email": true}

// maxDepth is how deep the lists and objects of a request may lie in each other.
const maxDepth = 40

// Legible is an invalid.Error that names the field where a JSON document of a file holds what may stand in no text.
func Legible(document []byte) error {
	if s, ok := readable(document); !ok {
		return invalid.Field(s.Field, "%s", s.Detail)
	}
	return nil
}

// readable looks through all texts of a JSON body for what may stand in none, and says where it is. A body that is
// no JSON is left to the contract.
func readable(body []byte) (Said, bool) {
	wrong := func(field, detail string) (Said, bool) {
		return Said{Status: http.StatusBadRequest, Title: "The request is not understood", Detail: detail, Field: field}, false
	}
	if bytes.IndexByte(body, 0) >= 0 || !utf8.Valid(body) {
		return wrong("body", "It holds characters that are no text: NUL or invalid UTF-8.")
	}
	dec := json.NewDecoder(bytes.NewReader(body))
	dec.UseNumber()
	var at []place
	for {
		t, err := dec.Token()
		if err != nil {
			return Said{}, true // the end, or no JSON
		}
		key := ""
		if n := len(at); n > 0 {
			top := &at[n-1]
			if top.object && !top.value {
				if name, ok := t.(string); ok {
					if r, ok := legible.Name(name); !ok {
						return wrong("body", "The name of a field: "+unseen(r))
					}
					top.key, top.value = name, true
					continue
				}
			}
			key = top.key
		}
		switch v := t.(type) {
		case json.Delim:
			if v == '{' || v == '[' {
				if len(at) == maxDepth {
					return wrong("body", fmt.Sprintf("Its lists and objects lie more than %d deep in each other.", maxDepth))
				}
				at = append(at, place{object: v == '{', key: ""})
				continue
			}
			at = at[:len(at)-1]
		case string:
			allowed := legible.Text
			if names[key] {
				allowed = legible.Name
			}
			if r, ok := allowed(v); !ok {
				return wrong(placeName(at), unseen(r))
			}
		}
		if n := len(at); n > 0 {
			at[n-1].index, at[n-1].value = at[n-1].index+1, false
		}
	}
}

// place is where in a body one is: the key or the index of each object or list around it.
type place struct {
	object, value bool // value: the key has been read, its value comes
	key           string
	index         int
}

// placeName writes places as drills[1].minutes.
func placeName(at []place) string {
	var parts []string
	for _, p := range at {
		if p.object {
			parts = append(parts, p.key)
		} else {
			parts = append(parts, fmt.Sprint(p.index))
		}
	}
	return jsonPath(parts)
}

func unseen(r rune) string {
	if r == utf8.RuneError {
		return "It is not UTF-8."
	}
	return fmt.Sprintf("It holds a character that cannot be seen (%U). Type it anew.", r)
}
