import { useInfiniteQuery, useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { client, Problem, unwrap } from "../../../api/client";
import { rowsOf } from "../../../api/lists";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { Notice, type Severity, Trouble } from "../../../parts/Notice";
import { Sheet } from "../../../parts/Sheet";
import { mayStand, takeAsTheyStand } from "./body";
import { remarksOf } from "./remarks";
import type { DraftHandle } from "./useDraft";

/** The release check, the one-line why, and the button that makes a version for good; or better words for the version that stands. */
export function PublishSheet({ spec, draft, open, onClose }: { spec: string; draft: DraftHandle; open: boolean; onClose: () => void }) {
  const queries = useQueryClient();
  const [why, setWhy] = useState("");
  const [critical, setCritical] = useState(false);
  const versions = useInfiniteQuery({ ...ask.versions(spec), enabled: open });
  const again = () => {
    void queries.invalidateQueries({ queryKey: ask.versions(spec).queryKey });
    void queries.invalidateQueries({ queryKey: ["specs"] });
  };
  const publish = useMutation({
    mutationFn: async () =>
      unwrap(
        client.POST("/api/specs/{spec_id}/publish", {
          params: { path: { spec_id: spec } },
          body: { revision: await draft.settled(), why, critical },
        }),
      ),
    onSuccess: () => {
      setWhy("");
      again();
    },
  });
  const correct = useMutation({
    mutationFn: async () => {
      await draft.settled();
      return unwrap(client.POST("/api/specs/{spec_id}/correct", { params: { path: { spec_id: spec } } }));
    },
    onSuccess: () => {
      publish.reset();
      again();
    },
  });
  const shown = rowsOf(versions.data);
  const remarks = remarksOf(draft.result);
  const stops = remarks.filter((remark) => remark.severity === "stop");
  const standing = mayStand(
    draft.body,
    stops.filter((remark) => remark.code === "assumed_amount").map((remark) => remark.where.split("/")[3] ?? ""),
  );
  const wordsOnly = publish.error instanceof Problem && publish.error.code === "wording_only";
  return (
    <Sheet
      open={open}
      onClose={onClose}
      title="Check and publish"
      about="A published version is never changed; the next change is the next version."
    >
      <div className="grid gap-3">
        {standing.length ? (
          <div className="flex flex-wrap items-center justify-between gap-3 rounded-xl bg-quiet p-3">
            <p className="min-w-0 flex-1 text-[15px]">
              {standing.length === 1 ? "One amount was" : `${standing.length} amounts were`} never written and hardly move the result.
            </p>
            <Button onClick={() => draft.edit(takeAsTheyStand(standing))}>Take them as they stand</Button>
          </div>
        ) : null}
        {remarks.map((remark) => (
          <Notice key={remark.code + remark.where + remark.text} severity={remark.severity as Severity}>
            {remark.text} {remark.remedy}
          </Notice>
        ))}
        {remarks.length === 0 ? <p>Nothing stands in the way.</p> : null}
        {correct.isSuccess ? (
          <p role="status" className="rounded-xl bg-quiet p-3 font-bold text-good">
            Version {correct.data.number} has its better words. No number changed, so it is no new version.
          </p>
        ) : publish.isSuccess ? (
          <p role="status" className="rounded-xl bg-quiet p-3 font-bold text-good">
            Version {publish.data.number} is published. Staff can make it now.{" "}
            <Link to={`/specs/${spec}/card`} className="underline">
              Its card
            </Link>
          </p>
        ) : (
          <form
            className="grid gap-3"
            onSubmit={(event) => {
              event.preventDefault();
              publish.mutate();
            }}
          >
            <Field label="Why this version, in one line" value={why} onChange={setWhy} placeholder="sharper, less sugar" />
            <label className="flex min-h-11 items-center gap-3">
              <input
                type="checkbox"
                className="size-5 accent-rim"
                checked={critical}
                onChange={(event) => setCritical(event.target.checked)}
              />
              <span>
                A critical change: <span className="text-soft">nobody makes it before they have read it</span>
              </span>
            </label>
            <Trouble error={publish.error ?? correct.error} />
            {wordsOnly ? (
              <Button onClick={() => correct.mutate()} disabled={correct.isPending}>
                Correct the words of the version that stands
              </Button>
            ) : null}
            <Button look="main" type="submit" disabled={publish.isPending || stops.length > 0}>
              {stops.length ? "Something stops it" : "Publish"}
            </Button>
          </form>
        )}
        {shown.length ? (
          <ul className="mt-2 border-t border-line pt-2 text-[14px] text-soft">
            {shown.slice(0, 4).map((version) => (
              <li key={version.number}>
                <b className="text-ink">Version {version.number}</b> · {version.why} · {version.author}
              </li>
            ))}
          </ul>
        ) : null}
      </div>
    </Sheet>
  );
}
