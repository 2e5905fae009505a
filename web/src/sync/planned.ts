import { api, type Schemas } from "@/api/client";
import { queries } from "@/api/queries";
import { each, parts, versionOf, type Kind } from "./kind";
import { carries, on, outcome, soon } from "./send";

export type Placements = Schemas["PlacementInput"][];

/** What a season and its practices are planned with. */
export const planned = {
  period: {
    name: "Plan",
    operation: () => "putPlacements",
    send: each((c) =>
      outcome(
        api.PUT("/periods/{id}/placements", {
          params: {
            path: { id: parts(c)[0] },
            query: { group: parts(c)[1] },
            header: { ...carries(c), ...on(c) },
          },
          body: { placements: c.content as Placements },
          signal: soon(),
        }),
        versionOf,
      ),
    ),
    // The answer is as the group sees it whose drills they are: other groups' views are read anew.
    saved: (client, key, _content, answer) => {
      const saved = answer as Schemas["Period"];
      const group = parts({ key })[1] ?? saved.groups[0];
      client.setQueriesData<Schemas["Practice"]>(
        { predicate: ({ queryKey: [what, , whose] }) => what === "practice" && whose === group },
        (old) =>
          old
            ? { ...old, periods: old.periods.map((p) => (p.id === saved.id ? { ...saved, own: p.own } : p)) }
            : old,
      );
    },
  },
  block: {
    name: "Period",
    operation: (content) => (content === null ? "deletePeriod" : "putPeriod"),
    send: each((c) => {
      const [id, period] = parts(c);
      const params = { path: { id, period }, header: { ...carries(c), ...on(c) } };
      if (c.content === null)
        return outcome(api.DELETE("/practices/{id}/periods/{period}", { params, signal: soon() }));
      return outcome(
        api.PUT("/practices/{id}/periods/{period}", {
          params,
          body: c.content as Schemas["PeriodInput"],
          signal: soon(),
        }),
        versionOf,
      );
    }),
    saved: (client, key, _content, answer) => {
      const [practice, id] = parts({ key });
      const { period, version } = answer as Partial<Schemas["SavedPeriod"]>;
      client.setQueriesData<Schemas["Practice"]>({ queryKey: ["practice", practice] }, (old) => {
        if (!old) return old;
        const was = old.periods.find((p) => p.id === id);
        const others = old.periods.filter((p) => p.id !== id);
        if (!period || version === undefined) return { ...old, periods: others };
        const whole: Schemas["Period"] = {
          own: false,
          editable: true,
          ...was,
          ...period,
          placements: was?.placements ?? [], // read anew with what they give
          others: was?.others ?? [],
          id,
          version,
        };
        return { ...old, periods: [...others, whole].sort((a, b) => a.start - b.start) };
      });
    },
  },
  practice: {
    name: "Practice",
    operation: (content) => (content === null ? "deletePractice" : "putPractice"),
    send: each((c) => {
      const params = { path: { id: parts(c)[0] }, header: { ...carries(c), ...on(c) } };
      if (c.content === null) return outcome(api.DELETE("/practices/{id}", { params, signal: soon() }));
      return outcome(
        api.PUT("/practices/{id}", { params, body: c.content as Schemas["PracticeInput"], signal: soon() }),
        versionOf,
      );
    }),
    saved: (client, key, content, answer) =>
      client.setQueryData(queries.season().queryKey, (old) => {
        if (!old) return old;
        const [id] = parts({ key });
        const practices = old.practices.filter((p) => p.id !== id);
        if (content !== null) practices.push(answer as Schemas["SeasonPractice"]);
        return { ...old, practices };
      }),
  },
  game: {
    name: "Game",
    operation: (content) => (content === null ? "deleteGame" : "putGame"),
    send: each((c) => {
      const params = { path: { id: parts(c)[0] }, header: { ...carries(c), ...on(c) } };
      if (c.content === null) return outcome(api.DELETE("/games/{id}", { params, signal: soon() }));
      return outcome(
        api.PUT("/games/{id}", { params, body: c.content as Schemas["GameInput"], signal: soon() }),
        versionOf,
      );
    }),
    saved: (client, key, content, answer) =>
      client.setQueryData(queries.season().queryKey, (old) => {
        if (!old) return old;
        const [id] = parts({ key });
        const games = old.games.filter((g) => g.id !== id);
        if (content !== null) games.push(answer as Schemas["SeasonGame"]);
        return { ...old, games };
      }),
  },
  settings: {
    name: "Places and limits",
    operation: () => "putPracticeSettings",
    send: each((c) =>
      outcome(
        api.PUT("/practice-settings", {
          params: { header: { ...carries(c), ...on(c) } },
          body: c.content as Schemas["PracticeSettingsInput"],
          signal: soon(),
        }),
        versionOf,
      ),
    ),
    saved: (client, _key, _content, answer) =>
      client.setQueryData(queries.practiceSettings().queryKey, answer as Schemas["PracticeSettings"]),
  },
  season: {
    name: "Dates of the season",
    operation: () => "putSeason",
    send: each((c) =>
      outcome(
        api.PUT("/season", {
          params: { header: { ...carries(c), ...on(c) } },
          body: c.content as Schemas["SeasonInput"],
          signal: soon(),
        }),
        versionOf,
      ),
    ),
  },
  calendarLink: {
    name: "Calendar address",
    operation: (content) => (content === null ? "revokeCalendarLink" : "putCalendarLink"),
    send: each((c) => {
      const params = { path: { id: parts(c)[0] }, header: carries(c) };
      if (c.content === null) return outcome(api.DELETE("/calendar-links/{id}", { params, signal: soon() }));
      return outcome(
        api.PUT("/calendar-links/{id}", {
          params,
          body: c.content as { name: string; secret: string },
          signal: soon(),
        }),
      );
    }),
  },
  drillSet: {
    name: "Set of drills",
    operation: (content) => (content === null ? "deleteDrillSet" : "putDrillSet"),
    send: each((c) => {
      const [group, id] = parts(c);
      const params = { path: { group, id }, header: { ...carries(c), ...on(c) } };
      if (c.content === null)
        return outcome(api.DELETE("/groups/{group}/drill-sets/{id}", { params, signal: soon() }));
      return outcome(
        api.PUT("/groups/{group}/drill-sets/{id}", {
          params,
          body: c.content as Schemas["DrillSetInput"],
          signal: soon(),
        }),
        versionOf,
      );
    }),
    saved: (client, key, content, answer) => {
      const [group, id] = parts({ key });
      client.setQueryData(queries.drillSets(group).queryKey, (old) => {
        const others = old?.filter((s) => s.id !== id) ?? [];
        return content === null ? others : [...others, answer as Schemas["DrillSet"]];
      });
    },
  },
  heat: {
    name: "Heat index",
    operation: () => "putHeat",
    send: each((c) => {
      const [id, reading] = parts(c);
      return outcome(
        api.PUT("/practices/{id}/heat/{reading}", {
          params: { path: { id, reading }, header: carries(c) },
          body: c.content as { index?: number },
          signal: soon(),
        }),
      );
    }),
    saved: (client, key, _content, answer) =>
      client.setQueriesData<Schemas["Practice"]>({ queryKey: ["practice", parts({ key })[0]] }, (old) =>
        old ? { ...old, heat: answer as Schemas["HeatReading"][] } : old,
      ),
  },
  template: {
    name: "Template",
    operation: (content) => (content === null ? "deleteTemplate" : "putTemplate"),
    send: each((c) => {
      const params = { path: { id: parts(c)[0] }, header: { ...carries(c), ...on(c) } };
      if (c.content === null) return outcome(api.DELETE("/templates/{id}", { params, signal: soon() }));
      return outcome(
        api.PUT("/templates/{id}", { params, body: c.content as Schemas["TemplateInput"], signal: soon() }),
        versionOf,
      );
    }),
    saved: (client, key, content, answer) =>
      client.setQueryData(queries.templates().queryKey, (old) => {
        const others = old?.filter((t) => t.id !== parts({ key })[0]) ?? [];
        return content === null ? others : [...others, answer as Schemas["Template"]];
      }),
  },
  call: {
    name: "Call",
    operation: (content) => (content === null ? "deleteCall" : "putCall"),
    send: each((c) => {
      const params = { path: { id: parts(c)[0] }, header: { ...carries(c), ...on(c) } };
      if (c.content === null) return outcome(api.DELETE("/calls/{id}", { params, signal: soon() }));
      return outcome(
        api.PUT("/calls/{id}", { params, body: c.content as Schemas["CallInput"], signal: soon() }),
        versionOf,
      );
    }),
    saved: (client, key, content, answer) =>
      client.setQueryData(queries.calls().queryKey, (old) => {
        if (!old) return old;
        const [id] = parts({ key });
        const calls = old.calls.filter((c) => c.id !== id);
        if (content !== null) calls.push(answer as Schemas["Call"]);
        return { ...old, calls };
      }),
  },
  lineUp: {
    name: "Line-up",
    operation: () => "putLineUp",
    send: each((c) => {
      const [group, week] = parts(c);
      return outcome(
        api.PUT("/groups/{group}/line-up", {
          params: { path: { group }, query: { week: Number(week) }, header: { ...carries(c), ...on(c) } },
          body: c.content as Schemas["LineUpInput"],
          signal: soon(),
        }),
        versionOf,
      );
    }),
    saved: (client, key, _content, answer) => {
      const [group, week] = parts({ key });
      client.setQueryData(queries.lineUp(group, Number(week)).queryKey, answer as Schemas["LineUp"]);
    },
  },
} satisfies Record<string, Kind>;
