import { inPage } from "../client/client";

/** Where this page is: at a public address, or the trial of a draft. The server, which draws the
 * first page beforehand, is at neither. */
const { pathname, search } =
  typeof window === "undefined" ? { pathname: "", search: "" } : window.location;

/** The path is /q/{address} or /try/{id}, or that of a named link, a pass, a sealed link or of
 * somebody of the office, such as /p/{address}/{secret}, with a language behind it where one was chosen. */
const [, place = "q", name = "", given = ""] = pathname.split("/");

export const address = decodeURIComponent(name);

/** Whether somebody of staff tries a draft: then nothing is stored. */
export const isTrial = place === "try";

const WAYS = ["l", "p", "s", "e"] as const;

/** By which kind of link one came, and what makes that link one's own. */
export const way: "" | (typeof WAYS)[number] = WAYS.find((one) => one === place) ?? "";
export const secret = way ? decodeURIComponent(given) : "";

/** Names what is kept on this device: the same in every language of the page. */
const { known } = (typeof window === "undefined" ? {} : (inPage() ?? {})) as { known?: string };

export const keptAs = `/${place}/${address}${way ? `/${given}` : ""}${search}${known ? `#${known}` : ""}`;
