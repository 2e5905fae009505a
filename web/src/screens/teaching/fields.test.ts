import { describe, expect, it } from "vitest";
import { keyFrom, shown } from "./fields";
import { reorder } from "@/kit/reorder";

describe("keyFrom", () => {
  it("makes a key of any name", () => {
    expect(keyFrom("Our Bag Drill!")).toBe("own_our_bag_drill");
    expect(keyFrom("Früher Stoß 2")).toBe("own_fru_her_sto_2");
    expect(keyFrom("!!")).toBe("");
  });
});

describe("shown", () => {
  it("words values", () => {
    expect(shown(["a", "b"])).toBe("a, b");
    expect(shown(undefined)).toBe("–");
    expect(shown(false)).toBe("false");
    expect(shown([{ a: 1 }])).toContain('"a": 1');
  });
});

describe("reorder", () => {
  it("moves a stage and keeps the others in order", () => {
    expect(reorder(["a", "b", "c", "d"], 0, 2)).toEqual(["b", "c", "a", "d"]);
    expect(reorder(["a", "b", "c"], 2, 0)).toEqual(["c", "a", "b"]);
    expect(reorder(["a", "b"], 0, 5)).toEqual(["b", "a"]);
    expect(reorder(["a", "b"], 1, -3)).toEqual(["b", "a"]);
  });
});
