import { Toasts } from "@/kit/Toast";
import { Button } from "@/kit/Button";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import clsx from "clsx";
import { useEffect, useState } from "react";
import { Link, NavLink, Navigate, Outlet, useLocation, useNavigate, useNavigation } from "react-router";
import { api, data, type Schemas } from "@/api/client";
import { SyncProvider } from "@/sync/react";
import { queries } from "@/api/queries";
import { Menu, MenuItem, MenuLabel } from "@/kit/Menu";
import { Portals } from "@/kit/portal";
import { KeysWindow } from "@/keys/KeysWindow";
import { useKeyboard, useKeys } from "@/keys/react";
import { HashMark } from "@/parts/Ruler";
import { Loading, Trouble } from "@/kit/States";
import { dayMonth } from "@/parts/words";
import { Find } from "./Find";
import { NotFound } from "./NotFound";
import { SaveState } from "./SaveState";
import { SignInAgain } from "./SignInAgain";
import { forgetAll } from "./session";
import { setTheme, useTheme } from "./theme";
import { keepPlace, useWhere } from "./where";

const screens = [
  { path: "today", name: "Today", key: "1" },
  { path: "season", name: "Season", key: "2" },
  { path: "practice", name: "Practice", key: "3" },
  { path: "film", name: "Film", key: "4" },
  { path: "players", name: "Players", key: "5" },
  { path: "teaching", name: "Teaching", key: "6" },
];

const beside = [
  { path: "roster", name: "Roster" },
  { path: "staff", name: "Staff" },
  { path: "club", name: "the club" },
  { path: "log", name: "the log" },
  { path: "about", name: "what ships" },
  { path: "account", name: "your account" },
];

/** What athletic health has to do with: who takes part, and when there is practice. */
const forHealth = ["season", "practice"];

const screensOf = (user: Schemas["User"]) =>
  user.role === "health" ? screens.filter((s) => forHealth.includes(s.path)) : screens;

/** What stands around every screen: the rail in the order of the work, the group and the week. */
export function Frame() {
  const session = useQuery(queries.session());
  const frame = useQuery({ ...queries.frame(), enabled: !!session.data?.user });
  const { group, week } = useWhere();
  const location = useLocation();
  useKeyboard();
  const known =
    !!frame.data?.groups.some((g) => g.key === group) && week >= 1 && week <= frame.data.weeks.length;
  useEffect(() => {
    if (known) keepPlace(group);
  }, [group, known]);
  if (session.error) return <Trouble error={session.error} again={() => void session.refetch()} />;
  if (session.data && !session.data.user) {
    const here = location.pathname + location.search + location.hash;
    return <Navigate to={`/signin?next=${encodeURIComponent(here)}`} replace />;
  }
  if (frame.error) return <Trouble error={frame.error} again={() => void frame.refetch()} />;
  if (!frame.data || !session.data?.user) return <Loading what="Nine Yard" />;
  if (!known) return <NotFound />;
  const user = session.data.user;
  const screen = location.pathname.split("/")[5] ?? "today";
  // A club may ask for a second factor first; and a role has screens of its own.
  if (session.data.factor_due && screen !== "account")
    return <Navigate to={`/g/${group}/w/${week}/account`} replace />;
  if (user.role === "health" && screens.some((s) => s.path === screen && !forHealth.includes(s.path)))
    return <Navigate to={`/g/${group}/w/${week}/roster`} replace />;
  return (
    <SyncProvider user={user.id}>
      <a
        href="#main"
        className="btn sr-only focus:not-sr-only focus:fixed focus:left-2 focus:top-2 focus:z-50 screen-only"
      >
        Skip to the screen
      </a>
      <div className="flex min-h-screen flex-col print:block! md:grid md:grid-cols-[132px_minmax(0,1fr)]">
        <Rail user={user} />
        <div className="flex min-w-0 flex-1 flex-col">
          <Bar frame={frame.data} session={session.data} user={user} />
          <Notices list={session.data.notices ?? []} />
          <main
            id="main"
            tabIndex={-1}
            className="min-w-0 flex-1 p-3 pb-20 outline-none md:px-[18px] md:py-4 print:p-0!"
          >
            <Portals>
              <Toasts>
                <OnItsWay />
                <Outlet />
              </Toasts>
            </Portals>
          </main>
        </div>
      </div>
      <SignInAgain user={user} demo={session.data.demo} />
    </SyncProvider>
  );
}

