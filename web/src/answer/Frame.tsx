/** The calm column that everything on the public page stands in. */
import { createContext, useContext, type ReactNode } from "react";
import styled, { createGlobalStyle, css } from "styled-components";

import { useSay, WordsContext } from "../items/words";
import { Arm, type ArmState } from "../ui/Arm";
import { LookContext, properties, type Look } from "./look";

const Ground = createGlobalStyle<{ $look: Look }>`
  :root { ${({ $look }) => properties($look.light)} }
  @media (prefers-color-scheme: dark) {
    :root { ${({ $look }) => properties($look.dark)} }
  }
  body { font-size: 17px; background: var(--mist); --field-height: 46px; }
  @media print {
    body { background: none; }
    button:not([data-spare] button), [role="progressbar"] { display: none; }
  }
`;

/** Pixels of the window from which a picture has room beside the questions. */
const ROOM = 960;

/** The share of the window that it takes then. */
const SHARE = "40%";

const Whole = styled.div<{ $beside: boolean }>`
  @media screen and (min-width: ${ROOM}px) {
    padding-inline-start: ${({ $beside }) => ($beside ? SHARE : 0)};
  }
`;

const Column = styled.div<{ $wide: boolean }>`
  width: 100%;
  max-width: ${({ $wide }) => ($wide ? 960 : 640)}px;
  margin: 0 auto;
  padding: clamp(14px, 4vw, 28px) clamp(12px, 4vw, 20px) 48px;
`;

const Top = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 2px 10px;
  align-items: center;
  color: var(--ink-2);
  font-weight: 600;
`;

/** Where there is no room beside the questions, a strip above them. */
const BESIDE = css`
  width: 100%;
  height: 140px;
  object-fit: cover;
  @media screen and (min-width: ${ROOM}px) {
    position: fixed;
    inset-block: 0;
    inset-inline-start: 0;
    width: ${SHARE};
    height: 100%;
    max-height: none;
    border-radius: 0;
  }
`;

const Picture = styled.img<{ $beside: boolean }>`
  display: block;
  width: auto;
  max-width: 100%;
  height: auto;
  max-height: 180px;
  border-radius: 4px;
  margin-bottom: 14px;
  ${({ $beside }) => $beside && BESIDE}
`;

const Bar = styled.div<{ $share: number }>`
  height: 6px;
  background: var(--line);
  border-radius: 3px;
  margin-top: 14px;
  overflow: hidden;
  &::before {
    content: "";
    display: block;
    width: ${({ $share }) => `${Math.max($share * 100, 3)}%`};
    height: 100%;
    background: var(--accent);
    transition: width 0.25s;
  }
`;

export const Paper = styled.main`
  background: var(--paper);
  border: 1px solid var(--line);
  border-radius: 4px;
  padding: clamp(18px, 5vw, 30px) clamp(16px, 5vw, 32px);
  margin-top: 16px;
  overflow-wrap: anywhere;
  h1 {
    font-size: clamp(23px, 6vw, 28px);
    outline: none;
  }
`;

const Tongues = styled.nav`
  display: flex;
  flex-wrap: wrap;
  gap: 0 4px;
  margin-inline-start: auto;
  @media print {
    display: none;
  }
  a {
    display: grid;
    place-items: center;
    min-width: 44px;
    min-height: 44px;
    padding: 0 6px;
  }
  a[aria-current] {
    color: var(--ink-2);
    text-decoration: none;
  }
`;

export interface Language {
  code: string;
  name: string;
  /** Where the page stands in this language. */
  href: string;
}

/** The languages that the page can be read in. */
export const Offered = createContext<readonly Language[]>([]);

function Languages() {
  const say = useSay();
  const { language } = useContext(WordsContext);
  const offered = useContext(Offered);
  if (offered.length < 2) return null;
  return (
    <Tongues aria-label={say("language")}>
      {offered.map(({ code, name, href }) => (
        <a
          key={code}
          href={href}
          lang={code}
          hrefLang={code}
          aria-current={code === language || undefined}
        >
          {name}
        </a>
      ))}
    </Tongues>
  );
}

const Office = styled.aside`
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  margin-top: 28px;
  font-size: 15px;
  color: var(--ink-2);
  overflow-wrap: anywhere;
  a {
    display: inline-block;
    min-height: 24px;
  }
`;

/** What the office says below all of its pages. */
function Foot({ look: { foot, imprint, privacy } }: { look: Look }) {
  const say = useSay();
  if (!foot && !imprint && !privacy) return null;
  return (
    <Office aria-label={say("imprint")}>
      {foot ? <div dangerouslySetInnerHTML={{ __html: foot }} /> : null}
      {imprint ? <a href={imprint}>{say("imprint")}</a> : null}
      {privacy ? <a href={privacy}>{say("privacy")}</a> : null}
    </Office>
  );
}

interface FrameProps {
  title: string;
  state?: ArmState;
  /** Share of the pages that lie behind, 0 to 1; left out where there are no pages. */
  progress?: number;
  children: ReactNode;
}

export function Frame({ title, state = "open", progress, children }: FrameProps) {
  const say = useSay();
  const look = useContext(LookContext);
  const { picture, wide } = look;
  const beside = picture?.beside ?? false;
  return (
    <Whole $beside={beside}>
      <Ground $look={look} />
      <Column $wide={wide}>
        <header>
          {picture ? (
            <Picture
              src={picture.src}
              alt={picture.text ?? ""}
              width={picture.width}
              height={picture.height}
              fetchPriority="low"
              $beside={beside}
            />
          ) : null}
          <Top>
            <Arm state={state} size={22} />
            <span>{title}</span>
            <Languages />
          </Top>
          {progress === undefined || !look.progress ? null : (
            <Bar
              role="progressbar"
              aria-label={say("progress")}
              aria-valuemin={0}
              aria-valuemax={100}
              aria-valuenow={Math.round(progress * 100)}
              $share={progress}
            />
          )}
        </header>
        {children}
        <Foot look={look} />
      </Column>
    </Whole>
  );
}
