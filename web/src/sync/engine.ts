import { Awaited, type Settled } from "./awaited";
import { contentOf, looksLike, step, type About, type Rec } from "./machine";
import { memoryShelf } from "./memory";
import { Patience } from "./patience";
import type { Act, Kept, Outcome, Outgoing, Ports, Shelf, Told } from "./ports";

const sendsAtOnce = 4;

/** How the saving stands, in one place for every screen. */
export interface Saving {
  /** Records of which something waits and will be saved without the coach. */
  waiting: number;
  /** Records that wait for the coach: refused, or changed by two. */
  troubled: number;
  /** Why it waits, when something is wrong. */
  why?: string;
  signedOut: boolean;
  /** The device keeps nothing: what waits lives as long as this page. */
  pageOnly?: boolean;
  /** When something was saved last on this page. */
  savedAt?: Date;
}

/** What a record shall be. */
export interface Edit {
  key: string;
  kind: string;
  content: unknown;
  /** What it is made on: the version that the screen knows. */
  base: string;
  about?: About;
  id?: string;
}

/**
 * The one way to save. What is changed is shown at once, kept on the device, and sent by one of the tabs: the
 * changes of a record one after the other, records independently of each other. Nothing leaves before the server
 * has answered for it or the coach has let it go.
 */
export class Engine {
  private readonly ports: Ports;
  private shelf: Shelf;
  private stored = new Map<string, Rec>(); // as the shelf has it, as far as this tab has heard
  private revs = new Map<string, number>();
  private local: Act[] = []; // on their way to the shelf
  private view: ReadonlyMap<string, Rec> = new Map();
  private bases = new Map<string, string>(); // what was saved last stands on this
  private flying = new Set<string>();
  private flights = 0;
  private keeping: Promise<unknown> = Promise.resolve();
  private readonly patience = new Patience();
  private readonly awaited = new Awaited();
  private listeners = new Set<() => void>();
  private leading = false;
  private stopTimer: (() => void) | undefined;
  private state: Saving = { waiting: 0, troubled: 0, signedOut: false };
  private why: string | undefined;
  private told: Saving = this.state;

  constructor(ports: Ports) {
    this.ports = ports;
    this.shelf = ports.shelf;
    ports.hear((told) => this.heard(told));
  }

  /** Takes up what waits from before. */
  async start(): Promise<void> {
    try {
      this.take(await this.shelf.all());
    } catch {
      this.shelf = memoryShelf();
      this.state = { ...this.state, pageOnly: true };
    }
    this.ports.lead(() => {
      this.leading = true;
      void this.look();
    });
  }

  /** Looks at the shelf: a tab that is gone may have put something there and told nobody. */
  private async look() {
    this.take(await this.shelf.all());
    this.pump();
  }

  listen = (told: () => void) => {
    this.listeners.add(told);
    return () => this.listeners.delete(told);
  };
  saving = (): Saving => this.state;
  records = (): ReadonlyMap<string, Rec> => this.view;
  record = (key: string): Rec | undefined => this.view.get(key);

  /** What is to be made the base of a change, given the one that the screen knows. */
  baseOf(key: string, known: string): string {
    const own = this.bases.get(key);
    if (own === undefined) return known;
    const [a, b] = [Number(own), Number(known)];
    // What is no number is told by the screen, which knows of what others did.
    if (Number.isNaN(a) || Number.isNaN(b)) return known || own;
    return String(Math.max(a, b));
  }

  /** The version that was saved here last, if one was. */
  ownBase = (key: string): string | undefined => this.bases.get(key);

  /** Says that something this coach did elsewhere has made a version of a record: what he does next is made on it. */
  own = (key: string, version: string) => void this.bases.set(key, this.baseOf(key, version));

  /** Makes contents what records shall be: one act of the coach. It returns the ids of the changes. */
  edit(edits: Edit[]): string[] {
    const madeAt = this.ports.now().toISOString();
    const ids: string[] = [];
    const acts = edits.map((e): Act => {
      const id = e.id ?? this.ports.newId();
      ids.push(id);
      return {
        key: e.key,
        action: {
          do: "edit",
          kind: e.kind,
          id,
          content: e.content,
          base: this.baseOf(e.key, e.base),
          madeAt,
          about: e.about,
        },
      };
    });
    for (const e of edits) this.patience.forget(e.key);
    void this.apply(acts);
    return ids;
  }

  /** Makes one change and says what became of it, however long that takes. */
  submit(edit: Edit): Promise<Settled> {
    const [id] = this.edit([edit]);
    return this.awaited.outcome(edit.key, id!);
  }

