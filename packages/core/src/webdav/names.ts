/** Names that programs and systems give to what they need for a moment, and never to what a person keeps. */
const TEMPORARY: readonly RegExp[] = [
  /^~\$/, // owner files of office programs
  /^\.~lock\..*#$/,
  /^~wr[a-z]\d+\.tmp$/i,
  /^~/,
  /~$/,
  /^\./, // hidden files: resource forks, folder settings, swap files
  /\.(tmp|temp|bak|wbk|xlk|swp|swx|part|crdownload|partial|download|lock|lck)$/i,
  /\.sb-[0-9a-f]+-\w+$/i,
  /^[0-9a-f]{8}$/i, // a spreadsheet program saves under eight digits without an ending
  /^4913$/,
  /^(thumbs\.db|desktop\.ini|icon\r?|autorun\.inf|folder\.jpg)$/i,
  /^\(?a document being saved by /i,
  /^untitled folder( \d+)?$/i,
  /^new folder( \(\d+\))?$/i,
];

/** Whether a name looks like that of a temporary file of a program, which never becomes a document. */
export const looksTemporary = (name: string): boolean => TEMPORARY.some((pattern) => pattern.test(name));

/**
 * Gives each of a folder's files a name of its own, in the same order: of equal names (in any case, for some systems do not
 * tell them apart) each gets its document's number at the end, then its revision, then a count.
 */
export const namesApart = (files: readonly { name: string; number: string; label: string }[]): string[] => {
  const fold = (name: string) => name.normalize('NFC').toLowerCase();
  const counted = (names: readonly string[]) => {
    const counts = new Map<string, number>();
    for (const name of names) counts.set(fold(name), (counts.get(fold(name)) ?? 0) + 1);
    return counts;
  };
  const behind = (name: string, more: string) => {
    const dot = name.lastIndexOf('.');
    return dot > 0 ? `${name.slice(0, dot)} ${more}${name.slice(dot)}` : `${name} ${more}`;
  };
  const clean = (text: string) => text.replace(/[\\/:*?"<>|]/g, '-');
  let names = files.map((file) => file.name);
  for (const more of [(i: number) => files[i]?.number ?? '', (i: number) => files[i]?.label || '1']) {
    const counts = counted(names);
    names = names.map((name, i) => ((counts.get(fold(name)) ?? 0) > 1 ? behind(name, clean(more(i))) : name));
  }
  const taken = new Set<string>();
  return names.map((name) => {
    let own = name;
    for (let n = 2; taken.has(fold(own)); n++) own = behind(name, String(n));
    taken.add(fold(own));
    return own;
  });
};
