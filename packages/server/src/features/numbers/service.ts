import type { AnswerOf, api, BodyOf } from '@kanonos/contract';
import {
  dayInWords,
  dayOf,
  decidePlannedDay,
  foldNumber,
  type KnownRule,
  type NumberInput,
  type NumberingRule,
  parseRule,
  renderNumber,
  scopeOf,
  scopePattern,
} from '@kanonos/core';
import { type App, SYSTEM_CLOCK, type UnitOfWork } from '../../platform/app.ts';
import { newId } from '../../platform/db/ids.ts';
import { assertAllowed, RefusalError, refused } from '../../platform/refused.ts';
import type { Handler } from '../access/index.ts';
import { actorOf, listScope, SEES, SEES_WORK, type Viewer } from '../access/index.ts';
import { departmentIdOf, namesOf } from '../people/index.ts';
import { numberInput } from '../registration/index.ts';
import { getFolder, getType, knownRules, listTypes, type TypeRow, takeCounters } from '../rules/index.ts';
import { eachOnItsOwn } from '../system/index.ts';
import * as store from './store.ts';

/** The numbering rules with their codes and the scopes in which they have begun to count. */
export const numberRules = async (app: App): Promise<AnswerOf<typeof api.numbers.rules>> => {
  const [rules, types, counters] = [
    await knownRules(app.db),
    await listTypes(app.db),
    await store.listCounters(app.db),
  ];
  return {
    rules: rules.map((organisation) => ({
      rule: organisation.rule.text,
      retired: organisation.retired ?? null,
      types: types
        .filter((type) => type.numbering_rule === organisation.id && !type.retired)
        .map((type) => ({ id: type.id, code: type.code, name: type.name })),
      codes: {
        types: [...organisation.codes.types],
        areas: [...organisation.codes.areas],
        departments: [...organisation.codes.departments],
        fields: Object.fromEntries(Object.entries(organisation.codes.fields).map(([key, codes]) => [key, [...codes]])),
      },
      scopes: organisation.retired ? [] : scopesOf(organisation, counters),
    })),
  };
};

const scopesOf = ({ rule, codes }: KnownRule, counters: store.CounterRow[]) => {
  const pattern = scopePattern(rule, codes);
  return counters.filter((counter) => pattern.test(counter.scope));
};

/** Which of some numbers are given; of documents that the viewer may not see no more than that. */
export const knownNumbers = async (
  app: App,
  viewer: Viewer,
  folded: string[],
): Promise<AnswerOf<typeof api.numbers.known>> => {
  const scope = await listScope(app.db, viewer, dayOf(app.clock(), (await app.organisation()).zone));
  const visible = `${SEES_WORK} or (${SEES} and d.public_state is not null)`;
  const found = await store.listKnown(app.db, folded, visible, { ...scope });
  return {
    known: found.map((row) => ({
      folded: row.folded,
      state: row.state === 'taken' && row.title !== null ? ('exists' as const) : row.state,
      title: row.title,
      words:
        row.state === 'void'
          ? row.reason
          : row.state === 'reserved' && row.until_day
            ? `for ${row.for_name} until ${dayInWords(row.until_day)}`
            : null,
    })),
  };
};

export const listReservations = async (app: App): Promise<AnswerOf<typeof api.numbers.reservations>> => ({
  reservations: (await store.listReservations(app.db)).map((row) => ({
    id: row.id,
    type: { id: row.type_id, code: row.type_code, name: row.type_name },
    first: row.first_number,
    last: row.last_number,
    count: row.count,
    open: row.open,
    forPerson: { id: row.for_id, name: row.for_name },
    by: { id: row.by_id, name: row.by_name },
    at: row.at.toISOString(),
    reason: row.reason,
    until: row.until_day,
    endedWhy: row.ended_why,
  })),
  voids: await store.listVoids(app.db),
});

type Place = { typeId: string; folderId: string; metadata: Record<string, string> };

/** Where numbers count that a person would register by a type in a folder. */
const placeOf = async (
  work: UnitOfWork,
  { typeId, folderId, metadata: given }: Place,
  personId: string,
): Promise<{ type: TypeRow; rule: NumberingRule; metadata: NumberInput; scope: string }> => {
  const type = await getType(work.trx, typeId);
  if (type.retired) throw refused('type_retired');
  if (!type.numbering_rule) throw refused('number_is_external');
  const folder = await getFolder(work.trx, folderId);
  const departmentId = await departmentIdOf(work.trx, personId, work.day);
  const metadata = await numberInput(work.trx, type, folder, given, work.day, departmentId);
  const rule = parseRule(type.numbering_rule);
  if (!rule.ok) throw new RefusalError(rule.refusals);
  const scope = scopeOf(rule.value, metadata);
  if (!scope.ok) throw new RefusalError(scope.refusals);
  return { type, rule: rule.value, metadata, scope: scope.value };
};

