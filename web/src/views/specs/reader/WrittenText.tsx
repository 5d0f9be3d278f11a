import { isLeft, type Phrase, type Piece, pieces } from "./marks";
import { TAKEN } from "./TakenSteps";

export interface WrittenTextProps {
  text: string;
  phrases: readonly Phrase[];
  /** The band of what each line brings most of, by its id. */
  bands: Readonly<Record<string, string>>;
  /** What each line and step is, in words, by its id. */
  said: Readonly<Record<string, string>>;
  chosen: string;
  onChoose: (at: string) => void;
  /** The phrase that is being given to a step. */
  giving: Piece | null;
  onGive: (piece: Piece | null) => void;
}

/** The text as it was written, each phrase tied to what was taken from it. */
export function WrittenText({ text, phrases, giving, onGive, ...shown }: WrittenTextProps) {
  const cut = pieces(text, phrases);
  const left = cut.filter(isLeft).length;
  return (
    <section className="tray flex min-w-0 flex-col p-4" aria-label="As you wrote it">
      <h2 className="mb-3 text-[20px]">As you wrote it</h2>
      <p className="text-[17px] leading-[44px] whitespace-pre-wrap [overflow-wrap:anywhere]">
        {cut.map((piece) => (
          <Part key={piece.start} piece={piece} isGiven={giving?.start === piece.start} onGive={onGive} {...shown} />
        ))}
      </p>
      <p className="mt-auto border-t border-line pt-3 text-[14px] text-soft">
        Touch a phrase to see what was taken from it. <span data-phrase="step">blue line</span> a step · colour, a material ·{" "}
        <span data-phrase="claim">dashed</span> a claim, kept and compared.{" "}
        {left
          ? `${left} ${left === 1 ? "phrase is" : "phrases are"} dotted: no step took ${left === 1 ? "it" : "them"}. Touch one to give it to a step.`
          : "Nothing was left over."}
      </p>
    </section>
  );
}

type PartProps = { piece: Piece; isGiven: boolean } & Omit<WrittenTextProps, "text" | "phrases" | "giving">;

function Part({ piece, isGiven, bands, said, chosen, onChoose, onGive }: PartProps) {
  const { phrase, step, text } = piece;
  if (phrase === null && !isLeft(piece)) return <span>{text}</span>;
  if (phrase === null) {
    return (
      <a
        href={`#${TAKEN}`}
        data-phrase="left"
        aria-current={isGiven || undefined}
        title="Give it to a step"
        onClick={(event) => {
          event.preventDefault();
          onGive(isGiven ? null : piece);
          document.getElementById(TAKEN)?.scrollIntoView({ block: "nearest" });
        }}
      >
        {text}
      </a>
    );
  }
  if (phrase.kind !== "line" && phrase.kind !== "step") return <span data-phrase={phrase.kind}>{text}</span>;
  const picked = chosen !== "" && (chosen === phrase.at || chosen === step);
  // A link wraps as the text around it does; a button would not.
  return (
    <a
      href={`#taken-${step || phrase.at}`}
      data-phrase={phrase.kind}
      data-of={phrase.kind === "line" ? (bands[phrase.at] ?? "") : undefined}
      aria-current={picked || undefined}
      title={said[phrase.at]}
      onClick={(event) => {
        event.preventDefault();
        onChoose(picked ? "" : phrase.at);
        document.getElementById(`taken-${step || phrase.at}`)?.scrollIntoView({ block: "nearest" });
      }}
    >
      {text}
    </a>
  );
}
