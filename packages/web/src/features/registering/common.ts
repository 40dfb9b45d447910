import type { Folder, TypeInfo } from '@kanonos/contract';
import type { AboutValues } from '../document/about.ts';
import type { FirstFacts } from './useFirstFacts.ts';

/** What is the same for one document and for many: what it is, where it goes, whose it is, and the facts of all. */
export type Common = {
  types: readonly TypeInfo[];
  lately: readonly string[];
  folders: readonly Folder[];
  type: TypeInfo | undefined;
  setType: (id: string) => void;
  folderId: string;
  setFolderId: (id: string) => void;
  facts: FirstFacts;
  owner: { id: string; name: string }[];
  setOwner: (owner: { id: string; name: string }[]) => void;
  keywords: string[];
  setKeywords: (keywords: string[]) => void;
  about: AboutValues;
  setAbout: (about: AboutValues) => void;
};
