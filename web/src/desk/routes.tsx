/** The addresses of the staff application. */
import { noop, type QueryClient } from "@tanstack/react-query";
import {
  createRootRouteWithContext,
  createRoute,
  createRouter,
  lazyRouteComponent,
  redirect,
} from "@tanstack/react-router";

import { me, questionnaire } from "./data";
import { entryColumns, entryPages } from "./entries/data";
import type { Base, Pair } from "./figures/data";
import { orderQuery, registerRead } from "./registers/data";
import { Office } from "./shell/Office";
import { Place } from "./shell/Place";
import { Shell } from "./shell/Shell";
import type { ChosenEntries, TableView } from "./views/view";
import { Lost } from "./shell/states";
import { filterOf } from "./trailFilter";

interface RouterContext {
  queries: QueryClient;
}

const root = createRootRouteWithContext<RouterContext>()({
  component: Shell,
  notFoundComponent: () => <Lost />,
  // Asked for while the script of a place is fetched, where nothing is known of it yet.
  loader: ({ context }) => void context.queries.query({ ...me, staleTime: Infinity }).catch(noop),
});

const office = createRoute({
  getParentRoute: () => root,
  id: "office",
  component: Office,
});
const desk = createRoute({
  getParentRoute: () => office,
  path: "/",
  component: lazyRouteComponent(() => import("./office/DeskRoom"), "DeskRoom"),
});
const registers = createRoute({
  getParentRoute: () => office,
  path: "registers",
  component: lazyRouteComponent(() => import("./registers/RegistersRoom"), "RegistersRoom"),
});
const register = createRoute({
  getParentRoute: () => root,
  path: "registers/$registerId",
  loaderDeps: ({ search }) => ({ view: search.view }),
  // Asked for while the script of the grid is fetched.
  loader: ({ context, params: { registerId: id }, deps }) => {
    void context.queries.query({ ...registerRead(id), staleTime: Infinity }).catch(noop);
    void context.queries.query(orderQuery(id, deps.view ?? {})).catch(noop);
  },
  validateSearch: (search: Record<string, unknown>): { row?: number; view?: TableView } => ({
    ...(typeof search["row"] === "number" ? { row: search["row"] } : {}),
    // The server says what of a view in an address cannot be looked at.
    ...(search["view"] && typeof search["view"] === "object" ? { view: search["view"] } : {}),
  }),
  component: lazyRouteComponent(() => import("./registers/RegisterRoom"), "RegisterRoom"),
});
const mailRoom = createRoute({
  getParentRoute: () => office,
  path: "mail-room",
  component: lazyRouteComponent(() => import("./office/MailRoom"), "MailRoom"),
});
const trail = createRoute({
  getParentRoute: () => office,
  path: "trail",
  component: lazyRouteComponent(() => import("./trail/TrailRoom"), "TrailRoom"),
  validateSearch: filterOf,
});
const people = createRoute({
  getParentRoute: () => office,
  path: "people",
  component: lazyRouteComponent(() => import("./people/PeopleRoom"), "PeopleRoom"),
});
const settings = createRoute({
  getParentRoute: () => office,
  path: "office",
  component: lazyRouteComponent(() => import("./people/OfficeRoom"), "OfficeRoom"),
});
const account = createRoute({
  getParentRoute: () => office,
  path: "account",
  component: lazyRouteComponent(() => import("./account/AccountRoom"), "AccountRoom"),
});
const listOf = (search: Record<string, unknown>): { list?: string } =>
  typeof search["list"] === "string" ? { list: search["list"] } : {};
const contacts = createRoute({
  getParentRoute: () => office,
  path: "contacts",
  component: lazyRouteComponent(() => import("./contacts/ContactsRoom"), "ContactsRoom"),
  validateSearch: (search: Record<string, unknown>): { list?: string; contact?: string } => ({
    ...listOf(search),
    ...(typeof search["contact"] === "string" ? { contact: search["contact"] } : {}),
  }),
});
const onePerson = createRoute({
  getParentRoute: () => office,
  path: "contacts/person",
  validateSearch: (search: Record<string, unknown>): { email?: string } =>
    typeof search["email"] === "string" ? { email: search["email"] } : {},
  component: lazyRouteComponent(() => import("./contacts/OnePerson"), "OnePerson"),
});
const noLetters = createRoute({
  getParentRoute: () => office,
  path: "contacts/no-letters",
  component: lazyRouteComponent(() => import("./contacts/NoLetters"), "NoLetters"),
});
const contactsImport = createRoute({
  getParentRoute: () => office,
  path: "contacts/import",
  component: lazyRouteComponent(() => import("./contacts/ImportRoom"), "ImportRoom"),
  validateSearch: listOf,
});
const signIn = createRoute({
  getParentRoute: () => office,
  path: "visitor-sign-in",
  component: lazyRouteComponent(() => import("./visitors/SignInRoom"), "SignInRoom"),
});
const registerPeople = createRoute({
  getParentRoute: () => office,
  path: "registers/$registerId/people",
  component: lazyRouteComponent(() => import("./people/PartsPlace"), "RegisterParts"),
});

