import type { ConditionFacts, ConditionField } from '@kanonos/core';
import type { Db, Trx } from '../../platform/db/connect.ts';
import { namesOf } from '../people/index.ts';
import { findPlace } from './storeFacts.ts';

type Asked = {
  ownerId: string;
  departmentId: string | null;
  folderId: string;
  confidentiality: string;
  changeKind: string;
  metadata: Readonly<Record<string, unknown>>;
};

const given = (value: unknown): string[] =>
  [value ?? []]
    .flat()
    .map(String)
    .filter((one) => one !== '');

/** What conditions of a route may ask of a document: people by name, choices by code and text. */
export const factsOf = async (
  db: Db | Trx,
  document: Asked,
  fields: readonly ConditionField[],
): Promise<ConditionFacts> => {
  const place = await findPlace(db, document);
  const isPerson = ({ kind }: ConditionField) => kind === 'person' || kind === 'people';
  const people = fields.filter(isPerson).flatMap(({ key }) => given(document.metadata[key]));
  const names = await namesOf(db, [document.ownerId, ...people]);
  const nameOf = (id: string) => names.get(id)?.name ?? id;
  const valuesOf = (field: ConditionField): string[] => {
    const values = given(document.metadata[field.key]);
    if (isPerson(field)) return values.map(nameOf);
    return values.flatMap((code) => [code, field.options?.find((one) => one.code === code)?.text ?? code]);
  };
  return {
    ...Object.fromEntries(fields.map((field) => [field.key, valuesOf(field)])),
    change: [document.changeKind],
    folder: place?.folders ?? [],
    department: place?.department ?? [],
    confidentiality: [document.confidentiality],
    owner: [nameOf(document.ownerId)],
  };
};
