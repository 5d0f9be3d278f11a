import { useId, useState } from "react";

export interface FileFieldProps {
  label: string;
  /** What the button says while nothing is chosen. */
  word?: string;
  accept?: string;
  disabled?: boolean;
  /** The chosen file is listed elsewhere, and another one may follow. */
  forgets?: boolean;
  onFile: (file: File) => void;
}

/** Chooses a file: a button that says what for, and then which one was chosen. */
export function FileField({ label, word = "Choose a file", accept, disabled = false, forgets = false, onFile }: FileFieldProps) {
  const id = useId();
  const [name, setName] = useState("");
  return (
    <div className="grid gap-1">
      <label htmlFor={id} className="text-[14px] text-soft">
        {label}
      </label>
      <div className="relative inline-flex min-h-11 w-fit max-w-full items-center gap-3 rounded-full border border-rim bg-enamel px-4 text-[15px] font-semibold text-rim focus-within:outline-3 focus-within:outline-offset-2 focus-within:outline-rim">
        <span className="truncate">{name || word}</span>
        <input
          id={id}
          type="file"
          className="absolute inset-0 cursor-pointer opacity-0"
          disabled={disabled}
          {...(accept ? { accept } : {})}
          onChange={(event) => {
            const file = event.target.files?.[0];
            if (!file) return;
            if (!forgets) setName(file.name);
            onFile(file);
            // The same file may be chosen again once it was changed.
            event.target.value = "";
          }}
        />
      </div>
    </div>
  );
}
