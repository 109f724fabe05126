/** Style attributes of what is drawn on the server: the page's content policy forbids them in HTML
 * and allows them from our own script. Until that runs, rules say the same. */

/** Declarations that cannot end their rule or fetch anything. */
const ATTRIBUTE = / style="([\w\s:;%().,-]*)"/g;

/** `html` with its style attributes renamed, and the rules that stand for them. */
export function withoutStyles(html: string): { html: string; rules: string } {
  const seen = new Set<string>();
  const renamed = html.replace(ATTRIBUTE, (_, style: string) => {
    seen.add(style);
    return ` data-style="${style}"`;
  });
  const rules = [...seen].map((style) => `[data-style="${style}"]{${style}}`);
  return { html: renamed, rules: rules.join("") };
}

/** Give the elements in `root` their styles back. */
export function restoreStyles(root: HTMLElement): void {
  for (const element of root.querySelectorAll<HTMLElement>("[data-style]")) {
    element.style.cssText = element.dataset["style"] ?? "";
    element.removeAttribute("data-style");
  }
}
