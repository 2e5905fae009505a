import { problemFrom, type Schemas } from "@/api/client";
import { refreshToken } from "@/app/session";
import { device } from "./device";
import type { Outcome, Outgoing } from "./ports";

const patience = 30_000; // ms after which a request is given up and made again

type Answer = { data?: unknown; error?: unknown; response: Response };

/** What every change carries. */
export const carries = (c: Outgoing) => ({
  "Change-Id": c.id,
  "Change-Made": c.madeAt,
  "Change-Sent": new Date().toISOString(),
  Device: device(),
});

/** The version a change is made on, as a header. */
export const on = (c: Outgoing) => ({ "If-Match": `"${c.base || "0"}"` });

export const soon = () => AbortSignal.timeout(patience);

/** What an answer means for a change. */
export async function outcome(
  call: Promise<Answer>,
  base: (answer: unknown) => string = () => "0",
): Promise<Outcome> {
  let answer: Answer;
  try {
    answer = await call;
  } catch {
    return { is: "later", why: "no answer, trying again", everything: true };
  }
  const { response, error, data } = answer;
  if (response.ok) return { is: "saved", base: base(data), answer: data ?? null };
  return refusal(response, error);
}

async function refusal(response: Response, error: unknown): Promise<Outcome> {
  const { status } = response;
  const p = problemFrom(error, status);
  if (status === 401) return { is: "signedOut" };
  if (status === 403 && p.field === "X-CSRF-Token") {
    await refreshToken();
    return { is: "later", why: p.message, everything: true, waitMs: 100 };
  }
  const after = Number(response.headers.get("Retry-After")) * 1000 || undefined;
  // A server that is busy, or a door before it that does not reach it, is nothing of this change's.
  if ([429, 502, 503, 504].includes(status))
    return { is: "later", why: p.message, everything: true, waitMs: after };
  if (status >= 500 || status === 408) return { is: "later", why: p.message, everything: false };
  const current = (error as { current?: unknown } | undefined)?.current;
  if (status === 409 && current !== undefined && current !== null) {
    const version = (current as { version?: number }).version ?? 0;
    return {
      is: "trouble",
      trouble: { why: "conflict", message: p.message, theirs: current, base: String(version) },
    };
  }
  return { is: "trouble", trouble: { why: "refused", message: p.message, status, field: p.field } };
}

/** The outcomes of marks that were sent together. */
export async function outcomeOfMarks(call: Promise<Answer>, changes: Outgoing[]): Promise<Outcome[]> {
  const whole = await outcome(call);
  if (whole.is !== "saved") {
    // One of them may have spoilt it for all: each is tried by itself.
    if (whole.is === "trouble" && changes.length > 1)
      return changes.map(() => ({ is: "later", why: whole.trouble.message, everything: false, waitMs: 0 }));
    return changes.map(() => whole);
  }
  const said = whole.answer as { saved: string[]; refused: Schemas["MarkRefused"][] };
  return changes.map((c): Outcome => {
    const no = said.refused.find((r) => r.id === c.id);
    if (!no) return { is: "saved", base: c.id, answer: c.id };
    return {
      is: "trouble",
      trouble: {
        why: "refused",
        status: no.status,
        message: no.detail ? `${no.title}. ${no.detail}` : no.title,
        field: no.field?.replace(/^marks\[\d+\]\./, ""),
      },
    };
  });
}
