/** Text of a file without a declared encoding: UTF-8, or if invalid the code page of older Western programs. */
export const decodeText = (bytes: Uint8Array): string => {
  const utf8 = new TextDecoder('utf-8').decode(bytes);
  return utf8.includes('\uFFFD') ? new TextDecoder('windows-1252').decode(bytes) : utf8;
};
