import { Button } from "../../../parts/Button";
import { FileField } from "../../../parts/FileField";
import { Trouble } from "../../../parts/Notice";

export interface PasteFormProps {
  text: string;
  onText: (text: string) => void;
  busy: boolean;
  error: Error | null;
  onRead: () => void;
  /** The specs of another house's archive are read. */
  onArchive: (file: File) => void;
}

const EXAMPLE =
  "Take about a kilo of gooseberries and simmer them gently in a litre of water for half an hour. Strain, don’t press. For every 100 g of that, 60 of sugar. Off the heat, a good squeeze of bergamot. Cool, bottle.";

/** The place for a recipe as somebody wrote or said it. */
export function PasteForm({ text, onText, busy, error, onRead, onArchive }: PasteFormProps) {
  return (
    <main className="mx-auto grid max-w-[820px] gap-4 p-4 md:p-5">
      <div>
        <h1 className="text-[32px]">Read a recipe</h1>
        <p className="mt-1 text-soft">
          As it was written or said: a list, a paragraph, a message, a table, or many of them one after another. In English, Spanish,
          French, German or Italian. Nothing is kept before you take it to the workbench.
        </p>
      </div>
      <label className="grid gap-1">
        <span className="text-[14px] text-soft">The recipe</span>
        <textarea
          value={text}
          onChange={(event) => onText(event.target.value)}
          rows={12}
          className="rounded-xl border border-line bg-enamel p-3 text-[17px]"
          placeholder={EXAMPLE}
        />
      </label>
      <FileField
        label="Or a file: a text, a saved page with recipes in it, a table in CSV, or another house's archive"
        accept=".txt,.md,.html,.htm,.json,.jsonld,.csv,.zip"
        disabled={busy}
        onFile={(file) => (file.name.toLowerCase().endsWith(".zip") ? onArchive(file) : void file.text().then(onText))}
      />
      <Trouble error={error} />
      <div>
        <Button look="main" disabled={busy || !text.trim()} onClick={onRead}>
          Read it
        </Button>
      </div>
    </main>
  );
}
