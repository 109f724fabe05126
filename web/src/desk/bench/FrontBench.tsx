/** The bench of the front: accent colour, header picture, progress, words of the buttons. */
import { Button } from "../../ui/Button";
import { Choice } from "../../ui/Choice";
import { ColourField } from "../../ui/Colour";
import { Field } from "../../ui/Field";
import { Toggle } from "../../ui/Toggle";
import { first, say, type Doc, type Look } from "../document";
import { changeLook, withLook } from "../draft/edits";
import { SavedConditions } from "./SavedConditions";
import { Section } from "../shell/Section";
import { Seen, Upload } from "../shell/Upload";
import type { Draft } from "../draft/useDraft";

/** The accent of pages that have none of their own. */
const OURS = "#3f5128";

function Accent({ look, set }: { look: Look; set: (part: Partial<Look>, step?: string) => void }) {
  return (
    <Section title="Accent colour">
      <ColourField value={look.accent ?? OURS} onChange={(accent) => set({ accent }, "accent")} />
      <p>
        Where words in it or on it could not be read, the page takes it darker, or lighter in the
        dark: at least 4.5 to 1.
      </p>
      {look.accent ? (
        <Button weight="word" onPress={() => set({ accent: null })}>
          Use the plain one
        </Button>
      ) : null}
    </Section>
  );
}

const PLACES = [
  { code: "above", label: "Above the questions" },
  { code: "beside", label: "Beside them on wide screens" },
  { code: "none", label: "Not shown" },
] as const;

type At = (typeof PLACES)[number]["code"];

function Picture({ draft, look, set }: { draft: Draft; look: Look; set: Setting }) {
  const { doc, id } = draft;
  const { picture } = look;
  return (
    <Section title="Picture">
      {picture ? <Seen src={`/media/${picture.media}`} alt={say(doc, picture.text)} /> : null}
      <Upload
        id={id}
        label={picture ? "Another picture" : "Picture"}
        accept="image/jpeg,image/png,image/gif,image/webp"
        onUploaded={({ id: media, width, height }) => {
          if (width && height) set({ picture: { ...picture, media, width, height } });
        }}
      />
      {picture ? (
        <>
          <Field
            label="What it shows"
            help="Leave it empty where it only decorates."
            value={say(doc, picture.text)}
            onChange={(words) =>
              set(
                { picture: { ...picture, text: { ...picture.text, [first(doc)]: words } } },
                "picture text",
              )
            }
          />
          <Choice
            label="Where it stands"
            options={PLACES}
            value={picture.place ?? "above"}
            onChange={(place) => set({ picture: { ...picture, place: place as At } })}
          />
          <Button weight="word" onPress={() => set({ picture: null })}>
            Remove the picture
          </Button>
        </>
      ) : null}
    </Section>
  );
}

const PAGES = [
  { code: "pages", label: "Page by page" },
  { code: "one", label: "Question by question" },
] as const;

const WIDTHS = [
  { code: "narrow", label: "Narrow, easy to read" },
  { code: "wide", label: "Wide, for grids and long lists" },
] as const;

type Width = (typeof WIDTHS)[number]["code"];

function Layout({ look, set }: { look: Look; set: Setting }) {
  return (
    <Section title="Layout">
      <Choice
        label="Questions are shown"
        options={PAGES}
        value={look.one_by_one ? "one" : "pages"}
        onChange={(code) => set({ one_by_one: code === "one" })}
      />
      {look.one_by_one ? <p>Notes and pictures come with the question behind them.</p> : null}
      <Choice
        label="Width"
        options={WIDTHS}
        value={look.width ?? "narrow"}
        onChange={(width) => set({ width: width as Width })}
      />
    </Section>
  );
}

type Setting = (part: Partial<Look>, step?: string) => void;

const BUTTONS = [
  { name: "onward", label: "To the next page", plain: "Continue" },
  { name: "back", label: "To the page before", plain: "Back" },
  { name: "send", label: "At the end", plain: "Send" },
] as const;

export function FrontBench({ draft }: { draft: Draft }) {
  const { doc } = draft;
  const look: Look = doc.look ?? {};
  const set: Setting = (part, step = "") =>
    draft.edit((now: Doc) => withLook(now, part), step && `look ${step}`);
  return (
    <>
      <Layout look={look} set={set} />
      <Accent look={look} set={set} />
      <Picture draft={draft} look={look} set={set} />
      <Section title="Progress">
        <Toggle isSelected={look.progress ?? true} onChange={(progress) => set({ progress })}>
          A line shows how far one has come
        </Toggle>
      </Section>
      <SavedConditions draft={draft} />
      <Section title="Words of the buttons">
        {BUTTONS.map(({ name, label, plain }) => (
          <Field
            key={name}
            label={label}
            placeholder={plain}
            value={say(doc, look[name])}
            onChange={(words) => draft.edit((now) => changeLook(now, name, words), `look ${name}`)}
          />
        ))}
      </Section>
    </>
  );
}
