/** Files: several at once, each with its progress, its preview and a way to take it back. */
import { useCallback, useContext, useEffect, useRef, useState } from "react";
import styled from "styled-components";

import { Button } from "../ui/Button";
import { Group } from "../ui/Group";
import { fieldOf, list, map, words, type Answer, type QuestionProps } from "./answer";
import { useShared } from "./shared";
import { Busy, NotSent, Senders, type Sent } from "./sending";
import { fill, useSay, WordsContext, type Say } from "./words";

const There = styled.ul`
  li {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 12px;
    align-items: center;
    border: 1.5px solid var(--line-2);
    border-radius: 4px;
    margin-top: 8px;
    padding: 6px 8px 6px 10px;
    min-height: 62px;
  }
  li[data-wrong] {
    border-color: var(--rust);
    color: var(--rust);
    font-weight: 600;
  }
  img {
    width: 48px;
    height: 48px;
    object-fit: cover;
    border-radius: 3px;
    background: var(--mist);
  }
  span {
    flex: 1;
    min-width: 9em;
    overflow-wrap: anywhere;
  }
  progress {
    width: 100%;
    accent-color: var(--accent);
  }
`;

/** The browser's own file field, drawn as a large button. */
const Choose = styled.label`
  display: inline-flex;
  align-items: center;
  justify-content: center;
  min-height: 46px;
  border: 1.5px dashed var(--edge);
  border-radius: 4px;
  padding: 9px 18px;
  margin-top: 8px;
  font-weight: 600;
  cursor: pointer;
  &:has(:focus-visible) {
    outline: 2.5px solid var(--flax);
    outline-offset: 2px;
  }
  input {
    position: absolute;
    width: 1px;
    height: 1px;
    opacity: 0;
  }
`;

/** Pictures that were sent from this page, by what the server calls them. */
const previews = new Map<string, File>();

/** A file on its way, or one that could not be taken. */
interface Going {
  /** Its number on this page, by which it is known until it has arrived. */
  key: number;
  file: File;
  share: number;
  waiting: boolean;
  error?: string;
  stop: AbortController;
}

function factsOf(answer: Answer): Sent[] {
  return list(answer).map((one) => {
    const facts = map(one);
    return {
      id: words(facts["id"] ?? null),
      name: words(facts["name"] ?? null),
      size: Number(facts["size"] ?? 0),
      type: words(facts["type"] ?? null),
    };
  });
}

function useFiles({ item, at, answer, onAnswer }: QuestionProps) {
  const { failures } = useContext(WordsContext);
  const send = useContext(Senders);
  const say = useSay();
  const [going, setGoing] = useState<readonly Going[]>([]);
  const next = useRef(0);
  /** What has arrived, also what is not in the answer yet; and where answers go by now. */
  const sent = useRef<Sent[]>([]);
  const onSent = useRef(onAnswer);
  useEffect(() => {
    sent.current = factsOf(answer);
    onSent.current = onAnswer;
  });
  const busy = useContext(Busy);
  const stops = useRef(new Set<AbortController>());
  useEffect(() => {
    const all = stops.current;
    return () => {
      for (const stop of all) stop.abort();
    };
  }, []);
  const change = (key: number, part: Partial<Going>) =>
    setGoing((all) => all.map((one) => (one.key === key ? { ...one, ...part } : one)));
  const drop = (key: number) => setGoing((all) => all.filter((one) => one.key !== key));

  const start = async (one: Going) => {
    stops.current.add(one.stop);
    busy.begin();
    try {
      const there = await send(item.key, one.file, {
        signal: one.stop.signal,
        onProgress: (share, waiting) => change(one.key, { share, waiting }),
      });
      if (one.stop.signal.aborted) return;
      sent.current = [...sent.current, there];
      onSent.current(
        sent.current.map((facts) => ({ ...facts })),
        at,
      );
      if (one.file.type.startsWith("image/")) previews.set(there.id, one.file);
      drop(one.key);
    } catch (error) {
      if (one.stop.signal.aborted) return;
      const name = one.file.name;
      const known = error instanceof NotSent ? error.message : "";
      change(one.key, { error: known || say("file_failed", { name }) });
    } finally {
      stops.current.delete(one.stop);
      busy.end();
    }
  };
  const add = (files: readonly File[]) => {
    let room = (item.most ?? 1) - sent.current.length - going.filter((one) => !one.error).length;
    const added = files.map((file): Going => {
      const key = (next.current += 1);
      const stop = new AbortController();
      const code = room > 0 ? refused(file, item.largest ?? 10) : "too_many_files";
      if (!code) room -= 1;
      const limit = code === "too_many_files" ? (item.most ?? 1) : (item.largest ?? 10);
      const error = code && fill(failures[code] ?? code, { name: file.name, limit });
      return { key, file, share: 0, waiting: false, stop, ...(error ? { error } : {}) };
    });
    setGoing((all) => [...all.filter((one) => !one.error), ...added]);
    for (const one of added) if (!one.error) void start(one);
  };
  const remove = (id: string) =>
    onAnswer(
      sent.current.filter((one) => one.id !== id).map((one) => ({ ...one })),
      at,
    );
  return { going, add, remove, drop, sent: factsOf(answer), say };
}

