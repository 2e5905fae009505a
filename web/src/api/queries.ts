import { infiniteQueryOptions, queryOptions } from "@tanstack/react-query";
import { api, data, keepToken, type Schemas } from "./client";

/** The kinds of entries of the teaching library. */
export type Kind = Schemas["EntryKind"];

/** Server state as typed options: the key and the fetcher stand together. */
export const queries = {
  session: () =>
    queryOptions({
      queryKey: ["session"],
      queryFn: async () => {
        const session = await data(api.GET("/session"));
        keepToken(session.csrf);
        return session;
      },
      staleTime: Infinity,
    }),
  demoStaff: () =>
    queryOptions({
      queryKey: ["demo-staff"],
      queryFn: () => data(api.GET("/demo/staff")),
      staleTime: Infinity,
    }),
  account: () =>
    queryOptions({ queryKey: ["account"], queryFn: () => data(api.GET("/account")), staleTime: 0 }),
  staff: () => queryOptions({ queryKey: ["staff"], queryFn: () => data(api.GET("/staff")) }),
  retention: () => queryOptions({ queryKey: ["retention"], queryFn: () => data(api.GET("/retention")) }),
  club: () => queryOptions({ queryKey: ["club"], queryFn: () => data(api.GET("/club")) }),
  coaches: () =>
    queryOptions({
      queryKey: ["coaches"],
      queryFn: () => data(api.GET("/coaches")),
      staleTime: 5 * 60_000,
    }),
  usual: (group: string) =>
    queryOptions({
      queryKey: ["usual", group],
      queryFn: () => data(api.GET("/groups/{group}/usual", { params: { path: { group } } })),
      staleTime: Infinity, // an order that changes under the hand is none
    }),
  questions: () => queryOptions({ queryKey: ["questions"], queryFn: () => data(api.GET("/questions")) }),
  frame: () =>
    queryOptions({ queryKey: ["frame"], queryFn: () => data(api.GET("/frame")), staleTime: 5 * 60_000 }),
  today: (group: string, week: number) =>
    queryOptions({
      queryKey: ["today", group, week],
      queryFn: () => data(api.GET("/groups/{group}/today", { params: { path: { group }, query: { week } } })),
    }),
  players: (group: string, week: number) =>
    queryOptions({
      queryKey: ["players", group, week],
      queryFn: () =>
        data(api.GET("/groups/{group}/players", { params: { path: { group }, query: { week } } })),
    }),
  scheme: () => queryOptions({ queryKey: ["scheme"], queryFn: () => data(api.GET("/scheme")) }),
  techniqueForm: (group: string, technique: string, week: number) =>
    queryOptions({
      queryKey: ["technique-form", group, technique, week],
      queryFn: () =>
        data(
          api.GET("/groups/{group}/techniques/{key}", {
            params: { path: { group, key: technique }, query: { week } },
          }),
        ),
    }),
  roster: () => queryOptions({ queryKey: ["roster"], queryFn: () => data(api.GET("/roster/players")) }),
  availability: (player: string) =>
    queryOptions({
      queryKey: ["availability", player],
      queryFn: () => data(api.GET("/roster/players/{id}/availability", { params: { path: { id: player } } })),
    }),
  player: (id: string, group: string, week: number) =>
    queryOptions({
      queryKey: ["player", id, group, week],
      queryFn: () => data(api.GET("/players/{id}", { params: { path: { id }, query: { group, week } } })),
    }),
  evidence: (id: string, group: string, week: number, technique?: string, fault?: string) =>
    infiniteQueryOptions({
      queryKey: ["evidence", id, group, week, technique ?? "", fault ?? ""],
      queryFn: ({ pageParam }) =>
        data(
          api.GET("/players/{id}/evidence", {
            params: { path: { id }, query: { group, week, technique, fault, after: pageParam || undefined } },
          }),
        ),
      initialPageParam: "",
      getNextPageParam: (page) => page.next,
    }),
  versions: () =>
    infiniteQueryOptions({
      queryKey: ["house", "versions"],
      queryFn: ({ pageParam }) =>
        data(api.GET("/library/versions", { params: { query: { before: pageParam } } })),
      initialPageParam: undefined as number | undefined,
      getNextPageParam: (page) => page.next,
    }),
  library: (group: string) =>
    queryOptions({
      queryKey: ["library", group],
      queryFn: () => data(api.GET("/groups/{group}/library", { params: { path: { group } } })),
      staleTime: 5 * 60_000,
    }),
  drill: (group: string, drill: string, minutes?: number, lanes?: number) =>
    queryOptions({
      queryKey: ["drill", group, drill, minutes ?? 0, lanes ?? 0],
      queryFn: () =>
        data(
          api.GET("/groups/{group}/drills/{drill}", {
            params: { path: { group, drill }, query: { minutes, lanes } },
          }),
        ),
    }),
  board: (group: string, week: number) =>
    queryOptions({
      queryKey: ["board", group, week],
      queryFn: () =>
        data(api.GET("/groups/{group}/ladders", { params: { path: { group }, query: { week } } })),
    }),
  entry: (kind: Kind, key: string) =>
    queryOptions({
      queryKey: ["entry", kind, key],
      queryFn: () => data(api.GET("/library/entries/{kind}/{key}", { params: { path: { kind, key } } })),
      retry: false,
    }),
  /** What an entry as it is being typed would break. */
  entryCheck: (kind: Kind, key: string, fields: Record<string, unknown>) =>
    queryOptions({
      queryKey: ["entryCheck", kind, key, JSON.stringify(fields)],
      queryFn: () =>
        data(
          api.POST("/library/entries/{kind}/{key}/check", {
            params: { path: { kind, key } },
            body: { fields },
          }),
        ),
      retry: false,
      gcTime: 60_000,
    }),
  house: () => queryOptions({ queryKey: ["house"], queryFn: () => data(api.GET("/library/house")) }),
  find: (q: string, group: string) =>
    queryOptions({
      queryKey: ["find", q, group],
      queryFn: () => data(api.GET("/library/find", { params: { query: { q, group } } })),
      staleTime: 60_000,
    }),
  practice: (id: string, group: string) =>
    queryOptions({
      queryKey: ["practice", id, group],
      queryFn: () => data(api.GET("/practices/{id}", { params: { path: { id }, query: { group } } })),
    }),
  drillsTogether: (groups: string[], minutes: number) =>
    queryOptions({
      queryKey: ["drills-together", groups, minutes],
      queryFn: () => data(api.GET("/drills-together", { params: { query: { groups, minutes } } })),
      placeholderData: (old) => old, // a window that is dragged keeps what it offered
    }),
  templates: () => queryOptions({ queryKey: ["templates"], queryFn: () => data(api.GET("/templates")) }),
  season: () => queryOptions({ queryKey: ["season"], queryFn: () => data(api.GET("/season")) }),
  calls: () => queryOptions({ queryKey: ["calls"], queryFn: () => data(api.GET("/calls")) }),
  readiness: (group: string, week: number) =>
    queryOptions({
      queryKey: ["readiness", group, week],
      queryFn: () => data(api.GET("/readiness", { params: { query: { group, week } } })),
    }),
  callReadiness: (id: string, week: number) =>
    queryOptions({
      queryKey: ["call-readiness", id, week],
      queryFn: () => data(api.GET("/calls/{id}/readiness", { params: { path: { id }, query: { week } } })),
    }),
  lineUp: (group: string, week: number) =>
    queryOptions({
      queryKey: ["line-up", group, week],
      queryFn: () =>
        data(api.GET("/groups/{group}/line-up", { params: { path: { group }, query: { week } } })),
    }),
  suggestions: (group: string, period: string) =>
    queryOptions({
      queryKey: ["suggestions", group, period],
      queryFn: () =>
        data(
          api.GET("/groups/{group}/periods/{id}/suggestions", { params: { path: { group, id: period } } }),
        ),
    }),
  load: (group: string, week: number) =>
    queryOptions({
      queryKey: ["load", group, week],
      queryFn: () => data(api.GET("/groups/{group}/load", { params: { path: { group }, query: { week } } })),
    }),
  drillSets: (group: string) =>
    queryOptions({
      queryKey: ["drill-sets", group],
      queryFn: () => data(api.GET("/groups/{group}/drill-sets", { params: { path: { group } } })),
    }),
  calendarLinks: () =>
    queryOptions({ queryKey: ["calendar-links"], queryFn: () => data(api.GET("/calendar-links")) }),
  practiceSettings: () =>
    queryOptions({
      queryKey: ["practice-settings"],
      queryFn: () => data(api.GET("/practice-settings")),
    }),
  rotation: (id: string, placement: string, version: number) =>
    queryOptions({
      queryKey: ["rotation", id, placement, version],
      queryFn: () =>
        data(api.GET("/practices/{id}/rotation/{placement}", { params: { path: { id, placement } } })),
    }),
  gamePlays: (game: string) =>
    queryOptions({
      queryKey: ["plays", game],
      queryFn: () => data(api.GET("/games/{id}/plays", { params: { path: { id: game } } })),
    }),
  onFilm: (group: string) =>
    queryOptions({
      queryKey: ["on-film", group],
      queryFn: () => data(api.GET("/groups/{group}/footage", { params: { path: { group } } })),
    }),
  gameFootage: (game: string) =>
    queryOptions({
      queryKey: ["footage", game],
      queryFn: () => data(api.GET("/games/{id}/footage", { params: { path: { id: game } } })),
      staleTime: 60_000,
    }),
  /** Where one was in the film of a game or a drill: asked for each time it is opened. */
  watching: (subject: string) =>
    queryOptions({
      queryKey: ["watching", subject],
      queryFn: () => data(api.POST("/watching/{id}", { params: { path: { id: subject } }, body: {} })),
      retry: false,
      gcTime: 0,
      staleTime: Infinity,
    }),
  drillFootage: (placement: string) =>
    queryOptions({
      queryKey: ["footage", placement],
      queryFn: () => data(api.GET("/placements/{id}/footage", { params: { path: { id: placement } } })),
      staleTime: 60_000,
    }),
  /** The plays of a cut-up, as they are when it is opened: none vanishes under the hand that grades. */
  cut: (game: string, group: string, cut: string, blind = false) =>
    queryOptions({
      queryKey: ["cut", game, group, cut, blind],
      queryFn: () =>
        data(
          api.GET("/games/{id}/cut", {
            params: { path: { id: game }, query: blind ? { group, cut, blind } : { group, cut } },
          }),
        ),
      retry: false,
      staleTime: Infinity,
      gcTime: 0,
    }),
  feedbacks: (game: string, group: string) =>
    queryOptions({
      queryKey: ["feedback-list", game, group],
      queryFn: () =>
        data(api.GET("/games/{id}/feedback", { params: { path: { id: game }, query: { group } } })),
    }),
  feedback: (game: string, group: string, player: string) =>
    queryOptions({
      queryKey: ["feedback", game, group, player],
      queryFn: () =>
        data(
          api.GET("/games/{id}/feedback/{player}", {
            params: { path: { id: game, player }, query: { group } },
          }),
        ),
    }),
  meeting: (game: string, group: string) =>
    queryOptions({
      queryKey: ["meeting", game, group],
      queryFn: () =>
        data(api.GET("/games/{id}/meeting", { params: { path: { id: game }, query: { group } } })),
    }),
  playHistory: (game: string, play: string) =>
    queryOptions({
      queryKey: ["play-history", game, play],
      queryFn: () =>
        data(api.GET("/games/{id}/plays/{play}/history", { params: { path: { id: game, play } } })),
    }),
  labelWords: () => queryOptions({ queryKey: ["label-words"], queryFn: () => data(api.GET("/label-words")) }),
  cutUps: (group: string) =>
    queryOptions({
      queryKey: ["cut-ups", group],
      queryFn: () => data(api.GET("/groups/{group}/cut-ups", { params: { path: { group } } })),
    }),
  videos: (id: string, of: "game" | "drill" = "game") =>
    queryOptions({
      queryKey: ["videos", id],
      queryFn: () =>
        data(api.GET("/videos", { params: { query: of === "game" ? { game: id } : { placement: id } } })),
    }),
  gameSheet: (game: string, group: string, blind = false) =>
    queryOptions({
      queryKey: ["game-sheet", game, group, blind],
      queryFn: () =>
        data(
          api.GET("/games/{id}/marks", {
            params: { path: { id: game }, query: blind ? { group, blind } : { group } },
          }),
        ),
    }),
  agreement: (game: string, group: string, a?: string, b?: string) =>
    queryOptions({
      queryKey: ["agreement", game, group, a, b],
      queryFn: () =>
        data(
          api.GET("/games/{id}/agreement", {
            params: { path: { id: game }, query: a && b ? { group, a, b } : { group } },
          }),
        ),
    }),
  markSheet: (id: string) =>
    queryOptions({
      queryKey: ["marks", id],
      queryFn: () => data(api.GET("/placements/{id}/marks", { params: { path: { id } } })),
    }),
};

