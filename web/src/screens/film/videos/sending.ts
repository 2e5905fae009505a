import * as tus from "tus-js-client";
import { token, type Schemas } from "@/api/client";
import type { Looked } from "./looked";
import type { Subject } from "./subject";

/** A video on its way to the server. */
export interface Sending {
  key: string;
  /** Of which game or drill it is. */
  subject: string;
  name: string;
  size: number;
  sent: number;
  /** It waits for the line. */
  broken: boolean;
  trouble?: string;
}

const pieces = 8 << 20;
/** It is tried again for about an hour before it is said that the line is gone. */
const again = [0, 1000, 3000, 5000, ...Array.from({ length: 240 }, () => 15_000)];

let list: readonly Sending[] = [];
const uploads = new Map<string, tus.Upload>();
const listeners = new Set<() => void>();

const put = (key: string, part: Partial<Sending>) => {
  list = list.map((s) => (s.key === key ? { ...s, ...part } : s));
  for (const l of listeners) l();
};
const drop = (key: string) => {
  list = list.filter((s) => s.key !== key);
  uploads.delete(key);
  for (const l of listeners) l();
};

/** What is on its way. It goes on while the coach is on other screens. */
export const sending = {
  now: () => list,
  listen: (l: () => void) => {
    listeners.add(l);
    return () => void listeners.delete(l);
  },
};

/** What the server says of a video that it does not take. */
const refusal = (e: Error | tus.DetailedError) => {
  const answer = "originalResponse" in e ? e.originalResponse : null;
  if (!answer) return "the line to the server is gone; choose the file again and it goes on";
  if (answer.getStatus() === 401) return "the session has ended; sign in and choose the file again";
  try {
    const says = (JSON.parse(answer.getBody()) as Partial<Schemas["Problem"]>).detail;
    if (says) return says;
  } catch {
    // No problem document: something between the server and here has answered.
  }
  return `the server answered ${answer.getStatus()}`;
};

/** Sends a video, or goes on with it where it broke off, also after the page was closed. */
export async function send(
  of: Pick<Subject, "id" | "kind">,
  file: File,
  view: string,
  seen: Looked,
  done: () => void,
) {
  const key = `${of.id} ${file.name} ${file.size} ${file.lastModified}`;
  if (uploads.has(key)) return;
  const { width, height, fps_num, fps_den, frames } = seen;
  const said = { width, height, fps_num, fps_den, frames };
  const upload = new tus.Upload(file, {
    endpoint: "/api/v1/uploads/",
    chunkSize: pieces,
    retryDelays: again,
    removeFingerprintOnSuccess: true,
    fingerprint: () => Promise.resolve(`nineyard video ${key}`),
    metadata: {
      filename: file.name,
      view,
      [of.kind === "game" ? "game" : "placement"]: of.id,
      ...Object.fromEntries(Object.entries(said).map(([k, v]) => [k, String(v)])),
    },
    onBeforeRequest: (r) => r.setHeader("X-CSRF-Token", token()),
    onShouldRetry: (e) => {
      const status = e.originalResponse?.getStatus() ?? 0;
      put(key, { broken: true });
      return status === 0 || status === 409 || status === 423 || status >= 500;
    },
    onProgress: (sent) => put(key, { sent, broken: false }),
    onError: (e) => {
      uploads.delete(key);
      put(key, { trouble: refusal(e), broken: false });
    },
    onSuccess: () => {
      drop(key);
      done();
    },
  });
  uploads.set(key, upload);
  list = [
    ...list.filter((s) => s.key !== key),
    { key, subject: of.id, name: file.name, size: file.size, sent: 0, broken: false },
  ];
  for (const l of listeners) l();
  const before = await upload.findPreviousUploads();
  if (before[0]) upload.resumeFromPreviousUpload(before[0]);
  upload.start();
}

/** Gives a video up that is on its way, and what came of it. */
export async function giveUp(key: string) {
  const upload = uploads.get(key);
  drop(key);
  await upload?.abort(true).catch(() => undefined); // what cannot be told now is forgotten in a week
}
