import { describe, expect, it, vi } from "vitest";

describe("what is asked by its version", () => {
  it("is what it was, though another answer to the same question is still being read", async () => {
    const answers: ((r: Response) => void)[] = [];
    const asked: (string | null)[] = [];
    vi.stubGlobal("fetch", (request: Request) => {
      asked.push(request.headers.get("If-None-Match"));
      return new Promise<Response>((answer) => answers.push(answer));
    });
    vi.stubGlobal("location", new URL("http://nine.yard/"));
    const { clientOf } = await import("./client");
    const api = clientOf("http://nine.yard/api/v1");
    const read = () => api.GET("/frame").then((x) => [x.response.status, x.data?.club]);
    const frame = (club: string, tag: string) =>
      new Response(JSON.stringify({ club }), {
        headers: { ETag: tag, "Content-Type": "application/json" },
      });
    const next = () => vi.waitFor(() => answers.shift() ?? Promise.reject(new Error("nothing was asked")));

    const first = read();
    (await next())(frame("Marrow Point", "a"));
    expect(await first).toEqual([200, "Marrow Point"]);
    const [one, other] = [read(), read()];
    const [toOne, toOther] = [await next(), await next()];
    expect(asked).toEqual([null, "a", "a"]);
    // The body of the first takes its time, and meanwhile the second is told that nothing was changed.
    let rest: ReadableStreamDefaultController<Uint8Array>;
    const slow = new ReadableStream<Uint8Array>({ start: (c) => void (rest = c) });
    toOne(new Response(slow, { headers: { ETag: "b", "Content-Type": "application/json" } }));
    await new Promise((done) => setTimeout(done));
    toOther(new Response(null, { status: 304 }));
    expect(await other).toEqual([200, "Marrow Point"]);
    rest!.enqueue(new TextEncoder().encode('{"club": "Lamplighters"}'));
    rest!.close();
    expect(await one).toEqual([200, "Lamplighters"]);
    vi.unstubAllGlobals();
  });
});
