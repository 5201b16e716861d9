import { createRootRoute, createRoute, createRouter, lazyRouteComponent } from "@tanstack/react-router";
import { DeckScreen, OutingsScreen } from "@/features/deck";
import { readDeckSearch } from "@/features/deck/deck-search";
import { readSurveySearch } from "@/features/plan/survey-search";
import { readRegisterSearch } from "@/features/records/register-search";
import { readReturnsSearch } from "@/features/returns/returns-search";
import { readSelection } from "@/features/selection";
import { readTagsSearch } from "@/features/tags/tags-search";
import { TodayScreen } from "@/features/today";
import { Broken } from "./Broken";
import { Shell } from "./Shell";

const root = createRootRoute({
  component: Shell,
  notFoundComponent: () => <main className="p-6">There is no page at this address.</main>,
});
const home = createRoute({ getParentRoute: () => root, path: "/", component: TodayScreen });
const outings = createRoute({ getParentRoute: () => root, path: "/deck", component: OutingsScreen });
const deck = createRoute({
  getParentRoute: () => root,
  path: "/deck/$outing",
  validateSearch: readDeckSearch,
  component: function Deck() {
    const { outing } = deck.useParams();
    const { fish } = deck.useSearch();
    return <DeckScreen key={outing} outingId={outing} fish={fish} />;
  },
});
const findings = createRoute({
  getParentRoute: () => root,
  path: "/findings/$kind",
  validateSearch: readSelection,
  // charts are heavy and the Deck needs none
  component: lazyRouteComponent(() => import("@/features/findings"), "FindingsScreen"),
});

const tags = createRoute({
  getParentRoute: () => root,
  path: "/tags",
  validateSearch: readTagsSearch,
  component: lazyRouteComponent(() => import("@/features/tags"), "TagsScreen"),
});

const TheFish = lazyRouteComponent(() => import("@/features/tags"), "FishPage");
const fishPage = createRoute({
  getParentRoute: () => root,
  path: "/fish/$fish",
  component: function Fish() {
    const { fish } = fishPage.useParams();
    return <TheFish key={fish} fish={fish} />;
  },
});
const returns = createRoute({
  getParentRoute: () => root,
  path: "/tags/returns",
  validateSearch: readReturnsSearch,
  component: lazyRouteComponent(() => import("@/features/returns"), "ReturnsScreen"),
});

const KitPage = lazyRouteComponent(() => import("@/features/kit"), "KitScreen");
const kit = createRoute({
  getParentRoute: () => root,
  path: "/kit",
  component: () => <KitPage />,
});
const kitOf = createRoute({
  getParentRoute: () => root,
  path: "/kit/$kit",
  component: function Kit() {
    const { kit: of } = kitOf.useParams();
    return <KitPage key={of} kit={of} />;
  },
});
const volunteers = createRoute({
  getParentRoute: () => root,
  path: "/tags/volunteers",
  component: lazyRouteComponent(() => import("@/features/volunteers"), "VolunteersScreen"),
});
const paperCards = createRoute({
  getParentRoute: () => root,
  path: "/tags/volunteers/paper",
  component: lazyRouteComponent(() => import("@/features/volunteers"), "PaperCardsScreen"),
});
const course = createRoute({
  getParentRoute: () => root,
  path: "/kit/course",
  component: lazyRouteComponent(() => import("@/features/course"), "CourseScreen"),
});

const records = createRoute({
  getParentRoute: () => root,
  path: "/records",
  validateSearch: readRegisterSearch,
  component: lazyRouteComponent(() => import("@/features/records"), "RecordsScreen"),
});

const files = createRoute({
  getParentRoute: () => root,
  path: "/records/files",
  component: lazyRouteComponent(() => import("@/features/records"), "FilesScreen"),
});
const file = createRoute({
  getParentRoute: () => root,
  path: "/records/files/$file",
  component: lazyRouteComponent(() => import("@/features/records"), "FileScreen"),
});
const plan = createRoute({
  getParentRoute: () => root,
  path: "/plan",
  component: lazyRouteComponent(() => import("@/features/plan"), "PlanScreen"),
});
const survey = createRoute({
  getParentRoute: () => root,
  path: "/plan/$survey",
  validateSearch: readSurveySearch,
  component: lazyRouteComponent(() => import("@/features/plan"), "SurveyScreen"),
});

const settings = createRoute({
  getParentRoute: () => root,
  path: "/settings/$part",
  component: lazyRouteComponent(() => import("@/features/settings"), "SettingsScreen"),
});
const method = createRoute({
  getParentRoute: () => root,
  path: "/method/$page",
  component: lazyRouteComponent(() => import("@/features/guide"), "MethodScreen"),
});
const instruments = createRoute({
  getParentRoute: () => root,
  path: "/instruments",
  component: lazyRouteComponent(() => import("@/features/bench"), "BenchScreen"),
});
const practice = createRoute({
  getParentRoute: () => root,
  path: "/practice",
  component: lazyRouteComponent(() => import("@/features/bench"), "PracticeScreen"),
});
const waiting = createRoute({
  getParentRoute: () => root,
  path: "/waiting",
  component: lazyRouteComponent(() => import("@/features/waiting"), "WaitingScreen"),
});
const guide = createRoute({
  getParentRoute: () => root,
  path: "/guide/$who",
  component: lazyRouteComponent(() => import("@/features/guide"), "GuideScreen"),
});
/** For whoever is not signed in: the shell shows them before it asks who is here. */
const join = createRoute({ getParentRoute: () => root, path: "/join" });
const password = createRoute({ getParentRoute: () => root, path: "/password" });

export const router = createRouter({
  routeTree: root.addChildren([
    home,
    outings,
    deck,
    findings,
    tags,
    fishPage,
    returns,
    kit,
    kitOf,
    volunteers,
    paperCards,
    course,
    records,
    files,
    file,
    plan,
    survey,
    settings,
    waiting,
    instruments,
    practice,
    guide,
    method,
    join,
    password,
  ]),
  defaultPreload: "intent",
  defaultErrorComponent: Broken,
});

declare module "@tanstack/react-router" {
  interface Register {
    router: typeof router;
  }
}
