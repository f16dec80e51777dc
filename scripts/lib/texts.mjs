// Every text that a person reads: of the screens' templates, and the sentences of the program.
import { readFile, readdir } from 'node:fs/promises';
import { dirname, join, relative } from 'node:path';
import ts from 'typescript';

const READ_ATTRIBUTES = ['aria-label', 'title', 'placeholder', 'hint', 'heading', 'act', 'what', 'label', 'alt'];

async function sources(folder) {
  const entries = await readdir(folder, { recursive: true });
  return entries.filter((name) => name.endsWith('.ts') && !/\.(test|spec|story)\.ts$|test-|migrations/.test(name)).map((name) => join(folder, name));
}

/** The texts of an Angular template: text nodes, and attributes that are read. */
async function ofTemplate(template, path) {
  const { parseTemplate } = await import('@angular/compiler');
  const { nodes, errors } = parseTemplate(template, path, { preserveWhitespaces: false });
  if (errors?.length) throw new Error(`${path}: ${errors[0].msg}`);
  const found = [];
  const literals = (ast) => {
    if (!ast || typeof ast !== 'object') return;
    if (typeof ast.value === 'string' && ast.constructor.name === 'LiteralPrimitive') found.push(ast.value);
    if (Array.isArray(ast.strings)) found.push(...ast.strings);
    for (const [name, child] of Object.entries(ast))
      if (!['span', 'sourceSpan', 'nameSpan'].includes(name) && typeof child === 'object') (Array.isArray(child) ? child : [child]).forEach(literals);
  };
  const visit = (node) => {
    if (!node || typeof node !== 'object') return;
    if (node.constructor.name.startsWith('Text')) found.push(node.value);
    if (node.constructor.name.startsWith('BoundText')) literals(node.value.ast ?? node.value);
    for (const attribute of node.attributes ?? []) if (READ_ATTRIBUTES.includes(attribute.name)) found.push(attribute.value);
    for (const bound of node.inputs ?? []) if (READ_ATTRIBUTES.includes(bound.name.replace('attr.', ''))) literals(bound.value.ast ?? bound.value);
    for (const child of ['children', 'branches', 'cases', 'groups', 'empty', 'placeholder', 'loading', 'error'])
      for (const inner of [node[child] ?? []].flat()) visit(inner);
  };
  nodes.forEach(visit);
  return found.filter((text) => typeof text === 'string').map((text) => text.replace(/\s+/g, ' ').trim());
}

/** The sentences and words of a source file: literals that look like language, and its component's template. */
async function ofFile(path) {
  const file = ts.createSourceFile(path, await readFile(path, 'utf8'), ts.ScriptTarget.Latest, true);
  const found = [];
  const templates = [];
  const ofOtherFiles = [];
  const visit = (node) => {
    if (ts.isPropertyAssignment(node) && ['template', 'templateUrl', 'styles', 'styleUrl', 'selector', 'imports', 'host'].includes(node.name.getText())) {
      if (node.name.getText() === 'template' && ts.isStringLiteralLike(node.initializer)) templates.push(node.initializer.text);
      if (node.name.getText() === 'templateUrl') ofOtherFiles.push(join(dirname(path), node.initializer.text));
      return;
    }
    if (ts.isImportDeclaration(node) || ts.isExportDeclaration(node) || ts.isLiteralTypeNode(node)) return;
    if (ts.isTaggedTemplateExpression(node)) return;
    if (
      ts.isStringLiteralLike(node) &&
      /^[\p{L}“?!(].*\s.*\p{L}/u.test(node.text) &&
      !/\bselect\b|\bfrom\b.*\bwhere\b|=>|--|;\s*$|^\w+\.\w+ as /.test(node.text)
    )
      found.push(node.text);
    if (ts.isTemplateExpression(node)) found.push([node.head.text, ...node.templateSpans.map((span) => span.literal.text)].join('…'));
    ts.forEachChild(node, visit);
  };
  visit(file);
  for (const other of ofOtherFiles) templates.push(await readFile(other, 'utf8'));
  for (const template of templates) found.push(...(await ofTemplate(template, path)));
  return found.map((text) => text.replace(/\s+/g, ' ').trim()).filter((text) => /\p{L}{2}/u.test(text));
}

/** All texts, each with the files it stands in; below the folders of a project. */
export async function readTexts(root) {
  const known = new Map();
  for (const folder of ['web/src/app', 'core/src', 'contract/src/history', 'server/src'])
    for (const path of await sources(join(root, folder)))
      for (const text of await ofFile(path)) known.set(text, [...new Set([...(known.get(text) ?? []), relative(root, path)])]);
  return known;
}
