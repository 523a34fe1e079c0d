import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import ts from 'typescript';

const FOLDERS = ['src/core', 'src/ui', 'src/app'];
const isSource = (name) => /\.tsx?$/.test(name) && !/\.test\.tsx?$/.test(name);

/** A template as its key: values are places in braces, by their order. */
const keyOf = (template) =>
  ts.isNoSubstitutionTemplateLiteral(template)
    ? template.text
    : template.templateSpans.reduce(
        (key, { literal }, i) => `${key}{${i}}${literal.text}`,
        template.head.text,
      );

/** All that is said in the source below a folder, in alphabetical order: each by itself, to be translated. */
export function wordsIn(root) {
  const keys = new Set();
  for (const folder of FOLDERS) {
    for (const name of readdirSync(join(root, folder), { recursive: true })) {
      if (!isSource(name)) continue;
      const text = readFileSync(join(root, folder, name), 'utf8');
      if (!text.includes('say`')) continue;
      const visit = (node) => {
        if (ts.isTaggedTemplateExpression(node) && node.tag.getText() === 'say') {
          keys.add(keyOf(node.template));
        }
        ts.forEachChild(node, visit);
      };
      visit(ts.createSourceFile(name, text, ts.ScriptTarget.Latest, true));
    }
  }
  return Object.fromEntries([...keys].sort((a, b) => (a < b ? -1 : 1)).map((key) => [key, key]));
}
