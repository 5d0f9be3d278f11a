// Runs the parity corpus in CPython 3.14 as the browser has it (Pyodide), here under Node: `npm run parity`. Prints one closing line.
import { fileURLToPath } from "node:url";
import { loadPyodide } from "pyodide";

const root = fileURLToPath(new URL("../..", import.meta.url));
const python = await loadPyodide();
for (const [inside, outside] of [
  ["/home/ulsek/src", `${root}src`],
  ["/home/ulsek/tests/parity", `${root}tests/parity`],
  ["/home/ulsek/demo", `${root}demo`],
]) {
  python.FS.mkdirTree(inside);
  python.mountNodeFS(inside, outside);
}
const [count, wrong, version] = python
  .runPython(`
import sys
sys.dont_write_bytecode = True
sys.path[:0] = ["/home/ulsek/src", "/home/ulsek"]
from tests.parity.cases import differences
count, wrong = differences()
[count, wrong[:20], sys.version.split()[0]]
`)
  .toJs();
for (const line of wrong) process.stderr.write(`${line}\n`);
process.stdout.write(`Python ${version}: ${count - Math.min(count, wrong.length)} passed, ${wrong.length} failed\n`);
process.exit(wrong.length || count < 500 ? 1 : 0);
