import type { TypeInfo } from '@kanonos/contract';
import type { KnownFirst } from '@kanonos/core';
import { useState } from 'react';
import type { FactValues } from '../document/factValues.ts';
import { beginFacts, fillFacts, type HeldFacts, NO_FACTS, takeFacts } from './firstFacts.ts';

export type FirstFacts = HeldFacts & {
  set: (values: FactValues) => void;
  fill: (values: FactValues, origin: string) => void;
  begin: (type: TypeInfo, known: KnownFirst) => void;
};

/** Facts of a document that is being registered. */
export const useFirstFacts = (): FirstFacts => {
  const [held, setHeld] = useState(NO_FACTS);
  return {
    ...held,
    set: (values) => setHeld((before) => takeFacts(before, values)),
    fill: (values, origin) => setHeld((before) => fillFacts(before, values, origin)),
    begin: (type, known) => setHeld((before) => beginFacts(before, type, known)),
  };
};
