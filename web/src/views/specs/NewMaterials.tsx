import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { client, expectOk, type Schemas, type SpecFile } from "../../api/client";
import { Button } from "../../parts/Button";
import { Notice, Trouble } from "../../parts/Notice";
import { materialsOf } from "./ownMaterials";

/** Materials of a draft that the house does not have, with the offer to add them to Stores. */
export function NewMaterials({ read, body }: { read: Schemas["Understood"]; body: SpecFile }) {
  const queries = useQueryClient();
  const [added, setAdded] = useState<readonly string[]>([]);
  const offered = Object.fromEntries(Object.entries(materialsOf(read, body)).filter(([key]) => !added.includes(key)));
  const add = useMutation({
    mutationFn: () => expectOk(client.POST("/api/new-materials", { body: { materials: offered } })),
    onSuccess: () => {
      setAdded([...added, ...Object.keys(offered)]);
      void queries.invalidateQueries();
    },
  });
  const called = (key: string, item: Record<string, unknown> | undefined) => String(item?.name ?? key);
  const count = Object.keys(offered).length;
  const names = Object.entries(offered)
    .map(([key, item]) => called(key, item))
    .join(", ");
  if (count === 0) {
    const own = (body as { materials?: Record<string, Record<string, unknown>> }).materials ?? {};
    return added.length === 0 ? null : (
      <p role="status" className="text-[15px]">
        Added to Stores: {added.map((key) => called(key, own[key])).join(", ")}.
      </p>
    );
  }
  return (
    <section aria-label="New materials" className="mb-3 grid gap-2">
      <Notice severity="check">
        {count === 1 ? "1 material is new here" : `${count} materials are new here`}: {names}. Without {count === 1 ? "it" : "them"} in
        Stores the spec uses what {read.kind === "spec file" ? "its file says" : "was said of it here"}.
      </Notice>
      <Trouble error={add.error} />
      <div>
        <Button disabled={add.isPending} onClick={() => add.mutate()}>
          {count === 1 ? "Add it to Stores" : "Add them to Stores"}
        </Button>
      </div>
    </section>
  );
}
