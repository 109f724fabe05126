/** Style attributes of what the server draws: as rules, and nothing but declarations. */
import { expect, test } from "vitest";

import { withoutStyles } from "../src/answer/styles";

test("each style attribute is renamed, and one rule says the same", () => {
  const html =
    '<i style="width:1px;clip:rect(0 0 0 0)"></i><b style="width:1px;clip:rect(0 0 0 0)"></b>';
  expect(withoutStyles(html)).toEqual({
    html: html.replaceAll(" style=", " data-style="),
    rules: '[data-style="width:1px;clip:rect(0 0 0 0)"]{width:1px;clip:rect(0 0 0 0)}',
  });
});

test.each(["a}b{color:red", "a</style><script>", "background:url(/x)", "a&quot;b", 'a\\"b'])(
  "what could end its rule or fetch something stays as it is: %s",
  (style) => {
    const html = `<i style="${style}"></i>`;
    expect(withoutStyles(html)).toEqual({ html, rules: "" });
  },
);
