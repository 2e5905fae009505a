// Made from the contract by 'make generate'. Do not edit.

/** What each operation that a form fills in takes. */
export const forms = {
  addOverride: {
    properties: {
      id: {
        type: "string",
      },
      ladder: {
        pattern: "^[a-z0-9_]{1,80}$",
        type: "string",
      },
      reason: {
        maxLength: 500,
        minLength: 1,
        title: "Because",
        type: "string",
      },
      stage: {
        pattern: "^[a-z0-9_]{1,80}$",
        type: "string",
      },
    },
    required: ["id", "ladder", "stage", "reason"],
    type: "object",
  },
  askRecovery: {
    properties: {
      email: {
        maxLength: 200,
        minLength: 3,
        title: "E-mail",
        type: "string",
      },
    },
    required: ["email"],
    type: "object",
  },
  beginAuthenticator: {
    properties: {
      password: {
        maxLength: 200,
        title: "Password",
        type: "string",
      },
    },
    required: ["password"],
    type: "object",
  },
  finishAuthenticator: {
    properties: {
      code: {
        maxLength: 10,
        minLength: 6,
        title: "Code that it shows",
        type: "string",
      },
    },
    required: ["code"],
    type: "object",
  },
  finishRecovery: {
    properties: {
      password: {
        maxLength: 200,
        minLength: 1,
        title: "New password",
        type: "string",
      },
      secret: {
        pattern: "^[a-z2-7]{52}$",
        title: "Link",
        type: "string",
      },
    },
    required: ["secret", "password"],
    type: "object",
  },
  foundClub: {
    properties: {
      club: {
        maxLength: 120,
        minLength: 1,
        title: "Club",
        type: "string",
      },
      email: {
        maxLength: 200,
        minLength: 3,
        title: "Your e-mail",
        type: "string",
      },
      name: {
        maxLength: 120,
        minLength: 1,
        title: "Your name",
        type: "string",
      },
      password: {
        maxLength: 200,
        minLength: 1,
        title: "Password",
        type: "string",
      },
      season_start: {
        format: "date",
        maxLength: 10,
        title: "First day of the season",
        type: "string",
      },
      timezone: {
        maxLength: 60,
        minLength: 1,
        title: "Time zone",
        type: "string",
      },
      weeks: {
        maximum: 60,
        minimum: 1,
        title: "Weeks",
        type: "integer",
      },
      word: {
        maxLength: 60,
        minLength: 1,
        title: "Word that the server printed",
        type: "string",
      },
    },
    required: ["word", "club", "timezone", "season_start", "weeks", "name", "email", "password"],
    type: "object",
  },
  invite: {
    properties: {
      email: {
        maxLength: 200,
        minLength: 3,
        title: "E-mail",
        type: "string",
      },
      groups: {
        items: {
          pattern: "^[a-z0-9_]{1,20}$",
          type: "string",
        },
        maxItems: 24,
        title: "Groups",
        type: "array",
      },
      name: {
        maxLength: 120,
        minLength: 1,
        title: "Name",
        type: "string",
      },
      role: {
        enum: ["head", "coach", "assistant", "health", "reader"],
        title: "Role",
        type: "string",
      },
      secret: {
        pattern: "^[a-z2-7]{52}$",
        type: "string",
      },
      title: {
        maxLength: 120,
        title: "Title",
        type: "string",
      },
    },
    required: ["email", "name", "title", "role", "groups", "secret"],
    type: "object",
  },
  join: {
    properties: {
      name: {
        maxLength: 120,
        title: "Name",
        type: "string",
      },
      password: {
        maxLength: 200,
        title: "Password",
        type: "string",
      },
      secret: {
        pattern: "^[a-z2-7]{52}$",
        title: "Link",
        type: "string",
      },
    },
    required: ["secret"],
    type: "object",
  },
  postMarks: {
    properties: {
      marks: {
        items: {
          properties: {
            asked: {
              type: "string",
            },
            assignment: {
              maximum: 1,
              minimum: 0,
              nullable: true,
              type: "integer",
            },
            faults: {
              items: {
                properties: {
                  caused_by: {
                    type: "string",
                  },
                  key: {
                    maxLength: 80,
                    minLength: 1,
                    type: "string",
                  },
                  penalty: {
                    type: "boolean",
                  },
                },
                required: ["key"],
                type: "object",
              },
              maxItems: 8,
              type: "array",
            },
            finish: {
              maximum: 1,
              minimum: 0,
              nullable: true,
              type: "integer",
            },
            grade: {
              maximum: 10,
              minimum: 0,
              type: "integer",
            },
            id: {
              type: "string",
            },
            made_at: {
              maxLength: 40,
              type: "string",
            },
            measures: {
              items: {
                properties: {
                  checkpoint: {
                    pattern: "^[a-z0-9_]{1,80}$",
                    type: "string",
                  },
                  value: {
                    maximum: 1000,
                    minimum: -1000,
                    type: "number",
                  },
                },
                required: ["checkpoint", "value"],
                type: "object",
              },
              maxItems: 8,
              type: "array",
            },
            note: {
              maxLength: 500,
              type: "string",
            },
            on: {
              type: "string",
            },
            placement_id: {
              type: "string",
            },
            play_id: {
              type: "string",
            },
            player_id: {
              type: "string",
            },
            praise: {
              type: "boolean",
            },
            rep: {
              maximum: 200,
              minimum: 1,
              type: "integer",
            },
            result: {
              maximum: 1,
              minimum: 0,
              type: "integer",
            },
            settled: {
              type: "boolean",
            },
            side: {
              enum: ["left", "right"],
              type: "string",
            },
            state: {
              enum: ["assumed", "looked", "unseen", "unsettled", "not_gradable", "withdrawn"],
              type: "string",
            },
            tallies: {
              items: {
                enum: ["effort", "no_effort", "call_echoed", "call_not_echoed", "call_missing", "wrong_call"],
                type: "string",
              },
              maxItems: 3,
              type: "array",
            },
            technique: {
              maximum: 1,
              minimum: 0,
              nullable: true,
              type: "integer",
            },
            technique_key: {
              maxLength: 80,
              minLength: 1,
              pattern: "^[a-z0-9_]+$",
              type: "string",
            },
          },
          required: ["id", "player_id", "state"],
          type: "object",
        },
        maxItems: 400,
        minItems: 1,
        type: "array",
      },
    },
    required: ["marks"],
    type: "object",
  },
  previewReps: {
    properties: {
      drills: {
        items: {
          properties: {
            drill: {
              maxLength: 80,
              type: "string",
            },
            lanes: {
              maximum: 50,
              minimum: 1,
              type: "integer",
            },
            minutes: {
              maximum: 240,
              minimum: 1,
              type: "integer",
            },
          },
          required: ["drill", "minutes", "lanes"],
          type: "object",
        },
        maxItems: 24,
        type: "array",
      },
      limited: {
        maximum: 200,
        minimum: 0,
        type: "integer",
      },
      players: {
        maximum: 200,
        minimum: 1,
        type: "integer",
      },
    },
    required: ["players", "limited", "drills"],
    type: "object",
  },
  putAccount: {
    properties: {
      name: {
        maxLength: 120,
        minLength: 1,
        title: "Name",
        type: "string",
      },
    },
    required: ["name"],
    type: "object",
  },
  putCall: {
    properties: {
      aliases: {
        items: {
          maxLength: 80,
          type: "string",
        },
        maxItems: 20,
        title: "Also called",
        type: "array",
      },
      install: {
        format: "date",
        maxLength: 10,
        title: "Installed on",
        type: "string",
      },
      kind: {
        maxLength: 80,
        title: "Kind",
        type: "string",
      },
      name: {
        maxLength: 80,
        minLength: 1,
        title: "Call",
        type: "string",
      },
      needs: {
        items: {
          properties: {
            group: {
              pattern: "^[a-z0-9_]{1,20}$",
              title: "Group",
              type: "string",
            },
            spots: {
              items: {
                maxLength: 80,
                type: "string",
              },
              maxItems: 20,
              title: "Spots",
              type: "array",
            },
            stage: {
              maxLength: 20,
              title: "Up to",
              type: "string",
            },
            technique: {
              maxLength: 80,
              minLength: 1,
              title: "Technique",
              type: "string",
            },
          },
          required: ["group", "technique"],
          type: "object",
        },
        maxItems: 24,
        title: "Needs",
        type: "array",
      },
      share: {
        maximum: 100,
        minimum: 0,
        title: "Share of the snaps",
        type: "integer",
      },
      side: {
        enum: ["offense", "defense", "units"],
        type: "string",
      },
      tags: {
        items: {
          maxLength: 80,
          type: "string",
        },
        maxItems: 20,
        title: "Tags",
        type: "array",
      },
    },
    required: ["name", "side", "kind", "aliases", "tags", "share", "needs"],
    type: "object",
  },
  putClub: {
    properties: {
      name: {
        maxLength: 120,
        minLength: 1,
        title: "Club",
        type: "string",
      },
      timezone: {
        maxLength: 60,
        minLength: 1,
        title: "Time zone",
        type: "string",
      },
    },
    required: ["name", "timezone"],
    type: "object",
  },
  putCutUp: {
    properties: {
      cut: {
        maxLength: 300,
        minLength: 1,
        title: "Plays that are all of this",
        type: "string",
      },
      name: {
        maxLength: 80,
        minLength: 1,
        title: "Name",
        type: "string",
      },
    },
    required: ["name", "cut"],
    type: "object",
  },
  putEmail: {
    properties: {
      email: {
        maxLength: 200,
        minLength: 3,
        title: "New e-mail",
        type: "string",
      },
      password: {
        maxLength: 200,
        title: "Password",
        type: "string",
      },
    },
    required: ["email", "password"],
    type: "object",
  },
  putEntry: {
    properties: {
      fields: {
        type: "object",
      },
      id: {
        type: "string",
      },
      note: {
        maxLength: 300,
        type: "string",
      },
      retired: {
        type: "boolean",
      },
    },
    required: ["id"],
    type: "object",
  },
  putFilm: {
    properties: {
      local: {
        properties: {
          digest: {
            pattern: "^[0-9a-f]{64}$",
            type: "string",
          },
          fps_den: {
            maximum: 1000000,
            minimum: 1,
            type: "integer",
          },
          fps_num: {
            maximum: 1000000,
            minimum: 1,
            type: "integer",
          },
          frames: {
            maximum: 100000000,
            minimum: 1,
            type: "integer",
          },
          game_id: {
            type: "string",
          },
          height: {
            maximum: 16384,
            minimum: 1,
            type: "integer",
          },
          media_type: {
            enum: ["video/webm", "video/mp4"],
            type: "string",
          },
          placement_id: {
            type: "string",
          },
          size: {
            maximum: 1099511627776,
            minimum: 1,
            type: "integer",
          },
          width: {
            maximum: 16384,
            minimum: 1,
            type: "integer",
          },
        },
        required: ["media_type", "digest", "size", "width", "height", "fps_num", "fps_den", "frames"],
        type: "object",
      },
      name: {
        maxLength: 200,
        minLength: 1,
        title: "Name",
        type: "string",
      },
      view: {
        maxLength: 30,
        minLength: 1,
        title: "Camera",
        type: "string",
      },
    },
    required: ["name", "view"],
    type: "object",
  },
  putGame: {
    properties: {
      cancelled: {
        maxLength: 200,
        minLength: 1,
        type: "string",
      },
      date: {
        format: "date",
        type: "string",
      },
      home: {
        type: "boolean",
      },
      opponent: {
        maxLength: 80,
        minLength: 1,
        type: "string",
      },
    },
    required: ["date", "opponent", "home"],
    type: "object",
  },
  putGroup: {
    properties: {
      name: {
        maxLength: 60,
        minLength: 1,
        title: "Name",
        type: "string",
      },
      place: {
        maximum: 24,
        minimum: 1,
        title: "Place among the groups",
        type: "integer",
      },
      positions: {
        items: {
          maxLength: 40,
          minLength: 1,
          type: "string",
        },
        maxItems: 40,
        title: "Positions",
        type: "array",
      },
      short: {
        maxLength: 6,
        minLength: 1,
        title: "Short",
        type: "string",
      },
      side: {
        enum: ["offense", "defense", "units"],
        title: "Side",
        type: "string",
      },
    },
    required: ["name", "short", "side", "positions", "place"],
    type: "object",
  },
  putLabelWord: {
    properties: {
      label: {
        enum: ["Personnel", "Formation", "Motion", "Front", "Coverage", "Result"],
        title: "Label",
        type: "string",
      },
      means: {
        maxLength: 60,
        minLength: 1,
        title: "means",
        type: "string",
      },
      said: {
        maxLength: 60,
        minLength: 1,
        title: "Who writes",
        type: "string",
      },
    },
    required: ["label", "said", "means"],
    type: "object",
  },
  putMember: {
    properties: {
      groups: {
        items: {
          pattern: "^[a-z0-9_]{1,20}$",
          type: "string",
        },
        maxItems: 24,
        title: "Groups",
        type: "array",
      },
      role: {
        enum: ["head", "coach", "assistant", "health", "reader"],
        title: "Role",
        type: "string",
      },
      suspended: {
        title: "Kept out for now",
        type: "boolean",
      },
      title: {
        maxLength: 120,
        title: "Title",
        type: "string",
      },
    },
    required: ["title", "role", "groups", "suspended"],
    type: "object",
  },
  putOwnRange: {
    properties: {
      id: {
        type: "string",
      },
      ok_high: {
        maximum: 1000000,
        minimum: -1000000,
        title: "OK to",
        type: "number",
      },
      ok_low: {
        maximum: 1000000,
        minimum: -1000000,
        title: "OK from",
        type: "number",
      },
      reason: {
        maxLength: 500,
        minLength: 1,
        title: "Because",
        type: "string",
      },
      watch_high: {
        maximum: 1000000,
        minimum: -1000000,
        title: "Watch to",
        type: "number",
      },
      watch_low: {
        maximum: 1000000,
        minimum: -1000000,
        title: "Watch from",
        type: "number",
      },
    },
    required: ["id", "ok_low", "ok_high", "watch_low", "watch_high", "reason"],
    type: "object",
  },
  putPassword: {
    properties: {
      next: {
        maxLength: 200,
        minLength: 1,
        title: "New password",
        type: "string",
      },
      password: {
        maxLength: 200,
        title: "Password now",
        type: "string",
      },
    },
    required: ["password", "next"],
    type: "object",
  },
  putPeriod: {
    properties: {
      coaches: {
        items: {
          maxLength: 40,
          minLength: 1,
          type: "string",
        },
        maxItems: 40,
        type: "array",
      },
      contact: {
        enum: ["air", "bag", "control", "thud", "live"],
        type: "string",
      },
      equipment: {
        items: {
          properties: {
            count: {
              maximum: 1000,
              minimum: 1,
              type: "integer",
            },
            key: {
              maxLength: 40,
              minLength: 1,
              type: "string",
            },
          },
          required: ["key", "count"],
          type: "object",
        },
        maxItems: 60,
        type: "array",
      },
      groups: {
        items: {
          pattern: "^[a-z0-9_]{1,20}$",
          type: "string",
        },
        maxItems: 60,
        type: "array",
      },
      kind: {
        enum: [
          "warm_up",
          "individual",
          "group",
          "team",
          "special_teams",
          "walk_through",
          "meeting",
          "water",
          "conditioning",
        ],
        type: "string",
      },
      minutes: {
        maximum: 1440,
        minimum: 1,
        type: "integer",
      },
      name: {
        maxLength: 80,
        minLength: 1,
        type: "string",
      },
      needs_groups: {
        items: {
          pattern: "^[a-z0-9_]{1,20}$",
          type: "string",
        },
        maxItems: 60,
        type: "array",
      },
      place: {
        maxLength: 40,
        type: "string",
      },
      placements: {
        items: {
          properties: {
            cards: {
              items: {
                pattern: "^[a-z0-9_]{1,80}$",
                type: "string",
              },
              maxItems: 40,
              type: "array",
            },
            drill: {
              maxLength: 80,
              minLength: 1,
              type: "string",
            },
            group: {
              pattern: "^[a-z0-9_]{1,20}$",
              type: "string",
            },
            id: {
              type: "string",
            },
            lanes: {
              maximum: 50,
              minimum: 1,
              type: "integer",
            },
            minutes: {
              maximum: 1000,
              minimum: -1000,
              type: "integer",
            },
            start: {
              maximum: 1000,
              minimum: -1000,
              type: "integer",
            },
            technique: {
              maxLength: 80,
              type: "string",
            },
          },
          required: ["id", "drill", "start", "minutes", "lanes"],
          type: "object",
        },
        maxItems: 24,
        type: "array",
      },
      rep_seconds: {
        maximum: 3600,
        minimum: 0,
        type: "number",
      },
      start: {
        maximum: 1440,
        minimum: -1440,
        type: "integer",
      },
    },
    required: [
      "start",
      "minutes",
      "kind",
      "name",
      "contact",
      "groups",
      "place",
      "coaches",
      "equipment",
      "needs_groups",
      "rep_seconds",
    ],
    type: "object",
  },
  putPlay: {
    properties: {
      call: {
        maxLength: 60,
        type: "string",
      },
      clock: {
        maxLength: 8,
        type: "string",
      },
      context: {
        items: {
          maxLength: 60,
          minLength: 1,
          type: "string",
        },
        maxItems: 8,
        type: "array",
      },
      coverage: {
        maxLength: 60,
        type: "string",
      },
      distance: {
        maximum: 99,
        minimum: 0,
        type: "integer",
      },
      down: {
        maximum: 4,
        minimum: 0,
        type: "integer",
      },
      drive: {
        maximum: 60,
        minimum: 0,
        type: "integer",
      },
      formation: {
        maxLength: 60,
        type: "string",
      },
      front: {
        maxLength: 60,
        type: "string",
      },
      gain: {
        maximum: 99,
        minimum: -99,
        type: "integer",
      },
      hash: {
        enum: ["", "left", "middle", "right"],
        type: "string",
      },
      motion: {
        maxLength: 60,
        type: "string",
      },
      number: {
        maximum: 999,
        minimum: 1,
        type: "integer",
      },
      personnel: {
        maxLength: 60,
        type: "string",
      },
      quarter: {
        maximum: 8,
        minimum: 0,
        type: "integer",
      },
      result: {
        maxLength: 60,
        type: "string",
      },
      spot: {
        maxLength: 12,
        type: "string",
      },
      unit: {
        enum: ["offense", "defense", "units"],
        type: "string",
      },
    },
    required: [
      "number",
      "unit",
      "drive",
      "quarter",
      "clock",
      "down",
      "spot",
      "hash",
      "personnel",
      "formation",
      "motion",
      "call",
      "front",
      "coverage",
      "result",
      "context",
    ],
    type: "object",
  },
  putPlayer: {
    properties: {
      archived: {
        title: "Archived",
        type: "boolean",
      },
      first_name: {
        maxLength: 80,
        title: "First name",
        type: "string",
      },
      groups: {
        items: {
          pattern: "^[a-z0-9_]{1,20}$",
          type: "string",
        },
        maxItems: 24,
        title: "Groups",
        type: "array",
      },
      height_in: {
        maximum: 96,
        minimum: 48,
        nullable: true,
        title: "Height",
        type: "number",
        "x-unit": "in",
      },
      jersey: {
        maxLength: 5,
        title: "No.",
        type: "string",
      },
      last_name: {
        maxLength: 80,
        title: "Last name",
        type: "string",
      },
      position: {
        maxLength: 40,
        title: "Position",
        type: "string",
      },
      returning: {
        title: "Played here last season",
        type: "boolean",
      },
      weight_lb: {
        maximum: 500,
        minimum: 80,
        nullable: true,
        title: "Weight",
        type: "number",
        "x-unit": "lb",
      },
    },
    required: ["jersey", "first_name", "last_name", "groups", "position", "returning", "archived"],
    type: "object",
  },
  putPractice: {
    properties: {
      cancelled: {
        maxLength: 200,
        minLength: 1,
        type: "string",
      },
      date: {
        format: "date",
        type: "string",
      },
      minutes: {
        maximum: 300,
        minimum: 10,
        type: "integer",
      },
      place: {
        maxLength: 60,
        type: "string",
      },
      script_of: {
        type: "string",
      },
      start_minute: {
        maximum: 1439,
        minimum: 0,
        type: "integer",
      },
      template: {
        properties: {
          id: {
            type: "string",
          },
          practice: {
            maximum: 20,
            minimum: 0,
            type: "integer",
          },
        },
        required: ["id", "practice"],
        type: "object",
      },
      theme: {
        maxLength: 60,
        type: "string",
      },
      title: {
        maxLength: 80,
        minLength: 1,
        type: "string",
      },
    },
    required: ["date", "title", "theme", "place", "start_minute", "minutes"],
    type: "object",
  },
  putPracticeSettings: {
    properties: {
      equipment: {
        items: {
          properties: {
            count: {
              maximum: 1000,
              minimum: 0,
              type: "integer",
            },
            key: {
              pattern: "^[a-z0-9_]{1,40}$",
              type: "string",
            },
            name: {
              maxLength: 60,
              minLength: 1,
              type: "string",
            },
          },
          required: ["key", "name", "count"],
          type: "object",
        },
        maxItems: 60,
        type: "array",
      },
      helpers: {
        items: {
          properties: {
            key: {
              pattern: "^[a-z0-9_]{1,40}$",
              type: "string",
            },
            name: {
              maxLength: 60,
              minLength: 1,
              type: "string",
            },
          },
          required: ["key", "name"],
          type: "object",
        },
        maxItems: 100,
        type: "array",
      },
      limits: {
        properties: {
          contact_minutes: {
            maximum: 300,
            minimum: 0,
            type: "integer",
          },
          contact_week: {
            maximum: 1000,
            minimum: 0,
            type: "integer",
          },
          first_days: {
            properties: {
              absence_days: {
                maximum: 365,
                minimum: 1,
                type: "integer",
              },
              season_start: {
                type: "boolean",
              },
              steps: {
                items: {
                  properties: {
                    contact: {
                      enum: ["air", "bag", "control", "thud", "live"],
                      type: "string",
                    },
                    gear: {
                      maxLength: 80,
                      type: "string",
                    },
                    minutes: {
                      maximum: 300,
                      minimum: 10,
                      type: "integer",
                    },
                    through: {
                      maximum: 60,
                      minimum: 1,
                      type: "integer",
                    },
                  },
                  required: ["through", "contact", "gear"],
                  type: "object",
                },
                maxItems: 10,
                type: "array",
              },
            },
            required: ["season_start", "steps"],
            type: "object",
          },
          heat_bands: {
            items: {
              properties: {
                contact: {
                  enum: ["air", "bag", "control", "thud", "live"],
                  type: "string",
                },
                from: {
                  maximum: 200,
                  minimum: -200,
                  type: "number",
                },
                minutes: {
                  maximum: 300,
                  minimum: 10,
                  type: "integer",
                },
                off: {
                  type: "boolean",
                },
                water_every: {
                  maximum: 120,
                  minimum: 5,
                  type: "integer",
                },
              },
              required: ["from", "contact", "off"],
              type: "object",
            },
            maxItems: 10,
            type: "array",
          },
          kicks_day: {
            maximum: 1000,
            minimum: 1,
            type: "integer",
          },
          max_rep_seconds: {
            maximum: 120,
            minimum: 1,
            type: "number",
          },
          rest_after: {
            maximum: 7,
            minimum: 1,
            type: "integer",
          },
          sprint_day: {
            maximum: 20000,
            minimum: 1,
            type: "integer",
          },
          throws_day: {
            maximum: 1000,
            minimum: 1,
            type: "integer",
          },
          warm_up_first: {
            type: "boolean",
          },
          water_every: {
            maximum: 120,
            minimum: 5,
            type: "integer",
          },
        },
        required: ["warm_up_first"],
        type: "object",
      },
      places: {
        items: {
          properties: {
            capacity: {
              maximum: 60,
              minimum: 1,
              type: "integer",
            },
            key: {
              pattern: "^[a-z0-9_]{1,40}$",
              type: "string",
            },
            name: {
              maxLength: 60,
              minLength: 1,
              type: "string",
            },
          },
          required: ["key", "name", "capacity"],
          type: "object",
        },
        maxItems: 60,
        type: "array",
      },
      themes: {
        items: {
          maxLength: 60,
          minLength: 1,
          type: "string",
        },
        maxItems: 40,
        type: "array",
      },
    },
    required: ["places", "equipment", "helpers", "limits", "themes"],
    type: "object",
  },
  putRetention: {
    properties: {
      archived: {
        maximum: 240,
        minimum: 1,
        nullable: true,
        title: "Archived players",
        type: "integer",
        "x-unit": "months",
      },
      changes: {
        maximum: 240,
        minimum: 3,
        nullable: true,
        title: "Who changed what",
        type: "integer",
        "x-unit": "months",
      },
      spells: {
        maximum: 240,
        minimum: 1,
        nullable: true,
        title: "Availability that is over",
        type: "integer",
        "x-unit": "months",
      },
    },
    type: "object",
  },
  putSpell: {
    properties: {
      from: {
        format: "date",
        maxLength: 10,
        title: "From",
        type: "string",
      },
      reason: {
        maxLength: 200,
        minLength: 1,
        title: "Why",
        type: "string",
      },
      status: {
        enum: ["limited", "out", "head_hold"],
        title: "He is",
        type: "string",
      },
      to: {
        format: "date",
        maxLength: 10,
        title: "To, the last day",
        type: "string",
      },
    },
    required: ["status", "from", "reason"],
    type: "object",
  },
  recordClearance: {
    properties: {
      by: {
        maxLength: 120,
        minLength: 1,
        title: "Licensed health professional who cleared him in writing",
        type: "string",
      },
      document: {
        maxLength: 120,
        minLength: 1,
        title: "Document",
        type: "string",
      },
      on: {
        format: "date",
        maxLength: 10,
        title: "Written on",
        type: "string",
      },
    },
    required: ["by", "on", "document"],
    type: "object",
  },
  showFactor: {
    properties: {
      code: {
        maxLength: 40,
        minLength: 6,
        title: "Code of your authenticator, or a recovery code",
        type: "string",
      },
    },
    required: ["code"],
    type: "object",
  },
  signIn: {
    properties: {
      email: {
        maxLength: 200,
        minLength: 3,
        title: "E-mail",
        type: "string",
      },
      password: {
        maxLength: 200,
        minLength: 1,
        title: "Password",
        type: "string",
      },
    },
    required: ["email", "password"],
    type: "object",
  },
} as const;
