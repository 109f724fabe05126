/** Which question stands beside which, as a sentence. */
import { Button } from "../../ui/Button";
import { Picker } from "../../ui/Picker";
import { questionsOf, type Figures, type Pair } from "./data";
import { Said } from "./Said";

const BASES: { code: Pair["of"]; label: string }[] = [
  { code: "rows", label: "each row" },
  { code: "columns", label: "each column" },
  { code: "all", label: "all" },
];

interface SideBySideProps {
  figures: Figures;
  pair: Pair | undefined;
  onPair: (pair: Pair | undefined) => void;
}

export function SideBySide({ figures, pair, onPair }: SideBySideProps) {
  const open = questionsOf(figures).filter((one) => one.crossable);
  if (open.length < 2) return null;
  const options = open.map(({ key, label }) => ({ code: key, label }));
  const { rows, columns, of }: Pair = pair ?? { rows: "", columns: "", of: "rows" };
  return (
    <>
      <h2>Side by side</h2>
      <Said>
        <Picker
          inline
          label="In the rows"
          placeholder="choose a question"
          options={options.filter(({ code }) => code !== columns)}
          value={rows || null}
          onChange={(code) => onPair({ rows: code, columns, of })}
        />{" "}
        by{" "}
        <Picker
          inline
          label="In the columns"
          placeholder="choose another"
          options={options.filter(({ code }) => code !== rows)}
          value={columns || null}
          onChange={(code) => onPair({ rows, columns: code, of })}
        />
        {rows && columns ? (
          <>
            , shares of{" "}
            <Picker
              inline
              label="Shares side by side of"
              options={BASES}
              value={of}
              onChange={(code) => onPair({ rows, columns, of: code as Pair["of"] })}
            />
            .
          </>
        ) : null}
      </Said>
      {pair ? (
        <span>
          <Button weight="word" onPress={() => onPair(undefined)}>
            Put it away
          </Button>
        </span>
      ) : null}
    </>
  );
}
