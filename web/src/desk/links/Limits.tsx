/** How long passes are good, and for how much. */
import { Field } from "../../ui/Field";

interface LimitsProps {
  until: string;
  uses: string;
  onUntil: (until: string) => void;
  onUses: (uses: string) => void;
  errorAt: (at: string) => string | undefined;
}

export function Limits({ until, uses, onUntil, onUses, errorAt }: LimitsProps) {
  return (
    <>
      <Field
        label="Good until the end of"
        type="date"
        narrow
        value={until}
        help="Left empty, they are good until they are revoked."
        error={errorAt("expires")}
        onChange={onUntil}
      />
      <Field
        label="Entries that each is good for"
        inputMode="numeric"
        narrow
        value={uses}
        help="Left empty, for any number."
        error={errorAt("uses")}
        onChange={(text) => onUses(text.replace(/\D/g, ""))}
      />
    </>
  );
}
