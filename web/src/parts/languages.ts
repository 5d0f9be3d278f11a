import { LANGUAGES as CODES } from "../api/languages";

const names = new Intl.DisplayNames("en", { type: "language" });

/** The languages of cards as choices: "in English", "in Spanish". */
export const LANGUAGES = CODES.map((value) => ({ value: value as string, label: `in ${names.of(value)}` }));