/** A screen whose script is still on its way: which one, over the screen that still stands. */
function OnItsWay() {
  const { state, location } = useNavigation();
  if (state !== "loading") return null;
  const path = location.pathname.split("/")[5] ?? "today";
  const name = [...screens, ...beside].find((s) => s.path === path)?.name;
  return (
    <div className="fixed left-1/2 top-14 z-30 -translate-x-1/2 bg-sheet screen-only">
      <Loading what={name ?? "the screen"} />
    </div>
  );
}

function Rail({ user }: { user: Schemas["User"] }) {
  const { base } = useWhere();
  const navigate = useNavigate();
  const own = screensOf(user);
  useKeys(
    own.map((s) => ({
      keys: `Alt+${s.key}`,
      does: s.name,
      run: () => void navigate(`${base}/${s.path}`),
    })),
  );
  const link = ({ isActive }: { isActive: boolean }) =>
    clsx(
      "flex items-center px-0.5 py-1.5 text-head font-medium max-md:justify-center max-md:text-small max-md:[font-stretch:84%] pointer-coarse:min-h-11 md:px-3.5 md:py-[5px]",
      isActive ? "bg-paper font-semibold text-ink" : "text-rail-soft hover:text-rail-ink",
    );
  return (
    <nav
      aria-label="Screens"
      className="fixed inset-x-0 bottom-0 z-20 grid grid-cols-7 bg-rail text-center text-rail-ink screen-only md:sticky md:top-0 md:z-auto md:flex md:h-screen md:flex-col md:justify-start md:text-left"
    >
      <Link to="/" className="hidden px-3.5 pb-3 pt-3.5 md:block" aria-label="Nine Yard, to Today">
        <span className="text-[15px] font-extrabold tracking-wide">NINE YARD</span>
        <HashMark />
      </Link>
      {own.map((s) => (
        <NavLink key={s.path} to={`${base}/${s.path}`} className={link}>
          {s.name}
        </NavLink>
      ))}
      <div className="md:mt-auto md:pb-3">
        <NavLink to={`${base}/roster`} className={link}>
          Roster
        </NavLink>
      </div>
    </nav>
  );
}

interface BarProps {
  frame: Schemas["Frame"];
  session: Schemas["Session"];
  user: Schemas["User"];
}

function Bar({ frame, session, user }: BarProps) {
  const { group, week } = useWhere();
  const navigate = useNavigate();
  const location = useLocation();
  const [keysOpen, setKeysOpen] = useState(false);
  const [finding, setFinding] = useState(false);
  useKeys([
    { keys: "/", does: "Find a technique, fault, drill or ladder", run: () => setFinding(true) },
    { keys: "?", does: "Keys of this screen", run: () => setKeysOpen(true) },
  ]);
  // Keep the screen, but not the practice or player of another week or group.
  const [, , , , , screen = "today", room] = location.pathname.split("/");
  const stay = screen === "teaching" && room && room !== "edit" ? `teaching/${room}` : screen;
  const go = (g: string, w: number) => void navigate(`/g/${g}/w/${w}/${stay}`);
  const here = frame.groups.find((g) => g.key === group);
  const game = frame.weeks[week - 1]?.games[0];
  return (
    <header className="flex min-h-12 flex-wrap items-center gap-x-3 gap-y-1 border-b border-rule bg-sheet px-3 py-1.5 screen-only md:px-[18px]">
      <Portals>
        <Menu label={here?.name ?? group} title="Position group">
          {frame.groups.map((g) => (
            <MenuItem key={g.key} onSelect={() => go(g.key, week)}>
              {g.name}
              {g.mine && <span className="label ml-auto pl-4">yours</span>}
            </MenuItem>
          ))}
        </Menu>
        <Menu label={`Week ${week}`} title="Week">
          {frame.weeks.map((w) => (
            <MenuItem key={w.week} onSelect={() => go(group, w.week)}>
              Week {w.week}
              <span className="label pl-2">{dayMonth(w.starts)}</span>
              {w.week === frame.week && <span className="label ml-auto pl-4">now</span>}
            </MenuItem>
          ))}
        </Menu>
        {game && (
          <span className="label hidden sm:inline">
            {game.opponent} {game.home ? "at home" : "away"}, {dayMonth(game.date)}
          </span>
        )}
        <span className="ml-auto flex items-center gap-3">
          <SaveState />
          <Button kind="bare" className="label" onClick={() => setFinding(true)}>
            Find <span className="kbd max-md:hidden">/</span>
          </Button>
          <Button kind="bare" className="label hidden md:inline" onClick={() => setKeysOpen(true)}>
            Keys <span className="kbd">?</span>
          </Button>
          <UserMenu user={user} club={frame.club} session={session} />
        </span>
        <Find open={finding} onOpenChange={setFinding} />
        <KeysWindow open={keysOpen} onOpenChange={setKeysOpen} />
      </Portals>
    </header>
  );
}

