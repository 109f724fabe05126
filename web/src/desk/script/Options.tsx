/** The options of an item, with their codes. Enter goes on, pasted lines become options. */
import { Button } from "../../ui/Button";
import { first, hasOptions, optionsOf, say, told, type Item, type Option } from "../document";
import { CodedList, Mark } from "./CodedList";
import { changeItem, type Spot } from "../draft/edits";
import { keyFrom } from "../keys";
import { NewLines } from "./NewLines";
import { controlId } from "../draft/fields";
import { pasted } from "../draft/pasted";
import type { Draft } from "../draft/useDraft";

interface OptionsProps {
  item: Item;
  spot: Spot;
  draft: Draft;
}

export function Options({ item, spot, draft }: OptionsProps) {
  const { doc } = draft;
  const options = optionsOf(item);
  const set = (next: readonly Option[], step = "") =>
    draft.edit(
      (now) =>
        changeItem(now, spot, (one) => (hasOptions(one) ? { ...one, options: [...next] } : one)),
      step,
    );
  const change = (at: number, part: Partial<Option>) =>
    set(
      options.map((one, position) => (position === at ? { ...one, ...part } : one)),
      `option ${item.key} ${at}`,
    );
  const newOne = controlId(item.key, "new option");
  const idOf = (code: string, part: string) => controlId(item.key, code, part);
  const wordsOf = (option?: Option) => (option ? idOf(option.code, "words") : newOne);
  const add = (text: string) => {
    const { parts, remark } = pasted(options, text, first(doc), "option");
    set(parts);
    return remark;
  };
  const label = (at: number, words: string) => {
    const old = options[at];
    if (!old) return;
    const others = new Set(options.filter((_, other) => other !== at).map(({ code }) => code));
    const own = keyFrom(say(doc, old.label), others, "option") === old.code;
    const code = own && words.trim() ? keyFrom(words, others, "option") : old.code;
    change(at, { label: told(doc, old.label, words), code });
  };
  return (
    <>
      <CodedList $columns="minmax(0, 1fr) 120px auto auto" aria-label="Options">
        {options.map((option, at) => (
          <li key={at}>
            <input
              id={wordsOf(option)}
              aria-label={`Option ${at + 1}`}
              value={say(doc, option.label)}
              onChange={(event) => label(at, event.target.value)}
              onKeyDown={(event) => {
                if (event.key !== "Enter") return;
                event.preventDefault();
                document.getElementById(wordsOf(options[at + 1]))?.focus();
              }}
            />
            <input
              id={idOf(option.code, "code")}
              aria-label={`Code of option ${at + 1}`}
              value={option.code}
              onChange={(event) => change(at, { code: event.target.value })}
            />
            {item.kind === "pick_many" ? (
              <Mark
                id={idOf(option.code, "alone")}
                aria-label={`Option ${at + 1} excludes the others`}
                aria-pressed={option.alone ?? false}
                onClick={() => change(at, { alone: !option.alone })}
              >
                alone
              </Mark>
            ) : (
              <span />
            )}
            <Button
              id={idOf(option.code, "remove")}
              weight="word"
              aria-label={`Remove option ${at + 1}`}
              onPress={() => set(options.filter((_, other) => other !== at))}
            >
              Remove
            </Button>
          </li>
        ))}
      </CodedList>
      <NewLines id={newOne} noun="option" onAdd={add} />
    </>
  );
}
