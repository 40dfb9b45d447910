import type { AnswerOf, api, Me } from '@kanonos/contract';
import { wording } from './wording.ts';

type Counts = AnswerOf<typeof api.tasks.counts>;
export type PlaceLink = { to: string; text: string; count?: number | undefined; hot?: boolean; end?: boolean };
export type PlaceGroup = { title: string; links: readonly PlaceLink[] };

/** Where somebody can go, by what they may: first what everybody works with, then evidence, then configuration. */
export const placesFor = (me: Me, counts: Counts | undefined): PlaceGroup[] => {
  const may = (right: Me['organisationRights'][number]) => me.organisationRights.includes(right);
  const administers = may('administer');
  const isInside = !me.outside;
  const groups: PlaceGroup[] = [
    {
      title: '',
      links: [
        { to: '/', text: wording.desk, count: counts?.desk, hot: true, end: true },
        { to: '/register', text: wording.register, count: counts?.register },
        { to: '/reading', text: wording.reading, count: counts?.reading },
        ...(me.overseesRounds ? [{ to: '/rounds', text: wording.rounds }] : []),
        ...(isInside ? [{ to: '/changes', text: wording.changes }] : []),
        ...(isInside ? [{ to: '/forms', text: wording.forms }] : []),
        ...(me.mayRegister ? [{ to: '/intake', text: wording.incoming, count: counts?.incomingFiles }] : []),
        ...(isInside ? [{ to: '/horizon', text: wording.horizon }] : []),
      ],
    },
    {
      title: wording.evidence,
      links: [
        ...(may('audit') ? [{ to: '/trail', text: wording.auditTrail }] : []),
        ...(administers
          ? [
              { to: '/mail', text: wording.outgoingMail },
              { to: '/system', text: wording.system },
            ]
          : []),
      ],
    },
    {
      title: wording.configuration,
      links: [
        ...(isInside && administers
          ? [
              { to: '/rules/organisation', text: wording.organisation },
              { to: '/rules/types', text: wording.types },
              { to: '/rules/signatories', text: wording.signatories },
              { to: '/rules/rounds', text: wording.roundRules },
              { to: '/rules/lists', text: wording.lists },
              { to: '/rules/forms', text: wording.editForms },
              { to: '/numbers', text: wording.numbers },
              { to: '/rules/templates', text: wording.templates },
            ]
          : []),
        ...(isInside && (administers || me.managesFolders)
          ? [
              { to: '/rules/filing', text: wording.filingPlan },
              { to: '/rules/blueprints', text: wording.blueprints },
              { to: '/imports', text: wording.legacyImport },
            ]
          : []),
        ...(isInside ? [{ to: '/people', text: wording.people }] : []),
      ],
    },
  ];
  return groups.filter((group) => group.links.length > 0);
};
