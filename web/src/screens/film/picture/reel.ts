import { around, frameOf, rocked, timeOf, type Shot } from "./frames";

/** Decoded frames are kept up to so many bytes. */
const memory = 192 << 20;
/** So long (ms) a frame is waited for that the video says it has. */
const patience = 300;

/** What a video holds now, if the browser can hold it still. */
function heldBy(video: HTMLVideoElement): VideoFrame | undefined {
  if (typeof VideoFrame === "undefined") return undefined;
  try {
    return new VideoFrame(video);
  } catch {
    return undefined; // nothing to be seen yet
  }
}

/**
 * One video, shown frame by frame. While it stands a canvas shows the frame, and a second, unseen element fetches
 * the frames around it, so that a step back is as quick as a step forward; while it runs the video itself is seen.
 */
export class Reel {
  readonly shot: Shot;
  private readonly video: HTMLVideoElement;
  private readonly canvas: HTMLCanvasElement;
  private readonly scout: HTMLVideoElement;
  private readonly onFrame: (frame: number) => void;
  private readonly frames = new Map<number, ImageBitmap>();
  private wanted: number;
  private way: 1 | -1 = 1;
  private seeking = false;
  private gathering = false;
  private running = false;
  private turn = 0;
  private gone = false;
  private even = true; // as far as is known each moment has its frame

  constructor(
    shot: Shot,
    url: string,
    video: HTMLVideoElement,
    canvas: HTMLCanvasElement,
    onFrame: (frame: number) => void,
  ) {
    this.shot = shot;
    this.video = video;
    this.canvas = canvas;
    this.onFrame = onFrame;
    this.wanted = shot.clip.first;
    this.scout = document.createElement("video");
    for (const v of [video, this.scout]) {
      v.muted = true;
      v.playsInline = true;
      v.preload = "auto";
      v.src = url;
    }
    canvas.width = shot.film.width;
    canvas.height = shot.film.height;
  }

  /** Lets go of what it holds. */
  close() {
    this.gone = true;
    for (const v of [this.video, this.scout]) {
      v.pause();
      v.removeAttribute("src");
      v.load();
    }
    for (const b of this.frames.values()) b.close();
    this.frames.clear();
  }

  /** Shows a frame. It is seen at once when it is at hand. */
  async show(frame: number): Promise<void> {
    this.way = frame < this.wanted ? -1 : 1;
    this.wanted = frame;
    if (this.running) this.halt();
    const known = this.frames.get(frame);
    if (known) this.paint(frame, known);
    else if (!this.seeking) {
      this.seeking = true;
      try {
        while (!this.gone) {
          const f = this.wanted;
          const bitmap = this.frames.get(f) ?? (await this.grab(this.video, f));
          if (!bitmap || this.gone) break;
          if (f === this.wanted) {
            this.paint(f, bitmap);
            break;
          }
        }
      } finally {
        this.seeking = false;
      }
    }
    void this.gather();
  }

  private paint(frame: number, bitmap: ImageBitmap) {
    this.canvas.getContext("2d")?.drawImage(bitmap, 0, 0, this.canvas.width, this.canvas.height);
    this.canvas.dataset.frame = String(frame);
    this.canvas.style.visibility = "visible";
  }

  /** Goes to a frame and waits until the video is there. */
  private async seek(video: HTMLVideoElement, frame: number): Promise<void> {
    const time = timeOf(frame, this.shot.film);
    if (Math.abs(video.currentTime - time) < 1e-6 && video.readyState >= 2 && !video.seeking) return;
    const there = new Promise<void>((done, failed) => {
      const events = ["seeked", "loadeddata", "canplay"];
      const ready = () => {
        if (video.seeking || video.readyState < 2) return;
        for (const e of events) video.removeEventListener(e, ready);
        done();
      };
      for (const e of events) video.addEventListener(e, ready);
      video.addEventListener("error", () => failed(new Error("this browser cannot play it")), { once: true });
    });
    video.currentTime = time;
    await there;
  }

  /**
   * Takes a frame out of the video. On a busy machine a video that says it is there may still hold the frame it came
   * from: what is taken says itself which frame it is, and is waited for. A file whose frames do not come evenly has
   * none at some moments; after the first of those nothing is waited for.
   */
  private async grab(video: HTMLVideoElement, frame: number): Promise<ImageBitmap | undefined> {
    await this.seek(video, frame);
    let still = heldBy(video);
    for (const end = performance.now() + patience; still && this.even && !this.is(still, frame);) {
      still.close();
      await new Promise((done) => setTimeout(done, 4));
      still = this.gone ? undefined : heldBy(video);
      if (still && performance.now() > end) this.even = this.is(still, frame);
    }
    if (this.gone) {
      still?.close();
      return undefined;
    }
    const bitmap = await createImageBitmap(still ?? video).finally(() => still?.close());
    if (!this.gone) return this.keep(frame, bitmap);
    bitmap.close();
    return undefined;
  }

  /**
   * Keeps a frame of a video that runs, as it goes by. On a busy machine the video may be further than the frame it
   * told of; what is held still here says itself which it is.
   */
  private keepPassing(video: HTMLVideoElement, told: number) {
    if (this.gone || this.frames.has(told)) return;
    const still = heldBy(video);
    if (!still) return;
    const frame = this.frameOf(still);
    void createImageBitmap(still)
      .then((b) => (this.gone ? b.close() : this.keep(frame, b)))
      .catch(() => undefined)
      .finally(() => still.close());
  }

