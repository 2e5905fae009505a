// Package footage is the demo's film: videos that the simulated camera took, and beside each the truth of
// what is to be seen in it. They are made anew by `make film`.
package footage

import (
	"crypto/sha256"
	"embed"
	"encoding/hex"
	"fmt"
	"io/fs"
)

//go:embed *.webm *.json
var files embed.FS

// Read returns a video, or the truth of a clip, by the name of its file.
func Read(name string) ([]byte, error) {
	content, err := files.ReadFile(name)
	if err != nil {
		return nil, fmt.Errorf("the demo's film: %w", err)
	}
	return content, nil
}

// Videos lists the names of the videos.
func Videos() []string {
	names, _ := fs.Glob(files, "*.webm") // the pattern is a good one
	return names
}

// Digest is the SHA-256 of a file in hexadecimal digits.
func Digest(content []byte) string {
	sum := sha256.Sum256(content)
	return hex.EncodeToString(sum[:])
}
