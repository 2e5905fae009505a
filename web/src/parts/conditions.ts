import type { Schemas } from "@/api/client";

type Band = Schemas["HeatBand"];

/** The band in which an index lies; none below the first. */
export const bandAt = (l: Schemas["PracticeLimits"], index: number): Band | undefined =>
  (l.heat_bands ?? []).filter((b) => index >= b.from).at(-1);

/** What a band asks for, in words. */
export const inBand = (b: Band): string =>
  b.off
    ? "no practice"
    : [
        b.water_every && `water at least every ${b.water_every} minutes`,
        b.minutes && `${b.minutes} minutes at most`,
        b.contact !== "live" && `nothing above ${b.contact}`,
      ]
        .filter(Boolean)
        .join(", ") || "nothing more";