/** What the browser can see of a file that will not do. */
function refused(file: File, largest: number): string {
  if (file.size === 0) return "file_empty";
  return file.size > largest * 1_000_000 ? "file_too_large" : "";
}

function Preview({ file }: { file: File }) {
  const show = useCallback(
    (image: HTMLImageElement | null) => {
      if (!image) return;
      const url = URL.createObjectURL(file);
      image.src = url;
      return () => URL.revokeObjectURL(url);
    },
    [file],
  );
  return <img ref={show} alt="" />;
}

function limitsOf(item: QuestionProps["item"], say: Say): string {
  const kinds = (item.kinds ?? []).map((kind) => say(`kind_${kind}`)).join(", ");
  return say("file_limits", { most: item.most ?? 1, largest: item.largest ?? 10, kinds });
}

export function Files(props: QuestionProps) {
  const { item, at } = props;
  const { going, add, remove, drop, sent, say } = useFiles(props);
  const { id, label, help, error } = useShared(props);
  const most = item.most ?? 1;
  const full = sent.length + going.filter((one) => !one.error).length >= most;
  return (
    <Group
      id={`${id}-whole`}
      label={label}
      help={[help, limitsOf(item, say)].filter(Boolean).join(" ")}
      error={error}
    >
      <There>
        {sent.map((one) => (
          <li key={one.id}>
            <ThumbOf sent={one} />
            <span>{one.name}</span>
            <Remove name={one.name} onRemove={() => remove(one.id)} />
          </li>
        ))}
        {going.map((one) => (
          <li key={one.key} data-wrong={one.error ? true : undefined}>
            {one.file.type.startsWith("image/") && !one.error ? <Preview file={one.file} /> : null}
            <span role={one.error ? "alert" : undefined}>
              {one.error ?? status(one, say)}
              {one.error ? null : <progress aria-label={one.file.name} max={1} value={one.share} />}
            </span>
            <Remove
              name={one.file.name}
              onRemove={() => {
                one.stop.abort();
                drop(one.key);
              }}
            />
          </li>
        ))}
      </There>
      {full ? null : (
        <Choose>
          {say(most > 1 ? "file_add_more" : "file_add")}
          <input
            id={fieldOf(at)}
            type="file"
            multiple={most > 1}
            accept={(item.types ?? []).join(",")}
            aria-required={item.required || undefined}
            onChange={(event) => {
              add([...(event.target.files ?? [])]);
              event.target.value = "";
            }}
          />
        </Choose>
      )}
    </Group>
  );
}

function status({ file, share, waiting }: Going, say: Say): string {
  if (waiting) return say("file_waiting", { name: file.name });
  return say("file_sending", { name: file.name, percent: Math.round(share * 100) });
}

function ThumbOf({ sent }: { sent: Sent }) {
  const file = previews.get(sent.id);
  return file ? <Preview file={file} /> : null;
}

function Remove({ name, onRemove }: { name: string; onRemove: () => void }) {
  const say = useSay();
  return (
    <Button weight="word" aria-label={`${say("remove")}: ${name}`} onPress={onRemove}>
      {say("remove")}
    </Button>
  );
}
