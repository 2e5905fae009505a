package footage

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding"
	"encoding/hex"
	"errors"
	"fmt"
	"hash"
	"io"
	"net/http"
	"strconv"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/tus/tusd/v2/pkg/handler"
	"github.com/tus/tusd/v2/pkg/memorylocker"
	"gocloud.dev/blob"
	"gocloud.dev/gcerrors"
	"golang.org/x/exp/slog" // the handler's own

	"nineyard/internal/access"
	"nineyard/internal/platform/pg"
)

// UploadPath is where videos are sent, by the tus protocol: a line that breaks is taken up where it broke.
const UploadPath = "/api/v1/uploads/"

// keepUploads is how long a video that is on its way is waited for.
const keepUploads = 7 * 24 * time.Hour

// Upload is a video on its way.
type Upload struct {
	ID                  string
	GameID, PlacementID *uuid.UUID
	Size, Arrived       int64
	Said                Said
	By                  uuid.UUID
}

// Said is what whoever sends a video says of it. Where the server can look into it, it looks.
type Said struct {
	Name, View     string
	Width, Height  int
	FPSNum, FPSDen int
	Frames         int
	Sum            []byte // of the pieces that have arrived: the state of the digest
}

// Uploads keeps videos that are on their way, of the context's club.
type Uploads interface {
	// Known reports whether the club has the game, or the placed drill, that a video is of.
	Known(ctx context.Context, game, placement *uuid.UUID) (bool, error)
	NewUpload(ctx context.Context, u Upload, at time.Time) error
	Upload(ctx context.Context, id string) (u Upload, found bool, err error)
	// Arrive says that a piece has come, from a place to another; false when it is not as far as from.
	Arrive(ctx context.Context, id string, from, to int64, sum []byte, at time.Time) (bool, error)
	// TakeBack says that the last piece has not come.
	TakeBack(ctx context.Context, id string) error
	DeleteUpload(ctx context.Context, id string) error
	// Stale lists the ids of those of which nothing came since a moment.
	Stale(ctx context.Context, since time.Time) ([]string, error)
}

// Receiver takes videos. It is what the tus handler stores in.
type Receiver struct {
	*Service
	DB *pg.DB
}

// quiet says nothing: what comes in is in the log of changes, and what breaks off is said here.
var quiet = slog.New(slog.NewTextHandler(io.Discard, nil))

// Handler serves the protocol to whoever is signed in; the gate in front of it knows who that is.
func (r *Receiver) Handler() (http.Handler, error) {
	composer := handler.NewStoreComposer()
	composer.UseCore(r)
	composer.UseTerminater(r)
	memorylocker.New().UseIn(composer)
	h, err := handler.NewHandler(handler.Config{StoreComposer: composer, BasePath: UploadPath, MaxSize: r.Limits.One, DisableDownload: true, DisableConcatenation: true,
		Cors: &handler.CorsConfig{Disable: true}, Logger: quiet, PreUploadCreateCallback: r.begin})
	if err != nil {
		return nil, fmt.Errorf("uploads: %w", err)
	}
	inner := http.StripPrefix(UploadPath, h)
	return http.HandlerFunc(func(w http.ResponseWriter, req *http.Request) {
		// A video takes as long as the line takes; the handler gives every read its own time.
		control := http.NewResponseController(w)
		_, _ = control.SetWriteDeadline(time.Time{}), control.SetReadDeadline(time.Time{})
		inner.ServeHTTP(w, req)
	}), nil
}

// inClub works in a transaction of the club's. A database that is away is said so in the protocol's words, so that
// whoever sends comes again; its own words stay in the log.
func (r *Receiver) inClub(ctx context.Context, club uuid.UUID, f func(context.Context) error) error {
	err := r.DB.InClub(ctx, club, f)
	var said handler.Error
	if err == nil || errors.As(err, &said) || errors.Is(err, context.Canceled) {
		return err
	}
	r.Log.ErrorContext(ctx, "an upload", "error", err)
	if pg.Away(err) {
		return refuse("AWAY", "the database does not answer; it is tried again", http.StatusServiceUnavailable)
	}
	return refuse("BROKE", "something broke on the server; it was written to the log", http.StatusInternalServerError)
}

