import createClient, { type Middleware } from "openapi-fetch";
import type { components, paths } from "./schema.gen";

/** The types of the contract, by name. */
export type Schemas = components["schemas"];

/** An answer that is not the one asked for: a problem document, or no answer at all. */
export class Problem extends Error {
  readonly status: number;
  readonly field?: string;
  readonly body: unknown;
  constructor(title: string, status: number, detail?: string, field?: string, body?: unknown) {
    super(detail ? `${title.replace(/\.$/, "")}. ${detail}` : title);
    this.status = status;
    this.field = field;
    this.body = body;
  }
  /** Whether asking again later may help. */
  get passing(): boolean {
    return this.status === 0 || this.status === 429 || this.status >= 500;
  }
}

let csrf = "";

/** Keeps the request token of the session for the requests that change something. */
export function keepToken(token: string) {
  csrf = token;
}

const addToken: Middleware = {
  onRequest({ request }) {
    if (request.method !== "GET") request.headers.set("X-CSRF-Token", csrf);
    return request;
  },
};

interface Kept {
  tag: string;
  body: string;
}
const kept = new Map<string, Kept>();
const keptAtMost = 60;
/** What a request under way was asked by: its answer is held against that, whatever another one brought meanwhile. */
const askedBy = new WeakMap<Request, Kept>();

/**
 * What was read is asked for by its version: while nothing of the club was changed, the server says so and sends
 * nothing. It is kept in memory alone, since it is about people.
 */
const askByVersion: Middleware = {
  onRequest({ request }) {
    const known = request.method === "GET" ? kept.get(request.url) : undefined;
    if (known) {
      request.headers.set("If-None-Match", known.tag);
      askedBy.set(request, known);
    }
    return request;
  },
  async onResponse({ request, response }) {
    if (request.method !== "GET") return undefined;
    const known = askedBy.get(request);
    if (response.status === 304 && known)
      return new Response(known.body, { status: 200, headers: { "Content-Type": "application/json" } });
    const tag = response.headers.get("ETag");
    kept.delete(request.url);
    if (response.ok && tag) {
      kept.set(request.url, { tag, body: await response.clone().text() });
      for (const oldest of kept.keys()) {
        if (kept.size <= keptAtMost) break;
        kept.delete(oldest);
      }
    }
    return undefined;
  },
};

let onSignedOut = () => undefined as void;

/** Calls back when the server says that nobody is signed in. */
export function whenSignedOut(tell: () => void) {
  onSignedOut = tell;
}

const seeSignedOut: Middleware = {
  onResponse({ request, response }) {
    if (response.status === 401 && !/\/session$/.test(new URL(request.url).pathname)) onSignedOut();
    return undefined;
  },
};

/** Forgets all that was read: somebody else is signed in. */
export function forgetRead() {
  kept.clear();
}

/** A client of the server at an address. */
export function clientOf(baseUrl: string) {
  const client = createClient<paths>({ baseUrl });
  client.use(addToken, askByVersion, seeSignedOut);
  return client;
}

export const api = clientOf("/api/v1");

/** Turns an answer of the client into its data, or throws a Problem. */
export async function data<T>(
  call: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<NonNullable<T>> {
  let answer;
  try {
    answer = await call;
  } catch (cause) {
    if (cause instanceof DOMException && cause.name === "AbortError") throw cause;
    throw new Problem("The server does not answer", 0);
  }
  if (answer.error !== undefined || !answer.response.ok) {
    throw problemFrom(answer.error, answer.response.status);
  }
  return answer.data as NonNullable<T>;
}

export function problemFrom(body: unknown, status: number): Problem {
  const p = (typeof body === "object" && body !== null ? body : {}) as Partial<Schemas["Problem"]>;
  return new Problem(p.title ?? "The server could not do this", status, p.detail, p.field, body);
}

/** The request token of the session, for what is sent past this client. */
export const token = () => csrf;

/** Sends a form with a file. A change has an id: sent again under it, it is made once. */
export async function upload<T>(path: string, form: FormData, change?: string): Promise<T> {
  const headers: Record<string, string> = { "X-CSRF-Token": csrf };
  if (change) headers["Change-Id"] = change;
  const response = await fetch(`/api/v1${path}`, { method: "POST", body: form, headers });
  if (response.status === 401) onSignedOut();
  const body: unknown = await response.json().catch(() => undefined);
  if (!response.ok) throw problemFrom(body, response.status);
  return body as T;
}
