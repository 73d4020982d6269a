import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import ts from 'typescript';
import { PHRASINGS } from './phrasings.mjs';

/** Names every text people read that says something in a way that was given up; see `phrasings.mjs`. */

const files = execFileSync('git', ['ls-files', 'apps', 'packages', 'docs', 'README.md'], { encoding: 'utf8' })
  .split('\n')
  .filter((file) => /\.(tsx?|md)$/.test(file) && !/\.test\.tsx?$|\/test\/|migrations\//.test(file));

/** The texts of a source with their lines: what stands in quotes, in templates and between tags. */
function textsOf(file, source) {
  if (file.endsWith('.md')) return source.split('\n').map((text, index) => ({ text, line: index + 1 }));
  const parsed = ts.createSourceFile(file, source, ts.ScriptTarget.Latest, true, file.endsWith('x') ? ts.ScriptKind.TSX : ts.ScriptKind.TS);
  const texts = [];
  const visit = (node) => {
    if (ts.isStringLiteralLike(node) || ts.isJsxText(node) || ts.isTemplateExpression(node)) {
      const text = (ts.isTemplateExpression(node) ? node.getText() : node.text).replace(/\s+/g, ' ').trim();
      texts.push({ text, line: parsed.getLineAndCharacterOfPosition(node.getStart()).line + 1 });
    }
    ts.forEachChild(node, visit);
  };
  visit(parsed);
  return texts;
}

const faults = files.flatMap((file) =>
  textsOf(file, readFileSync(file, 'utf8')).flatMap(({ text, line }) =>
    PHRASINGS.filter(([pattern]) => pattern.test(text)).map(([, better]) => `${file}:${line}: “${text.slice(0, 90)}” → ${better}`),
  ),
);
for (const fault of faults) console.log(fault);
if (faults.length > 0) process.exit(1);
