import { ADDRESS_TYPE, extensionOf, PAPER_TYPE } from '@kanonos/core';
import { fileTypeFromBuffer } from 'file-type';
import { refused } from '../refused.ts';

export type Show =
  | 'pdf'
  | 'picture'
  | 'text'
  | 'markdown'
  | 'html'
  | 'pages'
  | 'sheets'
  | 'mail'
  | 'entries'
  | 'drawing'
  | 'model'
  | 'film'
  | 'sound'
  | 'address'
  | 'paper'
  | 'none';

const DOCX = 'application/vnd.openxmlformats-officedocument.wordprocessingml.document';
const XLSX = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';
const PPTX = 'application/vnd.openxmlformats-officedocument.presentationml.presentation';
const OPEN = 'application/vnd.oasis.opendocument';

/** Kinds of which pages are made by the office program, with the ending by which it knows them. */
export const OFFICE_ENDINGS: Record<string, string> = {
  [DOCX]: 'docx',
  [XLSX]: 'xlsx',
  [PPTX]: 'pptx',
  [`${OPEN}.text`]: 'odt',
  [`${OPEN}.spreadsheet`]: 'ods',
  [`${OPEN}.presentation`]: 'odp',
  'application/msword': 'doc',
  'application/vnd.ms-excel': 'xls',
  'application/vnd.ms-powerpoint': 'ppt',
  'application/rtf': 'rtf',
  // With macros, which never run here, and templates: they get pages like any other.
  'application/vnd.ms-word.document.macroenabled.12': 'docm',
  'application/vnd.ms-excel.sheet.macroenabled.12': 'xlsm',
  'application/vnd.ms-powerpoint.presentation.macroenabled.12': 'pptm',
  'application/vnd.openxmlformats-officedocument.wordprocessingml.template': 'dotx',
  'application/vnd.openxmlformats-officedocument.spreadsheetml.template': 'xltx',
  'application/vnd.openxmlformats-officedocument.presentationml.template': 'potx',
  [`${OPEN}.text-template`]: 'ott',
  [`${OPEN}.spreadsheet-template`]: 'ots',
  [`${OPEN}.presentation-template`]: 'otp',
};

const TIFF = 'image/tiff';

/** Workbooks that are read by the one that the office program makes of them. */
export const isSheetsByOffice = (mediaType: string): boolean => /^(xls|ods|ots)$/.test(OFFICE_ENDINGS[mediaType] ?? '');

/** Whether a file is shown by pages that are made of it: office files, and scans in a format that browsers do not know. */
export const isShownByPages = (mediaType: string): boolean => mediaType in OFFICE_ENDINGS || mediaType === TIFF;

const SMALL = new Set([
  'application/pdf',
  'image/png',
  'image/jpeg',
  'image/gif',
  'image/webp',
  TIFF,
  'image/svg+xml',
  'image/vnd.dxf',
  ...Object.keys(OFFICE_ENDINGS),
]);

/** Whether a small picture can be made of a file of this kind. */
export const hasSmall = (mediaType: string): boolean => SMALL.has(mediaType);

/** How a file of a media type is shown. */
const SHOWS: Record<string, Show> = {
  'application/pdf': 'pdf',
  'image/png': 'picture',
  'image/jpeg': 'picture',
  'image/gif': 'picture',
  'image/webp': 'picture',
  'image/bmp': 'picture',
  [TIFF]: 'pages',
  'image/svg+xml': 'picture',
  'text/plain': 'text',
  'text/csv': 'text',
  'text/markdown': 'markdown',
  'message/rfc822': 'mail',
  'application/zip': 'entries',
  'image/vnd.dxf': 'drawing',
  'model/gltf-binary': 'model',
  'model/gltf+json': 'model',
  'model/stl': 'model',
  'video/mp4': 'film',
  'video/webm': 'film',
  'audio/mpeg': 'sound',
  'audio/wav': 'sound',
  'audio/ogg': 'sound',
  ...Object.fromEntries(Object.keys(OFFICE_ENDINGS).map((kind) => [kind, 'pages' as const])),
  ...Object.fromEntries(
    Object.entries(OFFICE_ENDINGS).flatMap(([kind, ending]) =>
      /^(xls|xlsx|xlsm|xltx|ods|ots)$/.test(ending) ? [[kind, 'sheets' as const]] : [],
    ),
  ),
  [DOCX]: 'html',
  // Written instead of a file: never judged from bytes that were sent.
  [ADDRESS_TYPE]: 'address',
  [PAPER_TYPE]: 'paper',
};
/** Kinds recognised by their name: those shown, and those only named. */
const KNOWN = new Set([...Object.keys(SHOWS), 'application/x-cfb', 'image/vnd.dwg']);
/** Any other kind is filed too: found by its metadata, handed out unchanged, and never opened here. */
const OTHER = 'application/octet-stream';
const BY_EXTENSION: Record<string, string> = {
  md: 'text/markdown',
  markdown: 'text/markdown',
  csv: 'text/csv',
  svg: 'image/svg+xml',
  dxf: 'image/vnd.dxf',
  eml: 'message/rfc822',
  rtf: 'application/rtf',
  gltf: 'model/gltf+json',
  stl: 'model/stl',
};
/** Formats without a mark of their own in their bytes, known by their ending alone. */
const BY_ENDING_ALONE: Record<string, string> = { stl: 'model/stl' };
/** Older office formats share one container; the extension tells which it is. */
const OLD_OFFICE: Record<string, string> = {
  doc: 'application/msword',
  xls: 'application/vnd.ms-excel',
  ppt: 'application/vnd.ms-powerpoint',
};
/** Bytes that do not match the name: the file is broken, is kept unchanged and is marked as not showable. */
const PROMISES: Record<string, string> = {
  pdf: 'application/pdf',
  docx: DOCX,
  xlsx: XLSX,
  pptx: PPTX,
  odt: `${OPEN}.text`,
  ods: `${OPEN}.spreadsheet`,
  odp: `${OPEN}.presentation`,
};

