/** Languages whose words are complete: cards are offered in these. */
export const LANGUAGES = [
  { value: "en", label: "in English" },
  { value: "es", label: "in Spanish" },
] as const;
