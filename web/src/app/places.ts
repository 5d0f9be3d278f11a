/** The places, in the order of the work, with the keys that open them. */
export const PLACES = [
  { key: "1", name: "Shift", path: "/shift" },
  { key: "2", name: "Stores", path: "/stores" },
  { key: "3", name: "Specs", path: "/specs" },
  { key: "4", name: "Make", path: "/make" },
  { key: "5", name: "Citrus", path: "/citrus" },
  { key: "6", name: "Taste", path: "/taste" },
  { key: "7", name: "Plan", path: "/plan" },
] as const;
