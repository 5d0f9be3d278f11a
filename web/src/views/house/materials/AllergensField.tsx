interface AllergensFieldProps {
  known: readonly string[];
  /** What belongs to it as it ships: that cannot be unticked. */
  ships: readonly string[];
  /** Null where nobody has said what it holds. */
  value: readonly string[] | null;
  onChange: (value: readonly string[] | null) => void;
  fault: string | undefined;
}

/** What it holds of allergens, or that nobody has said so yet. */
export function AllergensField({ known, ships, value, onChange, fault }: AllergensFieldProps) {
  const words = [...new Set([...known, ...(value ?? [])])].sort();
  return (
    <fieldset>
      <legend className="text-[14px] text-soft">Allergens, as its label declares them</legend>
      <label className="flex min-h-11 items-center gap-2">
        <input
          type="checkbox"
          className="size-5"
          checked={value === null}
          onChange={(event) => onChange(event.target.checked ? null : ships)}
        />
        Nobody has read its label: guests are told to ask
      </label>
      {value === null ? null : (
        <div className="flex flex-wrap gap-x-5">
          {words.map((word) => (
            <label key={word} className="flex min-h-11 items-center gap-2">
              <input
                type="checkbox"
                className="size-5"
                checked={value.includes(word)}
                disabled={ships.includes(word) && value.includes(word)}
                onChange={(event) => onChange(event.target.checked ? [...value, word] : value.filter((other) => other !== word))}
              />
              {word}
            </label>
          ))}
        </div>
      )}
      {fault ? (
        <p role="alert" className="text-[14px] font-semibold text-warn">
          {fault}
        </p>
      ) : null}
    </fieldset>
  );
}
