import { DOMParser, XMLSerializer } from '@xmldom/xmldom';
import { WebdavError } from './webdavError.ts';

/** A property by its namespace and name, with its content as XML where it was sent with one. */
export type Property = { namespace: string; name: string; value?: string };

export const WEBDAV = 'DAV:';

/** Characters that XML 1.0 (2.2) cannot hold, also not by their number. */
const FORBIDDEN = /[^\t\n\r\u0020-\ud7ff\ue000-\ufffd\u{10000}-\u{10ffff}]/gu;
const isForbidden = (code: number) =>
  code > 0x10ffff || (code >= 0xd800 && code <= 0xdfff) || String.fromCodePoint(code).search(FORBIDDEN) === 0;

/** An answer without characters that XML forbids: one would make a whole folder unreadable. */
export const cleanXml = (xml: string): string => xml.toWellFormed().replace(FORBIDDEN, '');

export const escapeXml = (text: string): string =>
  text.replace(/[&<>"']/g, (sign) => `&#${sign.charCodeAt(0)};`).replace(/[^\P{Cc}\t\n\r]/gu, '');

/** The root of a request's body. Refused when it is not well-formed, also by namespaces, or defines entities of its own. */
export const parseBody = (text: string): Element => {
  if (/<!DOCTYPE|<!ENTITY/i.test(text) || /\sxmlns:[\w.-]+\s*=\s*(""|'')/.test(text))
    throw new WebdavError(400, 'The body is not well-formed XML.');
  for (const [, hex, decimal] of text.matchAll(/&#(?:x([0-9a-f]+)|([0-9]+));/gi))
    if (isForbidden(hex ? Number.parseInt(hex, 16) : Number(decimal)))
      throw new WebdavError(400, 'The body contains a character that XML does not allow.');
  const wrong = () => {
    throw new WebdavError(400, 'The body is not well-formed XML.');
  };
  const document = new DOMParser({
    locator: {},
    errorHandler: { warning: wrong, error: wrong, fatalError: wrong },
  }).parseFromString(text, 'text/xml');
  if (!document?.documentElement) return wrong() as never;
  for (const element of [document.documentElement, ...Array.from(document.getElementsByTagName('*'))])
    if (element.prefix && !element.namespaceURI) wrong();
  return document.documentElement as unknown as Element;
};

/** The elements right below one, of the namespace of WebDAV and with this name where one is said. */
export const below = (element: Element, name?: string): Element[] =>
  Array.from(element.childNodes).filter(
    (node): node is Element =>
      node.nodeType === 1 &&
      (name === undefined || ((node as Element).namespaceURI === WEBDAV && (node as Element).localName === name)),
  );

/** The content of an element with the namespaces that it needs, so that it can be put anywhere. */
export const inner = (element: Element): string => {
  const serializer = new XMLSerializer();
  return Array.from(element.childNodes)
    .map((node) => serializer.serializeToString(node as never))
    .join('');
};

export const propertyOf = (element: Element): Property => ({
  namespace: element.namespaceURI ?? '',
  name: element.localName,
  value: inner(element),
});

/** A property as an element of an answer; its namespace is declared on it where it is not that of WebDAV. */
export const element = ({ namespace, name, value }: Property): string => {
  const [tag, declared] =
    namespace === WEBDAV
      ? [`D:${name}`, '']
      : [namespace ? `P:${name}` : name, namespace ? ` xmlns:P="${escapeXml(namespace)}"` : ''];
  return value ? `<${tag}${declared}>${value}</${tag}>` : `<${tag}${declared}/>`;
};

const REASONS: Record<number, string> = {
  200: 'OK',
  403: 'Forbidden',
  404: 'Not Found',
  409: 'Conflict',
  423: 'Locked',
  424: 'Failed Dependency',
};
const status = (code: number) => `<D:status>HTTP/1.1 ${code} ${REASONS[code] ?? 'Error'}</D:status>`;

/** One response of a 207: the address and its properties by how it went with them, or one status for all of it. */
export const response = (href: string, outcome: number | ReadonlyMap<number, readonly Property[]>): string => {
  const body =
    typeof outcome === 'number'
      ? status(outcome)
      : [...outcome]
          .filter(([, properties]) => properties.length > 0)
          .map(
            ([code, properties]) =>
              `<D:propstat><D:prop>${properties.map(element).join('')}</D:prop>${status(code)}</D:propstat>`,
          )
          .join('');
  return `<D:response><D:href>${escapeXml(href)}</D:href>${body}</D:response>`;
};

export const multistatus = (responses: readonly string[]): string =>
  `<?xml version="1.0" encoding="utf-8"?>\n<D:multistatus xmlns:D="DAV:">${responses.join('')}</D:multistatus>`;
