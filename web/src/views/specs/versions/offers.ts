/** What may be done with a version, what its tasters said, and which two are compared. */

import type { Schemas } from "../../../api/client";

export type Version = Schemas["VersionOut"];
export type Offer = "score" | "copy" | "branch" | "withdraw";

/** What may be done with a version; nothing is withdrawn twice. */
export function offersOn(version: Pick<Version, "withdrawn">, { mayMake, mayLead }: { mayMake: boolean; mayLead: boolean }): Offer[] {
  const offers: Offer[] = mayMake ? ["score", "copy"] : [];
  if (mayLead) offers.push("branch");
  if (mayLead && !version.withdrawn) offers.push("withdraw");
  return offers;
}

export const newestFirst = (versions: readonly Version[]) => [...versions].sort((one, other) => other.number - one.number);

/** The number of the newest version that was not withdrawn; 0 if there is none. */
export const newestStanding = (versions: readonly Pick<Version, "number" | "withdrawn">[]) =>
  Math.max(0, ...versions.filter((version) => !version.withdrawn).map(({ number }) => number));

/** What is compared before anybody chose: the newest with the one before it; else the draft with what there is. */
export function sidesAtFirst(versions: readonly Pick<Version, "number">[]): { left: string; right: string } {
  const [newest, before] = versions.map(({ number }) => number).sort((one, other) => other - one);
  if (newest === undefined) return { left: "draft", right: "draft" };
  return before === undefined ? { left: String(newest), right: "draft" } : { left: String(before), right: String(newest) };
}

/** Where two sides are compared; the other one is another spec's newest version if `other` is given. */
export const comparePath = (spec: string, left: string, right: string, other: Pick<Schemas["SpecRow"], "id" | "version"> | null) =>
  `/specs/${spec}/compare?left=${left}&${other ? `with=${other.id}&right=${other.version}` : `right=${right}`}`;
