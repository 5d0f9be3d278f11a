/** What somebody may do in a house, in words. */
export const ROLES = [
  { value: "reader", label: "reader: looks things up" },
  { value: "maker", label: "maker: makes and counts" },
  { value: "lead", label: "lead: writes specs, answers for the house" },
] as const;

export type RoleName = (typeof ROLES)[number]["value"];
