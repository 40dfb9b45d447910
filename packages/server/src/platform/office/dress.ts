import { refused } from '../refused.ts';
import { addTo, type OfficeKind } from './metadata.ts';
import { elements, type Parts, readParts, readXml, writeParts, writeXml } from './package.ts';

/**
 * A file with the head, foot and styles of a template and its own content: for Word files headers, footers, page layout and
 * styles, for OpenDocument texts their page styles. Refused for kinds that have no head and foot of their own.
 */
export const dress = (bytes: Uint8Array, template: Uint8Array, kind: OfficeKind): Uint8Array => {
  const [parts, from] = [readParts(bytes), readParts(template)];
  if (kind === 'docx') dressWord(parts, from);
  else if (kind === 'odt') dressOdt(parts, from);
  else throw refused('template_has_no_head', { kind });
  return writeParts(parts);
};

/** An OpenDocument text keeps its page styles, headers and footers in one part, with the pictures they show. */
const dressOdt = (parts: Parts, from: Parts): void => {
  const styles = from.get('styles.xml');
  if (styles) parts.set('styles.xml', styles);
  for (const [name, content] of from) if (name.startsWith('Pictures/') && !parts.has(name)) parts.set(name, content);
};

const DOCUMENT = 'word/document.xml';
const RELATIONS = 'word/_rels/document.xml.rels';
const HEAD_OR_FOOT = /\/(header|footer)$/;
const OFFICE_R = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships';

const dressWord = (parts: Parts, from: Parts): void => {
  const [document, layout] = [readXml(parts, DOCUMENT), readXml(from, DOCUMENT)];
  const [body] = document ? elements(document, 'w:body') : [];
  const ours = elements(layout as Document, 'w:sectPr').at(-1);
  if (!document || !body || !layout || !ours) throw refused('office_unreadable');
  // Relations of our own names, so that none of the document's is hit.
  const renamed = new Map<string, string>();
  dropHeads(parts);
  const relations = readXml(from, 'word/_rels/document.xml.rels');
  for (const relation of relations ? elements(relations, 'Relationship') : []) {
    const type = relation.getAttribute('Type') ?? '';
    const target = relation.getAttribute('Target') ?? '';
    if (!HEAD_OR_FOOT.test(type)) continue;
    const id = `rTemplate${renamed.size + 1}`;
    const file = target.replace(/^.*\//, 'template-');
    renamed.set(relation.getAttribute('Id') ?? '', id);
    copyPart(parts, from, `word/${target}`, `word/${file}`);
    addTo(parts, RELATIONS, 'Relationship', { Id: id, Type: type, Target: file });
    addTo(parts, '[Content_Types].xml', 'Override', {
      PartName: `/word/${file}`,
      ContentType: `application/vnd.openxmlformats-officedocument.wordprocessingml.${HEAD_OR_FOOT.exec(type)?.[1]}+xml`,
    });
  }
  const section = document.importNode(ours, true);
  for (const tag of ['w:headerReference', 'w:footerReference'])
    for (const reference of elements(section, tag)) {
      const id = renamed.get(reference.getAttribute('r:id') ?? '');
      if (id) reference.setAttribute('r:id', id);
      else reference.parentNode?.removeChild(reference);
    }
  if (!document.documentElement.getAttribute('xmlns:r')) document.documentElement.setAttribute('xmlns:r', OFFICE_R);
  for (const old of elements(body, 'w:sectPr')) if (old.parentNode === body) body.removeChild(old);
  body.appendChild(section);
  writeXml(parts, DOCUMENT, document);
  for (const name of ['word/styles.xml', 'word/theme/theme1.xml']) {
    const content = from.get(name);
    if (content && parts.has(name)) parts.set(name, content);
  }
};

/** A head or foot with its relations and the pictures that it shows. */
const copyPart = (parts: Parts, from: Parts, source: string, target: string): void => {
  const content = from.get(source);
  if (!content) return;
  parts.set(target, content);
  const relationsOf = (name: string) => name.replace(/^(.*\/)([^/]+)$/, '$1_rels/$2.rels');
  const relations = from.get(relationsOf(source));
  if (!relations) return;
  parts.set(relationsOf(target), relations);
  for (const [name, bytes] of from) if (name.startsWith('word/media/') && !parts.has(name)) parts.set(name, bytes);
};

/** Heads and feet that the document had are no longer referred to. */
const dropHeads = (parts: Parts): void => {
  const relations = readXml(parts, RELATIONS);
  if (!relations) return;
  for (const relation of elements(relations, 'Relationship'))
    if (HEAD_OR_FOOT.test(relation.getAttribute('Type') ?? '')) relation.parentNode?.removeChild(relation);
  writeXml(parts, RELATIONS, relations);
};
