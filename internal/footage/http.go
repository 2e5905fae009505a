package footage

import (
	"context"
	"net/http"
	"time"

	"nineyard/internal/access"
	"nineyard/internal/contract/gen"
	"nineyard/internal/platform/httpd"
)

// API is the operations of footage.
type API struct{ Footage *Service }

// GetFootage returns what is on film of the season.
func (a API) GetFootage(ctx context.Context, r gen.GetFootageRequestObject) (gen.GetFootageResponseObject, error) {
	v, err := a.Footage.Season(ctx, access.From(ctx), r.Group)
	return gen.GetFootage200JSONResponse(v), err
}

// GetGameFootage returns what of a game is on film.
func (a API) GetGameFootage(ctx context.Context, r gen.GetGameFootageRequestObject) (gen.GetGameFootageResponseObject, error) {
	v, err := a.Footage.Game(ctx, access.From(ctx), r.ID)
	return gen.GetGameFootage200JSONResponse(v), err
}

// GetDrillFootage returns what of a drill is on film.
func (a API) GetDrillFootage(ctx context.Context, r gen.GetDrillFootageRequestObject) (gen.GetDrillFootageResponseObject, error) {
	v, err := a.Footage.Drill(ctx, access.From(ctx), r.ID)
	return gen.GetDrillFootage200JSONResponse(v), err
}

// Watch says or asks where one is.
func (a API) Watch(ctx context.Context, r gen.WatchRequestObject) (gen.WatchResponseObject, error) {
	v, err := a.Footage.Watch(ctx, access.From(ctx), r.ID, *r.Body)
	return gen.Watch200JSONResponse(v), err
}

// PutDrawing writes a drawing.
func (a API) PutDrawing(ctx context.Context, r gen.PutDrawingRequestObject) (gen.PutDrawingResponseObject, error) {
	version, err := httpd.Version(r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	v, err := a.Footage.PutDrawing(ctx, access.From(ctx), r.ID, r.Drawing, version, *r.Body)
	return gen.PutDrawing200JSONResponse(v), err
}

// DeleteDrawing rubs a drawing out.
func (a API) DeleteDrawing(ctx context.Context, r gen.DeleteDrawingRequestObject) (gen.DeleteDrawingResponseObject, error) {
	version, err := httpd.Version(r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	v, err := a.Footage.DeleteDrawing(ctx, access.From(ctx), r.ID, r.Drawing, version)
	return gen.DeleteDrawing200JSONResponse(v), err
}

// GetVideos returns the videos of a game or a drill.
func (a API) GetVideos(ctx context.Context, r gen.GetVideosRequestObject) (gen.GetVideosResponseObject, error) {
	v, err := a.Footage.Videos(ctx, access.From(ctx), r.Params.Game, r.Params.Placement)
	return gen.GetVideos200JSONResponse(v), err
}

// PutFilm writes a video.
func (a API) PutFilm(ctx context.Context, r gen.PutFilmRequestObject) (gen.PutFilmResponseObject, error) {
	version, err := httpd.Version(r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	v, err := a.Footage.PutFilm(ctx, access.From(ctx), r.ID, version, *r.Body)
	return gen.PutFilm200JSONResponse(v), err
}

// DeleteFilm takes a video out.
func (a API) DeleteFilm(ctx context.Context, r gen.DeleteFilmRequestObject) (gen.DeleteFilmResponseObject, error) {
	version, err := httpd.Version(r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	v, err := a.Footage.DeleteFilm(ctx, access.From(ctx), r.ID, version)
	return gen.DeleteFilm200JSONResponse(v), err
}

// PutClip writes a clip.
func (a API) PutClip(ctx context.Context, r gen.PutClipRequestObject) (gen.PutClipResponseObject, error) {
	version, err := httpd.Version(r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	v, err := a.Footage.PutClip(ctx, access.From(ctx), r.ID, version, *r.Body)
	return gen.PutClip200JSONResponse(v), err
}

// DeleteClip takes a clip out.
func (a API) DeleteClip(ctx context.Context, r gen.DeleteClipRequestObject) (gen.DeleteClipResponseObject, error) {
	version, err := httpd.Version(r.Params.IfMatch)
	if err != nil {
		return nil, err
	}
	v, err := a.Footage.DeleteClip(ctx, access.From(ctx), r.ID, version)
	return gen.DeleteClip200JSONResponse(v), err
}

// GetStrip opens the small pictures of a video.
func (a API) GetStrip(ctx context.Context, r gen.GetStripRequestObject) (gen.GetStripResponseObject, error) {
	body, err := a.Footage.Strip(ctx, r.ID)
	return gen.GetStrip200ImageJpegResponse{Body: body}, err
}

// ranges answers with the range of a video that was asked for.
type ranges struct {
	Content
	asked http.Header
}

// slow is how long a video may take to be sent: the line on a field is slow.
const slow = 30 * time.Minute

// VisitGetFilmResponse writes it.
func (f ranges) VisitGetFilmResponse(w http.ResponseWriter) error {
	defer func() { _ = f.Close() }()
	_ = http.NewResponseController(w).SetWriteDeadline(time.Now().Add(slow)) // a writer that has none has no deadline either
	w.Header().Set("Content-Type", f.MediaType)
	w.Header().Set("ETag", `"`+f.Digest+`"`)
	http.ServeContent(w, &http.Request{Method: http.MethodGet, Header: f.asked}, "", f.CreatedAt, f.ReadSeekCloser)
	return nil
}

// GetFilm opens a video.
func (a API) GetFilm(ctx context.Context, r gen.GetFilmRequestObject) (gen.GetFilmResponseObject, error) {
	c, err := a.Footage.Content(ctx, r.ID)
	if err != nil {
		return nil, err
	}
	asked := http.Header{}
	if r.Params.Range != nil {
		asked.Set("Range", *r.Params.Range)
	}
	if r.Params.IfRange != nil {
		asked.Set("If-Range", *r.Params.IfRange)
	}
	return ranges{c, asked}, nil
}