  /** At a conflict: this content is saved over theirs. */
  settle(key: string, content: unknown): Promise<Settled> {
    const over = this.view.get(key)?.head.id;
    if (!over) return Promise.resolve({ is: "replaced" });
    const id = this.ports.newId();
    const madeAt = this.ports.now().toISOString();
    void this.apply([{ key, action: { do: "settle", over, id, content, madeAt } }]);
    return this.awaited.outcome(key, id);
  }

  /** Lets go of what is not saved of a record. */
  drop(key: string) {
    const id = this.view.get(key)?.head.id;
    if (id) void this.apply([{ key, action: { do: "drop", id } }]);
  }

  /** Tries what was refused once more. */
  again(key: string) {
    const rec = this.view.get(key);
    if (rec?.trouble?.why !== "refused") return;
    const { kind, head, about } = rec;
    this.edit([{ key, kind, content: head.content, base: head.base, about }]);
  }

  /** The way to the server is open again, or somebody has signed in: nothing waits any longer. */
  wake = () => {
    this.patience.end();
    this.setWhy(undefined, false);
    void this.look();
  };

  /** Whether something is not even kept on the device yet. */
  get unkept(): boolean {
    const typed = this.local.some((a) => a.action.do === "edit" || a.action.do === "settle");
    return typed || (!!this.state.pageOnly && this.view.size > 0);
  }

  /** Waits until all that was changed is kept on the device. */
  async kept(): Promise<void> {
    while (this.local.length > 0) await this.keeping;
  }

  private apply(acts: Act[]): Promise<Kept[]> {
    const kept = this.putAside(acts);
    this.keeping = kept.catch(() => undefined);
    return kept;
  }

  private async putAside(acts: Act[]): Promise<Kept[]> {
    this.local.push(...acts);
    this.refresh(acts.map((a) => a.key));
    const kept = await this.onShelf(acts);
    for (const a of acts) this.local.splice(this.local.indexOf(a), 1);
    this.take(kept);
    this.ports.tell({ is: "kept", kept });
    this.pump();
    return kept;
  }

  /** Puts acts on the shelf; on one in memory when the device's own gives way. */
  private async onShelf(acts: Act[]): Promise<Kept[]> {
    try {
      return await this.shelf.apply(acts);
    } catch (e) {
      if (this.state.pageOnly) throw e;
      const last = Math.max(0, ...this.revs.values());
      this.shelf = memoryShelf([...this.stored.values()], last);
      this.state = { ...this.state, pageOnly: true };
      return this.shelf.apply(acts);
    }
  }

  private heard(told: Told) {
    if (told.is === "kept") {
      this.take(told.kept);
      this.pump();
      return;
    }
    this.bases.set(told.key, told.base);
    this.onSaved(told.kind, told.key, told.content, told.answer);
    this.awaited.saved(told.key, told.id, told.answer);
  }

  private onSaved(kind: string, key: string, content: unknown, answer: unknown) {
    this.state = { ...this.state, savedAt: this.ports.now() };
    this.ports.saved(kind, key, content, answer);
  }

  private take(kept: Kept[]) {
    for (const { key, rev, rec } of kept) {
      if ((this.revs.get(key) ?? 0) >= rev) continue; // heard already, or older than what was
      this.revs.set(key, rev);
      if (rec) this.stored.set(key, rec);
      else this.stored.delete(key);
    }
    this.refresh(kept.map((k) => k.key));
  }

  /** Works out what is shown: what is on the shelf, with what is on its way there. */
  private refresh(keys: string[]) {
    const view = new Map(this.view);
    let news = false;
    for (const key of new Set(keys)) {
      let rec = this.stored.get(key);
      for (const a of this.local) if (a.key === key) rec = step(rec, key, a.action);
      // That it is on its way now is nothing that a screen shows.
      if (!looksLike(view.get(key), rec)) {
        news = true;
        if (rec) view.set(key, rec);
        else view.delete(key);
      }
      // While its answer is being taken in, or it is on its way to the shelf, a change is still to come.
      this.awaited.look(key, rec, (id) => this.flying.has(key) || this.isLocal(id));
    }
    if (news) this.view = view;
    this.say(news);
  }

  private isLocal(id: string): boolean {
    return this.local.some((a) => "id" in a.action && a.action.id === id);
  }

  private setWhy(why: string | undefined, signedOut: boolean) {
    this.why = why;
    this.state = { ...this.state, signedOut };
    this.say();
  }