func refuse(code, says string, status int) error {
	return handler.NewError("ERR_"+code, says, status)
}

// begin looks at a video before anything of it is sent.
func (r *Receiver) begin(hook handler.HookEvent) (handler.HTTPResponse, handler.FileInfoChanges, error) {
	var none handler.FileInfoChanges
	c := access.From(hook.Context)
	if !c.Works() {
		return handler.HTTPResponse{}, none, refuse("FORBIDDEN", "only who coaches or assists a group brings videos", http.StatusForbidden)
	}
	u, err := upload(hook.Upload, c)
	if err != nil {
		return handler.HTTPResponse{}, none, refuse("INVALID", err.Error(), http.StatusUnprocessableEntity)
	}
	err = r.inClub(hook.Context, c.Club.ID, func(ctx context.Context) error {
		known, err := r.Uploads.Known(ctx, u.GameID, u.PlacementID)
		if err != nil {
			return err
		}
		if !known {
			return refuse("INVALID", "game: there is no such game or drill in this club", http.StatusUnprocessableEntity)
		}
		used, limit, err := r.kept(ctx)
		if err == nil && used+hook.Upload.Size > limit {
			err = refuse("FULL", fmt.Sprintf("the club may keep %d GB of video and has %d; take one out first", limit/1e9, used/1e9), http.StatusRequestEntityTooLarge)
		}
		return err
	})
	return handler.HTTPResponse{}, handler.FileInfoChanges{ID: uuid.Must(uuid.NewV7()).String()}, err
}

// upload reads what is said of a video.
func upload(info handler.FileInfo, c access.Coach) (Upload, error) {
	said := info.MetaData
	u := Upload{ID: info.ID, Size: info.Size, Arrived: info.Offset, By: c.ID, Said: Said{Name: strings.TrimSpace(said["filename"]), View: strings.TrimSpace(said["view"])}}
	if n := len([]rune(u.Said.Name)); n < 1 || n > 200 {
		return u, errors.New("filename: a name has 1 to 200 characters")
	}
	if n := len([]rune(u.Said.View)); n < 1 || n > 30 {
		return u, errors.New("view: a camera has 1 to 30 characters")
	}
	if u.Size < 1 || info.SizeIsDeferred {
		return u, errors.New("size: a video is not empty, and its size is said first")
	}
	for name, into := range map[string]**uuid.UUID{"game": &u.GameID, "placement": &u.PlacementID} {
		if said[name] == "" {
			continue
		}
		id, err := uuid.Parse(said[name])
		if err != nil {
			return u, fmt.Errorf("%s: this is no id", name)
		}
		*into = &id
	}
	if (u.GameID == nil) == (u.PlacementID == nil) {
		return u, errors.New("game: a video is of a game or of a placed drill")
	}
	for name, n := range map[string]struct {
		into *int
		most int
	}{"width": {&u.Said.Width, 16384}, "height": {&u.Said.Height, 16384}, "fps_num": {&u.Said.FPSNum, 1e6}, "fps_den": {&u.Said.FPSDen, 1e6}, "frames": {&u.Said.Frames, 1e8}} {
		v, err := strconv.Atoi(said[name])
		if err != nil || v < 1 || v > n.most {
			return u, fmt.Errorf("%s: a number from 1 to %d, got %q", name, n.most, said[name])
		}
		*n.into = v
	}
	return u, nil
}

// NewUpload is the handler's.
func (r *Receiver) NewUpload(ctx context.Context, info handler.FileInfo) (handler.Upload, error) {
	c := access.From(ctx)
	u, err := upload(info, c)
	if err != nil {
		return nil, err
	}
	err = r.inClub(ctx, c.Club.ID, func(ctx context.Context) error { return r.Uploads.NewUpload(ctx, u, r.Now()) })
	return &receiving{r, c, u}, err
}

