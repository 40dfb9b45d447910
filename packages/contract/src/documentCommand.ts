import type { z } from 'zod';
import { DocumentParam } from './common.ts';
import { type Endpoint, endpoint, type None } from './endpoint.ts';
import type { ProblemCode } from './problems.ts';

/** What any command on a document may be refused for, beside what is its own. */
const COMMON = ['changed_meanwhile', 'not_found', 'right_missing', 'input_invalid', 'document_removed'] as const;

/** Describes an endpoint that changes one document; `problems` are those that only this command has. */
export const documentCommand = <B extends z.ZodType, A extends z.ZodType = None>({
  problems = [],
  ...description
}: {
  id: string;
  feature: string;
  path: string;
  summary: string;
  body: B;
  answer?: A;
  problems?: readonly ProblemCode[];
}): Endpoint<typeof DocumentParam, None, B, A> =>
  endpoint({ ...description, method: 'POST', params: DocumentParam, problems: [...COMMON, ...problems] });
