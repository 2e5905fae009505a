package store_test

import (
	"io"
	"net/http/httptest"
	"net/url"
	"os"
	"path/filepath"
	"testing"

	"github.com/johannesboyne/gofakes3"
	"github.com/johannesboyne/gofakes3/backend/s3mem"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gocloud.dev/blob"

	"nineyard/internal/footage/store"
)

// holds writes a video, and reads it from its middle as a player does who seeks.
func holds(t *testing.T, b *blob.Bucket) {
	t.Helper()
	ctx := t.Context()
	require.NoError(t, b.WriteAll(ctx, "club/digest", []byte("0123456789"), &blob.WriterOptions{ContentType: "video/webm"}))
	r, err := b.NewReader(ctx, "club/digest", nil)
	require.NoError(t, err)
	defer func() { _ = r.Close() }()
	assert.EqualValues(t, 10, r.Size())
	_, err = r.Seek(6, io.SeekStart)
	require.NoError(t, err)
	rest, err := io.ReadAll(r)
	require.NoError(t, err)
	assert.Equal(t, "6789", string(rest))
}

// TestAFolderIsTheDefault: made where it is not, and nobody else's to read.
func TestAFolderIsTheDefault(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "data")
	b, err := store.Open(t.Context(), "", dir)
	require.NoError(t, err)
	defer func() { _ = b.Close() }()
	holds(t, b)
	info, err := os.Stat(filepath.Join(dir, "film"))
	require.NoError(t, err)
	assert.Equal(t, os.FileMode(0o700), info.Mode().Perm())
	_, err = store.Open(t.Context(), "", filepath.Join(dir, "film", "club", "digest"))
	assert.ErrorContains(t, err, "DATA_DIR")
}

// TestAnS3StoreIsOneSetting away.
func TestAnS3StoreIsOneSetting(t *testing.T) {
	backend := s3mem.New()
	require.NoError(t, backend.CreateBucket("film"))
	s3 := httptest.NewServer(gofakes3.New(backend).Server())
	defer s3.Close()
	t.Setenv("AWS_ACCESS_KEY_ID", "key")
	t.Setenv("AWS_SECRET_ACCESS_KEY", "secret")
	b, err := store.Open(t.Context(), "s3://film?region=us-east-1&use_path_style=true&response_checksum_validation=when_required&endpoint="+url.QueryEscape(s3.URL), t.TempDir())
	require.NoError(t, err)
	defer func() { _ = b.Close() }()
	holds(t, b)
	_, err = store.Open(t.Context(), "what://is-that", t.TempDir())
	assert.ErrorContains(t, err, "FILM_STORE")
}
