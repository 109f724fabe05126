/** The draft tried beside the script: the public page itself, as wide as a phone or a desk. */
import { useMutation } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";

import { client, got } from "../../client/client";
import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { Strip } from "../../ui/Strip";
import { Operand } from "../condition/Sentence";
import { say, type Doc } from "../document";
import type { Spot } from "../draft/edits";
import type { DraftRead } from "../draft/part";
import { hand, Head, tabDraftOf, Pane, Tried, type TabDraft, type Width } from "./Tried";

/** Carried values and facts of the visitor, taken up with Enter or when the field is left. */
function ArrivesWith({ link, onLink }: Pick<TryPaneProps, "link" | "onLink">) {
  const [written, setWritten] = useState(link);
  const take = () => {
    if (written !== link) onLink(written.trim());
  };
  return (
    <Operand
      aria-label="Arrives with"
      placeholder="arrives with: district=saltings&contact.language=es"
      style={{ flex: 1, minWidth: 200 }}
      value={written}
      onChange={(event) => setWritten(event.target.value)}
      onBlur={take}
      onKeyDown={(event) => {
        if (event.key === "Enter") take();
      }}
    />
  );
}

/** The key of the item that is selected, none where that is a page. */
function keyAt(doc: Doc, spot: Spot): string {
  if (spot.on !== "page" || spot.item === null) return "";
  return doc.pages[spot.page]?.items?.[spot.item]?.key ?? "";
}

interface TryPaneProps {
  draft: DraftRead;
  /** What is selected: its page is the one that is tried first. */
  spot: Spot | null;
  width: Width;
  onWidth: (width: Width) => void;
  /** What the visitor arrives with, as the query string of a link. */
  link: string;
  onLink: (link: string) => void;
  onClose: () => void;
}

export function TryPane(props: TryPaneProps) {
  const { draft, spot, width, onWidth, link, onLink, onClose } = props;
  const { id, doc, revision, saving, faults } = draft;
  const here = doc.pages[spot?.on === "page" ? spot.page : 0]?.key;
  const [start, setStart] = useState("");
  const [round, setRound] = useState(() => {
    // What is answered already stays; the page is the one that is being written.
    if (here && spot) {
      const answers = tabDraftOf(id)?.answers ?? {};
      hand(id, { answers, page: here, at: keyAt(doc, spot), edition: revision });
    }
    return 0;
  });
  const [shown, setShown] = useState(revision);
  const page = doc.pages.some(({ key }) => key === start) ? start : (here ?? "");
  const ready = saving === "saved" && faults.length === 0;
  if (ready && shown !== revision) setShown(revision);
  const again = (given: TabDraft | null) => {
    hand(id, given);
    setRound((before) => before + 1);
  };
  const close = useRef<HTMLDivElement>(null);
  useEffect(() => close.current?.querySelector("button")?.focus(), []);
  const filling = useMutation({
    mutationFn: () =>
      got(
        client.POST("/api/questionnaires/{id}/trial/answers", {
          params: { path: { id } },
          body: { link, page, seed: Math.floor(Math.random() * 2 ** 31) },
        }),
      ),
    onSuccess: ({ answers, page: at, revision: edition }) => again({ answers, page: at, edition }),
  });
  return (
    <Pane aria-label="Try it" data-region="bench">
      <Head ref={close}>
        <h2>Try it</h2>
        <Choose
          name="Width"
          value={width}
          options={[
            { code: "phone", label: "Phone" },
            { code: "desk", label: "Desk" },
          ]}
          onChange={(code) => onWidth(code as Width)}
        />
        <Button weight="word" onPress={() => window.open(`/try/${id}`, "_blank")}>
          Own window
        </Button>
        <Button onPress={onClose}>Close</Button>
      </Head>
      <Head style={{ paddingBlockStart: 0 }}>
        <Choose
          name="Page"
          value={page}
          options={doc.pages.map(({ key, title }, number) => ({
            code: key,
            label: `${number + 1} ${say(doc, title)}`,
          }))}
          onChange={(key) => {
            setStart(key);
            again({ answers: tabDraftOf(id)?.answers ?? {}, page: key, edition: revision });
          }}
        />
        <Button
          isDisabled={!ready}
          onPress={() => {
            // Not disabled while it waits: that would take the focus away.
            if (!filling.isPending) filling.mutate();
          }}
        >
          Made-up answers
        </Button>
        <Button weight="word" onPress={() => again(null)}>
          Start again
        </Button>
        <ArrivesWith
          key={link}
          link={link}
          onLink={(next) => {
            onLink(next);
            again(null);
          }}
        />
        {filling.error ? <Strip tone="wrong">{filling.error.message}</Strip> : null}
      </Head>
      <Tried id={id} width={width} round={`${round} ${width} ${shown} ${link}`} link={link} />
    </Pane>
  );
}
