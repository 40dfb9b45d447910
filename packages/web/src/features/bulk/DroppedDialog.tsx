import { useState } from 'react';
import { Choice } from '../../ui/controls.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { count } from '../../ui/format.ts';
import { BulkDialog } from './BulkDialog.tsx';
import { ShortcutDialog } from './ShortcutDialog.tsx';
import { wording } from './wording.ts';

/** Documents that were dropped on a folder or a keyword: the effect is chosen, tried and shown before it is done. */
export type Dropped = { ids: string[]; types: readonly string[] } & (
  | { on: 'folder'; folderId: string; name: string }
  | { on: 'keyword'; word: string }
);

export const DroppedDialog = ({ dropped, close }: { dropped: Dropped; close: () => void }) => {
  const [way, setWay] = useState<'move' | 'shortcut'>('move');
  const [going, setGoing] = useState(dropped.on === 'keyword');
  const picked = { ids: dropped.ids, filter: null, types: dropped.types, number: dropped.ids.length };
  if (going && dropped.on === 'keyword')
    return (
      <BulkDialog picked={picked} start={{ kind: 'keywords', change: { addKeywords: [dropped.word] } }} close={close} />
    );
  if (dropped.on === 'keyword') return null;
  if (going)
    return way === 'move' ? (
      <BulkDialog picked={picked} start={{ kind: 'folder', change: { folderId: dropped.folderId } }} close={close} />
    ) : (
      <ShortcutDialog ids={dropped.ids} into={dropped.folderId} close={close} />
    );
  return (
    <FormDialog
      title={wording.moveOrLinkTo(count(dropped.ids.length, 'document', 'documents'), dropped.name)}
      command={{ isPending: false, error: null }}
      button={wording.continue}
      onSubmit={() => setGoing(true)}
      onClose={close}
    >
      <Choice
        name="way"
        checked={way === 'move'}
        onChange={() => setWay('move')}
        title={wording.moveToThisFolder}
        about={wording.theyLeaveTheirPresentFolderInherited}
      />
      <Choice
        name="way"
        checked={way === 'shortcut'}
        onChange={() => setWay('shortcut')}
        title={wording.addShortcuts}
        about={wording.theyStayInTheirFolderAnd}
      />
    </FormDialog>
  );
};
