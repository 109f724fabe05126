/** How the gate stood and will stand, drawn along a line, and the same in words. */
import styled from "styled-components";

import { Quiet } from "../../ui/text";
import type { Standing } from "./data";
import { inZone } from "./when";

type Stretch = Standing["stretches"][number];

const NAMES: Readonly<Record<Stretch["stands"], string>> = {
  open: "Open",
  held: "On hold",
  shut: "Shut by hand",
  closed: "Shut by its times",
};

const GROUNDS: Readonly<Record<Stretch["stands"], string>> = {
  open: "var(--accent-mid)",
  held: "repeating-linear-gradient(135deg, var(--ochre) 0 3px, var(--ochre-soft) 3px 7px)",
  shut: "var(--rust-soft)",
  closed: "var(--mist)",
};

const Whole = styled.section`
  display: grid;
  gap: 10px;
`;

const Line = styled.div`
  position: relative;
  height: 44px;
  margin-top: 18px;
`;

const Part = styled.span<{ $ground: string }>`
  position: absolute;
  top: 14px;
  height: 14px;
  background: ${({ $ground }) => $ground};
  border-inline-start: 1px solid var(--line-2);
  @media (forced-colors: active) {
    border: 1px solid CanvasText;
  }
`;

const Now = styled.span`
  position: absolute;
  top: -16px;
  bottom: 8px;
  border-inline-start: 2px solid var(--ink);
  &::before {
    content: "Now";
    position: absolute;
    top: -4px;
    inset-inline-start: 6px;
    font-weight: 600;
    font-size: 13px;
  }
`;

const Changes = styled.ol`
  display: flex;
  flex-wrap: wrap;
  gap: 6px 26px;
  li {
    min-width: 130px;
  }
  b {
    display: block;
    font-weight: 600;
  }
`;

/** Changes around now that are told in words. */
const PAST = 3;
const COMING = 5;

function told(stretches: readonly Stretch[], now: string): readonly Stretch[] {
  const at = stretches.findIndex(({ until }) => until > now);
  return stretches.slice(Math.max(at - PAST + 1, 0), at + COMING + 1);
}

export function Timeline({ standing }: { standing: Standing }) {
  const { stretches, now, zone } = standing;
  const [first, last] = [stretches[0], stretches.at(-1)];
  if (!first || !last) return null;
  const begins = Date.parse(first.since);
  const whole = Date.parse(last.until) - begins || 1;
  const share = (iso: string) => `${((Date.parse(iso) - begins) / whole) * 100}%`;
  return (
    <Whole aria-labelledby="gate-timeline">
      <h3 id="gate-timeline">Timeline</h3>
      <Line aria-hidden="true">
        {stretches.map((one) => (
          <Part
            key={one.since}
            $ground={GROUNDS[one.stands]}
            title={NAMES[one.stands]}
            style={{
              insetInlineStart: share(one.since),
              width: `${((Date.parse(one.until) - Date.parse(one.since)) / whole) * 100}%`,
            }}
          />
        ))}
        <Now style={{ insetInlineStart: share(now) }} />
      </Line>
      <Changes>
        {told(stretches, now).map((one) => (
          <li key={one.since}>
            <Quiet>
              {one === first ? "Before " : ""}
              {inZone(one === first ? one.until : one.since, zone)}
            </Quiet>
            <b>{NAMES[one.stands]}</b>
            {one.by || one.note ? (
              <Quiet>{[one.note ? `“${one.note}”` : "", one.by].filter(Boolean).join(", ")}</Quiet>
            ) : null}
          </li>
        ))}
      </Changes>
      <Quiet>Times are those of {zone.replaceAll("_", " ")}.</Quiet>
    </Whole>
  );
}
