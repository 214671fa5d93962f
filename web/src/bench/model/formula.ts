import type { FormulaWords } from "../../api/client";
import type { components } from "../../api/generated";

export type TokenKind = "space" | "number" | "function" | "constant" | "variable" | "knob" | "sign" | "stray";

export interface Token {
  kind: TokenKind;
  text: string;
  /** The first character's place from 1, as faults name it. */
  column: number;
}

const TOKEN = /(\s+)|((?:\d+\.?\d*|\.\d+)(?:[eE][+-]?\d+)?)|([A-Za-z_][A-Za-z0-9_]*)|(<=|>=|==|!=|[-+*/%^(),<>])|([\s\S])/g;

function wordKind(word: string, words: FormulaWords): TokenKind {
  if (words.functions.includes(word)) return "function";
  if (words.constants.includes(word)) return "constant";
  return words.variables.includes(word) ? "variable" : "knob";
}

/** Cut a line into words for colouring; what it means is the server's to say. */
export function tokensOf(line: string, words: FormulaWords): Token[] {
  return [...line.matchAll(TOKEN)].map((match) => {
    const [text, space, number, word, sign] = match;
    const kind = space ? "space" : number ? "number" : word ? wordKind(word, words) : sign ? "sign" : "stray";
    return { kind, text, column: match.index + 1 };
  });
}

/** The knobs of some lines, in the order of their first use. */
export const knobsIn = (lines: string[], words: FormulaWords): string[] => [
  ...new Set(
    lines.flatMap((line) =>
      tokensOf(line, words)
        .filter((token) => token.kind === "knob")
        .map((token) => token.text),
    ),
  ),
];

export type KnobValue = components["schemas"]["Knob"];

export const PLAIN_KNOB: KnobValue = { value: 1, low: 0, high: 2 };
