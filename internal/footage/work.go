package footage

import (
	"bufio"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"time"

	"github.com/google/uuid"
	"github.com/riverqueue/river"
	"gocloud.dev/blob"
	"gocloud.dev/gcerrors"

	"nineyard/internal/platform/changes"
	"nineyard/internal/platform/jobs"
	"nineyard/internal/platform/pg"
)

// proxyType is the kind of the video that is made to step quickly.
const proxyType = "video/mp4"

// Of what is made of a video: a picture that stands by itself every keyEvery frames, so that a step back is as
// quick as one forward; no wider than a laptop shows beside the marks; pictures of the strip and their width.
const (
	keyEvery   = 15
	proxyWidth = 1280
	stripTiles = 48
	stripWidth = 120
	tellEvery  = 5 // per cent
)

// Work is the job that looks into a video and makes of it one that steps quickly, and a strip.
type Work struct {
	Club uuid.UUID `json:"club"`
	Film uuid.UUID `json:"film"`
}

// Kind is the queue's name for it.
func (Work) Kind() string { return "film_work" }

// Sweep is the job that takes a content out of the film store once no video of the club has it.
type Sweep struct {
	Club   uuid.UUID `json:"club"`
	Digest string    `json:"digest"`
}

// Kind is the queue's name for it.
func (Sweep) Kind() string { return "film_sweep" }

// Forget is the job that gives up uploads of which nothing has come for days, of all clubs.
type Forget struct{}

// Kind is the queue's name for it.
func (Forget) Kind() string { return "film_forget" }

// canWork reports whether what makes videos is installed. Without it everything works on what was sent.
func canWork() bool {
	for _, name := range []string{"ffmpeg", "ffprobe"} {
		if _, err := exec.LookPath(name); err != nil {
			return false
		}
	}
	return true
}

// Work says how the jobs of videos are carried out, and which come by themselves.
func (r *Receiver) Work(workers *jobs.Workers) []*river.PeriodicJob {
	river.AddWorker(workers, river.WorkFunc(func(ctx context.Context, j *river.Job[Work]) error {
		err := r.work(ctx, j.Args)
		if err != nil && j.Attempt >= jobs.Tries && ctx.Err() == nil {
			err = errors.Join(err, r.say(context.WithoutCancel(ctx), j.Args, func(f *Film) { f.Work = WorkFailed }))
		}
		return err
	}))
	river.AddWorker(workers, river.WorkFunc(func(ctx context.Context, j *river.Job[Sweep]) error {
		return r.DB.InClub(ctx, j.Args.Club, func(ctx context.Context) error {
			held, err := r.Films.Holds(ctx, j.Args.Digest)
			if err != nil || held {
				return err
			}
			if err := r.Files.Delete(ctx, Key(j.Args.Club, j.Args.Digest)); err != nil && gcerrors.Code(err) != gcerrors.NotFound {
				return err
			}
			return nil
		})
	}))
	river.AddWorker(workers, river.WorkFunc(func(ctx context.Context, _ *river.Job[Forget]) error { return r.forget(ctx) }))
	return []*river.PeriodicJob{river.NewPeriodicJob(river.PeriodicInterval(24*time.Hour), func() (river.JobArgs, *river.InsertOpts) { return Forget{}, nil }, nil)}
}

// forgetsAt is how long giving up may take in one club: files are taken away in it.
const forgetsAt = 10 * time.Minute

// forget gives up what has not come for days.
func (r *Receiver) forget(ctx context.Context) error {
	return r.DB.EachClub(ctx, forgetsAt, func(ctx context.Context) error {
		ids, err := r.Uploads.Stale(ctx, r.Now().Add(-keepUploads))
		for _, id := range ids {
			err = errors.Join(err, dropPieces(ctx, r.Files, pieces(pg.Club(ctx), id)), r.Uploads.DeleteUpload(ctx, id))
		}
		return err
	})
}

// say changes what is known of a video, and tells everybody who looks.
func (r *Receiver) say(ctx context.Context, w Work, change func(*Film)) error {
	return r.DB.InClub(ctx, w.Club, func(ctx context.Context) error {
		f, found, err := r.Films.Held(ctx, w.Film)
		if err != nil || !found {
			return err
		}
		change(&f)
		if err := r.Films.PutFilm(ctx, f); err != nil {
			return err
		}
		by := uuid.Nil
		if f.By != nil {
			by = *f.By
		}
		return r.tell(ctx, by, w.Film)
	})
}