const place = createRoute({
  getParentRoute: () => root,
  path: "q/$id",
  component: Place,
  loader: ({ context, params }) =>
    void context.queries.query({ ...questionnaire(params.id), staleTime: Infinity }).catch(noop),
});
const first = createRoute({
  getParentRoute: () => place,
  path: "/",
  beforeLoad: ({ params }) => {
    throw redirect({ to: "/q/$id/script", params: { id: params.id } });
  },
});
const script = createRoute({
  getParentRoute: () => place,
  path: "script",
  component: lazyRouteComponent(() => import("./script/ScriptPlace"), "ScriptPlace"),
});
const map = createRoute({
  getParentRoute: () => place,
  path: "map",
  component: lazyRouteComponent(() => import("./map/MapPlace"), "MapPlace"),
});
const links = createRoute({
  getParentRoute: () => place,
  path: "links",
  component: lazyRouteComponent(() => import("./links/LinksPlace"), "LinksPlace"),
  validateSearch: (search: Record<string, unknown>): { way?: string } =>
    typeof search["way"] === "string" ? { way: search["way"] } : {},
});
const placePeople = createRoute({
  getParentRoute: () => place,
  path: "people",
  component: lazyRouteComponent(() => import("./people/PartsPlace"), "QuestionnaireParts"),
});
const gate = createRoute({
  getParentRoute: () => place,
  path: "gate",
  component: lazyRouteComponent(() => import("./gate/GatePlace"), "GatePlace"),
});
const roundOf = (search: Record<string, unknown>): { round?: string } =>
  typeof search["round"] === "string" ? { round: search["round"] } : {};
const rounds = createRoute({
  getParentRoute: () => place,
  path: "rounds",
  validateSearch: roundOf,
  component: lazyRouteComponent(() => import("./rounds/RoundsPlace"), "RoundsPlace"),
});
const worklist = createRoute({
  getParentRoute: () => place,
  path: "rounds/worklist",
  validateSearch: roundOf,
  component: lazyRouteComponent(() => import("./rounds/WorklistPlace"), "WorklistPlace"),
});
const dispatch = createRoute({
  getParentRoute: () => place,
  path: "dispatch",
  validateSearch: (search: Record<string, unknown>): { runs?: "open" | "replay" } =>
    search["runs"] === "open" || search["runs"] === "replay" ? { runs: search["runs"] } : {},
  component: lazyRouteComponent(() => import("./dispatch/DispatchPlace"), "DispatchPlace"),
});
interface EntriesSearch {
  entry?: string;
  about?: string;
  view?: TableView;
  archived?: boolean;
}

const entriesSearch = (search: Record<string, unknown>): EntriesSearch => ({
  ...(typeof search["entry"] === "string" ? { entry: search["entry"] } : {}),
  // What looks like a number in an address is one for the router.
  ...(["string", "number"].includes(typeof search["about"])
    ? { about: String(search["about"]) }
    : {}),
  ...(typeof search["view"] === "object" && search["view"] ? { view: search["view"] } : {}),
  ...(search["archived"] === true ? { archived: true } : {}),
});

const entries = createRoute({
  getParentRoute: () => place,
  path: "entries",
  component: lazyRouteComponent(() => import("./entries/EntriesPlace"), "EntriesPlace"),
  validateSearch: entriesSearch,
  // Asked for while the page is fetched.
  loaderDeps: ({ search }) => ({ view: search.view, archived: search.archived ?? false }),
  loader: ({ context: { queries }, params: { id }, deps: { view = {}, archived } }) => {
    void queries.query(entryColumns(id)).catch(noop);
    void queries.infiniteQuery(entryPages(id, { view, archived })).catch(noop);
  },
});

/** Which entries are counted, and who shares are of. */
interface CountedSearch {
  view?: TableView;
  archived?: boolean;
  of?: Base;
}

interface FiguresSearch extends CountedSearch {
  pair?: Pair;
  beside?: TableView;
}

const pairOf = (given: unknown): { pair?: Pair } => {
  if (typeof given !== "object" || given === null) return {};
  const { rows, columns, of } = given as Record<string, unknown>;
  if (typeof rows !== "string" || typeof columns !== "string") return {};
  return { pair: { rows, columns, of: of === "columns" || of === "all" ? of : "rows" } };
};

const countedOf = (search: Record<string, unknown>): CountedSearch => ({
  ...(typeof search["view"] === "object" && search["view"] ? { view: search["view"] } : {}),
  ...(search["archived"] === true ? { archived: true } : {}),
  ...(search["of"] === "asked" ? { of: "asked" } : {}),
});

const figures = createRoute({
  getParentRoute: () => place,
  path: "figures",
  validateSearch: (search: Record<string, unknown>): FiguresSearch => ({
    ...countedOf(search),
    ...pairOf(search["pair"]),
    ...(typeof search["beside"] === "object" && search["beside"]
      ? { beside: search["beside"] }
      : {}),
  }),
  component: lazyRouteComponent(() => import("./figures/FiguresPlace"), "FiguresPlace"),
});

interface SharedSearch extends CountedSearch {
  page?: string;
}

const sharedPages = createRoute({
  getParentRoute: () => place,
  path: "figures/pages",
  validateSearch: (search: Record<string, unknown>): SharedSearch => ({
    ...(typeof search["page"] === "string" ? { page: search["page"] } : {}),
    ...countedOf(search),
  }),
  component: lazyRouteComponent(() => import("./figures/pages/PagesPlace"), "PagesPlace"),
});

export const routerOf = (queries: QueryClient) =>
  createRouter({
    context: { queries },
    basepath: "/desk",
    defaultPreload: "intent",
    routeTree: root.addChildren([
      office.addChildren([
        desk,
        registers,
        registerPeople,
        mailRoom,
        trail,
        people,
        settings,
        account,
        contacts,
        contactsImport,
        noLetters,
        onePerson,
        signIn,
      ]),
      register,
      place.addChildren([
        first,
        script,
        map,
        links,
        gate,
        rounds,
        worklist,
        dispatch,
        entries,
        figures,
        sharedPages,
        placePeople,
      ]),
    ]),
  });

declare module "@tanstack/react-router" {
  interface HistoryState {
    /** Entries that somebody goes on with in another place. */
    chosen?: ChosenEntries;
  }
  interface Register {
    router: ReturnType<typeof routerOf>;
  }
}
