import { api, type Schemas } from "@/api/client";
import { makeOld } from "@/api/old";
import { queries } from "@/api/queries";
import { each, parts, versionOf, type Kind } from "./kind";
import { carries, on, outcome, soon } from "./send";

/** What the film room keeps of a game and of its film. */
export const filmed = {
  play: {
    name: "Play",
    operation: (content) => (content === null ? "deletePlay" : "putPlay"),
    send: each((c) => {
      const [id, play] = parts(c);
      const params = { path: { id, play }, header: { ...carries(c), ...on(c) } };
      if (c.content === null)
        return outcome(api.DELETE("/games/{id}/plays/{play}", { params, signal: soon() }));
      return outcome(
        api.PUT("/games/{id}/plays/{play}", {
          params,
          body: c.content as Schemas["PlayInput"],
          signal: soon(),
        }),
        versionOf,
      );
    }),
    saved: (client, key, content, answer) => {
      const [game, id] = parts({ key });
      client.setQueryData(queries.gamePlays(game).queryKey, (old) => {
        if (!old) return old;
        const others = old.plays.filter((p) => p.id !== id);
        const plays = content === null ? others : [...others, answer as Schemas["GamePlay"]];
        return { ...old, plays: plays.sort((a, b) => a.play.number - b.play.number) };
      });
    },
  },
  feedback: {
    name: "Player’s sheet",
    operation: (content) => (content === null ? "deleteFeedback" : "putFeedback"),
    send: each((c) => {
      const [id, group, player] = parts(c);
      const params = { path: { id, player }, query: { group }, header: { ...carries(c), ...on(c) } };
      if (c.content === null)
        return outcome(api.DELETE("/games/{id}/feedback/{player}", { params, signal: soon() }));
      return outcome(
        api.PUT("/games/{id}/feedback/{player}", {
          params,
          body: c.content as Schemas["FeedbackInput"],
          signal: soon(),
        }),
        versionOf,
      );
    }),
    saved: (client, key, content, answer) => {
      const [game, group, player] = parts({ key });
      const { queryKey } = queries.feedback(game, group, player);
      if (content === null) void makeOld(client, { queryKey });
      else client.setQueryData(queryKey, answer as Schemas["Feedback"]);
    },
  },
  meeting: {
    name: "Meeting",
    operation: () => "putMeeting",
    send: each((c) => {
      const [id, group] = parts(c);
      return outcome(
        api.PUT("/games/{id}/meeting", {
          params: { path: { id }, query: { group }, header: { ...carries(c), ...on(c) } },
          body: { items: c.content as Schemas["MeetingItem"][] },
          signal: soon(),
        }),
        versionOf,
      );
    }),
    saved: (client, key, _content, answer) => {
      const [game, group] = parts({ key });
      client.setQueryData(queries.meeting(game, group).queryKey, answer as Schemas["Meeting"]);
    },
  },
  labelWord: {
    name: "Word",
    operation: (content) => (content === null ? "deleteLabelWord" : "putLabelWord"),
    send: each((c) => {
      const params = { path: { id: parts(c)[0] }, header: { ...carries(c), ...on(c) } };
      if (c.content === null) return outcome(api.DELETE("/label-words/{id}", { params, signal: soon() }));
      return outcome(
        api.PUT("/label-words/{id}", {
          params,
          body: c.content as Schemas["LabelWordInput"],
          signal: soon(),
        }),
        versionOf,
      );
    }),
    saved: (client, key, content, answer) => {
      const saved = answer as Schemas["LabelWord"];
      client.setQueryData(queries.labelWords().queryKey, (old) => {
        if (!old) return old;
        const others = old.aliases.filter((a) => a.id !== parts({ key })[0]);
        return { ...old, aliases: content === null ? others : [...others, saved] };
      });
      // Plays were corrected with it.
      if (content !== null && saved.corrected)
        for (const queryKey of [["plays"], ["game-sheet"], ["play-history"]])
          void makeOld(client, { queryKey });
    },
  },
  cutUp: {
    name: "Cut-up",
    operation: (content) => (content === null ? "deleteCutUp" : "putCutUp"),
    send: each((c) => {
      const [group, id] = parts(c);
      const params = { path: { group, id }, header: { ...carries(c), ...on(c) } };
      if (c.content === null)
        return outcome(api.DELETE("/groups/{group}/cut-ups/{id}", { params, signal: soon() }));
      return outcome(
        api.PUT("/groups/{group}/cut-ups/{id}", {
          params,
          body: c.content as Schemas["CutUpInput"],
          signal: soon(),
        }),
        versionOf,
      );
    }),
    saved: (client, key, content, answer) => {
      const [group, id] = parts({ key });
      client.setQueryData(queries.cutUps(group).queryKey, (old) => {
        const others = old?.filter((c) => c.id !== id) ?? [];
        const all = content === null ? others : [...others, answer as Schemas["CutUp"]];
        return all.sort((a, b) => a.name.localeCompare(b.name));
      });
    },
  },
  film: {
    name: "Video",
    operation: (content) => (content === null ? "deleteFilm" : "putFilm"),
    send: each((c) => {
      const params = { path: { id: parts(c)[1] }, header: { ...carries(c), ...on(c) } };
      if (c.content === null) return outcome(api.DELETE("/films/{id}", { params, signal: soon() }));
      return outcome(
        api.PUT("/films/{id}", { params, body: c.content as Schemas["FilmInput"], signal: soon() }),
        versionOf,
      );
    }),
    saved: (client, key, content, answer) => {
      const [game, id] = parts({ key });
      client.setQueryData(queries.videos(game).queryKey, (old) => {
        if (!old) return old;
        const others = old.videos.filter((v) => v.id !== id);
        const videos = content === null ? others : [...others, answer as Schemas["Film"]];
        return { ...old, videos: videos.sort((a, b) => a.name.localeCompare(b.name)) };
      });
    },
  },
  clip: {
    name: "Where a play is",
    operation: (content) => (content === null ? "deleteClip" : "putClip"),
    send: each((c) => {
      const params = { path: { id: parts(c)[1] }, header: { ...carries(c), ...on(c) } };
      if (c.content === null) return outcome(api.DELETE("/clips/{id}", { params, signal: soon() }));
      return outcome(
        api.PUT("/clips/{id}", { params, body: c.content as Schemas["ClipInput"], signal: soon() }),
        versionOf,
      );
    }),
    saved: (client, key, content, answer) => {
      const [game, id] = parts({ key });
      client.setQueryData(queries.videos(game).queryKey, (old) => {
        const others = old?.clips.filter((c) => c.id !== id) ?? [];
        return old && { ...old, clips: content === null ? others : [...others, answer as Schemas["Clip"]] };
      });
    },
  },
  drawing: {
    name: "Drawing",
    operation: (content) => (content === null ? "deleteDrawing" : "putDrawing"),
    send: each((c) => {
      const [id, drawing] = parts(c);
      const params = { path: { id, drawing }, header: { ...carries(c), ...on(c) } };
      if (c.content === null)
        return outcome(api.DELETE("/clips/{id}/drawings/{drawing}", { params, signal: soon() }));
      return outcome(
        api.PUT("/clips/{id}/drawings/{drawing}", {
          params,
          body: c.content as Schemas["DrawingInput"],
          signal: soon(),
        }),
        versionOf,
      );
    }),
    saved: (client, key, content, answer) => {
      const [clip, id] = parts({ key });
      client.setQueriesData<Schemas["Footage"]>({ queryKey: ["footage"] }, (old) => {
        if (!old?.clips.some((c) => c.id === clip)) return old;
        const others = old.drawings.filter((d) => d.id !== id);
        const drawings = content === null ? others : [...others, answer as Schemas["Drawing"]];
        return { ...old, drawings };
      });
    },
  },
} satisfies Record<string, Kind>;