  private frameOf(still: VideoFrame): number {
    return frameOf(still.timestamp / 1e6, this.shot.film);
  }
  private is(still: VideoFrame, frame: number): boolean {
    return this.frameOf(still) === frame;
  }

  private keep(frame: number, bitmap: ImageBitmap): ImageBitmap {
    this.frames.get(frame)?.close();
    this.frames.set(frame, bitmap);
    while (this.frames.size > this.atMost) {
      let far = frame;
      for (const f of this.frames.keys())
        if (Math.abs(f - this.wanted) > Math.abs(far - this.wanted)) far = f;
      if (far === frame) break;
      this.frames.get(far)?.close();
      this.frames.delete(far);
    }
    return bitmap;
  }

  /**
   * Fetches the frames around the one that is seen. Many that lie together are taken as they go by, which is much
   * quicker than to seek each; what is left is sought, the nearest first.
   */
  private async gather() {
    if (this.gathering) return;
    this.gathering = true;
    try {
      let swept = -1;
      while (!this.gone && !this.running) {
        const { first, last } = this.shot.clip;
        const open = around(this.wanted, this.reach, first, last, this.way).filter(
          (f) => !this.frames.has(f),
        );
        if (open.length === 0) return;
        const ahead = open.filter((f) => (f - this.wanted) * this.way > 0);
        const side = ahead.length > 4 ? ahead : open;
        const from = Math.min(...side);
        if (side.length > 4 && swept !== from) {
          swept = from;
          await this.sweep(from, Math.max(...side));
        } else await this.grab(this.scout, open[0]!);
      }
    } catch {
      // what is not fetched ahead is fetched when it is wanted, and said then
    } finally {
      this.gathering = false;
    }
  }

  /** Takes frames as they go by, until the hand is somewhere else. */
  private async sweep(from: number, to: number): Promise<void> {
    const scout = this.scout;
    const middle = this.wanted;
    await this.seek(scout, from);
    scout.playbackRate = 1.5;
    await scout.play();
    await new Promise<void>((done) => {
      let guard = 0;
      const end = () => {
        window.clearTimeout(guard);
        scout.pause();
        done();
      };
      const seen = (_: number, { mediaTime }: VideoFrameCallbackMetadata) => {
        window.clearTimeout(guard);
        const frame = frameOf(mediaTime, this.shot.film);
        this.keepPassing(scout, frame);
        if (frame >= to || this.gone || this.running || Math.abs(this.wanted - middle) > this.reach)
          return end();
        guard = window.setTimeout(end, 400);
        scout.requestVideoFrameCallback(seen);
      };
      guard = window.setTimeout(end, 400); // a browser that shows nothing of what is not seen
      scout.requestVideoFrameCallback(seen);
    });
  }

  /** How far frames are fetched: as many as may be kept. */
  private get reach(): number {
    return Math.min(40, Math.floor(this.atMost / 2) - 1);
  }
  private get atMost(): number {
    return Math.max(8, Math.floor(memory / (4 * this.shot.film.width * this.shot.film.height)));
  }

  /** Runs on from where it is. Frames that go by are kept. */
  async run(pace: number): Promise<void> {
    this.video.playbackRate = pace;
    if (this.running) return;
    this.running = true;
    const turn = ++this.turn;
    const ended = () => turn !== this.turn || !this.running || this.gone;
    await this.seek(this.video, this.wanted);
    if (ended()) return;
    await this.video.play();
    const seen = (_: number, { mediaTime }: VideoFrameCallbackMetadata) => {
      if (ended()) return;
      const frame = frameOf(mediaTime, this.shot.film);
      this.wanted = frame;
      this.canvas.style.visibility = "hidden";
      this.keepPassing(this.video, frame);
      this.video.requestVideoFrameCallback(seen);
      this.onFrame(frame);
    };
    this.video.requestVideoFrameCallback(seen);
  }

  /** Runs beside another camera: a little faster or slower until it is in step again. */
  follow(frame: number, pace: number) {
    if (!this.running) return void this.show(frame).then(() => this.run(pace));
    const late = frame - this.wanted;
    if (Math.abs(late) > 10) this.video.currentTime = timeOf(frame, this.shot.film);
    else this.video.playbackRate = pace * Math.max(0.5, Math.min(1.5, 1 + late * 0.06));
  }

  private halt() {
    this.running = false;
    this.video.pause();
  }

  /** Runs back and forth around a frame, each frame in its turn, until it is told to stop. */
  rock(pace: number): () => void {
    if (this.running) this.halt();
    const middle = this.wanted;
    let state: { at: number; way: 1 | -1 } = { at: middle, way: 1 };
    let due = performance.now();
    let stopped = false;
    const wide = Math.round(this.shot.film.fps_num / this.shot.film.fps_den / 2);
    const step = (now: number) => {
      if (stopped || this.gone) return;
      const every = (1000 * this.shot.film.fps_den) / (this.shot.film.fps_num * pace);
      if (now >= due) {
        due = Math.max(due + every, now); // late is late: no frame is left out
        state = rocked(state.at, state.way, (f) => Math.abs(f - middle) <= wide && this.frames.has(f));
        const bitmap = this.frames.get(state.at);
        if (bitmap) {
          this.paint(state.at, bitmap);
          this.onFrame(state.at);
        }
      }
      requestAnimationFrame(step);
    };
    void this.gather();
    requestAnimationFrame(step);
    return () => {
      stopped = true;
      this.wanted = state.at;
    };
  }
}
