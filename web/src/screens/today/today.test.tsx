import { describe, expect, it } from "vitest";
import type { Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { draw, textOf } from "@/parts/draw.test-util";
import { Today } from "./Today";

const practice: Schemas["PracticeRef"] = {
  id: "p1",
  date: "2026-10-13",
  title: "Tuesday practice",
  start_minute: 18 * 60,
  minutes: 120,
};
const need: Schemas["Need"] = {
  fault: "kick_leans",
  name: "Leans",
  effect: "He is pulled forward.",
  technique: "kick_slide",
  technique_name: "Kick and slide",
  severity: 2,
  safety: false,
  need: 4.25,
  rate: 0.09,
  faulty: 9,
  n: 100,
  drill: "Kick on the line",
  drill_key: "kick_line",
  planned: false,
  players: [],
};
const quiet: Schemas["Today"] = { to_grade: [], needs: [], voices: [], holds: [] };

const session = (groups: string[]) => ({
  queryKey: queries.session().queryKey,
  data: {
    csrf: "x",
    demo: true,
    user: { id: "u", name: "R. Kell", role: "coach", groups },
  } satisfies Schemas["Session"],
});
const screen = (today: Schemas["Today"], groups = ["ol"]) =>
  draw(<Today />, [
    { queryKey: queries.today("ol", 7).queryKey, data: today },
    { queryKey: queries.questions().queryKey, data: [] },
    session(groups),
  ]);
const said = (today: Partial<Schemas["Today"]>, groups?: string[]) =>
  textOf(screen({ ...quiet, ...today }, groups));

describe("Today", () => {
  it("says what is missing instead of showing nothing", () => {
    const text = said({});
    expect(text).toContain("No practice is on the calendar from here on.");
    expect(text).toContain("Nothing. All reps of the last days are marked.");
    expect(text).toContain("No faults on record in the last four weeks.");
    expect(text).toContain("That does not mean that nothing changed: small counts stay quiet");
    expect(text).not.toContain("Not at full strength");
  });
  it("shows nothing to press before it knows what stands above it", () => {
    const early = draw(<Today />, [
      { queryKey: queries.today("ol", 7).queryKey, data: quiet },
      session(["ol"]),
    ]);
    expect(textOf(early)).toBe("Fetching today");
  });
  it("leads to what is next, in minutes", () => {
    const next = { practice, drills: ["Fit and hold"], drill_minutes: 5, own_minutes: 20 };
    expect(said({ next_practice: next })).toContain("5 of your 20 minutes are planned: Fit and hold.");
    expect(said({ next_practice: next })).toContain("Plan the rest");
    const full = { ...next, drill_minutes: 20 };
    expect(said({ next_practice: full })).toContain("Open the plan");
    expect(said({ next_practice: { ...next, drills: [], drill_minutes: 0 } })).toContain(
      "Your 20 minutes are still empty.",
    );
    expect(screen({ ...quiet, next_practice: full })).toContain('href="/g/ol/w/7/practice/p1"');
  });
  it("counts reps of a drill and plays of a game, and marks the drill", () => {
    const markup = screen({
      ...quiet,
      to_grade: [
        {
          kind: "drill",
          id: "d1",
          practice_id: "p1",
          title: "Pull and kick the bag",
          date: "2026-10-06",
          expected: 30,
          graded: 6,
        },
        {
          kind: "game",
          id: "g1",
          title: "Game against Dunmere",
          date: "2026-10-10",
          expected: 1,
          graded: 0,
        },
      ],
    });
    expect(textOf(markup)).toContain("6 of 30 reps marked");
    expect(textOf(markup)).toContain("0 of 1 play marked");
    expect(markup).toContain('href="/g/ol/w/7/practice/p1/mark/d1"');
  });
  it("names a hold in words, not by colour alone", () => {
    const text = said({
      holds: [
        { player_id: "a", jersey: "66", name: "Quill", status: "head_hold", note: "Ankle" },
        { player_id: "b", jersey: "79", name: "Lund", status: "limited", note: "" },
      ],
    });
    expect(text).toContain("66 Quill ■ head-injury hold Ankle");
    expect(text).toContain("79 Lund ◧ limited, no contact");
  });
  it("says what may be claimed about whom, with the way to it", () => {
    const markup = screen({
      ...quiet,
      voices: [
        {
          player_id: "a",
          jersey: "70",
          name: "Marsh",
          technique: "kick_slide",
          technique_name: "Kick and slide",
          kind: "not_carrying",
          text: "Kick and slide is clean in practice and not in games.",
        },
      ],
    });
    expect(textOf(markup)).toContain("70 Marsh . Kick and slide is clean in practice and not in games.");
    expect(markup).toContain('href="/g/ol/w/7/players/a?technique=kick_slide"');
    expect(textOf(markup)).toContain("about one in ten is false");
  });
  it("says what may be claimed of a player over all his techniques", () => {
    const markup = screen({
      ...quiet,
      voices: [{ player_id: "a", jersey: "70", name: "Marsh", kind: "slipping", text: "He has slipped." }],
    });
    expect(textOf(markup)).toContain("▼ 70 Marsh . He has slipped.");
    expect(markup).toContain('href="/g/ol/w/7/players/a"');
  });
});

describe("what hurts most", () => {
  it("gives the figures and the drill that trains it away", () => {
    const text = said({ needs: [need] });
    expect(text).toContain("Leans 4.3");
    expect(text).toContain("Kick and slide: 9 of 100 reps, 9%");
    expect(text).toContain("Put in: Kick on the line");
  });
  it("puts safety in words and offers no button where there is nothing to do", () => {
    expect(said({ needs: [{ ...need, safety: true }] })).toContain("SAFETY");
    const planned = said({ needs: [{ ...need, planned: true }] });
    expect(planned).toContain("in the next plan");
    expect(planned).not.toContain("Put in");
    expect(said({ needs: [{ ...need, drill: undefined, drill_key: undefined }] })).not.toContain("Put in");
  });
  it("leaves another coach's practice alone", () => {
    expect(said({ needs: [need] }, ["db"])).not.toContain("Put in");
  });
});
