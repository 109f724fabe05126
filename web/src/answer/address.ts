/** Where this page is: at a public address, or the trial of a draft, in some language. */

/** The path is /q/{address} or /try/{id}, with a language behind it where one was chosen. */
const [, place = "q", name = ""] = window.location.pathname.split("/");

export const address = decodeURIComponent(name);

/** Whether somebody of staff tries a draft: then nothing is stored. */
export const isTrial = place === "try";

/** Names what is kept on this device: the same in every language of the page. */
export const keptAs = `/${place}/${address}${window.location.search}`;

/** The same questionnaire, by the same link, in another language. */
export function inLanguage(code: string): string {
  return `/${place}/${encodeURIComponent(address)}/${code}${window.location.search}`;
}
