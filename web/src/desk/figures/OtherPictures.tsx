/** Orders and words. */
import styled from "styled-components";

import { Ledger } from "../../ui/Ledger";
import { Quiet } from "../../ui/text";
import type { Ranks, Texts } from "./data";
import { useNamed } from "./Two";
import { many, number, percent } from "./words";

const Words = styled.ul`
  display: grid;
  gap: 2px;
  > li {
    display: flex;
    gap: 10px;
    justify-content: space-between;
    max-width: 560px;
    border-bottom: 1px solid var(--line);
    padding: 3px 0;
    overflow-wrap: anywhere;
  }
`;

interface RanksPictureProps {
  picture: Ranks;
  name: string;
}

export function RanksPicture({ picture: { options }, name: called }: RanksPictureProps) {
  const name = useNamed(called);
  return (
    <Ledger name={name}>
      <thead>
        <tr>
          <th scope="col">Answer</th>
          <th scope="col" data-number>
            Average place
          </th>
          <th scope="col" data-number>
            Put first
          </th>
          <th scope="col" data-number>
            Put anywhere
          </th>
        </tr>
      </thead>
      <tbody>
        {options.map((one) => (
          <tr key={one.label}>
            <td>{one.label}</td>
            <td data-number>{one.count ? number(one.place) : "–"}</td>
            <td data-number>
              {many(one.first)}, {percent(one.share)}
            </td>
            <td data-number>{many(one.count)}</td>
          </tr>
        ))}
      </tbody>
    </Ledger>
  );
}

export function TextsPicture({ picture: { different, often } }: { picture: Texts }) {
  return (
    <>
      {often.length ? (
        <Words aria-label="Said most often">
          {often.map(({ text, count }) => (
            <li key={text}>
              <bdi>{text}</bdi>
              <span>{many(count)}</span>
            </li>
          ))}
        </Words>
      ) : null}
      <Quiet>
        {different === 1 ? "One answer, the same from all" : `${many(different)} different answers`}
      </Quiet>
    </>
  );
}
