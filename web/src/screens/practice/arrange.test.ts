import { describe, expect, it } from "vitest";
import { firstRoom, inOrder, move, resize, type Placed } from "./arrange";

const d = (id: string, start: number, minutes: number): Placed => ({
  id,
  drill: id,
  start,
  minutes,
  lanes: 1,
});
const shape = (list: Placed[]) => inOrder(list).map((x) => `${x.id}${x.start}-${x.start + x.minutes}`);

describe("arrange", () => {
  it("moves into free minutes without touching the others", () => {
    expect(shape(move([d("a", 0, 5), d("b", 5, 5)], "b", 12, 20))).toEqual(["a0-5", "b12-17"]);
  });
  it("changes places when it is moved past the middle of a neighbour", () => {
    expect(shape(move([d("a", 0, 5), d("b", 5, 5)], "b", 0, 20))).toEqual(["b0-5", "a5-10"]);
    expect(shape(move([d("a", 0, 5), d("b", 5, 5)], "a", 6, 20))).toEqual(["b5-10", "a10-15"]);
  });
  it("pushes back from the end of the period", () => {
    expect(shape(move([d("a", 0, 5), d("b", 10, 10)], "a", 14, 20))).toEqual(["b5-15", "a15-20"]);
    expect(shape(resize([d("a", 0, 5), d("b", 14, 6)], "a", 14, 20))).toEqual(["a0-14", "b14-20"]);
  });
  it("never leaves the period", () => {
    expect(shape(move([d("a", 0, 5)], "a", -9, 20))).toEqual(["a0-5"]);
    expect(shape(move([d("a", 0, 5)], "a", 99, 20))).toEqual(["a15-20"]);
    expect(shape(resize([d("a", 0, 5)], "a", 0, 20))).toEqual(["a0-1"]);
  });
  it("finds the first room that is long enough, else the longest", () => {
    expect(firstRoom([d("a", 2, 5), d("b", 12, 3)], 20, 5)).toEqual({ start: 7, minutes: 5 });
    expect(firstRoom([d("a", 0, 16)], 20, 6)).toEqual({ start: 16, minutes: 4 });
    expect(firstRoom([d("a", 0, 20)], 20, 1)).toBeNull();
  });
});
