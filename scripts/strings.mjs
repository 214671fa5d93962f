// Print every string of the page that a person may read, one JSON object a line: file, line, text.
// Run by `scripts/strings.py`, which adds the strings of the catalogue and of Python.
import { readdirSync, readFileSync } from "node:fs";
import { createRequire } from "node:module";
import { join, relative } from "node:path";

const web = join(import.meta.dirname, "..", "web");
const ts = createRequire(join(web, "typegen", "package.json"))("typescript");

/** Attributes and properties that hold names for the machine. */
const MACHINE = new Set(
  ("className key type role id href src path d fill stroke size method what kind name widget variant placement rel target mode " +
    "value transform dash filter mask color overflow position display event gesture operation trigger align scroll behavior").split(" "),
);
/** Functions whose strings are for the machine. */
const SILENT = /^(GET|POST|PUT|PATCH|DELETE|querySelector(All)?|addEventListener|removeEventListener|getItem|setItem|startsWith|endsWith|includes|split|join|indexOf|createElement|matches|closest|require|describe|test|it|expect|append|get|set|has)$/;

function* files(folder) {
  for (const entry of readdirSync(folder, { withFileTypes: true })) {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) yield* files(path);
    else if (/\.tsx?$/.test(entry.name) && !/\.test\.tsx?$|generated\.ts$/.test(entry.name) && !path.includes("/testing/")) yield path;
  }
}

const readable = (text) => /[A-Za-zÀ-ÿ]{2}/.test(text) && (/\s/.test(text.trim()) || /^[A-Z]/.test(text.trim())) && !/^[./#@]|^[a-z-]+ [a-z-]+:|^[MLCQAZ][\d ]/.test(text);

function textOf(node) {
  if (ts.isJsxText(node)) return node.text.replace(/\s+/g, " ").trim();
  if (ts.isStringLiteral(node) || ts.isNoSubstitutionTemplateLiteral(node)) return node.text;
  if (ts.isTemplateExpression(node)) return node.head.text + node.templateSpans.map((span) => `{${span.expression.getText()}}${span.literal.text}`).join("");
  return null;
}

const isForMachine = (node, parent) =>
  ts.isImportDeclaration(parent) ||
  ts.isExportDeclaration(parent) ||
  ts.isLiteralTypeNode(parent) ||
  ts.isElementAccessExpression(parent) ||
  (ts.isPropertyAssignment(parent) && parent.name === node) ||
  ts.isCaseClause(parent) ||
  (ts.isBinaryExpression(parent) && /^[!=]==?$/.test(parent.operatorToken.getText()));

for (const path of files(join(web, "src"))) {
  const source = ts.createSourceFile(path, readFileSync(path, "utf8"), ts.ScriptTarget.Latest, true, ts.ScriptKind.TSX);
  const visit = (node) => {
    if (ts.isJsxAttribute(node) && MACHINE.has(node.name.getText())) return;
    if (ts.isPropertyAssignment(node) && MACHINE.has(node.name.getText().replaceAll('"', "")) && !ts.isObjectLiteralExpression(node.initializer)) {
      if (node.name.getText() !== "name") return;
    }
    if (ts.isCallExpression(node) && SILENT.test(node.expression.getText().split(".").at(-1) ?? "")) {
      for (const argument of node.arguments) if (!ts.isStringLiteral(argument)) visit(argument);
      return visit(node.expression);
    }
    const text = textOf(node);
    if (text && !isForMachine(node, node.parent) && readable(text.replace(/\{[^}]*\}/g, "X"))) {
      const { line } = source.getLineAndCharacterOfPosition(node.getStart());
      console.log(JSON.stringify({ file: relative(join(web, ".."), path), line: line + 1, text }));
      if (!ts.isTemplateExpression(node)) return;
    }
    ts.forEachChild(node, visit);
  };
  visit(source);
}
