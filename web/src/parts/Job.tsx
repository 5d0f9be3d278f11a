import { useMutation, useQuery } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { client, type Schemas, unwrap } from "../api/client";
import { Button } from "./Button";
import { Notice } from "./Notice";

type JobState = Schemas["JobOut"]["state"];

const EVERY_MS = 600;
const isOpen = (state: JobState) => state === "waiting" || state === "running";

interface JobProps {
  /** What is asked for. */
  kind: string;
  /** What the button says before anything is asked for. */
  children: ReactNode;
  /** What the file is called once it is there. */
  file: string;
}

/** Asks for something that takes long, shows how far it is, and hands over its file; it can be stopped. */
export function Job({ kind, children, file }: JobProps) {
  const [id, setId] = useState<string>();
  const path = { job_id: id ?? "" };
  const ask = useMutation({
    mutationFn: () => unwrap(client.POST("/api/jobs", { body: { kind } })),
    onSuccess: (job) => setId(job.id),
  });
  const stop = useMutation({
    mutationFn: () => unwrap(client.POST("/api/jobs/{job_id}/stop", { params: { path } })),
  });
  const job = useQuery({
    queryKey: ["job", id],
    queryFn: () => unwrap(client.GET("/api/jobs/{job_id}", { params: { path } })),
    enabled: id !== undefined,
    refetchInterval: (query) => (query.state.data && !isOpen(query.state.data.state) ? false : EVERY_MS),
  }).data;
  const problem = ask.error?.message ?? job?.problem;

  if (id !== undefined && (!job || isOpen(job.state))) {
    const [done, of] = [job?.done ?? 0, job?.of ?? 0];
    return (
      <div className="inline-flex min-h-11 items-center gap-2 rounded-full border border-rim bg-enamel pl-4 text-[15px]">
        <progress
          className="h-2 w-24 appearance-none overflow-hidden rounded-full bg-line [&::-moz-progress-bar]:bg-rim [&::-webkit-progress-bar]:bg-line [&::-webkit-progress-value]:bg-rim"
          max={of || 1}
          value={done}
          aria-label={file}
        />
        <span role="status" className="tabular-nums">
          {of ? `${done} of ${of}` : "in the queue"}
        </span>
        <button
          type="button"
          className="min-h-11 rounded-full px-4 font-semibold text-rim"
          onClick={() => stop.mutate()}
          disabled={stop.isPending}
        >
          Stop
        </button>
      </div>
    );
  }
  return (
    <>
      {job?.state === "done" ? (
        <a
          href={`/api/jobs/${job.id}/file`}
          download
          className="inline-flex min-h-11 items-center rounded-full border border-rim bg-enamel px-4 text-[15px] font-semibold text-rim"
        >
          {file}
        </a>
      ) : (
        <Button onClick={() => ask.mutate()} disabled={ask.isPending}>
          {children}
        </Button>
      )}
      {problem ? (
        <Notice severity="stop" live>
          {problem}
        </Notice>
      ) : null}
      {job?.state === "stopped" ? (
        <p role="status" className="self-center text-soft">
          Stopped.
        </p>
      ) : null}
    </>
  );
}
