import type { Schemas } from "@/api/client";

type Role = Schemas["Role"];

export const roleNames: Record<Role, string> = {
  head: "Head coach",
  coach: "Position coach",
  assistant: "Assistant",
  health: "Athletic health",
  reader: "Reader",
};

/** What each may, as the head coach reads it when he gives it. */
export const roleSays: Record<Role, string> = {
  head: "everything of the club",
  coach: "his groups: players, practices, marks, what they are taught",
  assistant: "plans and marks in his groups",
  health: "who may take part, and clearances; no grades",
  reader: "looks, changes nothing",
};

/** Whether a role goes with position groups. */
export const worksInGroups = (role: Role) => role === "coach" || role === "assistant";
