/** What is in a video file, as far as this browser can see. */
export interface Looked {
  media_type: "video/webm" | "video/mp4";
  size: number;
  width: number;
  height: number;
  fps_num: number;
  fps_den: number;
  frames: number;
}

/** Rates at which cameras film; one that is measured is the nearest of them. */
const rates = [
  [24000, 1001],
  [24, 1],
  [25, 1],
  [30000, 1001],
  [30, 1],
  [50, 1],
  [60000, 1001],
  [60, 1],
  [120, 1],
  [240, 1],
] as const;

/** The rate of a video by the times at which its frames are shown, some of which may have been passed over. */
export function rateOf(times: number[]): readonly [num: number, den: number] {
  const gaps = times
    .slice(1)
    .map((t, i) => t - times[i]!)
    .filter((g) => g > 1e-4)
    .sort((a, b) => a - b);
  if (gaps.length === 0) return [30, 1];
  // A frame passed over makes a gap of two: the short ones are of neighbours.
  const short = gaps[Math.floor(gaps.length / 4)]!;
  const off = ([num, den]: readonly [number, number]) => Math.abs(Math.log((short * num) / den));
  const near = rates.filter((r) => off(r) < off([30, 1]) + 1);
  // Times are of a thousandth of a second: of 29.97 and 30 the whole stretch decides.
  const span = times.at(-1)! - times[0]!;
  const byAll = ([num, den]: readonly [number, number]) => {
    const frames = (span * num) / den;
    return Math.abs(frames - Math.round(frames));
  };
  return [...near].sort((a, b) => {
    const close = Math.abs(off(a) - off(b)) < 0.004;
    return close ? byAll(a) - byAll(b) : off(a) - off(b);
  })[0]!;
}

const kinds: Record<string, Looked["media_type"]> = { "video/webm": "video/webm", "video/mp4": "video/mp4" };

/** Plays a little of a file and says what is in it. */
export async function lookInto(file: File): Promise<Looked> {
  const media_type = kinds[file.type];
  if (!media_type) throw new Error("it is neither WebM nor MP4");
  const video = document.createElement("video");
  video.muted = true;
  video.preload = "auto";
  const url = URL.createObjectURL(file);
  try {
    await new Promise<void>((done, failed) => {
      video.addEventListener("loadeddata", () => done(), { once: true });
      video.addEventListener("error", () => failed(new Error("this browser cannot play it")), { once: true });
      video.src = url;
    });
    const long = await duration(video);
    const [fps_num, fps_den] = rateOf(await timesOf(video));
    return {
      media_type,
      size: file.size,
      width: video.videoWidth,
      height: video.videoHeight,
      fps_num,
      fps_den,
      frames: Math.max(1, Math.round((long * fps_num) / fps_den)),
    };
  } finally {
    video.removeAttribute("src");
    video.load();
    URL.revokeObjectURL(url);
  }
}

/** How long it is; one that was written as it was filmed says so only once its end was looked for. */
async function duration(video: HTMLVideoElement): Promise<number> {
  if (Number.isFinite(video.duration)) return video.duration;
  await new Promise<void>((done) => {
    video.addEventListener("durationchange", () => Number.isFinite(video.duration) && done());
    video.currentTime = 1e9;
    window.setTimeout(done, 20_000);
  });
  video.currentTime = 0;
  if (!Number.isFinite(video.duration)) throw new Error("it does not say how long it is");
  return video.duration;
}

/** So many frames in a row are seen, and then one so many seconds on: a stretch that tells 29.97 from 30 a second. */
const inARow = 24;
const farther = 8;

/** When its first frames are shown, and one farther on where there is one. */
function timesOf(video: HTMLVideoElement): Promise<number[]> {
  const times: number[] = [];
  return new Promise((done) => {
    const end = () => {
      window.clearTimeout(guard);
      video.pause();
      done(times);
    };
    const guard = window.setTimeout(end, 6000);
    const seen = (_: number, { mediaTime }: VideoFrameCallbackMetadata) => {
      times.push(mediaTime);
      const ahead = Math.min(farther, video.duration - mediaTime - 0.5);
      if (times.length > inARow || (times.length === inARow && ahead < 1)) return end();
      if (times.length === inARow) video.currentTime = mediaTime + ahead;
      video.requestVideoFrameCallback(seen);
    };
    video.requestVideoFrameCallback(seen);
    video.playbackRate = 0.5; // fewer are passed over
    video.play().catch(end);
  });
}

const piece = 1 << 20;

/** Larger files are recognised by their beginning and end alone. */
const wholeUpTo = 512 << 20;

/** Whether a file is the one that is meant: by how it begins and ends, or by all that it holds. */
export async function isFile(file: File, digest: string): Promise<boolean> {
  if ((await markOf(file)) === digest) return true;
  return file.size <= wholeUpTo && (await sumOf(await file.arrayBuffer())) === digest;
}

async function sumOf(content: ArrayBuffer): Promise<string> {
  const sum = await crypto.subtle.digest("SHA-256", content);
  return [...new Uint8Array(sum)].map((b) => b.toString(16).padStart(2, "0")).join("");
}

/** By what a file is recognised: its size, its beginning and its end. The whole of a game would take minutes. */
export async function markOf(file: File): Promise<string> {
  if (!globalThis.crypto.subtle)
    throw new Error("a page that is not served safely (https) cannot recognise files");
  const parts = [
    new TextEncoder().encode(String(file.size)),
    new Uint8Array(await file.slice(0, piece).arrayBuffer()),
    new Uint8Array(await file.slice(Math.max(0, file.size - piece)).arrayBuffer()),
  ];
  return sumOf(await new Blob(parts).arrayBuffer());
}
