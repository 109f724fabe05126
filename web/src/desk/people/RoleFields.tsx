/** Role, end and note of somebody: the same for inviting and changing. */
import { Field } from "../../ui/Field";
import { Picker } from "../../ui/Picker";
import { faultAt } from "../useDoing";
import { officeRoles } from "./roles";

export interface RoleSettings {
  /** A role, or "none". */
  role: string;
  /** A day as YYYY-MM-DD, empty for no end. */
  until: string;
  note: string;
}

interface RoleFieldsProps {
  value: RoleSettings;
  error: Error | null;
  onChange: (value: RoleSettings) => void;
}

export const SHOWN = ["until", "role", "email", "name"];

export function RoleFields({ value, error, onChange }: RoleFieldsProps) {
  const detail = officeRoles.find(({ code }) => code === value.role)?.detail;
  const wrong = faultAt(error, "role");
  return (
    <>
      <div>
        <Picker
          label="Role"
          options={officeRoles}
          value={value.role}
          onChange={(role) => onChange({ ...value, role })}
        />
        <p style={{ color: wrong ? "var(--rust)" : "var(--ink-2)" }} role="status">
          {wrong ?? detail}
        </p>
      </div>
      <Field
        label="Last day"
        help="Left empty, the account has no end."
        type="date"
        narrow
        value={value.until}
        error={faultAt(error, "until")}
        onChange={(until) => onChange({ ...value, until })}
      />
      <Field
        label="Note"
        help="For owners; such as where this person comes from."
        value={value.note}
        onChange={(note) => onChange({ ...value, note })}
      />
    </>
  );
}
