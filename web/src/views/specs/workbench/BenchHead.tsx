import { useQuery } from "@tanstack/react-query";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { Notice } from "../../../parts/Notice";
import { useSession } from "../../../session/session";
import { Follows } from "../Follows";
import { SpecParts } from "../SpecParts";
import type { DraftHandle } from "./useDraft";
import { saveWords } from "./walking";

export interface BenchHeadProps {
  spec: string;
  draft: DraftHandle;
  name: string;
  mayEdit: boolean;
  trying: boolean;
  onPublish: () => void;
}

/** The name of the spec, what it is and whether it is saved, and what may be done with it as a whole. */
export function BenchHead({ spec, draft, name, mayEdit, trying, onPublish }: BenchHeadProps) {
  const { zone } = useSession();
  const families = useQuery(ask.words()).data?.families ?? [];
  const family = families.find((item) => item.key === draft.body.family)?.word.toLowerCase() ?? draft.body.family;
  const { known, save } = draft;
  const about = [
    family,
    known.version ? `draft after version ${known.version}` : "draft",
    known.trial_of && `trial beside ${known.trial_of}`,
    known.base && `follows ${known.base}`,
    trying ? "only tried, nothing is kept" : saveWords(save, zone),
  ];
  return (
    <>
      <div className="mb-2.5 flex flex-wrap items-center gap-x-4 gap-y-2">
        {mayEdit ? <h1 className="sr-only">{name}</h1> : null}
        <div className="min-w-[min(100%,340px)] flex-1">
          {mayEdit ? (
            <input
              aria-label="Name of the spec"
              title={name}
              value={name}
              onChange={(event) => draft.edit((now) => ({ ...now, name: event.target.value }))}
              className="-ml-2 min-h-11 w-full rounded-xl bg-transparent text-ellipsis px-2 font-head text-[30px] leading-tight font-bold"
            />
          ) : (
            <h1 className="text-[30px]">{name}</h1>
          )}
          <p className="text-[15px] leading-tight text-soft" role="status">
            {about.filter(Boolean).join(" · ")}
          </p>
        </div>
        <SpecParts spec={spec} />
        {mayEdit ? (
          <div className="ml-auto flex flex-wrap items-center gap-2">
            <Button look="quiet" onClick={draft.undo} aria-label="Undo" shortcut="U">
              Undo
            </Button>
            <Button look="quiet" onClick={draft.redo} aria-label="Redo" shortcut="R">
              Redo
            </Button>
            <Button look="main" onClick={onPublish}>
              Check and publish
            </Button>
          </div>
        ) : null}
      </div>
      <Follows spec={spec} />
      {save.status === "conflict" || save.status === "refused" ? (
        <div className="mb-3 flex items-center gap-3">
          <div className="flex-1">
            <Notice severity="stop" live>
              {save.text}
            </Notice>
          </div>
          <Button onClick={() => window.location.reload()}>Reload</Button>
        </div>
      ) : null}
    </>
  );
}
