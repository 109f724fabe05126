/** Colours by role, type and the page's own element styles; light, and dark by preference. */
import { createGlobalStyle, css } from "styled-components";

const light = css`
  --ink: #1d231a;
  --ink-2: #4c5546;
  --ink-3: #626b5b;
  --chalk: #f7f8f3;
  --paper: #ffffff;
  --mist: #eceee5;
  --line: #d6dacb;
  --line-2: #b9bfab;
  --edge: #7a8370;
  --accent: #3f5128;
  --accent-hover: #4d6232;
  --accent-soft: #e3ead6;
  --accent-mid: #6d8350;
  --frame: #29361a;
  --frame-ink: #f3f5ea;
  --frame-ink-2: #c9d1b8;
  --on-accent: #ffffff;
  --rust: #9c3d22;
  --rust-soft: #f6e4dc;
  --ochre: #7d5507;
  --ochre-soft: #f8ecd0;
  --flax: #2b5f8a;
  --flax-soft: #e0ebf4;
`;

const dark = css`
  --ink: #eef0e6;
  --ink-2: #c3cab6;
  --ink-3: #a3ab95;
  --chalk: #161a11;
  --paper: #1f2419;
  --mist: #11140c;
  --line: #3a4230;
  --line-2: #566049;
  --edge: #8b957d;
  --accent: #b7cf92;
  --accent-hover: #c8dca9;
  --accent-soft: #2f3c20;
  --accent-mid: #8aa365;
  --frame: #0d1108;
  --frame-ink: #f3f5ea;
  --frame-ink-2: #b9c3a5;
  --on-accent: #18200d;
  --rust: #f0a68e;
  --rust-soft: #42221a;
  --ochre: #e8c06a;
  --ochre-soft: #3d3012;
  --flax: #9cc6e8;
  --flax-soft: #1d3040;
`;

export const Global = createGlobalStyle`
  :root {
    ${light}
    --body: "Atkinson Hyperlegible Next Variable", sans-serif;
    --head: "Bricolage Grotesque Variable", sans-serif;
    --mono: "Commit Mono", monospace;
    color-scheme: light dark;
  }
  @media (prefers-color-scheme: dark) {
    :root { ${dark} }
  }
  *, *::before, *::after { box-sizing: border-box; }
  html { -webkit-text-size-adjust: 100%; scroll-padding-block: calc(12px + var(--way, 0px)) 60px; }
  * { scrollbar-width: thin; scrollbar-color: var(--line-2) transparent; }
  body {
    margin: 0;
    font: 14.5px/1.45 var(--body);
    color: var(--ink);
    background: var(--chalk);
  }
  h1, h2, h3 { font-family: var(--head); margin: 0; letter-spacing: -0.01em; line-height: 1.2; }
  p, ul, ol, dl, dd { margin: 0; padding: 0; }
  ul, ol { list-style: none; }
  button, input, textarea, select { font: inherit; color: inherit; }
  a { color: var(--accent); font-weight: 600; }
  :focus-visible { outline: 2.5px solid var(--flax); outline-offset: 2px; border-radius: 3px; }
  @media (prefers-reduced-motion: reduce) {
    * { transition: none !important; animation: none !important; }
  }
`;
