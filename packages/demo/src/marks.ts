// What a reviewer has drawn onto a drawing in review, and the stamps of the organisation.
import { type App, addLink, comments, newId, page, saveStamp, type Viewer } from '@kanonos/server';

const STAMPS = [
  { text: 'Checked', colour: '#0b5563' },
  { text: 'For information', colour: '#8a5a00' },
  { text: 'Not to be built from', colour: '#a52c15' },
];

type Context = { app: App; as: (name: string) => Promise<Viewer> };

export const markTheDrawing = async ({ app, as }: Context): Promise<void> => {
  const dagny = await as('dagny.holm');
  for (const stamp of STAMPS) await saveStamp(app, dagny, newId(), { ...stamp, retired: false, rowVersion: 0 });
  const [georg, joren] = [await as('georg.milde'), await as('joren.adeyemi')];
  const { revision } = await page.documentPage(app, georg, 'THR-DWG-2207', { rev: 'work' });
  const mark = (text: string, drawn: NonNullable<Parameters<typeof comments.addComment>[3]['mark']>) =>
    comments.addComment(app, georg, 'THR-DWG-2207', { text, revisionId: revision.id, mark: drawn });
  const { id } = await mark('Is the beam long enough for ten sheaves at this pitch?', {
    tool: 'cloud',
    page: 1,
    points: [
      [0.12, 0.42],
      [0.88, 0.62],
    ],
    colour: '#a52c15',
  });
  await comments.reply(app, joren, 'THR-DWG-2207', id, 'Yes: 10 × 420 mm and 140 mm at each end.');
  await mark('The tower head clears this by 60 mm only. @lin.sato please look.', {
    tool: 'arrow',
    page: 1,
    points: [
      [0.75, 0.2],
      [0.62, 0.4],
    ],
    colour: '#a52c15',
  });
};

/** Links that people set, beside what the texts cite. */
export const layLinks = async ({ app, as }: Context): Promise<void> => {
  const joren = await as('joren.adeyemi');
  const to = (number: string, pinned = false) => ({ to: 'document' as const, number, pinned });
  await addLink(app, joren, 'THR-FRM-0020', { kind: 'form of', goal: to('THR-PRO-0118'), note: '' });
  await addLink(app, joren, 'THR-WIN-0340', { kind: 'refers to', goal: to('THR-DWG-2207', true), note: 'Bolt circle' });
  await addLink(app, joren, 'THR-PRO-0118', {
    kind: 'refers to',
    goal: { to: 'item', kind: 'asset', code: 'GR-44', name: 'Grip of carrier 31' },
    note: '',
  });
  await addLink(app, joren, 'THR-PRO-0118', {
    kind: 'refers to',
    goal: { to: 'web', address: 'https://standards.example/en-12927' },
    note: 'Ropes: safety requirements',
  });
};
