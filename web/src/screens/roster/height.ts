/** A height as it is typed: feet and inches. */
export interface Height {
  feet: string;
  inches: string;
}

/** A height of so many inches, as a coach would type it: 73.5 is 6 ft 1.5 in. */
export function typedHeight(total: number | null | undefined): Height {
  if (!total) return { feet: "", inches: "" };
  return { feet: String(Math.floor(total / 12)), inches: String(Math.round((total % 12) * 10) / 10) };
}

/** The inches of a height as it stands in its fields; null when nothing stands there. */
export function inInches({ feet, inches }: Height): number | null {
  const total =
    12 * (Number.parseFloat(feet.replace(",", ".")) || 0) +
    (Number.parseFloat(inches.replace(",", ".")) || 0);
  return total > 0 ? total : null;
}
