type Named = { code: string; name: string; help: string; family: string; group: string; example: string };

/** How well a type fits the letters typed, lower is better; nothing when a word of them is nowhere. */
const rank = (type: Named, words: readonly string[]): number | undefined => {
  const code = type.code.toLowerCase();
  const name = type.name.toLowerCase();
  const rest = `${type.help} ${type.example} ${type.family} ${type.group}`.toLowerCase();
  let sum = 0;
  for (const word of words) {
    if (code === word) continue;
    if (code.startsWith(word)) sum += 1;
    else if (name.startsWith(word)) sum += 2;
    else if (name.split(/\s+/).some((part) => part.startsWith(word))) sum += 3;
    else if (name.includes(word)) sum += 4;
    else if (rest.includes(word)) sum += 6;
    else return undefined;
  }
  return sum;
};

/** Types by a few letters of code, name or what they are for; the best first. */
export const findTypes = <T extends Named>(types: readonly T[], typed: string): T[] => {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  return types
    .flatMap((type) => {
      const at = rank(type, words);
      return at === undefined ? [] : [{ type, at }];
    })
    .sort((a, b) => a.at - b.at || (a.type.code < b.type.code ? -1 : 1))
    .map(({ type }) => type)
    .slice(0, 40);
};
