import { inPage } from "../client/client";

/** Where this page is: at a public address, or the trial of a draft. The server, which draws the
 * first page beforehand, is at neither. */
const { pathname, search } =
  typeof window === "undefined" ? { pathname: "", search: "" } : window.location;

/** The path is /q/{address} or /try/{id}, or that of a named link, a pass or a sealed link, such as
 * /p/{address}/{secret}, with a language behind it where one was chosen. */
const [, place = "q", name = "", secret = ""] = pathname.split("/");

export const address = decodeURIComponent(name);

/** Whether somebody of staff tries a draft: then nothing is stored. */
export const isTrial = place === "try";

/** Names what is kept on this device: the same in every language of the page. */
const { known } = (typeof window === "undefined" ? {} : (inPage() ?? {})) as { known?: string };

export const keptAs = `/${place}/${address}${["l", "p", "s"].includes(place) ? `/${secret}` : ""}${search}${known ? `#${known}` : ""}`;
