/** The dark modules of a scanned code as one path: each run of a row is a bar one high. */
export function moduleRuns(rows: readonly string[]): string {
  return rows
    .flatMap((row, y) => [...row.matchAll(/1+/g)].map((run) => `M${run.index} ${y}h${run[0].length}v1h-${run[0].length}z`))
    .join("");
}
