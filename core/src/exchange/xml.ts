import { XMLBuilder, XMLParser, XMLValidator } from 'fast-xml-parser';
import { misplacedElements } from './element-order';

/** A document that was read, or why it could not be: each fault says where. */
export type Read<T> = { readonly ok: true; readonly document: T } | { readonly ok: false; readonly faults: readonly string[] };

/** An element: its text, its children, or many of them; attributes begin with `@`. */
export type Tree = { readonly [name: string]: Tree | readonly Tree[] | string | undefined };

const AGGREGATE = 'urn:oasis:names:specification:ubl:schema:xsd:CommonAggregateComponents-2';
const BASIC = 'urn:oasis:names:specification:ubl:schema:xsd:CommonBasicComponents-2';
const namespaceOf = (root: string) => `urn:oasis:names:specification:ubl:schema:xsd:${root}-2`;

const builder = new XMLBuilder({ format: true, indentBy: '  ', ignoreAttributes: false, attributeNamePrefix: '@', suppressEmptyNode: false });
const REPEATED = new Set(['OrderLine', 'DespatchLine', 'InvoiceLine', 'Note']);
const READING = {
  ignoreAttributes: false,
  attributeNamePrefix: '@',
  removeNSPrefix: true,
  parseTagValue: false,
  parseAttributeValue: false,
  trimValues: true,
} as const;
const parser = new XMLParser({ ...READING, isArray: (name) => REPEATED.has(name as string) });

/** A UBL 2.1 document as XML; `content` has its elements in the standard's sequence, prefixed by `cbc:` and `cac:`. */
export function writeXml(root: string, content: Tree): string {
  const document = {
    '?xml': { '@version': '1.0', '@encoding': 'UTF-8' },
    [root]: { '@xmlns': namespaceOf(root), '@xmlns:cac': AGGREGATE, '@xmlns:cbc': BASIC, 'cbc:UBLVersionID': '2.1', ...content },
  };
  return builder.build(document);
}

/**
 * Reads a UBL 2.1 document of one of these kinds: well-formed, without a document type (which could make it grow without
 * end), of the right namespace, its elements in the standard's sequence.
 */
export function readXml(xml: string, roots: readonly string[]): Read<{ readonly root: string; readonly content: Tree }> {
  if (/<!DOCTYPE/i.test(xml)) return { ok: false, faults: ['the file has a document type, which is not taken'] };
  const valid = XMLValidator.validate(xml);
  if (valid !== true) return { ok: false, faults: [`line ${valid.err.line}: ${valid.err.msg}`] };
  const parsed = parse(xml);
  if (parsed === null) return { ok: false, faults: ['its elements stand in one another deeper than any document of ours'] };
  const root = Object.keys(parsed).find((name) => !name.startsWith('?'));
  if (root === undefined || !roots.includes(root)) return { ok: false, faults: [`expected ${roots.join(' or ')}, got ${root ?? 'nothing'}`] };
  const content = parsed[root] as Tree;
  if (namespaceIn(xml, root) !== namespaceOf(root)) return { ok: false, faults: [`expected the namespace ${namespaceOf(root)}`] };
  const misplaced = misplacedElements(xml);
  return misplaced.length > 0 ? { ok: false, faults: misplaced } : { ok: true, document: { root, content } };
}

/**
 * Reads an XML document of another standard as a tree: well-formed and without a document type. `many`: the elements of which there may be several.
 */
export function readTree(xml: string, many: readonly string[]): Read<Tree> {
  if (/<!DOCTYPE/i.test(xml)) return { ok: false, faults: ['the file has a document type, which is not taken'] };
  const valid = XMLValidator.validate(xml);
  if (valid !== true) return { ok: false, faults: [`line ${valid.err.line}: ${valid.err.msg}`] };
  try {
    const own = new XMLParser({ ...READING, isArray: (name) => many.includes(name as string) });
    return { ok: true, document: own.parse(xml) as Tree };
  } catch {
    return { ok: false, faults: ['its elements stand in one another deeper than any document of ours'] };
  }
}

/** The document as a tree; null where it is nested deeper than the parser goes. */
function parse(xml: string): Tree | null {
  try {
    return parser.parse(xml) as Tree;
  } catch {
    return null;
  }
}

/** The namespace that the root element is in. The parser takes prefixes off, so it is read from its tag. */
function namespaceIn(xml: string, root: string): string | undefined {
  const tag = new RegExp(`<(?:([\\w.-]+):)?${root}(\\s[^>]*)?>`).exec(xml);
  const name = tag?.[1] ? `xmlns:${tag[1]}` : 'xmlns';
  return new RegExp(`\\s${name}\\s*=\\s*["']([^"']*)["']`).exec(tag?.[2] ?? '')?.[1];
}

/** The element at a path: `OrderReference/ID`. */
export function at(tree: Tree | undefined, path: string): Tree | undefined {
  let here: Tree | readonly Tree[] | string | undefined = tree;
  for (const name of path.split('/')) {
    if (here === undefined || typeof here === 'string') return undefined;
    here = (Array.isArray(here) ? (here[0] as Tree) : (here as Tree))[name];
  }
  return Array.isArray(here) ? (here[0] as Tree) : (here as Tree | undefined);
}

/** The text at a path; empty where there is none. */
export function textAt(tree: Tree | undefined, path: string): string {
  const found = at(tree, path) as Tree | string | undefined;
  if (found === undefined) return '';
  return typeof found === 'string' ? found : ((found['#text'] as string | undefined) ?? '');
}

/** All elements of a name. */
export function allOf(tree: Tree, name: string): readonly Tree[] {
  const found = tree[name];
  return found === undefined ? [] : Array.isArray(found) ? (found as readonly Tree[]) : [found as Tree];
}
