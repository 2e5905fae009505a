import { createBrowserRouter } from "react-router";
import { Frame } from "./Frame";
import { Home } from "./Home";
import { ErrorScreen, NotFound, OutOfBounds } from "./NotFound";
import { Loading } from "@/kit/States";
import { goingTo, load } from "./chunks";

/** Routes are split: the frame and the first screen load first, the rest when it is asked for. */
export const router = createBrowserRouter([
  { path: "/", element: <Home />, errorElement: <ErrorScreen /> },
  {
    path: "/signin",
    lazy: async () => ({ Component: (await load(() => import("./SignIn"))).SignIn }),
    errorElement: <ErrorScreen />,
    hydrateFallbackElement: <Loading what="the sign-in" />,
  },
  ...(["join", "recover", "email", "begin", "outbox"] as const).map((path) => ({
    path: `/${path}`,
    lazy: async () => {
      const { Join, Recover, ConfirmEmail, Begin, Outbox } = await load(() => import("./Links"));
      return {
        Component: { join: Join, recover: Recover, email: ConfirmEmail, begin: Begin, outbox: Outbox }[path],
      };
    },
    errorElement: <ErrorScreen />,
    hydrateFallbackElement: <Loading what="Nine Yard" />,
  })),
  {
    path: "/g/:group/w/:week",
    element: <Frame />,
    errorElement: <ErrorScreen />,
    hydrateFallbackElement: <Loading what="Nine Yard" />,
    children: [
      {
        errorElement: <ErrorScreen inside />,
        children: [
          {
            index: true,
            lazy: async () => ({ Component: (await load(() => import("@/screens/today/Today"))).Today }),
          },
          {
            path: "today",
            lazy: async () => ({ Component: (await load(() => import("@/screens/today/Today"))).Today }),
          },
          {
            path: "season",
            lazy: async () => ({ Component: (await load(() => import("@/screens/season/Season"))).Season }),
          },
          {
            path: "season/calls",
            lazy: async () => ({ Component: (await load(() => import("@/screens/calls/Calls"))).Calls }),
          },
          {
            path: "season/line-up",
            lazy: async () => ({ Component: (await load(() => import("@/screens/calls/LineUp"))).LineUp }),
          },
          {
            path: "practice",
            lazy: async () => ({ Component: (await load(() => import("@/screens/practice/Week"))).Week }),
          },
          {
            path: "practice/:id",
            lazy: async () => ({
              Component: (await load(() => import("@/screens/practice/Practice"))).Practice,
            }),
          },
          {
            path: "practice/settings",
            lazy: async () => ({
              Component: (await load(() => import("@/screens/script/Settings"))).Settings,
            }),
          },
          {
            path: "practice/:id/script",
            lazy: async () => ({ Component: (await load(() => import("@/screens/script/Script"))).Script }),
          },
          {
            path: "practice/:id/mark/:placement",
            lazy: async () => ({ Component: (await load(() => import("@/screens/marks/Marks"))).Marks }),
          },
          {
            path: "practice/:id/mark/:placement/videos",
            lazy: async () => ({
              Component: (await load(() => import("@/screens/film/videos/Videos"))).Videos,
            }),
          },
          {
            path: "practice/:id/mark/:placement/videos/:film",
            lazy: async () => ({
              Component: (await load(() => import("@/screens/film/videos/Cutting"))).Cutting,
            }),
          },
          {
            path: "film",
            lazy: async () => ({ Component: (await load(() => import("@/screens/film/Film"))).Film }),
          },
          {
            path: "film/:game",
            lazy: async () => ({ Component: (await load(() => import("@/screens/film/Game"))).Game }),
          },
          {
            path: "film/:game/plays",
            lazy: async () => ({ Component: (await load(() => import("@/screens/film/Plays"))).Plays }),
          },
          {
            path: "film/:game/files",
            lazy: async () => ({ Component: (await load(() => import("@/screens/film/Files"))).Files }),
          },
          {
            path: "film/:game/sheets",
            lazy: async () => ({ Component: (await load(() => import("@/screens/tell/Sheets"))).Sheets }),
          },
          {
            path: "film/:game/sheets/:player",
            lazy: async () => ({
              Component: (await load(() => import("@/screens/tell/PlayerSheet"))).PlayerSheet,
            }),
          },
          {
            path: "film/:game/meeting",
            lazy: async () => ({ Component: (await load(() => import("@/screens/tell/Meeting"))).Meeting }),
          },
          {
            path: "film/:game/videos",
            lazy: async () => ({
              Component: (await load(() => import("@/screens/film/videos/Videos"))).Videos,
            }),
          },
          {
            path: "film/:game/videos/:film",
            lazy: async () => ({
              Component: (await load(() => import("@/screens/film/videos/Cutting"))).Cutting,
            }),
          },
          {
            path: "film/:game/two",
            lazy: async () => ({
              Component: (await load(() => import("@/screens/film/TwoGraders"))).TwoGraders,
            }),
          },
          {
            path: "players",
            lazy: async () => ({
              Component: (await load(() => import("@/screens/players/Players"))).Players,
            }),
          },
          {
            path: "players/:id",
            lazy: async () => ({ Component: (await load(() => import("@/screens/players/Player"))).Player }),
          },
          {
            path: "teaching",
            lazy: async () => ({
              Component: (await load(() => import("@/screens/teaching/Teaching"))).Teaching,
            }),
          },
          {
            path: "teaching/drills",
            lazy: async () => ({ Component: (await load(() => import("@/screens/teaching/Drills"))).Drills }),
          },
          {
            path: "teaching/drills/:drill",
            lazy: async () => ({
              Component: (await load(() => import("@/screens/teaching/DrillView"))).DrillView,
            }),
          },
          {
            path: "teaching/ladders",
            lazy: async () => ({ Component: (await load(() => import("@/screens/teaching/Board"))).Board }),
          },
          {
            path: "teaching/tables",
            lazy: async () => ({ Component: (await load(() => import("@/screens/teaching/Tables"))).Tables }),
          },
          {
            path: "teaching/schools",
            lazy: async () => ({
              Component: (await load(() => import("@/screens/teaching/Schools"))).Schools,
            }),
          },
          {
            path: "teaching/house",
            lazy: async () => ({ Component: (await load(() => import("@/screens/teaching/House"))).House }),
          },
          {
            path: "teaching/edit/:kind/:key",
            lazy: async () => ({ Component: (await load(() => import("@/screens/teaching/Editor"))).Editor }),
          },
          {
            path: "roster",
            lazy: async () => ({ Component: (await load(() => import("@/screens/roster/Roster"))).Roster }),
          },
          {
            path: "roster/import",
            lazy: async () => ({ Component: (await load(() => import("@/screens/roster/Import"))).Import }),
          },
          {
            path: "staff",
            lazy: async () => ({ Component: (await load(() => import("@/screens/staff/Staff"))).Staff }),
          },
          {
            path: "club",
            lazy: async () => ({ Component: (await load(() => import("@/screens/staff/Club"))).Club }),
          },
          {
            path: "log",
            lazy: async () => ({ Component: (await load(() => import("@/screens/staff/Log"))).Log }),
          },
          {
            path: "about",
            lazy: async () => ({ Component: (await load(() => import("@/screens/staff/About"))).About }),
          },
          {
            path: "account",
            lazy: async () => ({
              Component: (await load(() => import("@/screens/account/Account"))).Account,
            }),
          },
          { path: "*", element: <OutOfBounds /> },
        ],
      },
    ],
  },
  // Every part of the kit by itself, while it is built.
  ...(import.meta.env.DEV
    ? [
        {
          path: "/kit/*",
          lazy: async () => ({ Component: (await import("@/gallery/Gallery")).Gallery }),
          errorElement: <ErrorScreen />,
        },
      ]
    : []),
  { path: "*", element: <NotFound /> },
]);

goingTo(() => {
  const to = router.state.navigation.location;
  return to && to.pathname + to.search + to.hash;
});