// tell tells everybody who looks that a video was changed, without a request, on behalf of somebody.
func (r *Receiver) tell(ctx context.Context, by, film uuid.UUID) error {
	_, err := changes.Append(ctx, changes.Change{ID: uuid.New(), Person: by, Operation: "putFilm", Record: "/films/" + film.String(), Digest: []byte{}, MadeAt: r.Now(), At: r.Now(), Status: 200})
	return err
}

// work looks into a video and makes what is made of it.
func (r *Receiver) work(ctx context.Context, w Work) error {
	var f Film
	var found bool
	err := r.DB.InClub(ctx, w.Club, func(ctx context.Context) (err error) { f, found, err = r.Films.Held(ctx, w.Film); return err })
	if err != nil || !found || f.Local {
		return err // it was taken out meanwhile
	}
	dir, err := os.MkdirTemp("", "nineyard-film-")
	if err != nil {
		return err
	}
	defer func() { _ = os.RemoveAll(dir) }()
	source, proxy, strip := filepath.Join(dir, "source"), filepath.Join(dir, "proxy.mp4"), filepath.Join(dir, "strip.jpg")
	if err := r.fetch(ctx, Key(w.Club, f.Digest), source); err != nil {
		return err
	}
	seen, err := probe(ctx, source)
	if err != nil {
		return err
	}
	// What is in it counts, and not what was said of it.
	if err := r.say(ctx, w, func(f *Film) {
		f.Width, f.Height, f.FPSNum, f.FPSDen, f.Frames = seen.Width, seen.Height, seen.FPSNum, seen.FPSDen, seen.Frames
		f.Work, f.WorkDone = WorkRuns, 0
	}); err != nil {
		return err
	}
	told := 0
	err = encode(ctx, source, proxy, seen, func(frames int) {
		if done := min(99, 100*frames/seen.Frames); done >= told+tellEvery {
			told = done
			if err := r.say(ctx, w, func(f *Film) { f.WorkDone = done }); err != nil {
				r.Log.WarnContext(ctx, "saying how far a video is", "error", err)
			}
		}
	})
	if err != nil {
		return err
	}
	rate := fmt.Sprintf("%d*%d/(%d*%d)", stripTiles, seen.FPSNum, max(1, seen.Frames), seen.FPSDen)
	if err := run(ctx, nil, "ffmpeg", "-v", "error", "-nostdin", "-y", "-i", source, "-map", "0:v:0",
		"-vf", fmt.Sprintf("fps=%s,scale=%d:-2,tile=%dx1", rate, stripWidth, stripTiles), "-frames:v", "1", "-q:v", "5", strip); err != nil {
		return err
	}
	proxyDigest, size, err := r.keep(ctx, w.Club, proxy, proxyType)
	if err != nil {
		return err
	}
	stripDigest, _, err := r.keep(ctx, w.Club, strip, "image/jpeg")
	if err != nil {
		return err
	}
	kept := false
	err = r.say(ctx, w, func(f *Film) {
		f.Work, f.WorkDone, f.ProxyDigest, f.ProxySize, f.StripDigest, kept = WorkDone, 100, &proxyDigest, size, &stripDigest, true
	})
	if err != nil || kept {
		return err
	}
	// The video was taken out meanwhile: so is what was made of it.
	return r.DB.InClub(ctx, w.Club, func(ctx context.Context) error {
		return errors.Join(r.Jobs.Put(ctx, Sweep{w.Club, proxyDigest}), r.Jobs.Put(ctx, Sweep{w.Club, stripDigest}))
	})
}

// fetch copies a content out of the film store.
func (r *Receiver) fetch(ctx context.Context, key, into string) error {
	file, err := os.OpenFile(into, os.O_CREATE|os.O_WRONLY|os.O_EXCL, 0o600)
	if err != nil {
		return err
	}
	return errors.Join(r.Files.Download(ctx, key, file, nil), file.Close())
}

