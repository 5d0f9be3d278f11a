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

  it("lie beside the fonts of what is printed too, which are the same as on the screens", () => {
    const printed = "../src/ulsek/devices/fonts";
    const files = readdirSync(printed).filter((file) => file.endsWith(".woff2"));
    expect(files.length).toBe(4);
    for (const file of files) {
      const font = file.replace(/-latin.*/, "");
      expect(readFileSync(`${printed}/${file}`).equals(readFileSync(`${FONTS}/${font}/files/${file}`)), file).toBe(true);
      expect(readFileSync(`${printed}/${font}.txt`, "utf-8")).toBe(readFileSync(`public/font-licenses/${font}.txt`, "utf-8"));
    }
  });
});
