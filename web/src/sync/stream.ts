import { madeOldBy } from "@/api/queries";
import type { Anew } from "./anew";
import { device } from "./device";
import { heard, type Here } from "./presence";

const waits = [500, 1000, 2000, 4000, 8000];

/** What the server tells of a change. */
interface Event {
  number: number;
  device?: string;
  operation: string;
}

type Told = { number: number; operation?: string; anew?: boolean } | { here: Here };

export interface StreamOptions {
  anew: Anew;
  user: string;
  /** The way to the server is open. */
  onOpen: () => void;
  onEnded: () => void;
}

/**
 * Hears what is changed in the club and has the screens read it anew. One tab of a browser holds the stream and
 * tells the others.
 */
export function follow({ anew, user, onOpen, onEnded }: StreamOptions): () => void {
  const stop = new AbortController();
  const channel = new BroadcastChannel(`nineyard.stream.${user}`);
  let number: number | undefined;
  const take = (told: Told) => {
    if ("here" in told) return heard(told.here);
    number = told.number;
    if (told.anew) anew.read(undefined);
    else if (told.operation) anew.read(madeOldBy(told.operation));
  };
  channel.onmessage = (e: MessageEvent<Told>) => take(e.data);
  // A page that comes back from where the browser had put it away has heard nothing meanwhile.
  const shown = (e: PageTransitionEvent) => e.persisted && anew.read(undefined);
  window.addEventListener("pageshow", shown);

  const tell = (told: Told) => {
    take(told);
    channel.postMessage(told);
  };
  const hold = async () => {
    for (let tries = 0; !stop.signal.aborted; tries++) {
      const opened = await listen(number, stop.signal, {
        onOpen,
        onEnded,
        onChange: (e) =>
          // What was changed on this device its tabs have told each other.
          tell({ number: e.number, operation: e.device === device() ? undefined : e.operation }),
        onHere: (here) => tell({ here }),
        onAt: (n) => tell({ number: n }),
        onAnew: (n) => tell({ number: n, anew: true }),
      });
      if (opened) tries = 0;
      await sleep(waits[Math.min(tries, waits.length - 1)]!, stop.signal);
    }
  };
  if (navigator.locks)
    void navigator.locks
      .request(`nineyard.stream.${user}`, { signal: stop.signal }, hold)
      .catch(() => undefined);
  else void hold();
  return () => {
    stop.abort();
    channel.close();
    window.removeEventListener("pageshow", shown);
  };
}

interface Listener {
  onOpen: () => void;
  onEnded: () => void;
  onChange: (e: Event) => void;
  onHere: (here: Here) => void;
  onAt: (number: number) => void;
  onAnew: (number: number) => void;
}

/** Listens until the stream breaks for good; says whether it was ever open. The browser itself mends short breaks. */
function listen(after: number | undefined, stop: AbortSignal, l: Listener): Promise<boolean> {
  return new Promise((done) => {
    let opened = false;
    const source = new EventSource(
      after === undefined ? "/api/v1/changes/stream" : `/api/v1/changes/stream?after=${after}`,
    );
    const end = () => {
      source.close();
      stop.removeEventListener("abort", end);
      done(opened);
    };
    stop.addEventListener("abort", end);
    const numbered = (tell: (n: number) => void) => (e: MessageEvent<string>) => tell(Number(e.lastEventId));
    source.onopen = () => {
      opened = true;
      l.onOpen();
    };
    source.onerror = () => source.readyState === EventSource.CLOSED && end();
    source.addEventListener("change", (e: MessageEvent<string>) => l.onChange(JSON.parse(e.data) as Event));
    source.addEventListener("here", (e: MessageEvent<string>) => l.onHere(JSON.parse(e.data) as Here));
    source.addEventListener("at", numbered(l.onAt));
    source.addEventListener("anew", numbered(l.onAnew));
    source.addEventListener("ended", () => {
      l.onEnded();
      end();
    });
  });
}

function sleep(ms: number, stop: AbortSignal): Promise<void> {
  return new Promise((done) => {
    const timer = setTimeout(done, ms);
    stop.addEventListener("abort", () => {
      clearTimeout(timer);
      done();
    });
  });
}
