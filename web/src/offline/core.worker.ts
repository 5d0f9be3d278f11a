/** The core in a worker: CPython as WebAssembly, from this site's own files. Folds a run as the site would. */

interface Python {
  unpackArchive: (archive: ArrayBuffer, kind: string, options: { extractDir: string }) => void;
  runPython: (code: string) => unknown;
  globals: { get: (name: string) => (...given: string[]) => string };
}
interface Asked {
  id: number;
  given: string[];
}

const BASE = "/static/";
const CODE = `
import json, sys
sys.path.insert(0, "/home/ulsek")
from ulsek.core.events import read_event
from ulsek.core.refusals import Refusal
from ulsek.core.run import fold_pinned

def fold(pinned, events):
    return fold_pinned(json.loads(pinned), [read_event(item) for item in json.loads(events)]).as_data()

def ask(*given):
    try:
        return json.dumps({"ok": fold(*given)})
    except Refusal as refusal:
        return json.dumps({"refused": {"detail": refusal.text, "where": refusal.where, "code": refusal.code}})
`;

async function start(): Promise<Python> {
  const { loadPyodide } = (await import(/* @vite-ignore */ `${BASE}pyodide/pyodide.mjs`)) as {
    loadPyodide: (options: { indexURL: string }) => Promise<Python>;
  };
  const [python, archive] = await Promise.all([loadPyodide({ indexURL: `${BASE}pyodide/` }), fetch(`${BASE}core.zip`)]);
  python.unpackArchive(await archive.arrayBuffer(), "zip", { extractDir: "/home/ulsek" });
  python.runPython(CODE);
  return python;
}

let python: Promise<Python> | null = null;

addEventListener("message", async ({ data: { id, given } }: MessageEvent<Asked>) => {
  try {
    python ??= start();
    const ask = (await python).globals.get("ask");
    postMessage({ id, answer: JSON.parse(ask(...given)) });
  } catch (trouble) {
    python = null;
    postMessage({ id, trouble: String(trouble) });
  }
});
