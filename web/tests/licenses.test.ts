import { readdirSync, readFileSync } from "node:fs";
import { describe, expect, it } from "vitest";

const FONTS = "node_modules/@fontsource-variable";
const plain = (path: string) => readFileSync(path, "utf-8").replaceAll(/[ \t]+$/gm, "");

describe("the fonts' own licences", () => {
  it("are served beside the fonts, each as its package has it", () => {
    const fonts = readdirSync(FONTS);
    expect(readdirSync("public/font-licenses").sort()).toEqual(fonts.map((font) => `${font}.txt`).sort());
    for (const font of fonts) expect(plain(`public/font-licenses/${font}.txt`), font).toBe(plain(`${FONTS}/${font}/LICENSE`));
  });
});