// GetUpload is the handler's. Another club's is not there.
func (r *Receiver) GetUpload(ctx context.Context, id string) (handler.Upload, error) {
	c := access.From(ctx)
	up := &receiving{Receiver: r, coach: c}
	err := r.inClub(ctx, c.Club.ID, func(ctx context.Context) (err error) {
		var found bool
		if up.Upload, found, err = r.Uploads.Upload(ctx, id); err == nil && (!found || up.By != c.ID) {
			err = handler.ErrNotFound
		}
		return err
	})
	return up, err
}

// AsTerminatableUpload is the handler's.
func (r *Receiver) AsTerminatableUpload(u handler.Upload) handler.TerminatableUpload {
	return u.(*receiving)
}

// receiving is a video of which pieces come in.
type receiving struct {
	*Receiver
	coach access.Coach
	Upload
}

// pieces is where in the film store those of an upload lie, each under the place at which it begins.
func pieces(club uuid.UUID, id string) string { return "uploads/" + club.String() + "/" + id + "/" }

func (u *receiving) pieces() string { return pieces(u.coach.Club.ID, u.ID) }

// GetInfo is the handler's.
func (u *receiving) GetInfo(context.Context) (handler.FileInfo, error) {
	return handler.FileInfo{ID: u.ID, Size: u.Size, Offset: u.Arrived, MetaData: handler.MetaData{"filename": u.Said.Name}}, nil
}

// GetReader is the handler's, which does not ask: nobody reads a video before it is whole.
func (u *receiving) GetReader(context.Context) (io.ReadCloser, error) {
	return nil, handler.ErrNotFound
}

// sum is the digest of what has arrived, to go on with.
func (u *receiving) sum() (hash.Hash, error) {
	h := sha256.New()
	if u.Arrived == 0 {
		return h, nil
	}
	return h, h.(encoding.BinaryUnmarshaler).UnmarshalBinary(u.Said.Sum)
}

// WriteChunk keeps a piece: all of it that came, whether or not the line held.
func (u *receiving) WriteChunk(ctx context.Context, offset int64, src io.Reader) (int64, error) {
	head := make([]byte, 512)
	n, err := io.ReadFull(src, head)
	if n == 0 {
		return 0, err
	}
	head = head[:n]
	if offset == 0 {
		if _, ok := videoKind(head); !ok {
			return 0, errors.Join(u.Terminate(ctx), refuse("NO_VIDEO", "this is no video that can be shown here: send WebM or MP4", http.StatusUnsupportedMediaType))
		}
	}
	h, err := u.sum()
	if err != nil {
		return 0, err
	}
	w, err := u.Files.NewWriter(ctx, fmt.Sprintf("%s%020d", u.pieces(), offset), nil)
	if err != nil {
		return 0, err
	}
	came, broke := io.Copy(io.MultiWriter(w, h), io.MultiReader(bytes.NewReader(head), src))
	if err := w.Close(); err != nil {
		return 0, errors.Join(broke, err)
	}
	sum, err := h.(encoding.BinaryMarshaler).MarshalBinary()
	if err != nil {
		return 0, err
	}
	err = u.inClub(ctx, u.coach.Club.ID, func(ctx context.Context) error {
		there, err := u.Uploads.Arrive(ctx, u.ID, offset, offset+came, sum, u.Now())
		if err == nil && !there {
			err = handler.ErrMismatchOffset
		}
		return err
	})
	if err != nil {
		return 0, err
	}
	u.Arrived, u.Said.Sum = offset+came, sum
	if broke != nil {
		u.Log.InfoContext(ctx, "an upload broke off", "upload", u.ID, "arrived", u.Arrived, "of", u.Size)
	}
	return came, broke
}

// videoKind says what a video is by how it begins; what is called a video does not count.
func videoKind(head []byte) (string, bool) {
	kind := http.DetectContentType(head)
	return kind, kind == "video/webm" || kind == "video/mp4"
}

