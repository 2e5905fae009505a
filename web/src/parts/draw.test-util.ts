import { QueryClient, QueryClientProvider, type QueryKey } from "@tanstack/react-query";
import { createElement, type ReactElement } from "react";
import { renderToStaticMarkup } from "react-dom/server";
import { MemoryRouter, Route, Routes } from "react-router";
import { WithSync } from "@/sync/testing";

/** What the server has answered so far, as a query's key and its data. */
type Answer = { queryKey: QueryKey; data: unknown };

/** What a part paints at an address of the offensive line, as markup; for tests. */
export function draw(part: ReactElement, answers: Answer[] = []): string {
  const client = new QueryClient({ defaultOptions: { queries: { staleTime: Infinity, retry: false } } });
  for (const a of answers) client.setQueryData(a.queryKey, a.data);
  const routes = createElement(
    Routes,
    null,
    createElement(Route, { path: "/g/:group/w/:week/*", element: createElement(WithSync, null, part) }),
  );
  const router = createElement(MemoryRouter, { initialEntries: ["/g/ol/w/7/x"] }, routes);
  return renderToStaticMarkup(createElement(QueryClientProvider, { client }, router));
}

/** The text of markup, as a screen reader would run it together. */
export const textOf = (markup: string) =>
  markup
    .replace(/<[^>]+>/g, " ")
    .replaceAll("&#x27;", "'")
    .replaceAll("&quot;", '"')
    .replaceAll("&amp;", "&")
    .replace(/\s+/g, " ")
    .trim();
