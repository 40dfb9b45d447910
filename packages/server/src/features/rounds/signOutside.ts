import type { AnswerOf, api } from '@kanonos/contract';
import { dayOf, decideSignable } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import type { Db, Trx } from '../../platform/db/connect.ts';
import { assertAllowed, refused } from '../../platform/refused.ts';
import type { HandlerOf, Viewer } from '../access/index.ts';
import { type Opened, openDocument, runCommand, subjectOf } from '../documents/index.ts';
import type { RevisionRow } from '../revisions/index.ts';
import { getType } from '../rules/index.ts';
import {
  checkSigning,
  digestToSign,
  filesToOpen,
  freezeRecord,
  latestRecord,
  nameAssignees,
  recordTextNow,
  sign,
  signaturesOf,
} from '../signing/index.ts';
import { meantRevision } from './adHoc.ts';
import { coveredBy } from './covered.ts';

const openSignable = (opened: Opened, revisionId: string | undefined): RevisionRow => {
  const revision = meantRevision(opened, revisionId);
  assertAllowed(decideSignable(revision.state));
  return revision;
};

/** The digest of what a signature would cover: the record that was signed before, or else what would be frozen now. */
const digestFor = async (db: Db | Trx, { document }: Opened, revision: RevisionRow): Promise<string> =>
  (await latestRecord(db, revision.id))?.digest ?? digestToSign(db, document, revision);

/** What a signature outside a round would cover, and the meanings that it may have here. */
export const toSignOutside = async (
  app: App,
  viewer: Viewer,
  ref: string,
  revisionId: string | undefined,
): Promise<AnswerOf<typeof api.adHocRounds.toSign>> => {
  const organisation = await app.organisation();
  const opened = await openDocument(app.db, viewer, ref, dayOf(app.clock(), organisation.zone));
  const revision = openSignable(opened, revisionId);
  const record = await latestRecord(app.db, revision.id);
  return {
    revisionId: revision.id,
    label: revision.label,
    meanings: [...organisation.signatureMeanings],
    digest: await digestFor(app.db, opened, revision),
    covers: await coveredBy(
      app.db,
      record ?? { text: await recordTextNow(app.db, opened.document, revision) },
      await getType(app.db, opened.document.type_id),
    ),
    files: await filesToOpen(app.db, viewer, opened.document.id, revision.latest_version_id),
    asksForName: nameAssignees(app, viewer, organisation.signingIdleMinutes),
  };
};

/**
 * Signs a revision outside a round: as witness, as author, in countersignature, with a meaning from the list of the organisation
 * (21 CFR 11.50). It leaves the revision in its state and does not count as an approval.
 */
export const signOutside: HandlerOf<typeof api.adHocRounds.sign> = async (app, viewer, ref, input) => {
  const { zone } = await app.organisation();
  const before = await openDocument(app.db, viewer, ref, dayOf(app.clock(), zone));
  const meant = openSignable(before, input.revisionId);
  const checked = await checkSigning(app, viewer, { name: input.name, password: input.password }, input.digest, [
    before.document,
    meant,
  ]);
  return runCommand(app, viewer, { document: before.document.id }, async (work, opened) => {
    const revision = openSignable(opened, meant.id);
    const { meaning, comment } = input;
    if (!work.organisation.signatureMeanings.includes(meaning)) throw refused('meaning_unknown', { meaning });
    const given = await signaturesOf(work.trx, opened.document, revision);
    if (given.some((one) => one.personId === viewer.id && one.meaning === meaning && one.state !== 'void'))
      throw refused('already_signed_so', { meaning });
    const record = (await latestRecord(work.trx, revision.id)) ?? (await freezeRecord(work, opened.document, revision));
    const signed = await sign(app, work, viewer, { record, checked, meaning });
    work.record({
      kind: 'revision.signed',
      subject: subjectOf(opened.document, revision),
      payload: { ...signed, comment },
    });
    return {};
  });
};