// FinishUpload makes a video of the pieces. Should that fail, the last piece counts as not arrived, so that
// whoever sends it comes again.
func (u *receiving) FinishUpload(ctx context.Context) error {
	err := u.finish(ctx)
	if err == nil {
		return nil
	}
	u.Log.ErrorContext(ctx, "finishing an upload", "upload", u.ID, "error", err)
	return errors.Join(err, u.inClub(ctx, u.coach.Club.ID, func(ctx context.Context) error { return u.Uploads.TakeBack(ctx, u.ID) }))
}

func (u *receiving) finish(ctx context.Context) error {
	h, err := u.sum()
	if err != nil {
		return err
	}
	club, digest := u.coach.Club.ID, hex.EncodeToString(h.Sum(nil))
	id, err := uuid.Parse(u.ID)
	if err != nil {
		return err
	}
	kind, err := u.join(ctx, Key(club, digest))
	if err != nil {
		return err
	}
	f := Film{ID: id, Digest: digest, Name: u.Said.Name, View: u.Said.View, MediaType: kind, Size: u.Size, GameID: u.GameID, PlacementID: u.PlacementID, Width: u.Said.Width, Height: u.Said.Height,
		FPSNum: u.Said.FPSNum, FPSDen: u.Said.FPSDen, Frames: u.Said.Frames, By: &u.By, Work: WorkNone}
	if canWork() {
		f.Work = WorkWaits
	}
	err = u.inClub(ctx, club, func(ctx context.Context) error {
		if _, there, err := u.Films.Held(ctx, id); err != nil || there { // finished once already
			return err
		}
		if err := u.Films.PutFilm(ctx, f); err != nil {
			return err
		}
		if f.Work == WorkWaits {
			if err := u.Jobs.Put(ctx, Work{Club: club, Film: id}); err != nil {
				return err
			}
		}
		return u.tell(ctx, u.By, id)
	})
	if err == nil {
		err = dropPieces(ctx, u.Files, u.pieces())
	}
	return err
}

// join writes the pieces one behind the other, and says what kind of video it is.
func (u *receiving) join(ctx context.Context, key string) (kind string, err error) {
	ctx, cancel := context.WithCancel(ctx)
	defer cancel() // a writer whose context ends keeps nothing
	w, err := u.Files.NewWriter(ctx, key, nil)
	if err != nil {
		return "", err
	}
	var at int64
	for at < u.Size {
		r, err := u.Files.NewReader(ctx, fmt.Sprintf("%s%020d", u.pieces(), at), nil)
		if err != nil {
			return "", err
		}
		if at == 0 {
			head := make([]byte, 512)
			n, _ := io.ReadFull(r, head)
			kind, _ = videoKind(head[:n])
			if _, err := r.Seek(0, io.SeekStart); err != nil {
				return "", err
			}
		}
		n, err := io.Copy(w, r)
		if err := errors.Join(err, r.Close()); err != nil {
			return "", err
		}
		if at += n; n == 0 {
			return "", errors.New("a piece of the video is empty")
		}
	}
	return kind, w.Close()
}

// dropPieces takes what lies under a prefix out of the film store.
func dropPieces(ctx context.Context, files *blob.Bucket, prefix string) error {
	list := files.List(&blob.ListOptions{Prefix: prefix})
	for {
		x, err := list.Next(ctx)
		if errors.Is(err, io.EOF) {
			return nil
		}
		if err != nil {
			return err
		}
		if err := files.Delete(ctx, x.Key); err != nil && gcerrors.Code(err) != gcerrors.NotFound {
			return err
		}
	}
}

// Terminate gives an upload up.
func (u *receiving) Terminate(ctx context.Context) error {
	if err := dropPieces(ctx, u.Files, u.pieces()); err != nil {
		return err
	}
	return u.inClub(ctx, u.coach.Club.ID, func(ctx context.Context) error { return u.Uploads.DeleteUpload(ctx, u.ID) })
}
