import { useMutation, useQueryClient } from "@tanstack/react-query";
import { client, expectOk, type Schemas } from "../../api/client";
import { Button } from "../../parts/Button";
import { Notice, Trouble } from "../../parts/Notice";
import { materialsOf } from "./ownMaterials";

/** Materials that came with a spec file and that the house does not have, with the offer to add them to Stores. */
export function NewMaterials({ read }: { read: Schemas["Understood"] }) {
  const queries = useQueryClient();
  const add = useMutation({
    mutationFn: () => expectOk(client.POST("/api/new-materials", { body: { materials: materialsOf(read) } })),
    onSuccess: () => void queries.invalidateQueries(),
  });
  const count = read.new_materials.length;
  if (count === 0) return null;
  const names = read.new_materials.map((item) => item.name).join(", ");
  if (add.isSuccess) {
    return (
      <p role="status" className="text-[15px]">
        Added to Stores: {names}.
      </p>
    );
  }
  return (
    <section aria-label="New materials" className="grid gap-2">
      <Notice severity="check">
        {count === 1 ? "1 material is new here" : `${count} materials are new here`}: {names}. Without {count === 1 ? "it" : "them"} in
        Stores the spec uses what its file says.
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
