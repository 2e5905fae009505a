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
    super(detail ? `${title}. ${detail}` : title);
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

/** The token, for the few requests that are not made through the client. */
function token(): string {
  return csrf;
}

const addToken: Middleware = {
  onRequest({ request }) {
    if (request.method !== "GET") request.headers.set("X-CSRF-Token", csrf);
    return request;
  },
};

export const api = createClient<paths>({ baseUrl: "/api/v1" });
api.use(addToken);

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

/** Sends a form with a file. */
export async function upload<T>(path: string, form: FormData): Promise<T> {
  const response = await fetch(`/api/v1${path}`, {
    method: "POST",
    body: form,
    headers: { "X-CSRF-Token": token() },
  });
  const body: unknown = await response.json().catch(() => undefined);
  if (!response.ok) throw problemFrom(body, response.status);
  return body as T;
}
