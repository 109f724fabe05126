/** A grid: the same questions for every row, as a table where there is room for one. */
import styled from "styled-components";

import { Button } from "../ui/Button";
import { Group } from "../ui/Group";
import {
  errorAt,
  faultsIn,
  fieldOf,
  lines,
  map,
  words,
  type Answer,
  type Item,
  type Line,
  type HoldingProps,
} from "./answer";
import { Label, useShared } from "./shared";
import { total } from "./totals";
import { useSay } from "./words";

/** With more columns than these, every row is a block of its own, however wide the page. */
const WIDEST = 4;

const Whole = styled.div<{ $columns: number }>`
  container-type: inline-size;
  margin-top: 10px;
  [data-head] {
    display: none;
  }
  [data-line] {
    display: grid;
    gap: 12px;
  }
  @container (min-width: ${({ $columns }) => ($columns > WIDEST ? 9999 : $columns * 140)}px) {
    [data-head],
    [data-line] {
      display: grid;
      grid-template-columns: repeat(${({ $columns }) => $columns}, minmax(0, 1fr));
      gap: 4px 12px;
      align-items: start;
    }
    [data-cell] {
      position: relative;
    }
    [data-cell] [data-name] {
      position: absolute;
      width: 1px;
      height: 1px;
      overflow: hidden;
      clip-path: inset(50%);
    }
  }
`;

const Head = styled.div`
  font-size: 15.5px;
  color: var(--ink-2);
  border-bottom: 2px solid var(--line-2);
  padding-bottom: 4px;
`;

const Row = styled.div`
  border-bottom: 1px solid var(--line);
  padding: 10px 0;
`;

const Sum = styled.p`
  font-weight: 600;
  padding-inline-start: 10px;
`;

/** A cell picks from a dropdown, so that a row stays low. */
function cellOf(column: Item): Item {
  return column.kind === "pick_one" ? { ...column, look: "dropdown" } : column;
}

interface LineProps extends HoldingProps {
  place: string;
  line: Line;
  onLine: (line: Line, place: string) => void;
}

function Columns({ item, place, line, faults, onLine, onLeave, Inner }: LineProps) {
  return (
    <>
      {(item.items ?? []).map((column) => {
        const at = `${place}/${column.key}`;
        return (
          <div key={column.key} data-cell>
            <Inner
              item={cellOf(column)}
              at={at}
              answer={line[column.key] ?? null}
              faults={faultsIn(faults, at)}
              onAnswer={(value, inner) => onLine({ ...line, [column.key]: value }, inner)}
              onLeave={onLeave}
            />
          </div>
        );
      })}
    </>
  );
}

export function GridTable(props: HoldingProps) {
  const { item, at, answer, faults, onAnswer } = props;
  const say = useSay();
  const { id, label, help, error } = useShared(props);
  const rows = map(answer);
  const set = (code: string, next: readonly Line[], place: string) =>
    onAnswer({ ...rows, [code]: next }, place);
  return (
    <Group id={id} label={label} help={help} error={error}>
      <Whole $columns={(item.items ?? []).length}>
        <Head aria-hidden="true" data-head>
          {(item.items ?? []).map((column) => (
            <span key={column.key}>
              <Label item={column} />
            </span>
          ))}
        </Head>
        {(item.rows ?? []).map((row) => {
          const found = lines(rows[row.code]);
          const shown = found.length ? found : [{}];
          const wrong = errorAt(faults, `${at}/${row.code}/0`);
          return (
            <Row key={row.code}>
              {shown.map((line, number) => {
                const place = `${at}/${row.code}/${number}`;
                const name = shown.length > 1 ? `${row.label} ${number + 1}` : row.label;
                return (
                  <Group
                    key={number}
                    id={fieldOf(place)}
                    label={row.required ? <>{name} *</> : name}
                    error={number === 0 ? wrong : undefined}
                  >
                    <div data-line>
                      <Columns
                        {...props}
                        place={place}
                        line={line}
                        onLine={(next, inner) =>
                          set(
                            row.code,
                            shown.map((one, other) => (other === number ? next : one)),
                            inner,
                          )
                        }
                      />
                    </div>
                    {shown.length > 1 ? (
                      <Button
                        weight="word"
                        aria-label={`${say("remove")}: ${name}`}
                        onPress={() =>
                          set(
                            row.code,
                            shown.filter((_, other) => other !== number),
                            `${at}/${row.code}`,
                          )
                        }
                      >
                        {say("remove")}
                      </Button>
                    ) : null}
                  </Group>
                );
              })}
              {shown.length < (row.repeats ?? 1) ? (
                <Button
                  weight="word"
                  onPress={() => set(row.code, [...shown, {}], `${at}/${row.code}`)}
                >
                  {say("add_row", { row: row.label })}
                </Button>
              ) : null}
            </Row>
          );
        })}
        <Totals item={item} rows={rows} />
      </Whole>
    </Group>
  );
}

function Totals({ item, rows }: { item: Item; rows: Readonly<Record<string, Answer>> }) {
  const say = useSay();
  if (!item.totals?.length) return null;
  const every = (item.rows ?? []).flatMap((row) => lines(rows[row.code]));
  const sum = (column: Item) => total(every.map((line) => words(line[column.key] ?? null)));
  return (
    <Row aria-live="polite">
      <b>{say("total")}</b>
      <div data-line>
        {(item.items ?? []).map((column) => (
          <Sum key={column.key} data-cell>
            {item.totals?.includes(column.key) ? (
              <>
                <span data-name>{column.text}: </span>
                {sum(column)} {column.unit}
              </>
            ) : null}
          </Sum>
        ))}
      </div>
    </Row>
  );
}
