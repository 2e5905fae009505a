import { createElement, type ReactElement } from "react";
import { renderToStaticMarkup } from "react-dom/server";
import { MemoryRouter, Route, Routes } from "react-router";

/** What a part paints at an address of the offensive line, as markup; for tests. */
export function draw(part: ReactElement): string {
  return renderToStaticMarkup(
    createElement(
      MemoryRouter,
      { initialEntries: ["/g/ol/w/7/x"] },
      createElement(Routes, null, createElement(Route, { path: "/g/:group/w/:week/*", element: part })),
    ),
  );
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
