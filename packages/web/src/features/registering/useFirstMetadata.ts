import type { TypeInfo } from '@kanonos/contract';
import type { KnownFirst } from '@kanonos/core';
import { useState } from 'react';
import type { MetadataValues } from '../document/metadataValues.ts';
import { beginMetadata, type EnteredMetadata, fillMetadata, NO_METADATA, takeMetadata } from './firstMetadata.ts';

export type FirstMetadata = EnteredMetadata & {
  set: (values: MetadataValues) => void;
  fill: (values: MetadataValues, origin: string) => void;
  begin: (type: TypeInfo, known: KnownFirst) => void;
};

/** Metadata of a document that is being registered. */
export const useFirstMetadata = (): FirstMetadata => {
  const [held, setBlocked] = useState(NO_METADATA);
  return {
    ...held,
    set: (values) => setBlocked((before) => takeMetadata(before, values)),
    fill: (values, origin) => setBlocked((before) => fillMetadata(before, values, origin)),
    begin: (type, known) => setBlocked((before) => beginMetadata(before, type, known)),
  };
};
