import { Button } from "../../../parts/Button";
import type { OpenSheet } from "../sheets/sheetProps";

const SHEETS: readonly { sheet: Exclude<OpenSheet, null>; word: string; key: string }[] = [
  { sheet: "story", word: "So far", key: "L" },
  { sheet: "reading", word: "Reading", key: "R" },
  { sheet: "taste", word: "Taste", key: "T" },
  { sheet: "wrong", word: "Went wrong", key: "X" },
  { sheet: "ahead", word: "Weigh ahead", key: "W" },
  { sheet: "more", word: "More", key: "M" },
];

export interface BenchButtonsProps {
  words: string;
  ready: boolean;
  onAct: () => void;
  onOpen: (sheet: OpenSheet) => void;
}

/** What may be done at the bench besides the one thing, and the one thing. */
export function BenchButtons({ words, ready, onAct, onOpen }: BenchButtonsProps) {
  return (
    <div className="grid grid-cols-3 gap-2.5 [&>button]:px-2 [&>button]:text-[20px] max-sm:[&>button]:px-2 max-sm:[&>button]:text-[18px] sm:gap-3.5 lg:grid-cols-[1.05fr_1.15fr_1fr_1.45fr_1.55fr_1fr_2.6fr]">
      {SHEETS.map(({ sheet, word, key }) => (
        <Button key={sheet} size="bench" onClick={() => onOpen(sheet)} shortcut={key}>
          {word}
        </Button>
      ))}
      {/* A knuckle that taps twice must not do what the button says only since the first tap. */}
      <Button
        size="bench"
        look="main"
        onClick={(event) => event.detail < 2 && onAct()}
        aria-disabled={!ready}
        shortcut="space"
        className="col-span-3 max-lg:order-first lg:col-span-1"
      >
        {words}
      </Button>
    </div>
  );
}
