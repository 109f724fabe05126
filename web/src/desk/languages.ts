/** Languages as staff read them. */
const NAMES = new Intl.DisplayNames("en", { type: "language" });

/** What a language is called, its tag where the browser does not know. */
export const languageName = (code: string): string => NAMES.of(code) ?? code;
