import { QueryClient, QueryObserver } from "@tanstack/react-query";
import { describe, expect, it } from "vitest";
import { makeOld } from "./old";

/** A screen's query whose answers are given by hand. */
function asked(client: QueryClient, key: string) {
  const waiting: ((answer: string) => void)[] = [];
  const options = {
    queryKey: [key],
    queryFn: () => new Promise<string>((done) => waiting.push(done)),
    staleTime: 60_000,
  };
  const screen = new QueryObserver(client, options);
  return {
    open: () => screen.subscribe(() => undefined),
    shows: () => client.getQueryData<string>([key]),
    asks: () => waiting.length,
    answer: async (n: number, is: string) => {
      waiting[n]!(is);
      await new Promise((done) => setTimeout(done, 5));
    },
  };
}

describe("what was read and is old", () => {
  it("is read once more when its first answer was under way", async () => {
    const client = new QueryClient();
    const practice = asked(client, "practice");
    practice.open();
    void makeOld(client, { queryKey: ["practice"] });
    await practice.answer(0, "without a script");
    expect(practice.shows()).toBe("without a script"); // better than nothing, for the moment
    expect(practice.asks()).toBe(2);
    await practice.answer(1, "with its script");
    expect(practice.shows()).toBe("with its script");
    expect(practice.asks()).toBe(2);
  });

  it("is read when it is opened, though it was under way as its screen was left", async () => {
    const client = new QueryClient();
    const practice = asked(client, "practice");
    practice.open()();
    void makeOld(client, { queryKey: ["practice"] });
    await practice.answer(0, "without a script");
    expect(practice.asks()).toBe(1); // nobody looks at it
    practice.open();
    expect(practice.asks()).toBe(2);
    await practice.answer(1, "with its script");
    expect(practice.shows()).toBe("with its script");
  });

  it("is begun again at once where an older answer is shown", async () => {
    const client = new QueryClient();
    const practice = asked(client, "practice");
    practice.open();
    await practice.answer(0, "first");
    void makeOld(client, { queryKey: ["practice"] });
    void makeOld(client, { queryKey: ["practice"] });
    expect(practice.asks()).toBe(3);
    await practice.answer(2, "third");
    await practice.answer(1, "second");
    expect(practice.shows()).toBe("third");
    expect(practice.asks()).toBe(3);
  });
});
