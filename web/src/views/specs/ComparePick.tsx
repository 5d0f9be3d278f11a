import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { ask } from "../../api/queries";
import { Choice } from "../../parts/Choice";

/** Two sides to compare: any two versions, the draft, or another spec: two schools of one thing. */
export function ComparePick({ spec, versions }: { spec: string; versions: readonly Schemas["VersionOut"][] }) {
  const options = [
    { value: "draft", label: "the draft" },
    ...versions.map(({ number }) => ({ value: String(number), label: `version ${number}` })),
  ];
  const library = useQuery(ask.library({ find: "", family: "", state: "published", on_shelf: false, page: 1 }));
  const others = (library.data?.items ?? []).filter((item) => item.id !== spec && item.version);
  const [left, setLeft] = useState(String(versions[1]?.number ?? versions[0]?.number ?? "draft"));
  const [right, setRight] = useState(versions.length > 1 ? String(versions[0]?.number) : "draft");
  const other = others.find((item) => item.id === right);
  const aside = other ? `with=${other.id}&right=${other.version}` : `right=${right}`;
  return (
    <div className="flex flex-wrap items-center gap-2">
      <Choice label="One side" value={left} options={options} onChange={setLeft} />
      <span className="text-soft">beside</span>
      <Choice
        label="The other side"
        value={right}
        options={[...options, ...others.map((item) => ({ value: item.id, label: item.name, group: "Another spec" }))]}
        onChange={setRight}
      />
      <Link
        to={`/specs/${spec}/compare?left=${left}&${aside}`}
        className="inline-flex min-h-11 items-center rounded-full border border-rim bg-enamel px-4 text-[15px] font-semibold text-rim"
      >
        Compare
      </Link>
    </div>
  );
}
