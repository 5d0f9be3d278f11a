import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useLocation, useNavigate } from "react-router";
import { client, type Schemas, unwrap } from "../../../api/client";
import { useSession } from "../../../session/session";
import { ManyRecipes } from "./ManyRecipes";
import { PasteForm } from "./PasteForm";
import { Reading } from "./Reading";
import { startRead } from "./startRead";

type Read = Schemas["Understood"];

/** A recipe, or several, as somebody wrote or said it, beside what Ulsek takes from it. Nothing is kept before it is taken to the workbench. */
export function ReaderView() {
  const given = (useLocation().state as { text?: string } | null)?.text ?? "";
  const { locale } = useSession();
  const [text, setText] = useState(given);
  const read = useMutation({
    mutationFn: (written: string) => unwrap(client.POST("/api/read-many", { body: { text: written, locale } })),
  });
  const asOne = useMutation({
    mutationFn: async (written: string) => [
      { text: written, read: await unwrap(client.POST("/api/read", { body: { text: written, locale } })), refused: null },
    ],
  });
  const archive = useMutation({
    mutationFn: (file: File) => {
      const form = new FormData();
      form.append("file", file);
      return unwrap(client.POST("/api/read-archive", { body: { file: "" }, bodySerializer: () => form }));
    },
  });
  const again = () => {
    archive.reset();
    read.reset();
    asOne.reset();
  };
  const parts = archive.data ?? asOne.data ?? read.data;
  if (!parts) {
    return (
      <PasteForm
        text={text}
        onText={setText}
        busy={read.isPending || archive.isPending}
        error={archive.error ?? read.error}
        onRead={() => {
          archive.reset();
          read.mutate(text);
        }}
        onArchive={(file) => archive.mutate(file)}
      />
    );
  }
  const only = parts.length === 1 ? parts[0]?.read : null;
  if (only) return <OneRecipe read={only} onAgain={again} />;
  return <ManyRecipes parts={parts} onAgain={again} {...(archive.data ? {} : { onAsOne: () => asOne.mutate(text) })} error={asOne.error} />;
}

function OneRecipe({ read, onAgain }: { read: Read; onAgain: () => void }) {
  const go = useNavigate();
  const queries = useQueryClient();
  const [body, setBody] = useState(read.body);
  const take = useMutation({
    mutationFn: () => startRead(body),
    onSuccess: (made) => {
      void queries.invalidateQueries({ queryKey: ["specs"] });
      void go(`/specs/${made.id}`);
    },
  });
  return (
    <Reading
      read={read}
      body={body}
      onBody={setBody}
      back="Another text"
      onBack={onAgain}
      onTake={() => take.mutate()}
      busy={take.isPending}
      error={take.error}
    />
  );
}
