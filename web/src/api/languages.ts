// Written by bin/types from the catalogues in src/ulsek/core/data/messages; add one there.

/** Languages that the core can speak (ISO 639-1): cards are offered in these. */
export const LANGUAGES = ["en", "es"] as const;
