import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { client, expectOk, type Schemas, unwrap } from "../../../api/client";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { FileField } from "../../../parts/FileField";
import { MomentField } from "../../../parts/MomentField";
import { NotFetched, Trouble } from "../../../parts/Notice";
import { moment } from "../../../parts/say";
import { useSession } from "../../../session/session";

type Tree = Schemas["TreeOut"];
const FORMS = [
  { form: "ulsek", word: "Ulsek file" },
  { form: "recipe", word: "Recipe, JSON-LD" },
  { form: "markdown", word: "Card, Markdown" },
] as const;

interface SurroundingsProps {
  spec: string;
  mayLead: boolean;
  body: Record<string, unknown>;
  asksQuestions: boolean;
}

/** What stands around a spec: preps below and above it, when to start, where it comes from, its files, and its open forms. */
export function Surroundings({ spec, mayLead, body, asksQuestions }: SurroundingsProps) {
  const tree = useQuery(ask.tree(spec));
  return (
    <div className="grid content-start gap-4">
      <section className="tray p-4" aria-label="Draws on and drawn on by">
        <h2 className="mb-1 text-[20px]">Below and above</h2>
        <NotFetched questions={[tree]} />
        <Branches title="It draws on" none="nothing that the house makes" trees={tree.data?.draws_on ?? []} />
        <Branches title="Drawn on by" none="nothing yet" trees={tree.data?.drawn_on_by ?? []} />
      </section>
      <ToPourAt spec={spec} />
      <section className="tray grid gap-1 p-4 text-[15px]" aria-label="Where it comes from">
        <h2 className="text-[20px]">Where it comes from</h2>
        <p>{String(body.source || "Nobody wrote it down.")}</p>
        <p className="text-soft">{body.permission ? `By leave: ${String(body.permission)}` : "No permission is noted."}</p>
        <Files spec={spec} mayLead={mayLead} />
      </section>
      {mayLead ? <AsksQuestions spec={spec} now={asksQuestions} /> : null}
      <section className="tray p-4" aria-label="Open forms">
        <h2 className="mb-2 text-[20px]">Save it as</h2>
        <div className="flex flex-wrap gap-2">
          {FORMS.map((item) => (
            <a
              key={item.form}
              download
              href={`/api/specs/${spec}/export?form=${item.form}`}
              className="inline-flex min-h-11 items-center rounded-full border border-rim bg-enamel px-4 text-[15px] font-semibold text-rim"
            >
              {item.word}
            </a>
          ))}
        </div>
      </section>
    </div>
  );
}

/** Whether staff answer three questions before their first make of it. */
function AsksQuestions({ spec, now }: { spec: string; now: boolean }) {
  const queries = useQueryClient();
  const set = useMutation({
    mutationFn: (asks_questions: boolean) =>
      unwrap(client.PUT("/api/specs/{spec_id}/settings", { params: { path: { spec_id: spec } }, body: { asks_questions } })),
    onSuccess: () => void queries.invalidateQueries({ queryKey: ask.draft(spec).queryKey }),
  });
  return (
    <section className="tray p-4" aria-label="Before a first make">
      <label className="flex min-h-11 items-center gap-3">
        <input
          type="checkbox"
          className="size-5 accent-rim"
          checked={set.isPending ? set.variables : now}
          onChange={(event) => set.mutate(event.target.checked)}
        />
        Three questions before somebody's first make of it
      </label>
      <Trouble error={set.error} />
    </section>
  );
}

function Branches({ title, none, trees }: { title: string; none: string; trees: readonly Tree[] }) {
  return (
    <div className="mt-1">
      <h3 className="text-[15px] text-soft">{title}</h3>
      {trees.length ? <Tree trees={trees} /> : <p className="text-[15px]">{none}</p>}
    </div>
  );
}

function Tree({ trees }: { trees: readonly Tree[] }) {
  return (
    <ul className="ml-1 border-l-2 border-line pl-3">
      {trees.map((item) => (
        <li key={item.key}>
          <Link to={`/specs/${item.id}`} className="inline-flex min-h-11 items-center font-semibold hover:underline">
            {item.name}
            {item.state === "withdrawn" ? <span className="ml-2 text-warn">withdrawn</span> : null}
          </Link>
          {item.branches.length ? <Tree trees={item.branches} /> : null}
        </li>
      ))}
    </ul>
  );
}

/** Counts back from a pour through rests and preps. */
function ToPourAt({ spec }: { spec: string }) {
  const { zone, locale } = useSession();
  const [at, setAt] = useState("");
  const starts = useQuery(ask.startBy(spec, at));
  return (
    <section className="tray p-4" aria-label="To pour at">
      <h2 className="mb-1 text-[20px]">To pour at</h2>
      <MomentField label="Day and hour" locale={locale} value={at} onChange={setAt} />
      <NotFetched questions={[starts]} />
      {at && starts.data ? (
        <>
          <ol className="mt-2 grid gap-1">
            {starts.data.map((item) => (
              <li key={item.key} className="flex items-baseline justify-between gap-3 border-t border-line py-1">
                <span>
                  <b>{item.name}</b>
                  {item.needed_for ? <span className="block text-[14px] text-soft">for {item.needed_for.toLowerCase()}</span> : null}
                </span>
                <span className={`text-right text-[15px] ${item.too_late ? "font-bold text-warn" : ""}`}>
                  {item.too_late ? "too late: " : "start by "}
                  {moment(item.start_by, zone)}
                </span>
              </li>
            ))}
          </ol>
          <a
            href={`/api/specs/${spec}/start-by.ics?at=${encodeURIComponent(at)}`}
            download
            className="mt-2 inline-flex min-h-11 items-center rounded-full border border-rim bg-enamel px-4 text-[15px] font-semibold text-rim"
          >
            Into a calendar
          </a>
        </>
      ) : null}
    </section>
  );
}

function Files({ spec, mayLead }: { spec: string; mayLead: boolean }) {
  const queries = useQueryClient();
  const files = useQuery(ask.attachments(spec));
  const again = () => void queries.invalidateQueries({ queryKey: ask.attachments(spec).queryKey });
  const attach = useMutation({
    mutationFn: (file: File) => {
      const form = new FormData();
      form.append("file", file);
      return unwrap(
        client.POST("/api/specs/{spec_id}/attachments", {
          params: { path: { spec_id: spec } },
          body: form as never,
          bodySerializer: (body: unknown) => body as FormData,
        }),
      );
    },
    onSuccess: again,
  });
  const remove = useMutation({
    mutationFn: (id: number) => expectOk(client.DELETE("/api/attachments/{attachment_id}", { params: { path: { attachment_id: id } } })),
    onSuccess: again,
  });
  return (
    <div className="mt-2">
      <ul>
        {(files.data ?? []).map((file) => (
          <li key={file.id} className="flex items-center justify-between gap-3">
            <a
              href={`/api/attachments/${file.id}`}
              download={file.name}
              className="inline-flex min-h-11 items-center font-semibold hover:underline"
            >
              {file.name}
            </a>
            {mayLead ? (
              <Button look="quiet" onClick={() => remove.mutate(file.id)} aria-label={`Take ${file.name} away`}>
                Take away
              </Button>
            ) : null}
          </li>
        ))}
      </ul>
      {mayLead ? (
        <FileField
          label="Attach a picture, a PDF or a text"
          accept="image/png,image/jpeg,application/pdf,text/plain"
          forgets
          onFile={(file) => attach.mutate(file)}
        />
      ) : null}
      <Trouble error={attach.error ?? remove.error} />
    </div>
  );
}
