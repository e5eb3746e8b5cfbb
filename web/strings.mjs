// Every string of the front end that a painter can read: one JSON object a line, {"file", "line", "text"}, holes as {}.
// Called by `make strings`; see crates/e2e/src/strings.rs.

import { readFileSync, readdirSync } from 'node:fs';
import { join, relative } from 'node:path';
import ts from 'typescript';

const root = new URL('./src', import.meta.url).pathname;

/** Attributes that nobody reads. */
const UNSEEN = new Set(['className', 'style', 'd', 'viewBox', 'to', 'href', 'path', 'key', 'id', 'role', 'type', 'fill', 'points']);
/** Whether it is a list of classes, an address or another word of the code, and no sentence: most of its words have signs in them. */
function isCode(text) {
  const words = text.split(' ');
  const coded = words.filter((word) => /^[a-z0-9!*&#/_[\]().,:%=<>'-]*[-:/[\]#_][a-z0-9/_[\]().,:%=<>'-]*$/.test(word));
  return coded.length >= words.length / 2;
}

const found = [];

function sources(folder) {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) return sources(path);
    return /\.tsx?$/.test(entry.name) && !entry.name.endsWith('.d.ts') ? [path] : [];
  });
}

function isUnseen(node) {
  const { parent } = node;
  if (ts.isImportDeclaration(parent) || ts.isExportDeclaration(parent) || ts.isLiteralTypeNode(parent)) return true;
  if (ts.isPropertyAssignment(parent) && parent.name === node) return true;
  for (let at = parent; at; at = at.parent) {
    if (ts.isJsxAttribute(at)) return UNSEEN.has(at.name.getText());
    if (ts.isThrowStatement(at)) return true;
    if (ts.isJsxElement(at) || ts.isFunctionLike(at)) return false;
  }
  return false;
}

function add(file, node, text) {
  const plain = text.replace(/\s+/g, ' ').trim();
  const letters = plain.replace(/\{\}/g, '');
  if (!/\p{L}{2}/u.test(letters) || isCode(plain)) return;
  const { line } = file.getLineAndCharacterOfPosition(node.getStart(file));
  found.push({ file: `web/src/${relative(root, file.fileName)}`, line: line + 1, text: plain });
}

function visit(file, node) {
  if (ts.isJsxText(node)) add(file, node, node.text);
  else if (ts.isStringLiteral(node) || ts.isNoSubstitutionTemplateLiteral(node)) {
    if (!isUnseen(node) && (/ /.test(node.text) || /^\p{Lu}/u.test(node.text) || ts.isJsxAttribute(node.parent))) {
      add(file, node, node.text);
    }
  } else if (ts.isTemplateExpression(node) && !isUnseen(node)) {
    add(file, node, node.head.text + node.templateSpans.map((span) => `{}${span.literal.text}`).join(''));
  }
  ts.forEachChild(node, (child) => visit(file, child));
}

for (const path of sources(root)) {
  const file = ts.createSourceFile(path, readFileSync(path, 'utf8'), ts.ScriptTarget.Latest, true);
  visit(file, file);
}
for (const string of found) console.log(JSON.stringify(string));