/** What the account is told of itself, until it is put away. */
function Notices({ list }: { list: Schemas["Notice"][] }) {
  const client = useQueryClient();
  if (list.length === 0) return null;
  const away = (id: string) =>
    void data(api.DELETE("/account/notices/{id}", { params: { path: { id } } })).then(() =>
      client.invalidateQueries({ queryKey: queries.session().queryKey }),
    );
  return (
    <ul aria-label="Notices" className="screen-only">
      {list.map((n) => (
        <li
          key={n.id}
          className="flex flex-wrap items-center gap-3 border-b border-watch bg-watch-wash px-3 py-1 md:px-[18px]"
        >
          <span className="say text-small">
            {n.says}. If that was not you, choose a new password and tell the head coach.
          </span>
          <Button kind="text" className="ml-auto" onClick={() => away(n.id)}>
            Seen<span className="sr-only">: {n.says}</span>
          </Button>
        </li>
      ))}
    </ul>
  );
}

interface MenuProps {
  user: Schemas["User"];
  club: string;
  session: Schemas["Session"];
}

function UserMenu({ user, club, session }: MenuProps) {
  const theme = useTheme();
  const client = useQueryClient();
  const navigate = useNavigate();
  const { base } = useWhere();
  const signOut = async () => {
    await data(api.DELETE("/session")).catch(() => undefined);
    forgetAll(client);
    void navigate("/signin");
  };
  const goTo = async (member: string) => {
    await data(api.POST("/session/club", { body: { member } }));
    forgetAll(client);
    location.assign("/");
  };
  return (
    <Menu label={user.name} title="You">
      <MenuLabel>{club}</MenuLabel>
      {(session.clubs ?? [])
        .filter((c) => !c.here)
        .map((c) => (
          <MenuItem key={c.member} onSelect={() => void goTo(c.member)}>
            To {c.club}
          </MenuItem>
        ))}
      <MenuItem onSelect={() => void navigate(`${base}/account`)}>Your account</MenuItem>
      {user.role === "head" && <MenuItem onSelect={() => void navigate(`${base}/staff`)}>Staff</MenuItem>}
      <MenuItem onSelect={() => void navigate(`${base}/club`)}>The club and its groups</MenuItem>
      {user.role === "head" && (
        <MenuItem onSelect={() => void navigate(`${base}/log`)}>Who changed what</MenuItem>
      )}
      <MenuItem onSelect={() => void navigate(`${base}/about`)}>About</MenuItem>
      <MenuItem onSelect={() => setTheme(theme === "night" ? "day" : "night")}>
        {theme === "night" ? "Paper, for daylight" : "Dark, for the film room"}
      </MenuItem>
      <MenuItem onSelect={() => void signOut()}>Sign out</MenuItem>
    </Menu>
  );
}
