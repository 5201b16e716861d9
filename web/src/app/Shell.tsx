import { Link, Outlet, useLocation, useNavigate } from "@tanstack/react-router";
import { lazy, Suspense, useEffect, useId, useState } from "react";
import { answer, api } from "@/api/client";
import { useFetchAhead } from "@/features/deck";
import { HereProvider, useHere, useOtherTabs, useSession, useSetSession } from "@/session";
import { Button } from "@/ui/Button";
import { BarSlot } from "@/ui/bar-slot";
import { ErrorMessage } from "@/ui/Message";
import { Notices, notify } from "@/ui/Notice";
import { setTheme, THEMES, useTheme } from "@/ui/theme";
import { ClockQuestion } from "./ClockQuestion";
import { FindTag } from "./FindTag";
import { Help } from "./Help";
import { Me } from "./Me";
import { NewVersionReady } from "./NewVersionReady";
import { OldScreens } from "./OldScreens";
import { UnsavedEntries } from "./UnsavedEntries";
import { Unsent } from "./Unsent";

const SignIn = lazy(async () => ({ default: (await import("@/features/sign-in")).SignIn }));
const Join = lazy(async () => ({ default: (await import("@/features/sign-in")).Join }));
const NewPassword = lazy(async () => ({ default: (await import("@/features/sign-in")).NewPassword }));

const sayWhoIsHere = () => notify("Somebody signed in or out in another tab: the name above is who works here now.");

/** The frame round every screen: where one is in the work, who one is, what is unsent. */
export function Shell() {
  const { data: session, error, isPending } = useSession();
  const { pathname } = useLocation();
  useOtherTabs(sayWhoIsHere);
  if (isPending) return <Frame />;
  if (error)
    return (
      <main className="p-6">
        <ErrorMessage failure={error} />
      </main>
    );
  if (pathname === "/join" || pathname === "/password")
    return (
      <Suspense fallback={<Frame />}>
        <Frame />
        {pathname === "/join" ? <Join session={session} /> : <NewPassword />}
      </Suspense>
    );
  if (!session.person)
    return (
      <Suspense fallback={<Frame />}>
        <SignIn session={session} />
      </Suspense>
    );
  if (!session.memberships.length) return <NoProgramme />;
  return (
    <HereProvider session={session}>
      <Header />
      <UnsavedEntries />
      <ClockQuestion />
      <OldScreens />
      <Outlet />
      <Notices />
    </HereProvider>
  );
}

/** Somebody who has left all programmes, or was never in one. */
function NoProgramme() {
  const setSession = useSetSession();
  return (
    <main className="p-6">
      <p className="max-w-prose">
        You belong to no programme now. Ask a programme's lead for an invitation; its link brings you in with this
        account.
      </p>
      <Button className="mt-4" onClick={() => answer(api.DELETE("/api/v1/session")).then(setSession)}>
        Sign out
      </Button>
    </main>
  );
}

/** The bar before it is known who is here: as index.html shows it too, so that nothing jumps. */
function Frame() {
  return (
    <header className="flex min-h-12 items-center gap-2 border-b border-line px-4 font-semibold tracking-wide">
      <Mark /> Nailwright
    </header>
  );
}

