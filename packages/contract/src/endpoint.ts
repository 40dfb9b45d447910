import type { OrganisationRight } from '@kanonos/core';
import { z } from 'zod';
import type { ProblemCode } from './problems.ts';

/** Who may call an endpoint at all; what of it they see is decided by rights on folders and documents. */
export type EndpointAccess = 'public' | 'signed in' | OrganisationRight;

export type Method = 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE';

/** One endpoint as both sides know it. `answer` is `bytes` for files and `lines` for JSON Lines. */
export type Endpoint<
  P extends z.ZodType = z.ZodType,
  Q extends z.ZodType = z.ZodType,
  B extends z.ZodType = z.ZodType,
  A extends z.ZodType = z.ZodType,
> = {
  id: string;
  feature: string;
  method: Method;
  path: string;
  summary: string;
  access: EndpointAccess;
  params: P;
  query: Q;
  body: B;
  answer: A;
  stream?: 'bytes' | 'lines';
  upload?: boolean;
  problems: readonly ProblemCode[];
};

const none = z.strictObject({});
export type None = typeof none;

/** Describes an endpoint; what is left out is empty. */
export const endpoint = <
  P extends z.ZodType = None,
  Q extends z.ZodType = None,
  B extends z.ZodType = z.ZodUndefined | z.ZodType<undefined>,
  A extends z.ZodType = None,
>(description: {
  id: string;
  feature: string;
  method: Method;
  path: string;
  summary: string;
  access?: EndpointAccess;
  params?: P;
  query?: Q;
  body?: B;
  answer?: A;
  stream?: 'bytes' | 'lines';
  upload?: boolean;
  problems?: readonly ProblemCode[];
}): Endpoint<P, Q, B, A> => ({
  access: 'signed in',
  problems: [],
  ...description,
  params: (description.params ?? none) as P,
  query: (description.query ?? none) as Q,
  body: (description.body ?? z.undefined()) as B,
  answer: (description.answer ?? none) as A,
});

export type ParamsOf<E> = E extends Endpoint<infer P, z.ZodType, z.ZodType, z.ZodType> ? z.output<P> : never;
export type QueryOf<E> = E extends Endpoint<z.ZodType, infer Q, z.ZodType, z.ZodType> ? z.output<Q> : never;
export type QueryInOf<E> = E extends Endpoint<z.ZodType, infer Q, z.ZodType, z.ZodType> ? z.input<Q> : never;
export type BodyOf<E> = E extends Endpoint<z.ZodType, z.ZodType, infer B, z.ZodType> ? z.output<B> : never;
export type BodyInOf<E> = E extends Endpoint<z.ZodType, z.ZodType, infer B, z.ZodType> ? z.input<B> : never;
export type AnswerOf<E> = E extends Endpoint<z.ZodType, z.ZodType, z.ZodType, infer A> ? z.output<A> : never;
