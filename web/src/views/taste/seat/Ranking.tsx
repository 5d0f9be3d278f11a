import { useState } from "react";

interface RankingProps {
  codes: readonly string[];
  onChange: (order: string[] | null) => void;
}

const PLACES = ["1st", "2nd", "3rd", "4th", "5th", "6th"];

/** The glasses, touched one after the other, the best first. Touched once more, a glass and those after it are taken back. */
export function Ranking({ codes, onChange }: RankingProps) {
  const [order, setOrder] = useState<string[]>([]);
  const touch = (code: string) => {
    const at = order.indexOf(code);
    const next = at >= 0 ? order.slice(0, at) : [...order, code];
    setOrder(next);
    onChange(next.length === codes.length ? next : null);
  };
  return (
    <ul className="grid gap-2.5 pt-2">
      {codes.map((code) => {
        const at = order.indexOf(code);
        return (
          <li key={code}>
            <button
              type="button"
              aria-pressed={at >= 0}
              onClick={() => touch(code)}
              className={`figures flex min-h-16 w-full items-center justify-between rounded-[16px] border-2 border-rim px-5 text-[26px] font-bold ${at >= 0 ? "bg-rim text-on-rim" : "text-rim"}`}
            >
              {code}
              <span className="font-text text-[18px] [word-spacing:normal]">{at >= 0 ? PLACES[at] : ""}</span>
            </button>
          </li>
        );
      })}
    </ul>
  );
}
