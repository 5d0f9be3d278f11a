import { Link } from "react-router";
import type { Schemas } from "../../api/client";

type Node = Schemas["TraceNode"];
const KINDS: Record<string, string> = { lot: "bottles", run: "batch", delivery: "delivery" };

/** Bottles, batches and deliveries, each with what follows from it. */
export function Trace({ nodes, none }: { nodes: readonly Node[]; none: string }) {
  if (nodes.length === 0) return <p className="text-soft">{none}</p>;
  return (
    <ul className="grid gap-1 border-l-2 border-line pl-3">
      {nodes.map((node) => (
        <li key={`${node.kind}-${node.code}`}>
          <span className={`block ${node.gone ? "text-soft" : ""}`}>
            {node.kind === "lot" ? (
              <Link to={`/lots/${node.code}`} className="inline-flex min-h-11 items-center font-semibold text-rim underline">
                {node.name}, {node.code}
              </Link>
            ) : (
              <b className="inline-flex min-h-11 items-center">{node.name}</b>
            )}{" "}
            <span className="text-[14px] text-soft">
              {KINDS[node.kind]} · {node.about}
              {node.gone ? " · gone" : ""}
            </span>
          </span>
          {node.branches.length ? <Trace nodes={node.branches} none="" /> : null}
        </li>
      ))}
    </ul>
  );
}
