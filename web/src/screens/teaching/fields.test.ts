import { describe, expect, it } from "vitest";
import { inWords, keyFrom, shown } from "./fields";
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
    expect(shown([{ key: "k", at_most: 1, drills: ["x", "y"] }, { b: 2 }])).toBe(
      "at most 1, drills x, y\nb 2",
    );
  });
});

describe("inWords", () => {
  it("says which of a list, and says it once", () => {
    expect(inWords("stages[0].clean: stages[0].clean must be between 1 and 6, got 9")).toBe(
      "stage 1, clean must be between 1 and 6, got 9",
    );
    expect(inWords("It cannot be. stages[0].clean: stages[0].clean must be 1, got 9")).toBe(
      "It cannot be. stage 1, clean must be 1, got 9",
    );
    expect(inWords("cautions: must not be empty")).toBe("cautions: must not be empty");
    expect(inWords("space_yd: must be 2 to 200")).toBe("space yd: must be 2 to 200");
    expect(inWords("stages[2].drills[1]: no such drill")).toBe("stage 3, drill 2: no such drill");
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
