import type { QueryClient, QueryFilters } from "@tanstack/react-query";

/** Makes everything old but who is signed in. */
export const makeAllOld = (client: QueryClient) =>
  makeOld(client, { predicate: (q) => q.queryKey[0] !== "session" });

/**
 * Makes what was read old: what is on the screen is read anew at once, the rest when it is opened. An answer that is
 * still under way may have been made before the change; it is shown when it comes, and read once more.
 */
export function makeOld(client: QueryClient, which: QueryFilters): Promise<void> {
  const underWay = client
    .getQueryCache()
    .findAll({ ...which, fetchStatus: "fetching" })
    // What is on the screen and has an answer already is begun again at once.
    .filter((q) => q.state.data === undefined || !q.isActive());
  for (const q of underWay)
    void q.promise
      ?.catch(() => undefined)
      .then(() => client.invalidateQueries({ queryKey: q.queryKey, exact: true }));
  return client.invalidateQueries(which);
}