/**
 * Sets, before a scope's first number, the last number given before the takeover: the counter continues after it, and what is free below
 * counts as before the organisation, not as a gap.
 */
export const startCounter: Handler<typeof api.numbers.start> = (app, viewer, input) =>
  app.command(actorOf(viewer), async (work) => {
    const { rule, metadata, scope } = await placeOf(work, input, viewer.id);
    const next = renderNumber(rule, metadata, input.last + 1);
    if (!next.ok) throw new RefusalError(next.refusals);
    if (!(await store.insertCounter(work.trx, { scope, last: input.last }))) throw refused('counter_begun', { scope });
    work.record({ kind: 'counter.started', subject: {}, payload: { scope, last: input.last, reason: input.reason } });
    return { scope, next: next.value };
  });

/** Takes n numbers from the counter for somebody, until a day; they are used by naming them. */
export const reserve: Handler<typeof api.numbers.reserve> = (app, viewer, input) =>
  app.command(actorOf(viewer), (work) => reserveIn(work, viewer, input));

/** The same within a command of more. */
export const reserveIn = async (
  work: UnitOfWork,
  viewer: Viewer,
  input: BodyOf<typeof api.numbers.reserve>,
): Promise<AnswerOf<typeof api.numbers.reserve>> => {
  assertAllowed(decidePlannedDay(input.until, work.day));
  const person = (await namesOf(work.trx, [input.forPersonId])).get(input.forPersonId);
  if (!person) throw refused('not_found');
  if (person.state === 'deactivated') throw refused('person_inactive', { who: person.name });
  const { type, rule, metadata, scope } = await placeOf(work, input, input.forPersonId);
  const id = newId();
  const last = await takeCounters(work.trx, scope, input.count);
  const counters = Array.from({ length: input.count }, (_, i) => last - input.count + 1 + i);
  const numbers = counters.map((counter) => {
    const number = renderNumber(rule, metadata, counter);
    if (!number.ok) throw new RefusalError(number.refusals);
    return number.value;
  });
  const [first = '', end = ''] = [numbers[0], numbers.at(-1)];
  await store.insertReservation(work.trx, {
    id,
    typeId: type.id,
    scope,
    first: last - input.count + 1,
    last,
    forPersonId: input.forPersonId,
    reason: input.reason,
    until: input.until,
    by: viewer.id,
    now: work.now,
  });
  await store.insertReserved(work.trx, {
    reservationId: id,
    scope,
    folded: numbers.map(foldNumber),
    numbers,
    counters,
  });
  work.record({
    kind: 'numbers.reserved',
    subject: { person: { id: input.forPersonId, name: person.signInName } },
    payload: { first, last: end, count: input.count, type: type.code, until: input.until, reason: input.reason },
  });
  return { id, first, last: end };
};

export const endReservation = (app: App, viewer: Viewer, id: string, reason: string): Promise<{ voided: number }> =>
  app.command(actorOf(viewer), (work) => endReservationIn(work, id, reason));

/** The same within a command of more. */
export const endReservationIn = async (work: UnitOfWork, id: string, why: string): Promise<{ voided: number }> => {
  const reservation = await store.findOpenReservation(work.trx, id);
  if (!reservation) throw refused('not_found');
  if (reservation.ended_at) throw refused('reservation_ended');
  const voided = await store.voidUnused(work.trx, { id, why });
  await store.endReservation(work.trx, { id, now: work.now, why });
  work.record({
    kind: 'numbers.reservation-ended',
    subject: {},
    payload: { scope: reservation.scope, voided, reason: why },
  });
  return { voided };
};

/** Ends the reservations whose last day has passed; unused numbers become void. */
export const endRoundOut = async (app: App): Promise<number> => {
  const day = dayOf(app.clock(), (await app.organisation()).zone);
  return eachOnItsOwn(
    app,
    'end of a reservation',
    await store.listRunOut(app.db, day),
    ({ id }) => ({ subject: id, label: 'Reserved numbers' }),
    ({ id }) => app.command(SYSTEM_CLOCK, (work) => endReservationIn(work, id, 'reserved but not used')),
  );
};
