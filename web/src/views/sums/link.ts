/** A sum and the figures typed into it. */
export interface Wished {
  name: string;
  figures: Record<string, string>;
}

/** A link's sum: `?sum=acid_dose&s.volume=60`. */
export function fromLink(): Wished | null {
  const asked = new URLSearchParams(window.location.search);
  const name = asked.get("sum");
  if (name === null) return null;
  const figures: Record<string, string> = {};
  for (const [key, value] of asked) if (key.startsWith("s.")) figures[key.slice(2)] = value;
  return { name, figures };
}

/** The link that opens a sum with its figures over the shift. */
export function linkTo({ name, figures }: Wished): string {
  const asked = new URLSearchParams({ sum: name });
  for (const [key, value] of Object.entries(figures)) if (value) asked.set(`s.${key}`, value);
  return `${window.location.origin}/shift?${asked}`;
}