const ready = ["readiness", "call-readiness", "suggestions"];
const taught = [
  ...ready,
  "game-sheet",
  "agreement",
  "calls",
  "library",
  "drills-together",
  "drill",
  "board",
  "entry",
  "house",
  "find",
  "practice",
  "today",
  "player",
  "players",
];
const people = [
  ...ready,
  "game-sheet",
  "agreement",
  "load",
  "line-up",
  "roster",
  "availability",
  "players",
  "player",
  "practice",
  "rotation",
  "today",
  "board",
  "marks",
  "drill",
];
const planned = ["practice", "rotation", "today", "board", "drill", "marks", "suggestions", "load"];
// A day that moves takes its marks along.
const calendar = [
  ...planned,
  ...ready,
  "plays",
  "game-sheet",
  "agreement",
  "season",
  "frame",
  "players",
  "player",
  "evidence",
  "technique-form",
];
const standing = [...ready, "board", "player", "today", "marks"];

/** What has to be read anew after an operation of the contract has changed something. */
const affects: Record<string, string[]> = {
  putPlacements: planned,
  putPeriod: [...planned, "season", "readiness"],
  deletePeriod: [...planned, "season", "readiness"],
  putPracticeSettings: ["practice-settings", "practice", "season"],
  putPractice: calendar,
  deletePractice: calendar,
  putGame: calendar,
  deleteGame: calendar,
  putCall: ["calls", "game-sheet", "agreement", ...ready],
  deleteCall: ["calls", "game-sheet", "agreement", ...ready],
  putLineUp: ["line-up", ...ready],
  putDrillSet: ["drill-sets", "suggestions"],
  deleteDrillSet: ["drill-sets", "suggestions"],
  putHeat: ["practice"],
  putTemplate: ["templates"],
  deleteTemplate: ["templates"],
  putCalendarLink: ["calendar-links"],
  revokeCalendarLink: ["calendar-links"],
  putFix: planned,
  moveLadder: planned,
  importBundle: [
    ...calendar,
    "footage",
    "videos",
    "questions",
    "feedback",
    "feedback-list",
    "meeting",
    "play-history",
  ],
  putLabelWord: [
    "label-words",
    "cut",
    "play-history",
    "feedback",
    "meeting",
    "plays",
    "game-sheet",
    "evidence",
  ],
  deleteLabelWord: ["label-words", "cut"],
  putCutUp: ["cut-ups"],
  deleteCutUp: ["cut-ups"],
  putPlay: [
    "label-words",
    "play-history",
    "feedback",
    "meeting",
    "plays",
    "game-sheet",
    "agreement",
    "evidence",
    "today",
  ],
  putFeedback: ["feedback", "feedback-list", "meeting"],
  deleteFeedback: ["feedback", "feedback-list", "meeting"],
  putMeeting: ["meeting"],
  putFilm: ["videos", "footage"],
  deleteFilm: ["videos", "footage"],
  putClip: ["videos", "footage"],
  deleteClip: ["videos", "footage"],
  putDrawing: ["footage"],
  deleteDrawing: ["footage"],
  deletePlay: ["footage", "plays", "game-sheet", "agreement", "today"],
  postMarks: [
    ...ready,
    "questions",
    "feedback",
    "feedback-list",
    "meeting",
    "marks",
    "game-sheet",
    "agreement",
    "plays",
    "practice",
    "today",
    "players",
    "player",
    "evidence",
    "board",
    "technique-form",
  ],
  putAccount: ["account", "session", "staff", "coaches"],
  putStaffRules: ["staff", "session"],
  join: ["staff", "coaches"],
  putMember: ["staff", "coaches", "session", "frame"],
  removeMember: ["staff", "coaches"],
  eraseMember: ["staff", "audit"],
  endMemberSessions: ["staff"],
  invite: ["staff"],
  revokeInvite: ["staff"],
  putClub: ["club", "frame"],
  putRetention: ["retention"],
  erasePerson: [...people, "evidence", "videos", "footage"],
  putGroup: ["club", "frame", "roster"],
  deleteGroup: ["club", "frame"],
  putScheme: ["scheme"],
  judgeMarks: [...ready, "scheme", "today", "players", "player", "evidence", "board", "technique-form"],
  putEntry: [...taught, "marks"],
  restoreHouse: [...taught, "marks"],
  importLibrary: [...taught, "marks"],
  putPlayer: people,
  mergePlayers: [...people, "evidence"],
  importRoster: people,
  decideProposal: people,
  putSpell: people,
  withdrawSpell: people,
  recordClearance: people,
  addOverride: standing,
  withdrawOverride: standing,
  putOwnRange: standing,
  withdrawOwnRange: standing,
};

/** What is worked out from many records at once: it is read anew a moment after the last of several changes. */
export const workedOut = [
  ...ready,
  "load",
  "today",
  "board",
  "players",
  "player",
  "evidence",
  "technique-form",
];

/** The first parts of the keys of all that an operation makes old; undefined: it is not known, everything. */
export const madeOldBy = (operation: string): string[] | undefined => affects[operation];
