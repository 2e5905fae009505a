// Made from api/entries.yaml by 'make generate'. Do not edit.

/** How a field of an entry is edited; what it takes stands in the shape of the entry. */
export interface EntryField {
  name: string;
  label: string;
  help?: string;
  as:
    | "line"
    | "text"
    | "flag"
    | "measure"
    | "stages"
    | "drawing"
    | "words"
    | "number"
    | "choice"
    | "keys"
    | "pair"
    | "list"
    | "group"
    | "map";
  /** What its keys name. */
  of?: string;
  /** An example. */
  hint?: string;
  /** What one of a list is called. */
  one?: string;
  /** The fields of what it holds, one or many. */
  parts?: EntryField[];
  needed?: boolean;
}

export type EntryKind = "question" | "table" | "technique" | "checkpoint" | "fault" | "drill" | "ladder";

export const entryFields: Record<EntryKind, EntryField[]> = {
  question: [
    {
      name: "name",
      label: "Name",
      as: "line",
      needed: true,
    },
    {
      name: "asks",
      label: "The question",
      as: "text",
      needed: true,
    },
    {
      name: "techniques",
      label: "Bears on",
      as: "keys",
      of: "technique",
    },
    {
      name: "schools",
      label: "Schools",
      as: "list",
      one: "school",
      parts: [
        {
          name: "key",
          label: "Key",
          as: "line",
          needed: true,
        },
        {
          name: "name",
          label: "Name",
          as: "line",
          needed: true,
        },
        {
          name: "reason",
          label: "Its reason",
          as: "text",
          needed: true,
        },
      ],
      needed: true,
    },
    {
      name: "house",
      label: "Taught here",
      as: "line",
      needed: true,
    },
    {
      name: "why",
      label: "Why here",
      as: "text",
      needed: true,
    },
  ],
  table: [
    {
      name: "name",
      label: "Name",
      as: "line",
      needed: true,
    },
    {
      name: "groups",
      label: "Read by",
      as: "keys",
      of: "group",
    },
    {
      name: "columns",
      label: "Columns",
      as: "list",
      one: "column",
      parts: [
        {
          name: "key",
          label: "Column",
          as: "line",
          needed: true,
        },
        {
          name: "name",
          label: "Name",
          as: "line",
        },
        {
          name: "unit",
          label: "Unit",
          as: "choice",
        },
      ],
      needed: true,
    },
    {
      name: "rows",
      label: "Rows",
      as: "list",
      one: "row",
      parts: [
        {
          name: "call",
          label: "Call",
          as: "line",
          needed: true,
        },
        {
          name: "when",
          label: "When",
          as: "line",
        },
        {
          name: "of",
          label: "Measured from",
          as: "line",
        },
        {
          name: "numbers",
          label: "Numbers",
          as: "map",
          hint: "column",
        },
        {
          name: "words",
          label: "Words",
          as: "map",
          hint: "column",
        },
      ],
      needed: true,
    },
    {
      name: "add",
      label: "More with distance",
      as: "group",
      parts: [
        {
          name: "column",
          label: "Column",
          as: "line",
          needed: true,
        },
        {
          name: "by",
          label: "Adds",
          as: "number",
          needed: true,
        },
        {
          name: "per",
          label: "For each yards",
          as: "number",
          needed: true,
        },
        {
          name: "beyond",
          label: "Beyond yards to go",
          as: "number",
          needed: true,
        },
      ],
    },
    {
      name: "retired",
      label: "No longer taught",
      as: "flag",
    },
  ],
  technique: [
    {
      name: "name",
      label: "Name",
      as: "line",
      needed: true,
    },
    {
      name: "aliases",
      label: "Also called",
      as: "words",
      hint: "one term, another term",
    },
    {
      name: "groups",
      label: "Taught to",
      as: "keys",
      of: "group",
    },
    {
      name: "places",
      label: "Only for",
      as: "words",
      hint: "c, snapper",
    },
    {
      name: "summary",
      label: "In a sentence",
      as: "text",
      needed: true,
    },
    {
      name: "summaries",
      label: "In a sentence where another school is taught",
      as: "map",
      hint: "question/school",
    },
    {
      name: "occurs",
      label: "How often it occurs",
      help: "To a player in a game: 15 times and more, 5 to 14, 1 to 4, less than once. The gates of its ladder follow from it.",
      as: "choice",
    },
    {
      name: "core",
      label: "Every player of the group must own it",
      as: "flag",
    },
    {
      name: "with",
      label: "Cannot be shown without",
      as: "words",
    },
    {
      name: "players",
      label: "Players it takes",
      as: "number",
    },
  ],
  checkpoint: [
    {
      name: "name",
      label: "What is right",
      as: "line",
      needed: true,
    },
    {
      name: "cue",
      label: "Cue",
      help: "What is said on the field, in a few words.",
      as: "line",
      needed: true,
    },
    {
      name: "phase",
      label: "Phase of the rep",
      as: "line",
      needed: true,
    },
    {
      name: "measure",
      label: "Measured standard",
      as: "measure",
    },
    {
      name: "words",
      label: "Or words of the eye, in order",
      as: "words",
      hint: "too little, right, too much",
    },
    {
      name: "right",
      label: "Those that pass",
      as: "words",
      hint: "right",
    },
    {
      name: "means",
      label: "The fault each wrong answer is",
      as: "map",
      of: "fault",
      hint: "wrong word",
    },
    {
      name: "table",
      label: "Decided by the table",
      as: "keys",
      of: "table",
    },
    {
      name: "school",
      label: "Only when this is taught",
      as: "line",
      hint: "question/school",
    },
  ],
  fault: [
    {
      name: "name",
      label: "Name",
      as: "line",
      needed: true,
    },
    {
      name: "aliases",
      label: "Also called",
      as: "words",
      hint: "one term, another term",
    },
    {
      name: "at",
      label: "At checkpoint",
      as: "keys",
      of: "checkpoint",
    },
    {
      name: "everywhere",
      label: "Shared by checkpoints",
      as: "keys",
      of: "checkpoint",
    },
    {
      name: "effect",
      label: "What it causes",
      as: "text",
      needed: true,
    },
    {
      name: "severity",
      label: "Severity",
      help: "3 loses the play or the ball, 2 the block or the route, 1 a step.",
      as: "choice",
      needed: true,
    },
    {
      name: "safety",
      label: "The head, back or legs of a player are at risk",
      as: "flag",
    },
    {
      name: "hold",
      label: "While it stands he works no higher than",
      as: "choice",
    },
    {
      name: "penalty",
      label: "It is a penalty",
      as: "flag",
    },
    {
      name: "caused_by",
      label: "May follow from another group's fault",
      as: "keys",
      of: "fault",
    },
    {
      name: "say",
      label: "What is said at each checkpoint",
      as: "map",
      hint: "checkpoint",
    },
    {
      name: "school",
      label: "Only when this is taught",
      as: "line",
      hint: "question/school",
    },
  ],
  drill: [
    {
      name: "name",
      label: "Name",
      as: "line",
      needed: true,
    },
    {
      name: "aliases",
      label: "Also called",
      as: "words",
      hint: "one term, another term",
    },
    {
      name: "trains",
      label: "Trains (the first names the technique)",
      as: "keys",
      of: "checkpoint",
      needed: true,
    },
    {
      name: "works_on",
      label: "Works on",
      as: "keys",
      of: "fault",
    },
    {
      name: "shows",
      label: "A rep counts for",
      help: "The technique chosen for the placement, each technique it trains, or the one that the card of the rep asks for.",
      as: "choice",
    },
    {
      name: "cards",
      label: "Cards",
      as: "list",
      one: "card",
      parts: [
        {
          name: "key",
          label: "Key",
          as: "line",
          needed: true,
        },
        {
          name: "look",
          label: "Look",
          as: "line",
          needed: true,
        },
        {
          name: "asks",
          label: "Asks for",
          as: "keys",
          of: "technique",
        },
        {
          name: "each",
          label: "or by place",
          as: "map",
          of: "technique",
          hint: "place",
        },
        {
          name: "right",
          label: "Right answer",
          as: "line",
          needed: true,
        },
        {
          name: "invites",
          label: "Invites the fault",
          as: "keys",
          of: "fault",
        },
        {
          name: "men",
          label: "Working, helping",
          as: "pair",
        },
        {
          name: "row",
          label: "Row of a table",
          as: "line",
          hint: "table/call",
        },
        {
          name: "school",
          label: "Only when this is taught",
          as: "line",
          hint: "question/school",
        },
      ],
    },
    {
      name: "roles",
      label: "Who does what",
      as: "text",
      needed: true,
    },
    {
      name: "start",
      label: "Who starts it",
      as: "text",
    },
    {
      name: "rotation",
      label: "Who goes where",
      as: "text",
    },
    {
      name: "ends",
      label: "What ends a rep",
      as: "text",
    },
    {
      name: "working",
      label: "Working a lane",
      as: "number",
      needed: true,
    },
    {
      name: "help",
      label: "Helping a lane",
      as: "list",
      one: "role",
      parts: [
        {
          name: "role",
          label: "Does what",
          as: "line",
          hint: "holds the shield and is struck",
          needed: true,
        },
        {
          name: "men",
          label: "Players",
          as: "number",
          needed: true,
        },
        {
          name: "contact",
          label: "Contact",
          as: "choice",
          needed: true,
        },
      ],
    },
    {
      name: "lanes",
      label: "Lanes",
      as: "number",
      needed: true,
    },
    {
      name: "fed_by",
      label: "Started and fed by",
      as: "choice",
    },
    {
      name: "feeds",
      label: "Lanes fed at once",
      as: "number",
    },
    {
      name: "sides",
      label: "Sides",
      as: "choice",
    },
    {
      name: "rep_seconds",
      label: "Rep, seconds",
      as: "number",
      needed: true,
    },
    {
      name: "reset_seconds",
      label: "Reset, seconds",
      as: "number",
    },
    {
      name: "setup_seconds",
      label: "Set-up, seconds",
      as: "number",
    },
    {
      name: "minutes",
      label: "Usual minutes",
      as: "number",
      needed: true,
    },
    {
      name: "min_minutes",
      label: "Least minutes",
      as: "number",
      needed: true,
    },
    {
      name: "contact",
      label: "Contact",
      as: "choice",
      needed: true,
    },
    {
      name: "space_yd",
      label: "Lane, yards downfield × across",
      as: "pair",
      needed: true,
    },
    {
      name: "equipment",
      label: "Equipment",
      as: "group",
      parts: [
        {
          name: "lane",
          label: "For each lane",
          as: "map",
          hint: "cone",
        },
        {
          name: "once",
          label: "Once",
          as: "map",
          hint: "ball",
        },
        {
          name: "text",
          label: "In words",
          as: "line",
        },
      ],
    },
    {
      name: "coach",
      label: "Coach stands",
      as: "group",
      parts: [
        {
          name: "side",
          label: "Side",
          as: "choice",
        },
        {
          name: "yards",
          label: "Yards off",
          as: "number",
        },
        {
          name: "level",
          label: "Level with",
          as: "line",
          hint: "the feet of the row",
        },
        {
          name: "sees",
          label: "So that he sees",
          as: "line",
          hint: "second foot",
        },
        {
          name: "at",
          label: "Or in words",
          as: "text",
        },
      ],
    },
    {
      name: "watch",
      label: "and watches",
      as: "line",
      needed: true,
    },
    {
      name: "self_check",
      label: "Shows itself without a coach",
      as: "group",
      parts: [
        {
          name: "shows",
          label: "Shows the fault",
          as: "keys",
          of: "fault",
        },
        {
          name: "text",
          label: "How",
          as: "text",
        },
      ],
    },
    {
      name: "alone",
      label: "Run with one coach",
      as: "text",
      needed: true,
    },
    {
      name: "game",
      label: "Must show up in",
      as: "line",
      needed: true,
    },
    {
      name: "cautions",
      label: "Cautions",
      as: "text",
      needed: true,
    },
    {
      name: "stop_when",
      label: "Stop it when",
      as: "line",
    },
    {
      name: "early",
      label: "Belongs into the first half of practice",
      as: "flag",
    },
    {
      name: "daily",
      label: "Of the short set done every day",
      as: "flag",
    },
    {
      name: "conditioning",
      label: "Conditioning: reps longer than a play are meant",
      as: "flag",
    },
    {
      name: "load",
      label: "What a rep takes out of a player",
      as: "group",
      parts: [
        {
          name: "throws",
          label: "Throws",
          as: "number",
        },
        {
          name: "kicks",
          label: "Kicks",
          as: "number",
        },
        {
          name: "sprint_yd",
          label: "Sprint, yards",
          as: "number",
        },
      ],
    },
    {
      name: "from_each",
      label: "Done from each of",
      as: "words",
      hint: "under centre, gun, pistol",
    },
    {
      name: "school",
      label: "Only when this is taught",
      as: "line",
      hint: "question/school",
    },
    {
      name: "setup",
      label: "Drawing",
      help: "What stands where and who moves how: yards downfield, yards across.",
      as: "drawing",
    },
  ],
  ladder: [
    {
      name: "name",
      label: "Name",
      as: "line",
      needed: true,
    },
    {
      name: "needs",
      label: "Only after",
      as: "keys",
      of: "stage",
    },
    {
      name: "stages",
      label: "Stages",
      as: "stages",
      needed: true,
    },
  ],
};

