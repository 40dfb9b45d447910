import type { Folder, TypeInfo, Upload } from '@kanonos/contract';
import type { AboutValues } from '../document/about.ts';
import type { FirstMetadata } from './useFirstMetadata.ts';

/** What arrived in the intake folder or was saved on the network drive, as registering begins with it. */
export type Start = {
  /** Of the intake folder; null: saved on the network drive. */
  incomingFileId: string | null;
  path: string;
  upload: Upload;
  title: string;
  titleOrigin: string | undefined;
  number: string | null;
  label: string | null;
};

/** What is the same for one document and for many: what it is, where it goes, whose it is, and the metadata of all. */
export type Common = {
  types: readonly TypeInfo[];
  recent: readonly string[];
  folders: readonly Folder[];
  type: TypeInfo | undefined;
  setType: (id: string) => void;
  folderId: string;
  setFolderId: (id: string) => void;
  metadata: FirstMetadata;
  owner: { id: string; name: string }[];
  setOwner: (owner: { id: string; name: string }[]) => void;
  /** Null: the department of the owner. */
  departmentId: string | null;
  setDepartmentId: (id: string | null) => void;
  keywords: string[];
  setKeywords: (keywords: string[]) => void;
  about: AboutValues;
  setAbout: (about: AboutValues) => void;
};
