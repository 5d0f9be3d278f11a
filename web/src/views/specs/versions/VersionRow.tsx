import { Link } from "react-router";
import type { Schemas } from "../../../api/client";
import { Button } from "../../../parts/Button";
import { day, listed } from "../../../parts/say";
import { ScoredAs } from "../../taste/common/ScoredAs";
import { TastedAs } from "../../taste/common/TastedAs";
import { type Offer, offersOn, type Version } from "./offers";

const OFFERS: Record<Offer, string> = {
  score: "Score it",
  copy: "Hand out a copy",
  branch: "Branch a trial",
  withdraw: "Withdraw",
};

interface VersionRowProps {
  version: Version;
  zone: string;
  mayLead: boolean;
  mayMake: boolean;
  /** The panels that tasted it, the newest first. */
  panels: Schemas["PanelRow"][];
  onDeed: (kind: Offer) => void;
}

/** One version: its why, whether it holds, what its tasters said, who carries it, and what may be done with it. */
export function VersionRow({ version, zone, mayLead, mayMake, panels, onDeed }: VersionRowProps) {
  return (
    <li className="grid gap-1.5 border-t border-line py-3">
      <div className="flex flex-wrap items-baseline justify-between gap-3">
        <p className="min-w-0 text-[17px]">
          <b className={`font-head text-[20px] ${version.withdrawn ? "line-through decoration-warn" : ""}`}>Version {version.number}</b>
          <span className="ml-2">{version.why}</span>
        </p>
        <span className="text-[14px] text-soft">
          {version.author} · {day(version.at, zone)}
        </span>
      </div>
      {version.withdrawn ? (
        <p className="font-semibold text-warn">
          Withdrawn {version.withdrawn_at ? day(version.withdrawn_at, zone) : ""}: {version.withdrawn}
          {version.successor ? ` Make version ${version.successor}.` : ""}
        </p>
      ) : null}
      {version.critical ? (
        <p className="text-[15px]">
          <b>Critical.</b> Read by {version.acknowledged.length ? listed(version.acknowledged) : "nobody yet"}.
        </p>
      ) : null}
      {version.corrected_at ? <p className="text-[14px] text-soft">Words corrected {day(version.corrected_at, zone)}.</p> : null}
      {version.scored ? <ScoredAs result={version.scored} /> : null}
      {panels.map((panel) => (
        <TastedAs key={panel.id} panel={panel} />
      ))}
      {version.trials.length ? <p className="text-[15px] text-soft">Trials from it: {listed(version.trials)}.</p> : null}
      {version.copies.length ? (
        <p className="text-[15px] text-soft">Copies with {listed(version.copies.map((copy) => `${copy.to} (${day(copy.at, zone)})`))}.</p>
      ) : null}
      <div className="-ml-3 flex flex-wrap gap-1">
        <Link
          to={`/specs/${version.spec}/card?number=${version.number}`}
          className="inline-flex min-h-11 items-center rounded-full px-3 text-[15px] font-semibold hover:bg-pick"
        >
          Card
        </Link>
        {offersOn(version, { mayMake, mayLead }).map((offer) => (
          <Button key={offer} look="quiet" onClick={() => onDeed(offer)}>
            {OFFERS[offer]}
          </Button>
        ))}
      </div>
    </li>
  );
}
