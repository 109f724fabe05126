/** Roles in words. */
import type { Schema } from "../../client/client";

export type Role = NonNullable<Schema<"PersonOut">["role"]>;

export const ROLES: readonly Role[] = ["owner", "coordinator", "reviewer", "reader"];

/** What each may do in the whole office. */
export const IN_OFFICE: Record<Role | "none", string> = {
  owner: "Runs the office: people, teams, clearance, settings, and everything below",
  coordinator: "Writes every questionnaire, begins new ones, follows the trail",
  reviewer: "Sees how every questionnaire is made, tries it, reads its entries",
  reader: "Reads the entries of every questionnaire and the rows of every register",
  none: "Only what they, or their teams, are given in single questionnaires and registers",
};

/** What each may do in one questionnaire. */
export const IN_QUESTIONNAIRE: Record<Role, string> = {
  owner: "Gives others a part in it and clearance, and everything below",
  coordinator: "Writes and publishes it, opens and shuts the gate, sets the rules",
  reviewer: "Sees how it is made, tries it, reads its entries",
  reader: "Reads its entries, without what is restricted",
};

/** What each may do in one register. */
export const IN_REGISTER: Record<Role, string> = {
  owner: "Gives others a part in it, and everything below",
  coordinator: "Files to it with rules of questionnaires",
  reviewer: "Reads its rows",
  reader: "Reads its rows",
};

export const officeRoles = [
  ...ROLES.map((code) => ({ code: code, label: code, detail: IN_OFFICE[code] })),
  { code: "none", label: "no role for the office", detail: IN_OFFICE.none },
];

export const asRole = (code: string): Role | null => (code === "none" ? null : (code as Role));
