import type { AnswerOf, BodyOf } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import type { Viewer } from './viewer.ts';

/** What carries out one endpoint for a person: its input is the endpoint's body, its result what the endpoint answers. */
export type Handler<E, Answer = AnswerOf<E>> = (app: App, viewer: Viewer, input: BodyOf<E>) => Promise<Answer>;

/** The same for an endpoint on one thing, named by its number or id: a document, a folder, a list. */
export type HandlerOf<E, Answer = AnswerOf<E>> = (
  app: App,
  viewer: Viewer,
  ref: string,
  input: BodyOf<E>,
) => Promise<Answer>;