function Header() {
  const { membership, memberships, choose, may } = useHere();
  const navigate = useNavigate();
  const setSession = useSetSession();
  useFetchAhead();
  const signOut = () =>
    answer(api.DELETE("/api/v1/session")).then(setSession, () =>
      notify("No signal: you stay signed in, and what is unsent stays here. Sign out when there is a signal again."),
    );
  const turnTo = (programme: string) => {
    choose(programme);
    void navigate({ to: "/" });
  };
  const { pathname } = useLocation();
  // at work on an outing the page is the Deck: the rest of the application is one touch away
  const [menu, setMenu] = useState(false);
  useEffect(() => setMenu(false), [pathname]);
  const onDeck = pathname.startsWith("/deck/");
  const folded = onDeck && !menu ? "hidden" : "contents";
  return (
    <header className="flex min-h-12 flex-wrap items-center gap-x-5 gap-y-1 border-b border-line px-4 max-sm:gap-x-2 max-sm:px-2">
      {onDeck ? (
        <Button aria-expanded={menu} onClick={() => setMenu(!menu)} className="max-sm:px-2">
          <Mark /> Menu
        </Button>
      ) : (
        <span className="flex items-center gap-2 font-semibold tracking-wide max-sm:sr-only">
          <Mark /> <span className="max-lg:sr-only">Nailwright</span>
        </span>
      )}
      {onDeck && <BarSlot className={menu ? "order-last basis-full!" : ""} />}
      <div className={folded}>
        <nav aria-label="Stages of the work" className="flex flex-wrap gap-1">
          <Stage to="/">Today</Stage>
          <Stage to="/plan">Plan</Stage>
          <Stage to="/deck">Deck</Stage>
          {membership.role === "volunteer" && <Stage to="/kit">Kit</Stage>}
          {may("keep_tags") && <Stage to="/tags">Tags</Stage>}
          {may("read_findings") && <Stage to="/findings/$kind">Findings</Stage>}
          {may("read_findings") && <Stage to="/records">Records</Stage>}
        </nav>
        {memberships.length > 1 ? (
          <select
            aria-label="Programme"
            className="min-h-8 max-w-56 bg-transparent text-sm"
            value={membership.programme}
            onChange={(event) => turnTo(event.target.value)}
          >
            {memberships.map(({ programme, programme_name }) => (
              <option key={programme} value={programme}>
                {programme_name}
              </option>
            ))}
          </select>
        ) : (
          <span className="text-sm text-muted max-[1400px]:hidden">{membership.programme_name}</span>
        )}
      </div>
      {!onDeck && <span className="ml-auto" />}
      <NewVersionReady />
      <Unsent />
      <div className={folded}>
        {memberships.length === 1 && <FindTag />}
        <span className="max-lg:hidden">
          <ThemeChoice />
        </span>
      </div>
      <Help />
      <div className={folded}>
        <Me>
          <div className="mb-4 flex flex-wrap items-center gap-3 border-b border-line pb-4 lg:hidden">
            <ThemeChoice />
            <Button large onClick={signOut}>
              Sign out
            </Button>
          </div>
        </Me>
        <span className="max-lg:hidden">
          <Button large onClick={signOut}>
            Sign out
          </Button>
        </span>
      </div>
    </header>
  );
}

function Stage({
  to,
  children,
}: {
  to: "/" | "/plan" | "/deck" | "/tags" | "/kit" | "/findings/$kind" | "/records";
  children: string;
}) {
  const { pathname } = useLocation();
  const stage = to.split("/$")[0]!;
  const here = stage === "/" ? pathname === "/" : pathname.startsWith(stage);
  return (
    <Link
      to={to}
      params={{ kind: "size" }}
      aria-current={here ? "page" : undefined}
      className={`inline-flex min-h-[44px] items-end border-b-3 px-2 pb-2 hover:border-line ${here ? "border-ink font-semibold" : "border-transparent"}`}
    >
      {children}
    </Link>
  );
}

function ThemeChoice() {
  const theme = useTheme();
  const where = useId();
  return (
    <fieldset className="flex rounded-sm border border-line" aria-label="Light on the screen">
      {THEMES.map((each) => (
        <label
          key={each}
          className={`inline-flex min-h-[44px] cursor-pointer items-center px-2.5 text-sm has-focus-visible:outline-3 has-focus-visible:outline-ink ${theme === each ? "bg-ink text-on-ink" : ""}`}
        >
          <input
            type="radio"
            name={`theme-${where}`}
            className="sr-only"
            checked={theme === each}
            onChange={() => setTheme(each)}
          />
          {each[0]!.toUpperCase() + each.slice(1)}
        </label>
      ))}
    </fieldset>
  );
}

function Mark() {
  return (
    <svg viewBox="0 0 28 20" width="28" height="20" aria-hidden="true">
      <path
        d="M1 18h26M4 18v-4M9 18v-4M14 18v-7M19 18v-4M24 18v-4"
        stroke="currentColor"
        strokeWidth="1.6"
        fill="none"
      />
      <path d="M14 9V1" stroke="var(--signal)" strokeWidth="3" />
    </svg>
  );
}
