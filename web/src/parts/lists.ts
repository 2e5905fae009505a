/** Files that are read as lists. */
export const listFiles = ".csv,.tsv,.txt,.xlsx,text/csv,text/plain,text/tab-separated-values";

/** Lines that would change something. */
export const changing = <T extends { action: string }>(lines: T[]) =>
  lines.filter((l) => l.action === "create" || l.action === "update");