export const showOf = (mediaType: string): Show => SHOWS[mediaType] ?? 'none';

/**
 * The media type of a file from its bytes, not its name; the name only distinguishes text formats. Every kind is accepted except programs,
 * which are refused; what is not known here is `application/octet-stream`, and so, with a warning, is a file that promises a format
 * and does not hold it.
 */
export const mediaTypeOf = async (
  name: string,
  head: Buffer,
): Promise<{ mediaType: string; warning: string | null }> => {
  const extension = extensionOf(name);
  if (isProgram(head) || /^(exe|dll|com|scr|msi|bat|cmd|ps1|sh|jar|apk|app)$/.test(extension))
    throw refused('file_executable');
  const promised = PROMISES[extension];
  const found = await fileTypeFromBuffer(head).catch(() => undefined);
  // A TIFF may list its pages after them, and a sound begin after its cover, beyond the bytes read here.
  let mediaType: string | undefined = found?.mime ?? (isTiff(head) ? TIFF : isSound(head) ? 'audio/mpeg' : undefined);
  if (mediaType === 'application/xml' || mediaType === undefined) {
    if (looksLikeText(head))
      mediaType = BY_EXTENSION[extension] ?? (head.includes('<svg') ? 'image/svg+xml' : 'text/plain');
  }
  if (mediaType === undefined) mediaType = BY_ENDING_ALONE[extension];
  if (mediaType === 'application/x-cfb') mediaType = OLD_OFFICE[extension] ?? mediaType;
  if (mediaType === 'audio/wave' || mediaType === 'audio/vnd.wave') mediaType = 'audio/wav';
  // A zip whose first bytes do not show its kind gets the kind of its name.
  if (mediaType === 'application/zip' && promised && promised !== 'application/pdf') mediaType = promised;
  if (promised && mediaType !== promised) {
    return {
      mediaType: OTHER,
      warning: `This ${extension} file cannot be read. It is stored as it is but cannot be displayed.`,
    };
  }
  return { mediaType: mediaType && KNOWN.has(mediaType) ? mediaType : OTHER, warning: null };
};

const isTiff = (head: Buffer) => /^(II[*+]\0|MM\0[*+])/.test(head.toString('latin1', 0, 4));

const isSound = (head: Buffer) => head.toString('latin1', 0, 3) === 'ID3';

const isProgram = (head: Buffer) =>
  head.subarray(0, 2).equals(Buffer.from('MZ')) ||
  head.subarray(0, 4).equals(Buffer.from([0x7f, 0x45, 0x4c, 0x46])) ||
  head.subarray(0, 2).equals(Buffer.from('#!'));

const looksLikeText = (head: Buffer) => {
  if (head.includes(0)) return false;
  // The head may end inside a character: the last three bytes are not judged.
  const text = new TextDecoder('utf-8', { fatal: false }).decode(head.subarray(0, Math.max(head.length - 3, 0)));
  return (
    !text.includes('\uFFFD') ||
    new TextDecoder('windows-1252')
      .decode(head)
      .split('')
      .every((c) => c >= ' ' || '\t\n\r\f'.includes(c))
  );
};