/** What an entry of the teaching library is made of. */
export const entries = {
  add: {
    properties: {
      beyond: {
        maximum: 50,
        minimum: 0,
        title: "Beyond yards to go",
        type: "number",
      },
      by: {
        maximum: 20,
        minimum: -20,
        title: "Adds",
        type: "number",
      },
      column: {
        maxLength: 80,
        pattern: "^[a-z0-9_]{1,80}$",
        title: "Column",
        type: "string",
      },
      per: {
        maximum: 50,
        minimum: 1,
        title: "For each yards",
        type: "number",
      },
    },
    required: ["column", "by", "per", "beyond"],
    type: "object",
  },
  card: {
    properties: {
      asks: {
        maxLength: 80,
        pattern: "^[a-z0-9_]{1,80}$",
        title: "Asks for",
        type: "string",
      },
      each: {
        additionalProperties: {
          maxLength: 80,
          pattern: "^[a-z0-9_]{1,80}$",
          type: "string",
        },
        title: "or by place",
        type: "object",
      },
      invites: {
        maxLength: 80,
        pattern: "^[a-z0-9_]{1,80}$",
        title: "Invites the fault",
        type: "string",
      },
      key: {
        maxLength: 80,
        pattern: "^[a-z0-9_]{1,80}$",
        title: "Key",
        type: "string",
      },
      look: {
        maxLength: 2000,
        minLength: 1,
        title: "Look",
        type: "string",
      },
      men: {
        items: {
          maximum: 30,
          minimum: 0,
          type: "integer",
        },
        maxItems: 2,
        minItems: 2,
        title: "Working, helping",
        type: "array",
      },
      right: {
        maxLength: 2000,
        minLength: 1,
        title: "Right answer",
        type: "string",
      },
      row: {
        maxLength: 200,
        minLength: 1,
        title: "Row of a table",
        type: "string",
      },
      school: {
        maxLength: 161,
        pattern: "^[a-z0-9_]+/[a-z0-9_]+$",
        title: "Only when this is taught",
        type: "string",
      },
    },
    required: ["key", "look", "right"],
    type: "object",
  },
  checkpoint: {
    properties: {
      cue: {
        maxLength: 200,
        minLength: 1,
        title: "Cue",
        type: "string",
      },
      key: {
        maxLength: 80,
        pattern: "^[a-z0-9_]{1,80}$",
        type: "string",
      },
      means: {
        additionalProperties: {
          maxLength: 80,
          pattern: "^[a-z0-9_]{1,80}$",
          type: "string",
        },
        title: "The fault each wrong answer is",
        type: "object",
      },
      measure: {
        properties: {
          from: {
            maxLength: 161,
            pattern: "^[a-z0-9_]+/[a-z0-9_]+$",
            title: "Difference from",
            type: "string",
          },
          high: {
            maxLength: 200,
            minLength: 1,
            title: "More is called",
            type: "string",
          },
          low: {
            maxLength: 200,
            minLength: 1,
            title: "Less is called",
            type: "string",
          },
          max: {
            maximum: 1000000,
            minimum: -1000000,
            title: "Never over",
            type: "number",
          },
          min: {
            maximum: 1000000,
            minimum: -1000000,
            title: "Never under",
            type: "number",
          },
          of: {
            maxLength: 200,
            minLength: 1,
            title: "Landmark",
            type: "string",
          },
          ok: {
            items: {
              maximum: 1000000,
              minimum: -1000000,
              nullable: true,
              type: "number",
            },
            maxItems: 2,
            minItems: 2,
            title: "Right",
            type: "array",
          },
          read: {
            enum: ["line", "cone", "stride_count", "frame", "clock", "mark"],
            title: "Read off",
            type: "string",
          },
          target: {
            maximum: 1000000,
            minimum: -1000000,
            title: "Target",
            type: "number",
          },
          unit: {
            enum: ["in", "yd", "s", "deg", "pct", "strides", "shoulder_widths", "reps", "count"],
            title: "Unit",
            type: "string",
          },
          watch: {
            items: {
              maximum: 1000000,
              minimum: -1000000,
              nullable: true,
              type: "number",
            },
            maxItems: 2,
            minItems: 2,
            title: "Watch",
            type: "array",
          },
        },
        required: ["unit", "target", "ok", "watch", "read"],
        title: "Measured standard",
        type: "object",
      },
      name: {
        maxLength: 200,
        minLength: 1,
        title: "What is right",
        type: "string",
      },
      phase: {
        maxLength: 200,
        minLength: 1,
        title: "Phase of the rep",
        type: "string",
      },
      retired: {
        type: "boolean",
      },
      right: {
        items: {
          maxLength: 200,
          minLength: 1,
          type: "string",
        },
        maxItems: 40,
        title: "Those that pass",
        type: "array",
      },
      school: {
        maxLength: 161,
        pattern: "^[a-z0-9_]+/[a-z0-9_]+$",
        title: "Only when this is taught",
        type: "string",
      },
      table: {
        maxLength: 80,
        pattern: "^[a-z0-9_]{1,80}$",
        title: "Decided by the table",
        type: "string",
      },
      was: {
        items: {
          maxLength: 80,
          pattern: "^[a-z0-9_]{1,80}$",
          type: "string",
        },
        maxItems: 200,
        type: "array",
      },
      words: {
        items: {
          maxLength: 200,
          minLength: 1,
          type: "string",
        },
        maxItems: 40,
        title: "Or words of the eye, in order",
        type: "array",
      },
    },
    required: ["key", "phase", "name", "cue"],
    type: "object",
  },
  coach: {
    properties: {
      at: {
        maxLength: 2000,
        minLength: 1,
        title: "Or in words",
        type: "string",
      },
      level: {
        maxLength: 200,
        minLength: 1,
        title: "Level with",
        type: "string",
      },
      sees: {
        maxLength: 200,
        minLength: 1,
        title: "So that he sees",
        type: "string",
      },
      side: {
        enum: ["play side", "back side", "left", "right", "in front", "behind", "between the lanes"],
        title: "Side",
        type: "string",
      },
      yards: {
        maximum: 60,
        minimum: 0,
        title: "Yards off",
        type: "number",
      },
    },
    type: "object",
  },
  column: {
    properties: {
      key: {
        maxLength: 80,
        pattern: "^[a-z0-9_]{1,80}$",
        title: "Column",
        type: "string",
      },
      name: {
        maxLength: 200,
        minLength: 1,
        title: "Name",
        type: "string",
      },
      unit: {
        enum: ["in", "yd", "s", "deg", "strides", "count"],
        title: "Unit",
        type: "string",
      },
    },
    required: ["key"],
    type: "object",
  },
  drill: {
    properties: {
      aliases: {
        items: {
          maxLength: 200,
          minLength: 1,
          type: "string",
        },
        maxItems: 40,
        title: "Also called",
        type: "array",
      },
      alone: {
        maxLength: 2000,
        minLength: 1,
        title: "Run with one coach",
        type: "string",
      },
      cards: {
        items: {
          properties: {
            asks: {
              maxLength: 80,
              pattern: "^[a-z0-9_]{1,80}$",
              title: "Asks for",
              type: "string",
            },
            each: {
              additionalProperties: {
                maxLength: 80,
                pattern: "^[a-z0-9_]{1,80}$",
                type: "string",
              },
              title: "or by place",
              type: "object",
            },
            invites: {
              maxLength: 80,
              pattern: "^[a-z0-9_]{1,80}$",
              title: "Invites the fault",
              type: "string",
            },
            key: {
              maxLength: 80,
              pattern: "^[a-z0-9_]{1,80}$",
              title: "Key",
              type: "string",
            },
            look: {
              maxLength: 2000,
              minLength: 1,
              title: "Look",
              type: "string",
            },
            men: {
              items: {
                maximum: 30,
                minimum: 0,
                type: "integer",
              },
              maxItems: 2,
              minItems: 2,
              title: "Working, helping",
              type: "array",
            },
            right: {
              maxLength: 2000,
              minLength: 1,
              title: "Right answer",
              type: "string",
            },
            row: {
              maxLength: 200,
              minLength: 1,
              title: "Row of a table",
              type: "string",
            },
            school: {
              maxLength: 161,
              pattern: "^[a-z0-9_]+/[a-z0-9_]+$",
              title: "Only when this is taught",
              type: "string",
            },
          },
          required: ["key", "look", "right"],
          type: "object",
        },
        maxItems: 40,
        title: "Cards",
        type: "array",
      },
      cautions: {
        maxLength: 2000,
        minLength: 1,
        title: "Cautions",
        type: "string",
      },
      coach: {
        properties: {
          at: {
            maxLength: 2000,
            minLength: 1,
            title: "Or in words",
            type: "string",
          },
          level: {
            maxLength: 200,
            minLength: 1,
            title: "Level with",
            type: "string",
          },
          sees: {
            maxLength: 200,
            minLength: 1,
            title: "So that he sees",
            type: "string",
          },
          side: {
            enum: ["play side", "back side", "left", "right", "in front", "behind", "between the lanes"],
            title: "Side",
            type: "string",
          },
          yards: {
            maximum: 60,
            minimum: 0,
            title: "Yards off",
            type: "number",
          },
        },
        title: "Coach stands",
        type: "object",
      },
      conditioning: {
        title: "Conditioning: reps longer than a play are meant",
        type: "boolean",
      },
      contact: {
        enum: ["air", "bag", "control", "thud", "live"],
        title: "Contact",
        type: "string",
      },
      daily: {
        title: "Of the short set done every day",
        type: "boolean",
      },
      early: {
        title: "Belongs into the first half of practice",
        type: "boolean",
      },
      ends: {
        maxLength: 2000,
        minLength: 1,
        title: "What ends a rep",
        type: "string",
      },
      equipment: {
        properties: {
          lane: {
            additionalProperties: {
              maximum: 200,
              minimum: 1,
              type: "integer",
            },
            title: "For each lane",
            type: "object",
          },
          once: {
            additionalProperties: {
              maximum: 200,
              minimum: 1,
              type: "integer",
            },
            title: "Once",
            type: "object",
          },
          text: {
            maxLength: 2000,
            minLength: 1,
            title: "In words",
            type: "string",
          },
        },
        title: "Equipment",
        type: "object",
      },
      fed_by: {
        enum: ["coach", "helper", "nobody"],
        title: "Started and fed by",
        type: "string",
      },
      feeds: {
        maximum: 50,
        minimum: 1,
        title: "Lanes fed at once",
        type: "integer",
      },
      from_each: {
        items: {
          maxLength: 200,
          minLength: 1,
          type: "string",
        },
        maxItems: 40,
        title: "Done from each of",
        type: "array",
      },
      game: {
        maxLength: 2000,
        minLength: 1,
        title: "Must show up in",
        type: "string",
      },
      help: {
        items: {
          properties: {
            contact: {
              enum: ["air", "bag", "control", "thud", "live"],
              title: "Contact",
              type: "string",
            },
            men: {
              maximum: 30,
              minimum: 1,
              title: "Players",
              type: "integer",
            },
            role: {
              maxLength: 200,
              minLength: 1,
              title: "Does what",
              type: "string",
            },
          },
          required: ["role", "men", "contact"],
          type: "object",
        },
        maxItems: 8,
        title: "Helping a lane",
        type: "array",
      },
      key: {
        maxLength: 80,
        pattern: "^[a-z0-9_]{1,80}$",
        type: "string",
      },
      lanes: {
        maximum: 50,
        minimum: 1,
        title: "Lanes",
        type: "integer",
      },
      load: {
        properties: {
          kicks: {
            maximum: 20,
            minimum: 0,
            title: "Kicks",
            type: "integer",
          },
          sprint_yd: {
            maximum: 120,
            minimum: 0,
            title: "Sprint, yards",
            type: "number",
          },
          throws: {
            maximum: 20,
            minimum: 0,
            title: "Throws",
            type: "integer",
          },
        },
        title: "What a rep takes out of a player",
        type: "object",
      },
      min_minutes: {
        maximum: 60,
        minimum: 1,
        title: "Least minutes",
        type: "integer",
      },
      minutes: {
        maximum: 60,
        minimum: 1,
        title: "Usual minutes",
        type: "integer",
      },
      name: {
        maxLength: 200,
        minLength: 1,
        title: "Name",
        type: "string",
      },
      rep_seconds: {
        maximum: 120,
        minimum: 0.5,
        title: "Rep, seconds",
        type: "number",
      },
      reset_seconds: {
        maximum: 600,
        minimum: 0,
        title: "Reset, seconds",
        type: "number",
      },
      retired: {
        type: "boolean",
      },
      roles: {
        maxLength: 2000,
        minLength: 1,
        title: "Who does what",
        type: "string",
      },
      rotation: {
        maxLength: 2000,
        minLength: 1,
        title: "Who goes where",
        type: "string",
      },
      school: {
        maxLength: 161,
        pattern: "^[a-z0-9_]+/[a-z0-9_]+$",
        title: "Only when this is taught",
        type: "string",
      },
      self_check: {
        properties: {
          shows: {
            items: {
              maxLength: 80,
              pattern: "^[a-z0-9_]{1,80}$",
              type: "string",
            },
            maxItems: 200,
            title: "Shows the fault",
            type: "array",
          },
          text: {
            maxLength: 2000,
            minLength: 1,
            title: "How",
            type: "string",
          },
        },
        title: "Shows itself without a coach",
        type: "object",
      },
      setup: {
        properties: {
          things: {
            items: {
              properties: {
                at: {
                  items: {
                    maximum: 1000,
                    minimum: -1000,
                    type: "number",
                  },
                  maxItems: 2,
                  minItems: 2,
                  title: "Downfield, across",
                  type: "array",
                },
                is: {
                  enum: [
                    "worker",
                    "helper",
                    "coach",
                    "cone",
                    "bag",
                    "ball",
                    "line",
                    "board",
                    "chute",
                    "rope",
                    "sled",
                    "shield",
                    "wheel",
                    "mat",
                    "hoop",
                    "net",
                    "target",
                    "spot",
                  ],
                  title: "Thing",
                  type: "string",
                },
                says: {
                  maxLength: 40,
                  title: "Says",
                  type: "string",
                },
              },
              required: ["is", "at"],
              type: "object",
            },
            maxItems: 80,
            type: "array",
          },
          ways: {
            items: {
              properties: {
                is: {
                  enum: ["run", "jog", "pedal", "slide", "push", "throw", "kick", "hand", "look"],
                  title: "Way",
                  type: "string",
                },
                points: {
                  items: {
                    items: {
                      maximum: 1000,
                      minimum: -1000,
                      type: "number",
                    },
                    maxItems: 2,
                    minItems: 2,
                    type: "array",
                  },
                  maxItems: 20,
                  minItems: 2,
                  title: "Points",
                  type: "array",
                },
              },
              required: ["is", "points"],
              type: "object",
            },
            maxItems: 40,
            type: "array",
          },
        },
        title: "Drawing",
        type: "object",
      },
      setup_seconds: {
        maximum: 900,
        minimum: 0,
        title: "Set-up, seconds",
        type: "number",
      },
      shows: {
        enum: ["one", "each", "card"],
        title: "A rep counts for",
        type: "string",
      },
      sides: {
        enum: [1, 2],
        maximum: 2,
        minimum: 1,
        title: "Sides",
        type: "integer",
      },
      space_yd: {
        items: {
          maximum: 1000,
          minimum: -1000,
          type: "number",
        },
        maxItems: 2,
        minItems: 2,
        title: "Lane, yards downfield × across",
        type: "array",
      },
      start: {
        maxLength: 2000,
        minLength: 1,
        title: "Who starts it",
        type: "string",
      },
      stop_when: {
        maxLength: 2000,
        minLength: 1,
        title: "Stop it when",
        type: "string",
      },
      trains: {
        items: {
          maxLength: 80,
          pattern: "^[a-z0-9_]{1,80}$",
          type: "string",
        },
        maxItems: 200,
        minItems: 1,
        title: "Trains (the first names the technique)",
        type: "array",
      },
      was: {
        items: {
          maxLength: 80,
          pattern: "^[a-z0-9_]{1,80}$",
          type: "string",
        },
        maxItems: 200,
        type: "array",
      },
      watch: {
        maxLength: 2000,
        minLength: 1,
        title: "and watches",
        type: "string",
      },
      working: {
        maximum: 30,
        minimum: 1,
        title: "Working a lane",
        type: "integer",
      },
      works_on: {
        items: {
          maxLength: 80,
          pattern: "^[a-z0-9_]{1,80}$",
          type: "string",
        },
        maxItems: 200,
        title: "Works on",
        type: "array",
      },
    },
    required: [
      "key",
      "name",
      "trains",
      "working",
      "roles",
      "lanes",
      "rep_seconds",
      "minutes",
      "min_minutes",
      "contact",
      "space_yd",
      "watch",
      "alone",
      "game",
      "cautions",
    ],
    type: "object",
  },
  entry_counts: {
    additionalProperties: {
      maximum: 200,
      minimum: 1,
      type: "integer",
    },
    type: "object",
  },
  equipment: {
    properties: {
      lane: {
        additionalProperties: {
          maximum: 200,
          minimum: 1,
          type: "integer",
        },
        title: "For each lane",
        type: "object",
      },
      once: {
        additionalProperties: {
          maximum: 200,
          minimum: 1,
          type: "integer",
        },
        title: "Once",
        type: "object",
      },
      text: {
        maxLength: 2000,
        minLength: 1,
        title: "In words",
        type: "string",
      },
    },
    type: "object",
  },
  fault: {
    properties: {
      aliases: {
        items: {
          maxLength: 200,
          minLength: 1,
          type: "string",
        },
        maxItems: 40,
        title: "Also called",
        type: "array",
      },
      at: {
        maxLength: 80,
        pattern: "^[a-z0-9_]{1,80}$",
        title: "At checkpoint",
        type: "string",
      },
      caused_by: {
        maxLength: 80,
        pattern: "^[a-z0-9_]{1,80}$",
        title: "May follow from another group's fault",
        type: "string",
      },
      effect: {
        maxLength: 2000,
        minLength: 1,
        title: "What it causes",
        type: "string",
      },
      everywhere: {
        items: {
          maxLength: 80,
          pattern: "^[a-z0-9_]{1,80}$",
          type: "string",
        },
        maxItems: 200,
        title: "Shared by checkpoints",
        type: "array",
      },
      hold: {
        enum: ["air", "bag", "control", "thud", "live"],
        title: "While it stands he works no higher than",
        type: "string",
      },
      key: {
        maxLength: 80,
        pattern: "^[a-z0-9_]{1,80}$",
        type: "string",
      },
      name: {
        maxLength: 200,
        minLength: 1,
        title: "Name",
        type: "string",
      },
      penalty: {
        title: "It is a penalty",
        type: "boolean",
      },
      retired: {
        type: "boolean",
      },
      safety: {
        title: "The head, back or legs of a player are at risk",
        type: "boolean",
      },
      say: {
        additionalProperties: {
          maxLength: 200,
          minLength: 1,
          type: "string",
        },
        title: "What is said at each checkpoint",
        type: "object",
      },
      school: {
        maxLength: 161,
        pattern: "^[a-z0-9_]+/[a-z0-9_]+$",
        title: "Only when this is taught",
        type: "string",
      },
      severity: {
        enum: [1, 2, 3],
        maximum: 3,
        minimum: 1,
        title: "Severity",
        type: "integer",
      },
      was: {
        items: {
          maxLength: 80,
          pattern: "^[a-z0-9_]{1,80}$",
          type: "string",
        },
        maxItems: 200,
        type: "array",
      },
    },
    required: ["key", "name", "effect", "severity"],
    type: "object",
  },
  help: {
    properties: {
      contact: {
        enum: ["air", "bag", "control", "thud", "live"],
        title: "Contact",
        type: "string",
      },
      men: {
        maximum: 30,
        minimum: 1,
        title: "Players",
        type: "integer",
      },
      role: {
        maxLength: 200,
        minLength: 1,
        title: "Does what",
        type: "string",
      },
    },
    required: ["role", "men", "contact"],
    type: "object",
  },
  ladder: {
    properties: {
      key: {
        maxLength: 80,
        pattern: "^[a-z0-9_]{1,80}$",
        type: "string",
      },
      name: {
        maxLength: 200,
        minLength: 1,
        title: "Name",
        type: "string",
      },
      needs: {
        items: {
          maxLength: 161,
          pattern: "^[a-z0-9_]{1,80}(/[a-z0-9_]{1,80})?$",
          type: "string",
        },
        maxItems: 40,
        title: "Only after",
        type: "array",
      },
      retired: {
        type: "boolean",
      },
      stages: {
        items: {
          properties: {
            by_group: {
              additionalProperties: {
                items: {
                  maxLength: 80,
                  pattern: "^[a-z0-9_]{1,80}$",
                  type: "string",
                },
                maxItems: 200,
                type: "array",
              },
              title: "Drills of single groups",
              type: "object",
            },
            clean: {
              maximum: 1000,
              minimum: 0,
              title: "clean",
              type: "integer",
            },
            drills: {
              items: {
                maxLength: 80,
                pattern: "^[a-z0-9_]{1,80}$",
                type: "string",
              },
              maxItems: 200,
              title: "Drills",
              type: "array",
            },
            from_week: {
              maximum: 60,
              minimum: 0,
              title: "from week",
              type: "integer",
            },
            head: {
              maximum: 20,
              minimum: 0,
              title: "Reps in a row without a head fault",
              type: "integer",
            },
            key: {
              maxLength: 80,
              pattern: "^[a-z0-9_]{1,80}$",
              type: "string",
            },
            kind: {
              enum: ["fit", "freeze", "steps", "bag", "partner", "look", "group", "game"],
              title: "Kind",
              type: "string",
            },
            max_sessions: {
              maximum: 1000,
              minimum: 0,
              title: "at most days",
              type: "integer",
            },
            name: {
              maxLength: 200,
              minLength: 1,
              title: "Name",
              type: "string",
            },
            needs: {
              items: {
                maxLength: 161,
                pattern: "^[a-z0-9_]{1,80}(/[a-z0-9_]{1,80})?$",
                type: "string",
              },
              maxItems: 40,
              title: "Only after",
              type: "array",
            },
            sessions: {
              maximum: 1000,
              minimum: 0,
              title: "on days",
              type: "integer",
            },
            window: {
              maximum: 1000,
              minimum: 0,
              title: "Of the last",
              type: "integer",
            },
          },
          required: ["key", "kind"],
          type: "object",
        },
        maxItems: 20,
        minItems: 1,
        title: "Stages",
        type: "array",
      },
      technique: {
        maxLength: 80,
        pattern: "^[a-z0-9_]{1,80}$",
        type: "string",
      },
    },
    required: ["key", "name", "technique", "stages"],
    type: "object",
  },
  load: {
    properties: {
      kicks: {
        maximum: 20,
        minimum: 0,
        title: "Kicks",
        type: "integer",
      },
      sprint_yd: {
        maximum: 120,
        minimum: 0,
        title: "Sprint, yards",
        type: "number",
      },
      throws: {
        maximum: 20,
        minimum: 0,
        title: "Throws",
        type: "integer",
      },
    },
    type: "object",
  },
  measure: {
    properties: {
      from: {
        maxLength: 161,
        pattern: "^[a-z0-9_]+/[a-z0-9_]+$",
        title: "Difference from",
        type: "string",
      },
      high: {
        maxLength: 200,
        minLength: 1,
        title: "More is called",
        type: "string",
      },
      low: {
        maxLength: 200,
        minLength: 1,
        title: "Less is called",
        type: "string",
      },
      max: {
        maximum: 1000000,
        minimum: -1000000,
        title: "Never over",
        type: "number",
      },
      min: {
        maximum: 1000000,
        minimum: -1000000,
        title: "Never under",
        type: "number",
      },
      of: {
        maxLength: 200,
        minLength: 1,
        title: "Landmark",
        type: "string",
      },
      ok: {
        items: {
          maximum: 1000000,
          minimum: -1000000,
          nullable: true,
          type: "number",
        },
        maxItems: 2,
        minItems: 2,
        title: "Right",
        type: "array",
      },
      read: {
        enum: ["line", "cone", "stride_count", "frame", "clock", "mark"],
        title: "Read off",
        type: "string",
      },
      target: {
        maximum: 1000000,
        minimum: -1000000,
        title: "Target",
        type: "number",
      },
      unit: {
        enum: ["in", "yd", "s", "deg", "pct", "strides", "shoulder_widths", "reps", "count"],
        title: "Unit",
        type: "string",
      },
      watch: {
        items: {
          maximum: 1000000,
          minimum: -1000000,
          nullable: true,
          type: "number",
        },
        maxItems: 2,
        minItems: 2,
        title: "Watch",
        type: "array",
      },
    },
    required: ["unit", "target", "ok", "watch", "read"],
    type: "object",
  },
  question: {
    properties: {
      asks: {
        maxLength: 2000,
        minLength: 1,
        title: "The question",
        type: "string",
      },
      house: {
        maxLength: 80,
        pattern: "^[a-z0-9_]{1,80}$",
        title: "Taught here",
        type: "string",
      },
      key: {
        maxLength: 80,
        pattern: "^[a-z0-9_]{1,80}$",
        type: "string",
      },
      name: {
        maxLength: 200,
        minLength: 1,
        title: "Name",
        type: "string",
      },
      schools: {
        items: {
          properties: {
            key: {
              maxLength: 80,
              pattern: "^[a-z0-9_]{1,80}$",
              title: "Key",
              type: "string",
            },
            name: {
              maxLength: 200,
              minLength: 1,
              title: "Name",
              type: "string",
            },
            reason: {
              maxLength: 2000,
              minLength: 1,
              title: "Its reason",
              type: "string",
            },
          },
          required: ["key", "name", "reason"],
          type: "object",
        },
        maxItems: 10,
        minItems: 2,
        title: "Schools",
        type: "array",
      },
      techniques: {
        items: {
          maxLength: 80,
          pattern: "^[a-z0-9_]{1,80}$",
          type: "string",
        },
        maxItems: 200,
        title: "Bears on",
        type: "array",
      },
      why: {
        maxLength: 2000,
        minLength: 1,
        title: "Why here",
        type: "string",
      },
    },
    required: ["key", "name", "asks", "schools", "house", "why"],
    type: "object",
  },
  row: {
    properties: {
      call: {
        maxLength: 200,
        minLength: 1,
        title: "Call",
        type: "string",
      },
      numbers: {
        additionalProperties: {
          maximum: 1000,
          minimum: -1000,
          type: "number",
        },
        title: "Numbers",
        type: "object",
      },
      of: {
        maxLength: 200,
        minLength: 1,
        title: "Measured from",
        type: "string",
      },
      when: {
        maxLength: 200,
        minLength: 1,
        title: "When",
        type: "string",
      },
      words: {
        additionalProperties: {
          maxLength: 300,
          minLength: 1,
          type: "string",
        },
        title: "Words",
        type: "object",
      },
    },
    required: ["call"],
    type: "object",
  },
  school: {
    properties: {
      key: {
        maxLength: 80,
        pattern: "^[a-z0-9_]{1,80}$",
        title: "Key",
        type: "string",
      },
      name: {
        maxLength: 200,
        minLength: 1,
        title: "Name",
        type: "string",
      },
      reason: {
        maxLength: 2000,
        minLength: 1,
        title: "Its reason",
        type: "string",
      },
    },
    required: ["key", "name", "reason"],
    type: "object",
  },
  self_check: {
    properties: {
      shows: {
        items: {
          maxLength: 80,
          pattern: "^[a-z0-9_]{1,80}$",
          type: "string",
        },
        maxItems: 200,
        title: "Shows the fault",
        type: "array",
      },
      text: {
        maxLength: 2000,
        minLength: 1,
        title: "How",
        type: "string",
      },
    },
    type: "object",
  },
  setup: {
    properties: {
      things: {
        items: {
          properties: {
            at: {
              items: {
                maximum: 1000,
                minimum: -1000,
                type: "number",
              },
              maxItems: 2,
              minItems: 2,
              title: "Downfield, across",
              type: "array",
            },
            is: {
              enum: [
                "worker",
                "helper",
                "coach",
                "cone",
                "bag",
                "ball",
                "line",
                "board",
                "chute",
                "rope",
                "sled",
                "shield",
                "wheel",
                "mat",
                "hoop",
                "net",
                "target",
                "spot",
              ],
              title: "Thing",
              type: "string",
            },
            says: {
              maxLength: 40,
              title: "Says",
              type: "string",
            },
          },
          required: ["is", "at"],
          type: "object",
        },
        maxItems: 80,
        type: "array",
      },
      ways: {
        items: {
          properties: {
            is: {
              enum: ["run", "jog", "pedal", "slide", "push", "throw", "kick", "hand", "look"],
              title: "Way",
              type: "string",
            },
            points: {
              items: {
                items: {
                  maximum: 1000,
                  minimum: -1000,
                  type: "number",
                },
                maxItems: 2,
                minItems: 2,
                type: "array",
              },
              maxItems: 20,
              minItems: 2,
              title: "Points",
              type: "array",
            },
          },
          required: ["is", "points"],
          type: "object",
        },
        maxItems: 40,
        type: "array",
      },
    },
    type: "object",
  },
  setup_thing: {
    properties: {
      at: {
        items: {
          maximum: 1000,
          minimum: -1000,
          type: "number",
        },
        maxItems: 2,
        minItems: 2,
        title: "Downfield, across",
        type: "array",
      },
      is: {
        enum: [
          "worker",
          "helper",
          "coach",
          "cone",
          "bag",
          "ball",
          "line",
          "board",
          "chute",
          "rope",
          "sled",
          "shield",
          "wheel",
          "mat",
          "hoop",
          "net",
          "target",
          "spot",
        ],
        title: "Thing",
        type: "string",
      },
      says: {
        maxLength: 40,
        title: "Says",
        type: "string",
      },
    },
    required: ["is", "at"],
    type: "object",
  },
  setup_way: {
    properties: {
      is: {
        enum: ["run", "jog", "pedal", "slide", "push", "throw", "kick", "hand", "look"],
        title: "Way",
        type: "string",
      },
      points: {
        items: {
          items: {
            maximum: 1000,
            minimum: -1000,
            type: "number",
          },
          maxItems: 2,
          minItems: 2,
          type: "array",
        },
        maxItems: 20,
        minItems: 2,
        title: "Points",
        type: "array",
      },
    },
    required: ["is", "points"],
    type: "object",
  },
  stage: {
    properties: {
      by_group: {
        additionalProperties: {
          items: {
            maxLength: 80,
            pattern: "^[a-z0-9_]{1,80}$",
            type: "string",
          },
          maxItems: 200,
          type: "array",
        },
        title: "Drills of single groups",
        type: "object",
      },
      clean: {
        maximum: 1000,
        minimum: 0,
        title: "clean",
        type: "integer",
      },
      drills: {
        items: {
          maxLength: 80,
          pattern: "^[a-z0-9_]{1,80}$",
          type: "string",
        },
        maxItems: 200,
        title: "Drills",
        type: "array",
      },
      from_week: {
        maximum: 60,
        minimum: 0,
        title: "from week",
        type: "integer",
      },
      head: {
        maximum: 20,
        minimum: 0,
        title: "Reps in a row without a head fault",
        type: "integer",
      },
      key: {
        maxLength: 80,
        pattern: "^[a-z0-9_]{1,80}$",
        type: "string",
      },
      kind: {
        enum: ["fit", "freeze", "steps", "bag", "partner", "look", "group", "game"],
        title: "Kind",
        type: "string",
      },
      max_sessions: {
        maximum: 1000,
        minimum: 0,
        title: "at most days",
        type: "integer",
      },
      name: {
        maxLength: 200,
        minLength: 1,
        title: "Name",
        type: "string",
      },
      needs: {
        items: {
          maxLength: 161,
          pattern: "^[a-z0-9_]{1,80}(/[a-z0-9_]{1,80})?$",
          type: "string",
        },
        maxItems: 40,
        title: "Only after",
        type: "array",
      },
      sessions: {
        maximum: 1000,
        minimum: 0,
        title: "on days",
        type: "integer",
      },
      window: {
        maximum: 1000,
        minimum: 0,
        title: "Of the last",
        type: "integer",
      },
    },
    required: ["key", "kind"],
    type: "object",
  },
  table: {
    properties: {
      add: {
        properties: {
          beyond: {
            maximum: 50,
            minimum: 0,
            title: "Beyond yards to go",
            type: "number",
          },
          by: {
            maximum: 20,
            minimum: -20,
            title: "Adds",
            type: "number",
          },
          column: {
            maxLength: 80,
            pattern: "^[a-z0-9_]{1,80}$",
            title: "Column",
            type: "string",
          },
          per: {
            maximum: 50,
            minimum: 1,
            title: "For each yards",
            type: "number",
          },
        },
        required: ["column", "by", "per", "beyond"],
        title: "More with distance",
        type: "object",
      },
      columns: {
        items: {
          properties: {
            key: {
              maxLength: 80,
              pattern: "^[a-z0-9_]{1,80}$",
              title: "Column",
              type: "string",
            },
            name: {
              maxLength: 200,
              minLength: 1,
              title: "Name",
              type: "string",
            },
            unit: {
              enum: ["in", "yd", "s", "deg", "strides", "count"],
              title: "Unit",
              type: "string",
            },
          },
          required: ["key"],
          type: "object",
        },
        maxItems: 8,
        minItems: 1,
        title: "Columns",
        type: "array",
      },
      groups: {
        items: {
          maxLength: 80,
          pattern: "^[a-z0-9_]{1,80}$",
          type: "string",
        },
        maxItems: 200,
        title: "Read by",
        type: "array",
      },
      key: {
        maxLength: 80,
        pattern: "^[a-z0-9_]{1,80}$",
        type: "string",
      },
      name: {
        maxLength: 200,
        minLength: 1,
        title: "Name",
        type: "string",
      },
      retired: {
        title: "No longer taught",
        type: "boolean",
      },
      rows: {
        items: {
          properties: {
            call: {
              maxLength: 200,
              minLength: 1,
              title: "Call",
              type: "string",
            },
            numbers: {
              additionalProperties: {
                maximum: 1000,
                minimum: -1000,
                type: "number",
              },
              title: "Numbers",
              type: "object",
            },
            of: {
              maxLength: 200,
              minLength: 1,
              title: "Measured from",
              type: "string",
            },
            when: {
              maxLength: 200,
              minLength: 1,
              title: "When",
              type: "string",
            },
            words: {
              additionalProperties: {
                maxLength: 300,
                minLength: 1,
                type: "string",
              },
              title: "Words",
              type: "object",
            },
          },
          required: ["call"],
          type: "object",
        },
        maxItems: 60,
        minItems: 1,
        title: "Rows",
        type: "array",
      },
    },
    required: ["key", "name", "columns", "rows"],
    type: "object",
  },
  technique: {
    properties: {
      aliases: {
        items: {
          maxLength: 200,
          minLength: 1,
          type: "string",
        },
        maxItems: 40,
        title: "Also called",
        type: "array",
      },
      checkpoints: {
        items: {
          properties: {
            cue: {
              maxLength: 200,
              minLength: 1,
              title: "Cue",
              type: "string",
            },
            key: {
              maxLength: 80,
              pattern: "^[a-z0-9_]{1,80}$",
              type: "string",
            },
            means: {
              additionalProperties: {
                maxLength: 80,
                pattern: "^[a-z0-9_]{1,80}$",
                type: "string",
              },
              title: "The fault each wrong answer is",
              type: "object",
            },
            measure: {
              properties: {
                from: {
                  maxLength: 161,
                  pattern: "^[a-z0-9_]+/[a-z0-9_]+$",
                  title: "Difference from",
                  type: "string",
                },
                high: {
                  maxLength: 200,
                  minLength: 1,
                  title: "More is called",
                  type: "string",
                },
                low: {
                  maxLength: 200,
                  minLength: 1,
                  title: "Less is called",
                  type: "string",
                },
                max: {
                  maximum: 1000000,
                  minimum: -1000000,
                  title: "Never over",
                  type: "number",
                },
                min: {
                  maximum: 1000000,
                  minimum: -1000000,
                  title: "Never under",
                  type: "number",
                },
                of: {
                  maxLength: 200,
                  minLength: 1,
                  title: "Landmark",
                  type: "string",
                },
                ok: {
                  items: {
                    maximum: 1000000,
                    minimum: -1000000,
                    nullable: true,
                    type: "number",
                  },
                  maxItems: 2,
                  minItems: 2,
                  title: "Right",
                  type: "array",
                },
                read: {
                  enum: ["line", "cone", "stride_count", "frame", "clock", "mark"],
                  title: "Read off",
                  type: "string",
                },
                target: {
                  maximum: 1000000,
                  minimum: -1000000,
                  title: "Target",
                  type: "number",
                },
                unit: {
                  enum: ["in", "yd", "s", "deg", "pct", "strides", "shoulder_widths", "reps", "count"],
                  title: "Unit",
                  type: "string",
                },
                watch: {
                  items: {
                    maximum: 1000000,
                    minimum: -1000000,
                    nullable: true,
                    type: "number",
                  },
                  maxItems: 2,
                  minItems: 2,
                  title: "Watch",
                  type: "array",
                },
              },
              required: ["unit", "target", "ok", "watch", "read"],
              title: "Measured standard",
              type: "object",
            },
            name: {
              maxLength: 200,
              minLength: 1,
              title: "What is right",
              type: "string",
            },
            phase: {
              maxLength: 200,
              minLength: 1,
              title: "Phase of the rep",
              type: "string",
            },
            retired: {
              type: "boolean",
            },
            right: {
              items: {
                maxLength: 200,
                minLength: 1,
                type: "string",
              },
              maxItems: 40,
              title: "Those that pass",
              type: "array",
            },
            school: {
              maxLength: 161,
              pattern: "^[a-z0-9_]+/[a-z0-9_]+$",
              title: "Only when this is taught",
              type: "string",
            },
            table: {
              maxLength: 80,
              pattern: "^[a-z0-9_]{1,80}$",
              title: "Decided by the table",
              type: "string",
            },
            was: {
              items: {
                maxLength: 80,
                pattern: "^[a-z0-9_]{1,80}$",
                type: "string",
              },
              maxItems: 200,
              type: "array",
            },
            words: {
              items: {
                maxLength: 200,
                minLength: 1,
                type: "string",
              },
              maxItems: 40,
              title: "Or words of the eye, in order",
              type: "array",
            },
          },
          required: ["key", "phase", "name", "cue"],
          type: "object",
        },
        maxItems: 40,
        type: "array",
      },
      core: {
        title: "Every player of the group must own it",
        type: "boolean",
      },
      faults: {
        items: {
          properties: {
            aliases: {
              items: {
                maxLength: 200,
                minLength: 1,
                type: "string",
              },
              maxItems: 40,
              title: "Also called",
              type: "array",
            },
            at: {
              maxLength: 80,
              pattern: "^[a-z0-9_]{1,80}$",
              title: "At checkpoint",
              type: "string",
            },
            caused_by: {
              maxLength: 80,
              pattern: "^[a-z0-9_]{1,80}$",
              title: "May follow from another group's fault",
              type: "string",
            },
            effect: {
              maxLength: 2000,
              minLength: 1,
              title: "What it causes",
              type: "string",
            },
            everywhere: {
              items: {
                maxLength: 80,
                pattern: "^[a-z0-9_]{1,80}$",
                type: "string",
              },
              maxItems: 200,
              title: "Shared by checkpoints",
              type: "array",
            },
            hold: {
              enum: ["air", "bag", "control", "thud", "live"],
              title: "While it stands he works no higher than",
              type: "string",
            },
            key: {
              maxLength: 80,
              pattern: "^[a-z0-9_]{1,80}$",
              type: "string",
            },
            name: {
              maxLength: 200,
              minLength: 1,
              title: "Name",
              type: "string",
            },
            penalty: {
              title: "It is a penalty",
              type: "boolean",
            },
            retired: {
              type: "boolean",
            },
            safety: {
              title: "The head, back or legs of a player are at risk",
              type: "boolean",
            },
            say: {
              additionalProperties: {
                maxLength: 200,
                minLength: 1,
                type: "string",
              },
              title: "What is said at each checkpoint",
              type: "object",
            },
            school: {
              maxLength: 161,
              pattern: "^[a-z0-9_]+/[a-z0-9_]+$",
              title: "Only when this is taught",
              type: "string",
            },
            severity: {
              enum: [1, 2, 3],
              maximum: 3,
              minimum: 1,
              title: "Severity",
              type: "integer",
            },
            was: {
              items: {
                maxLength: 80,
                pattern: "^[a-z0-9_]{1,80}$",
                type: "string",
              },
              maxItems: 200,
              type: "array",
            },
          },
          required: ["key", "name", "effect", "severity"],
          type: "object",
        },
        maxItems: 60,
        type: "array",
      },
      groups: {
        items: {
          maxLength: 80,
          pattern: "^[a-z0-9_]{1,80}$",
          type: "string",
        },
        maxItems: 200,
        title: "Taught to",
        type: "array",
      },
      key: {
        maxLength: 80,
        pattern: "^[a-z0-9_]{1,80}$",
        type: "string",
      },
      name: {
        maxLength: 200,
        minLength: 1,
        title: "Name",
        type: "string",
      },
      occurs: {
        enum: ["every", "often", "some", "rare"],
        title: "How often it occurs",
        type: "string",
      },
      places: {
        items: {
          maxLength: 200,
          minLength: 1,
          type: "string",
        },
        maxItems: 40,
        title: "Only for",
        type: "array",
      },
      players: {
        maximum: 11,
        minimum: 1,
        title: "Players it takes",
        type: "integer",
      },
      retired: {
        title: "No longer taught",
        type: "boolean",
      },
      summaries: {
        additionalProperties: {
          maxLength: 2000,
          minLength: 1,
          type: "string",
        },
        title: "In a sentence where another school is taught",
        type: "object",
      },
      summary: {
        maxLength: 2000,
        minLength: 1,
        title: "In a sentence",
        type: "string",
      },
      was: {
        items: {
          maxLength: 80,
          pattern: "^[a-z0-9_]{1,80}$",
          type: "string",
        },
        maxItems: 200,
        type: "array",
      },
      with: {
        items: {
          enum: ["ball", "thrower", "runner", "passer", "returner", "kicker", "snapper", "back"],
          type: "string",
        },
        maxItems: 6,
        title: "Cannot be shown without",
        type: "array",
      },
    },
    required: ["key", "name", "summary"],
    type: "object",
  },
} as const;
