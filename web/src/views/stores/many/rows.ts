/** What is taken in together: from what is ticked, and from the rows of a table. */

import type { Schemas } from "../../../api/client";

type Sent = Schemas["PackDeliveryIn"];

/** What is ticked of the usual shelf, as typed. */
export interface Ticked {
  product: string;
  pack: string;
  price: string;
}

/** A price as the site takes it: a decimal comma is a point, an empty one nobody knows. */
const priceSent = (typed: string): string | null => typed.trim().replace(",", ".") || null;

export const tickedSent = (ticked: Readonly<Record<string, Ticked>>): Sent[] =>
  Object.entries(ticked).map(([material, { product, pack, price }]) => ({
    material,
    product,
    supplier: "",
    pack,
    packs: 1,
    price: priceSent(price),
  }));

/** A row of a table as it may be changed before it is taken in. */
export interface TableRow {
  line: number;
  product: string;
  material: string;
  name: string;
  supplier: string;
  pack: string;
  packs: number;
  price: string;
  doubts: readonly string[];
  wanted: boolean;
}

/** The rows that the site read; what is in doubt is left out until somebody says it. */
export const tableRows = (table: Schemas["StockTable"]): TableRow[] =>
  table.rows.map((row) => ({
    line: row.line,
    product: row.product,
    material: row.material,
    name: row.material_name,
    supplier: row.supplier,
    pack: row.pack,
    packs: row.packs,
    price: row.price,
    doubts: row.doubts,
    wanted: row.doubts.length === 0,
  }));

export const rowsSent = (rows: readonly TableRow[]): Sent[] =>
  rows
    .filter((row) => row.wanted)
    .map(({ material, product, supplier, pack, packs, price }) => ({ material, product, supplier, pack, packs, price: priceSent(price) }));

/** Which row a refusal is about (“items/3/pack”): its place among those that were sent. */
export const rowOf = (where: string): number | null => {
  const found = /^items\/(\d+)\//.exec(where);
  return found ? Number(found[1]) : null;
};
