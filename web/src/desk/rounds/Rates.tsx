/** Outcome rates, each with its formula, and how many stand by each code. */
import { useState } from "react";
import styled from "styled-components";

import { Button } from "../../ui/Button";
import { Mono, Quiet } from "../../ui/text";
import type { Progress } from "./data";

const Rows = styled.dl`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  dt,
  dd {
    border-top: 1px solid var(--line);
    padding: 6px 0;
  }
  dt small {
    display: block;
    color: var(--ink-2);
    font-size: 12.5px;
  }
  dd {
    text-align: end;
  }
`;

const SHOWN = new Set(["RR2", "COOP2", "REF1", "CON1"]);

const percent = (value: number | null) => (value === null ? "–" : `${(100 * value).toFixed(1)} %`);

export function Rates({ progress }: { progress: Progress }) {
  const [every, setEvery] = useState(false);
  const rates = progress.rates.filter(({ rate }) => every || SHOWN.has(rate));
  return (
    <section>
      <h3>Rates</h3>
      <Rows>
        {rates.map(({ rate, name, above, below, value }) => (
          <div key={rate} style={{ display: "contents" }}>
            <dt>
              {name}
              {every ? (
                <small>
                  {above} over {below}
                </small>
              ) : null}
            </dt>
            <dd>{percent(value)}</dd>
          </div>
        ))}
      </Rows>
      {every ? (
        <>
          <p>
            <Quiet>
              e, the share of unknown cases taken as eligible, is {percent(progress.share_eligible)}
              , as among those that are decided.
            </Quiet>
          </p>
          <Rows>
            {progress.codes.map(({ code, name, people }) => (
              <div key={code} style={{ display: "contents" }}>
                <dt>
                  <Mono>{code}</Mono> {name}
                </dt>
                <dd>{people}</dd>
              </div>
            ))}
          </Rows>
        </>
      ) : null}
      <p>
        <Quiet>By AAPOR’s Standard Definitions, as everybody stands now.</Quiet>
      </p>
      <Button weight="word" onPress={() => setEvery(!every)}>
        {every ? "Fewer rates" : "All rates, formulas and codes"}
      </Button>
    </section>
  );
}
