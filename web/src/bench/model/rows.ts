import type { Setting } from "../../api/client";

/** How settings stand in a panel: alone, two that belong together in one row, or many of a kind as a table. */
export type Row =
  | { form: "one"; settings: [Setting] }
  | { form: "pair"; label: string; names: [string, string]; settings: [Setting, Setting] }
  | { form: "table"; columns: string[]; lines: { label: string; settings: Setting[] }[]; settings: Setting[] };

const PAIRS = new Set([
  "x y",
  "across down",
  "left top",
  "right bottom",

  "least most",
  "thin wide",
  "shortest longest",
  "dark bright",
]);
const LEAST_LINES = 3;

const isNumber = (setting: Setting) => setting.type === "number" || setting.type === "integer";
const capital = (word: string) => word.charAt(0).toUpperCase() + word.slice(1);

function paired(a: Setting, b: Setting | undefined): Row | null {
  if (!b || !PAIRS.has(`${a.name} ${b.name}`) || !isNumber(a) || !isNumber(b) || a.unit !== b.unit) return null;
  if (JSON.stringify(a.when) !== JSON.stringify(b.when)) return null;
  const [first, second] = [a.label.split(" "), b.label.split(" ")];
  const alike = first.findIndex((word, n) => word !== second[n]);
  const label = first.slice(0, Math.max(alike, 0)).join(" ");
  return { form: "pair", label, names: [first.slice(alike).join(" "), second.slice(alike).join(" ")], settings: [a, b] };
}

/** Numbers named `part_what`, the same for several parts: a line for each what, a column for each part. */
function tabled(settings: Setting[]): Row | null {
  const parts = new Map<string, Setting[]>();
  for (const setting of settings) {
    const [part, what] = setting.name.split("_");
    if (!part || !what || !isNumber(setting)) break;
    parts.set(part, [...(parts.get(part) ?? []), setting]);
  }
  const columns = [...parts.values()];
  const lines = columns[0]?.length ?? 0;
  if (columns.length < 2 || lines < LEAST_LINES || columns.some((column) => column.length !== lines)) return null;
  return {
    form: "table",
    columns: [...parts.keys()].map(capital),
    lines: Array.from({ length: lines }, (_, n) => ({
      label: capital((columns[0]?.[n]?.label ?? "").split(" ").slice(1).join(" ")),
      settings: columns.flatMap((column) => column[n] ?? []),
    })),
    settings: columns.flat(),
  };
}

/** The rows of a panel for these settings, in their order. */
export function rowsOf(settings: Setting[]): Row[] {
  const [first, second] = settings;
  if (!first) return [];
  const row = tabled(settings) ?? paired(first, second) ?? { form: "one", settings: [first] };
  return [row, ...rowsOf(settings.slice(row.settings.length))];
}
