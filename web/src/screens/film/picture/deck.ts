import { alongside, paces, type Shot } from "./frames";
import { playable } from "./files";
import { Reel } from "./reel";

export interface DeckState {
  /** Which camera is seen, and whether the next one stands beside it. */
  view: number;
  both: boolean;
  /** The frame of the video that is seen. */
  frame: number;
  running: boolean;
  rocking: boolean;
  /** How fast, as a number of paces. */
  pace: number;
  /** The stretch it is held to, both frames of it; not given: the whole play. */
  stretch?: { from: number; to: number };
  looped: boolean;
  trouble?: string;
}

/** What stays from play to play: the camera, and how it runs. */
export type Habits = Pick<DeckState, "view" | "both" | "running" | "pace" | "looped">;
export const usual = (): Habits => ({
  view: 0,
  both: false,
  running: false,
  pace: paces.length - 1,
  looped: false,
});

const why = (e: unknown) => (e instanceof Error ? e.message : String(e));

/**
 * The hand on the picture: one play as its cameras saw it, run and stepped. It is no part of the page's state: a frame
 * goes by thirty times a second.
 */
export class Deck {
  private state: DeckState;
  private still: DeckState;
  private readonly reels = new Map<number, Reel>();
  private readonly listeners = new Set<() => void>();
  private stopRocking?: () => void;
  readonly shots: readonly Shot[];

  private readonly habits: Habits;

  /** A deck of a play; at is where it begins, else shortly before the snap. What is chosen is put into the habits. */
  constructor(shots: readonly Shot[], habits: Habits, at?: { clip_id: string; frame: number }) {
    this.shots = shots;
    this.habits = habits;
    const known = shots.findIndex((s) => s.clip.id === at?.clip_id);
    const view = known >= 0 ? known : Math.min(habits.view, shots.length - 1);
    const { clip } = shots[view]!;
    const frame = known >= 0 ? at!.frame : (clip.snap ?? clip.first) - 12;
    this.state = {
      ...habits,
      view,
      running: known < 0 && habits.running,
      frame: Math.max(clip.first, Math.min(clip.last, frame)),
      rocking: false,
    };
    this.still = this.state;
  }

  now = () => this.state;
  /** The same, but that frames that go by do not change it: for what need not be painted thirty times a second. */
  calm = () => this.still;
  listen = (l: () => void) => {
    this.listeners.add(l);
    return () => void this.listeners.delete(l);
  };
  private put(next: Partial<DeckState>) {
    this.state = { ...this.state, ...next };
    const passes = (this.state.running || this.state.rocking) && Object.keys(next).join() === "frame";
    if (!passes) this.still = this.state;
    const { view, both, pace, looped } = this.state;
    Object.assign(this.habits, { view, both, pace, looped });
    for (const l of this.listeners) l();
  }

  get shot(): Shot {
    return this.shots[this.state.view]!;
  }
  /** The views that are seen now. */
  get seen(): number[] {
    const { view, both } = this.state;
    return both && this.shots.length > 1 ? [view, (view + 1) % this.shots.length] : [view];
  }

  /** Gives a view the elements it is shown in. */
  attach(view: number, pane: { video: HTMLVideoElement; canvas: HTMLCanvasElement }): () => void {
    let left = false;
    const shot = this.shots[view]!;
    playable(shot.film)
      .then((url) => {
        if (left) return;
        const reel = new Reel(shot, url, pane.video, pane.canvas, (f) => this.passed(view, f));
        this.reels.set(view, reel);
        this.put({ trouble: undefined });
        if (view === this.state.view && this.state.running) void this.goOn();
        else void this.show(reel, view);
      })
      .catch((e: unknown) => !left && this.put({ trouble: why(e), running: false }));
    return () => {
      left = true;
      this.stopRocking?.();
      this.stopRocking = undefined;
      this.reels.get(view)?.close();
      this.reels.delete(view);
    };
  }

  private show(reel: Reel, view: number): Promise<void> {
    const frame =
      view === this.state.view ? this.state.frame : alongside(this.state.frame, this.shot, this.shots[view]!);
    return reel.show(frame).catch((e: unknown) => this.put({ trouble: why(e) }));
  }

  private showAll() {
    for (const [view, reel] of this.reels) void this.show(reel, view);
  }

