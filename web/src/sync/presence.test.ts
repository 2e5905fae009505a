// @vitest-environment jsdom
import { renderHook, act } from "@testing-library/react";
import { afterEach, describe, expect, it, vi } from "vitest";
import { api } from "@/api/client";
import { forget, heard, usePresence, type Here } from "./presence";

const of = (device: string, where: string, what = ""): Here => ({
  person: `p${device}`,
  name: `Coach ${device}`,
  device,
  where,
  what,
});

describe("who is where", () => {
  afterEach(() => vi.useRealTimers());
  it("tells it, answers who comes, and forgets who is not heard of any longer", () => {
    vi.useFakeTimers();
    const post = vi.spyOn(api, "POST").mockResolvedValue({ response: new Response() } as never);
    const told = () =>
      (post.mock.calls as unknown as [string, { body: Here }][]).map(([, o]) => [o.body.where, o.body.what]);
    const { result, rerender, unmount } = renderHook(({ what }) => usePresence("practice/1", what), {
      initialProps: { what: "" },
    });
    expect(told()).toEqual([["practice/1", ""]]);
    rerender({ what: "e1" });
    rerender({ what: "e2" });
    act(() => void vi.advanceTimersByTime(200));
    expect(told().at(-1)).toEqual(["practice/1", "e2"]);
    expect(told()).toHaveLength(2);

    act(() => heard(of("a", "practice/1", "e2")));
    act(() => heard(of("b", "practice/2")));
    expect(result.current.map((h) => [h.name, h.what])).toEqual([["Coach a", "e2"]]);
    act(() => void vi.advanceTimersByTime(200));
    expect(told(), "a newcomer here is answered").toHaveLength(3);
    act(() => heard(of("a", "practice/1", "e3")));
    act(() => void vi.advanceTimersByTime(200));
    expect(told(), "who was here before is not").toHaveLength(3);
    expect(result.current[0]?.what).toBe("e3");

    act(() => heard(of("a", "")));
    expect(result.current).toEqual([]);
    act(() => heard(of("a", "practice/1")));
    act(() => forget(Date.now() + 60_000));
    expect(result.current).toEqual([]);
    unmount();
    expect(told().at(-1)).toEqual(["", ""]);
  });
});
