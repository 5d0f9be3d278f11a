import { useQuery } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../../api/client";
import { ask } from "../../../api/queries";
import { Choice } from "../../../parts/Choice";
import { Field } from "../../../parts/Field";
import { comparePath, newestFirst, sidesAtFirst, type Version } from "./offers";

/** Two sides to compare: any two versions, the draft, or another spec: two schools of one thing. */
export function ComparePick({ spec, versions }: { spec: string; versions: readonly Version[] }) {
  const first = sidesAtFirst(versions);
  const options = [
    { value: "draft", label: "the draft" },
    ...newestFirst(versions).map(({ number }) => ({ value: String(number), label: `version ${number}` })),
  ];
  const [find, setFind] = useState("");
  const sought = useDeferredValue(find.trim());
  const library = useQuery(ask.library({ find: sought, state: "published" }));
  const others = (library.data?.items ?? []).filter((item) => item.id !== spec && item.version);
  const [left, setLeft] = useState(first.left);
  const [right, setRight] = useState(first.right);
  const [picked, setPicked] = useState<Schemas["SpecRow"] | null>(null);
  const other = picked?.id === right ? picked : null;
  const listed = other && !others.some((item) => item.id === other.id) ? [other, ...others] : others;
  return (
    <div className="flex flex-wrap items-center gap-2">
      <Choice label="One side" value={left} options={options} onChange={setLeft} />
      <span className="text-soft">beside</span>
      <Choice
        label="The other side"
        value={right}
        options={[...options, ...listed.map((item) => ({ value: item.id, label: item.name, group: "Another spec" }))]}
        onChange={(next) => {
          setRight(next);
          setPicked(listed.find((item) => item.id === next) ?? null);
        }}
      />
      <Field hideLabel label="Find another spec" placeholder="find another spec" value={find} onChange={setFind} className="w-48" />
      <Link
        to={comparePath(spec, left, right, other)}
        className="inline-flex min-h-11 items-center rounded-full border border-rim bg-enamel px-4 text-[15px] font-semibold text-rim"
      >
        Compare
      </Link>
    </div>
  );
}