  private say(news = true) {
    let waiting = 0;
    let troubled = 0;
    for (const rec of this.view.values()) {
      if (rec.trouble) troubled++;
      else waiting++;
    }
    const why = waiting > 0 ? this.why : undefined;
    const s = this.state;
    if (s.waiting !== waiting || s.troubled !== troubled || s.why !== why)
      this.state = { ...s, waiting, troubled, why };
    if (news || this.state !== this.told) for (const told of this.listeners) told();
    this.told = this.state;
  }

  /** Sends what can be sent. */
  private pump() {
    if (!this.leading || this.state.signedOut) return;
    const now = this.ports.now().getTime();
    const paused = this.patience.paused(now);
    if (paused > 0) {
      this.wakeIn(paused); // a timer may come a moment early
      return;
    }
    const byKind = new Map<string, Rec[]>();
    let soonest = Infinity;
    for (const rec of this.stored.values()) {
      if (rec.trouble || this.flying.has(rec.key)) continue;
      const left = this.patience.left(rec.key, now);
      if (left > 0) {
        soonest = Math.min(soonest, left);
        continue;
      }
      byKind.set(rec.kind, [...(byKind.get(rec.kind) ?? []), rec]);
    }
    for (const [kind, list] of byKind) {
      // One that failed by itself does not take others along.
      const alone = list.filter((r) => this.patience.failed(r.key));
      const rest = list.filter((r) => !this.patience.failed(r.key));
      const size = this.ports.batchOf(kind);
      const batches = alone.map((r) => [r]);
      for (let i = 0; i < rest.length; i += size) batches.push(rest.slice(i, i + size));
      for (const batch of batches) if (this.flights < sendsAtOnce) void this.fly(kind, batch);
    }
    if (soonest < Infinity) this.wakeIn(soonest);
  }

  private async fly(kind: string, batch: Rec[]) {
    this.flights++;
    for (const r of batch) this.flying.add(r.key);
    try {
      const kept = await this.apply(
        batch.map((r) => ({ key: r.key, action: { do: "sending", id: r.head.id } })),
      );
      const out: Outgoing[] = [];
      kept.forEach(({ key, rec }, i) => {
        // It may have been changed or let go while it was on its way to the shelf.
        if (rec && !rec.trouble && rec.head.sent && rec.head.id === batch[i]!.head.id)
          out.push({ ...rec.head, key });
      });
      if (out.length > 0) await this.landed(kind, out, await this.sendOut(kind, out));
    } finally {
      this.flights--;
      for (const r of batch) this.flying.delete(r.key);
      this.refresh(batch.map((r) => r.key));
      this.pump();
    }
  }

  private async sendOut(kind: string, out: Outgoing[]): Promise<Outcome[]> {
    try {
      return await this.ports.send(kind, out);
    } catch {
      return out.map(() => ({ is: "later", why: "this could not be sent, trying again", everything: false }));
    }
  }

  private async landed(kind: string, out: Outgoing[], outcomes: Outcome[]) {
    const acts: Act[] = [];
    let heardOf = false;
    out.forEach((change, i) => {
      const { key, id, content } = change;
      const o = outcomes[i] ?? { is: "later", why: "no answer", everything: false };
      switch (o.is) {
        case "saved":
          heardOf = true;
          this.patience.forget(key);
          this.bases.set(key, o.base);
          this.onSaved(kind, key, content, o.answer);
          this.ports.tell({ is: "saved", key, kind, id, content, base: o.base, answer: o.answer });
          this.awaited.saved(key, id, o.answer);
          acts.push({ key, action: { do: "saved", id, base: o.base } });
          break;
        case "trouble":
          heardOf = true;
          this.patience.forget(key);
          this.bases.delete(key);
          acts.push({ key, action: { do: "trouble", id, trouble: o.trouble } });
          break;
        case "signedOut":
          this.setWhy("you are signed out", true);
          break;
        case "later":
          this.postpone(key, o);
      }
    });
    if (heardOf) {
      this.patience.answered();
      if (this.patience.none) this.setWhy(undefined, this.state.signedOut);
    }
    if (acts.length === 0) return;
    // Who reads what was saved has heard of it before what waited is gone: nothing flickers.
    await Promise.resolve();
    await this.apply(acts);
  }

  private postpone(key: string, o: Outcome & { is: "later" }) {
    const now = this.ports.now().getTime();
    if (this.patience.postpone(key, o, now)) this.wakeIn(this.patience.paused(now));
    this.setWhy(o.why, false);
  }

  private wakeIn(ms: number) {
    this.stopTimer?.();
    this.stopTimer = this.ports.later(ms, () => this.pump());
  }

  /** The content shown of a record: what waits of it, else what the server has. */
  shown<C>(key: string, server: C): C {
    const rec = this.view.get(key);
    return rec ? (contentOf(rec) as C) : server;
  }
}
