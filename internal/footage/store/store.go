// Package store opens the place where videos are kept.
package store

import (
	"context"
	"fmt"
	"os"
	"path/filepath"

	"gocloud.dev/blob"
	"gocloud.dev/blob/fileblob"
	_ "gocloud.dev/blob/s3blob" // s3:// in FILM_STORE
)

// Open opens the store that an address names (s3://bucket?region=...), or, where there is none, a
// folder of the data directory, which is made.
func Open(ctx context.Context, address, dataDir string) (*blob.Bucket, error) {
	if address != "" {
		b, err := blob.OpenBucket(ctx, address)
		if err != nil {
			return nil, fmt.Errorf("FILM_STORE: %w", err)
		}
		return b, nil
	}
	dir := filepath.Join(dataDir, "film")
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return nil, fmt.Errorf("DATA_DIR: %w", err)
	}
	b, err := fileblob.OpenBucket(dir, &fileblob.Options{NoTempDir: true, Metadata: fileblob.MetadataDontWrite})
	if err != nil {
		return nil, fmt.Errorf("DATA_DIR: %w", err)
	}
	return b, nil
}
