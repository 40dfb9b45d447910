import { type App, newId, people, rows, seedOrganisation } from '@kanonos/server';
import { tarnholt } from './organisation.ts';

/** An organisation without documents: the types and folders to begin with, and one administrator who sets a password by a link. */
export const layDownEmpty = async (app: App): Promise<string> => {
  const description = tarnholt(new Date().getFullYear(), null);
  const laid = await seedOrganisation(app, {
    ...description,
    name: 'My organisation',
    code: 'ORG',
    counters: [],
    types: description.types.map((type) => ({ ...type, numbering: type.numbering?.replace(/^THR/, 'ORG') ?? null })),
  });
  const id = newId();
  const today = new Date().toISOString().slice(0, 10);
  await rows(
    app.db,
    `insert into people (id, sign_in_name, name, email, from_day, organisation_rights) values (:id, 'founder', 'First administrator', 'founder@localhost', :today, '{administer,people,audit,security}')`,
    { id, today },
  );
  for (const role of ['dcr', 'author'])
    await rows(
      app.db,
      `insert into memberships (id, person_id, kind, ref_id, from_day) values (:row, :id, :kind, :ref, :today)`,
      { row: newId(), id, kind: role === 'dcr' ? 'role' : 'group', ref: laid.units.get(role), today },
    );
  const founder = {
    id,
    signInName: 'founder',
    name: 'First administrator',
    email: '',
    outside: false,
    organisationRights: new Set(['people', 'administer'] as const),
    unitIds: new Set<string>(),
    session: undefined,
  };
  const { token } = await people.resetPerson(app, founder, id, 'first start');
  return `Sign-in name founder; set the password at ${app.config.publicUrl}/password/${token}`;
};
