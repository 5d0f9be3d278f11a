/** The core in a worker: CPython as WebAssembly, from this site's own files. Folds a run and works out a sum as the site would. */

interface Python {
  unpackArchive: (archive: ArrayBuffer, kind: string, options: { extractDir: string }) => void;
  runPython: (code: string) => unknown;
  globals: { get: (name: string) => (...given: string[]) => string };
}
interface Asked {
  id: number;
  what: string;
  given: string[];
}

const BASE = "/static/";
const CORE = "core.zip";
/** What the loader fetches by itself. */
const RUNTIME = ["pyodide/python_stdlib.zip", "pyodide/pyodide.asm.wasm", "pyodide/pyodide-lock.json"];
const CODE = `
import json, sys
sys.path.insert(0, "/home/ulsek")
from ulsek.core.run.events.catalogue import read_stored_event
from ulsek.core.base.answer import encode
from ulsek.core.base.refusals import Refusal
from ulsek.core.run.fold import fold_pinned
from ulsek.core.run.run_result import run_result
from ulsek.core.sums.catalogue import SUMS, work_out

def fold(pinned, events):
    return run_result(fold_pinned(json.loads(pinned), [read_stored_event(item) for item in json.loads(events)]))

def sums():
    return list(SUMS.values())

def sum_up(name, figures):
    return work_out(json.loads(name), json.loads(figures))

def ask(what, *given):
    try:
        return json.dumps({"ok": encode({"fold": fold, "sums": sums, "sum_up": sum_up}[what](*given))})
    except Refusal as refusal:
        return json.dumps({"refused": {"detail": refusal.text, "where": refusal.where, "code": refusal.code}})
`;

/** Whatever stands under these addresses, whole: from the network or from what the service worker keeps. */
async function whole(files: readonly string[]): Promise<Map<string, Blob>> {
  const fetched = files.map(async (file) => {
    const answer = await fetch(BASE + file);
    if (!answer.ok) throw new Error(`${file}: ${answer.status}`);
    return [BASE + file, await answer.blob()] as const;
  });
  return new Map(await Promise.all(fetched));
}

/** The loader watches none of its own fetches, and waits for ever when one fails: it is started only with all of them at hand, and answered from there. */
async function start(): Promise<Python> {
  const { loadPyodide } = (await import(/* @vite-ignore */ `${BASE}pyodide/pyodide.mjs`)) as {
    loadPyodide: (options: { indexURL: string }) => Promise<Python>;
  };
  const files = await whole([CORE, ...RUNTIME]);
  const network = self.fetch;
  self.fetch = async (asked, init) => {
    const file = files.get(new URL(String(asked), location.origin).pathname);
    return file ? new Response(file) : network(asked, init);
  };
  try {
    const python = await loadPyodide({ indexURL: `${BASE}pyodide/` });
    const core = await fetch(BASE + CORE);
    python.unpackArchive(await core.arrayBuffer(), "zip", { extractDir: "/home/ulsek" });
    python.runPython(CODE);
    return python;
  } finally {
    self.fetch = network;
  }
}

let python: Promise<Python> | null = null;

addEventListener("message", async ({ data: { id, what, given } }: MessageEvent<Asked>) => {
  try {
    python ??= start();
    const ask = (await python).globals.get("ask");
    postMessage({ id, answer: JSON.parse(ask(what, ...given)) });
  } catch (trouble) {
    python = null;
    postMessage({ id, trouble: String(trouble) });
  }
});
