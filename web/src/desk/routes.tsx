/** The addresses of the staff application. */
import { createRootRoute, createRoute, createRouter, redirect } from "@tanstack/react-router";

import { DispatchPlace } from "./dispatch/DispatchPlace";
import { EntriesPlace } from "./entries/EntriesPlace";
import { GatePlace } from "./gate/GatePlace";
import { LinksPlace } from "./links/LinksPlace";
import { MapPlace } from "./map/MapPlace";
import { DeskRoom } from "./office/DeskRoom";
import { MailRoom } from "./office/MailRoom";
import { RegisterRoom } from "./office/RegisterRoom";
import { RegistersRoom } from "./office/RegistersRoom";
import { TrailRoom } from "./office/TrailRoom";
import { ScriptPlace } from "./script/ScriptPlace";
import { Office } from "./shell/Office";
import { Place } from "./shell/Place";
import { Shell } from "./shell/Shell";
import { Lost } from "./shell/states";

const root = createRootRoute({ component: Shell, notFoundComponent: () => <Lost /> });

const office = createRoute({
  getParentRoute: () => root,
  id: "office",
  component: Office,
});
const desk = createRoute({
  getParentRoute: () => office,
  path: "/",
  component: DeskRoom,
});
const registers = createRoute({
  getParentRoute: () => office,
  path: "registers",
  component: RegistersRoom,
});
const register = createRoute({
  getParentRoute: () => office,
  path: "registers/$registerId",
  component: RegisterRoom,
});
const mailRoom = createRoute({
  getParentRoute: () => office,
  path: "mail-room",
  component: MailRoom,
});
const trail = createRoute({
  getParentRoute: () => office,
  path: "trail",
  component: TrailRoom,
});

const place = createRoute({
  getParentRoute: () => root,
  path: "q/$id",
  component: Place,
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
  component: ScriptPlace,
});
const map = createRoute({
  getParentRoute: () => place,
  path: "map",
  component: MapPlace,
});
const links = createRoute({
  getParentRoute: () => place,
  path: "links",
  component: LinksPlace,
});
const gate = createRoute({
  getParentRoute: () => place,
  path: "gate",
  component: GatePlace,
});
const dispatch = createRoute({
  getParentRoute: () => place,
  path: "dispatch",
  component: DispatchPlace,
});
const entries = createRoute({
  getParentRoute: () => place,
  path: "entries",
  component: EntriesPlace,
  validateSearch: (search: Record<string, unknown>): { entry?: string } =>
    typeof search["entry"] === "string" ? { entry: search["entry"] } : {},
});

export const router = createRouter({
  basepath: "/desk",
  routeTree: root.addChildren([
    office.addChildren([desk, registers, register, mailRoom, trail]),
    place.addChildren([first, script, map, links, gate, dispatch, entries]),
  ]),
});

declare module "@tanstack/react-router" {
  interface Register {
    router: typeof router;
  }
}
