/** How a period of each kind looks in the field of minutes: by shape and stripe, not by colour alone. */
export const looks: Record<string, string> = {
  warm_up: "bg-stripe border-stripe",
  individual: "bg-sheet border-ink border-l-[3px] border-l-flag",
  group: "striped bg-sheet border-ink",
  team: "bg-ink text-invert border-ink",
  special_teams: "bg-sheet border-ink border-dashed",
  walk_through: "bg-stripe border-rule",
  meeting: "bg-sheet border-rule",
  water: "bg-water border-good/40",
  conditioning: "bg-flag-wash border-watch border-dotted",
};