// keep puts a file into the film store, under its digest.
func (r *Receiver) keep(ctx context.Context, club uuid.UUID, path, kind string) (digest string, size int64, err error) {
	file, err := os.Open(path)
	if err != nil {
		return "", 0, err
	}
	defer func() { _ = file.Close() }()
	h := sha256.New()
	if size, err = io.Copy(h, file); err != nil {
		return "", 0, err
	}
	if _, err := file.Seek(0, io.SeekStart); err != nil {
		return "", 0, err
	}
	digest = hex.EncodeToString(h.Sum(nil))
	return digest, size, r.Files.Upload(ctx, Key(club, digest), file, &blob.WriterOptions{ContentType: kind})
}

// looked is what is in a video.
type looked struct{ Width, Height, FPSNum, FPSDen, Frames int }

// probe looks into a video.
func probe(ctx context.Context, path string) (looked, error) {
	var out strings.Builder
	if err := run(ctx, &out, "ffprobe", "-v", "error", "-select_streams", "v:0", "-count_packets", "-show_entries", "stream=width,height,r_frame_rate,nb_read_packets", "-of", "json", path); err != nil {
		return looked{}, err
	}
	return readProbe(out.String())
}

// readProbe reads what ffprobe says.
func readProbe(text string) (l looked, err error) {
	var said struct {
		Streams []struct {
			Width, Height int
			Rate          string `json:"r_frame_rate"`
			Packets       string `json:"nb_read_packets"`
		}
	}
	if err := json.Unmarshal([]byte(text), &said); err != nil || len(said.Streams) == 0 {
		return l, fmt.Errorf("there is no picture in it: %q", text)
	}
	s := said.Streams[0]
	num, den, _ := strings.Cut(s.Rate, "/")
	l = looked{Width: s.Width, Height: s.Height}
	l.FPSNum, err = strconv.Atoi(num)
	var errDen, errFrames error
	l.FPSDen, errDen = strconv.Atoi(den)
	l.Frames, errFrames = strconv.Atoi(s.Packets)
	if err = errors.Join(err, errDen, errFrames); err == nil && (l.FPSNum < 1 || l.FPSDen < 1 || l.Frames < 1 || l.Width < 1 || l.Height < 1 || l.FPSNum > 1000*l.FPSDen) {
		err = fmt.Errorf("a video of %d frames of %d by %d at %s a second cannot be shown", l.Frames, l.Width, l.Height, s.Rate)
	}
	return l, err
}

// encode makes the video that steps quickly, frame by frame the same as the source, and says how many are done.
func encode(ctx context.Context, source, into string, seen looked, done func(frames int)) error {
	r, w := io.Pipe()
	read := make(chan struct{})
	go func() {
		defer close(read)
		lines := bufio.NewScanner(r)
		for lines.Scan() {
			if n, ok := strings.CutPrefix(lines.Text(), "frame="); ok {
				if frames, err := strconv.Atoi(strings.TrimSpace(n)); err == nil {
					done(frames)
				}
			}
		}
		_, _ = io.Copy(io.Discard, r)
	}()
	err := run(ctx, w, "ffmpeg", "-v", "error", "-nostdin", "-y", "-i", source, "-map", "0:v:0", "-an", "-vf", fmt.Sprintf("scale='min(%d,iw)':-2", proxyWidth),
		"-r", fmt.Sprintf("%d/%d", seen.FPSNum, seen.FPSDen), "-fps_mode", "cfr", "-c:v", "libx264", "-preset", "veryfast", "-crf", "24", "-g", strconv.Itoa(keyEvery), "-keyint_min", strconv.Itoa(keyEvery),
		"-sc_threshold", "0", "-pix_fmt", "yuv420p", "-movflags", "+faststart", "-progress", "pipe:1", into)
	_ = w.Close()
	<-read
	return err
}

// run runs a program; what it complains of is in the error.
func run(ctx context.Context, out io.Writer, name string, args ...string) error {
	cmd := exec.CommandContext(ctx, name, args...)
	var complaint strings.Builder
	cmd.Stdout, cmd.Stderr, cmd.WaitDelay = out, &complaint, 5*time.Second
	if err := cmd.Run(); err != nil {
		text := complaint.String()
		return fmt.Errorf("%s: %w: %s", name, err, text[max(0, len(text)-400):])
	}
	return nil
}
