package camera

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
)

// Keyframes is how many frames lie between two that are whole.
const Keyframes = 30

// Shoot writes the clip into a folder: a video a view, and the truth beside them.
func (c *Clip) Shoot(ctx context.Context, dir string) error {
	for v := range c.Truth.Cameras {
		if err := c.encode(ctx, v, filepath.Join(dir, fmt.Sprintf("%s-%s.webm", c.Truth.Name, v))); err != nil {
			return err
		}
	}
	return c.WriteTruth(dir)
}

// WriteTruth writes what is to be known of the clip into a folder.
func (c *Clip) WriteTruth(dir string) error {
	truth, err := json.Marshal(c.Truth)
	if err != nil {
		return fmt.Errorf("truth: %w", err)
	}
	return os.WriteFile(filepath.Join(dir, c.Truth.Name+".json"), append(truth, '\n'), 0o644) //nolint:gosec // it is data to read
}

// encode pipes the frames through ffmpeg.
func (c *Clip) encode(ctx context.Context, v View, path string) error {
	//nolint:gosec // the program and its arguments are our own
	cmd := exec.CommandContext(ctx, "ffmpeg", strings.Fields("-loglevel error -y -f rawvideo -pix_fmt rgba -s "+strconv.Itoa(PictureWidth)+"x"+strconv.Itoa(PictureHeight)+
		" -r "+strconv.Itoa(FPS)+" -i - -an -c:v libvpx-vp9 -b:v 0 -crf 43 -g "+strconv.Itoa(Keyframes)+" -deadline good -cpu-used 4 -row-mt 1 -threads 2 -pix_fmt yuv420p -map_metadata -1 -fflags +bitexact -flags:v +bitexact "+path)...)
	var says bytes.Buffer
	cmd.Stderr = &says
	in, err := cmd.StdinPipe()
	if err != nil {
		return fmt.Errorf("ffmpeg: %w", err)
	}
	if err := cmd.Start(); err != nil {
		return fmt.Errorf("ffmpeg: %w", err)
	}
	wrote := c.Write(in, v)
	_ = in.Close()
	if err := cmd.Wait(); err != nil {
		return fmt.Errorf("ffmpeg: %w: %s", err, says.String())
	}
	return wrote
}
