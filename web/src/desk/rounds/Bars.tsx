/** What became of everybody, one bar for each step: its open part shrinks from step to step. */
import styled from "styled-components";

import type { Progress, Standing, Step, Which } from "./data";
import { STANDINGS, STANDS } from "./words";

const LOOKS: Record<Standing, string> = {
  answered: "background: var(--accent); color: var(--on-accent);",
  started:
    "background: color-mix(in srgb, var(--accent-mid) 60%, var(--accent)); color: var(--on-accent);",
  refused: "background: var(--rust); color: var(--on-accent);",
  not_reached: "background: var(--ochre); color: var(--on-accent);",
  not_eligible:
    "background: repeating-linear-gradient(135deg, var(--line-2) 0 4px, var(--line) 4px 8px);",
  open: "background: var(--accent-soft); color: var(--ink);",
};

const Rows = styled.ul`
  display: grid;
  gap: 8px;
  margin-block-start: 20px;
  > li {
    display: grid;
    grid-template-columns: 168px minmax(0, 1fr) 64px;
    gap: 2px 12px;
    align-items: center;
  }
  @media (max-width: 700px) {
    > li {
      grid-template-columns: minmax(0, 1fr) 56px;
    }
    > li > :first-child {
      grid-column: 1 / -1;
    }
  }
`;

const Bar = styled.div`
  display: flex;
  height: 26px;
  border-radius: 3px;
  overflow: hidden;
  background: var(--mist);
`;

const Piece = styled.button<{ $stands: Standing; $share: number }>`
  ${({ $stands }) => LOOKS[$stands]}
  flex: ${({ $share }) => $share} 0 24px;
  min-width: 24px;
  border: 0;
  padding: 0;
  font-size: 12.5px;
  font-weight: 600;
  line-height: 26px;
  text-align: start;
  white-space: nowrap;
  overflow: hidden;
  cursor: pointer;
  span {
    padding-inline-start: 6px;
  }
  &:hover {
    filter: brightness(1.08);
  }
  &:focus-visible {
    outline: 2.5px solid var(--flax);
    outline-offset: -3px;
  }
`;

const Likely = styled.div`
  position: relative;
  height: 26px;
  border-radius: 3px;
  background: var(--mist);
  b {
    position: relative;
    font-size: 12.5px;
    line-height: 26px;
    padding-inline-start: 6px;
  }
`;

const Until = styled.span<{ $share: number }>`
  position: absolute;
  inset-block: 0;
  inset-inline-start: 0;
  width: ${({ $share }) => 100 * $share}%;
  border-radius: 3px;
  background: var(--line-2);
`;

const Legend = styled.ul`
  display: flex;
  flex-wrap: wrap;
  gap: 2px 18px;
  margin-block-start: 10px;
  font-size: 13.5px;
  color: var(--ink-2);
`;

const Swatch = styled.i<{ $stands: Standing }>`
  ${({ $stands }) => LOOKS[$stands]}
  display: inline-block;
  width: 12px;
  height: 12px;
  border-radius: 2px;
  border: 1px solid var(--edge);
  margin-inline-end: 6px;
  vertical-align: -1px;
`;

const percent = (some: number, of: number) => (of ? `${Math.round((100 * some) / of)} %` : "");

interface PiecesProps {
  name: string;
  stands: Progress["steps"][number]["stands"];
  onWhich: (stands: Standing) => void;
}

function Pieces({ name, stands, onWhich }: PiecesProps) {
  const every = STANDINGS.reduce((sum, one) => sum + (stands[one] ?? 0), 0);
  return (
    <>
      <span>{name}</span>
      <Bar role="group" aria-label={name}>
        {STANDINGS.filter((one) => stands[one]).map((one) => {
          const some = stands[one] ?? 0;
          const words = `${some} ${STANDS[one]}`;
          return (
            <Piece
              key={one}
              $stands={one}
              $share={some / (every || 1)}
              title={words}
              aria-label={`${words}, ${name.toLowerCase()}`}
              onClick={() => onWhich(one)}
            >
              {some / every > 0.16 ? <span>{words}</span> : null}
            </Piece>
          );
        })}
      </Bar>
      <span>{percent(stands.answered ?? 0, every)}</span>
    </>
  );
}

interface BarsProps {
  steps: readonly Step[];
  progress: Progress;
  onWhich: (which: Which) => void;
}

export function Bars({ steps, progress, onWhich }: BarsProps) {
  const { expected, released } = progress;
  const strata = Object.keys(progress.strata);
  return (
    <section aria-label="What became of everybody">
      <Rows>
        {progress.steps.map(({ step, stands }) => (
          <li key={step}>
            <Pieces
              name={`After ${steps.find(({ key }) => key === step)?.name ?? step}`}
              stands={stands}
              onWhich={(one) => onWhich({ stands: one, after_step: step })}
            />
          </li>
        ))}
        {expected ? (
          <li>
            <span>By the end, likely</span>
            <Likely>
              <Until $share={expected.high / released} style={{ opacity: 0.45 }} />
              <Until $share={expected.low / released} />
              <b>
                {expected.low === expected.high
                  ? `${expected.low} answered`
                  : `${expected.low} to ${expected.high} answered`}
              </b>
            </Likely>
            <span>
              {percent(expected.low, released).replace(" %", "")}–{percent(expected.high, released)}
            </span>
          </li>
        ) : null}
      </Rows>
      {strata.length > 1 ? (
        <>
          <h3 style={{ marginBlockStart: 18 }}>By stratum, as they stand now</h3>
          <Rows style={{ marginBlockStart: 8 }}>
            {strata.map((stratum) => (
              <li key={stratum}>
                <Pieces
                  name={stratum || "none given"}
                  stands={progress.strata[stratum] ?? {}}
                  onWhich={(one) => onWhich({ stands: one, stratum })}
                />
              </li>
            ))}
          </Rows>
        </>
      ) : null}
      <Legend aria-hidden>
        {STANDINGS.map((one) => (
          <li key={one}>
            <Swatch $stands={one} />
            {STANDS[one]}
          </li>
        ))}
      </Legend>
    </section>
  );
}
