/** The parts of the office's settings. */
import type { Schema } from "../../client/client";
import { Button } from "../../ui/Button";
import { Choice } from "../../ui/Choice";
import { ColourField } from "../../ui/Colour";
import { Field } from "../../ui/Field";
import { Toggle } from "../../ui/Toggle";
import { Seen, Upload } from "../shell/Upload";
import { faultAt } from "../useDoing";

type Office = Schema<"Office">;

interface PartProps {
  office: Office;
  set: (part: Partial<Office>) => void;
  error: Error | null;
}

export function Naming({ office, set, error }: PartProps) {
  return (
    <section aria-label="The office">
      <h2>The office</h2>
      <Field
        label="Name"
        value={office.name ?? ""}
        error={faultAt(error, "office/name")}
        onChange={(name) => set({ name })}
        isRequired
      />
      <Field
        label="Time zone"
        help="A name such as Europe/Lisbon. New questionnaires begin with it."
        value={office.time_zone ?? "UTC"}
        error={faultAt(error, "office/time_zone")}
        onChange={(time_zone) => set({ time_zone })}
      />
      <Field
        label="Languages"
        help="Codes such as en, es, ar. New questionnaires begin in the first one."
        value={(office.languages ?? []).join(", ")}
        onChange={(words) => set({ languages: words.split(/[\s,]+/) })}
      />
    </section>
  );
}

export function Letters({ office, set, error }: PartProps) {
  return (
    <section aria-label="Letters">
      <h2>Letters</h2>
      <Field
        label="Sender"
        help="The address that letters come from. Left empty, it is the installation's own."
        type="email"
        value={office.sender ?? ""}
        error={faultAt(error, "office/sender")}
        onChange={(sender) => set({ sender })}
      />
      <Field
        label="Answers go to"
        type="email"
        value={office.reply_to ?? ""}
        error={faultAt(error, "office/reply_to")}
        onChange={(reply_to) => set({ reply_to })}
      />
    </section>
  );
}

/** The accent of pages that have none of their own. */
const OURS = "#3f5128";

export function Pages({ office, set, error }: PartProps) {
  const { picture } = office;
  const [first = "en"] = office.languages ?? [];
  return (
    <section aria-label="Public pages">
      <h2>Public pages</h2>
      <h3>Accent colour</h3>
      <ColourField value={office.accent ?? OURS} onChange={(accent) => set({ accent })} />
      {picture ? <Seen src={`/media/${picture.media}`} alt={picture.text?.[first] ?? ""} /> : null}
      <Upload
        id={null}
        label={picture ? "Another picture" : "Picture, for questionnaires without their own"}
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
            value={picture.text?.[first] ?? ""}
            onChange={(words) =>
              set({ picture: { ...picture, text: { ...picture.text, [first]: words } } })
            }
          />
          <p>
            <Button weight="word" onPress={() => set({ picture: null })}>
              Remove the picture
            </Button>
          </p>
        </>
      ) : null}
      {(office.languages ?? [first]).filter(Boolean).map((language) => (
        <Field
          key={language}
          label={`Words at the foot, ${language}`}
          help="In CommonMark: *emphasis*, [words](https://…)."
          lines={2}
          value={office.foot?.[language] ?? ""}
          onChange={(words) => set({ foot: { ...office.foot, [language]: words } })}
        />
      ))}
      <Field
        label="Imprint"
        help="The address of a page."
        type="url"
        value={office.imprint ?? ""}
        error={faultAt(error, "office/imprint")}
        onChange={(imprint) => set({ imprint })}
      />
      <Field
        label="Privacy"
        help="The address of a page that says what becomes of answers."
        type="url"
        value={office.privacy ?? ""}
        error={faultAt(error, "office/privacy")}
        onChange={(privacy) => set({ privacy })}
      />
    </section>
  );
}

const FACTORS = [
  { code: "free", label: "Whoever wants one" },
  { code: "cleared", label: "Everybody with clearance" },
  { code: "everybody", label: "Everybody" },
] as const;

type Factor = (typeof FACTORS)[number]["code"];

export function SigningIn({ office, set, error }: PartProps) {
  return (
    <section aria-label="Signing in">
      <h2>Signing in</h2>
      <Choice
        label="Who has to have a second factor"
        options={FACTORS}
        value={office.second_factor ?? "free"}
        onChange={(code) => set({ second_factor: code as Factor })}
      />
      <Toggle isSelected={office.passwords ?? true} onChange={(passwords) => set({ passwords })}>
        People can sign in with a password
      </Toggle>
      <Field
        label="Signed out after"
        help="Without doing anything, 5 to 1,440."
        type="number"
        narrow
        unit="minutes"
        value={String(office.idle_minutes ?? 120)}
        error={faultAt(error, "office/idle_minutes")}
        onChange={(words) => set({ idle_minutes: Number(words) })}
      />
    </section>
  );
}
