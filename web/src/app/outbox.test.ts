import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { Problem } from "@/api/client";
import { Outbox, type MarkInput, type Shelf } from "./outbox";

function memoryShelf(): Shelf {
  const marks = new Map<string, MarkInput>();
  return {
    all: () => [...marks.values()].sort((a, b) => (a.id < b.id ? -1 : 1)),
    add: (m) => void marks.set(m.id, m),
    drop: (id) => void marks.delete(id),
  };
}

const mark = (id: string): MarkInput => ({ id, placement_id: "p", player_id: "x", rep: 1, state: "looked" });

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

describe("outbox", () => {
  it("drops a mark only when the server has answered for it", async () => {
    const shelf = memoryShelf();
    let answer: (ids: string[]) => void = () => undefined;
    const box = new Outbox(shelf, () => new Promise((done) => (answer = done)));
    box.add([mark("1"), mark("2")]);
    expect(box.waiting().size).toBe(2);
    await vi.advanceTimersByTimeAsync(1);
    answer(["1"]);
    await vi.advanceTimersByTimeAsync(1);
    expect([...box.waiting()]).toEqual(["2"]);
    await vi.advanceTimersByTimeAsync(1);
    answer(["2"]);
    await vi.advanceTimersByTimeAsync(1);
    expect(box.waiting().size).toBe(0);
  });

  it("tries again when there is no answer, in the order of time, and loses nothing", async () => {
    const sent: string[][] = [];
    let up = false;
    const box = new Outbox(memoryShelf(), async (marks) => {
      sent.push(marks.map((m) => m.id));
      if (!up) throw new Problem("The server does not answer", 0);
      return marks.map((m) => m.id);
    });
    box.add([mark("2")]);
    await vi.advanceTimersByTimeAsync(400);
    box.add([mark("1")]);
    up = true;
    await vi.advanceTimersByTimeAsync(10_000);
    expect(box.waiting().size).toBe(0);
    expect(sent.at(-1)).toEqual(["1", "2"]);
  });

  it("refuses the one mark that is wrong and saves the others", async () => {
    const saved: string[] = [];
    const box = new Outbox(memoryShelf(), async (marks) => {
      if (marks.some((m) => m.id === "2")) throw new Problem("No such player", 422);
      saved.push(...marks.map((m) => m.id));
      return marks.map((m) => m.id);
    });
    box.add([mark("1"), mark("2"), mark("3")]);
    await vi.advanceTimersByTimeAsync(1);
    expect(saved).toEqual(["1", "3"]);
    expect(box.refused.map((r) => [r.mark.id, r.reason])).toEqual([["2", "No such player"]]);
    expect(box.waiting().size).toBe(0);
  });

  it("finds what an earlier page left on the shelf", async () => {
    const shelf = memoryShelf();
    shelf.add(mark("1"));
    const box = new Outbox(shelf, async (marks) => marks.map((m) => m.id));
    expect(box.waiting().size).toBe(1);
    await box.flush();
    expect(box.waiting().size).toBe(0);
  });
});
