// Package footage is the demo's film: videos that the simulated camera took, and beside each the truth of
// what is to be seen in it. They are made anew by `make film`.
package footage

import (
	"crypto/sha256"
	"embed"
	"encoding/hex"
	"fmt"
	"io/fs"
	"sync"
)

//go:embed *.webm *.json
var files embed.FS

// Read returns a file by its name: a video, or the truth of a clip.
func Read(name string) ([]byte, error) {
	content, err := files.ReadFile(name)
	if err != nil {
		return nil, fmt.Errorf("the demo's film: %w", err)
	}
	return content, nil
}

// Video is a video with the SHA-256 of what it holds, in hexadecimal digits.
type Video struct {
	Name, Digest string
	Size         int // in bytes
}

// Videos lists them by name. They are looked into once, and not kept in memory.
var Videos = sync.OnceValues(func() ([]Video, error) {
	names, err := fs.Glob(files, "*.webm")
	if err != nil {
		return nil, err
	}
	list := make([]Video, len(names))
	for i, name := range names {
		content, err := Read(name)
		if err != nil {
			return nil, err
		}
		sum := sha256.Sum256(content)
		list[i] = Video{name, hex.EncodeToString(sum[:]), len(content)}
	}
	return list, nil
})
