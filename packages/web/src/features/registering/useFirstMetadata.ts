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
  const [held, setHeld] = useState(NO_METADATA);
  return {
    ...held,
    set: (values) => setHeld((before) => takeMetadata(before, values)),
    fill: (values, origin) => setHeld((before) => fillMetadata(before, values, origin)),
    begin: (type, known) => setHeld((before) => beginMetadata(before, type, known)),
  };
};
