import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "../../../api/client";
import { ask } from "../../../api/queries";
import { Button } from "../../../parts/Button";
import { Field } from "../../../parts/Field";
import { day } from "../../../parts/say";
import { useSession } from "../../../session/session";

/** What is sent of a sample that is nothing yet. */
export const NOBODY: Omit<Schemas["SampleIn"], "kind"> = {
  lot: "",
  spec: null,
  version: null,
  standard: null,
  name: "",
  sugar_g_100ml: null,
  acid_g_100ml: null,
  abv: null,
  allergens: null,
};

interface Adds {
  onAdd: (chosen: { name: string; about: string; body: Schemas["SampleIn"] }) => void;
}

/** The house's bottles, to choose one. */
export function OwnBottle({ onAdd }: Adds) {
  const { zone } = useSession();
  const [find, setFind] = useState("");
  const lots = useQuery(ask.lots(find));
  return (
    <>
      <Field label="Find a bottle" placeholder="its name, or L0012" value={find} onChange={setFind} />
      <ul className="grid max-h-[46dvh] gap-1 overflow-auto">
        {lots.data?.items.map((lot) => (
          <li key={lot.code}>
            <button
              type="button"
              onClick={() =>
                onAdd({
                  name: `${lot.name}, ${lot.code}`,
                  about: `made ${day(lot.made_at, zone)}, until ${day(lot.use_by)}`,
                  body: { ...NOBODY, kind: "lot", lot: lot.code },
                })
              }
              className="flex min-h-12 w-full items-baseline justify-between gap-3 rounded-xl px-3 py-2 text-left hover:bg-pick"
            >
              <b>{lot.name}</b>
              <span className="text-[15px] text-soft">
                {lot.code} · made {day(lot.made_at, zone)}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </>
  );
}

/** The house's specs, to choose a version, or a draft if those are `drafts` too. */
export function OwnSpec({ onAdd, drafts = false }: Adds & { drafts?: boolean }) {
  const [find, setFind] = useState("");
  const specs = useQuery(ask.library({ find }));
  return (
    <>
      <Field label="Find a spec" placeholder="its name" value={find} onChange={setFind} />
      <ul className="grid max-h-[46dvh] gap-1 overflow-auto">
        {specs.data?.items.map((spec) => (
          <li key={spec.id} className="flex flex-wrap items-center justify-between gap-2 px-1">
            <span>
              <b>{spec.name}</b>
              {spec.state === "trial" ? <span className="text-soft"> · trial</span> : null}
            </span>
            <span className="flex gap-1.5">
              {spec.version ? (
                <Button
                  onClick={() =>
                    onAdd({
                      name: `${spec.name}, version ${spec.version}`,
                      about: "made for it",
                      body: { ...NOBODY, kind: "version", spec: spec.id, version: spec.version },
                    })
                  }
                >
                  Version {spec.version}
                </Button>
              ) : null}
              {drafts ? (
                <Button
                  look="quiet"
                  onClick={() =>
                    onAdd({ name: `${spec.name}, draft`, about: "made for it", body: { ...NOBODY, kind: "draft", spec: spec.id } })
                  }
                >
                  Its draft
                </Button>
              ) : null}
            </span>
          </li>
        ))}
      </ul>
    </>
  );
}
