import { afterEach, describe, expect, it, vi } from "vitest";
import { outcome, outcomeOfMarks } from "./send";
import type { Outgoing } from "./ports";

vi.mock("@/app/session", () => ({ refreshToken: vi.fn(() => Promise.resolve()) }));

const answer = (status: number, body?: unknown, headers: Record<string, string> = {}) =>
  Promise.resolve({
    data: status < 300 ? body : undefined,
    error: status < 300 ? undefined : body,
    response: new Response(null, { status, headers }),
  });
const change = (id: string): Outgoing => ({ id, key: id, content: {}, base: "", madeAt: "", sent: true });

describe("what an answer means for a change", () => {
  afterEach(() => vi.clearAllMocks());
  it("is saved, on a version", async () => {
    expect(
      await outcome(answer(200, { version: 4 }), (a) => String((a as { version: number }).version)),
    ).toEqual({
      is: "saved",
      base: "4",
      answer: { version: 4 },
    });
    expect(await outcome(answer(204))).toMatchObject({ is: "saved", answer: null });
  });
  it("comes later when nothing answers, for everything", async () => {
    expect(await outcome(Promise.reject(new TypeError("Failed to fetch")))).toMatchObject({
      is: "later",
      everything: true,
    });
    expect(await outcome(answer(503, {}, { "Retry-After": "2" }))).toMatchObject({
      is: "later",
      everything: true,
      waitMs: 2000,
    });
    expect(await outcome(answer(429, {}))).toMatchObject({ is: "later", everything: true });
  });
  it("comes later for this change alone when the server broke over it", async () => {
    expect(await outcome(answer(500, { title: "Something broke" }))).toMatchObject({
      is: "later",
      everything: false,
      why: "Something broke",
    });
  });
  it("asks to sign in, or for a new token", async () => {
    expect(await outcome(answer(401))).toEqual({ is: "signedOut" });
    expect(await outcome(answer(403, { title: "old", field: "X-CSRF-Token" }))).toMatchObject({
      is: "later",
    });
  });
  it("shows both at a conflict, and why at a refusal", async () => {
    expect(await outcome(answer(409, { title: "changed by R. Kell", current: { version: 7 } }))).toEqual({
      is: "trouble",
      trouble: { why: "conflict", message: "changed by R. Kell", theirs: { version: 7 }, base: "7" },
    });
    for (const status of [400, 403, 404, 409, 413, 422])
      expect(await outcome(answer(status, { title: "No", detail: "a rule", field: "minutes" }))).toEqual({
        is: "trouble",
        trouble: { why: "refused", message: "No. a rule", status, field: "minutes" },
      });
  });
});

describe("marks that were sent together", () => {
  it("are saved or refused each by itself", async () => {
    const refused = [
      { id: "b", status: 422, title: "No", detail: "no such fault", field: "marks[1].faults[0].key" },
    ];
    expect(await outcomeOfMarks(answer(200, { saved: ["a"], refused }), [change("a"), change("b")])).toEqual([
      { is: "saved", base: "a", answer: "a" },
      {
        is: "trouble",
        trouble: { why: "refused", status: 422, message: "No. no such fault", field: "faults[0].key" },
      },
    ]);
  });
  it("are tried one by one when the whole was refused", async () => {
    const whole = () => answer(400, { title: "not understood" });
    expect(await outcomeOfMarks(whole(), [change("a"), change("b")])).toMatchObject([
      { is: "later", everything: false },
      { is: "later", everything: false },
    ]);
    expect(await outcomeOfMarks(whole(), [change("a")])).toMatchObject([{ is: "trouble" }]);
  });
});