  private bounds() {
    const { clip } = this.shot;
    return this.state.stretch ?? { from: clip.first, to: clip.last };
  }

  /** A frame went by of the view that runs, or is rocked. */
  private passed(view: number, frame: number) {
    if (view !== this.state.view) return;
    this.put({ frame });
    if (this.state.rocking) {
      for (const [v, reel] of this.reels) if (v !== view) void this.show(reel, v);
      return;
    }
    if (!this.state.running) return;
    const { from, to } = this.bounds();
    if (frame < to) {
      for (const [v, reel] of this.reels)
        if (v !== view) reel.follow(alongside(frame, this.shot, this.shots[v]!), paces[this.state.pace]!);
      return;
    }
    const { looped, stretch } = this.state;
    if (looped || stretch) {
      this.put({ frame: from });
      this.showAll();
      void this.goOn();
    } else {
      this.put({ running: false, frame: to });
      this.showAll();
    }
  }

  /** Runs the view that is seen, once its reel is there. */
  private async goOn() {
    const reel = this.reels.get(this.state.view);
    if (!reel) return;
    try {
      await this.show(reel, this.state.view);
      if (!this.state.running) return;
      await reel.run(paces[this.state.pace]!);
    } catch (e) {
      this.put({ running: false, trouble: why(e) });
    }
  }

  private stop() {
    this.stopRocking?.();
    this.stopRocking = undefined;
    if (this.state.running || this.state.rocking) this.put({ running: false, rocking: false });
  }

  /** Goes to a frame and stands. */
  to(frame: number) {
    this.stop();
    const { clip } = this.shot;
    this.put({ frame: Math.max(clip.first, Math.min(clip.last, frame)) });
    this.showAll();
  }
  step(by: number) {
    this.to(this.state.frame + by);
  }
  snap() {
    this.to(this.shot.clip.snap ?? this.shot.clip.first);
  }

  /** Runs, or stands. From the end it begins anew. */
  toggle() {
    this.habits.running = !this.state.running;
    if (this.state.running) return this.to(this.state.frame);
    this.stop();
    const { from, to } = this.bounds();
    const frame = this.state.frame >= to || this.state.frame < from ? from : this.state.frame;
    this.put({ running: true, frame });
    void this.goOn();
  }

  faster(by: 1 | -1) {
    this.pace(Math.max(0, Math.min(paces.length - 1, this.state.pace + by)));
  }
  private pace(pace: number) {
    this.put({ pace });
    if (this.state.running) void this.reels.get(this.state.view)?.run(paces[pace]!);
  }

  /** The next slower pace, and after the slowest the fastest. */
  cycle() {
    this.pace((this.state.pace + paces.length - 1) % paces.length);
  }

  /** Runs back and forth around where it stands while the hand holds the key. */
  rock(on: boolean) {
    if (on === this.state.rocking) return;
    if (!on) return this.to(this.state.frame);
    this.stop();
    const reel = this.reels.get(this.state.view);
    if (!reel) return;
    this.put({ rocking: true });
    this.stopRocking = reel.rock(paces[this.state.pace]!);
  }

  /** The other camera, at the same moment. */
  other() {
    if (this.shots.length < 2) return;
    const { running } = this.state;
    this.stop();
    const from = this.shot;
    const view = (this.state.view + 1) % this.shots.length;
    const there = (f: number) => alongside(f, from, this.shots[view]!);
    const { stretch } = this.state;
    this.put({
      view,
      running,
      frame: there(this.state.frame),
      stretch: stretch && { from: there(stretch.from), to: there(stretch.to) },
    });
    if (running && this.reels.has(view)) void this.goOn();
    else this.showAll();
  }
  beside() {
    if (this.shots.length > 1) this.put({ both: !this.state.both });
  }

  loop() {
    this.put(this.state.stretch ? { stretch: undefined, looped: false } : { looped: !this.state.looped });
  }
  /** The stretch that is gone through again and again begins, or ends, here. */
  mark(end: "from" | "to") {
    const { from, to } = this.bounds();
    const f = this.state.frame;
    const stretch =
      end === "from"
        ? { from: f, to: to > f ? to : this.shot.clip.last }
        : { from: from < f ? from : this.shot.clip.first, to: f };
    if (stretch.to > stretch.from) this.put({ stretch });
  }
}
